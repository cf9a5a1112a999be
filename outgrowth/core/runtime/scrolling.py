"""Where boxes that scroll are scrolled to while something runs, and what is seen of them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from outgrowth.core.document.cues import Path
from outgrowth.core.geometry import Rect
from outgrowth.core.layout import Placed
from outgrowth.core.layout.cross_axis import scrolls
from outgrowth.core.layout.scrolling import Point, reach, scrolled
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.scene import STICKS, SceneNode
from outgrowth.core.resolve.scene_paths import Positions, positions_of

# Whether a box scrolls across, and down.
_WAYS = {"x": (True, False), "y": (False, True), "both": (True, True)}


class Scrolls:
    """How far each box is scrolled, by its path (px from its beginning)."""

    def __init__(self) -> None:
        self._to: dict[Path, Point] = {}
        self._last: tuple[View, View] | None = None

    def scrolled_view(self, view: View) -> View:
        """A picture with its boxes scrolled."""
        # Nothing scrolled and nothing that sticks: the picture is as it was laid out.
        if not self._to and not view.scene.layout.deep & STICKS:
            return view
        # Invariant: the scrolled picture of the very view beside it; `_go` drops it.
        if self._last is None or self._last[0] is not view:
            self._last = view, self._scrolled(view)
        return self._last[1]

    def by(self, view: View, chain: Iterable[Path], dx: float, dy: float) -> bool:
        """Scrolls the innermost of these nodes that can go there; whether one could. `view` is
        the picture that is not scrolled."""
        # Scroll chaining (CSS Overscroll 1, 2): the innermost that can still go, else what holds
        # it.
        for path in reversed(tuple(chain)):
            before = self._to.get(path, (0.0, 0.0))
            if self._go(view, path, (before[0] + dx, before[1] + dy)):
                return True
        return False

    def reveal(self, view: View, path: Path) -> None:
        """Scrolls all boxes around a node just so far that it is in sight."""
        route = positions_of(view.scene, path) or ()
        for depth in range(len(route) - 1, -1, -1):
            holder, placed = _node_at(view, route[:depth])
            if holder.layout.style.scrolls == "none" or holder.kind != "box":
                continue
            x = y = 0.0
            node, holder_placed = holder, placed
            for n in route[depth:]:
                x, y = x + holder_placed.xs[n], y + holder_placed.ys[n]
                node, holder_placed = node.children[n], holder_placed.children[n]
            holder_path = _path_of(view, route[:depth])
            left, top = self._to.get(holder_path, (0.0, 0.0))
            # As near as it takes (CSSOM View, scrollIntoView with "nearest").
            left = min(max(left, x + holder_placed.width - placed.width), x)
            top = min(max(top, y + holder_placed.height - placed.height), y)
            self._go(view, holder_path, (left, top))

    def bars(self, view: View, scrolled: View) -> list[Rect]:
        """The bar of each box that was scrolled, at its right or lower edge: as long a part of
        that as is seen of all. `view` is the picture that is not scrolled, `scrolled` the one that
        is."""
        results = []
        for path, (left, top) in sorted(self._to.items()):
            route = positions_of(view.scene, path)
            if route is None:
                continue
            scene, placed = _node_at(view, route)
            wide, high = reach(scene, placed)
            x, y, holder_placed = 0.0, 0.0, scrolled.placed
            for n in route:
                x, y, holder_placed = (
                    x + holder_placed.xs[n],
                    y + holder_placed.ys[n],
                    holder_placed.children[n],
                )
            if high > placed.height:
                part = placed.height / high
                results.append(
                    Rect(x + holder_placed.width - 5, y + top * part, 3.0, placed.height * part)
                )
            if wide > placed.width:
                part = placed.width / wide
                results.append(
                    Rect(x + left * part, y + holder_placed.height - 5, placed.width * part, 3.0)
                )
        return results

    def _go(self, view: View, path: Path, to: Point) -> bool:
        route = positions_of(view.scene, path)
        if route is None:
            return False
        before = self._to.get(path, (0.0, 0.0))
        after = _within(*_node_at(view, route), to)
        if after == before:
            return False
        self._to[path] = after
        self._last = None
        return True

    def _scrolled(self, view: View) -> View:
        placed = view.placed
        # What sticks does so in a box at its beginning too.
        for begun in _sticking(view.scene, ()):
            placed = _replaced(view.scene, placed, begun, (0.0, 0.0))
        # What holds comes first: what is in it is then scrolled where it stands by then.
        for path, to in sorted(self._to.items(), key=lambda item: len(item[0])):
            route = positions_of(view.scene, path)
            if route is not None:
                placed = _replaced(view.scene, placed, route, to)
        return View(view.scene, placed)


def _sticking(scene: SceneNode, route: Positions) -> Iterator[Positions]:
    """The boxes that scroll and hold something that sticks, those that hold others first."""
    if scene.layout.deep & STICKS:
        if scrolls(scene.layout):
            yield route
        for n, child in enumerate(scene.children):
            yield from _sticking(child, (*route, n))


def _within(scene: SceneNode, placed: Placed, to: Point) -> Point:
    """The nearest place that a box can be scrolled to."""
    across, down = _WAYS.get(scene.layout.style.scrolls, (False, False))
    if scene.kind != "box" or not (across or down):
        return 0.0, 0.0
    wide, high = reach(scene, placed)
    left = min(max(to[0], 0.0), wide - placed.width) if across else 0.0
    return left, min(max(to[1], 0.0), high - placed.height) if down else 0.0


def _replaced(scene: SceneNode, placed: Placed, route: Positions, to: Point) -> Placed:
    """A picture in which the box at the end of the way is scrolled."""
    if not route:
        return scrolled(scene, placed, _within(scene, placed, to))
    children = list(placed.children)
    n = route[0]
    children[n] = _replaced(scene.children[n], children[n], route[1:], to)
    if children[n] is placed.children[n]:
        return placed
    replaced = Placed(
        placed.width, placed.height, tuple(children), placed.xs, placed.ys, placed.text
    )
    replaced.taking_over(placed)
    return replaced


def _node_at(view: View, route: Positions) -> tuple[SceneNode, Placed]:
    scene, placed = view
    for n in route:
        scene, placed = scene.children[n], placed.children[n]
    return scene, placed


def _path_of(view: View, route: Positions) -> Path:
    """The path of ids of a node that a way leads to."""
    scene = view.scene
    path: Path = ()
    instance: Path = ()
    for n in route:
        path = (*instance, scene.ids[n])
        scene = scene.children[n]
        instance = path if scene.component else instance
    return path
