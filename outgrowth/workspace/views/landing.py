"""Where a part that is moved or dropped would land, and what it can catch on, from the layout
that is shown."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.records import Node, Path, lineage
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.rect import union
from outgrowth.core.layout.rectangles import Located, locate_some
from outgrowth.core.motion.view import View

# How many parts a moved one may catch on.
_NEIGHBOURS = 32


class Landing(NamedTuple):
    """Where a part would land: the box, and before which of its children."""

    parent: str
    before: int


class SnapContext(NamedTuple):
    """What a moved part can catch on, in px of the owner: where it stands, its neighbours,
    and the box that they share."""

    rect: Rect
    others: tuple[Rect, ...]
    room: Rect


def landing_in(
    view: View, root: Node, under: Path, point: tuple[float, float], moving: Node | None
) -> tuple[Landing, Rect] | None:
    """Where a part would land in an owner's tree: in the innermost box of its own at what is
    `under` a point (px of the owner), and the line that shows it. What is being moved itself
    is not in the way."""
    line = lineage(root, under[0] if under else root.id)
    if moving is not None and moving in line:
        line = line[: line.index(moving)]
    boxes = [node for node in line if node.kind == "box"]
    return _among(view, root, boxes[-1], point, moving) if boxes else None


def _among(
    view: View, root: Node, parent: Node, point: tuple[float, float], moving: Node | None
) -> tuple[Landing, Rect] | None:
    box = _located(view, root, parent)
    if box is None:
        return None
    style, last = box.scene.layout.style, len(parent.children)
    if style.flow == "free":
        # On top of the others, with its corner where the pointer is.
        return Landing(parent.id, last), Rect(point[0], point[1], 0.0, 0.0)
    row = style.flow == "row"
    rects = _inside(box)
    back = row and style.mirrored
    edge = box.rect.right - 2 if back else (box.rect.x if row else box.rect.y) + 2
    others = [child.id for child in parent.children if child is not moving]
    # In the order in which they are shown, which can be another one than the tree's.
    shown = [child_id for child_id in rects if child_id in others]
    in_tree_order = shown == [child_id for child_id in others if child_id in rects]
    index = 0 if not shown else others.index(shown[-1]) + 1 if in_tree_order else len(others)
    for child_id in shown:
        rect = rects[child_id]
        middle = rect.center[0] if row else rect.center[1]
        along = point[0] if row else point[1]
        if (along > middle) if back else (along < middle):
            index = others.index(child_id)
            break
        edge = rect.x - 2 if back else (rect.right if row else rect.bottom) + 2
    rect_around = box.rect
    upright = Rect(edge, rect_around.y, 1, rect_around.height)
    return Landing(parent.id, index), upright if row else Rect(
        rect_around.x, edge, rect_around.width, 1
    )


def _located(view: View, root: Node, box: Node) -> Located | None:
    """A box of the owner's own tree, in its layout."""
    return next(locate_some(*view, "", (() if box is root else (box.id,),)), None)


def _inside(located: Located) -> dict[str, Rect]:
    """Where a box's own children stand, in px of the owner."""
    x, y, placed = located.rect.x, located.rect.y, located.placed
    children = zip(located.scene.ids, placed.xs, placed.ys, placed.children, strict=True)
    return {i: Rect(x + dx, y + dy, p.width, p.height) for i, dx, dy, p in children}


def snap_context(view: View, root: Node, ids: tuple[str, ...], sight: Rect) -> SnapContext | None:
    """What parts of one box can catch on when they are moved together: their box, and those
    of their neighbours that are in sight, the nearest."""
    line = lineage(root, ids[0]) if ids else ()
    box = _located(view, root, line[-2]) if len(line) > 1 else None
    if box is None:
        return None
    rects = _inside(box)
    mine = [rects[i] for i in ids if i in rects]
    if not mine:
        return None
    bounds = union(mine)
    others = [rect for i, rect in rects.items() if i not in ids and rect.meets(sight)]
    x, y = bounds.center
    others.sort(key=lambda rect: abs(rect.center[0] - x) + abs(rect.center[1] - y))
    return SnapContext(bounds, tuple(others[:_NEIGHBOURS]), box.rect)
