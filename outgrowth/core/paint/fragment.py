"""The display list: a tree of fragments, each the picture of one node and its children.

Fragments are shared like the scene they come from, so a backend can keep the raster of
one and lay it down a thousand times.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

import numpy as np

from outgrowth.core.geometry import Affine, Rect
from outgrowth.core.paint.marks import Mark, Radii


class Group:
    """What holds for a fragment as a whole: transform, opacity, clip of its children."""

    __slots__ = ("clip", "opacity", "transform")

    def __init__(
        self, transform: Affine | None, opacity: float, clip: tuple[float, float, Radii] | None
    ) -> None:
        self.transform = transform
        self.opacity = opacity
        self.clip = clip

    @property
    def repaints_parts(self) -> bool:
        """Whether a part of what is inside can be painted anew without the rest: not turned, not
        faded."""
        return self.transform is None and self.opacity == 1.0


Extents = np.ndarray[tuple[int, int], np.dtype[np.float64]]


class Fragment:
    """The picture of one node.

    marks     drawn first, in order, in the node's coordinates
    children  (x, y, fragment), drawn after, in order
    bounds    everything that may be inked, own transform included
    extents   left, top, right and bottom of each child, of a long list only
    memory    what a backend keeps for it, by scale; lives and dies with the fragment
    is_instance_root  whether this is the root of an instance: worth keeping as a raster,
                      and so painted on whole device px
    """

    __slots__ = (
        "__weakref__",
        "bounds",
        "children",
        "extents",
        "group",
        "is_instance_root",
        "marks",
        "memory",
    )

    def __init__(
        self,
        marks: tuple[Mark, ...],
        children: tuple[tuple[float, float, Fragment], ...],
        group: Group | None,
        bounds: Rect,
        is_instance_root: bool,
        extents: Extents | None = None,
    ) -> None:
        self.marks = marks
        self.children = children
        self.group = group
        self.bounds = bounds
        self.is_instance_root = is_instance_root
        self.extents = extents
        self.memory: dict[float, object] = {}


class Painter(Protocol):
    """A backend. Qt, the recorder and later exports implement these calls."""

    def mark(self, mark: Mark) -> None:
        """Draws one mark at the current place."""

    def among(self, fragment: Fragment) -> Sequence[int] | None:
        """Which children of a long list are worth entering, by their extents; None for all."""

    def enter(self, x: float, y: float, fragment: Fragment) -> bool:
        """Moves to the fragment's place and opens its group. False if it was drawn whole
        from memory or lies out of sight; then `leave` is not called."""

    def inside(self, fragment: Fragment) -> None:
        """The fragment's own marks are done, its children follow: time to clip."""

    def leave(self, fragment: Fragment) -> None:
        """Undoes `enter` and `inside`."""


def replay(fragment: Fragment, painter: Painter, x: float = 0.0, y: float = 0.0) -> None:
    """Draws the fragment with its corner at x, y of the painter's coordinates."""
    if not painter.enter(x, y, fragment):
        return
    for mark in fragment.marks:
        painter.mark(mark)
    if fragment.children:
        painter.inside(fragment)
        chosen = painter.among(fragment) if fragment.extents is not None else None
        children = fragment.children
        for dx, dy, child in children if chosen is None else [children[n] for n in chosen]:
            replay(child, painter, dx, dy)
    painter.leave(fragment)
