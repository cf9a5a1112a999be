"""Cues and motions: adding, changing, ordering, copying, silencing."""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from outgrowth.core.document.cues import (
    ACT_ROWS,
    HOLDER,
    Behaviour,
    Change,
    Cue,
    Motion,
    PartMotion,
    Path,
    Silence,
    unsaid,
)
from outgrowth.core.document.records import Document, Owner
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.naming import (
    Stand,
    check_value,
    own_component,
    stands_at,
    with_axes,
)
from outgrowth.core.edits.tree.trees import owner_of, with_owner
from outgrowth.core.motion.easing import EasingRefusal, check_easing
from outgrowth.core.refusal import Refusal

MOST_CUES = 500


def add_cue(document: Document, owner_id: str, cue: Cue, index: int | None = None) -> Document:
    """The document with a cue more, at a place in the order (None: last). Raises Refusal."""
    owner = owner_of(document, owner_id)
    cues = owner.behaviour.cues
    if len(cues) >= MOST_CUES:
        raise Refusal(f"“{owner.name}” has {MOST_CUES} cues; more cannot be told apart.")
    if any(other.id == cue.id for other in cues):
        raise Refusal("That cue is there already.")
    _check(document, owner, cue)
    place = len(cues) if index is None else index
    return _with_cues(document, owner, (*cues[:place], cue, *cues[place:]))


def set_cue(document: Document, owner_id: str, cue: Cue) -> Document:
    """The document with the cue of that id as given. Raises Refusal."""
    owner = owner_of(document, owner_id)
    _cue_of(owner, cue.id)
    _check(document, owner, cue)
    cues = tuple(cue if other.id == cue.id else other for other in owner.behaviour.cues)
    return _with_cues(document, owner, cues)


def remove_cue(document: Document, owner_id: str, cue_id: str) -> Document:
    """The document without a cue. Raises Refusal where it is gone already."""
    owner = owner_of(document, owner_id)
    _cue_of(owner, cue_id)
    cues = tuple(cue for cue in owner.behaviour.cues if cue.id != cue_id)
    return _with_cues(document, owner, cues)


def move_cue(document: Document, owner_id: str, cue_id: str, index: int) -> Document:
    """The document with a cue at another place in the order: of two that disagree at one
    node, the earlier one counts."""
    owner = owner_of(document, owner_id)
    cue = _cue_of(owner, cue_id)
    others = [other for other in owner.behaviour.cues if other is not cue]
    others.insert(index, cue)
    return _with_cues(document, owner, tuple(others))


def copy_cue(
    document: Document,
    owner_id: str,
    cue_id: str,
    nodes: tuple[Path, ...],
    new_id: Callable[[], str],
) -> Document:
    """The document with the same cue at other nodes too."""
    owner = owner_of(document, owner_id)
    cue = _cue_of(owner, cue_id)
    for node in nodes:
        document = add_cue(document, owner_id, msgspec.structs.replace(cue, id=new_id(), node=node))
    return document


def silence(document: Document, owner_id: str, path: Path, cue_id: str, silent: bool) -> Document:
    """The document in which an instance does not have a cue of its component, or has it
    again. Raises Refusal where there is no such cue."""
    owner = owner_of(document, owner_id)
    silenced = Silence(path, cue_id)
    if silent:
        standing = stands_at(document, owner, path, "that should be without a cue")
        cues = standing.component.behaviour.cues if standing.component is not None else ()
        if standing.known and not any(cue.id == cue_id for cue in cues):
            raise Refusal(f"The part has no cue “{cue_id}” that it could be without.")
    others = tuple(s for s in owner.behaviour.silenced if s != silenced)
    behaviour = msgspec.structs.replace(
        owner.behaviour, silenced=(*others, silenced) if silent else others
    )
    return _with(document, owner, behaviour)


def set_part_motion(
    document: Document, owner_id: str, node: Path, name: str, motion: Motion | None
) -> Document:
    """The document in which a node, or one of its properties, moves in its own way within
    every change; None for as the change does."""
    owner = owner_of(document, owner_id)
    others = tuple(
        part for part in owner.behaviour.motions if (part.node, part.property) != (node, name)
    )
    if motion is not None:
        others = (*others, PartMotion(node, name, checked(motion)))
    return _with(document, owner, msgspec.structs.replace(owner.behaviour, motions=others))


def set_led(document: Document, owner_id: str, path: Path, led: bool) -> Document:
    """The document in which an instance inside an owner moves with the owner's change where that
    sets an axis of it, or again as the part itself says. Raises Refusal where there is no such
    part."""
    owner = owner_of(document, owner_id)
    if led:
        standing = stands_at(document, owner, path, "that should move with its holder")
        if standing.known and standing.component is None:
            raise Refusal("Only an instance has changes of its own; the part is none.")
    others = tuple(other for other in owner.behaviour.leads if other != path)
    leads = (*others, path) if led else others
    return _with(document, owner, msgspec.structs.replace(owner.behaviour, leads=leads))


def set_motion(
    document: Document, component_id: str, axis_id: str, value_id: str, motion: Motion | None
) -> Document:
    """The document in which entering a value moves so ("" for any value of the axis; an axis
    of "" is the component); None for as what is above it says."""
    component = component_of(document, component_id)
    if motion is not None:
        motion = checked(motion)
    if not axis_id:
        return with_owner(document, msgspec.structs.replace(component, motion=motion))
    axis = component.axis(axis_id)
    if axis is None:
        raise Refusal(f"“{component.name}” no longer has that axis.")
    if value_id:
        values = tuple(
            msgspec.structs.replace(v, motion=motion) if v.id == value_id else v
            for v in axis.values
        )
        changed = msgspec.structs.replace(axis, values=values)
    else:
        changed = msgspec.structs.replace(axis, motion=motion)
    axes = tuple(changed if a is axis else a for a in component.axes)
    return with_owner(document, msgspec.structs.replace(component, axes=axes))


def set_document_motion(document: Document, motion: Motion) -> Document:
    """The document with the motion of all that says none."""
    return msgspec.structs.replace(document, motion=checked(motion))


def place_state(
    document: Document, owner_id: str, state: str, point: tuple[float, float]
) -> Document:
    """The document with a state at a place of the cue board, put there by hand."""
    owner = owner_of(document, owner_id)
    places = owner.behaviour.places.set(state, point)
    return _with(document, owner, msgspec.structs.replace(owner.behaviour, places=places))


def forget_places(document: Document, owner_id: str) -> Document:
    """The document whose cue board is arranged by itself again."""
    owner = owner_of(document, owner_id)
    behaviour = msgspec.structs.replace(owner.behaviour, places=Behaviour().places)
    return _with(document, owner, behaviour)


def checked(motion: Motion) -> Motion:
    """The motion, if its easing can be (its times can, or it would not be there). Raises
    Refusal."""
    try:
        return msgspec.structs.replace(motion, easing=check_easing(motion.easing))
    except EasingRefusal as problem:
        raise Refusal(str(problem)) from problem


def what_is_gone(document: Document, owner: Owner, cue: Cue) -> str:
    """What a cue names that is not there, as a sentence; nothing for a whole one."""
    try:
        _check(document, owner, cue)
    except Refusal as problem:
        return str(problem)
    return ""


def _check(document: Document, owner: Owner, cue: Cue) -> None:
    """Whether everything that a cue names is there. Raises Refusal with the name."""
    if unsaid(cue):
        raise Refusal(unsaid(cue))
    listens = stands_at(document, owner, cue.node, "that should listen")
    trigger = cue.trigger
    if trigger.kind == "became" and listens.known:
        component = with_axes(owner, listens)
        check_value(component, trigger.axis, [trigger.value])
        heard = component.axis(trigger.axis)
        if heard is not None and heard.driver == "room":
            raise Refusal(
                f"“{heard.name}” is set by the room that a part gets, and no cue hears that. Let a "
                f"rule say what differs there."
            )
    if cue.motion is not None:
        checked(cue.motion)
    for axis, value in cue.when.items():
        check_value(with_axes(owner, Stand(own_component(owner))), axis, [value])
    for condition in cue.conditions:
        if condition.at == (HOLDER,):
            continue  # what holds it is known only where it stands
        standing = stands_at(document, owner, condition.at, "whose value is asked for")
        if standing.known:
            check_value(with_axes(owner, standing), condition.axis, condition.values)
    for change in cue.changes:
        _check_change(document, owner, change)


def _check_change(document: Document, owner: Owner, change: Change) -> None:
    means = ACT_ROWS[change.act].means
    if means == "screen":
        if change.name not in document.screens:
            raise Refusal("The screen that the cue should go to is not in the file.")
        return
    if change.act == "back" or change.at == (HOLDER,):
        return
    standing = stands_at(document, owner, change.at, "that the cue changes")
    if not means or not standing.known:
        return
    component = with_axes(owner, standing)
    if means == "property":
        if component.property(change.name) is None:
            raise Refusal(f"“{component.name}” offers no such property: “{change.name}”.")
        return
    values = [str(change.value)] if change.act == "set" else []
    check_value(component, change.name, values)


def _cue_of(owner: Owner, cue_id: str) -> Cue:
    first = next((cue for cue in owner.behaviour.cues if cue.id == cue_id), None)
    if first is None:
        raise Refusal(f"“{owner.name}” no longer has that cue.")
    return first


def _with_cues(document: Document, owner: Owner, cues: tuple[Cue, ...]) -> Document:
    return _with(document, owner, msgspec.structs.replace(owner.behaviour, cues=cues))


def _with(document: Document, owner: Owner, behaviour: Behaviour) -> Document:
    return with_owner(document, msgspec.structs.replace(owner, behaviour=behaviour))
