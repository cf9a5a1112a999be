"""Flattening: the rectangle of every node in the coordinates of the root.

Only what is asked for is flattened; nothing on the way to the screen needs it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from outgrowth.core.document.records import Path
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import positions_of


class Located(NamedTuple):
    """A shown node: its path of ids, the names along it, where it stands, and itself.

    `path` goes through instances and ends at the node; boxes between do not appear in it
    but do appear in `names`.
    """

    path: Path
    names: tuple[str, ...]
    rect: Rect
    scene: SceneNode
    placed: Placed


def locate(scene: SceneNode, placed: Placed, root_name: str) -> Iterator[Located]:
    """Every shown node of a laid-out scene, parents before children."""
    bounds = Rect(0.0, 0.0, placed.width, placed.height)
    yield from _below(Located((), (root_name,), bounds, scene, placed), ())


def locate_some(
    scene: SceneNode, placed: Placed, root_name: str, paths: Iterable[Path]
) -> Iterator[Located]:
    """The shown nodes at these paths, in no order. Instances that none of them leads into,
    and parts that hold nothing, are passed by."""
    target = set(paths)
    bounds = Located((), (root_name,), Rect(0.0, 0.0, placed.width, placed.height), scene, placed)
    if () in target:
        target.discard(())
        yield bounds
    if target:
        yield from _among(bounds, (), {path for path in target if path})


def room_around(scene: SceneNode, placed: Placed, path: Path) -> tuple[float, float]:
    """Width and height inside of what holds the node at a path (px); 0 if nothing does."""
    route = positions_of(scene, path)
    if not route:
        return 0.0, 0.0
    for n in route[:-1]:
        scene, placed = scene.children[n], placed.children[n]
    style = scene.layout.style
    if style.flow == "free":
        return placed.width, placed.height
    across = placed.width - style.padding_left - style.padding_right
    return max(across, 0.0), max(placed.height - style.padding_top - style.padding_bottom, 0.0)


def _among(located: Located, instance: Path, target: set[Path]) -> Iterator[Located]:
    """Those of the wanted that lie below a node whose own tree is `instance`'s."""
    depth = len(instance)
    ids = {path[depth] for path in target}
    left = set(target)
    for node_id in ids:
        for n in _places(located.scene.ids, node_id):
            child, path = _child(located, n, instance), (*instance, node_id)
            if path in left:
                left.discard(path)
                yield child
            deeper = {p for p in left if p[: depth + 1] == path}
            if deeper and child.scene.component:
                left -= deeper
                yield from _among(child, path, deeper)
    if not left:
        return
    for n, scene in enumerate(located.scene.children):
        if scene.children and not scene.component and _may_hold(scene, ids):
            results = list(_among(_child(located, n, instance), instance, left))
            left -= {child.path for child in results}
            yield from results
            if not left:
                return


def _may_hold(scene: SceneNode, ids: set[str]) -> bool:
    """Whether one of these may be among a node's own, looking no further than its children."""
    return not ids.isdisjoint(scene.ids) or any(child.children for child in scene.children)


def _places(ids: tuple[str, ...], node_id: str) -> tuple[int, ...]:
    return (ids.index(node_id),) if node_id in ids else ()


def _child(located: Located, n: int, instance: Path) -> Located:
    placed = located.placed.children[n]
    rect = Rect(
        located.rect.x + located.placed.xs[n],
        located.rect.y + located.placed.ys[n],
        placed.width,
        placed.height,
    )
    scene, names = located.scene.children[n], (*located.names, located.scene.names[n])
    return Located((*instance, located.scene.ids[n]), names, rect, scene, placed)


def _below(located: Located, instance: Path) -> Iterator[Located]:
    yield located
    for child, inside in children_of(located, instance):
        yield from _below(child, inside)


def children_of(located: Located, instance: Path) -> Iterator[tuple[Located, Path]]:
    """The shown children of a node whose own tree is `instance`'s, each with the path of the
    instance that its own are inside of."""
    children = zip(located.scene.ids, located.scene.names, located.scene.children, strict=True)
    parts = zip(located.placed.children, located.placed.xs, located.placed.ys, strict=True)
    for (node_id, name, scene), (placed, x, y) in zip(children, parts, strict=True):
        path = (*instance, node_id)
        rect = Rect(located.rect.x + x, located.rect.y + y, placed.width, placed.height)
        inside = path if scene.component else instance
        yield Located(path, (*located.names, name), rect, scene, placed), inside
