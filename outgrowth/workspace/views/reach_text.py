"""What an edit would touch, in words: before it lands."""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.document.properties import FAMILY_OF, row_of
from outgrowth.core.edits.at_reach import can_differ
from outgrowth.core.resolve.ladder import node_at
from outgrowth.workspace import measures
from outgrowth.workspace.commands.drag_commands import makes_twins
from outgrowth.workspace.reaching import all_variants, conditions
from outgrowth.workspace.views.status_text import count_text
from outgrowth.workspace.workspace import Workspace


def reach_text(workspace: Workspace, names: tuple[str, ...]) -> str:
    """What an edit of these properties of the selection would touch, as rich text: variants,
    instances and screens of a component; on a screen, that it is only here."""
    return reach_texts(workspace, names)[0]


def reach_texts(workspace: Workspace, names: tuple[str, ...]) -> tuple[str, ...]:
    """The same, and shorter and shorter for where there is less room."""
    if workspace.component is None:
        return (_on_screen(workspace),)
    reached = measures.reached(workspace, names)
    least = f"<b>{len(reached.variants)} of {reached.of}</b>"
    share = f"{least} variants"
    subject = _subject(workspace, names)
    if not reached.instances:
        return f"{subject}{share}", share, least
    instances = count_text(reached.instances, "instance")
    places = f"{share} · {instances} · {count_text(reached.screens, 'screen')}"
    return f"{subject}{places}", places, f"{share} · {instances}", share, least


def move_text(workspace: Workspace, ids: Sequence[str], box_id: str, copied: bool) -> str:
    """What moving parts of the owner's own tree into a box would touch, where the reach is
    narrower than all, and whether it moves them; `copied` asks for copies."""
    text, owner = conditions(workspace), workspace.owner
    if copied and owner is not None:
        what = "a twin" if makes_twins(workspace, ids, box_id) else "a copy"
        return f"{what}, only in {text}" if text else what
    if not text or owner is None:
        return ""
    if can_differ(owner, ids, box_id):
        return text
    return f"{all_variants(workspace)} · with Alt only in {text}"


def _subject(workspace: Workspace, names: tuple[str, ...]) -> str:
    """ "Fill of label: ", when a row of the ledger is looked at."""
    place = workspace.place
    node = node_at(workspace.document, place) if place is not None else None
    if not names or node is None:
        return ""
    label = FAMILY_OF.get(names[0]) or row_of(names[0]).label
    return f"{label.capitalize()} of <i>{node.name}</i>: "


def _on_screen(workspace: Workspace) -> str:
    path = workspace.selection.path
    if path is None or workspace.screen is None:
        return ""
    count = len(workspace.selection.paths)
    if count > 1:
        return f"<b>{count}</b> parts, only here"
    located = measures.located(workspace)
    if located is not None and located.scene.component:
        return "<b>1</b> instance, only here"
    return "<b>1</b> instance, a part inside it, only here" if len(path) > 1 else "only here"
