"""Drawings in SVG that come in: checked, read, and made into nodes."""

from outgrowth.core.exchange.svg.nodes import Drawn, drawn
from outgrowth.core.exchange.svg.source import SvgRefusal

__all__ = ["Drawn", "SvgRefusal", "drawn"]
