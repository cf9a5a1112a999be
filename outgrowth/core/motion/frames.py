"""Builds the picture of one frame: the latest layout with what is still added to its numbers.

A frame is again a scene with placements, so the painter, the hit test and the next change treat
it like any other picture. What does not move is used as it is and costs nothing.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple
from weakref import ref

import msgspec
import numpy as np

from outgrowth.core.color import Color
from outgrowth.core.document.cues import Path
from outgrowth.core.document.properties import TABLE
from outgrowth.core.layout import Placed
from outgrowth.core.motion.mixing import CHANNELS, Floats, unpremultiplied
from outgrowth.core.motion.sums import ColumnBlock, Columns, Sums
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.scene import LONG, ChildDelta, PaintStyle, SceneNode, SceneParts
from outgrowth.core.resolve.scene_paths import positions_of
from outgrowth.core.text import Paragraph

PRESENCE = "presence"
"""The value of a node that comes or goes: 1 there, 0 gone."""


class Ghost(NamedTuple):
    """What is left of a node that is gone while it fades: how it looked, where it stood among
    the children of `holder`, and after which of them it was drawn.

    beside  the node that has taken its place: the ghost stands where that one is
    """

    path: Path
    holder: Path
    name: str
    view: View
    x: float
    y: float
    after_id: str
    beside: str = ""


class Values(NamedTuple):
    """One frame's numbers, and its colours by the column at which they begin. `faded` are the
    nodes that were made fainter in it, by node and share."""

    numbers: list[float]
    colors: dict[int, Color]
    faded: dict[tuple[int, float], tuple[SceneNode, SceneNode]]

    def value(self, block: ColumnBlock) -> object:
        """A value in the form that it is drawn in."""
        own = [self.colors[block.start + offset] for offset in block.form.colors]
        return block.form.value(self.numbers[block.start : block.columns.stop], own)

    def number(self, block: ColumnBlock) -> float:
        """A value that is one number."""
        result = self.value(block)
        assert isinstance(result, float)
        return result


class _Child(NamedTuple):
    """A child that moves: its place among the children, and what of it does."""

    place: int
    x: ColumnBlock | None
    y: ColumnBlock | None
    presence: ColumnBlock | None
    node: _Node | None


class _Node:
    """How the frames of one node are built."""

    __slots__ = (
        "before",
        "children",
        "end",
        "frame",
        "ghosts",
        "height",
        "lines",
        "paint",
        "places",
        "width",
    )

    def __init__(self, end: View) -> None:
        self.end = end
        self.width: ColumnBlock | None = None
        self.height: ColumnBlock | None = None
        self.lines: ColumnBlock | None = None
        self.paint: list[tuple[str, ColumnBlock]] = []
        self.places: dict[int, dict[str, ColumnBlock | _Node]] = {}
        self.children: list[_Child] = []
        self.ghosts: list[tuple[int, Ghost, ColumnBlock, int]] = []
        self.before: SceneNode | None = None
        self.frame: tuple[Values, View] | None = None

    def inner(self, place: int) -> _Node:
        """The child's node, made when it is first asked for."""
        slot = self.places.setdefault(place, {})
        cached = slot.get("node")
        if not isinstance(cached, _Node):
            view = View(self.end.scene.children[place], self.end.placed.children[place])
            cached = slot["node"] = _Node(view)
        return cached


class Frames:
    """The frames on the way to one target, as long as the same values move."""

    def __init__(self, target: View, sums: Sums, ghosts: dict[Path, Ghost]) -> None:
        self._sums = sums
        self._root = _Node(target)
        base = np.zeros(sums.size)
        colors: list[int] = []
        for (path, name), block in sums.blocks.items():
            latest = self._place(path, name, block, ghosts)
            if latest is not None:
                base[block.start : block.columns.stop] = latest
                colors += [block.start + offset for offset in block.form.colors]
        self._base = base
        self._colors = colors
        self._channels = np.array(colors, dtype=np.intp)[:, None] + np.arange(CHANNELS)
        _finish(self._root)
        _Alike(sums).share(self._root)

    def at_time(self, now: float) -> View:
        """The frame of a time in ms."""
        return _built(self._root, self.values(now))

    def values(self, now: float) -> Values:
        """What all values come to at a time (ms)."""
        return self._mixed(self._base + self._sums.at_time(now))

    def end(self) -> Values:
        """Where everything goes."""
        return self._mixed(self._base)

    def with_row(self, columns: Columns, added: Floats) -> Values:
        """Where everything goes, with a row's differences added in these columns."""
        numbers = self._base.copy()
        numbers[columns] += added
        return self._mixed(numbers)

    def _mixed(self, numbers: Floats) -> Values:
        mixed = unpremultiplied(numbers[self._channels].reshape(-1, CHANNELS)).tolist()
        colors = {
            placed: Color(*channels) for placed, channels in zip(self._colors, mixed, strict=True)
        }
        return Values(numbers.tolist(), colors, {})

    def _place(
        self, path: Path, name: str, block: ColumnBlock, ghosts: dict[Path, Ghost]
    ) -> list[float] | None:
        """Puts a value into the tree; its numbers in the target, None if it is not there."""
        ghost = ghosts.get(path)
        if ghost is not None:
            self._haunt(ghost, block)
            # Gone, in the target.
            return [0.0]
        route = positions_of(self._root.end.scene, path)
        if route is None:
            return None
        holder = self._root
        for place in route[:-1]:
            holder = holder.inner(place)
        if name in ("x", "y", PRESENCE) and route:
            holder.places.setdefault(route[-1], {})[name] = block
            if name == PRESENCE:
                return [1.0]
            coordinates = holder.end.placed.xs if name == "x" else holder.end.placed.ys
            return [coordinates[route[-1]]]
        node = holder.inner(route[-1]) if route else holder
        if name in ("width", "height"):
            setattr(node, name, block)
            return [getattr(node.end.placed, name)]
        if name == "lines":
            node.lines = block
            return block.form.numbers(node.end.placed.text)
        field = TABLE[name].field
        node.paint.append((field, block))
        return block.form.numbers(getattr(node.end.scene.paint, field))

    def _haunt(self, ghost: Ghost, presence: ColumnBlock) -> None:
        route = positions_of(self._root.end.scene, ghost.holder)
        holder = self._root
        for place in route or ():
            holder = holder.inner(place)
        if route is not None:
            ids = holder.end.scene.ids
            beside = ids.index(ghost.beside) if ghost.beside in ids else -1
            after = ids.index(ghost.after_id) + 1 if ghost.after_id in ids else 0
            place = beside if beside >= 0 else after
            holder.ghosts.append((place, ghost, presence, beside))


def _finish(node: _Node) -> None:
    for place, slot in sorted(node.places.items()):
        inner = slot.get("node")
        blocks = {name: block for name, block in slot.items() if isinstance(block, ColumnBlock)}
        if isinstance(inner, _Node):
            _finish(inner)
        x, y, presence = (blocks.get(name) for name in ("x", "y", PRESENCE))
        moving = inner if isinstance(inner, _Node) else None
        node.children.append(_Child(place, x, y, presence, moving))
    # Stable: of ghosts at one place the older one is drawn first.
    node.ghosts.sort(key=lambda ghost: ghost[0])


class _Alike:
    """Of long lists: children that look and move alike are built once for all of them."""

    def __init__(self, sums: Sums) -> None:
        self._sums = sums
        self._bytes_of: Callable[[ColumnBlock], bytes] | None = None

    def share(self, node: _Node) -> None:
        nodes = [child.node for child in node.children if child.node is not None]
        # Comparing costs as much as building, so only long lists are compared.
        if len(nodes) >= LONG:
            nodes_by_look: dict[object, _Node] = {}
            for n, child in enumerate(node.children):
                if child.node is not None and not child.node.ghosts:
                    shared = nodes_by_look.setdefault(self._look(child.node), child.node)
                    node.children[n] = child._replace(node=shared)
            return
        for inner in nodes:
            self.share(inner)

    def _look(self, node: _Node) -> object:
        """What decides all frames of a node."""
        # By identity: what is the same object in the target has the same end.
        end = id(node.end.scene), id(node.end.placed), len(node.ghosts)
        paint = tuple([(field, self._row_bytes(block)) for field, block in node.paint])
        inside = tuple(
            [
                (
                    c.place,
                    self._row_bytes(c.x),
                    self._row_bytes(c.y),
                    self._row_bytes(c.presence),
                    # With ghosts in it, a node is like no other.
                    id(c.node) if c.node and c.node.ghosts else c.node and self._look(c.node),
                )
                for c in node.children
            ]
        )
        return end, *map(self._row_bytes, (node.width, node.height, node.lines)), paint, inside

    def _row_bytes(self, block: ColumnBlock | None) -> object:
        if block is None:
            return None
        if self._bytes_of is None:
            self._bytes_of = self._sums.row_bytes()
        return self._bytes_of(block)


def _built(node: _Node, values: Values) -> View:
    """The node's frame; one for all that look and move like it."""
    # Invariant: the frame of the very values beside it.
    if node.frame is None or node.frame[0] is not values:
        node.frame = values, _view_of(node, values)
    return node.frame[1]


def _view_of(node: _Node, values: Values) -> View:
    scene, placed = node.end
    scenes, sizes = list(scene.children), list(placed.children)
    xs, ys = list(placed.xs), list(placed.ys)
    numbers = values.numbers
    changed = []
    for place, x, y, presence, inner in node.children:
        if x is not None:
            xs[place] = numbers[x.start]
        if y is not None:
            ys[place] = numbers[y.start]
        if inner is not None:
            scenes[place], sizes[place] = _built(inner, values)
            changed.append(place)
        if presence is not None:
            scenes[place] = _faded(scenes[place], values.number(presence), values)
            changed.append(place)
    size = (
        placed.width if node.width is None else values.number(node.width),
        placed.height if node.height is None else values.number(node.height),
    )
    paint = scene.paint
    if node.paint:
        paint = msgspec.structs.replace(paint, **{f: values.value(b) for f, b in node.paint})
    ids, names = scene.ids, scene.names
    delta = None
    if node.ghosts:
        children = list(zip(ids, names, scenes, sizes, xs, ys, strict=True))
        # From the last place on, so that those before keep their numbers.
        for place, ghost, presence, beside in reversed(node.ghosts):
            origin = (xs[beside], ys[beside]) if beside >= 0 else (ghost.x, ghost.y)
            shadow = _faded(ghost.view.scene, values.number(presence), values)
            children.insert(place, (ghost.path[-1], ghost.name, shadow, ghost.view.placed, *origin))
        ids, names, scenes, sizes, xs, ys = map(list, zip(*children, strict=True))  # type: ignore[assignment]  # six columns
    elif len(scenes) >= LONG and node.before is not None:
        delta = ChildDelta(ref(node.before), tuple(changed))
    mixed_scene = copied(scene, paint, tuple(scenes), (tuple(ids), tuple(names)), delta)
    node.before = mixed_scene
    text = placed.text
    if node.lines is not None:
        found_text = values.value(node.lines)
        assert isinstance(found_text, Paragraph)
        text = found_text
    return View(mixed_scene, Placed(*size, tuple(sizes), tuple(xs), tuple(ys), text))


def _faded(scene: SceneNode, share: float, values: Values) -> SceneNode:
    """The node with that share of its opacity."""
    cached = values.faded.get((id(scene), share))
    if cached is None:
        paint = msgspec.structs.replace(scene.paint, opacity=scene.paint.opacity * share)
        faded_scene = copied(scene, paint, scene.children, (scene.ids, scene.names))
        cached = values.faded[id(scene), share] = scene, faded_scene
    return cached[1]


def copied(
    scene: SceneNode,
    paint: PaintStyle,
    children: tuple[SceneNode, ...],
    called: tuple[tuple[str, ...], tuple[str, ...]],
    after: ChildDelta | None = None,
    click_through: bool | None = None,
) -> SceneNode:
    """A node as another one, with other paint and children."""
    parts = SceneParts(
        scene.kind,
        scene.layout,
        paint,
        children,
        *called,
        scene.click_through if click_through is None else click_through,
        scene.component,
        scene.variant,
        scene.problem,
        scene.order,
        scene.interaction,
    )
    return SceneNode(parts, after)
