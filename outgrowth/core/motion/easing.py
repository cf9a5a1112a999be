"""Easing functions, read from their CSS notation.

Source: CSS Easing Functions Level 1, sections 2.1 (linear) to 2.2 (cubic Bézier).
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from functools import lru_cache

Easing = Callable[[float], float]

KEYWORDS: dict[str, tuple[float, float, float, float]] = {
    "ease": (0.25, 0.1, 0.25, 1.0),
    "ease-in": (0.42, 0.0, 1.0, 1.0),
    "ease-out": (0.0, 0.0, 0.58, 1.0),
    "ease-in-out": (0.42, 0.0, 0.58, 1.0),
}
"""Control points x1, y1, x2, y2. Source: section 2.2.1."""

_BEZIER = re.compile(r"cubic-bezier\(([^)]*)\)")
_NEWTON_STEPS = 8
_BISECTIONS = 60
_CLOSE = 1e-9


class EasingError(ValueError):
    """The text is not an easing; the message is a sentence for the user."""


@lru_cache(maxsize=256)
def easing(text: str) -> Easing:
    """The function from progress 0…1 to eased progress, for CSS text.

    Raises EasingError.
    """
    text = text.strip().lower()
    if text == "linear":
        return lambda progress: progress
    if text in KEYWORDS:
        return cubic_bezier(*KEYWORDS[text])
    found = _BEZIER.fullmatch(text)
    if found is None:
        raise EasingError(
            f"“{text}” is not an easing. Write linear, ease-out or cubic-bezier(0.2, 0, 0, 1)."
        )
    return cubic_bezier(*_points(found.group(1)))


def _points(inside: str) -> tuple[float, float, float, float]:
    try:
        x1, y1, x2, y2 = (float(part) for part in inside.split(","))
    except ValueError as problem:
        raise EasingError("cubic-bezier takes four numbers: x1, y1, x2, y2.") from problem
    if not (0 <= x1 <= 1 and 0 <= x2 <= 1 and math.isfinite(y1) and math.isfinite(y2)):
        raise EasingError("In cubic-bezier, x1 and x2 must lie from 0 to 1.")
    return x1, y1, x2, y2


def cubic_bezier(x1: float, y1: float, x2: float, y2: float) -> Easing:
    """The curve from (0, 0) to (1, 1) with these control points, as y over x."""

    def eased(progress: float) -> float:
        if progress <= 0.0:
            return 0.0
        if progress >= 1.0:
            return 1.0
        return _bezier(_parameter(progress, x1, x2), y1, y2)

    return eased


def _bezier(t: float, first: float, second: float) -> float:
    u = 1.0 - t
    return 3 * u * u * t * first + 3 * u * t * t * second + t * t * t


def _slope(t: float, first: float, second: float) -> float:
    u = 1.0 - t
    return 3 * u * u * first + 6 * u * t * (second - first) + 3 * t * t * (1 - second)


def _parameter(x: float, x1: float, x2: float) -> float:
    """The curve parameter at which the curve has come to x: Newton, else bisection."""
    t = x
    for _ in range(_NEWTON_STEPS):
        miss = _bezier(t, x1, x2) - x
        if abs(miss) < _CLOSE:
            return t
        slope = _slope(t, x1, x2)
        if abs(slope) < 1e-6:
            break
        t = min(max(t - miss / slope, 0.0), 1.0)
    low, high = 0.0, 1.0
    for _ in range(_BISECTIONS):
        t = (low + high) / 2
        low, high = (t, high) if _bezier(t, x1, x2) < x else (low, t)
    return (low + high) / 2
