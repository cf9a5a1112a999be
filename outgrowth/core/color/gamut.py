"""How much chroma sRGB can show: the one search for it.

Source: CSS Color 4, section 13.2 (gamut mapping lowers the chroma in OKLCH).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from outgrowth.core.color.convert import linear_of_oklab

# Of linear sRGB: far below one of 255 levels; conversions there and back differ by less.
_SLACK = 1e-4
# Until the share is known to 2^-16, finer than any level of a colour.
_HALVINGS = 16


def chroma_share(light: float, chroma: NDArray[np.float64]) -> float:
    """The largest share (0 to 1) of a chroma (a and b of OKLab, shape (2,)) that sRGB can show
    at a lightness."""
    if _in_gamut(light, chroma):
        return 1.0
    low, high = 0.0, 1.0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if _in_gamut(light, chroma * middle) else (low, middle)
    return low


def _in_gamut(light: float, chroma: NDArray[np.float64]) -> bool:
    linear = linear_of_oklab(np.array([light, *chroma]))
    return bool(np.all((linear >= -_SLACK) & (linear <= 1 + _SLACK)))
