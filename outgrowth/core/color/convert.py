"""sRGB ⇄ OKLab and WCAG contrast, on NumPy arrays so that a whole frame is one pass."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from outgrowth.core.color.srgb import Color

Floats = NDArray[np.float64]

# Source: CSS Color 4, section 19 (sample code), sRGB → XYZ → LMS → OKLab folded together;
# the folded matrices are those of Björn Ottosson's definition of OKLab.
_RGB_TO_LMS = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
_LMS_TO_LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)
_LMS_TO_RGB = np.linalg.inv(_RGB_TO_LMS)
_LAB_TO_LMS = np.linalg.inv(_LMS_TO_LAB)


def oklab_of(rgb: Floats) -> Floats:
    """OKLab (…, 3) of gamma-encoded sRGB (…, 3), components 0 to 1."""
    linear = np.where(rgb <= 0.04045, rgb / 12.92, ((np.maximum(rgb, 0) + 0.055) / 1.055) ** 2.4)
    lab: Floats = np.cbrt(linear @ _RGB_TO_LMS.T) @ _LMS_TO_LAB.T
    return lab


def linear_of_oklab(lab: Floats) -> Floats:
    """Linear-light sRGB (…, 3) of OKLab (…, 3); outside 0 to 1 where sRGB cannot show it."""
    linear: Floats = ((lab @ _LAB_TO_LMS.T) ** 3) @ _LMS_TO_RGB.T
    return linear


def srgb_of(lab: Floats) -> Floats:
    """Gamma-encoded sRGB (…, 3) of OKLab (…, 3), clipped to 0 to 1."""
    linear = np.clip(linear_of_oklab(lab), 0.0, 1.0)
    rgb: Floats = np.where(linear <= 0.0031308, linear * 12.92, 1.055 * linear ** (1 / 2.4) - 0.055)
    return rgb


def luminance(color: Color) -> float:
    """Relative luminance, 0 to 1, alpha ignored. Source: WCAG 2.2, "relative luminance"."""
    parts = (
        c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4
        for c in (color.red, color.green, color.blue)
    )
    red, green, blue = parts
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def over(top: Color, below: Color) -> Color:
    """`top` composited over an opaque `below` in gamma-encoded sRGB, as browsers do."""
    a = top.alpha
    return Color(
        top.red * a + below.red * (1 - a),
        top.green * a + below.green * (1 - a),
        top.blue * a + below.blue * (1 - a),
    )


def contrast(ink: Color, paper: Color) -> float:
    """Contrast ratio, 1 to 21, of ink over opaque paper. Source: WCAG 2.2, SC 1.4.3."""
    a, b = luminance(over(ink, paper)), luminance(paper)
    return (max(a, b) + 0.05) / (min(a, b) + 0.05)
