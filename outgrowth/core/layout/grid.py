"""A grid box: its children in cells, by the tracks' sizes (tracks.py).

Source: CSS Grid Layout Level 1, sections 6.6 (automatic minimum size), 10 (alignment) and 11.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from itertools import accumulate
from typing import NamedTuple, Protocol

from outgrowth.core.document.formulas import is_share
from outgrowth.core.document.grid_areas import GridAreas, areas
from outgrowth.core.document.values import FIT, Size, is_repeated
from outgrowth.core.layout.cross_axis import (
    baseline,
    follows_height,
    follows_width,
    hides_overflow,
    in_cell,
    in_flow,
    in_row,
)
from outgrowth.core.layout.directions import Spot
from outgrowth.core.layout.flexible import aligned, justified
from outgrowth.core.layout.placed import Placed
from outgrowth.core.layout.sizes import carried_limits
from outgrowth.core.layout.subgrid import (
    asked,
    clamped,
    follows,
    inherited,
    is_bound,
    joint,
    open_tracks,
    with_tracks,
)
from outgrowth.core.layout.tracks import (
    Cells,
    Share,
    Wish,
    asks_room,
    bounds,
    placed,
    repeated,
    sized,
)
from outgrowth.core.resolve.scene import LayoutNode
from outgrowth.core.resolve.styles import LayoutStyle


class Children(Protocol):
    """What a grid asks of the engine about a child of it."""

    def resolved_in(
        self, node: LayoutNode, across: float | None, down: float | None
    ) -> LayoutNode: ...
    def contribution(self, node: LayoutNode) -> tuple[float, float]: ...
    def in_cell(
        self, node: LayoutNode, wide: float, tall: float | None, hows: tuple[str, str]
    ) -> Placed: ...


class _Item(NamedTuple):
    node: LayoutNode
    across: Cells
    down: Cells


Lines = tuple[tuple[float, float], ...]
"""What a placed grid keeps: where its columns and its rows begin and end (px from its corner), as
if it was not mirrored."""


Limits = tuple[float, float]
"""The least and the most of a side (px)."""


class Arranged(NamedTuple):
    """A grid's height, where its children stand, which of them gives its baseline, and where its
    columns and its rows begin and end."""

    height: float
    spots: list[Spot]
    first: int
    lines: tuple[Lines, Lines]


class _Tracks(NamedTuple):
    """The tracks of an axis on the way to their sizes, the gap between them, and the room for them
    all, as far as it is known (px)."""

    sizes: Sequence[Size]
    gap: float
    room: float | None

    def within(self, least: float, inset: float, cells: Cells) -> float:
        """The least size that an item has by its content: no more than what its tracks can come
        to, where each has a most in px; `inset` is what it has besides. Source: section 6.6."""
        mosts = [bounds(t, self.room)[1] for t in self.sizes[cells.start : cells.end]]
        if any(most.mode != "fixed" for most in mosts):
            return least
        whole = sum(most.amount for most in mosts) + self.gap * (len(mosts) - 1)
        return max(min(least, whole), inset)

    def sized(self, shares: Sequence[Share], narrowest: bool = False) -> list[float]:
        """How wide (or high) they come out, with what stands in them."""
        return sized(self.sizes, shares, self.gap, self.room, narrowest)


class _Part(NamedTuple):
    """An item in its column: as what it is laid out, as high as it is by itself, how far it
    stands below its area's edge, so that the baselines of its row meet (px), and what is in one
    that follows the rows."""

    item: _Item
    node: LayoutNode
    at: Placed
    rise: float = 0.0
    inside: _InColumns | None = None


class _Axis(NamedTuple):
    """The tracks of an axis, laid out: their sizes, where each begins, and the whole."""

    sizes: list[float]
    starts: list[float]
    whole: float

    def span(self, cells: Cells) -> tuple[float, float]:
        """Where an area begins, and its size."""
        begin, last = self.starts[cells.start], cells.end - 1
        return begin, self.starts[last] + self.sizes[last] - begin


class _InColumns(NamedTuple):
    """A grid whose columns are laid out."""

    node: LayoutNode
    across: _Axis
    rows: list[Size]
    parts: list[_Part]


def _items(
    node: LayoutNode, across: float | None, down: float | None
) -> tuple[list[_Item], list[Size], list[Size]]:
    """The children in their cells, and the tracks of both axes, those that nobody listed too.
    `across` and `down` are the room inside (px), as far as it is known."""
    style = node.style
    bound, rows_bound = is_bound(style, "columns"), is_bound(style, "rows")
    # Without a grid around it, one that follows that has no tracks of its own.
    listed = () if follows(node, "columns") else style.columns
    rows_listed = () if follows(node, "rows") else style.rows
    columns, may_go = _listed(node, listed, style.gap, across, node.across)
    rows, rows_may_go = _listed(node, rows_listed, style.cross_gap, down, node.down)
    named = areas(style.areas) if style.areas else None
    if named is not None:
        columns += [FIT] * (0 if bound else named.columns - len(columns))
        rows += [FIT] * (0 if rows_bound else named.rows - len(rows))
    children = in_flow(node)
    wishes = [_wishes(child.style, named, len(columns), len(rows)) for child in children]
    cells = placed(wishes, len(columns), not bound)
    if bound:
        cells = [(clamped(a, len(columns)), d) for a, d in cells]
    if rows_bound:
        cells = [(a, clamped(d, len(rows))) for a, d in cells]
    columns += [FIT] * (max([a.end for a, _ in cells], default=0) - len(columns))
    rows += [FIT] * (max([d.end for _, d in cells], default=0) - len(rows))
    columns, column_cells = _without_empty(columns, [a for a, _ in cells], may_go)
    rows, row_cells = _without_empty(rows, [d for _, d in cells], rows_may_go)
    parts = zip(children, column_cells, row_cells, strict=True)
    return [_Item(child, a, d) for child, a, d in parts], columns, rows


def _wishes(
    style: LayoutStyle, named: GridAreas | None, columns: int, rows: int
) -> tuple[Wish, Wish]:
    """Where an item asks to be. One of an area that there is not stands behind the line after all
    that are listed. Source: section 8.3 (implicit lines have any name)."""
    if style.area:
        area = named.named.get(style.area) if named is not None else None
        if area is None:
            return Wish(columns + 2, 1), Wish(rows + 2, 1)
        return Wish(area.column + 1, area.columns), Wish(area.row + 1, area.rows)
    return (
        Wish(int(style.column_start), max(int(style.column_span), 1)),
        Wish(int(style.row_start), max(int(style.row_span), 1)),
    )


def _listed(
    node: LayoutNode, tracks: Sequence[Size], gap: float, room: float | None, limits: Limits
) -> tuple[list[Size], set[int]]:
    """The tracks that are listed, those that repeat as often as they do here."""
    if not any(map(is_repeated, tracks)):
        return [*tracks], set()
    style = node.style
    first, last = (
        (style.padding_left, style.padding_right)
        if limits is node.across
        else (style.padding_top, style.padding_bottom)
    )
    carried = carried_limits(node, False) if limits is node.across else None
    if carried is not None:
        limits = max(limits[0], carried[0]), min(limits[1], carried[1])
    least, most = (max(limit - first - last, 0.0) for limit in limits)
    return repeated(tracks, gap, room, (least, most))


def _without_empty(
    tracks: list[Size], cells: list[Cells], may_go: set[int]
) -> tuple[list[Size], list[Cells]]:
    """The tracks, and who stands in which, without those that are repeated and empty: they and
    their gaps take no room. Source: section 7.2.3.2."""
    if not may_go:
        return tracks, cells
    taken = {n for cell in cells for n in range(cell.start, cell.end)}
    gone = may_go - taken
    kept = [track for n, track in enumerate(tracks) if n not in gone]
    before = sorted(gone)
    return kept, [Cells(cell.start - bisect_left(before, cell.start), cell.span) for cell in cells]


def intrinsic(node: LayoutNode, engine: Children) -> tuple[float, float]:
    """Min-content and max-content width of what is inside, padding apart (px)."""
    items, columns, _ = _items(node, None, None)
    tracks = _Tracks(columns, node.style.gap, None)
    shares = _widths(items, tracks, node.style, engine)
    sums = [sum(tracks.sized(shares, narrowest)) for narrowest in (True, False)]
    gaps = node.style.gap * max(len(columns) - 1, 0)
    return sums[0] + gaps, sums[1] + gaps


def _in_columns(node: LayoutNode, width: float, down: float | None, engine: Children) -> _InColumns:
    """A grid of this width (px, its border box) with its columns: step 1 of section 11.1. `down`
    is the room for its rows, where it is known."""
    style = node.style
    room = max(width - style.padding_left - style.padding_right, 0.0)
    items, columns, rows = _items(node, room, down)
    tracks = _Tracks(columns, style.gap, room)
    widths = tracks.sized(_widths(items, tracks, style, engine))
    justify = "start" if is_bound(style, "columns") else style.justify
    across = _axis(widths, justify, style.gap, room)
    parts = []
    for item in items:
        wide = across.span(item.across)[1]
        known = _bound(engine.resolved_in(item.node, wide, None), item, style, across, None)
        hows = _across_cell(known, style), "start"
        part = _Part(item, known, engine.in_cell(known, wide, None, hows))
        if is_bound(known.style, "rows"):
            part = part._replace(inside=_in_columns(known, part.at.width, None, engine))
        parts.append(part)
    rises = _rises(parts, style)
    parts = [part._replace(rise=rise) for part, rise in zip(parts, rises, strict=True)]
    return _InColumns(node, across, rows, parts)


def _bound(
    node: LayoutNode, item: _Item, style: LayoutStyle, across: _Axis, down: _Axis | None
) -> LayoutNode:
    """A child with the tracks of the grid around it (of this style), where it follows these; of
    rows that are not known yet so many that fit."""
    columns = rows = None
    gaps = node.style.gap, node.style.cross_gap
    if follows(node, "columns"):
        at = joint(node, "columns", item.across, style)
        columns = inherited(across.sizes, across.starts, at, gaps[0])
    if follows(node, "rows"):
        at = joint(node, "rows", item.down, style)
        rows = open_tracks(item.down.span)
        if down is not None:
            rows = inherited(down.sizes, down.starts, at, gaps[1])
    return node if columns is rows is None else with_tracks(node, columns, rows)


def _across_cell(node: LayoutNode, style: LayoutStyle) -> str:
    """How a child stands across its columns: one that gets its own from there fills them."""
    return "stretch" if is_bound(node.style, "columns") else in_cell(node.style, style)


def _down_cell(node: LayoutNode, style: LayoutStyle) -> str:
    """How it stands down its rows: the same."""
    return "stretch" if is_bound(node.style, "rows") else in_row(node.style, style)


def _heights(laid: _InColumns, tracks: _Tracks) -> list[Share]:
    """What everything in a grid asks of its rows; a grid that follows them asks for what is in
    it."""
    shares: list[Share] = []
    for part in laid.parts:
        cells, node = part.item.down, part.node
        if part.inside is None:
            shares.append(_height(part, tracks))
            continue
        own = tracks._replace(sizes=tracks.sizes[cells.start : cells.end], gap=node.style.cross_gap)
        shares += asked(_heights(part.inside, own), joint(node, "rows", cells, laid.node.style))
    return shares


def arranged(
    node: LayoutNode, width: float, height: float | None, definite: bool, engine: Children
) -> Arranged:
    """The grid in a border box of this width and (if known) height."""
    style = node.style
    inset = style.padding_top + style.padding_bottom
    down_room = None if height is None else max(height - inset, 0.0)
    definite_height = down_room if definite else None
    laid = _in_columns(node, width, definite_height, engine)
    across, rows = laid.across, laid.rows
    row_tracks = _Tracks(rows, style.cross_gap, definite_height)

    def heights(tracks: _Tracks) -> list[float]:
        return tracks.sized(_heights(laid, tracks))

    # Step 2: the rows, which the columns decide.
    tall = heights(row_tracks)
    if down_room is None:
        down_room = sum(tall) + style.cross_gap * max(len(tall) - 1, 0)
    if definite_height is None and any(map(asks_room, rows)):
        # What is a share of the height is known now (section 7.2.1).
        tall = heights(row_tracks._replace(room=down_room))
    lines = "start" if is_bound(style, "rows") else style.align_content
    if lines == "stretch":
        tall = _stretched(tall, rows, style.cross_gap, down_room)
    # Box Alignment 5: what is left around and between the tracks.
    down = _axis(tall, lines, style.cross_gap, down_room)
    placements = [
        _placed_item(part.item, style, across, down, part.rise, engine) for part in laid.parts
    ]
    ends = _lines(across, style.padding_left), _lines(down, style.padding_top)
    first = _first([part.item for part in laid.parts], style)
    return Arranged(down_room + inset, placements, first, ends)


def _lines(axis: _Axis, inset: float) -> Lines:
    parts = zip(axis.starts, axis.sizes, strict=True)
    return tuple([(inset + start, inset + start + size) for start, size in parts])


def _stretched(sizes: list[float], tracks: list[Size], gap: float, room: float) -> list[float]:
    """The rows with what is left among those that fit. Source: section 11.8."""
    free = room - sum(sizes) - gap * max(len(sizes) - 1, 0)
    fitting = sum(track.mode == "fit" for track in tracks)
    more = max(free, 0.0) / fitting if fitting else 0.0
    parts = zip(sizes, tracks, strict=True)
    return [size + more * (track.mode == "fit") for size, track in parts]


def _axis(sizes: list[float], how: str, gap: float, room: float) -> _Axis:
    free = room - sum(sizes) - gap * max(len(sizes) - 1, 0)
    start, between = justified(how, free, len(sizes))
    starts = list(accumulate(sizes, lambda at, size: at + size + gap + between, initial=start))
    return _Axis(sizes, starts[:-1], room)


def _widths(
    items: Sequence[_Item], columns: _Tracks, style: LayoutStyle, engine: Children
) -> list[Share]:
    """What everything in a grid of this style asks of its columns; a grid that follows them asks
    for what is in it."""
    shares: list[Share] = []
    for item in items:
        node = engine.resolved_in(item.node, None, None)
        if follows(node, "columns"):
            cells = item.across
            rows = open_tracks(item.down.span) if follows(node, "rows") else None
            inner = with_tracks(node, open_tracks(cells.span), rows)
            own = columns._replace(sizes=columns.sizes[cells.start : cells.end], gap=node.style.gap)
            inside = _widths(_items(inner, None, None)[0], own, inner.style, engine)
            shares += asked(inside, joint(node, "columns", cells, style))
            continue
        if follows(node, "rows"):
            node = with_tracks(node, None, open_tracks(item.down.span))
        # 11.5: min-content and max-content contributions, margins included.
        small, large = engine.contribution(node)
        # 6.6: the minimum contribution is the min-content one where the automatic minimum holds,
        # and else the least size that was said.
        least = small
        margins = node.style.margin_left + node.style.margin_right
        proportioned = follows_height(node.style) and node.kind != "image"
        automatic = not node.style.min_width and _automatic(node, item.across, columns.sizes)
        automatic = automatic and not proportioned
        if node.style.width.mode in ("fit", "grow"):
            inset = node.across[0] + margins
            least = columns.within(small, inset, item.across) if automatic else inset
        limit = item.node.style.max_width
        if node.kind == "image" and isinstance(limit, Size) and is_share(limit):
            # A share of what it asks for is nothing to begin with.
            least = min(least, node.across[0] + margins)
        shares.append(Share(item.across, least, small, large))
    return shares


def _automatic(node: LayoutNode, cells: Cells, tracks: Sequence[Size]) -> bool:
    """Whether an item is never smaller than its content. Source: section 6.6."""
    spanned = tracks[cells.start : cells.end]
    flexible = any(track.mode == "grow" for track in spanned)
    return not hides_overflow(node) and (len(spanned) == 1 or not flexible)


def _height(part: _Part, rows: _Tracks) -> Share:
    """What an item asks of its rows."""
    item, node = part.item, part.node
    c = node.style
    margins = c.margin_top + c.margin_bottom
    outer = part.at.height + margins + part.rise
    least = outer
    said = c if is_bound(c, "columns") else item.node.style
    proportioned = follows_width(said) and node.kind != "image"
    automatic = not said.min_height and not proportioned
    if c.height.mode in ("fit", "grow"):
        inset = node.down[0] + margins
        automatic = automatic and _automatic(node, item.down, rows.sizes)
        least = rows.within(outer, inset, item.down) if automatic else inset
    return Share(item.down, least, outer, outer)


def _rises(parts: Sequence[_Part], style: LayoutStyle) -> list[float]:
    """How far each child stands below its area's edge, so that the baselines of a row's children
    that are aligned by them meet. Source: step 11.5.1 (shim baseline-aligned items)."""
    offsets = [0.0] * len(parts)
    below: dict[int, list[tuple[int, float]]] = {}
    for n, (item, node, at, *_) in enumerate(parts):
        if _down_cell(node, style) == "baseline":
            line = node.style.margin_top + baseline(node, at)
            below.setdefault(item.down.start, []).append((n, line))
    for row in below.values():
        # The lowest baseline of the row is the shared one; the others are shimmed down to it.
        lowest = max(line for _, line in row)
        for n, line in row:
            offsets[n] = lowest - line
    return offsets


def _placed_item(
    item: _Item, style: LayoutStyle, across: _Axis, down: _Axis, rise: float, engine: Children
) -> Spot:
    x, wide = across.span(item.across)
    y, tall = down.span(item.down)
    node = _bound(engine.resolved_in(item.node, wide, tall), item, style, across, down)
    c = node.style
    # 10.3 and 10.4: justify-self and align-self in the area.
    hows = _across_cell(node, style), _down_cell(node, style)
    at = engine.in_cell(node, wide, tall, hows)
    spare_x = wide - c.margin_left - c.margin_right - at.width
    spare_y = tall - c.margin_top - c.margin_bottom - at.height
    x += style.padding_left + c.margin_left + aligned(hows[0], spare_x)
    y += (
        style.padding_top
        + c.margin_top
        + (rise if hows[1] == "baseline" else aligned(hows[1], spare_y))
    )
    return at, x, y


def _first(items: Sequence[_Item], style: LayoutStyle) -> int:
    """Whose baseline is the grid's: of the first row the first that is aligned by it, else the
    first. Source: section 10.6."""
    row = min([item.down.start for item in items], default=0)
    inside = [n for n, item in enumerate(items) if item.down.start == row]
    by_line = [n for n in inside if in_row(items[n].node.style, style) == "baseline"]
    return min(by_line or inside, key=lambda n: items[n].across.start, default=0)
