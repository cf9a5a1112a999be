"""Variants and axes: offered, taken out, begun like another; axes and states that are added."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from immutables import Map

from outgrowth.core.color import Color, Gradient
from outgrowth.core.document.everyday_words import USUAL_STEP, axis_line, guessed
from outgrowth.core.document.records import (
    MOST_ROOM,
    POINTER_VALUES,
    Axis,
    AxisValue,
    Component,
    Document,
)
from outgrowth.core.document.values import Shift, Value
from outgrowth.core.document.variants import Variant, condition_text
from outgrowth.core.edits.instances import extract
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_axis_value
from outgrowth.core.edits.variants import axes
from outgrowth.core.edits.variants.driving import can_start
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace.commands import axis_commands
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.workspace import Workspace


def offer(workspace: Workspace, variant: Variant, offered: bool) -> None:
    """Offers a variant of the component on the bench, or takes it back."""
    component = workspace.component
    if component is not None:
        workspace.edit(
            "offer a variant" if offered else "no longer offer a variant",
            lambda document: axes.set_offered(document, component.id, variant, offered),
        )


def offer_none(workspace: Workspace) -> None:
    """Offers none of the variants within the present reach."""
    component, reach = workspace.component, workspace.reach
    if component is not None:
        subject = condition_text(component, reach)
        workspace.edit(
            f"offer none of {subject}",
            lambda document: axes.offer_none(document, component.id, reach),
        )


def take_out(workspace: Workspace) -> None:
    """The selected variant becomes a component of its own."""
    component = workspace.component
    if component is None:
        return
    variant, new_id = workspace.selection.variant, fresh_id("component")
    chosen = [
        value.name
        for axis in component.axes
        if axis.driver == "none" and (value := axis.value(variant[axis.id])) is not None
    ]
    name = " ".join([component.name, *chosen])
    if workspace.edit(
        f"take {name.rpartition('/')[2]} out",
        lambda document: extract.take_out(document, component.id, variant, new_id, name),
    ):
        workspace.open(new_id)


def add_value(
    workspace: Workspace, component: Component, axis: Axis, name: str, template: AxisValue | None
) -> None:
    """A new value of an axis, its variants starting as those of another value. Of one that the room
    sets its name may say where it begins: “wide ≥ 640”."""
    said = axis_line(f"{axis.name}: {name}") if axis.driver == "room" else None
    least = 0.0
    if said is not None:
        name = said.values[0]
        least = said.leasts[0] if said.leasts else 0.0
        least = least or min(max(v.least for v in axis.values) + USUAL_STEP, MOST_ROOM)
    used = {value.name for value in axis.values}
    stem = name.removesuffix(" 1")
    free = next(n for n in (name, *(f"{stem} {i}" for i in range(2, 999))) if n not in used)
    new = AxisValue(fresh_id("value"), free, least=least)
    like_id = template.id if template is not None else ""
    if workspace.edit(
        f"add {free} to {axis.name}",
        lambda document: add_axis_value(document, component.id, axis.id, new, like_id),
    ):
        variant = workspace.selection.variant
        workspace.select(workspace.selection.path, variant.set(axis.id, new.id))


def value_acts(
    workspace: Workspace, component: Component, axis: Axis, value: AxisValue
) -> list[tuple[str, Callable[[], object]]]:
    """What can be done with a value of an axis, besides naming and ordering it: in words that say
    what it would change, and what does it."""
    copy = partial(add_value, workspace, component, axis, f"{value.name} copy", value)
    acts: list[tuple[str, Callable[[], object]]] = [("A value that begins like this", copy)]
    if value.id != axis.default and can_start(axis, value.id):
        text = axis_commands.start_text(workspace, component, axis, value)
        acts.append((text, partial(axis_commands.start_with, workspace, component, axis, value)))
    text = axis_commands.removal_text(workspace, component, axis, value.id)
    remove = partial(axis_commands.remove, workspace, component, axis, value.id)
    return [*acts, (text[:1].upper() + text[1:], remove)]


def variant_like_this(workspace: Workspace, axis_id: str) -> None:
    """A new variant that starts as the selected one: a new value of one of its axes."""
    component = workspace.component
    axis = component.axis(axis_id) if component is not None else None
    if component is None or axis is None:
        return
    template = axis.value(workspace.selection.variant[axis_id])
    name = f"{template.name} copy" if template is not None else "Value 1"
    add_value(workspace, component, axis, name, template)


_DARKER = {"hover": 0.08, "press": 0.16}


def give_states(workspace: Workspace) -> None:
    """Rest, hover and press, set by the pointer; a part with a fill gets darker, whatever
    that fill is in each kind. An axis whose values are called so already is given to the
    pointer."""
    component = workspace.component
    if component is None:
        return
    named = next((a for a in component.axes if a.driver == "none" and _reads_driven(a)), None)
    if named is not None:
        axis_commands.drive(workspace, component, named, "pointer")
        return
    values = tuple(AxisValue(v, v) for v in POINTER_VALUES)
    # An axis called State may be another thing altogether.
    used = {axis.name for axis in component.axes}
    name = next(n for n in ("State", *(f"State {k}" for k in range(2, 999))) if n not in used)
    axis = Axis(fresh_id("axis"), name, values, "rest", "pointer")
    filled = _is_filled(workspace, component)

    def change(document: Document) -> Document:
        document = add_axis(document, component.id, axis)
        place = Place(component.id, (), workspace.selection.variant)
        for state, share in _DARKER.items() if filled else ():
            values: dict[str, Value] = {"fill": Shift("darken", share)}
            document = set_properties(document, place, values, Map({axis.id: state}))
        return document

    if workspace.edit("give it hover and press", change):
        # The states are the whole part's, and so is what is said of them next.
        workspace.select((), workspace.selection.variant.set(axis.id, "rest"))


def _reads_driven(axis: Axis) -> bool:
    return guessed([value.name for value in axis.values]).driver == "pointer"


def _is_filled(workspace: Workspace, component: Component) -> bool:
    place = Place(component.id, (), workspace.selection.variant)
    inspection = inspect(workspace.document, place)
    fill = inspection.value("fill") if inspection is not None else None
    return isinstance(fill, Color | Gradient) and fill.alpha > 0
