"""Finding nodes in a scene by their paths.

A path names instances by id, and last a node; boxes on the way are looked through. What lies
where among an instance's own nodes is worked out once for each scene node and kept on it.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator

from outgrowth.core.document.cues import Path
from outgrowth.core.memo import differing
from outgrowth.core.resolve.scene import SceneNode

Positions = tuple[int, ...]
"""The way down to a node: which child of each node on it."""


def scene_at(scene: SceneNode, path: Path) -> SceneNode | None:
    """The shown node that a path of ids leads to."""
    route = positions_of(scene, path)
    if route is None:
        return None
    for n in route:
        scene = scene.children[n]
    return scene


def line_to(scene: SceneNode, path: Path) -> list[tuple[Path, SceneNode]]:
    """All shown nodes from the root down to the one at the path, boxes included, each with
    its own path; empty if it is not shown."""
    node = scene
    line: list[tuple[Path, SceneNode]] = [((), scene)]
    for n, node_id in enumerate(path):
        route = own_positions(node).get(node_id)
        if route is None:
            return []
        for place in route:
            line.append(((*path[:n], node.ids[place]), node.children[place]))
            node = node.children[place]
    return line


def positions_of(scene: SceneNode, path: Path) -> Positions | None:
    """The way down to the node at a path; None if it is not shown."""
    node = scene
    positions: list[int] = []
    for node_id in path:
        route = own_positions(node).get(node_id)
        if route is None:
            return None
        for n in route:
            node = node.children[n]
        positions += route
    return tuple(positions)


def own_positions(scene: SceneNode) -> dict[str, Positions]:
    """The ways to all nodes of an instance's own tree, by id; not into other instances.
    Kept on the node, which never changes."""
    if scene.positions is not None:
        return scene.positions
    by_id: dict[str, Positions] = {}
    waiting: list[tuple[SceneNode, Positions]] = [(scene, ())]
    for node, route in waiting:
        for n, (node_id, child) in enumerate(zip(node.ids, node.children, strict=True)):
            by_id.setdefault(node_id, (*route, n))
            if child.children and not child.component:
                waiting.append((child, (*route, n)))
    scene.positions = by_id
    return by_id


def instances_in(scene: SceneNode, instance: Path) -> Iterator[tuple[Path, SceneNode]]:
    """The instances beneath a node, not those inside of them, in tree order."""
    for child_id, child in zip(scene.ids, scene.children, strict=True):
        if child.component:
            yield (*instance, child_id), child
        elif child.children:
            yield from instances_in(child, instance)


def all_instances(scene: SceneNode, path: Path = ()) -> Iterator[tuple[Path, SceneNode]]:
    """Every instance of a scene, holders before what they hold, in tree order."""
    if scene.component:
        yield path, scene
    for instance_path, inner in instances_in(scene, path):
        yield from all_instances(inner, instance_path)


def instances_of(scene: SceneNode, components: Collection[str]) -> Iterator[Path]:
    """The paths of all instances of these components beneath a scene, holders before what they
    hold, in tree order."""
    waiting: list[tuple[SceneNode, Path]] = [(scene, ())] if components else []
    while waiting:
        node, path = waiting.pop()
        if path and node.component in components:
            yield path
        below = [
            (child, (*path, child_id) if child.component else path)
            for child_id, child in zip(node.ids, node.children, strict=True)
            if child.component or child.children
        ]
        waiting += reversed(below)


def instances_that_differ(
    before: SceneNode | None, after: SceneNode | None, path: Path = ()
) -> Iterator[tuple[Path, SceneNode | None, SceneNode | None]]:
    """The instances (and the root) that are not the same object in two scenes of one owner, on
    one side None where they are not there; holders before what they hold, in tree order."""
    if before is after:
        return
    if before is not None and after is not None and before.component != after.component:
        yield from instances_that_differ(before, None, path)
        before = None
    existing = after if after is not None else before
    if existing is not None and (existing.component or not path):
        yield path, before, after
    yield from _below_that_differ(before, after, path)


def _below_that_differ(
    before: SceneNode | None, after: SceneNode | None, instance: Path
) -> Iterator[tuple[Path, SceneNode | None, SceneNode | None]]:
    pairs: list[tuple[str, SceneNode | None, SceneNode | None]]
    if before is not None and after is not None and before.ids == after.ids:
        places = differing(before.children, after.children)
        pairs = [(after.ids[n], before.children[n], after.children[n]) for n in places]
    else:
        was = _by_id(before)
        now = _by_id(after)
        pairs = [(node_id, was.pop(node_id, None), child) for node_id, child in now.items()]
        pairs += [(node_id, child, None) for node_id, child in was.items()]
    for node_id, old, new in pairs:
        if any(node is not None and node.component for node in (old, new)):
            yield from instances_that_differ(old, new, (*instance, node_id))
        elif old is not new:
            yield from _below_that_differ(old, new, instance)


def _by_id(scene: SceneNode | None) -> dict[str, SceneNode]:
    return dict(zip(scene.ids, scene.children, strict=True)) if scene is not None else {}
