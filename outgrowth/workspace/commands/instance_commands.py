"""Instances: placed, exchanged, detached, pushed up; and components made of parts."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.document.records import (
    Document,
    Node,
    Path,
    find,
)
from outgrowth.core.document.uses import Use
from outgrowth.core.edits import instances
from outgrowth.core.edits.instances import extract
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace import measures
from outgrowth.workspace.commands.selection_commands import (
    component_here,
    each,
    fresh_id,
    insertion_point,
    named,
    own_instance,
    own_instances,
    own_parts,
    place_of,
    short,
)
from outgrowth.workspace.workspace import Edit, Workspace


def place(workspace: Workspace, component_id: str) -> None:
    """An instance in the selected box, or beside the selected part."""
    into = insertion_point(workspace)
    if into is not None:
        place_into(workspace, component_id, *into)


def place_into(
    workspace: Workspace,
    component_id: str,
    parent_id: str,
    index: int | None,
    point: tuple[float, float] | None = None,
) -> None:
    """An instance in a box, before the child at `index` (None: last); `point` is its place in px
    of that box, which counts where the box is free."""
    new_id = fresh_id("instance")
    owner = workspace.selection.owner
    supplied = workspace.supply(workspace.document, component_id)
    if component_id not in supplied.components:
        return
    name = short(supplied.components[component_id])

    def change(document: Document) -> Document:
        document = workspace.supply(document, component_id)
        placed = instances.place_instance(document, owner, parent_id, component_id, new_id, index)
        holder = placed.owner(owner)
        parent = find(holder.root, parent_id) if holder is not None else None
        if point is None or parent is None or parent.style.get("flow") != "free":
            return placed
        corner = {"x": round(point[0]) + 0.0, "y": round(point[1]) + 0.0}
        return set_properties(placed, place_of(workspace, (new_id,)), corner)

    if workspace.edit(f"place {name}", change):
        workspace.select((new_id,))
        workspace.end_step_here()


def exchange(workspace: Workspace, component_id: str, everywhere: bool = False) -> None:
    """The selected instances follow another component, or (`everywhere`) all that follow
    what the selected one does; what was dropped is in the step's name and is said."""
    chosen = own_instances(workspace)
    followed = component_here(workspace)
    if not chosen or followed is None:
        return
    name = short(workspace.document.components[component_id])
    uses = [Use(workspace.selection.owner, node.id) for node in chosen]
    try:
        if everywhere:
            exchanged = instances.exchange_everywhere(workspace.document, followed.id, component_id)
        else:
            exchanged = instances.exchange_many(workspace.document, uses, component_id)
    except Refusal as problem:
        workspace.failed.emit(str(problem))
        return
    subject = f"every {short(followed)}" if everywhere else named(chosen)
    lost = f" (dropped: {', '.join(exchanged.dropped)})" if exchanged.dropped else ""
    workspace.edit(f"exchange {subject} for {name}{lost}", lambda _: exchanged.document)
    if exchanged.dropped:
        workspace.failed.emit(
            f"“{name}” has no place for: {', '.join(exchanged.dropped)}. "
            "It comes back when the old component does."
        )


def exchange_edit(workspace: Workspace, path: Path, component_id: str) -> Edit:
    """The edit by which an instance at any depth follows another component; place, size and
    all that still means something stay. A component of a library is taken in with it."""
    owner, supply = workspace.selection.owner, workspace.supply
    if len(path) == 1:
        uses = [Use(owner, path[0])]
        return lambda document: (
            instances.exchange_many(supply(document, component_id), uses, component_id).document
        )
    place_there, reach = (
        place_of(workspace, path),
        workspace.reach if workspace.component is not None else Map(),
    )
    return lambda document: set_properties(
        supply(document, component_id), place_there, {"component": component_id}, reach
    )


def exchange_step(workspace: Workspace, path: Path, component_id: str) -> str:
    """What such an exchange is called."""
    inspection = inspect(workspace.document, place_of(workspace, path))
    supplied = workspace.supply(workspace.document, component_id)
    component = supplied.components.get(component_id)
    name = (
        inspection.instance.name
        if inspection is not None and inspection.instance is not None
        else "this"
    )
    return f"exchange {name} for {short(component) if component is not None else 'that'}"


def detach(workspace: Workspace) -> None:
    """The selected instances become plain boxes."""
    parts, owner = own_instances(workspace), workspace.selection.owner
    if parts:
        edit = each(lambda document, node: instances.detach(document, owner, node.id), parts)
        workspace.edit(f"detach {named(parts)}", edit)


def make_component(workspace: Workspace) -> None:
    """Each selected part becomes a component of its own name."""
    parts = [node for node in own_parts(workspace) if node.kind != "instance"]
    owner = workspace.selection.owner

    def made(document: Document, node: Node) -> Document:
        name = node.name[:1].upper() + node.name[1:]
        return extract.make_component(document, owner, node.id, fresh_id("component"), name)

    if parts:
        noun = "a component" if len(parts) == 1 else "components"
        workspace.edit(f"make {noun} of {named(parts)}", each(made, parts))


def push_up(workspace: Workspace, everywhere: bool) -> None:
    """The component becomes like the selected instance: in all its variants, or only in those
    that share what this instance chose."""
    node, component, located = (
        own_instance(workspace),
        component_here(workspace),
        measures.located(workspace),
    )
    if node is None or component is None or located is None:
        return
    variant = located.scene.variant or Map()
    chosen = {a.id: variant[a.id] for a in component.axes if a.driver == "none"}
    reach = Map() if everywhere else Map(chosen)
    owner = workspace.selection.owner
    workspace.edit(
        f"make {component.short_name} like {node.name}",
        lambda document: instances.push_up(document, owner, node.id, reach),
    )


def visit_component(workspace: Workspace) -> None:
    """Goes to the component of the selected instance; going back returns from it."""
    component = component_here(workspace)
    if component is not None:
        workspace.open(component.id)
