"""What the selected instance keeps, as the ledger lists it."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.properties import CHOICE, row_of
from outgrowth.core.document.sentences import component_of, node_in
from outgrowth.core.document.variants import condition_text
from outgrowth.core.edits.at_reach import KeptValue, kept_values
from outgrowth.workspace.reaching import reach_of
from outgrowth.workspace.views.value_format import value_text
from outgrowth.workspace.workspace import Workspace


class KeptRow(NamedTuple):
    """One value that it keeps: whose, what, and its value, as a person would read it."""

    kept: KeptValue
    subject: str
    value: str


def kept_rows(workspace: Workspace) -> list[KeptRow]:
    """What the selected instance differs in, within the reach; nothing for several."""
    path, owner = workspace.selection.path, workspace.owner
    if not path or owner is None or len(workspace.selection.paths) > 1:
        return []
    document = workspace.document
    rows = []
    for kept in kept_values(document, reach_of(workspace), path):
        full = (*path, *kept.path)
        nodes = [
            node_in(document, owner, (*path, *kept.path[: n + 1])) for n in range(len(kept.path))
        ]
        part = " › ".join(node.name for node in nodes if node is not None)
        label = _label(workspace, full, kept.property)
        subject = f"{part} › {label}" if part else label
        followed = component_of(document, owner, path if not kept.by_rule else ())
        holder = workspace.component if kept.by_rule else followed
        when = condition_text(holder, kept.when) if kept.when and holder is not None else ""
        value = value_text(document, kept.value)
        rows.append(KeptRow(kept, subject, f"{value} ({when})" if when else value))
    return rows


def _label(workspace: Workspace, path: tuple[str, ...], name: str) -> str:
    """What a property is called; a choice by its axis or its property."""
    if not name.startswith(CHOICE):
        return row_of(name).label
    owner, key = workspace.owner, name.removeprefix(CHOICE)
    component = component_of(workspace.document, owner, path) if owner is not None else None
    subject = (component.axis(key) or component.property(key)) if component is not None else None
    return subject.name if subject is not None else "a choice"
