"""The running of components: pointer, keys and clock in, axis values and frames out."""

from outgrowth.core.resolve.scene_paths import scene_at
from outgrowth.core.runtime.hit import Hit, hit
from outgrowth.core.runtime.runtime import Runtime
from outgrowth.core.runtime.subject import Subject

__all__ = ["Hit", "Runtime", "Subject", "hit", "scene_at"]
