"""Axes and their values: made, named, ordered, laid along the grid, removed; what sets them, what
they mean, and where they start."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import msgspec

from outgrowth.core.document.everyday_words import AxisLine, axis_line
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    RoomSide,
    RoomUnit,
)
from outgrowth.core.document.rooms import room_text, value_at
from outgrowth.core.document.variants import laid
from outgrowth.core.edits.tree.components import add_axis, lay_axis
from outgrowth.core.edits.variants import axes, driving
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.workspace import Edit, Workspace


def axis_edit(edit: Callable, component: Component, axis: Axis, *rest: object) -> Edit:  # type: ignore[type-arg]  # of the edits' many shapes
    """An edit of an axis with everything but the document given."""
    return lambda document: edit(document, component.id, axis.id, *rest)


LAYINGS = ("rows", "columns", "chips")
"""Where an axis can lie in the grid of variants: along it, or one value at a time."""


def laying_of(component: Component, axis: Axis) -> str:
    """Where an axis lies now, one of LAYINGS."""
    return next(
        laying for laying, axes in zip(LAYINGS, laid(component), strict=True) if axis in axes
    )


def rename(workspace: Workspace, component: Component, axis: Axis, name: str) -> bool:
    """Names an axis; whether it was done."""
    return workspace.edit("rename an axis", axis_edit(axes.rename_axis, component, axis, name))


def rename_value(
    workspace: Workspace, component: Component, axis: Axis, value: AxisValue, name: str
) -> bool:
    """Names a value of an axis; whether it was done."""
    edit = axis_edit(axes.rename_value, component, axis, value.id, name)
    return workspace.edit("rename a value", edit)


def add(workspace: Workspace, text: str) -> bool:
    """Makes an axis of one line, like “On: no, yes”; the second of its values is selected: the
    next edit makes it so. Whether the line was one."""
    component, said = workspace.component, axis_line(text)
    if component is None or said is None:
        if text.strip() and component is not None:
            workspace.failed.emit("An axis is its name and its values, like “Type: plain, bold”.")
        return False
    values = _values_of(said, [fresh_id("value") for _ in said.values])
    axis = driving.axis_of_words(component, said.name, values, fresh_id("axis"), _room_of(said))
    axis = _beginning_here(workspace, component, axis)

    def change(document: Document) -> Document:
        return add_axis(document, component.id, axis)

    if not workspace.edit(f"add the axis {axis.name}", change):
        return False
    others = (v.id for v in axis.values if v.id != axis.default)
    chosen = axis.default if axis.driver == "room" else next(others, axis.default)
    variant = workspace.selection.variant.set(axis.id, chosen)
    workspace.select(workspace.selection.path, variant)
    return True


def _beginning_here(workspace: Workspace, component: Component, axis: Axis) -> Axis:
    """An axis that the room sets, starting with the value that holds where the part is as large as
    it is: what is drawn stays as it is."""
    if axis.driver != "room":
        return axis
    engine = workspace.engine
    placed = engine.view(workspace.document, component.id, workspace.selection.variant).placed
    own = placed.width if axis.side == "width" else placed.height
    room = own / engine.layout.unit_of_room(axis.unit)
    return msgspec.structs.replace(axis, default=value_at(axis, room))


_USUAL = (
    "Kind: Main, Quiet",
    "Size: Medium, Large",
    "On: no, yes",
    "Room: narrow < 320, usual",
)


def usual_line(workspace: Workspace) -> str:
    """The line of an axis that parts often have and this one has not; "" once it has them all."""
    component = workspace.component
    used = {axis.name for axis in component.axes} if component is not None else set()
    return next((line for line in _USUAL if line.partition(":")[0] not in used), "")


def line_text(workspace: Workspace, text: str) -> str:
    """What a line would make, in words, while it is typed; "" for nothing yet."""
    component, said = workspace.component, axis_line(text)
    if component is None or said is None:
        return ""
    values = _values_of(said, [f"v{n}" for n in range(len(said.values))])
    axis = driving.axis_of_words(component, said.name, values, "new", _room_of(said))
    times = len(axis.values)
    if axis.driver == "room":
        return f"{room_text(axis)} {times} times as many variants."
    names = ", ".join(f"{value.name}{_standing(axis, value)}" for value in axis.values)
    return f"{axis.name}{_saying(axis)}: {names}. {times} times as many variants."


def _values_of(said: AxisLine, ids: Sequence[str]) -> list[AxisValue]:
    leasts = said.leasts or [0.0] * len(ids)
    parts = zip(ids, said.values, leasts, strict=True)
    return [AxisValue(value_id, name, least=least) for value_id, name, least in parts]


def _room_of(said: AxisLine) -> tuple[RoomSide, RoomUnit] | None:
    return (said.side, said.unit) if said.leasts else None


def _standing(axis: Axis, value: AxisValue) -> str:
    return f" ({PART_WORDS[value.part]})" if value.part and axis.driver == "pointer" else ""


def _saying(axis: Axis) -> str:
    if axis.driver != "none":
        return f", set by the {axis.driver}"
    return f", says {axis.meaning}" if axis.meaning != "none" else ""


def start_with(workspace: Workspace, component: Component, axis: Axis, value: AxisValue) -> None:
    """Lets an axis start with a value."""
    edit = axis_edit(driving.set_start, component, axis, value.id)
    workspace.edit(f"start {axis.name} with {value.name}", edit)


def start_text(workspace: Workspace, component: Component, axis: Axis, value: AxisValue) -> str:
    """What another start would change, said before it is done."""
    if value.id == axis.default:
        return f"{axis.name} starts with {value.name}."
    if not driving.can_start(axis, value.id):
        return f"{value.name} comes and goes with the pointer, so nothing starts with it."
    count = len(driving.following_start(workspace.document, component.id, axis.id))
    touched = f"{count} instances that chose nothing follow." if count else "No instance changes."
    return f"Start with {value.name}. {touched}"


def drive(workspace: Workspace, component: Component, axis: Axis, driver: str) -> None:
    """Gives an axis to the hand, the pointer, the focus or the room."""

    def change(document: Document) -> Document:
        document = driving.set_driver(document, component.id, axis.id, driver)  # type: ignore[arg-type]  # a driver
        given = document.components[component.id]
        driven = given.axis(axis.id)
        if driver != "room" or driven is None:
            return document
        return axes.with_axis(document, given, _beginning_here(workspace, component, driven))

    workspace.edit(f"let the {DRIVER_WORDS[driver]} set {axis.name}", change)


def ask_room(
    workspace: Workspace, component: Component, axis: Axis, side: RoomSide, unit: RoomUnit
) -> None:
    """Lets an axis be set by another side of the room, or count it in another unit."""
    edit = axis_edit(driving.set_room, component, axis, side, unit)
    workspace.edit(f"{axis.name} goes by the {side} in {unit}", edit)


def begin_at(
    workspace: Workspace, component: Component, axis: Axis, value: AxisValue, least: float
) -> bool:
    """Lets a value begin at another room; whether it was done."""
    edit = axis_edit(driving.set_least, component, axis, value.id, least)
    return workspace.edit(f"{value.name} begins at {least:g} {axis.unit}", edit)


def mean(workspace: Workspace, component: Component, axis: Axis, meaning: str) -> None:
    """Says what an axis means."""
    edit = axis_edit(driving.set_meaning, component, axis, meaning)
    text = f"{axis.name} says {meaning}" if meaning != "none" else f"{axis.name} says nothing"
    workspace.edit(text, edit)


def stand_for(
    workspace: Workspace, component: Component, axis: Axis, value: AxisValue, part: str
) -> None:
    """Says what a value stands for."""
    edit = axis_edit(driving.set_part, component, axis, value.id, part)
    workspace.edit(f"{value.name} is {PART_WORDS[part]}", edit)


DRIVER_WORDS = {"none": "hand", "pointer": "pointer", "focus": "focus", "room": "room"}
"""What sets an axis, as a person would say it."""
PART_WORDS = {
    "rest": "at rest",
    "hover": "hover",
    "press": "press",
    "focus": "focus",
    "disabled": "disabled",
    "cued": "by cues",
    "yes": "yes",
    "no": "no",
    "mixed": "mixed",
}
"""What a value stands for, as a person would say it."""


def move(workspace: Workspace, component: Component, axis: Axis, index: int) -> None:
    """Puts an axis at a place among the others."""
    if component.axes.index(axis) != index:
        edit = axis_edit(axes.move_axis, component, axis, index)
        workspace.edit(f"move the axis {axis.name}", edit)


def move_value(
    workspace: Workspace, component: Component, axis: Axis, value: AxisValue, index: int
) -> None:
    """Puts a value at a place among the others of its axis."""
    if axis.values.index(value) != index:
        edit = axis_edit(axes.move_value, component, axis, value.id, index)
        workspace.edit(f"move {value.name} of {axis.name}", edit)


def lay(workspace: Workspace, component: Component, axis: Axis, laying: str) -> None:
    """Lays an axis along the rows, the columns, or as chips of which one is chosen."""
    edit = axis_edit(lay_axis, component, axis, laying)
    workspace.edit(f"lay {axis.name} along the {laying}", edit)


def remove(workspace: Workspace, component: Component, axis: Axis, value_id: str = "") -> None:
    """Removes an axis, or one of its values."""
    if value_id:
        edit = axis_edit(axes.remove_value, component, axis, value_id)
        workspace.edit(f"remove from {axis.name}", edit)
    else:
        edit = axis_edit(axes.remove_axis, component, axis)
        workspace.edit(f"remove {axis.name}", edit)


def removal_text(workspace: Workspace, component: Component, axis: Axis, value_id: str = "") -> str:
    """ "remove, 9 change": how many instances removal changes, said before it is done."""
    fallen = axes.fallbacks(workspace.document, component.id, axis.id, value_id)
    return f"remove, {len(fallen)} change" if fallen else "remove"


def fallback_text(workspace: Workspace, component: Component, axis: Axis, value_id: str) -> str:
    """What becomes of the instances that use a value, if it is removed."""
    fallen = axes.fallbacks(workspace.document, component.id, axis.id, value_id)
    if not fallen:
        return "No instance uses it."
    return f"{len(fallen)} instances fall back to {fallen[0].becomes}."
