"""Parts whose room decides what they are: which one it is, and the scene of what was laid out.

A holder gives such a part its size without looking into it (CSS Containment 3, section 3.2: what is
contained has no size by what is in it); then the part is what that size makes of it. So all is
settled in one pass, from the outside in.

Source: CSS Conditional Rules 5, section 5 (container queries).
"""

from __future__ import annotations

from collections.abc import Callable
from weakref import ref

from immutables import Map

from outgrowth.core.document.records import Component, Document, Path, RoomUnit
from outgrowth.core.document.rooms import room_axes
from outgrowth.core.document.values import Literals
from outgrowth.core.layout.fluid import scene_in_room
from outgrowth.core.layout.placed import Placed
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.cascade import LiveValues
from outgrowth.core.resolve.scene import BY_ROOM, ChildDelta, LayoutNode, SceneNode, remade

_MOST_SETTLED = 64
"""In how many ways one scene is kept as its rooms made it."""


def measured(node: LayoutNode, px_of: Callable[[RoomUnit], float]) -> None:
    """Works out in px where the values of a part's axes begin."""
    rooms = node.rooms
    if rooms is not None and rooms.leasts is None:
        rooms.leasts = tuple(
            tuple(least * px_of(m.unit) for least in m.leasts) for m in rooms.measures
        )


def asks_room_height(node: LayoutNode) -> bool:
    """Whether a part asks for the height of its room."""
    return node.rooms is not None and any(m.side == "height" for m in node.rooms.measures)


def place_in_rooms(node: LayoutNode, width: float, height: float) -> int:
    """Which of its scenes a part is in a room of this size (px)."""
    rooms = node.rooms
    assert rooms is not None and rooms.leasts is not None
    place = 0
    for measure, steps in zip(rooms.measures, rooms.leasts, strict=True):
        room = width if measure.side == "width" else height
        reached = sum(least <= room + _SLACK for least in steps)
        place = place * (len(steps) + 1) + reached
    return place


# What floats lose by adding up is no px less of room.
_SLACK = 1e-6


def as_laid(node: LayoutNode, placed: Placed) -> LayoutNode:
    """The node as its room made it."""
    if node.rooms is None:
        return node
    return node.rooms.nodes[place_in_rooms(node, placed.width, placed.height)]


def settled(scene: SceneNode, placed: Placed) -> SceneNode:
    """The scene of what was laid out: each part as its room made it. The very same scene where
    nothing asks for its room."""
    if not (scene.layout.asks | scene.layout.deep) & BY_ROOM:
        return scene
    if scene.rooms:
        shown = scene.rooms[place_in_rooms(scene.layout, placed.width, placed.height)]
        return settled(scene_in_room(shown, placed.width), placed)
    if not scene.children:
        return scene
    children = tuple(
        [settled(child, part) for child, part in zip(scene.children, placed.children, strict=True)]
    )
    memory = scene.settled
    if memory is None or len(memory) >= _MOST_SETTLED:
        memory = scene.settled = {}
    key = tuple(map(id, children))
    known = memory.get(key)
    if known is None:
        # What is kept holds its children, so their ids stay theirs.
        known = memory[key] = _with_children(scene, children)
    return known


def rooms_shown(document: Document, scene: SceneNode) -> LiveValues:
    """What their rooms set of the parts in a scene that was laid out: (path, axis, value)."""
    components = {c.id: room_axes(c) for c in _set_by_rooms(document.components)}
    if not components:
        return ()
    found: list[tuple[Path, str, Literals]] = []

    def look(node: SceneNode, path: Path) -> None:
        for axis in components.get(node.component, ()) if path else ():
            if node.variant is not None:
                found.append((path, axis.id, node.variant[axis.id]))
        inner = path if node.component else path[:-1]
        for child_id, child in zip(node.ids, node.children, strict=True):
            look(child, (*inner, child_id))

    look(scene, ())
    return tuple(sorted(found, key=_path_and_axis))


def asks_for_room(document: Document) -> bool:
    """Whether the room sets any axis of any component."""
    return bool(_set_by_rooms(document.components))


def _path_and_axis(said: tuple[Path, str, Literals]) -> tuple[Path, str]:
    return said[:2]


def _with_rooms(components: Map[str, Component]) -> tuple[Component, ...]:
    return tuple(c for c in components.values() if room_axes(c))


_set_by_rooms = ByIdentity(_with_rooms, 8)


def _with_children(scene: SceneNode, children: tuple[SceneNode, ...]) -> SceneNode:
    changed = tuple(
        [n for n, (a, b) in enumerate(zip(scene.children, children, strict=True)) if a is not b]
    )
    layouts = tuple([child.layout for child in children])
    delta = ChildDelta(ref(scene.layout), changed) if len(changed) < len(children) // 4 else None
    layout = LayoutNode(scene.kind, scene.layout.style, layouts, delta)
    return SceneNode(remade(scene, layout, children))
