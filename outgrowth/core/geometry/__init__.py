"""Rectangles and 2-D affine maps: numbers only, no meaning attached."""

from outgrowth.core.geometry.affine import Affine
from outgrowth.core.geometry.rect import Rect

__all__ = ["Affine", "Rect"]
