"""Where a moved rectangle catches: edges and middles of its neighbours and of their box, and
places at equal distances between them. Numbers in, numbers out; both axes alike."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

from outgrowth.core.geometry.rect import Rect


class Guide(NamedTuple):
    """A line to be shown: from start to end, in px of the neighbours; `distance` is what is
    written beside it, 0 for a line along which edges lie."""

    x1: float
    y1: float
    x2: float
    y2: float
    distance: float = 0.0


class Snapped(NamedTuple):
    """By how much the rectangle is moved further, and why."""

    dx: float
    dy: float
    guides: tuple[Guide, ...]


class _Catch(NamedTuple):
    """One way to catch on one axis: by how much to move, and what it lines up with."""

    by: float
    edge: float
    other: Rect | None
    pair: tuple[Rect, Rect] | None = None


def snapped(rect: Rect, others: Iterable[Rect], room: Rect, within: float) -> Snapped:
    """Where `rect` catches, if anything is no farther than `within` px; the nearest wins,
    edges before distances.

    others  the neighbours; room  the box that they all stand in
    """
    near = list(others)
    across = _nearest(_spans(rect, near, room, down=False), within)
    down = _nearest(_spans(rect, near, room, down=True), within)
    dx = across.by if across is not None else 0.0
    dy = down.by if down is not None else 0.0
    moved = rect.moved(dx, dy)
    guides: list[Guide] = []
    if across is not None:
        guides += _guides(moved, across)
    if down is not None:
        guides += [_turned(guide) for guide in _guides(_flipped(moved), down)]
    return Snapped(dx, dy, tuple(guides))


def distances(rects: Sequence[Rect]) -> list[Guide]:
    """How far each rectangle stands from the next to its right and the next below it, where the
    two lie beside each other."""
    flipped = [_flipped(rect) for rect in rects]
    return [*_to_the_right(rects), *(_turned(guide) for guide in _to_the_right(flipped))]


def _to_the_right(rects: Sequence[Rect]) -> Iterator[Guide]:
    for rect in rects:
        beside = [r for r in rects if r.x > rect.right and r.y < rect.bottom and rect.y < r.bottom]
        if beside:
            near = min(beside, key=lambda r: r.x)
            middle = (max(rect.y, near.y) + min(rect.bottom, near.bottom)) / 2
            yield Guide(rect.right, middle, near.x, middle, near.x - rect.right)


def _flipped(rect: Rect) -> Rect:
    return Rect(rect.y, rect.x, rect.height, rect.width)


def _turned(guide: Guide) -> Guide:
    return Guide(guide.y1, guide.x1, guide.y2, guide.x2, guide.distance)


def _spans(rect: Rect, others: list[Rect], room: Rect, down: bool) -> list[_Catch]:
    if down:
        rect, room = _flipped(rect), _flipped(room)
        others = [_flipped(other) for other in others]
    results = []
    mine = (rect.x, rect.center[0], rect.right)
    for other in [*others, room]:
        edges = (other.x, other.center[0], other.right)
        for n, edge in enumerate(mine):
            for m, there in enumerate(edges):
                if (n == 1) == (m == 1):
                    results.append(_Catch(there - edge, there, other))
    return results + _even(rect, others)


def _even(rect: Rect, others: list[Rect]) -> list[_Catch]:
    """Places at which the gaps to two neighbours in the same line are alike."""
    line = sorted((o for o in others if o.y < rect.bottom and rect.y < o.bottom), key=lambda o: o.x)
    results = []
    for first, second in pairwise(line):
        gap = second.x - first.right
        if gap <= 0:
            continue
        for start in (
            second.right + gap,
            first.x - gap - rect.width,
            first.right + (gap - rect.width) / 2,
        ):
            results.append(_Catch(start - rect.x, start, None, (first, second)))
    return results


def _nearest(catches: list[_Catch], within: float) -> _Catch | None:
    close = [catch for catch in catches if abs(catch.by) <= within]
    return min(
        close, key=lambda catch: (round(abs(catch.by), 6), catch.other is None), default=None
    )


def _guides(rect: Rect, catch: _Catch) -> list[Guide]:
    """In coordinates in which the axis that catches runs across, as the catch has them."""
    if catch.pair is not None:
        line = sorted([*catch.pair, rect], key=lambda rect: rect.x)
        y = rect.center[1]
        return [
            Guide(a.right, y, b.x, y, round(b.x - a.right, 2))
            for a, b in pairwise(line)
            if b.x > a.right
        ]
    other = catch.other or rect
    top, bottom = min(rect.y, other.y), max(rect.bottom, other.bottom)
    guides = [Guide(catch.edge, top, catch.edge, bottom)]
    gap = max(other.y - rect.bottom, rect.y - other.bottom)
    if gap > 0:
        start = rect.bottom if other.y > rect.y else other.bottom
        middle = rect.center[0]
        guides.append(Guide(middle, start, middle, start + gap, round(gap, 2)))
    return guides
