"""The numeric tracks of a tween: all of a frame's numbers mixed in one NumPy pass.

Plain numbers are mixed linearly. Colours take four tracks, in OKLab with premultiplied
alpha, and are turned back together. Source: CSS Color 4, section 12.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from outgrowth.core.color import Color, oklab_of, srgb_of

Floats = NDArray[np.float64]


class Tracks:
    """Start and end of every number, gathered first and then evaluated at any progress."""

    def __init__(self) -> None:
        self._numbers: list[tuple[float, float]] = []
        self._colors: list[tuple[Color, Color]] = []
        self._ends: tuple[Floats, Floats, Floats, Floats] | None = None

    def number(self, start: float, end: float) -> int:
        """Adds a number; its index in `Values.numbers`."""
        self._numbers.append((start, end))
        return len(self._numbers) - 1

    def color(self, start: Color, end: Color) -> int:
        """Adds a colour; its index in `Values.colors`."""
        self._colors.append((start, end))
        return len(self._colors) - 1

    def at(self, progress: float) -> Values:
        """All values at an eased progress (0 is the start; beyond 0…1 overshoots)."""
        if self._ends is None:
            pairs = np.array(self._numbers, dtype=float).reshape(-1, 2)
            starts = premultiplied([start for start, _ in self._colors])
            ends = premultiplied([end for _, end in self._colors])
            self._ends = pairs[:, 0], pairs[:, 1], starts, ends
        first, last, from_color, to_color = self._ends
        mixed = from_color + (to_color - from_color) * progress
        return Values(first + (last - first) * progress, unpremultiplied(mixed))


class Values:
    """One frame's numbers and colours, by the indices that Tracks gave."""

    def __init__(self, numbers: Floats, colors: Floats) -> None:
        self._numbers = numbers
        self._colors = colors

    def number(self, index: int) -> float:
        return float(self._numbers[index])

    def color(self, index: int) -> Color:
        red, green, blue, alpha = self._colors[index]
        return Color(float(red), float(green), float(blue), float(alpha))


def premultiplied(colors: list[Color]) -> Floats:
    """(n, 4): OKLab times alpha, and alpha."""
    raw = np.array([(c.red, c.green, c.blue, c.alpha) for c in colors]).reshape(-1, 4)
    alpha = raw[:, 3:]
    return np.hstack([oklab_of(raw[:, :3]) * alpha, alpha])


def unpremultiplied(mixed: Floats) -> Floats:
    """(n, 4) gamma-encoded sRGB and alpha, all clipped to 0…1."""
    alpha = np.clip(mixed[:, 3:], 0.0, 1.0)
    lab = mixed[:, :3] / np.maximum(alpha, 1e-9)
    return np.hstack([srgb_of(lab), alpha])


def mix(start: Color, end: Color, progress: float) -> Color:
    """One colour on the way from start to end."""
    tracks = Tracks()
    index = tracks.color(start, end)
    return tracks.at(progress).color(index)
