"""Selecting what is like the selected part: all in what is on the bench."""

from __future__ import annotations

from collections.abc import Callable

from outgrowth.core.document.records import Node, walk
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace.commands import selection_commands
from outgrowth.workspace.workspace import Workspace


def _select(workspace: Workspace, template: Callable[[Node], bool]) -> None:
    owner, lead = workspace.owner, selection_commands.own_part(workspace)
    if owner is None or lead is None:
        return
    rest = [n.id for n in walk(owner.root) if n is not owner.root and n is not lead and template(n)]
    workspace.select_all(tuple((node_id,) for node_id in (lead.id, *rest)))


def same_kind(workspace: Workspace) -> None:
    """Every box, text, shape, image or instance, as the selected one is."""
    lead = selection_commands.own_part(workspace)
    if lead is not None:
        _select(workspace, lambda node: node.kind == lead.kind)


def same_component(workspace: Workspace) -> None:
    """Every instance that follows the same component as the selected one."""
    lead = selection_commands.own_instance(workspace)
    if lead is not None:
        followed = lead.style.get("component")
        _select(workspace, lambda node: node.style.get("component") == followed)


def same_fill(workspace: Workspace) -> None:
    """Every part that is filled, or written, in the same colour in this variant."""
    lead = selection_commands.own_part(workspace)
    if lead is None:
        return
    ink = _ink(workspace, lead)
    _select(workspace, lambda node: _ink(workspace, node) == ink)


def _ink(workspace: Workspace, node: Node) -> object:
    inspection = inspect(workspace.document, selection_commands.place_of(workspace, (node.id,)))
    if inspection is None:
        return None
    return inspection.value("color" if inspection.node.kind == "text" else "fill")
