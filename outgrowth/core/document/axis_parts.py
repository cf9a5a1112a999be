"""What the values of an axis stand for, whatever they are called.

Of an axis that the pointer sets, each value has a part: what is shown at rest, under the pointer,
while pressed, with the focus, or while disabled; or none of these, then only cues set it. Of an
axis that means something (checked, expanded …), a value says yes, no or mixed. A value says its
part; where it does not (files from before parts were said), what told then tells: the ids “rest”,
“hover” and “press” of the pointer's parts (an axis that has none of rest starts at rest, and the
others are disabled), and the names yes, on and true.
"""

from __future__ import annotations

from collections.abc import Mapping

import msgspec
from immutables import Map

from outgrowth.core.document.records import POINTER_VALUES, Axis, Component, ValuePart
from outgrowth.core.memo import ByIdentity

DRIVEN_PARTS: tuple[ValuePart, ...] = ("rest", "hover", "press", "focus")
"""What comes and goes with pointer and focus: an instance that chooses one of them is at rest
while it runs."""
POINTER_PARTS: tuple[ValuePart, ...] = (*DRIVEN_PARTS, "disabled", "cued")
"""What a value of an axis can stand for that the pointer sets."""
SAYING_PARTS: tuple[ValuePart, ...] = ("yes", "no", "mixed")
"""What a value says of the meaning of its axis."""

_YES, _MIXED = {"yes", "on", "true"}, {"mixed", "some", "partly"}
NO_PARTS: Map[str, ValuePart] = Map()


def _pointer_parts(axis: Axis) -> Mapping[str, ValuePart]:
    if axis.driver != "pointer":
        return NO_PARTS
    parts: dict[str, ValuePart] = {
        value.id: value.part if value.part in POINTER_PARTS else "" for value in axis.values
    }
    said = set(parts.values())
    for name in POINTER_VALUES:
        if parts.get(name) == "" and name not in said:
            parts[name] = name
    if "rest" not in parts.values() and not parts[axis.default]:
        parts[axis.default] = "rest"
    return {value_id: part or "disabled" for value_id, part in parts.items()}


_pointer_parts_of = ByIdentity(_pointer_parts, 4096)


def pointer_parts(axis: Axis) -> Mapping[str, ValuePart]:
    """The part of each value of an axis, by its id; empty where the pointer does not set it."""
    return _pointer_parts_of(axis)


def pointer_part(axis: Axis, value_id: object) -> ValuePart:
    """What a value stands for; "" for one that is not there, or whose axis the pointer does not
    set."""
    return pointer_parts(axis).get(str(value_id), "")


def value_for(axis: Axis, part: ValuePart) -> str | None:
    """The id of the value that the pointer (or the focus) sets for a part: the first that stands
    for it; None if none does."""
    return next((value_id for value_id, each in pointer_parts(axis).items() if each == part), None)


def is_driven(axis: Axis, value_id: object) -> bool:
    """Whether a value is one that comes and goes with the pointer, so that it is not chosen."""
    return pointer_part(axis, value_id) in DRIVEN_PARTS


def is_set_apart(axis: Axis, value_id: object) -> bool:
    """Whether a value is one that the pointer never sets, nor takes away."""
    return pointer_part(axis, value_id) in ("disabled", "cued")


def resting_value(axis: Axis) -> str:
    """The id of the value that an axis has while nothing drives it and nobody chose: of one that
    the pointer sets, that which stands for rest; else where it starts."""
    return value_for(axis, "rest") or axis.default


def focus_value(axis: Axis) -> str | None:
    """The id of the value that an axis has with the focus; None where it shows none."""
    if axis.driver != "focus":
        return value_for(axis, "focus")
    said = (value.id for value in axis.values if value.part == "focus")
    others = (value.id for value in axis.values if value.id != axis.default)
    return next(said, None) or next(others, None)


def focus_axes(component: Component) -> list[Axis]:
    """The axes of a component that show the focus."""
    return [axis for axis in component.axes if focus_value(axis) is not None]


def says(axis: Axis, value_id: object) -> ValuePart:
    """What a value says of what its axis means: yes, no or mixed."""
    value = axis.value(str(value_id))
    if value is None:
        return "no"
    if value.part in SAYING_PARTS:
        return value.part
    name = value.name.lower()
    return "yes" if name in _YES else "mixed" if name in _MIXED else "no"


def reads_yes(axis: Axis, value_id: object) -> bool:
    """Whether a value says that what its axis means is so."""
    return says(axis, value_id) == "yes"


def with_parts_said(axis: Axis) -> Axis:
    """The axis with what each of its values stands for said in so many words, so that neither
    another order, another start nor other names change it."""

    def part(value_id: str) -> ValuePart:
        if axis.driver == "pointer":
            return pointer_part(axis, value_id)
        if axis.driver == "focus" and value_id == focus_value(axis):
            return "focus"
        return says(axis, value_id) if axis.meaning != "none" else ""

    values = tuple(
        msgspec.structs.replace(value, part=part(value.id) or value.part) for value in axis.values
    )
    return msgspec.structs.replace(axis, values=values)


def with_rest(axis: Axis) -> Axis:
    """The axis, its start standing for rest where no value of one that the pointer sets does."""
    if axis.driver != "pointer" or value_for(axis, "rest") is not None:
        return axis
    values = tuple(
        msgspec.structs.replace(value, part="rest") if value.id == axis.default else value
        for value in axis.values
    )
    return msgspec.structs.replace(axis, values=values)


def starting_at_rest(axis: Axis) -> Axis:
    """The axis, starting where it rests if it would start with what comes and goes with the
    pointer: what is drawn is what runs."""
    if not is_driven(axis, axis.default) or axis.default == resting_value(axis):
        return axis
    return msgspec.structs.replace(axis, default=resting_value(axis))
