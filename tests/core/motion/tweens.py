"""A movement between two views, by its share: what the tests of motion ask most."""

from outgrowth.core.document.cues import Motion
from outgrowth.core.motion.movement import Movement


class Tween:
    """The way from one view to another in a straight line; `at(0.5)` is half of it."""

    def __init__(self, start, end, motion=None):
        self.movement = Movement(start)
        self.movement.change(end, 0.0, "tween", motion or Motion(1000.0, "linear"))

    def at_time(self, share):
        return self.movement.at_time(share * 1000)
