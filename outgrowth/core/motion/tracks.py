"""The numeric tracks of a movement: all of a frame's numbers mixed in one NumPy pass.

A track is `end + (start - end) · rest + speed · kick`, where rest and kick are one pair of
numbers for all tracks that began together with the same motion. Colours take four tracks, in
OKLab with premultiplied alpha, and are turned back together. Source: CSS Color 4, section 12.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from outgrowth.core.color import Color, oklab_of, srgb_of
from outgrowth.core.document.cues import Motion
from outgrowth.core.motion.easing import EasingError, easing, spring_of
from outgrowth.core.motion.spring import Motions, Spring

Floats = NDArray[np.float64]

_DONE = Motions(0.0, 0.0, 0.0, 0.0)
_WAITING = Motions(1.0, 0.0, 0.0, 0.0)
_RATE_STEP = 0.01
_SPRING_MARGIN = 1.5
"""A spring that begins with speed swings longer than one from rest."""


class Begun(NamedTuple):
    """A motion and when it began, in ms."""

    motion: Motion
    start: float

    @property
    def end(self) -> float:
        return self.start + length(self.motion)

    def at(self, now: float) -> Motions:
        """What is left of the way at a time (ms)."""
        passed = now - self.start - self.motion.delay
        if passed < 0:
            return _WAITING
        if now >= self.end:
            return _DONE
        spring = _spring(self.motion)
        if spring is not None:
            return spring.at(passed / 1000)
        return _eased(self.motion, passed)


@lru_cache(maxsize=512)
def _spring(motion: Motion) -> Spring | None:
    try:
        return spring_of(motion.easing, motion.duration)
    except EasingError:
        return None


@lru_cache(maxsize=512)
def length(motion: Motion) -> float:
    """How long a motion takes in ms, its delay included."""
    spring = _spring(motion)
    moving = motion.duration if spring is None else spring.settle() * 1000 * _SPRING_MARGIN
    return motion.delay + moving


def progress(motion: Motion, passed: float) -> float:
    """The eased progress when `passed` ms are gone since the motion began to move; an
    easing that cannot be read is linear."""
    share = min(max(passed / motion.duration, 0.0), 1.0)
    try:
        return easing(motion.easing)(share)
    except EasingError:
        return share


def _eased(motion: Motion, passed: float) -> Motions:
    step = motion.duration * _RATE_STEP
    low, high = max(passed - step, 0.0), min(passed + step, motion.duration)
    rate = (progress(motion, high) - progress(motion, low)) / (high - low) * 1000
    return Motions(1.0 - progress(motion, passed), 0.0, -rate, 0.0)


class Tracks:
    """Start, end and speed of every number, gathered first and then evaluated at any time."""

    def __init__(self) -> None:
        self._rows: list[tuple[float, float, float, int]] = []
        self._colors: list[int] = []
        self._begun: dict[Begun, int] = {}
        self._arrays: tuple[Floats, Floats, Floats, NDArray[np.intp]] | None = None

    def number(self, start: float, end: float, speed: float, begun: Begun) -> int:
        """Adds a number; its index in `Values`. `speed` is per second."""
        group = self._begun.setdefault(begun, len(self._begun))
        self._rows.append((start, end, speed, group))
        return len(self._rows) - 1

    def color(self, start: Color, end: Color, begun: Begun) -> int:
        """Adds a colour; its index in `Values`."""
        (first, last) = premultiplied([start, end]).tolist()
        self._colors.append(len(self._rows))
        for a, b in zip(first, last, strict=True):
            self.number(a, b, 0.0, begun)
        return len(self._colors) - 1

    def ends(self) -> list[float]:
        """When the motions end, in ms."""
        return sorted({begun.end for begun in self._begun})

    def begun(self, index: int) -> Begun:
        """What moves a number."""
        group = self._rows[index][3]
        return next(begun for begun, n in self._begun.items() if n == group)

    def first_of(self, color: int) -> int:
        """The first of a colour's four numbers."""
        return self._colors[color]

    def row(self, index: int) -> tuple[float, float, float]:
        """Start, end and speed of a number."""
        return self._rows[index][:3]

    def again(self, other: Tracks, index: int) -> int:
        """Adds a number of another set as it is."""
        return self.number(*other.row(index), other.begun(index))

    def color_again(self, other: Tracks, color: int) -> int:
        first = other.first_of(color)
        self._colors.append(len(self._rows))
        for n in range(4):
            self.again(other, first + n)
        return len(self._colors) - 1

    def at(self, now: float) -> Values:
        """All values at a time in ms."""
        if self._arrays is None:
            table = np.array(self._rows, dtype=float).reshape(-1, 4)
            groups = table[:, 3].astype(np.intp)
            self._arrays = table[:, 0] - table[:, 1], table[:, 1], table[:, 2], groups
        way, last, speed, groups = self._arrays
        left = [begun.at(now) for begun in self._begun]
        rest = np.array([m.rest for m in left])[groups] if left else way
        kick = np.array([m.kick for m in left])[groups] if left else way
        numbers = last + way * rest + speed * kick
        places = np.array(self._colors, dtype=np.intp)[:, None] + np.arange(4)
        return Values(numbers, unpremultiplied(numbers[places].reshape(-1, 4)))

    def speed(self, index: int, now: float) -> float:
        """How fast a number changes at a time, per second."""
        start, end, speed = self.row(index)
        left = self.begun(index).at(now)
        return (start - end) * left.rest_rate + speed * left.kick_rate


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


def mix(start: Color, end: Color, share: float) -> Color:
    """One colour on the way from start to end."""
    tracks = Tracks()
    index = tracks.color(start, end, Begun(Motion(1.0, "linear"), 0.0))
    return tracks.at(share).color(index)
