"""Every motion that a document holds: of cues, values, axes, parts, components, and the file."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

import msgspec

from outgrowth.core.document.cues import Behaviour, Cue, Motion, Trigger
from outgrowth.core.document.graph import edges
from outgrowth.core.document.records import Axis, Component, Document, Owner
from outgrowth.core.document.sentences import component_of
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.memo import ByIdentity

MotionEdit = Callable[[Motion], Motion]


def waits_of(owner: Owner) -> Iterator[Trigger]:
    """The triggers of an owner's cues, which wait for a time or not."""
    yield from (cue.trigger for cue in owner.behaviour.cues)


def with_waits(document: Document, change: Callable[[Trigger], Trigger]) -> Document:
    """The document with a change done to every trigger."""
    for owner in tuple(document.owners()):
        behaviour = owner.behaviour
        cues = tuple(
            cue
            if (trigger := change(cue.trigger)) is cue.trigger
            else msgspec.structs.replace(cue, trigger=trigger)
            for cue in behaviour.cues
        )
        if any(a is not b for a, b in zip(cues, behaviour.cues, strict=True)):
            changed = msgspec.structs.replace(behaviour, cues=cues)
            document = with_owner(document, msgspec.structs.replace(owner, behaviour=changed))
    return document


def motions_of(owner: Owner) -> Iterator[Motion]:
    """All motions that an owner says, those of its parts too."""
    behaviour = owner.behaviour
    yield from (cue.motion for cue in behaviour.cues if cue.motion is not None)
    yield from (part.motion for part in behaviour.motions)
    if not isinstance(owner, Component):
        return
    motions = [owner.motion, *(axis.motion for axis in owner.axes)]
    motions += [value.motion for axis in owner.axes for value in axis.values]
    yield from (motion for motion in motions if motion is not None)


def with_motions(document: Document, change: MotionEdit) -> Document:
    """The document with a change done to every motion."""
    file_motion = change(document.motion)
    if file_motion != document.motion:
        document = msgspec.structs.replace(document, motion=file_motion)
    for owner in tuple(document.owners()):
        if any(change(motion) != motion for motion in motions_of(owner)):
            document = with_owner(document, _owner(owner, change))
    return document


def with_motions_of(document: Document, owner_id: str, change: MotionEdit) -> Document:
    """The document with a change done to every motion of one owner."""
    owner = document.owner(owner_id)
    if owner is None or not any(change(motion) != motion for motion in motions_of(owner)):
        return document
    return with_owner(document, _owner(owner, change))


def _owner(owner: Owner, change: MotionEdit) -> Owner:
    behaviour = _behaviour(owner.behaviour, change)
    if not isinstance(owner, Component):
        return msgspec.structs.replace(owner, behaviour=behaviour)
    axes = tuple(_axis(axis, change) for axis in owner.axes)
    motion = _changed(owner.motion, change)
    return msgspec.structs.replace(owner, behaviour=behaviour, axes=axes, motion=motion)


def _axis(axis: Axis, change: MotionEdit) -> Axis:
    values = tuple(
        msgspec.structs.replace(value, motion=_changed(value.motion, change))
        for value in axis.values
    )
    return msgspec.structs.replace(axis, values=values, motion=_changed(axis.motion, change))


def _behaviour(behaviour: Behaviour, change: MotionEdit) -> Behaviour:
    cues = tuple(
        msgspec.structs.replace(cue, motion=_changed(cue.motion, change)) for cue in behaviour.cues
    )
    motions = tuple(
        msgspec.structs.replace(part, motion=change(part.motion)) for part in behaviour.motions
    )
    return msgspec.structs.replace(behaviour, cues=cues, motions=motions)


def _changed(motion: Motion | None, change: MotionEdit) -> Motion | None:
    return change(motion) if motion is not None else None


# --- which changes a motion bears on ----------------------------------------------------------


class MovedChange(NamedTuple):
    """One change of the file: which value comes, of which axis of which component, by which cue of
    which owner (no cue: by pointer or focus), and which levels say how it moves, of “cue”, “value”,
    “axis” and “component”."""

    component: str
    axis: str
    value: str
    owner: str
    cue: str
    said: frozenset[str]


_NEARER = {
    "cue": frozenset[str](),
    "value": frozenset({"cue"}),
    "axis": frozenset({"cue", "value"}),
    "component": frozenset({"cue", "value", "axis"}),
    "file": frozenset({"cue", "value", "axis", "component"}),
}
"""By level: those that come before it."""


def _all_changes(document: Document) -> tuple[MovedChange, ...]:
    found: dict[MovedChange, None] = {}
    for component in document.in_order():
        for edge in edges(component):
            axis = component.axis(edge.axis)
            if axis is not None:
                change = _moved_change(component, axis, edge.end, component.id, edge.cue)
                found[change] = None
    for owner in document.owners():
        for cue in owner.behaviour.cues:
            for inner, axis, value in _set_further_in(document, owner, cue):
                found[_moved_change(inner, axis, value, owner.id, cue)] = None
    return tuple(found)


def _set_further_in(
    document: Document, owner: Owner, cue: Cue
) -> Iterator[tuple[Component, Axis, str]]:
    """What a cue sets of inner parts: the component, its axis, and each value that may come."""
    for change in cue.changes:
        inner = component_of(document, owner, change.at) if change.at else None
        axis = inner.axis(change.name) if inner is not None else None
        if inner is not None and axis is not None and change.act in ("set", "next"):
            ids = [value.id for value in axis.values]
            for value in [str(change.value)] if change.act == "set" else ids:
                yield inner, axis, value


def _moved_change(
    component: Component, axis: Axis, value_id: str, owner_id: str, cue: Cue | None
) -> MovedChange:
    value = axis.value(value_id)
    levels = {"cue": cue, "value": value, "axis": axis, "component": component}
    said = frozenset(name for name, level in levels.items() if level and level.motion is not None)
    return MovedChange(
        component.id, axis.id, value_id, owner_id, cue.id if cue is not None else "", said
    )


_changes_of = ByIdentity(_all_changes, 16)


def changes_moved(
    document: Document,
    level: str,
    component_id: str = "",
    axis_id: str = "",
    value_id: str = "",
    cue: tuple[str, str] = ("", ""),
) -> int:
    """How many changes of the file a motion at a level would touch: those of its component, axis,
    value, or cue (its owner's id and its own), of which no nearer level says how they move."""
    nearer = _NEARER[level]
    return sum(
        not (change.said & nearer)
        and (level == "file" or level == "cue" or change.component == component_id)
        and (level not in ("axis", "value") or change.axis == axis_id)
        and (level != "value" or change.value == value_id)
        and (level != "cue" or (change.owner, change.cue) == cue)
        for change in _changes_of(document)
    )
