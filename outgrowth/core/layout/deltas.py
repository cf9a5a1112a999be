"""Long lists of which little changed: taken over from the layout before, but for the changes.

A node that is made after another one says so (`ChildDelta`); what was laid out of the other is
then not laid out anew. Results are the very same as from nothing (tests/core/test_lists.py).
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import accumulate

import numpy as np

from outgrowth.core.layout.cross_axis import scrolls
from outgrowth.core.layout.directions import Spot
from outgrowth.core.layout.memory import MOST_SIZES, ColumnStack, StackedChild, memory_of
from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import LONG, MOVED, STICKS, LayoutNode

Stacking = Callable[[LayoutNode], StackedChild | None]
"""Stands one child into a column; None where it is aligned by its neighbours."""
Assembling = Callable[[LayoutNode, float, float, list[Spot]], Placed]
Pinning = Callable[[LayoutNode], Spot]

_NO_PART = StackedChild(Placed(0.0, 0.0), 0.0, 0.0, 0.0)


def node_before(node: LayoutNode) -> LayoutNode | None:
    """The node that this one is made after, if it is arranged the same and still there."""
    before = node.delta.before() if node.delta is not None else None
    if not isinstance(before, LayoutNode) or before.style is not node.style or node.floats:
        return None
    return None if node.deep & STICKS and scrolls(node) else before


def column_stack(
    node: LayoutNode, children: tuple[LayoutNode, ...], across: float, stacking: Stacking
) -> ColumnStack | None:
    """The children of a column as they stand by themselves in `across` px; None where one of
    them is aligned by its neighbours."""
    before = node_before(node)
    old = memory_of(before).stacks.get(across) if before is not None else None
    if old is not None and node.delta is not None:
        parts, changed = list(old.parts), node.delta.changed
    else:
        parts, changed = [_NO_PART] * len(children), tuple(range(len(children)))
    for n in changed:
        part = stacking(children[n])
        if part is None:
            return None
        parts[n] = part
    if len(children) < LONG:
        return ColumnStack(parts, np.empty(0))
    if old is not None:
        reaches = old.reaches.copy()
        reaches[list(changed)] = [parts[n].reach for n in changed]
    else:
        reaches = np.array([part.reach for part in parts])
    stack = ColumnStack(parts, reaches)
    memory = memory_of(node)
    if len(memory.stacks) < MOST_SIZES:
        memory.stacks[across] = stack
    return stack


def stacked_column(
    node: LayoutNode, width: float, stack: ColumnStack, assembling: Assembling
) -> Placed | None:
    """A column as high as its children: none of them has to flex, so each stands below the
    others' sum. None where margins make that sum less than nothing: then there is room to grow
    into."""
    style = node.style
    again = _column_as_before(node, width, stack)
    if again is not None:
        return again
    parts = stack.parts
    if len(stack.reaches):
        rooms = np.concatenate(([style.padding_top], stack.reaches + style.gap))
        tops = np.cumsum(rooms).tolist()
    else:
        tops = list(accumulate([p.reach + style.gap for p in parts], initial=style.padding_top))
    end = tops[-1] - style.gap if parts else style.padding_top
    if end < style.padding_top:
        return None
    height = max(end - style.padding_top, 0.0) + style.padding_top + style.padding_bottom
    if node.floats or style.mirrored or style.reversed or node.holds & MOVED:
        standing = zip(parts, tops, strict=False)
        placements = [(p.placed, p.x + style.padding_left, top + p.drop) for p, top in standing]
        return assembling(node, width, height, placements)
    return Placed(
        width,
        height,
        tuple([part.placed for part in parts]),
        tuple([part.x + style.padding_left for part in parts]),
        tuple([top + part.drop for part, top in zip(parts, tops, strict=False)]),
    )


def _column_as_before(node: LayoutNode, width: float, stack: ColumnStack) -> Placed | None:
    """The column in which nothing moved, though some of its children are others."""
    before, delta, style = node_before(node), node.delta, node.style
    if before is None or delta is None or node.holds & MOVED or style.mirrored or style.reversed:
        return None
    memory = memory_of(before)
    across = max(width - style.padding_left - style.padding_right, 0.0)
    old, placed = memory.stacks.get(across), memory.sizes.get((width, None, True))
    if placed is None or old is None:
        return None
    if any(old.parts[n][1:] != stack.parts[n][1:] for n in delta.changed):
        return None
    children = list(placed.children)
    for n in delta.changed:
        children[n] = stack.parts[n].placed
    return Placed(placed.width, placed.height, tuple(children), placed.xs, placed.ys)


def free_box_as_before(
    node: LayoutNode, width: float, height: float, pinning: Pinning
) -> Placed | None:
    """A long free box, taken over from the one before it but for the children that changed."""
    before, delta = node_before(node), node.delta
    if before is None or delta is None:
        return None
    old = memory_of(before).pinned.get((width, height))
    if old is None or len(old.children) != len(node.children):
        return None
    children, xs, ys = list(old.children), list(old.xs), list(old.ys)
    for n in delta.changed:
        children[n], xs[n], ys[n] = pinning(node.children[n])
    placed = Placed(width, height, tuple(children), tuple(xs), tuple(ys))
    memory_of(node).pinned[width, height] = placed
    return placed
