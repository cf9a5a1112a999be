"""Going about in the tree by key: out, in, beside."""

from __future__ import annotations

from outgrowth.core.document.records import lineage
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace.workspace import Workspace


def step_out(workspace: Workspace) -> bool:
    """From a node to what holds it; whether there was something selected."""
    path, owner = workspace.selection.path, workspace.owner
    if path is None or owner is None:
        return False
    if len(path) > 1:
        workspace.select(path[:-1])
    elif path:
        line = lineage(owner.root, path[0])
        workspace.select((line[-2].id,) if len(line) > 2 else ())
    else:
        workspace.select(None)
    return True


def step_in(workspace: Workspace) -> bool:
    """From a box to its first child, or into an instance; whether there was a way in. A text's
    words are the bench's to open."""
    place, owner = workspace.place, workspace.owner
    if owner is None:
        return False
    if place is None:
        workspace.select(())
        return True
    inspection = inspect(workspace.document, place)
    if inspection is None or not inspection.node.children:
        return False
    inside = place.path if inspection.instance is not None else place.path[:-1]
    workspace.select((*inside, inspection.node.children[0].id))
    return True


def step_beside(workspace: Workspace, by: int) -> bool:
    """To the next neighbour, or the one before; whether there was one."""
    place, owner = workspace.place, workspace.owner
    if place is None or owner is None or not place.path:
        return False
    inspection = inspect(workspace.document, place._replace(path=place.path[:-1]))
    inside = inspection is not None and len(place.path) > 1
    root = inspection.node if inspection is not None and inside else owner.root
    line = lineage(root, place.path[-1])
    if len(line) < 2:
        return False
    ids = [child.id for child in line[-2].children]
    index = (ids.index(place.path[-1]) + by) % len(ids)
    workspace.select((*place.path[:-1], ids[index]))
    return True
