"""Colours as numbers that can be added: OKLab, premultiplied.

Source: CSS Color 4, section 12 (interpolation, premultiplied alpha).
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from outgrowth.core.color import Color, oklab_of, srgb_of

Floats = NDArray[np.float64]

CHANNELS = 4
"""Numbers of a colour: OKLab's three times alpha, and alpha."""


@lru_cache(maxsize=4096)
def channels(color: Color) -> tuple[float, ...]:
    """A colour's four numbers."""
    return tuple(premultiplied([color])[0].tolist())


def premultiplied(colors: list[Color]) -> Floats:
    """(n, 4): OKLab times alpha, and alpha."""
    raw = np.array([(c.red, c.green, c.blue, c.alpha) for c in colors]).reshape(-1, CHANNELS)
    alpha = raw[:, 3:]
    return np.hstack([oklab_of(raw[:, :3]) * alpha, alpha])


def unpremultiplied(mixed: Floats) -> Floats:
    """(n, 4) gamma-encoded sRGB and alpha, all clipped to 0…1."""
    alpha = np.clip(mixed[:, 3:], 0.0, 1.0)
    lab = mixed[:, :3] / np.maximum(alpha, 1e-9)
    return np.hstack([srgb_of(lab), alpha])


def mix(start: Color, end: Color, share: float) -> Color:
    """One colour on the way from start to end."""
    first, last = premultiplied([start, end])
    (result,) = unpremultiplied((first + (last - first) * share)[None, :]).tolist()
    return Color(*result)
