"""States made of drawn looks in one step."""

from __future__ import annotations

from outgrowth.core.document.records import Node
from outgrowth.core.edits.gather.states import (
    Looks,
    looks_of_components,
    looks_of_group,
    looks_of_parts,
    reads_as_states,
    states_of,
)
from outgrowth.workspace.commands.selection_commands import fresh_id, own_parts
from outgrowth.workspace.reaching import in_all
from outgrowth.workspace.workspace import Workspace


def looks_here(workspace: Workspace) -> Looks | None:
    """The looks that “make states of these” means: several selected parts; all that lies in the
    selected box; or the components that are named by path as the one on the bench."""
    owner, parts = workspace.owner, own_parts(workspace)
    if owner is None:
        return None
    if len(parts) > 1:
        return looks_of_parts(owner.id, parts, "Part")
    group = _holding_several(parts[0]) if len(parts) == 1 else None
    if group is not None:
        return looks_of_group(owner.id, group)
    component = workspace.component
    if component is None or "/" not in component.name or component.axes or parts:
        return None
    folder = component.name.rpartition("/")[0]
    family = [
        c.id
        for c in workspace.document.in_order()
        if c.name.rpartition("/")[0] == folder and not c.axes
    ]
    names = [workspace.document.components[i].short_name for i in family]
    if len(family) < 2 or not reads_as_states(names):
        return None
    return looks_of_components(workspace.document, family)


def _holding_several(part: Node) -> Node | None:
    """The box that holds several parts: this one, or the only one in it; None for none."""
    while part.kind == "box" and len(part.children) == 1:
        part = part.children[0]
    return part if part.kind == "box" and part.children else None


def make_states(workspace: Workspace) -> bool:
    """Makes one component of the looks that are meant, its states live at once, and opens it;
    whether that was done."""
    looks = looks_here(workspace)
    if looks is None:
        workspace.failed.emit(
            "Select the looks first (two or more), or the box that holds them; or open one of "
            "several components called like “Button/Normal” and “Button/Hover”."
        )
        return False
    new_id = fresh_id("component")
    name = f"make states of {', '.join(looks.names)}{in_all(workspace)}"
    if not workspace.edit(name, lambda document: states_of(document, looks, new_id)[0]):
        return False
    workspace.open(new_id)
    return True
