"""Colours: sRGB values as they are stored, OKLab where they are mixed, WCAG contrast."""

from outgrowth.core.color.convert import contrast, oklab_of, over, srgb_of
from outgrowth.core.color.gradient import Fill, Gradient, Stop, parse_fill
from outgrowth.core.color.shift import darkened, faded
from outgrowth.core.color.srgb import TRANSPARENT, Color, ColorRefusal, parse

__all__ = [
    "TRANSPARENT",
    "Color",
    "ColorRefusal",
    "Fill",
    "Gradient",
    "Stop",
    "contrast",
    "darkened",
    "faded",
    "oklab_of",
    "over",
    "parse",
    "parse_fill",
    "srgb_of",
]
