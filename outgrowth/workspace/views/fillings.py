"""What can stand where an instance or a slot is: the components of the file, those of the slot's
shortlist first, then by folder; each can be tried before it is taken."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Component, ComponentProperty
from outgrowth.core.document.uses import way_into
from outgrowth.core.edits.at_reach import decider
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace.commands import instance_commands, property_commands, style_commands
from outgrowth.workspace.commands.selection_commands import place_of
from outgrowth.workspace.workspace import Edit, Workspace


class GalleryEntry(NamedTuple):
    """A component that can stand there ("" for nothing), its name, the folder that it lies in, and
    whether it is on the shortlist."""

    component: str
    name: str
    folder: str
    listed: bool


class Fillings(NamedTuple):
    """What can stand somewhere.

    subject  where, in a few words
    rows     what, in the order in which it is offered
    chosen   what stands there now
    edit     the edit that puts one there, to try it
    take     puts one there for good
    slot     the component and the property whose shortlist it is; None where there is none
    """

    subject: str
    rows: tuple[GalleryEntry, ...]
    chosen: str
    edit: Callable[[str], Edit]
    take: Callable[[str], object]
    slot: tuple[Component, ComponentProperty] | None = None


def exchange_fillings(workspace: Workspace) -> Fillings | None:
    """What the selected instances can follow instead; None where no instance is selected."""
    paths = instance_commands.exchanged_paths(workspace)
    inspection = inspect(workspace.document, place_of(workspace, paths[0])) if paths else None
    if inspection is None:
        return None
    place = place_of(workspace, paths[0])
    chosen = inspection.value("component")
    instance = inspection.instance
    name = instance.name if instance is not None and len(paths) == 1 else f"{len(paths)} parts"
    deciding = decider(workspace.document, place, "component")
    slot = None
    if deciding.opened is not None:
        holder = inspect(workspace.document, place_of(workspace, deciding.path))
        owner = holder.scope.owner if holder is not None else None
        slot = (owner, deciding.opened) if isinstance(owner, Component) else None
    listed = deciding.opened.shortlist if deciding.opened is not None else ()
    return Fillings(
        f"{name} " + ("follows" if len(paths) == 1 else "follow"),
        _rows(workspace, listed),
        chosen if isinstance(chosen, str) else "",
        partial(instance_commands.exchange_edit, workspace, paths),
        partial(instance_commands.exchange, workspace),
        slot,
    )


def slot_fillings(
    workspace: Workspace, component: Component, prop: ComponentProperty, chosen: str
) -> Fillings:
    """What a slot of the selected instances can hold."""
    name = CHOICE + prop.id

    def edit(component_id: str) -> Edit:
        return style_commands.style_edit(workspace, {name: component_id})

    def take(component_id: str) -> object:
        return style_commands.set_style(workspace, {name: component_id})

    fresh = component.property(prop.id) or prop
    rows = (GalleryEntry("", "empty", "", True), *_rows(workspace, fresh.shortlist))
    return Fillings(f"{prop.name} holds", rows, chosen, edit, take, (component, fresh))


def _rows(workspace: Workspace, listed: tuple[str, ...]) -> tuple[GalleryEntry, ...]:
    document, bench = workspace.document, workspace.selection.owner
    rows = [
        GalleryEntry(c.id, c.short_name, c.name.rpartition("/")[0], c.id in listed)
        for c in document.in_order()
        if c.id != bench and not way_into(document, c.id, bench)
    ]
    # The shortlist as it stands, then folder by folder, each in the Library's order.
    folders = list(dict.fromkeys(row.folder for row in rows))
    return tuple(
        sorted(
            rows,
            key=lambda row: (
                not row.listed,
                listed.index(row.component) if row.listed else folders.index(row.folder),
            ),
        )
    )


def with_listed(workspace: Workspace, fillings: Fillings, component_id: str, on: bool) -> Fillings:
    """What can stand there once a component is put on the slot's shortlist, or taken off."""
    if fillings.slot is None or not component_id:
        return fillings
    component, prop = fillings.slot
    property_commands.set_listed(workspace, component.id, prop, component_id, on)
    changed = workspace.document.components[component.id]
    opened = changed.property(prop.id) or prop
    none = tuple(row for row in fillings.rows if not row.component)
    rows = (*none, *_rows(workspace, opened.shortlist))
    return fillings._replace(rows=rows, slot=(changed, opened))
