"""Rooms that parts are tried in: how much there is around them, and how large text is read."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import NamedTuple

import msgspec

from outgrowth.core.document.records import Component, Document, Owner, walk
from outgrowth.core.document.values import fixed, plain
from outgrowth.core.resolve.scene import Interner, LayoutNode, SceneNode, remade
from outgrowth.core.resolve.styles import LayoutStyle

Restyle = Callable[[LayoutStyle], LayoutStyle]


Insets = tuple[float, float, float, float]
"""Px at the top, right, bottom and left."""


class Room(NamedTuple):
    """A room: how wide it is (px; 0 as wide as the part makes it, `double` twice that), what it
    does to text, whether one reads from right to left in it, and what a device keeps for itself at
    its edges."""

    id: str
    title: str
    width: float = 0.0
    double: bool = False
    restyle: Restyle | None = None
    source: str = ""
    rtl: bool = False
    insets: Insets = (0.0, 0.0, 0.0, 0.0)


def _twice_as_large(style: LayoutStyle) -> LayoutStyle:
    return msgspec.structs.replace(
        style,
        font_size=style.font_size * 2,
        fluid_size=style.fluid_size * 2,
        letter_spacing=style.letter_spacing * 2,
    )


def _spaced(style: LayoutStyle) -> LayoutStyle:
    """Lines at least 1.5 font sizes high, 0.12 between letters, 0.16 between words (which is
    spread over the letters: there is no room of its own between words)."""
    text = plain(style.content)
    between_words = 0.16 * text.count(" ") / len(text) if text else 0.0
    least = (0.12 + between_words) * style.font_size
    return msgspec.structs.replace(
        style,
        line_height=max(style.line_height, 1.5),
        letter_spacing=max(style.letter_spacing, least),
    )


@cache
def _clearing(insets: Insets) -> Restyle:
    """What becomes of a box that clears the edges of a device."""

    def cleared(style: LayoutStyle) -> LayoutStyle:
        top, right, bottom, left = insets
        return msgspec.structs.replace(
            style,
            padding_top=style.padding_top + top,
            padding_right=style.padding_right + right,
            padding_bottom=style.padding_bottom + bottom,
            padding_left=style.padding_left + left,
        )

    return cleared


OWN_ROOM = Room("own", "Its own room")
DOUBLE = Room("double", "Twice as wide", double=True)
LARGE_TEXT = Room("text-200", "Text at 200 %", restyle=_twice_as_large, source="WCAG 2.2, 1.4.4")
SPACED_TEXT = Room("spaced", "Text spaced", restyle=_spaced, source="WCAG 2.2, 1.4.12")
NARROW = Room("width-320", "320 px wide", 320.0, source="WCAG 2.2, 1.4.10")
FROM_RIGHT = Room("right-to-left", "Right to left", rtl=True)
DEVICE = Room(
    "device-edges",
    "Edges of a phone",
    insets=(59.0, 0.0, 34.0, 0.0),
    source="common practice, no source: a phone held upright",
)
"""For what clears the edges of a device alone: all others look there as they do anywhere."""
SHIPPED_ROOMS = (OWN_ROOM, DOUBLE, LARGE_TEXT, SPACED_TEXT, NARROW, FROM_RIGHT)
"""All rooms that need nothing to be known of the document."""
ALL_ROOMS = (*SHIPPED_ROOMS, DEVICE)


def rooms_for(document: Document) -> tuple[Room, ...]:
    """The rooms that an owner is tried in: the edges of a device where anything in its file clears
    them."""
    return ALL_ROOMS if any(map(_says_clears, document.owners())) else SHIPPED_ROOMS


def _says_clears(owner: Owner) -> bool:
    nodes = list(walk(owner.root))
    rules = [rule for node in nodes for rule in node.overrides]
    rules += owner.rules if isinstance(owner, Component) else ()
    return any("clears-edges" in node.style for node in nodes) or any(
        rule.property == "clears-edges" for rule in rules
    )


def wide(width: float) -> Room:
    """A room of a width."""
    return Room("width", f"{width:g} px wide", width)


def room_named(room_id: str, width: float) -> Room | None:
    """The room that a kept trial means."""
    if room_id == "width":
        return wide(width)
    return next((room for room in ALL_ROOMS if room.id == room_id), None)


def _is_text(scene: SceneNode) -> bool:
    return scene.kind == "text"


def _clears_edges(scene: SceneNode) -> bool:
    return scene.kind == "box" and scene.interaction.clears_edges


class Tailor:
    """Makes scenes fit for rooms; what it made of a part it makes of all that are the same."""

    def __init__(self) -> None:
        self._interner = Interner()
        self._made: dict[tuple[int, Restyle], tuple[SceneNode, SceneNode]] = {}

    def as_in(self, room: Room, scene: SceneNode) -> SceneNode:
        """A scene with what a room does to its texts, and to what clears the edges of a device."""
        if room.restyle is not None:
            scene = self.restyled(scene, room.restyle)
        if any(room.insets):
            scene = self.restyled(scene, _clearing(room.insets), _clears_edges)
        return scene

    def restyled(
        self, scene: SceneNode, restyle: Restyle, is_meant: Callable[[SceneNode], bool] = _is_text
    ) -> SceneNode:
        """A scene with all that is meant in another style."""
        key = id(scene), restyle
        cached = self._made.get(key)
        if cached is not None:
            return cached[1]
        if scene.rooms:
            result = self._of_each_room(scene, lambda each: self.restyled(each, restyle, is_meant))
            self._made[key] = scene, result
            return result
        children = tuple(self.restyled(child, restyle, is_meant) for child in scene.children)
        style = scene.layout.style
        if is_meant(scene):
            style = restyle(style)
        result = self._with(scene, style, children)
        self._made[key] = scene, result
        return result

    def as_wide(self, scene: SceneNode, width: float) -> SceneNode:
        """A scene whose root, if it has a width of its own, has this one; one that fits what is in
        it is no wider, as on a page."""
        if scene.rooms:
            return self._of_each_room(scene, lambda each: self.as_wide(each, width))
        style = scene.layout.style
        if style.width.mode == "fit" and not style.max_width:
            style = msgspec.structs.replace(style, max_width=width)
        elif style.width.mode == "fixed" and style.width.amount != width:
            style = msgspec.structs.replace(style, width=fixed(width))
        return self._with(scene, style, scene.children)

    def _with(
        self, scene: SceneNode, style: LayoutStyle, children: tuple[SceneNode, ...]
    ) -> SceneNode:
        same = all(a is b for a, b in zip(children, scene.children, strict=True))
        if style is scene.layout.style and same:
            return scene
        below = tuple(child.layout for child in children)
        layout: LayoutNode = self._interner.layout(scene.layout.kind, style, below)
        return self._interner.scene(remade(scene, layout, children))

    def _of_each_room(
        self, scene: SceneNode, change: Callable[[SceneNode], SceneNode]
    ) -> SceneNode:
        """The scene of a part that its room decides, with each of what it can be changed."""
        rooms = tuple(change(each) for each in scene.rooms)
        measured = scene.layout.rooms
        assert measured is not None
        nodes = tuple(each.layout for each in rooms)
        layout = self._interner.by_room(measured.measures, nodes)
        return self._interner.scene(remade(scene, layout, rooms[0].children, rooms))
