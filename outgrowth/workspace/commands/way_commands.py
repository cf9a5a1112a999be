"""The ways between screens, as the map draws them: made, led elsewhere, removed."""

from __future__ import annotations

import msgspec

from outgrowth.core.document.cues import Change, Cue, Path, Trigger
from outgrowth.core.document.records import Document
from outgrowth.core.document.ways import Way
from outgrowth.core.edits import cues
from outgrowth.core.edits.tree import owners
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.workspace import Workspace


def add_way(workspace: Workspace, screen: str, part: Path, end: str) -> str:
    """A way from a part of a screen to another screen, tapped; the id of its cue, "" where there
    is none."""
    cue = Cue(fresh_id("cue"), part, Trigger("tap"), (Change("go", end),))
    made = workspace.edit("draw a way", lambda document: cues.add_cue(document, screen, cue))
    return cue.id if made else ""


def lead_elsewhere(workspace: Workspace, way: Way, end: str) -> bool:
    """Lets a way lead to another screen; whether it does now. That of a component does so
    wherever that stands."""
    if end in (way.end, way.screen):
        return False
    changes = tuple(
        msgspec.structs.replace(change, name=end) if _leads(change, way) else change
        for change in way.cue.changes
    )
    return _set(workspace, way, "lead a way elsewhere", changes=changes)


def lead_from(workspace: Workspace, way: Way, part: Path) -> bool:
    """Lets another part of the screen lead; whether it does now. Only a screen's own way can."""
    if not way.is_own:
        workspace.failed.emit("This way is a component’s: open that to lead from another part.")
        return False
    return way.cue.node != part and _set(workspace, way, "lead a way from elsewhere", node=part)


def remove_way(workspace: Workspace, way: Way) -> bool:
    """Removes a way, and its cue where that does nothing else; whether it is gone."""
    changes = tuple(change for change in way.cue.changes if not _leads(change, way))
    if changes:
        return _set(workspace, way, "remove a way", changes=changes)
    return workspace.edit(
        "remove a way", lambda document: cues.remove_cue(document, way.owner, way.cue.id)
    )


def _leads(change: Change, way: Way) -> bool:
    return change.act == "go" and change.name == way.end


def _set(workspace: Workspace, way: Way, step: str, **changes: object) -> bool:
    cue = msgspec.structs.replace(way.cue, **changes)
    return workspace.edit(step, lambda document: cues.set_cue(document, way.owner, cue))


def begin_at(workspace: Workspace, screen: str) -> bool:
    """Lets the file begin at a screen: it comes first; whether it does so now."""

    def change(document: Document) -> Document:
        return owners.order_owner(document, screen, "")

    return workspace.edit("begin at another screen", change)
