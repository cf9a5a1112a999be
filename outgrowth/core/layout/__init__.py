"""From scene to placements: CSS Flexbox Level 1 on resolved trees, shared by identity."""

from outgrowth.core.layout.engine import Layout
from outgrowth.core.layout.placed import Placed

__all__ = ["Layout", "Placed"]
