"""Cues from the board and its sheets: added, aimed, given conditions, copied, silenced."""

from __future__ import annotations

from collections.abc import Sequence

import msgspec
from immutables import Map

from outgrowth.core.document.axis_parts import is_driven
from outgrowth.core.document.cues import Change, Condition, Cue, Motion, Path, Trigger
from outgrowth.core.document.records import Axis, Component, Document, Owner
from outgrowth.core.document.referring import waiting_time
from outgrowth.core.document.sentences import component_of
from outgrowth.core.edits import cues
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.cue_options import (
    ConditionAxis,
    asks_for,
    driven_by_itself_text,
    possible_changes,
    settable_values,
)
from outgrowth.workspace.workspace import Workspace

LISTENS, CHANGES, HOLDS = "where a cue listens", "what a cue changes", "when a cue holds"
"""What undo calls the edits of a cue's parts."""

# --- a cue as it would be; nothing is edited yet ----------------------------------------------


def axes_heard(component: Component | None) -> list[Axis]:
    """The axes of a part whose values a cue hears come: what its room sets no cue hears."""
    return [axis for axis in component.axes if axis.driver != "room"] if component else []


def with_kind(workspace: Workspace, owner: Owner, cue: Cue, kind: str) -> Trigger | None:
    """The cue's trigger as one of another kind, with what that needs; None, and it is told
    why, where nothing could ever set it off."""
    trigger = cue.trigger
    changes: dict[str, object] = {"kind": kind}
    if kind == "key":
        changes["key"] = trigger.key or "Enter"
    if kind == "delay":
        changes["ms"] = trigger.ms or 1000.0
    if kind == "became":
        component = component_of(workspace.document, owner, cue.node)
        heard = axes_heard(component)
        if not heard:
            workspace.failed.emit("Nothing with values stands there, so none can come.")
            return None
        changes["axis"], changes["value"] = heard[0].id, ""
    if kind not in ("delay", "long-press"):
        changes["token"] = ""
    return msgspec.structs.replace(trigger, **changes)


def with_time(document: Document, trigger: Trigger, ms: float | None, token: str = "") -> Trigger:
    """A trigger that waits, or is held, for a time of its own (ms), or for as long as a token
    says; what that says now stays, should the token go."""
    named = msgspec.structs.replace(trigger, token=token)
    time = waiting_time(named, document.token) if ms is None else ms
    part = "hold" if trigger.kind == "long-press" else "ms"
    return msgspec.structs.replace(named, **{part: time})


def duration_tokens(document: Document) -> list[str]:
    """The tokens that a wait can follow."""
    return [path for path, token in sorted(document.tokens.items()) if token.kind == "duration"]


def with_condition(cue: Cue, requested: ConditionAxis, values: Sequence[str]) -> Cue:
    """The cue, depending on some values of an axis (none: on no value of it). A single value
    of the owner's own axis stands in `when`, as in files and rules; all else is a condition."""
    when = cue.when
    conditions = tuple(c for c in cue.conditions if not asks_for(c, requested))
    if not requested.at and requested.axis.id in when:
        when = when.delete(requested.axis.id)
    if not requested.at and len(values) == 1:
        when = when.set(requested.axis.id, values[0])
    elif values:
        conditions = (*conditions, Condition(requested.axis.id, tuple(values), requested.at))
    return msgspec.structs.replace(cue, when=when, conditions=conditions)


def with_change(cue: Cue, number: int, change: Change) -> Cue:
    """The cue with another change at a place among its changes."""
    changes = (*cue.changes[:number], change, *cue.changes[number + 1 :])
    return msgspec.structs.replace(cue, changes=changes)


def with_end_at(cue: Cue, end: str, path: Path) -> Cue:
    """The cue with one end at another part: where it listens (“node”), or what one of its
    changes means (“change” and which)."""
    if end == "node":
        return msgspec.structs.replace(cue, node=path)
    number = int(end.rpartition(" ")[2])
    return with_change(cue, number, msgspec.structs.replace(cue.changes[number], at=path))


# --- edits ----------------------------------------------------------------------------------


def set_cue(workspace: Workspace, cue: Cue, step: str) -> None:
    """A cue of what is on the bench becomes as given, by its id."""
    owner = workspace.selection.owner
    workspace.edit(step, lambda document: cues.set_cue(document, owner, cue))


def take_end_to(workspace: Workspace, cue: Cue, end: str, path: Path) -> None:
    """Takes one end of a cue to another part."""
    set_cue(workspace, with_end_at(cue, end, path), LISTENS if end == "node" else CHANGES)


def add(workspace: Workspace) -> str:
    """A cue at the selected part: tapped, it does the first thing that can be done. Its id;
    "" where nothing can be done."""
    owner = workspace.owner
    options = possible_changes(workspace.document, owner) if owner is not None else []
    if owner is None or not options:
        return ""
    return _add(workspace, owner.id, "add a cue", _tapped(workspace, options[0][0]))


def draw(workspace: Workspace, axis: Axis, start: str, end: str) -> str:
    """A cue drawn from one value of an axis to another: tapped at the selected part. Its id;
    "" where none is needed, and it is told why."""
    component = workspace.component
    if component is None:
        return ""
    if end not in [value.id for value in settable_values(axis)]:
        workspace.failed.emit(driven_by_itself_text(axis))
        return ""
    # What is tapped is under the pointer, so at rest it never is.
    when = Map[str, str]() if is_driven(axis, start) else Map({axis.id: start})
    cue = _tapped(workspace, Change("set", axis.id, end), when)
    return _add(workspace, component.id, "draw a cue", cue)


def _tapped(workspace: Workspace, change: Change, when: Map[str, str] = Map()) -> Cue:  # noqa: B008  # frozen
    node: Path = workspace.selection.path or ()
    return Cue(fresh_id("cue"), node, Trigger("tap"), (change,), when)


def _add(workspace: Workspace, owner: str, step: str, cue: Cue) -> str:
    return (
        cue.id if workspace.edit(step, lambda document: cues.add_cue(document, owner, cue)) else ""
    )


def remove(workspace: Workspace, cue: Cue) -> bool:
    """Removes a cue; whether it is gone."""
    owner = workspace.selection.owner
    return workspace.edit("remove a cue", lambda document: cues.remove_cue(document, owner, cue.id))


def move(workspace: Workspace, cue: Cue, index: int) -> None:
    """Puts a cue before another: they act in their order."""
    owner = workspace.selection.owner
    workspace.edit("order of cues", lambda document: cues.move_cue(document, owner, cue.id, index))


def copy_to_selection(workspace: Workspace, cue: Cue) -> None:
    """The same cue at every selected part."""
    owner, nodes = workspace.selection.owner, workspace.selection.paths
    workspace.edit(
        "copy a cue",
        lambda document: cues.copy_cue(
            document, owner, cue.id, nodes or ((),), lambda: fresh_id("cue")
        ),
    )


def silence(workspace: Workspace, path: Path, cue: Cue, silent: bool) -> None:
    """Lets a cue that an instance inherits act no longer, or again."""
    owner = workspace.selection.owner
    step = "silence a cue" if silent else "let a cue act"
    workspace.edit(step, lambda document: cues.silence(document, owner, path, cue.id, silent))


def set_part_motion(
    workspace: Workspace, node: Path, name: str, motion: Motion | None, step: str
) -> None:
    """Gives a property of a part a motion of its own; None takes it away."""
    owner = workspace.selection.owner
    workspace.edit(step, lambda document: cues.set_part_motion(document, owner, node, name, motion))


def lead(workspace: Workspace, path: Path, led: bool) -> None:
    """Lets an inner part move with the owner's change, or again as the part itself says."""
    owner = workspace.selection.owner
    step = "move an inner part along" if led else "let an inner part move as it says"
    workspace.edit(step, lambda document: cues.set_led(document, owner, path, led))


def later_part(motion: Motion) -> Motion:
    """A motion for one part of a change: a third later and shorter than the whole, to be seen
    at once and then set."""
    return Motion(motion.duration * 2 / 3, motion.easing, motion.delay + motion.duration / 3)


def place_state(workspace: Workspace, state: str, x: float, y: float, finished: bool) -> None:
    """Shows a state of the graph at a place in px; `finished` makes a step of it."""
    owner, place = workspace.selection.owner, (round(x) * 1.0, round(y) * 1.0)
    workspace.drag(lambda document: cues.place_state(document, owner, state, place))
    if finished:
        workspace.drop("place a state")


def arrange(workspace: Workspace) -> None:
    """Lets the graph be arranged by itself again."""
    owner = workspace.selection.owner
    workspace.edit("arrange the cue board", lambda document: cues.forget_places(document, owner))
