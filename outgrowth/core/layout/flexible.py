"""Resolving flexible lengths and placing items on an axis: numbers in, numbers out.

Source: CSS Flexbox Level 1, section 9.7, and CSS Box Alignment 3, sections 4 and 8.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple


class Item(NamedTuple):
    """One flex item on the main axis, in px, margins apart.

    base     flex base size
    least    min main size, the automatic minimum included
    most     max main size; infinity for none
    grow     flex-grow
    shrink   flex-shrink
    margins  sum of both margins on the main axis
    inset    sum of both paddings there, included in the base: they do not give way
    """

    base: float
    least: float
    most: float
    grow: float
    shrink: float
    margins: float
    inset: float = 0.0

    @property
    def giving(self) -> float:
        """How much it gives way, beside others: the scaled flex shrink factor."""
        return self.shrink * max(self.base - self.inset, 0.0)

    @property
    def hypothetical(self) -> float:
        """The base size within its limits. Source: CSS Flexbox 1, section 9.2 step 3."""
        return max(min(self.base, self.most), self.least)


def resolve(items: Sequence[Item], room: float) -> list[float]:
    """Main sizes of the items of one line; `room` is the container's inner size less gaps."""
    # Flexbox 9.7 step 1: the sum of the outer hypothetical sizes says whether items grow or
    # shrink.
    sizes = [item.hypothetical for item in items]
    used = sum(sizes) + sum(item.margins for item in items)
    growing = used < room
    # Step 2: inflexible items are frozen at their hypothetical size: those without a factor, and
    # those whose base lies on the wrong side of it.
    open_items = [n for n, item in enumerate(items) if _may_flex(item, sizes[n], growing)]
    if not open_items or used == room:
        return sizes
    return _distributed(items, sizes, open_items, room, growing)


def _may_flex(item: Item, hypothetical: float, growing: bool) -> bool:
    if growing:
        return item.grow > 0 and item.base <= hypothetical
    return item.shrink > 0 and item.base >= hypothetical


def _distributed(
    items: Sequence[Item],
    sizes: list[float],
    open_items: list[int],
    room: float,
    growing: bool,
) -> list[float]:
    """The loop of section 9.7, step 4: share the free space, freeze what hit a limit."""
    margins = sum(item.margins for item in items)
    first_free: float | None = None
    # Step 4: the loop. Each turn freezes at least one item, so there are at most as many turns.
    while open_items:
        # Step 4b: the remaining free space, with unfrozen items at their flex base size.
        frozen = sum(sizes) - sum(sizes[n] for n in open_items)
        free = room - margins - frozen - sum(items[n].base for n in open_items)
        # Step 3: the initial free space is that of the first turn.
        if first_free is None:
            first_free = free
        # Step 4b: the sum of the unfrozen factors; shrink factors count unscaled here.
        shares = sum(items[n].grow if growing else items[n].shrink for n in open_items)
        # Step 4b: factors that sum to less than 1 take only that share of the initial space.
        if shares < 1 and abs(first_free * shares) < abs(free):
            free = first_free * shares
        wanted = _shared(items, open_items, free, growing)
        # Step 4d: fix min and max violations.
        clamped = [
            max(min(w, items[n].most), items[n].least)
            for n, w in zip(open_items, wanted, strict=True)
        ]
        # Step 4e: the total violation decides which side is frozen: minimums where it is
        # positive, maximums where it is negative, all where it is zero.
        violation = sum(c - w for c, w in zip(clamped, wanted, strict=True))
        still = []
        for n, want, size in zip(open_items, wanted, clamped, strict=True):
            sizes[n] = size
            hit_least, hit_most = size > want, size < want
            if violation and not (hit_least if violation > 0 else hit_most):
                still.append(n)
        open_items = still
    return sizes


def _shared(
    items: Sequence[Item], open_items: list[int], free: float, growing: bool
) -> list[float]:
    # Step 4c: growing items take the space by their grow factor.
    if growing:
        total = sum(items[n].grow for n in open_items)
        return [items[n].base + free * items[n].grow / total for n in open_items]
    # Step 4c: shrinking ones give way by the factor scaled with their inner base size, so that
    # nothing shrinks below nothing before something larger has given its part.
    total = sum(items[n].giving for n in open_items)
    if not total:
        return [items[n].base for n in open_items]
    return [items[n].base + free * items[n].giving / total for n in open_items]


def collect_lines(items: Sequence[Item], room: float, gap: float) -> list[tuple[int, int]]:
    """The lines that items fall into, as ranges: a new one where the next item does not fit
    into `room`; one line for an endless room, and for no items.

    Source: CSS Flexbox Level 1, section 9.3, step 5.
    """
    if room == math.inf or not items:
        return [(0, len(items))]
    lines, start, used = [], 0, 0.0
    for n, item in enumerate(items):
        outer = item.hypothetical + item.margins
        # A line holds at least one item, however large it is (9.3 step 5).
        if n > start and used + outer > room + _SLACK:
            lines.append((start, n))
            start, used = n, 0.0
        used += outer + gap
    return [*lines, (start, len(items))]


# What was summed up in another order still fits.
_SLACK = 1e-6


def justified(how: str, free: float, count: int, reverse: bool = False) -> tuple[float, float]:
    """Where the first item starts, and what is added between two: px.

    `free` may be negative; then the distributing values fall back to the start: of the flow, or,
    for those with room around, of the box, which is the other end where the flow runs in
    `reverse`. Source: CSS Box Alignment 3, section 4.3 (fallback alignment).
    """
    if how == "center":
        return free / 2, 0.0
    if how == "end":
        return free, 0.0
    # Box Alignment 4.3: space-between falls back to flex-start, the others to safe center, which
    # is the start where there is no room.
    if free <= 0 or count == 0:
        outside_too = how in ("space-around", "space-evenly")
        return (free if outside_too and reverse else 0.0), 0.0
    if how == "space-between":
        return 0.0, free / (count - 1) if count > 1 else 0.0
    # Half of what lies between two lies before the first.
    if how == "space-around":
        return free / count / 2, free / count
    # As much before the first as between two.
    if how == "space-evenly":
        return free / (count + 1), free / (count + 1)
    return 0.0, 0.0


def spread(
    how: str, sizes: Sequence[float], gap: float, room: float, reverse: bool = False
) -> tuple[list[float], float, float]:
    """Lines (or the rows of a grid) in `room` px: their sizes, where the first starts, and what
    is added between two; `reverse` as in `justified`. Source: CSS Box Alignment 3, section 5
    (align-content); CSS Flexbox 1, section 9.4, step 9 (stretch)."""
    free = room - sum(sizes) - gap * max(len(sizes) - 1, 0)
    # Flexbox 9.4 step 9: free space, if any, goes to the lines in equal parts.
    if how == "stretch":
        more = max(free, 0.0) / len(sizes) if sizes else 0.0
        return [size + more for size in sizes], 0.0, 0.0
    return list(sizes), *justified(how, free, len(sizes), reverse)


def pushed(
    how: str, free: float, sides: Sequence[tuple[bool, bool]], reverse: bool
) -> tuple[float, float, list[tuple[float, float]]]:
    """The same where margins take what is left (`sides`: of each item, before and after it):
    the start, what is added between two, and each item's margins. Source: CSS Flexbox 1,
    section 9.5, step 12."""
    taking = sum(before + after for before, after in sides)
    # Flexbox 9.5 step 12: auto margins take positive free space before justify-content does;
    # where there is none they are zero.
    if not taking or free <= 0:
        return *justified(how, free, len(sides), reverse), [(0.0, 0.0)] * len(sides)
    each = free / taking
    return 0.0, 0.0, [(before * each, after * each) for before, after in sides]


def aligned(how: str, free: float) -> float:
    """Where an item starts across the flow, `free` px being left there."""
    if how in ("start", "stretch"):
        return 0.0
    if how.startswith("far"):
        return free if free < 0 else free / 2 if how == "far center" else 0.0
    # Box Alignment 4.4: safe alignment never lets an item out at the start.
    if how.startswith("safe"):
        free = max(free, 0.0)
    return {"center": free / 2, "end": free}.get(how.removeprefix("safe "), 0.0)
