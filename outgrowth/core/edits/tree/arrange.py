"""Putting parts into a box, and taking them out again, so that nothing moves.

How a box has to arrange its children is guessed from where they stand: direction, gap,
alignment, padding. Every guess is laid out and compared before it is taken; the last one,
a free box with every child where it stood, always holds.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import partial
from itertools import pairwise
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.properties import row_of, rows_of
from outgrowth.core.document.records import Component, Document, Node, Owner, lineage
from outgrowth.core.document.values import FIT, GROW, Size, Value, fixed
from outgrowth.core.edits.tree.trees import owner_of, restyled, with_node, with_owner
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.rect import union
from outgrowth.core.refusal import Refusal

Where = Callable[[Document], Mapping[str, Rect]]
"""Where the nodes of an owner's own tree stand, by id, in its root's px; hidden ones apart."""

STILL = 0.01
"""Px by which a part may stand elsewhere and still count as not moved."""

NodeRects = Mapping[str, Rect]


class Guess(NamedTuple):
    """How a box would arrange parts that stand where they stand, and what its children then
    need of their own."""

    style: dict[str, Value]
    children: dict[str, dict[str, Value]]


def guess(rects: NodeRects) -> Guess:
    """The arrangement of parts by their places in the box that just surrounds them.

    A row if no two overlap across, a column if none do down, else a free box. The gap is
    the smallest there is; where others are wider, margins say so.
    """
    bounds = union(rects.values())
    for flow in ("row", "column"):
        order = sorted(rects, key=lambda i: rects[i].x if flow == "row" else rects[i].y)
        gaps = _gaps([rects[i] for i in order], flow)
        if all(gap >= -STILL for gap in gaps):
            return _flowing(flow, order, rects, bounds)
    places: dict[str, dict[str, Value]] = {
        i: {"x": rect.x - bounds.x, "y": rect.y - bounds.y} for i, rect in rects.items()
    }
    return Guess(
        {"flow": "free", "width": fixed(bounds.width), "height": fixed(bounds.height)}, places
    )


def _gaps(rects: list[Rect], flow: str) -> list[float]:
    row = flow == "row"
    return [b.x - a.right if row else b.y - a.bottom for a, b in pairwise(rects)]


def _flowing(flow: str, order: list[str], rects: NodeRects, rect: Rect) -> Guess:
    gaps = _gaps([rects[i] for i in order], flow)
    least = max(min(gaps, default=0.0), 0.0)
    along = "margin-left" if flow == "row" else "margin-top"
    children: dict[str, dict[str, Value]] = {i: {} for i in order}
    for i, gap in zip(order[1:], gaps, strict=True):
        if abs(gap - least) > STILL:
            children[i][along] = gap - least
    align, offsets = _aligned([rects[i] for i in order], rect, flow)
    across = "margin-top" if flow == "row" else "margin-left"
    for i, offset in zip(order, offsets, strict=True):
        if abs(offset) > STILL:
            children[i][across] = offset
    style: dict[str, Value] = {"flow": flow, "gap": least, "align": align}
    return Guess(style, children)


def _aligned(rects: list[Rect], rect: Rect, flow: str) -> tuple[str, list[float]]:
    """How the parts stand across the flow; where they have nothing in common, how far each
    stands from the near edge."""
    if flow == "row":
        spans = [(r.y - rect.y, rect.bottom - r.bottom) for r in rects]
    else:
        spans = [(r.x - rect.x, rect.right - r.right) for r in rects]
    none = [0.0] * len(rects)
    if all(before <= STILL for before, _ in spans):
        return "start", none
    if all(abs(before - after) <= STILL for before, after in spans):
        return "center", none
    if all(after <= STILL for _, after in spans):
        return "end", none
    return "start", [before for before, _ in spans]


# --- the edits ------------------------------------------------------------------------------


def wrap(
    document: Document,
    owner_id: str,
    node_ids: tuple[str, ...],
    box_id: str,
    layout_of: Where,
    elsewhere: Sequence[Where] = (),
) -> Document:
    """The document with parts of one box put into a new box in their place; nothing moves where
    `layout_of` looks, nor `elsewhere` (in other variants) if that can be.

    All children of a box are arranged by the new one as they were by the old: its flow, gap,
    justify and alignment go along, in all variants, and it fills the old one. Raises Refusal
    unless all are children of one box, and where parts of a flowing box are not neighbours.
    """
    owner = owner_of(document, owner_id)
    parents = {line[-2].id for i in node_ids if len(line := lineage(owner.root, i)) > 1}
    if len(parents) != 1:
        raise Refusal("Pick parts that stand in one box, and not the outermost box itself.")
    parent = lineage(owner.root, parents.pop())[-1]
    picked = [child for child in parent.children if child.id in node_ids]
    rects = layout_of(document)
    if any(child.id not in rects for child in picked):
        raise Refusal("A part that is hidden in this variant cannot be put into a box.")
    _refuse_between(parent, picked)
    rects_elsewhere = [where(document) for where in elsewhere]
    still_here: Document | None = None
    for candidate in _candidates(parent, picked, box_id, rects):
        boxed = with_node(owner, parent.id, partial(_with_box, candidate))
        if _arranges_all(candidate, parent, picked):
            boxed = _arranged_alike(boxed, parent.id, box_id)
        changed = with_owner(document, boxed)
        if not is_still(rects, layout_of(changed)):
            continue
        if all(
            is_still(before, where(changed))
            for before, where in zip(rects_elsewhere, elsewhere, strict=True)
        ):
            return changed
        still_here = still_here or changed
    if still_here is None:
        raise Refusal("These parts cannot be put into a box without moving something.")
    return still_here


# What a box says of how its children stand.
_ARRANGING = rows_of("arrangement") | {
    "gap", "cross-gap", "justify", "align", "align-content", "justify-items",
}  # fmt: skip


def _arranges_all(box: Node, parent: Node, picked: list[Node]) -> bool:
    return len(picked) == len(parent.children) and box.style.get("flow") == parent.style.get("flow")


def _arranged_alike(owner: Owner, parent_id: str, box_id: str) -> Owner:
    """The owner with a box that does what its parent did in other variants too."""
    if not isinstance(owner, Component):
        return owner
    alike = tuple(
        msgspec.structs.replace(rule, node=(box_id,))
        for rule in owner.rules
        if rule.node == (parent_id,) and rule.property in _ARRANGING
    )
    return msgspec.structs.replace(owner, rules=(*owner.rules, *alike)) if alike else owner


def _filling(parent: Node, picked: list[Node], box_id: str) -> Iterator[Node]:
    """Boxes that take over all children of a parent, and fill it."""
    arranging = {k: v for k, v in parent.style.items() if k in _ARRANGING}
    flow = str(parent.style.get("flow", "row"))
    along, across = ("height", "width") if flow == "column" else ("width", "height")
    tried: tuple[dict[str, Value], ...] = (
        {along: GROW, "align-self": "stretch"},
        {along: GROW, across: GROW},
        {along: GROW},
        {"align-self": "stretch"},
        {},
    )
    for sizes in tried:
        yield _box(box_id, picked, {"flow": flow} | arranging | sizes, {})


def _refuse_between(parent: Node, picked: list[Node]) -> None:
    if _is_free(parent) or all(_floats(child) for child in picked):
        return
    first = parent.children.index(picked[0])
    if list(parent.children[first : first + len(picked)]) != picked:
        raise Refusal(f"Pick neighbours: other parts of “{parent.name}” stand between them.")


def _is_free(node: Node) -> bool:
    return node.style.get("flow") == "free"


def _floats(node: Node) -> bool:
    return node.style.get("floating") is True


def _candidates(parent: Node, picked: list[Node], box_id: str, rects: NodeRects) -> Iterator[Node]:
    """Boxes to try, the most elastic first."""
    rects_here = {child.id: rects[child.id] for child in picked}
    bounds = union(rects_here.values())
    corner = rects[parent.id]
    place: dict[str, Value] = {}
    free = _is_free(parent) or all(_floats(child) for child in picked)
    if free:
        place = {"x": bounds.x - corner.x, "y": bounds.y - corner.y}
    if free and not _is_free(parent):
        place["floating"] = True
    size: dict[str, Value] = {"width": fixed(bounds.width), "height": fixed(bounds.height)}
    if not free and len(picked) == len(parent.children):
        yield from _filling(parent, picked, box_id)
    if not free:
        yield _box(box_id, picked, _common_style(parent, picked), {})
    guessed = guess(rects_here)
    order = sorted(picked, key=lambda child: list(guessed.children).index(child.id))
    current = {child.id: _freed(child, rects_here[child.id]) for child in picked}
    for more in ({}, size):
        style = place | guessed.style | more
        yield _box(
            box_id, order, style, {i: current[i] | own for i, own in guessed.children.items()}
        )
    spread: dict[str, dict[str, Value]] = {
        i: current[i] | {"x": rect.x - bounds.x, "y": rect.y - bounds.y}
        for i, rect in rects_here.items()
    }
    yield _box(box_id, picked, place | {"flow": "free"} | size, spread)


def _common_style(parent: Node, picked: list[Node]) -> dict[str, Value]:
    """A box that goes on doing what its parent did for these children."""
    remaining = {
        k: v for k, v in parent.style.items() if k in ("flow", "gap", "align", "cross-gap")
    }
    for side in ("width", "height"):
        sizes = [child.style.get(side, FIT) for child in picked]
        grows = [s.amount for s in sizes if isinstance(s, Size) and s.mode == "grow"]
        if grows:
            remaining[side] = Size("grow", sum(grows))
    return remaining


def _freed(child: Node, rect: Rect) -> dict[str, Value]:
    """What a part must say for itself in another box: a size where it had grown with the old
    one, no place and no margins."""
    style: dict[str, Value] = {}
    for side, px in (("width", rect.width), ("height", rect.height)):
        size = child.style.get(side, FIT)
        if isinstance(size, Size) and size.mode == "grow":
            style[side] = fixed(px)
    for name in _OF_A_PLACE & set(child.style):
        style[name] = row_of(name).default
    return style


# What a part says about where it stands in its box; whether it is shown, and its turn among the
# others, go along into another.
_OF_A_PLACE = frozenset(n for n in rows_of("placement") if row_of(n).affects == "layout")


def _box(
    box_id: str, picked: list[Node], style: dict[str, Value], own: dict[str, dict[str, Value]]
) -> Node:
    children = tuple(restyled(child, Map(own.get(child.id, {}))) for child in picked)
    return Node(box_id, "box", "box", Map(style), children)


def _with_box(box: Node, parent: Node) -> Node:
    inside = {child.id for child in box.children}
    first = next(n for n, child in enumerate(parent.children) if child.id in inside)
    left = [child for child in parent.children if child.id not in inside]
    return msgspec.structs.replace(parent, children=(*left[:first], box, *left[first:]))


def is_still(before: NodeRects, after: NodeRects) -> bool:
    """Whether everything that was there stands where it stood."""
    return all(
        i in after and all(abs(a - b) <= STILL for a, b in zip(rect, after[i], strict=True))
        for i, rect in before.items()
    )


def unwrap(document: Document, owner_id: str, box_id: str, layout_of: Where) -> Document:
    """The document with a box gone and its children in its place. In a free box they keep
    their places; in a flowing one they join the flow. Rules about the box go with it.

    Raises Refusal for the outermost box, and for what is no box.
    """
    owner = owner_of(document, owner_id)
    line = lineage(owner.root, box_id)
    if len(line) < 2 or line[-1].kind != "box":
        raise Refusal("Only a box inside another one can be taken apart.")
    parent, box = line[-2], line[-1]
    rects = layout_of(document)
    children = box.children
    if _is_free(parent) and parent.id in rects:
        corner = rects[parent.id]
        children = tuple(_placed(child, rects.get(child.id), corner) for child in children)

    def change(node: Node) -> Node:
        index = node.children.index(box)
        remaining = (*node.children[:index], *children, *node.children[index + 1 :])
        return msgspec.structs.replace(node, children=remaining)

    changed = with_node(owner, parent.id, change)
    if isinstance(changed, Component):
        rules = tuple(r for r in changed.rules if r.node[0] != box_id)
        changed = msgspec.structs.replace(changed, rules=rules)
    return with_owner(document, changed)


def _placed(child: Node, rect: Rect | None, corner: Rect) -> Node:
    if rect is None:
        return child
    values: dict[str, Value] = {"x": rect.x - corner.x, "y": rect.y - corner.y}
    return restyled(child, Map(_freed(child, rect) | values))
