"""What the selected part is called: the outermost as the component or screen that it is."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.records import Document, find
from outgrowth.core.edits.tree import components, nodes
from outgrowth.core.edits.tree.given_names import name_of_instance
from outgrowth.workspace.commands import library_commands
from outgrowth.workspace.workspace import Workspace


class Made(NamedTuple):
    """A component that was made of a part, and the instance of it there, by their ids."""

    component: str
    owner: str
    instance: str


def name_here(workspace: Workspace) -> str:
    """What the selected part is called; empty where none is that could be renamed."""
    owner, path = workspace.owner, workspace.selection.path
    if owner is None or path is None or len(path) > 1:
        return ""
    node = find(owner.root, path[0]) if path and path[0] != owner.root.id else None
    return owner.short_name if node is None else node.name


def why_unnamed(workspace: Workspace) -> str:
    """Why the selected part can't be renamed here, as a sentence."""
    path = workspace.selection.path
    if workspace.owner is None or path is None:
        return "Select a part, a component or a screen to rename it."
    return "Its name is its component's: go to that one (F9) to rename it."


def name_made(workspace: Workspace, made: Made, name: str) -> bool:
    """Names a component that was made of a part, and with it the instance that is there instead;
    whether they are called so now."""
    component = workspace.document.components.get(made.component)
    if component is None or not name.strip():
        return False

    def change(document: Document) -> Document:
        document = components.rename_owner(document, made.component, name)
        called = name_of_instance(document.components[made.component])
        return nodes.rename_node(document, made.owner, made.instance, called)

    return workspace.edit(f"rename {component.short_name}", change)


def rename_at(workspace: Workspace, owner_id: str, node_id: str, name: str) -> bool:
    """Names a part of a component or screen ("" or the outermost: that itself, which stays in its
    folder unless the name says another); whether it is called so now."""
    owner = workspace.document.owner(owner_id)
    if owner is None:
        return False
    if node_id in ("", owner.root.id):
        folder = owner.name.removesuffix(owner.short_name)
        full = f"{folder}{name.strip()}" if name.strip() and "/" not in name else name
        return library_commands.rename(workspace, owner.id, full)
    node = find(owner.root, node_id)
    if node is None or node.name == name.strip():
        return False
    return workspace.edit(
        f"rename {node.name}",
        lambda document: nodes.rename_node(document, owner.id, node_id, name),
    )
