"""The running of components: pointer and clock in, axis values and frames out."""

from outgrowth.core.runtime.hit import Hit, hit
from outgrowth.core.runtime.runtime import Runtime

__all__ = ["Hit", "Runtime", "hit"]
