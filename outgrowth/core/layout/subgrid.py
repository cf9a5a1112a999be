"""Grids whose columns or rows are those of the grid that they lie in.

What stands in such a grid asks the tracks of the one around it for room; when these have their
sizes, the grid gets them in px, and is laid out like any other.

Source: CSS Grid 2, section 9 (subgrids).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal, NamedTuple

import msgspec

from outgrowth.core.document.values import FIT, Size, fixed
from outgrowth.core.layout.memory import MOST_SIZES, memory_of
from outgrowth.core.layout.tracks import Cells, Share
from outgrowth.core.resolve.scene import LayoutNode
from outgrowth.core.resolve.styles import LayoutStyle

INHERITED = " inherited"
"""Ends what is said of a grid whose lines are there in its own columns and rows."""
Side = Literal["columns", "rows"]
SIDES_OF_GRID: tuple[Side, Side] = ("columns", "rows")


class Joint(NamedTuple):
    """How a grid lies in the tracks of the one around it, on one axis.

    cells       the tracks that it takes
    start, end  margin and padding at its first and its last track (px)
    gap         px by which its own gap is larger
    backwards   its tracks run the other way
    """

    cells: Cells
    start: float
    end: float
    gap: float
    backwards: bool


def follows(node: LayoutNode, side: Side) -> bool:
    """Whether a grid's columns (or rows) are those of the grid that it lies in. Those of a part
    that its room decides can't be: its size is its holder's alone."""
    style = node.style
    is_grid = style.flow == "grid" and node.kind == "box" and node.rooms is None
    return is_grid and style.subgrid in (side, "both")


def is_bound(style: LayoutStyle, side: Side) -> bool:
    """Whether a grid has the tracks of the one around it: nothing in it makes more of them."""
    return style.subgrid in (f"{side}{INHERITED}", f"both{INHERITED}")


def joint(node: LayoutNode, side: Side, cells: Cells, around: LayoutStyle) -> Joint:
    """How such a grid lies in that of this style."""
    style = node.style
    if side == "rows":
        start, end = (
            style.margin_top + style.padding_top,
            style.margin_bottom + style.padding_bottom,
        )
        return Joint(cells, start, end, style.cross_gap - around.cross_gap, False)
    start, end = style.margin_left + style.padding_left, style.margin_right + style.padding_right
    if around.mirrored:
        start, end = end, start
    return Joint(cells, start, end, style.gap - around.gap, style.mirrored != around.mirrored)


def asked(shares: Sequence[Share], at: Joint) -> Iterator[Share]:
    """What the items of such a grid, and its own edges, ask of the tracks around it."""
    first, span = at.cells
    for share in shares:
        begin, end = share.cells.start, share.cells.end
        if at.backwards:
            begin, end = span - end, span - begin
        inside = 0.0 if share.edge else at.gap / 2
        more = at.start if begin == 0 else inside
        more += at.end if end == span else inside
        cells = Cells(first + begin, share.cells.span)
        yield Share(cells, share.least + more, share.small + more, share.large + more, share.edge)
    edges = {first: at.start, first + span - 1: at.end}
    if span == 1:
        edges = {first: at.start + at.end}
    for n, edge in edges.items():
        yield Share(Cells(n, 1), edge, edge, edge, True)


def inherited(sizes: Sequence[float], starts: Sequence[float], at: Joint, gap: float) -> list[Size]:
    """The tracks of such a grid in px, with `gap` px of its own between them, from those around it:
    how large they are, and where they begin. Half of a gap's difference is each neighbour's, also
    where that is more than it has: such a track is less than nothing."""
    first, span = at.cells
    places = range(first, first + span)
    begins = [starts[n] for n in places]
    ends = [starts[n] + sizes[n] for n in places]
    for n in range(1, span):
        middle = (ends[n - 1] + begins[n]) / 2
        ends[n - 1], begins[n] = middle - gap / 2, middle + gap / 2
    begins[0] += min(at.start, max(ends[0] - begins[0], 0.0)) if at.start > 0 else at.start
    ends[-1] -= min(at.end, max(ends[-1] - begins[-1], 0.0)) if at.end > 0 else at.end
    tracks = [fixed(end - begin) for begin, end in zip(begins, ends, strict=True)]
    return tracks[::-1] if at.backwards else tracks


def clamped(cells: Cells, most: int) -> Cells:
    """Where an item stands in a grid that has so many tracks and can't get more. Source: section 9
    (a subgrid has no implicit tracks)."""
    start = min(cells.start, most - 1)
    return Cells(start, min(cells.span, most - start))


def open_tracks(span: int) -> list[Size]:
    """So many tracks that fit what is in them, while nobody knows yet what they come to."""
    return [FIT] * span


def with_tracks(
    node: LayoutNode, columns: Sequence[Size] | None, rows: Sequence[Size] | None
) -> LayoutNode:
    """The grid with these tracks for those that it gets from around it. On such an axis it fills
    its area, whatever is said of its size."""
    key = tuple(columns or ()), tuple(rows or ())
    memory = memory_of(node)
    cached = memory.subgrids.get(key)
    if cached is None:
        if len(memory.subgrids) >= MOST_SIZES:
            memory.subgrids.clear()
        cached = memory.subgrids[key] = _with_tracks(node, columns, rows)
    return cached


def _with_tracks(
    node: LayoutNode, columns: Sequence[Size] | None, rows: Sequence[Size] | None
) -> LayoutNode:
    style = node.style
    said: dict[str, object] = {"subgrid": f"{style.subgrid}{INHERITED}", "aspect": 0.0}
    if columns is not None:
        said |= {"columns": tuple(columns), "width": FIT, "min_width": 0.0, "max_width": 0.0}
    if rows is not None:
        said |= {"rows": tuple(rows), "height": FIT, "min_height": 0.0, "max_height": 0.0}
    return LayoutNode(node.kind, msgspec.structs.replace(style, **said), node.children, None)
