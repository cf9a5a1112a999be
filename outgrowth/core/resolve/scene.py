"""The resolved tree: plain values in slots, each distinct subtree existing once.

A scene node has two halves. `layout` is what decides sizes and places, `paint` what is
drawn there. Both are interned: equal ones are the same object, so later stages find by
identity what they already know, and an edit that only repaints leaves every layout alone.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from operator import itemgetter
from typing import NamedTuple
from weakref import ReferenceType, WeakValueDictionary

import msgspec

from outgrowth.core.document.properties import FAMILY_MEMBERS, TABLE, NodeKind
from outgrowth.core.document.rooms import GIVEN_BY_HOLDER, KnownRoom, RoomMeasure
from outgrowth.core.document.values import Limit, Literals, Size
from outgrowth.core.document.variants import Variant
from outgrowth.core.resolve.styles import Interaction, LayoutStyle, PaintRows


class PaintStyle(PaintRows, frozen=True, weakref=True):
    """What is drawn of a node, whatever its size."""

    @property
    def path_room(self) -> tuple[float, float]:
        """Width and height of what the path was drawn in."""
        return self.path_size, self.path_height or self.path_size

    @property
    def radii(self) -> tuple[float, float, float, float]:
        """Clockwise from the top left, as in CSS."""
        return (
            self.radius_top_left,
            self.radius_top_right,
            self.radius_bottom_right,
            self.radius_bottom_left,
        )

    @property
    def strokes(self) -> tuple[float, float, float, float]:
        """How thick the line is on each side: top, right, bottom, left."""
        return self.stroke_top, self.stroke_right, self.stroke_bottom, self.stroke_left

    @property
    def stroked(self) -> bool:
        """Whether a stroke is seen."""
        return self.stroke.alpha > 0 and any(self.strokes)

    @property
    def transformed(self) -> bool:
        """Whether it is moved, turned or scaled."""
        moved = bool(self.translate_x or self.translate_y or self.rotate or self.turns)
        return moved or self.scale != 1.0


LAYOUT_ROWS = tuple((r.name, r.default) for r in TABLE.values() if r.affects == "layout")
PAINT_ROWS = tuple((r.name, r.default) for r in TABLE.values() if r.affects == "paint")


LONG = 64
"""Children from which on a node is made after the one before it where few of them changed."""


class Memory:
    """What a later room keeps with a node: it lives and dies with it. The room that writes it
    has a class of its own for it."""

    __slots__ = ()


class ChildDelta(NamedTuple):
    """That a node is as another one was, but for the children at these places: what was made
    of the other (as long as it is there) need not be made anew."""

    before: ReferenceType[LayoutNode] | ReferenceType[SceneNode]
    changed: tuple[int, ...]


RELATIVE, PUSHES, MOVED, STICKS, YIELDS, FOLLOWS, BY_ROOM, FLUID, WRAPS_DOWN = (
    1 << bit for bit in range(9)
)
"""What layout has to look after only where a node asks for it: a size in per cent or characters,
a margin that takes what is left, a place beside its own, an edge that it sticks to; that a picture
asks its holder for no room, since it is a share of it (relative.py), or has the width that its
height brings, which it gets from its holder; that its room decides what it is (by_room.py); that
its letters grow with the room (fluid.py); and that it is a column that wraps, as wide as its height
makes it."""


def _asks(style: LayoutStyle) -> int:
    relative = style.width.mode in _RELATIVE or style.height.mode in _RELATIVE
    limits = (
        style.min_width,
        style.max_width,
        style.min_height,
        style.max_height,
        style.grow_base,
    )
    bits = RELATIVE if relative or any(isinstance(n, Size) for n in limits) else 0
    if style.wrap and style.flow == "column":
        bits |= WRAPS_DOWN
    if style.fluid_size:
        bits |= FLUID
    if style.push_left or style.push_right or style.push_top or style.push_bottom:
        bits |= PUSHES
    if style.sticks != "none":
        return bits | STICKS
    return bits | MOVED if style.offset_x or style.offset_y else bits


_RELATIVE = ("percent", "chars", "formula")


def _limits(low: Limit, high: Limit, least: float) -> tuple[float, float]:
    low = 0.0 if isinstance(low, Size) else low
    high = 0.0 if isinstance(high, Size) else high
    return max(low, least), high or math.inf


def _paddings(kind: NodeKind, style: LayoutStyle) -> tuple[float, float]:
    """The paddings of a box across and down, where it has any (px)."""
    if kind != "box" or style.flow == "free":
        return 0.0, 0.0
    return style.padding_left + style.padding_right, style.padding_top + style.padding_bottom


class RoomNodes:
    """A part as its room makes it: `nodes` for each combination of what its `measures` tell, the
    last one running fastest. `leasts` is layout's own: where their values begin, in px."""

    __slots__ = ("leasts", "measures", "nodes")

    def __init__(self, measures: tuple[RoomMeasure, ...], nodes: tuple[LayoutNode, ...]) -> None:
        self.measures = measures
        self.nodes = nodes
        self.leasts: tuple[tuple[float, ...], ...] | None = None


class LayoutNode:
    """The half of a scene node that layout reads; `memory` is layout's own. One with `rooms` has no
    children of its own: what it is, its room decides.

    asks          what it asks for (RELATIVE …)
    holds, deep   what any of its children asks for, and any part beneath it
    across, down  least and most px of its border box, padding counted in; a limit that depends
                  on something else is none
    """

    __slots__ = (
        "__weakref__",
        "across",
        "asks",
        "children",
        "deep",
        "delta",
        "down",
        "floats",
        "holds",
        "kind",
        "memory",
        "rooms",
        "style",
    )

    def __init__(
        self,
        kind: NodeKind,
        style: LayoutStyle,
        children: tuple[LayoutNode, ...],
        delta: ChildDelta | None = None,
        rooms: RoomNodes | None = None,
    ) -> None:
        self.kind = kind
        self.rooms = rooms
        self.style = style
        self.children = children
        self.delta = delta
        self.asks = _asks(style)
        wide, high = _paddings(kind, style)
        for node in rooms.nodes if rooms is not None else ():
            # A part is never less than its padding, whatever its room makes of it.
            paddings = _paddings(node.kind, node.style)
            wide, high = max(wide, paddings[0]), max(high, paddings[1])
        self.across = _limits(style.min_width, style.max_width, wide)
        self.down = _limits(style.min_height, style.max_height, high)
        if kind == "image" and style.aspect and style.height.mode == "grow":
            self.asks |= FOLLOWS
        before = delta.before() if delta is not None else None
        others: Iterable[LayoutNode] = children
        self.floats, self.holds, self.deep = False, 0, 0
        if delta is not None and isinstance(before, LayoutNode) and not before.floats:
            others = [children[n] for n in delta.changed]
            self.holds, self.deep = before.holds, before.deep
        for child in others:
            self.floats = self.floats or child.style.floating
            self.holds |= child.asks
            self.deep |= child.asks | child.deep
        if rooms is not None:
            self.asks |= BY_ROOM
            for node in rooms.nodes:
                self.deep |= node.deep & ~FLUID  # what grows in it has its own room
        self.memory: Memory | None = None


class SceneNode:
    """A node as it is shown. Only shown children are there; `ids` and `names` are theirs,
    kept by the holder so that a thousand equal instances can be one object. `levels` and
    `parts` count it and all beneath it, each as often as it is met."""

    __slots__ = (
        "__weakref__",
        "children",
        "click_through",
        "component",
        "delta",
        "ids",
        "interaction",
        "kind",
        "known_rooms",
        "layout",
        "levels",
        "memory",
        "names",
        "order",
        "paint",
        "parts",
        "positions",
        "problem",
        "rooms",
        "settled",
        "variant",
    )
    parts: int
    levels: int

    def __init__(self, parts: SceneParts, delta: ChildDelta | None = None) -> None:
        self.kind = parts.kind
        self.layout = parts.layout
        self.paint = parts.paint
        self.click_through = parts.click_through
        self.component = parts.component
        self.variant = parts.variant
        self.ids = parts.ids
        self.names = parts.names
        self.children = parts.children
        self.problem = parts.problem
        self.order = parts.order
        self.interaction = parts.interaction
        self.rooms = parts.rooms
        self.known_rooms = parts.known_rooms
        self.settled: dict[object, SceneNode] | None = None
        self.delta = delta
        self.memory: Memory | None = None
        self.positions: dict[str, tuple[int, ...]] | None = None
        before = delta.before() if delta is not None else None
        if delta is not None and isinstance(before, SceneNode):
            new = [parts.children[n] for n in delta.changed]
            old = [before.children[n] for n in delta.changed]
            self.parts = before.parts + sum(c.parts for c in new) - sum(c.parts for c in old)
            # Never less than it is: a list that was deep once may count as deep as it was.
            self.levels = max(before.levels, *[c.levels + 1 for c in new]) if new else before.levels
        else:
            self.parts = 1 + sum([child.parts for child in parts.children])
            self.levels = 1 + max([child.levels for child in parts.children], default=0)
        for scene in parts.rooms:
            self.parts, self.levels = max(self.parts, scene.parts), max(self.levels, scene.levels)


PLAIN = Interaction()


class SceneParts(NamedTuple):
    """What a scene node is made of. `component` and `variant` are set on the root node of
    an instance; `problem` says in a sentence why it could not be resolved; `order` is where
    it comes among its neighbours, lower first; `rooms` are the scenes of which the room picks one,
    in the order of the layout's: until then it is as the first of them; `known_rooms` are those
    that its variant tells."""

    kind: NodeKind
    layout: LayoutNode
    paint: PaintStyle
    children: tuple[SceneNode, ...] = ()
    ids: tuple[str, ...] = ()
    names: tuple[str, ...] = ()
    click_through: bool = False
    component: str = ""
    variant: Variant | None = None
    problem: str = ""
    order: float = 0.0
    interaction: Interaction = PLAIN
    rooms: tuple[SceneNode, ...] = ()
    known_rooms: tuple[KnownRoom, ...] = ()


def remade(
    scene: SceneNode,
    layout: LayoutNode,
    children: tuple[SceneNode, ...],
    rooms: tuple[SceneNode, ...] = (),
) -> SceneParts:
    """What a scene is made of, with another layout and other children in the places of its own."""
    return SceneParts(
        scene.kind,
        layout,
        scene.paint,
        children,
        scene.ids,
        scene.names,
        scene.click_through,
        scene.component,
        scene.variant,
        scene.problem,
        scene.order,
        scene.interaction,
        rooms,
        scene.known_rooms,
    )


_GIVEN_BY_HOLDER = tuple(r for r, _ in LAYOUT_ROWS if r in GIVEN_BY_HOLDER)
_Places = dict[str, tuple[int, Literals]]
_LAYOUT_PLACES: _Places = {name: (n, default) for n, (name, default) in enumerate(LAYOUT_ROWS)}
_PAINT_PLACES: _Places = {name: (n, default) for n, (name, default) in enumerate(PAINT_ROWS)}


def _stated(values: dict[str, Literals], places: _Places) -> tuple[tuple[int, Literals], ...]:
    """What of these rows is not at its default, by their places: few of many."""
    results = []
    for name, value in values.items():
        place = places.get(name)
        if place is not None and value != place[1]:
            results.append((place[0], value))
    results.sort(key=_place)
    return tuple(results)


_place = itemgetter(0)
_PUSHED = [
    (TABLE[push].field, TABLE[margin].field)
    for push, margin in zip(FAMILY_MEMBERS["push"], FAMILY_MEMBERS["margin"], strict=True)
]


class Interner:
    """Makes each distinct layout node, paint style and scene node once.

    Keys hold the ids of children, which the node itself keeps alive.
    """

    def __init__(self) -> None:
        # Weak: what no scene holds any more is forgotten by itself.
        self._styles: WeakValueDictionary[object, LayoutStyle] = WeakValueDictionary()
        self._layouts: WeakValueDictionary[object, LayoutNode] = WeakValueDictionary()
        self._paints: WeakValueDictionary[object, PaintStyle] = WeakValueDictionary()
        self._scenes: WeakValueDictionary[object, SceneNode] = WeakValueDictionary()

    def style(self, values: dict[str, Literals]) -> LayoutStyle:
        """The one layout style of these values."""
        key = _stated(values, _LAYOUT_PLACES)
        cached = self._styles.get(key)
        if cached is None:
            fields = [values.get(name, default) for name, default in LAYOUT_ROWS]
            cached = LayoutStyle(*fields)  # type: ignore[arg-type]  # rows are in field order
            # A margin that takes what is left has no length of its own.
            pushed = {m: 0.0 for push, m in _PUSHED if getattr(cached, push)}
            if pushed:
                cached = msgspec.structs.replace(cached, **pushed)
            self._styles[key] = cached
        return cached

    def layout(
        self,
        kind: NodeKind,
        style_or_values: LayoutStyle | dict[str, Literals],
        children: tuple[LayoutNode, ...],
        delta: ChildDelta | None = None,
    ) -> LayoutNode:
        """The node of a style, which must be one that `style` gave (or is made of values)."""
        style = (
            self.style(style_or_values) if isinstance(style_or_values, dict) else style_or_values
        )
        key = (kind, id(style), tuple(map(id, children)))
        cached = self._layouts.get(key)
        if cached is None:
            cached = self._layouts[key] = LayoutNode(kind, style, children, delta)
        return cached

    def by_room(
        self, measures: tuple[RoomMeasure, ...], nodes: tuple[LayoutNode, ...]
    ) -> LayoutNode:
        """The one node of a part that its room makes one of these: of how it stands in its holder
        they all say the same."""
        key = measures, tuple(map(id, nodes))
        cached = self._layouts.get(key)
        if cached is None:
            said = {name: getattr(nodes[0].style, TABLE[name].field) for name in _GIVEN_BY_HOLDER}
            cached = LayoutNode("box", self.style(said), (), None, RoomNodes(measures, nodes))
            self._layouts[key] = cached
        return cached

    def paint(self, values: dict[str, Literals]) -> PaintStyle:
        """The one paint style of these values."""
        key: object = _stated(values, _PAINT_PLACES)
        clipped = values.get("scrolls", "none") != "none"  # what is scrolled is not seen outside
        if clipped:
            key = key, clipped
        cached = self._paints.get(key)
        if cached is None:
            fields = [values.get(name, default) for name, default in PAINT_ROWS]
            cached = PaintStyle(*fields)  # type: ignore[arg-type]  # rows are in field order
            if clipped and not cached.clip:
                cached = msgspec.structs.replace(cached, clip=True)
            self._paints[key] = cached
        return cached

    def scene(self, parts: SceneParts, delta: ChildDelta | None = None) -> SceneNode:
        """The one scene node of these parts."""
        key = (
            id(parts.layout),
            id(parts.paint),
            tuple(map(id, parts.children)),
            parts.ids,
            parts.names,
            parts.click_through,
            parts.component,
            parts.variant,
            parts.problem,
            parts.order,
            parts.interaction,
            tuple(map(id, parts.rooms)),
            parts.known_rooms,
        )
        cached = self._scenes.get(key)
        if cached is None:
            cached = self._scenes[key] = SceneNode(parts, delta)
        return cached
