"""Motions as the runtime takes them."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from outgrowth.core.document.cues import Motion
from outgrowth.core.document.records import Document
from outgrowth.core.document.referring import meaning, settled
from outgrowth.core.document.types import Json
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.motion.easing import EasingRefusal, spring_of
from outgrowth.core.motion.spring import Spring
from outgrowth.core.motion.timing import length

_SAMPLES = 4000
_NEAR = 0.0005
"""How far a curve may be off between its points, of its whole way."""


def motion_of(said: Motion, document: Document, names: Names) -> list[Json]:
    """A motion as the runtime takes it: how long it moves (ms), its easing in CSS, its delay,
    and of a spring what a unit of speed adds: its curve, the px of it at 1, and its stiffness
    and damping to a unit of mass. What a token gives
    is the name of its custom property, except of a spring, whose curve and time are one."""
    motion = settled(said, document.token)
    try:
        spring = spring_of(motion.easing, motion.duration)
    except EasingRefusal:
        return [motion.duration, "linear", motion.delay]
    if spring is None:
        parts: dict[str, Json] = {
            "duration": motion.duration,
            "easing": motion.easing,
            "delay": motion.delay,
        }
        parts |= {
            part: names.tokens[path]
            for part, path in said.tokens.items()
            if isinstance(meaning(path, document.token), str if part == "easing" else float)
            and path in names.tokens
        }
        timed = [parts["duration"], parts["easing"]]
        return [*timed, parts["delay"]] if parts["delay"] else timed
    moving = length(motion) - motion.delay
    curves, span = _curves(spring, moving)
    # With these the speed is known at any time: x″ = -k x - c x′.
    oscillator = spring.stiffness / spring.mass, spring.damping / spring.mass
    kicked: list[Json] = [curves[1], *(float(f"{n:.6g}") for n in (span, *oscillator))]
    return [round(moving, 3), curves[0], motion.delay, kicked]


@lru_cache(maxsize=256)
def _curves(spring: Spring, moving: float) -> tuple[tuple[str, str], float]:
    """How a spring goes in a time (ms), and what a unit of speed adds, to a whole of its span."""
    places = [spring.at_time(moving / 1000 * n / _SAMPLES) for n in range(_SAMPLES + 1)]
    remainder = np.array([1 - place.rest for place in places])
    kick = np.array([place.kick for place in places])
    remainder[-1], kick[-1] = 1.0, 0.0
    span = float(np.abs(kick).max()) or 1.0
    return (_curve(remainder), _curve(kick / span)), span


def _curve(values: NDArray[np.float64]) -> str:
    """CSS's linear() with as few points as say evenly spaced values (CSS Easing Functions 2)."""
    said = []
    for n in _corners(values):
        share = f" {100 * n / _SAMPLES:.4g}%" if 0 < n < _SAMPLES else ""
        said.append(f"{values[n]:.4g}{share}")
    return f"linear({', '.join(said)})"


def _corners(values: NDArray[np.float64]) -> list[int]:
    """The points between which straight lines are near enough (Ramer, Douglas and Peucker)."""
    kept, open_spans = {0, len(values) - 1}, [(0, len(values) - 1)]
    while open_spans:
        first, last = open_spans.pop()
        line = np.linspace(values[first], values[last], last - first + 1)
        off = np.abs(values[first : last + 1] - line)
        if off.max() > _NEAR:
            middle = first + int(off.argmax())
            kept.add(middle)
            open_spans += [(first, middle), (middle, last)]
    return sorted(kept)
