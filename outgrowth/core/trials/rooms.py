"""Rooms that parts are tried in: how much there is around them, and how large text is read."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import msgspec

from outgrowth.core.document.values import fixed, plain
from outgrowth.core.resolve.scene import Interner, LayoutNode, SceneNode, remade
from outgrowth.core.resolve.styles import LayoutStyle

Restyle = Callable[[LayoutStyle], LayoutStyle]


class Room(NamedTuple):
    """A room: how wide it is (px; 0 as wide as the part makes it, `double` twice that), what it
    does to text, and whether one reads from right to left in it."""

    id: str
    title: str
    width: float = 0.0
    double: bool = False
    restyle: Restyle | None = None
    source: str = ""
    rtl: bool = False


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


OWN_ROOM = Room("own", "Its own room")
DOUBLE = Room("double", "Twice as wide", double=True)
LARGE_TEXT = Room("text-200", "Text at 200 %", restyle=_twice_as_large, source="WCAG 2.2, 1.4.4")
SPACED_TEXT = Room("spaced", "Text spaced", restyle=_spaced, source="WCAG 2.2, 1.4.12")
NARROW = Room("width-320", "320 px wide", 320.0, source="WCAG 2.2, 1.4.10")
FROM_RIGHT = Room("right-to-left", "Right to left", rtl=True)
SHIPPED_ROOMS = (OWN_ROOM, DOUBLE, LARGE_TEXT, SPACED_TEXT, NARROW, FROM_RIGHT)
"""All rooms that need nothing to be known of the document."""


def wide(width: float) -> Room:
    """A room of a width."""
    return Room("width", f"{width:g} px wide", width)


def room_named(room_id: str, width: float) -> Room | None:
    """The room that a kept trial means."""
    if room_id == "width":
        return wide(width)
    return next((room for room in SHIPPED_ROOMS if room.id == room_id), None)


class Tailor:
    """Makes scenes fit for rooms; what it made of a part it makes of all that are the same."""

    def __init__(self) -> None:
        self._interner = Interner()
        self._made: dict[tuple[int, Restyle], tuple[SceneNode, SceneNode]] = {}

    def restyled(self, scene: SceneNode, restyle: Restyle) -> SceneNode:
        """A scene with all its texts in another style."""
        key = id(scene), restyle
        cached = self._made.get(key)
        if cached is not None:
            return cached[1]
        if scene.rooms:
            result = self._of_each_room(scene, lambda each: self.restyled(each, restyle))
            self._made[key] = scene, result
            return result
        children = tuple(self.restyled(child, restyle) for child in scene.children)
        style = scene.layout.style
        if scene.kind == "text":
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
