"""The Library: components and screens as wholes, and their folders."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from outgrowth.core.document.records import (
    Document,
    short_name,
)
from outgrowth.core.edits import clipping
from outgrowth.core.edits.tree import components, owners
from outgrowth.core.edits.tree.owners import Device
from outgrowth.core.refusal import Refusal
from outgrowth.workspace.commands.selection_commands import fresh_id, short
from outgrowth.workspace.workspace import Workspace

Advice = Literal["dos", "donts"]


def in_folder(name: str, folder: str) -> str:
    """A component's name in another folder ("" for none)."""
    last = short_name(name)
    return f"{folder}/{last}" if folder else last


def rename_folder(workspace: Workspace, old: str, new: str) -> None:
    """Moves everything in a folder of the Library to one of another name."""

    def change(document: Document) -> Document:
        for component in document.in_order():
            folder, _, last = component.name.rpartition("/")
            if folder == old or folder.startswith(f"{old}/"):
                moved = new.strip().strip("/") + folder.removeprefix(old)
                name = f"{moved}/{last}".lstrip("/")
                document = components.rename_owner(document, component.id, name)
        return document

    workspace.edit(f"rename the folder {old}", change)


def describe(workspace: Workspace, component_id: str, text: str) -> None:
    """Says what a component is for."""
    workspace.edit(
        "say what it is for", lambda document: components.describe(document, component_id, text)
    )


def advise(workspace: Workspace, component_id: str, kind: Advice, at: int, text: str) -> None:
    """Changes one sentence of how a component is used; one behind the last adds one, and one
    without words goes away."""

    def change(document: Document) -> Document:
        component = components.component_of(document, component_id)
        lists = {"dos": list(component.dos), "donts": list(component.donts)}
        lists[kind][at : at + 1] = [text]
        return components.advise(document, component_id, lists["dos"], lists["donts"])

    workspace.edit("say how it is used", change)


def new_component(workspace: Workspace, name: str = "Part") -> None:
    """A component to draw in, on the bench at once."""
    new_id, root = fresh_id("component"), fresh_id("box")
    if workspace.edit(
        "begin a component", lambda document: owners.new_component(document, new_id, name, root)
    ):
        workspace.open(new_id)
        workspace.end_step_here()
        workspace.naming_due.emit("")


def new_screen(workspace: Workspace, device: Device) -> None:
    """An empty screen of a device's size, on the bench at once."""
    new_id, root = fresh_id("screen"), fresh_id("box")
    size = device.width, device.height
    if workspace.edit(
        f"begin a screen for a {device.name.lower()}",
        lambda document: owners.new_screen(document, new_id, device.name, size, root),
    ):
        workspace.open(new_id)
        workspace.select(())
        workspace.end_step_here()
        workspace.naming_due.emit("")


def duplicate_owner(workspace: Workspace, owner_id: str) -> None:
    """A copy of a component or screen, on the bench at once."""
    owner = workspace.document.owner(owner_id)
    if owner is not None:
        new_id = fresh_id("copy")
        name = owner.short_name
        if workspace.edit(
            f"copy {name} whole",
            lambda document: owners.duplicate_owner(document, owner.id, new_id),
        ):
            workspace.open(new_id)
            workspace.end_step_here()
            workspace.naming_due.emit("")


def remove_all(workspace: Workspace, ids: Sequence[str]) -> bool:
    """Removes components that nothing uses as one step, or none of them; what is used only by
    others of them goes too."""
    wanted = [i for i in ids if i in workspace.document.components]
    if workspace.selection.owner in wanted:
        left = [o.id for o in workspace.document.owners() if o.id not in wanted]
        workspace.open(left[0] if left else "")

    def change(document: Document) -> Document:
        waiting = wanted
        while waiting:
            kept, problem = [], None
            for owner_id in waiting:
                try:
                    document = owners.remove_owner(document, owner_id)
                except Refusal as refused:
                    kept.append(owner_id)
                    problem = refused
            if problem is not None and len(kept) == len(waiting):
                raise problem
            waiting = kept
        return document

    return bool(wanted) and workspace.edit(f"remove {len(wanted)}", change)


def remove_owner(workspace: Workspace, owner_id: str) -> None:
    """Removes a component that nothing uses, or a screen; another one comes on the bench."""
    owner = workspace.document.owner(owner_id)
    if owner is None:
        return
    name = owner.short_name
    on_bench = workspace.selection.owner == owner_id
    order = [o.id for o in workspace.document.owners()]
    if (
        workspace.edit(f"remove {name}", lambda document: owners.remove_owner(document, owner_id))
        and on_bench
    ):
        left = [i for i in order if i != owner_id]
        workspace.open(left[max(order.index(owner_id) - 1, 0)] if left else "")


def bring_starter(workspace: Workspace, source: Document, component_id: str) -> None:
    """A starter becomes a component of the file, and comes on the bench."""
    new_id = fresh_id("component")
    name = source.components[component_id].short_name
    if workspace.edit(
        f"begin with {name}",
        lambda document: clipping.bring_component(document, source, component_id, new_id),
    ):
        workspace.open(new_id)
        workspace.end_step_here()


def rename(workspace: Workspace, owner_id: str, name: str) -> bool:
    """Names a component or screen; a name with `/` in it says the folder."""
    owner = workspace.document.owner(owner_id)
    if owner is None or name == owner.name:
        return False
    return workspace.edit(
        f"rename {short(owner)}", lambda document: components.rename_owner(document, owner_id, name)
    )


def move_to(workspace: Workspace, owner_id: str, folder: str, after: str) -> bool:
    """Moves a component or screen to a folder, right behind another there; "" for the first."""
    owner = workspace.document.owner(owner_id)
    if owner is None or after == owner_id:
        return False
    name = in_folder(owner.name, folder)

    def change(document: Document) -> Document:
        document = owners.order_owner(document, owner_id, after)
        return components.rename_owner(document, owner_id, name) if name != owner.name else document

    return workspace.edit(f"move {short(owner)}", change)


def move_all_to(
    workspace: Workspace, ids: Sequence[str], folder: str, after: str | None = None
) -> bool:
    """Moves components to a folder as one step, in their order: right behind another one there,
    first for "", and where they are among all for None; whether anything moved."""
    names = {i: c.name for i in ids if (c := workspace.document.components.get(i)) is not None}

    def change(document: Document) -> Document:
        last = after
        while last in names:
            order = document.component_order
            at = order.index(last)
            last = order[at - 1] if at else ""
        for owner_id, name in names.items():
            if last is not None:
                document = owners.order_owner(document, owner_id, last)
                last = owner_id
            if in_folder(name, folder) != name:
                document = components.rename_owner(document, owner_id, in_folder(name, folder))
        return document

    moved = short_name(next(iter(names.values()))) if len(names) == 1 else str(len(names))
    return bool(names) and workspace.edit(f"move {moved}", change)


def step_in_folder(workspace: Workspace, owner_id: str, by: int) -> bool:
    """Moves a component or screen among those of its folder, by places; whether it moved."""
    document = workspace.document
    owner = document.owner(owner_id)
    if owner is None:
        return False
    folder = owner.name.removesuffix(short(owner))
    everything = document.in_order() if owner_id in document.components else ()
    beside = [
        o.id
        for o in everything or document.screens_in_order()
        if o.name.removesuffix(short(o)) == folder
    ]
    at = beside.index(owner_id) + by
    if not 0 <= at < len(beside):
        return False
    others = [i for i in beside if i != owner_id]
    before = others[at - 1] if at else ""
    return workspace.edit(
        f"move {short(owner)}", lambda document: owners.order_owner(document, owner_id, before)
    )


def move_to_folder(workspace: Workspace, component_id: str, folder: str) -> bool:
    """Moves a component to a folder; "" for none."""
    component = workspace.document.components.get(component_id)
    if component is None:
        return False
    name = in_folder(component.name, folder)
    return workspace.edit(
        f"move {short(component)}",
        lambda document: components.rename_owner(document, component_id, name),
    )
