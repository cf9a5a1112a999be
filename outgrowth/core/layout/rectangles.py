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
    whole = Rect(0.0, 0.0, placed.width, placed.height)
    yield from _below(Located((), (root_name,), whole, scene, placed), ())


def locate_some(
    scene: SceneNode, placed: Placed, root_name: str, paths: Iterable[Path]
) -> Iterator[Located]:
    """The shown nodes at these paths, in no order. Instances that none of them leads into,
    and parts that hold nothing, are passed by."""
    wanted = set(paths)
    whole = Located((), (root_name,), Rect(0.0, 0.0, placed.width, placed.height), scene, placed)
    if () in wanted:
        wanted.discard(())
        yield whole
    if wanted:
        yield from _among(whole, (), {path for path in wanted if path})


def room_around(scene: SceneNode, placed: Placed, path: Path) -> tuple[float, float]:
    """Width and height inside of what holds the node at a path (px); 0 if nothing does."""
    way = positions_of(scene, path)
    if not way:
        return 0.0, 0.0
    for n in way[:-1]:
        scene, placed = scene.children[n], placed.children[n]
    s = scene.layout.style
    if s.flow == "free":
        return placed.width, placed.height
    across = placed.width - s.padding_left - s.padding_right
    return max(across, 0.0), max(placed.height - s.padding_top - s.padding_bottom, 0.0)


def _among(at: Located, instance: Path, wanted: set[Path]) -> Iterator[Located]:
    """Those of the wanted that lie below a node whose own tree is `instance`'s."""
    depth = len(instance)
    ids = {path[depth] for path in wanted}
    left = set(wanted)
    for node_id in ids:
        for n in _places(at.scene.ids, node_id):
            child, path = _child(at, n, instance), (*instance, node_id)
            if path in left:
                left.discard(path)
                yield child
            deeper = {p for p in left if p[: depth + 1] == path}
            if deeper and child.scene.component:
                left -= deeper
                yield from _among(child, path, deeper)
    if not left:
        return
    for n, scene in enumerate(at.scene.children):
        if scene.children and not scene.component and _may_hold(scene, ids):
            found = list(_among(_child(at, n, instance), instance, left))
            left -= {child.path for child in found}
            yield from found
            if not left:
                return


def _may_hold(scene: SceneNode, ids: set[str]) -> bool:
    """Whether one of these may be among a node's own, looking no further than its children."""
    return not ids.isdisjoint(scene.ids) or any(child.children for child in scene.children)


def _places(ids: tuple[str, ...], node_id: str) -> tuple[int, ...]:
    return (ids.index(node_id),) if node_id in ids else ()


def _child(at: Located, n: int, instance: Path) -> Located:
    placed = at.placed.children[n]
    rect = Rect(
        at.rect.x + at.placed.xs[n], at.rect.y + at.placed.ys[n], placed.width, placed.height
    )
    scene, names = at.scene.children[n], (*at.names, at.scene.names[n])
    return Located((*instance, at.scene.ids[n]), names, rect, scene, placed)


def _below(at: Located, instance: Path) -> Iterator[Located]:
    yield at
    for child, inside in _children(at, instance):
        yield from _below(child, inside)


def _children(at: Located, instance: Path) -> Iterator[tuple[Located, Path]]:
    """The shown children, each with the path of the instance that its own are inside of."""
    children = zip(at.scene.ids, at.scene.names, at.scene.children, strict=True)
    spots = zip(at.placed.children, at.placed.xs, at.placed.ys, strict=True)
    for (node_id, name, scene), (placed, x, y) in zip(children, spots, strict=True):
        path = (*instance, node_id)
        rect = Rect(at.rect.x + x, at.rect.y + y, placed.width, placed.height)
        inside = path if scene.component else instance
        yield Located(path, (*at.names, name), rect, scene, placed), inside
