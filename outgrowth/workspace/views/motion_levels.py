"""Where a motion can stand: a cue, a value, an axis, the component, the file."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import NamedTuple

import msgspec

from outgrowth.core.document.cues import Cue, Motion
from outgrowth.core.document.records import Axis
from outgrowth.core.edits import cues
from outgrowth.core.edits.motions import changes_moved
from outgrowth.workspace.workspace import Edit, Workspace


class MotionLevel(NamedTuple):
    """One place where a motion can stand, the nearest first. `touched`: how many changes of the
    file a motion there would bear on."""

    key: str
    name: str
    motion: Motion | None
    put: Callable[[Motion | None], Edit]
    touched: int

    @property
    def title(self) -> str:
        """Its name, how many changes it touches, and a mark where a motion stands."""
        count = f"{self.touched} change{'s' * (self.touched != 1)}"
        return f"{self.name} ({count}){' ·' if self.motion is not None else ''}"


def _cue_moves(owner: str, cue: Cue, motion: Motion | None) -> Edit:
    changed = msgspec.structs.replace(cue, motion=motion)
    return lambda document: cues.set_cue(document, owner, changed)


def _part_moves(of: tuple[str, str, str], motion: Motion | None) -> Edit:
    return lambda document: cues.set_motion(document, *of, motion)


def _file_moves(motion: Motion | None) -> Edit:
    return lambda document: cues.set_document_motion(document, motion or Motion(160.0))


def motion_levels(
    workspace: Workspace, cue: Cue | None, axis: Axis | None, value: str
) -> list[MotionLevel]:
    """The levels at which the motion of a cue, or of entering a value of an axis, can stand;
    the one that counts first."""
    levels: list[MotionLevel] = []
    component = workspace.component
    if cue is not None:
        set_motion = partial(_cue_moves, workspace.selection.owner, cue)
        touched = changes_moved(workspace.document, "cue", cue=(workspace.selection.owner, cue.id))
        levels.append(MotionLevel("cue", "this cue", cue.motion, set_motion, touched))
    if component is not None and axis is not None:
        axis_value = axis.value(value)
        if axis_value is not None:
            name = f"{axis.name} becoming {axis_value.name}"
            of = component.id, axis.id, axis_value.id
            levels.append(_part_level(workspace, of, name, axis_value.motion))
        of = component.id, axis.id, ""
        levels.append(_part_level(workspace, of, axis.name, axis.motion))
    if component is not None:
        name = f"all of {component.short_name}"
        levels.append(_part_level(workspace, (component.id, "", ""), name, component.motion))
    touched = changes_moved(workspace.document, "file")
    motion = workspace.document.motion
    return [*levels, MotionLevel("file", "the whole file", motion, _file_moves, touched)]


def motion_at(levels: Sequence[MotionLevel], key: str) -> Motion:
    """The motion at a level, or the one that it takes from above."""
    first = next((n for n, level in enumerate(levels) if level.key == key), 0)
    own_motions = (level.motion for level in levels[first:] if level.motion is not None)
    return next(own_motions, Motion(160.0))


def _part_level(
    workspace: Workspace, of: tuple[str, str, str], name: str, motion: Motion | None
) -> MotionLevel:
    level = "value" if of[2] else "axis" if of[1] else "component"
    touched = changes_moved(workspace.document, level, *of)
    return MotionLevel(f"{of[1]}/{of[2]}", name, motion, partial(_part_moves, of), touched)
