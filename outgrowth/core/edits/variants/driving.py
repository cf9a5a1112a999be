"""What an axis says of itself: where it starts, what sets it, what it means, and what its values
stand for. None of these changes how any variant looks; another start is followed by the instances
that chose nothing."""

from __future__ import annotations

from collections.abc import Sequence

import msgspec

from outgrowth.core.document.axis_parts import (
    POINTER_PARTS,
    SAYING_PARTS,
    is_driven,
    resting_value,
    starting_at_rest,
    with_parts_said,
)
from outgrowth.core.document.everyday_words import (
    driven_by,
    meaning_something,
    plainly,
    usual_axis_name,
    with_parts,
)
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    MOST_ROOM,
    Axis,
    AxisValue,
    Component,
    Document,
    Driver,
    Meaning,
    RoomSide,
    RoomUnit,
    ValuePart,
)
from outgrowth.core.document.rooms import room_axes
from outgrowth.core.document.uses import Use, holds_directly
from outgrowth.core.document.variants import default_variant, offered
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.variants.axes import axis_of, value_of, with_axis
from outgrowth.core.refusal import Refusal


def set_start(document: Document, component_id: str, axis_id: str, value_id: str) -> Document:
    """The document with a value that instances have which chose nothing. Raises Refusal for one
    that comes and goes with the pointer, and where the variant that they would show is not
    offered."""
    component, axis = axis_of(document, component_id, axis_id)
    value = value_of(axis, value_id)
    if axis.default == value.id:
        return document
    if not can_start(axis, value.id):
        raise Refusal(
            f"{value.name} comes and goes with the pointer, so nothing starts with it; let it "
            "stand for rest instead."
        )
    started = msgspec.structs.replace(with_parts_said(axis), default=value.id)
    changed = with_axis(document, component, started)
    after = component_of(changed, component_id)
    if not offered(after, default_variant(after)):
        raise Refusal(
            f"“{component.name}” can't start with {axis.name}: {value.name}; that variant is not "
            "offered. Offer it first."
        )
    return changed


def can_start(axis: Axis, value_id: str) -> bool:
    """Whether an axis can start with a value: not with what comes and goes with the pointer."""
    return not is_driven(axis, value_id) or value_id == resting_value(axis)


def following_start(document: Document, component_id: str, axis_id: str) -> list[Use]:
    """The instances that chose no value of an axis: another start is another look of theirs."""
    return [
        Use(owner.id, node.id)
        for owner in document.owners()
        for node, followed in holds_directly(owner)
        if followed == component_id and CHOICE + axis_id not in node.style
    ]


def set_driver(document: Document, component_id: str, axis_id: str, driver: Driver) -> Document:
    """The document with an axis that pointer, focus or the room sets, or (“none”) the hand. What
    its values stand for is what they said, or what their names tell. Raises Refusal where another
    axis of the component is set so already, and for a part that its room can't decide."""
    component, axis = axis_of(document, component_id, axis_id)
    if axis.driver == driver:
        return document
    others = [a for a in component.axes if a is not axis and a.driver == driver]
    given = driven_by(axis, driver)
    if driver == "room" and len(others) == 1:
        # One by the width and one by the height.
        side: RoomSide = "height" if others[0].side == "width" else "width"
        given, others = msgspec.structs.replace(given, side=side), []
    if driver != "none" and others:
        raise Refusal(f"The {driver} sets {others[0].name} of “{component.name}” already.")
    return with_axis(document, component, given)


def set_room(
    document: Document, component_id: str, axis_id: str, side: RoomSide, unit: RoomUnit
) -> Document:
    """The document with an axis that the room sets by another side, or in another unit (its values
    begin at the same numbers). Raises Refusal where another axis has that side."""
    component, axis = axis_of(document, component_id, axis_id)
    others = [a.name for a in room_axes(component) if a is not axis and a.side == side]
    if others:
        raise Refusal(f"The {side} of the room sets {others[0]} of “{component.name}” already.")
    return with_axis(document, component, msgspec.structs.replace(axis, side=side, unit=unit))


def set_least(
    document: Document, component_id: str, axis_id: str, value_id: str, least: float
) -> Document:
    """The document with a value that begins at another room (in the axis's unit). Raises Refusal
    for a room below nothing, and where another value begins there."""
    component, axis = axis_of(document, component_id, axis_id)
    value = value_of(axis, value_id)
    if not 0 <= least <= MOST_ROOM:
        raise Refusal(f"A room has 0 to {MOST_ROOM:,.0f} {axis.unit}.")
    others = [v.name for v in axis.values if v.id != value_id and v.least == least]
    if others:
        raise Refusal(f"{others[0]} begins at {least:g} {axis.unit}; {value.name} can't as well.")
    values = tuple(
        msgspec.structs.replace(v, least=float(least)) if v.id == value_id else v
        for v in axis.values
    )
    return with_axis(document, component, msgspec.structs.replace(axis, values=values))


def set_meaning(document: Document, component_id: str, axis_id: str, meaning: Meaning) -> Document:
    """The document with an axis that means something. Which of its values say so is what they
    said, or what their names tell. Raises Refusal for an axis that the pointer sets, and where
    another axis means it already."""
    component, axis = axis_of(document, component_id, axis_id)
    if axis.meaning == meaning:
        return document
    if meaning != "none" and axis.driver != "none":
        raise Refusal(
            f"{axis.name} is set by the {axis.driver}, so it says nothing else; give its value of "
            "that meaning an axis of its own."
        )
    others = [a.name for a in component.axes if a is not axis and a.meaning == meaning]
    if meaning != "none" and others:
        raise Refusal(f"{others[0]} of “{component.name}” says “{meaning}” already.")
    if meaning == "none":
        given = msgspec.structs.replace(axis, meaning=meaning)
    else:
        given = meaning_something(axis, meaning)
    return with_axis(document, component, given)


def set_part(
    document: Document, component_id: str, axis_id: str, value_id: str, part: ValuePart
) -> Document:
    """The document with a value that stands for something. Of the pointer's parts each is one
    value's, so the value that stood for it takes the other's; what started at rest goes on
    doing so. Raises Refusal where the axis knows no such part."""
    component, axis = axis_of(document, component_id, axis_id)
    value = value_of(axis, value_id)
    known = parts_of_axis(axis)
    if part not in known:
        raise Refusal(f"A value of {axis.name} can't stand for “{part}”.")
    said = with_parts_said(axis)
    parts = {each.id: each.part for each in said.values}
    before = parts[value.id]
    if axis.driver != "none" and part not in ("disabled", "cued", ""):
        for other, stands_for in parts.items():
            if stands_for == part and other != value.id:
                parts[other] = before if before != "" else "cued"
    parts[value.id] = part
    if axis.driver == "pointer" and "rest" not in parts.values():
        raise Refusal(f"One value of {axis.name} has to be that at rest; say first which.")
    given = with_parts(said, [parts[v.id] for v in axis.values])
    return with_axis(document, component, starting_at_rest(given))


def parts_of_axis(axis: Axis) -> Sequence[ValuePart]:
    """What the values of an axis can stand for; nothing where nobody asks."""
    if axis.driver == "pointer":
        return POINTER_PARTS
    return SAYING_PARTS if axis.meaning != "none" else ()


def axis_of_words(
    component: Component,
    name: str,
    values: Sequence[AxisValue],
    axis_id: str,
    room: tuple[RoomSide, RoomUnit] | None = None,
) -> Axis:
    """A new axis with values of these names, and all that the words tell of it: what sets it, what
    it means. Its name is free in the component. `room` says that its room sets it, by which side
    and in which unit."""
    names = [value.name for value in values]
    used = {axis.name for axis in component.axes}
    stem = name or usual_axis_name(names, len(component.axes) + 1)
    free = next(n for n in (stem, *(f"{stem} {k}" for k in range(2, 999))) if n not in used)
    axis = plainly(Axis(axis_id, free, tuple(values), values[0].id))
    if room is not None:
        side, unit = room
        return msgspec.structs.replace(
            axis, driver="room", meaning="none", side=side, unit=unit, values=tuple(values)
        )
    taken = {a.driver for a in component.axes} - {"none"}
    meant = {a.meaning for a in component.axes} - {"none"}
    if axis.driver in taken or axis.meaning in meant:
        axis = Axis(axis_id, free, tuple(values), values[0].id)
    return axis
