"""Instances: placed, exchanged, detached, pushed up; and components made of parts."""

from __future__ import annotations

from collections.abc import Sequence

from immutables import Map

from outgrowth.core.document.records import (
    Document,
    Node,
    Path,
    find,
    walk,
)
from outgrowth.core.document.rooms import grows_within
from outgrowth.core.edits import at_reach, instances
from outgrowth.core.edits.instances import extract
from outgrowth.core.edits.instances.sheet_of_states import add_sheet_of_states
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace import measures
from outgrowth.workspace.commands import create_commands
from outgrowth.workspace.commands.selection_commands import (
    component_here,
    each,
    fresh_id,
    insertion_point,
    named,
    named_paths,
    own_instance,
    own_instances,
    own_parts,
    place_of,
    short,
)
from outgrowth.workspace.commands.whole_tree import of_all
from outgrowth.workspace.gathering import LETTERS_GROW_ANEW
from outgrowth.workspace.reaching import here, in_all, reach_of
from outgrowth.workspace.workspace import Edit, Workspace


def sheet_of_states(workspace: Workspace) -> bool:
    """A screen with the component on the bench in every value, on the bench at once."""
    component = workspace.component
    if component is None:
        return False
    new_id = fresh_id("screen")
    made = workspace.edit(
        f"a sheet of {component.short_name}",
        lambda document: add_sheet_of_states(document, component.id, new_id),
    )
    if made:
        workspace.open(new_id)
        workspace.end_step_here()
    return made


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
    name, reach = short(supplied.components[component_id]), reach_of(workspace)

    def change(document: Document) -> Document:
        document = workspace.supply(document, component_id)
        placed = instances.place_instance(document, owner, parent_id, component_id, new_id, index)
        placed = at_reach.keep_to_reach(placed, reach, (new_id,))
        holder = placed.owner(owner)
        parent = find(holder.root, parent_id) if holder is not None else None
        if point is None or parent is None or parent.style.get("flow") != "free":
            return placed
        corner = {"x": round(point[0]) + 0.0, "y": round(point[1]) + 0.0}
        return set_properties(placed, place_of(workspace, (new_id,)), corner)

    if workspace.edit(f"place {name}{here(workspace)}", change):
        workspace.select((new_id,))
        workspace.end_step_here()
        create_commands.offer_everywhere(workspace, name, (new_id,))


def exchanged_paths(workspace: Workspace, those: Sequence[Path] = ()) -> tuple[Path, ...]:
    """The selected instances, at any depth, or those of these paths; what lies in another of
    them goes with it."""
    paths = tuple(
        path
        for path in dict.fromkeys(those or workspace.selection.paths)
        if (found := inspect(workspace.document, place_of(workspace, path))) is not None
        and found.instance is not None
        and path
    )
    return tuple(p for p in paths if not any(p[:n] in paths for n in range(1, len(p))))


def exchange(workspace: Workspace, component_id: str, everywhere: bool = False) -> bool:
    """The selected instances follow another component within the reach, or (`everywhere`) all
    that follow what the selected one does; whether they do. What was dropped is in the step's
    name and is said."""
    if not everywhere:
        return exchange_paths(workspace, exchanged_paths(workspace), component_id)
    followed = component_here(workspace)
    if followed is None or component_id not in workspace.document.components:
        return False
    name = short(workspace.document.components[component_id])
    try:
        exchanged = instances.exchange_everywhere(workspace.document, followed.id, component_id)
    except Refusal as problem:
        workspace.failed.emit(str(problem))
        return False
    return _exchanged(workspace, f"exchange every {short(followed)} for {name}", exchanged, name)


def exchange_paths(workspace: Workspace, paths: Sequence[Path], component_id: str) -> bool:
    """Instances at any depth follow another component within the reach, as one step; the others
    like them here are offered to go with them. Whether it was done."""
    paths = exchanged_paths(workspace, paths) if paths else ()
    if not paths:
        return False
    like = _others_like(workspace, paths)
    step = exchange_step(workspace, paths, component_id)
    try:
        exchanged = _exchange_all(workspace, workspace.document, paths, component_id)
    except Refusal as problem:
        workspace.failed.emit(str(problem))
        return False
    name = short(exchanged.document.components[component_id])
    if not _exchanged(workspace, step, exchanged, name):
        if exchanged.document == workspace.document:
            subject = named_paths(workspace, paths)
            workspace.failed.emit(f"“{subject}” shows {name} here already: nothing was changed.")
        return False
    workspace.end_step_here()
    if like:
        told = (
            _dropped_text(exchanged, name)
            if exchanged.dropped
            else f"{step[:1].upper()}{step[1:]}."
        )
        those = "the one other" if len(like) == 1 else f"the {len(like)} others"
        workspace.make_offer(
            told,
            f"Also {those} like it here",
            lambda: exchange_paths(workspace, like, component_id),
        )
    return True


def _exchange_all(
    workspace: Workspace, document: Document, paths: Sequence[Path], component_id: str
) -> instances.Exchanged:
    document = workspace.supply(document, component_id)
    dropped: dict[str, None] = {}
    reach = reach_of(workspace)
    for path in paths:
        document, lost = at_reach.exchange_at(document, reach, path, component_id)
        dropped |= dict.fromkeys(lost)
    return instances.Exchanged(document, tuple(dropped))


def _exchanged(workspace: Workspace, step: str, exchanged: instances.Exchanged, name: str) -> bool:
    lost = f" (dropped: {', '.join(exchanged.dropped)})" if exchanged.dropped else ""
    before = workspace.document
    done = workspace.edit(f"{step}{lost}", lambda _: exchanged.document)
    if not done or workspace.document is before:
        return False
    if exchanged.dropped:
        workspace.failed.emit(_dropped_text(exchanged, name))
    return True


def _dropped_text(exchanged: instances.Exchanged, name: str) -> str:
    dropped = ", ".join(exchanged.dropped)
    return f"“{name}” has no place for: {dropped}. It comes back when the old component does."


def _others_like(workspace: Workspace, paths: Sequence[Path]) -> tuple[Path, ...]:
    """The other instances of what is on the bench, at the depth of the first of these, that
    follow the same component in the variant at hand."""
    followed = _followed_at(workspace, paths[0])
    owner = workspace.owner
    if followed is None or owner is None:
        return ()
    outer = paths[0][:-1]
    holder = inspect(workspace.document, place_of(workspace, outer)) if outer else None
    root = holder.scope.owner.root if holder is not None else owner.root
    alike = [node.id for node in walk(root) if node.style.get("component") == followed]
    beside = [path for node_id in alike if (path := (*outer, node_id)) not in paths]
    if workspace.screen is not None and not outer:
        return tuple(beside)  # nothing on a screen says otherwise in some variant
    return tuple(path for path in beside if _followed_at(workspace, path) == followed)


def _followed_at(workspace: Workspace, path: Path) -> str | None:
    inspection = inspect(workspace.document, place_of(workspace, path))
    if inspection is None or inspection.instance is None:
        return None
    followed = inspection.value("component")
    return followed if isinstance(followed, str) and followed else None


def exchange_edit(workspace: Workspace, paths: Sequence[Path], component_id: str) -> Edit:
    """The edit by which instances at any depth follow another component; place, size and all
    that still means something stay. A component of a library is taken in with it."""
    return lambda document: _exchange_all(workspace, document, paths, component_id).document


def exchange_step(workspace: Workspace, paths: Sequence[Path], component_id: str) -> str:
    """What such an exchange is called."""
    supplied = workspace.supply(workspace.document, component_id)
    component = supplied.components.get(component_id)
    name = short(component) if component is not None else "that"
    return f"exchange {named_paths(workspace, paths)} for {name}{here(workspace)}"


def detach(workspace: Workspace, twin: bool = False) -> None:
    """The selected instances become plain boxes: in all variants, or (`twin`) twins of them that
    are shown within the reach only."""
    parts, owner = own_instances(workspace), workspace.selection.owner

    def change(document: Document, those: tuple[str, ...]) -> tuple[Document, tuple[str, ...]]:
        for node_id in those:
            document = instances.detach(document, owner, node_id)
        return document, those

    if parts:
        ids = tuple(part.id for part in parts)
        of_all(workspace, f"detach {named(parts)}", (ids, change), twin)


def make_component(workspace: Workspace) -> None:
    """Each selected part becomes a component of its own name."""
    parts = [node for node in own_parts(workspace) if node.kind != "instance"]
    owner, ids = workspace.selection.owner, {node.id: fresh_id("component") for node in parts}

    def made(document: Document, node: Node) -> Document:
        name = node.name[:1].upper() + node.name[1:]
        return extract.make_component(document, owner, node.id, ids[node.id], name)

    if parts:
        noun = "a component" if len(parts) == 1 else "components"
        step = f"make {noun} of {named(parts)}{in_all(workspace)}"
        if not workspace.edit(step, each(made, parts)):
            return
        if any(map(grows_within, parts)):
            workspace.failed.emit(LETTERS_GROW_ANEW)
        if len(parts) == 1:
            workspace.naming_due.emit(ids[parts[0].id])


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
