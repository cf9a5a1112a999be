"""Components and screens as a whole: begun, copied, brought from elsewhere, removed."""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from outgrowth.core.color import Color
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.records import Component, Document, Screen
from outgrowth.core.document.uses import uses
from outgrowth.core.document.values import Value, fixed
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.edits.tree.nodes import new_node
from outgrowth.core.edits.tree.trees import owner_of, without_unseen
from outgrowth.core.refusal import Refusal

PAPER = Color(1.0, 1.0, 1.0)
GROUND = Color(0xE3 / 255, 0xE7 / 255, 0xE4 / 255)
"""The fill that a box is drawn with: seen on white and on the bench, and asking for another."""


class Device(NamedTuple):
    """A size that a screen can begin with, in CSS px."""

    name: str
    width: float
    height: float


DEVICES = (
    Device("Phone", 390, 844),
    Device("Small phone", 360, 640),
    Device("Tablet", 820, 1180),
    Device("Desktop", 1280, 800),
    Device("Wide desktop", 1920, 1080),
    Device("Kiosk", 1080, 1920),
    Device("Watch", 200, 240),
)
"""Common practice, no source."""


def new_component(document: Document, component_id: str, name: str, root_id: str) -> Document:
    """The document with a component to draw in: a row that fits what is put into it."""
    style: dict[str, Value] = {
        "flow": "row",
        "gap": 8.0,
        "align": "center",
        "justify": "center",
        "fill": GROUND,
    }
    style |= dict.fromkeys(FAMILY_MEMBERS["radius"], 6.0)
    style |= {"padding-top": 10.0, "padding-bottom": 10.0}
    style |= {"padding-left": 16.0, "padding-right": 16.0}
    root = new_node(root_id, free_name(document, name), "box", style)
    return add_component(document, Component(component_id, root.name, root))


def new_screen(
    document: Document, screen_id: str, name: str, size: tuple[float, float], root_id: str
) -> Document:
    """The document with an empty screen of this size: a column on white.

    Raises Refusal for a size that no screen has.
    """
    width, height = size
    if not (1 <= width <= 10_000 and 1 <= height <= 10_000):
        raise Refusal("A screen is from 1 to 10,000 px wide and high.")
    style: dict[str, Value] = {
        "flow": "column",
        "width": fixed(width),
        "height": fixed(height),
        "gap": 16.0,
        "fill": PAPER,
        "clip": True,
    }
    style |= dict.fromkeys(FAMILY_MEMBERS["padding"], 24.0)
    root = new_node(root_id, "screen", "box", style)
    return add_screen(document, Screen(screen_id, free_name(document, name), root))


def rename_document(document: Document, name: str) -> Document:
    """The document with a name. Raises Refusal for none."""
    if not name.strip():
        raise Refusal("A file needs a name.")
    return msgspec.structs.replace(document, name=name.strip())


def order_owner(document: Document, owner_id: str, after: str) -> Document:
    """The document with a component or screen right after another in its list; first for ""."""
    owner = owner_of(document, owner_id)
    field = "screen_order" if isinstance(owner, Screen) else "component_order"
    order: tuple[str, ...] = tuple(i for i in getattr(document, field) if i != owner_id)
    at = order.index(after) + 1 if after in order else 0
    order = (*order[:at], owner_id, *order[at:])
    if order == getattr(document, field):
        return document
    return msgspec.structs.replace(document, **{field: order})


def free_name(document: Document, name: str) -> str:
    """The name, or the name with a number behind it that none has yet."""
    used = {owner.name for owner in document.owners()}
    if name not in used:
        return name
    return next(f"{name} {n}" for n in range(2, 100_000) if f"{name} {n}" not in used)


def duplicate_owner(document: Document, owner_id: str, new_id: str) -> Document:
    """The document with a copy of a component or screen, right behind it."""
    owner = owner_of(document, owner_id)
    name = free_name(document, f"{owner.name} copy")
    copy = msgspec.structs.replace(owner, id=new_id, name=name)
    if isinstance(copy, Screen):
        after = add_screen(document, copy)
        order = _inserted_after(document.screen_order, owner_id, new_id)
        return msgspec.structs.replace(after, screen_order=order)
    after = add_component(document, copy)
    order = _inserted_after(document.component_order, owner_id, new_id)
    return msgspec.structs.replace(after, component_order=order)


def _inserted_after(order: tuple[str, ...], existing: str, new: str) -> tuple[str, ...]:
    index = order.index(existing) + 1
    return (*order[:index], new, *order[index:])


def remove_owner(document: Document, owner_id: str) -> Document:
    """The document without a component or screen.

    Raises Refusal for a component that is still used, saying where.
    """
    owner = owner_of(document, owner_id)
    if isinstance(owner, Screen):
        order = tuple(i for i in document.screen_order if i != owner_id)
        screens = document.screens.delete(owner_id)
        return without_unseen(
            msgspec.structs.replace(document, screens=screens, screen_order=order)
        )
    result = uses(document, owner_id)
    if result:
        names = sorted({u.name for use in result if (u := document.owner(use.owner)) is not None})
        places = ", ".join(names[:3]) + (" and elsewhere" if len(names) > 3 else "")
        raise Refusal(
            f"“{owner.name}” is used {len(result)} times, on {places}. "
            "Exchange or remove those instances first."
        )
    order = tuple(i for i in document.component_order if i != owner_id)
    components = document.components.delete(owner_id)
    return without_unseen(
        msgspec.structs.replace(document, components=components, component_order=order)
    )
