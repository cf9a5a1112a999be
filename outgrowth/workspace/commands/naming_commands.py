"""What the selected part is called: the outermost as the component or screen that it is."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from outgrowth.core.document.records import Document, find
from outgrowth.core.edits.tree import components, nodes, owners
from outgrowth.core.edits.tree.given_names import name_of_instance
from outgrowth.core.edits.tree.patterns import Named, Renaming, apart, renamings
from outgrowth.workspace.commands import library_commands, selection_commands
from outgrowth.workspace.workspace import Workspace


def name_file(workspace: Workspace, name: str) -> bool:
    """Names the file; its hand-over begins the names of elements with the first letters."""
    if name.strip() == workspace.document.name:
        return False
    step = f"call the file {name.strip()}"
    return workspace.edit(step, lambda document: owners.rename_document(document, name))


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


class Renamable(NamedTuple):
    """What may be renamed together: what it is called as a whole, and each of it with its name.
    Parts lie in an `owner`; of components and screens ("") none may take a name that one of the
    `others` has."""

    title: str
    those: tuple[Named, ...]
    owner: str = ""
    others: tuple[str, ...] = ()


def selected_parts(workspace: Workspace) -> Renamable | None:
    """The selected parts of what is on the bench; None for fewer than two."""
    parts = selection_commands.own_parts(workspace)
    if len(parts) < 2:
        return None
    those = tuple(Named(part.id, part.name) for part in parts)
    return Renamable(f"{len(parts)} selected parts", those, workspace.selection.owner)


def owners_of(workspace: Workspace, screens: bool = False, folder: str | None = None) -> Renamable:
    """The components or the screens of the file, or those of a folder ("" for those in none)."""
    document = workspace.document
    everything = document.screens_in_order() if screens else document.in_order()
    those = [o for o in everything if folder is None or o.name.rpartition("/")[0] == folder]
    noun = ("screen" if screens else "component") + ("" if len(those) == 1 else "s")
    where = " of this file" if folder is None else f" in {folder}" if folder else " in no folder"
    title = f"{len(those)} {noun}{where}"
    chosen = {owner.id for owner in those}
    others = tuple(owner.name for owner in document.owners() if owner.id not in chosen)
    return Renamable(title, tuple(Named(o.id, o.name) for o in those), others=others)


def planned(meant: Renamable, find: str, becomes: str) -> list[Renaming]:
    """What a pattern would rename; parts may be called alike, components and screens may not."""
    made = renamings(meant.those, find, becomes)
    if meant.owner:
        return made
    changed = {renaming.id for renaming in made}
    return apart(made, (*meant.others, *(n.name for n in meant.those if n.id not in changed)))


def rename_all(workspace: Workspace, meant: Renamable, those: Sequence[Renaming]) -> bool:
    """Renames some of what is meant as planned, as one step; whether it was done."""

    def change(document: Document) -> Document:
        for renaming in those:
            if meant.owner:
                document = nodes.rename_node(document, meant.owner, renaming.id, renaming.after)
            else:
                document = components.rename_owner(document, renaming.id, renaming.after)
        return document

    return bool(those) and workspace.edit(f"rename {len(those)}", change)


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
