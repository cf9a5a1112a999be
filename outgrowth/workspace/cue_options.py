"""What a cue can listen for, ask for and change, each with its name."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from outgrowth.core.document.axis_parts import is_set_apart, resting_value
from outgrowth.core.document.cues import (
    Change,
    Condition,
    Path,
)
from outgrowth.core.document.graph import Edge
from outgrowth.core.document.records import Axis, AxisValue, Component, Document, Node, Owner, walk
from outgrowth.core.motion.movement import Moved


class ConditionAxis(NamedTuple):
    """An axis of the owner of a cue, or of an instance at a path in it, and what it is called."""

    at: Path
    axis: Axis
    label: str


def condition_axes(document: Document, owner: Owner) -> list[ConditionAxis]:
    """All axes that a cue's conditions can ask for, the owner's own first."""
    own = owner.axes if isinstance(owner, Component) else ()
    condition_axes = [ConditionAxis((), axis, axis.name) for axis in own]
    for node, component in _instances(document, owner):
        condition_axes += [
            ConditionAxis((node.id,), a, f"{a.name} of {node.name}") for a in component.axes
        ]
    return condition_axes


def asks_for(condition: Condition, place: ConditionAxis) -> bool:
    """Whether a condition is about an axis."""
    return (condition.at, condition.axis) == (place.at, place.axis.id)


def _instances(document: Document, owner: Owner) -> Iterator[tuple[Node, Component]]:
    for node in own_nodes(owner):
        component_id = node.style.get("component")
        component = document.components.get(component_id) if isinstance(component_id, str) else None
        if component is not None:
            yield node, component


def own_nodes(owner: Owner) -> list[Node]:
    """The nodes of an owner's tree, its root apart."""
    return [node for node in walk(owner.root) if node is not owner.root]


def possible_changes(document: Document, owner: Owner) -> list[tuple[Change, str]]:
    """All that a cue of an owner can do, with its name: its own axes, those of the instances
    in its tree, timers, screens, and going back."""
    settable_axes = _axes_of(owner, (), "") if isinstance(owner, Component) else []
    waits = [Change("restart")] if _waits(owner) else []
    label = [(change, "start its waiting again") for change in waits]
    for node, inner in _instances(document, owner):
        settable_axes += _axes_of(inner, (node.id,), f" of {node.name}")
        if _waits(inner):
            change = Change("restart", at=(node.id,))
            label.append((change, f"start the waiting of {node.name} again"))
    screens = document.screens_in_order()
    settable_axes += [*label, *((Change("go", s.id), f"show {s.name}") for s in screens)]
    return [*settable_axes, (Change("back"), "go back")]


def _waits(owner: Owner) -> bool:
    return any(cue.trigger.kind == "delay" for cue in owner.behaviour.cues)


def _axes_of(component: Component, path: Path, suffix: str) -> list[tuple[Change, str]]:
    results = []
    for axis in component.axes:
        if axis.driver == "none":
            results.append((Change("next", axis.id, at=path), f"{axis.name}{suffix}: next value"))
        for value in settable_values(axis):
            change = Change("set", axis.id, value.id, path)
            results.append((change, f"{axis.name}{suffix}: {value.name}"))
    return results


def settable_values(axis: Axis) -> list[AxisValue]:
    """The values that a cue can set: of an axis that the pointer sets, those that it never does,
    and the way back to rest."""
    if axis.driver in ("none", "room"):
        return list(axis.values) if axis.driver == "none" else []
    apart = [value for value in axis.values if is_set_apart(axis, value.id)]
    rest = [value for value in axis.values if apart and value.id == resting_value(axis)]
    return [*rest, *apart]


def driven_by_itself_text(axis: Axis) -> str:
    """Why an axis needs no cue."""
    return f"The {axis.driver} sets {axis.name} by itself, both ways; it needs no cue."


def movement_text(component: Component | None, edge: Edge | None, tracks: list[Moved]) -> str:
    """What a change leads from and to, and how much it moves."""
    if component is None:
        return "A cue from screen to screen fades one into the other."
    axis = component.axis(edge.axis) if edge is not None else None
    if edge is None or axis is None:
        return "Nothing leads from one state to another yet."
    start, end = axis.value(edge.start), axis.value(edge.end)
    route = f"{axis.name}: {start.name if start else ''} → {end.name if end else ''}"
    count = "1 track" if len(tracks) == 1 else f"{len(tracks)} tracks"
    return f"{route} moves {count}" if tracks else f"{route} moves nothing"


def short_value_text(value: object) -> str:
    """A value in a word or two, for a list of tracks."""
    if isinstance(value, float):
        return f"{value:.4g}"
    text = getattr(value, "hex", None)
    return text if isinstance(text, str) else type(value).__name__.lower()
