"""How far a motion is at a time: what is left of a difference, and how fast it goes.

A difference that runs out is `difference · rest + speed · kick`: rest goes from 1 to 0, and
kick is what a unit of speed adds, for springs that go on from a movement.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from outgrowth.core.document.cues import Motion
from outgrowth.core.motion.easing import EasingRefusal, easing, spring_of
from outgrowth.core.motion.spring import Motions, Spring

_DONE = Motions(0.0, 0.0, 0.0, 0.0)
_WAITING = Motions(1.0, 0.0, 0.0, 0.0)
_RATE_STEP = 0.01
# A spring that begins with speed swings longer than one from rest.
_SPRING_MARGIN = 1.5


class Begun(NamedTuple):
    """A motion and when it began, in ms."""

    motion: Motion
    start: float

    @property
    def end(self) -> float:
        """When it has run out (ms)."""
        return self.start + length(self.motion)

    @property
    def keeps_speed(self) -> bool:
        """Whether it goes on with the speed that there was: a spring that moves at once. One
        that waits first stands still meanwhile, and so has none."""
        return self.motion.delay <= 0 and _spring(self.motion) is not None

    def at_time(self, now: float) -> Motions:
        """What is left of the way at a time (ms); rates are per second."""
        if now >= self.end:
            return _DONE
        passed = now - self.start - self.motion.delay
        if passed < 0:
            return _WAITING
        spring = _spring(self.motion)
        if spring is not None:
            return spring.at_time(passed / 1000)
        return _eased(self.motion, passed)


@lru_cache(maxsize=512)
def _spring(motion: Motion) -> Spring | None:
    try:
        return spring_of(motion.easing, motion.duration)
    except EasingRefusal:
        return None


@lru_cache(maxsize=512)
def length(motion: Motion) -> float:
    """How long a motion takes in ms, its delay included."""
    spring = _spring(motion)
    moving = motion.duration if spring is None else spring.settling_time() * 1000 * _SPRING_MARGIN
    return motion.delay + moving


def progress(motion: Motion, passed: float) -> float:
    """The eased progress when `passed` ms are gone since the motion began to move; an
    easing that cannot be read is linear."""
    share = min(max(passed / motion.duration, 0.0), 1.0)
    try:
        return easing(motion.easing)(share)
    except EasingRefusal:
        return share


def _eased(motion: Motion, passed: float) -> Motions:
    step = motion.duration * _RATE_STEP
    low, high = max(passed - step, 0.0), min(passed + step, motion.duration)
    rate = (progress(motion, high) - progress(motion, low)) / (high - low) * 1000
    return Motions(1.0 - progress(motion, passed), 0.0, -rate, 0.0)
