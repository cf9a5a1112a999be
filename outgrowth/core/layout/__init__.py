"""From scene to placements: CSS Flexbox Level 1 on resolved trees, shared by identity."""

from outgrowth.core.layout.placed import Placed
from outgrowth.core.layout.views import Layout

__all__ = ["Layout", "Placed"]
