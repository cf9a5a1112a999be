"""Letters that grow with the room: between two sizes, from one width of the room to another.

The room is that of the nearest part around them that asks for it (by_room.py), else the inside of
the screen. As its width does not depend on what is in it, the letters are settled in the same pass.

Source: CSS Conditional Rules 5, section 6 (container query length units).
"""

from __future__ import annotations

import msgspec

from outgrowth.core.document.properties import FAMILY_MEMBERS, TABLE
from outgrowth.core.layout.memory import MOST_SIZES, memory_of
from outgrowth.core.resolve.scene import FLUID, LayoutNode, SceneNode, remade
from outgrowth.core.resolve.styles import LayoutStyle

_STILL = {TABLE[name].field: TABLE[name].default for name in FAMILY_MEMBERS["grows-to"]}
"""What letters say that do not grow: two that came to one look are one."""

LEAST_SPAN = 1.0
"""Px of room over which letters grow at least: none would be a leap that CSS can't say."""


def size_in(style: LayoutStyle, room: float) -> float:
    """How large letters are in a room so wide (px)."""
    span = max(style.fluid_until - style.fluid_from, LEAST_SPAN)
    share = min(max((room - style.fluid_from) / span, 0.0), 1.0)
    return style.font_size + (style.fluid_size - style.font_size) * share


def inside_width(node: LayoutNode, width: float) -> float:
    """The room that a screen so wide has inside (px)."""
    style = node.style
    if style.flow == "free":
        return width
    return max(width - style.padding_left - style.padding_right, 0.0)


def in_room(node: LayoutNode, room: float) -> LayoutNode:
    """The node with all letters as a room so wide makes them (px); parts with a room of their own
    stay. The very same node where nothing grows."""
    if not (node.asks | node.deep) & FLUID or node.rooms is not None:
        return node
    known = memory_of(node).fluid
    cached = known.get(room)
    if cached is None:
        if len(known) >= MOST_SIZES:
            known.clear()
        cached = known[room] = _made(node, room)
    return cached


def _made(node: LayoutNode, room: float) -> LayoutNode:
    if node.kind == "text":
        size = size_in(node.style, room)
        style = msgspec.structs.replace(node.style, font_size=size, **_STILL)
        return LayoutNode(node.kind, style, ())
    children = tuple([in_room(child, room) for child in node.children])
    if all(a is b for a, b in zip(children, node.children, strict=True)):
        return node
    return LayoutNode(node.kind, node.style, children)


def scene_in_room(scene: SceneNode, room: float) -> SceneNode:
    """The scene whose letters are as a room so wide makes them (px); its layout is that of
    `in_room`."""
    layout = in_room(scene.layout, room)
    if layout is scene.layout:
        return scene
    if scene.settled is None or len(scene.settled) >= MOST_SIZES:
        scene.settled = {}
    key = ("fluid", room)
    cached = scene.settled.get(key)
    if cached is None:
        children = tuple([scene_in_room(child, room) for child in scene.children])
        cached = scene.settled[key] = SceneNode(remade(scene, layout, children))
    return cached
