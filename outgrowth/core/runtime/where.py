"""Finding nodes in a running scene by their paths."""

from __future__ import annotations

from collections.abc import Iterator

from outgrowth.core.document.cues import Path
from outgrowth.core.resolve.scene import SceneNode


def scene_at(scene: SceneNode, path: Path) -> SceneNode | None:
    """The shown node that a path of ids leads to; boxes on the way are looked through."""
    line = line_to(scene, path)
    return line[-1][1] if line else None


def line_to(scene: SceneNode, path: Path) -> list[tuple[Path, SceneNode]]:
    """All shown nodes from the root down to the one at the path, boxes included, each with
    its own path; empty if it is not shown."""
    line: list[tuple[Path, SceneNode]] = [((), scene)]
    for n, node_id in enumerate(path):
        below = _inside(line[-1][1], path[:n], node_id)
        if not below:
            return []
        line += below
    return line


def _inside(scene: SceneNode, instance: Path, node_id: str) -> list[tuple[Path, SceneNode]]:
    """From beneath `scene` down to the node with this id, not into other instances."""
    if node_id in scene.ids:
        return [((*instance, node_id), scene.children[scene.ids.index(node_id)])]
    for child_id, child in zip(scene.ids, scene.children, strict=True):
        found = [] if child.component else _inside(child, instance, node_id)
        if found:
            return [((*instance, child_id), child), *found]
    return []


def instances_in(scene: SceneNode, instance: Path) -> Iterator[tuple[Path, SceneNode]]:
    """The instances beneath a node, not those inside of them, in tree order."""
    for child_id, child in zip(scene.ids, scene.children, strict=True):
        if child.component:
            yield (*instance, child_id), child
        else:
            yield from instances_in(child, instance)


def all_instances(scene: SceneNode, path: Path = ()) -> Iterator[tuple[Path, SceneNode]]:
    """Every instance of a scene, holders before what they hold, in tree order."""
    if scene.component:
        yield path, scene
    for at, inner in instances_in(scene, path):
        yield from all_instances(inner, at)
