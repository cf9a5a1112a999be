"""What can be done with the selection: each command takes the workspace and makes one step.

They choose ids and names, say what the step is called, and select what came of it; the
work itself is the core's.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from uuid import uuid4

from immutables import Map

from outgrowth.core.document.records import (
    Component,
    Document,
    Node,
    Owner,
    Path,
    find,
    lineage,
    walk,
)
from outgrowth.core.edits.at_reach import remove_parts
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace import measures
from outgrowth.workspace.reaching import conditions, here, in_all, narrowed, reach_of
from outgrowth.workspace.selection import Selection
from outgrowth.workspace.workspace import Edit, Workspace


def fresh_id(kind: str) -> str:
    """An id that no node or component has."""
    return f"{kind}-{uuid4().hex[:8]}"


def own_node(workspace: Workspace) -> Node | None:
    """The selected node of the owner's own tree: what can be moved, copied, removed."""
    owner, path = workspace.owner, workspace.selection.path
    if owner is None or path is None or len(path) > 1:
        return None
    return find(owner.root, path[0]) if path else owner.root


def own_part(workspace: Workspace) -> Node | None:
    """The same, if it is not the outermost part, which stands by its owner."""
    node, owner = own_node(workspace), workspace.owner
    return None if owner is None or node is owner.root else node


def own_parts(workspace: Workspace) -> list[Node]:
    """The same for all that is selected, in the order of the tree; what lies in another
    selected part goes with it."""
    owner = workspace.owner
    if owner is None:
        return []
    chosen = {path[0] for path in workspace.selection.paths if len(path) == 1}
    results: list[Node] = []
    for node in walk(owner.root):
        inside = {n.id for outer in results for n in walk(outer)}
        if node.id in chosen and node.id not in inside and node is not owner.root:
            results.append(node)
    return results


def own_instance(workspace: Workspace) -> Node | None:
    """The selected instance of the owner's own tree."""
    node = own_part(workspace)
    return node if node is not None and node.kind == "instance" else None


def own_instances(workspace: Workspace) -> list[Node]:
    """All selected instances of the owner's own tree."""
    return [node for node in own_parts(workspace) if node.kind == "instance"]


def named(parts: list[Node]) -> str:
    """One part by its name, several by their number."""
    return parts[0].name if len(parts) == 1 else f"{len(parts)} parts"


def each(edit: Callable[[Document, Node], Document], parts: list[Node]) -> Edit:
    """An edit done to one part after the other."""

    def change(document: Document) -> Document:
        for part in parts:
            document = edit(document, part)
        return document

    return change


def component_here(workspace: Workspace) -> Component | None:
    """The component that the selected instance follows."""
    located = measures.located(workspace)
    return (
        workspace.document.components.get(located.scene.component) if located is not None else None
    )


def removable(workspace: Workspace) -> tuple[Path, ...]:
    """What is selected and can be removed: parts of the owner's own tree, and parts inside of
    its instances, which are hidden there."""
    own = tuple((part.id,) for part in own_parts(workspace))
    inside = [path for path in workspace.selection.paths if len(path) > 1]
    return (*own, *(p for p in inside if p[:1] not in own and _is_there(workspace, p)))


def _is_there(workspace: Workspace, path: Path) -> bool:
    return inspect(workspace.document, place_of(workspace, path)) is not None


def named_paths(workspace: Workspace, paths: Sequence[Path]) -> str:
    """One part at any depth by its name, several by their number."""
    if len(paths) != 1:
        return f"{len(paths)} parts"
    inspection = inspect(workspace.document, place_of(workspace, paths[0]))
    if inspection is None:
        return "a part"
    return inspection.instance.name if inspection.instance is not None else inspection.node.name


def remove(workspace: Workspace, everywhere: bool = False) -> None:
    """Removes the selected parts within the reach, or (`everywhere`) in all variants, and
    selects what held them."""
    paths, owner = removable(workspace), workspace.owner
    if not paths or owner is None:
        return
    reach = reach_of(workspace)
    kept = not everywhere and narrowed(workspace)
    if everywhere:
        reach = reach._replace(when=Map())
    suffix = here(workspace) if kept else in_all(workspace)
    conditions_here = conditions(workspace)
    name = named_paths(workspace, paths)
    selection, reach_before = workspace.selection, workspace.reach
    line = lineage(owner.root, paths[0][0])
    if not workspace.edit(
        f"remove {name}{suffix}", lambda document: remove_parts(document, reach, paths)
    ):
        return
    if len(paths[0]) == 1:
        workspace.select((line[-2].id,) if len(line) > 2 else ())
    if all(len(path) > 1 for path in paths):
        _tell_inside(workspace, paths[0], f"“{name}” is hidden here.")
    elif kept and all(len(path) == 1 for path in paths):
        workspace.make_offer(
            f"“{name}” is gone in {conditions_here} and stays in the others.",
            "Remove it everywhere",
            lambda: _remove_everywhere(workspace, selection, reach_before),
        )


def _remove_everywhere(workspace: Workspace, selection: Selection, reach: Map[str, str]) -> None:
    workspace.undo()
    workspace.select_all(selection.paths)
    workspace.set_reach(reach)
    remove(workspace, everywhere=True)


def neighbours(workspace: Workspace) -> None:
    """Selects everything beside the selected part, or in the selected outermost box."""
    owner, path = workspace.owner, workspace.selection.path
    if owner is None:
        return
    line = lineage(owner.root, path[0] if path else owner.root.id)
    holder = line[-2] if len(line) > 1 else owner.root
    workspace.select_all(tuple((child.id,) for child in holder.children))


def insertion_point(workspace: Workspace) -> tuple[str, int | None] | None:
    """Where something new goes: last in the selected box, or behind the selected part; None,
    and it is told why, where nothing can be put."""
    owner = workspace.owner
    if owner is None:
        workspace.failed.emit("Begin a component or a screen first: nothing is on the bench.")
        return None
    node = own_node(workspace) or owner.root
    if len(workspace.selection.path or ()) > 1:
        _tell_inside(workspace, workspace.selection.path or ())
        return None
    if node.kind == "box":
        return node.id, None
    line = lineage(owner.root, node.id)
    if len(line) < 2:
        workspace.failed.emit(
            f"“{short(owner)}” is one {node.kind} as a whole, and only a box holds other parts. "
            "Place an instance of it in a box, and draw there."
        )
        return None
    return line[-2].id, line[-2].children.index(node) + 1


def _tell_inside(workspace: Workspace, path: Path, done: str = "") -> None:
    """Says why an instance holds what its component does, and leads to where that can be
    changed; `done` is what was done in this one."""
    outer = inspect(workspace.document, place_of(workspace, path[:-1]))
    component = outer.scope.owner if outer is not None else None
    if component is None:
        return
    name = short(component)
    told = (
        f"{done} All instances of “{name}” hold the same parts."
        if done
        else f"All instances of “{name}” hold the same parts: draw it in the component, fill a "
        "slot, or detach this instance."
    )
    workspace.make_offer(
        told,
        f"Go to {name}",
        lambda: workspace.open(component.id),
    )


def can_hold(workspace: Workspace) -> bool:
    """Whether something new can be put where the selection is."""
    owner = workspace.owner
    if owner is None:
        return False
    node = own_node(workspace) or owner.root
    return node.kind == "box" or node.id != owner.root.id


def place_of(workspace: Workspace, path: Path) -> Place:
    """The node at a path, in what is on the bench."""
    selection = workspace.selection
    return Place(selection.owner, path, selection.variant, workspace.rooms)


def short(component: Owner) -> str:
    """A component's name without its folders."""
    return component.short_name


def line_to(workspace: Workspace, node: Node) -> tuple[Node, ...]:
    """The nodes from the root of the owner on the bench down to one of its own."""
    owner = workspace.owner
    return lineage(owner.root, node.id) if owner is not None else ()
