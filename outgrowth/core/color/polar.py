"""OKLCH: lightness, chroma and hue, as a person turns a colour. Source: CSS Color 4, 9.4."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from outgrowth.core.color.convert import oklab_of, srgb_of
from outgrowth.core.color.gamut import chroma_share
from outgrowth.core.color.srgb import Color

MOST_CHROMA = 0.33
"""More than any sRGB colour has."""


class Oklch(NamedTuple):
    """Lightness 0 to 1, chroma 0 to about 0.33, hue 0 to 360."""

    light: float
    chroma: float
    hue: float


def polar(color: Color) -> Oklch:
    """A colour's lightness, chroma and hue; a grey's hue is 0."""
    light, a, b = (float(n) for n in oklab_of(np.array([color.red, color.green, color.blue])))
    chroma = math.hypot(a, b)
    hue = math.degrees(math.atan2(b, a)) % 360 if chroma > 1e-4 else 0.0
    return Oklch(light, chroma if chroma > 1e-4 else 0.0, hue)


def color_of(turn: Oklch, alpha: float = 1.0) -> Color:
    """The sRGB colour; where sRGB has none of that chroma, the one with the most it has."""
    light = min(max(turn.light, 0.0), 1.0)
    chroma = min(turn.chroma, most_chroma(light, turn.hue))
    angle = math.radians(turn.hue)
    lab = np.array([light, chroma * math.cos(angle), chroma * math.sin(angle)])
    red, green, blue = (min(max(float(n), 0.0), 1.0) for n in srgb_of(lab))
    return Color(red, green, blue, alpha)


def most_chroma(light: float, hue: float) -> float:
    """How much chroma sRGB has at a lightness and a hue (by halving)."""
    angle = math.radians(hue)
    most = MOST_CHROMA * np.array([math.cos(angle), math.sin(angle)])
    return MOST_CHROMA * chroma_share(light, most)
