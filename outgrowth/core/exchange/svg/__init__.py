"""Drawings in SVG that come in: checked, read, and made into nodes."""

from outgrowth.core.exchange.svg.nodes import ImportedDrawing, drawn
from outgrowth.core.exchange.svg.source import SvgRefusal

__all__ = ["ImportedDrawing", "SvgRefusal", "drawn"]
