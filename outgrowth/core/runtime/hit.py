"""Hit testing: which node of a picture is under a point, the topmost first."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np

from outgrowth.core.document.records import Path
from outgrowth.core.geometry.rect import in_rounded
from outgrowth.core.layout import Placed
from outgrowth.core.paint.draw import draw, own_transform
from outgrowth.core.resolve.scene import LONG, SceneNode


class Hit(NamedTuple):
    """The node under the point, as a path, and the paths of the instances around it,
    the outermost first (the node itself included if it is one)."""

    path: Path
    instances: tuple[Path, ...]


def hit(scene: SceneNode, placed: Placed, x: float, y: float) -> Hit | None:
    """The topmost node under the point, in the scene's coordinates.

    Respects transforms, clipping, corner radii and click-through (which, as in CSS, holds
    for all beneath the node).
    """
    return _hit(scene, placed, x, y, Hit((), ((),) if scene.component else ()))


def _hit(scene: SceneNode, placed: Placed, x: float, y: float, below: Hit) -> Hit | None:
    if scene.click_through:
        return None
    transform = own_transform(scene.paint, placed.width, placed.height)
    if transform is not None:
        back = transform.inverse()
        if back is None:
            return None
        x, y = back.apply(x, y)
    inside = in_rounded(x, y, placed.width, placed.height, scene.paint.radii)
    if scene.paint.clip and not inside:
        return None
    prefix = below.instances[-1] if below.instances else ()
    for n in _near(scene, placed, x, y):
        child = scene.children[n]
        path = (*prefix, scene.ids[n])
        instances = (*below.instances, path) if child.component else below.instances
        point = x - placed.xs[n], y - placed.ys[n]
        inner = _hit(child, placed.children[n], *point, Hit(path, instances))
        if inner is not None:
            return inner
    return below if inside else None


def _near(scene: SceneNode, placed: Placed, x: float, y: float) -> Iterable[int]:
    """Which children may be under the point, the topmost first: of a long list, only those
    whose ink reaches there, which the display list knows."""
    count = len(scene.ids)
    extents = draw(scene, placed).extents if count >= LONG else None
    if extents is None:
        return range(count - 1, -1, -1)
    left, top, right, bottom = extents.T
    inside = (left <= x) & (x <= right) & (top <= y) & (y <= bottom)
    indexes: list[int] = np.nonzero(inside)[0][::-1].tolist()
    return indexes
