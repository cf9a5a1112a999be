"""Every motion that a document holds: of cues, values, axes, parts, components, and the file."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import msgspec

from outgrowth.core.document.cues import Behaviour, Motion
from outgrowth.core.document.records import Axis, Component, Document, Owner
from outgrowth.core.edits.tree.trees import with_owner

MotionEdit = Callable[[Motion], Motion]


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
