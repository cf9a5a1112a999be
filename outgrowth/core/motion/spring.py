"""Springs in closed form: where a damped oscillator is, and how fast, at any time.

m x″ + c x′ + k x = 0 with x(0) = 1 and x′(0) = 0 gives `rest`, with x(0) = 0 and x′(0) = 1
gives `kick`; any start is a sum of the two, so one pair of numbers moves all tracks of a
change. Source: any text on mechanics, e.g. Feynman Lectures I, chapters 24 (transients).
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

SETTLED = 0.001
"""Of the whole way: when a spring's swings stay below this it has come to rest."""


class Motions(NamedTuple):
    """At one time (s): what is left of the way, what a unit of speed has added, and the rates
    of both per second."""

    rest: float
    kick: float
    rest_rate: float
    kick_rate: float


class Spring(NamedTuple):
    """Stiffness (1/s² per mass), damping (1/s per mass), mass; all above zero."""

    stiffness: float
    damping: float
    mass: float = 1.0

    def at_time(self, seconds: float) -> Motions:
        """Under, over and critically damped, each in its closed form."""
        decay = self.damping / (2 * self.mass)
        square = self.stiffness / self.mass
        inner = square - decay * decay
        # m x'' + c x' + k x = 0 with x(0) = 1: the three cases of the damped oscillator.
        t = max(seconds, 0.0)
        # Near the critical case both other formulas divide by almost nothing.
        if abs(inner) < 1e-9 * square:
            return _critical(decay, t)
        if inner > 0:
            return _swinging(decay, math.sqrt(inner), square, t)
        return _creeping(decay, math.sqrt(-inner), t)

    def settling_time(self) -> float:
        """Seconds until a spring that starts at rest stays within SETTLED of its end."""
        return _settling_time(self)


def _swinging(decay: float, turn: float, square: float, t: float) -> Motions:
    # Underdamped: x = e^(-dt) (cos wt + d/w sin wt); the kick is e^(-dt) sin wt / w.
    fade = math.exp(-decay * t)
    cos, sin = math.cos(turn * t), math.sin(turn * t)
    return Motions(
        fade * (cos + decay / turn * sin),
        fade * sin / turn,
        -fade * square / turn * sin,
        fade * (cos - decay / turn * sin),
    )


def _critical(decay: float, t: float) -> Motions:
    # Critically damped: x = e^(-dt) (1 + dt); the kick is t e^(-dt).
    fade = math.exp(-decay * t)
    return Motions(
        fade * (1 + decay * t), fade * t, -fade * decay * decay * t, fade * (1 - decay * t)
    )


def _creeping(decay: float, spread: float, t: float) -> Motions:
    # Overdamped: the sum of two exponentials; `slow` and `fast` are the roots.
    slow, fast = -decay + spread, -decay - spread
    a, b = math.exp(slow * t), math.exp(fast * t)
    width = slow - fast
    return Motions(
        (slow * b - fast * a) / width,
        (a - b) / width,
        slow * fast * (b - a) / width,
        (slow * a - fast * b) / width,
    )


@lru_cache(maxsize=256)
def _settling_time(spring: Spring) -> float:
    """By the envelope of the swings, or by halving for springs that do not swing."""
    decay = spring.damping / (2 * spring.mass)
    inner = spring.stiffness / spring.mass - decay * decay
    if inner > 1e-9 * spring.stiffness / spring.mass:
        # The swings stay within an envelope of this height, so its logarithm gives the time.
        height = math.sqrt(1 + decay * decay / inner)
        return math.log(height / SETTLED) / decay
    low, high = 0.0, 1.0
    # One that does not swing only falls: halving finds where it passes SETTLED.
    while spring.at_time(high).rest > SETTLED and high < 1e4:
        high *= 2
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (middle, high) if spring.at_time(middle).rest > SETTLED else (low, middle)
    return high


def bouncing(duration_ms: float, bounce: float) -> Spring:
    """The spring of mass 1 whose undamped turn takes the duration, and whose damping is
    critical for a bounce of 0 and none for 1."""
    # The undamped angular frequency for one turn in the duration.
    turn = 2 * math.pi / max(duration_ms / 1000, 1e-3)
    return Spring(turn * turn, 2 * turn * max(1 - bounce, 0.01))
