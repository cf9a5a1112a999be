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
    """The shown nodes at these paths. Instances that none of them leads into are passed by."""
    wanted = set(paths)
    ways = {path[:n] for path in wanted for n in range(len(path))}
    whole = Rect(0.0, 0.0, placed.width, placed.height)
    stack: list[tuple[Located, Path]] = [(Located((), (root_name,), whole, scene, placed), ())]
    while stack and wanted:
        at, instance = stack.pop()
        if at.path in wanted:
            wanted.discard(at.path)
            yield at
        if at.scene.component and at.path not in ways:
            continue
        stack += reversed(list(_children(at, instance)))


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
