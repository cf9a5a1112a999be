"""Parts whose room decides what they are: which one it is, and the scene of what was laid out.

A holder gives such a part its size without looking into it (CSS Containment 3, section 3.2: what is
contained has no size by what is in it); then the part is what that size makes of it. So all is
settled in one pass, from the outside in.

Source: CSS Conditional Rules 5, section 5 (container queries).
"""

from __future__ import annotations

from collections.abc import Callable
from weakref import ref

from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import BY_ROOM, ChildDelta, LayoutNode, SceneNode, remade

_MOST_SETTLED = 64
"""In how many ways one scene is kept as its rooms made it."""


def measured(node: LayoutNode, zero: Callable[[], float]) -> None:
    """Works out in px where the values of a part's axes begin; `zero` gives how wide a "0" is."""
    rooms = node.rooms
    if rooms is not None and rooms.leasts is None:
        rooms.leasts = tuple(
            tuple(least * (zero() if m.unit == "ch" else 1.0) for least in m.leasts)
            for m in rooms.measures
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


# Browsers count in 64ths of a px.
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
        return settled(
            scene.rooms[place_in_rooms(scene.layout, placed.width, placed.height)], placed
        )
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


def _with_children(scene: SceneNode, children: tuple[SceneNode, ...]) -> SceneNode:
    changed = tuple(
        [n for n, (a, b) in enumerate(zip(scene.children, children, strict=True)) if a is not b]
    )
    layouts = tuple([child.layout for child in children])
    delta = ChildDelta(ref(scene.layout), changed) if len(changed) < len(children) // 4 else None
    layout = LayoutNode(scene.kind, scene.layout.style, layouts, delta)
    return SceneNode(remade(scene, layout, children))
