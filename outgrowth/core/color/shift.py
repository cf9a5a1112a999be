"""Relative changes of a colour, so that a hover follows whatever fill it is laid on.

Written on our own OKLab rather than with coloraide, whose import alone would cost a third
of the start-up time; the tests compare the two.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from outgrowth.core.color.convert import oklab_of, srgb_of
from outgrowth.core.color.gamut import chroma_share
from outgrowth.core.color.srgb import Color


@lru_cache(maxsize=4096)
def darkened(color: Color, share: float) -> Color:
    """The colour with its OKLCH lightness lowered by `share` (0.08 is 8 % darker).

    A negative share lightens. Hue and alpha are kept, chroma too as far as sRGB reaches.
    Source: CSS Color 4, section 9 (OKLCH) and 13 (gamut mapping by lowering chroma).
    """
    lab = oklab_of(np.array([color.red, color.green, color.blue]))
    light = lab[0] * (1 - share) if share >= 0 else lab[0] + (1 - lab[0]) * -share
    light = min(max(float(light), 0.0), 1.0)
    red, green, blue = srgb_of(np.array([light, *(lab[1:] * chroma_share(light, lab[1:]))]))
    return Color(float(red), float(green), float(blue), color.alpha)


def faded(color: Color, share: float) -> Color:
    """The colour with `share` of its alpha taken away."""
    return color.with_alpha(min(max(color.alpha * (1 - share), 0.0), 1.0))
