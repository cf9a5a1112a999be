"""A painter that writes down what it is asked to draw: the oracle of the tests."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.geometry import Affine
from outgrowth.core.paint.fragment import Fragment, replay
from outgrowth.core.paint.marks import Mark


class DrawnMark(NamedTuple):
    """One mark, the map from its node to the root, and the opacity of all around it."""

    mark: Mark
    to_root: Affine
    opacity: float


class Recorder:
    """Collects marks in drawing order; `drawn` is the list."""

    def __init__(self) -> None:
        self.drawn: list[DrawnMark] = []
        self._stack = [(Affine(), 1.0)]

    def mark(self, mark: Mark) -> None:
        """Writes down a mark and where it stands."""
        self.drawn.append(DrawnMark(mark, *self._stack[-1]))

    def among(self, fragment: Fragment) -> None:
        """All children: a record has everything."""
        return

    def enter(self, x: float, y: float, fragment: Fragment) -> bool:
        """Goes to a fragment, always."""
        outer, opacity = self._stack[-1]
        to_root = Affine(e=x, f=y).then(outer)
        if fragment.group is not None:
            opacity *= fragment.group.opacity
            if fragment.group.transform is not None:
                to_root = fragment.group.transform.then(to_root)
        self._stack.append((to_root, opacity))
        return True

    def inside(self, fragment: Fragment) -> None:
        """Nothing: clips are in the record of the group."""
        pass

    def leave(self, fragment: Fragment) -> None:
        """Goes back to what holds the fragment."""
        self._stack.pop()


def record(fragment: Fragment) -> list[DrawnMark]:
    """All marks of a display list, flattened."""
    recorder = Recorder()
    replay(fragment, recorder)
    return recorder.drawn
