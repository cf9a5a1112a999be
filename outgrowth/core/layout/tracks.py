"""The columns and rows of a grid: numbers in, numbers out.

Source: CSS Grid Layout Level 1, sections 8.5 (auto-placement, in rows, sparse) and 11 (track
sizing). Step numbers below are those of section 11.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import count
from typing import NamedTuple

from outgrowth.core.document.values import FIT, GridTrack, Size, is_repeated


class Wish(NamedTuple):
    """Where an item of a grid asks to be on one axis: `start` counts from 1, 0 is anywhere."""

    start: int
    span: int


class Cells(NamedTuple):
    """Tracks from `start` (the first is 0) on, `span` of them."""

    start: int
    span: int

    @property
    def end(self) -> int:
        """The track after the last."""
        return self.start + self.span


class Share(NamedTuple):
    """What an item asks of the tracks that it stands in, in px, margins included: at the very
    least, for its content at its smallest, and for its content as it likes to be. An `edge` is
    what a grid that follows these tracks (subgrid.py) has around its first or its last."""

    cells: Cells
    least: float
    small: float
    large: float
    edge: bool = False


def placed(
    wishes: Sequence[tuple[Wish, Wish]], columns: int, widens: bool = True
) -> list[tuple[Cells, Cells]]:
    """The columns and the rows of every item, for each its wishes across and down, in a grid of
    so many columns, and as many more as are asked for where it `widens`. Source: section 8.5,
    steps 1 to 4."""
    if not widens:
        # What says both keeps its place outside; the others begin within what there is.
        wishes = [
            (across if across.start and down.start else _within(across, columns), down)
            for across, down in wishes
        ]
    cells: dict[int, tuple[Cells, Cells]] = {}
    used: dict[int, int] = {}  # the columns that are taken of each row, a bit for each

    def take(n: int, column: int, row: int) -> None:
        across, down = wishes[n]
        cells[n] = Cells(column, across.span), Cells(row, down.span)
        columns_taken = ((1 << across.span) - 1) << column
        for line in range(row, row + down.span):
            used[line] = used.get(line, 0) | columns_taken

    def free(n: int, column: int, row: int) -> bool:
        across, down = wishes[n]
        bits = ((1 << across.span) - 1) << column
        return not any(used.get(line, 0) & bits for line in range(row, row + down.span))

    for n, (across, down) in enumerate(wishes):
        # 8.5 step 1: what says both its row and its column stands there, over others if need be.
        if across.start and down.start:
            take(n, across.start - 1, down.start - 1)
    # Step 2: what is locked to a row; "sparse", so the cursor of each row never goes back.
    ends: dict[int, int] = {}
    for n, (across, down) in enumerate(wishes):
        if down.start and not across.start:
            row = down.start - 1
            column = next(c for c in count(ends.get(row, 0)) if free(n, c, row))
            take(n, column, row)
            ends[row] = column + across.span
    # Step 3: the columns of the implicit grid: as many as any item says or spans.
    wide = [a.start - 1 + a.span if a.start else a.span for a, _ in wishes]
    if widens:
        columns = max([columns, 1, *wide, *(a.end for a, _ in cells.values())])
    # Step 4: the rest, in order, with one cursor that never goes back.
    column = row = 0
    for n, (across, _) in enumerate(wishes):
        if n in cells:
            continue
        if across.start:
            # 4.1: an item that says its column goes on to the next row where the cursor is past
            # it.
            row += across.start - 1 < column
            column = across.start - 1
            row = next(r for r in count(row) if free(n, column, r))
        else:
            # 4.2: an item that says nothing takes the next place into which it fits.
            while column + across.span > columns or not free(n, column, row):
                column += 1
                if column + across.span > columns:
                    column, row = 0, row + 1
        take(n, column, row)
    return [cells[n] for n in range(len(wishes))]


def _within(wish: Wish, most: int) -> Wish:
    start = min(wish.start, most)
    return Wish(start, min(wish.span, most - max(start - 1, 0)))


class _Track:
    """A track on the way to its size.

    flexible   whether it takes shares (`flex`) of what is left
    low, high  whether what is in it decides its least, and its most
    large      how large its own items like to be
    endless    whether its limit was infinite before this step ("infinitely growable")
    """

    __slots__ = ("base", "endless", "flex", "flexible", "high", "large", "limit", "low")

    def __init__(self, size: Size, room: float | None) -> None:
        least, most = bounds(size, room)
        self.flexible = most.mode == "grow"
        self.flex = most.amount if self.flexible else 0.0
        self.low, self.high = least.mode != "fixed", most.mode != "fixed"
        # Step 11.4: initialize track sizes.
        self.base = 0.0 if self.low else least.amount
        self.limit = math.inf if self.high else max(most.amount, self.base)
        self.large = 0.0
        self.endless = False

    @property
    def reach(self) -> float:
        """Its growth limit, as long as that is infinite its base size."""
        return self.base if self.limit == math.inf else self.limit


def bounds(size: Size, room: float | None) -> tuple[Size, Size]:
    """The least and the most of a track, in px what is per cent of the room for all; of a share
    the least is what is in it. Source: section 7.2.4."""
    least, most = _said(size)
    return _known(least, room), _known(most, room)


def asks_room(size: Size) -> bool:
    """Whether a track depends on the room for all."""
    return any(bound.mode in ("percent", "grow") for bound in _said(size))


def _said(size: Size) -> tuple[Size, Size]:
    most = size.most if isinstance(size, GridTrack) else size
    if isinstance(size, GridTrack) and size.least is not None:
        return size.least, most
    return FIT if most.mode == "grow" else most, most


def _known(size: Size, room: float | None) -> Size:
    """Per cent of what is not known is as if nothing was said (section 7.2.1)."""
    if size.mode != "percent":
        return size
    return FIT if room is None else Size("fixed", size.amount * room / 100)


MOST_REPEATS = 1000
"""How often a track is repeated at most: room enough for any screen."""


def repeated(
    sizes: Sequence[Size], gap: float, room: float | None, limits: tuple[float, float]
) -> tuple[list[Size], set[int]]:
    """The tracks with the one that comes as often as there is room for so often, and which of them
    take no room where they are empty. Source: section 7.2.3.2.

    room    px for them all, None where it is what they come to
    limits  px: the least and the most that it may come to
    """
    found = next(((n, size) for n, size in enumerate(sizes) if is_repeated(size)), None)
    if found is None:
        return [*sizes], set()
    at, track = found
    least, most = limits
    whole = room if room is not None else (most if most < math.inf else least)
    others = sum(_counted(size, whole) + gap for n, size in enumerate(sizes) if n != at)
    step = max(_counted(track, whole), 1.0) + gap
    fitting = (whole - others + gap) / step
    # As many as fit; where only the least size is known, as few as fill it.
    rounded = math.floor if room is not None or most < math.inf else math.ceil
    count = max(min(rounded(fitting), MOST_REPEATS), 1)
    once = GridTrack(track.mode, track.amount, "", track.least)
    several = [*sizes[:at], *[once] * count, *sizes[at + 1 :]]
    return several, set(range(at, at + count)) if track.repeat == "fit" else set()


def _counted(size: Size, room: float) -> float:
    """By how many px of this room a track counts among those that are repeated: by its most, where
    that is known, else its least."""
    least, most = bounds(size, room)
    known = [bound.amount for bound in (most, least) if bound.mode == "fixed"]
    return max(known) if known else 0.0


def sized(
    sizes: Sequence[Size],
    shares: Sequence[Share],
    gap: float,
    room: float | None,
    narrowest: bool = False,
) -> list[float]:
    """How wide (or high) the tracks come out.

    room       px for them all; None where it is what they come to
    narrowest  that room is asked for with the content at its smallest (the min-content constraint)
    """
    tracks = [_Track(size, room) for size in sizes]
    # 11.3: the steps in their order.
    _fit_items(tracks, shares, gap)
    if narrowest:
        return [track.base for track in tracks]
    free = None if room is None else room - sum(t.base for t in tracks) - _gaps(gap, len(tracks))
    _maximize(tracks, free)
    # 11.7 comes last: flexible tracks divide what the others left.
    if any(track.flexible for track in tracks):
        _expand(tracks, shares, gap, room)
    return [track.base for track in tracks]


def _gaps(gap: float, tracks: int) -> float:
    return gap * max(tracks - 1, 0)


def _fit_items(tracks: list[_Track], shares: Sequence[Share], gap: float) -> None:
    """Step 11.5: resolve intrinsic track sizes. Where the narrowest width is asked for, browsers
    count what an item asks at the very least, as everywhere, and not its smallest content."""
    plain: list[Share] = []
    flexible: list[Share] = []
    for share in shares:
        if share.edge:
            track = tracks[share.cells.start]
            track.base = max(track.base, share.least if track.low else 0.0)
            track.limit = max(track.limit, track.base)
            continue
        spanned = tracks[share.cells.start : share.cells.end]
        (flexible if any(track.flexible for track in spanned) else plain).append(share)
    # 11.5.2: items of span 1 first.
    for share in plain:
        track = tracks[share.cells.start]
        if share.cells.span == 1:
            if track.low:
                track.base = max(track.base, share.least)
            if track.high:
                track.large = max(track.large, share.large)
                track.limit = track.large
            track.limit = max(track.limit, track.base)
    # 11.5.3: then items of span 2, 3 and so on, without flexible tracks.
    for span in sorted({share.cells.span for share in plain if share.cells.span > 1}):
        group = [share for share in plain if share.cells.span == span]
        _span_content(tracks, group, gap)
    # 11.5.4: then items that span a flexible track.
    _span_flexible(tracks, flexible, gap)
    for track in tracks:
        # 11.5.5: a growth limit that is still infinite becomes the base size.
        track.limit = track.reach


def _span_content(tracks: list[_Track], shares: Sequence[Share], gap: float) -> None:
    """Step 11.5.3: items that span several tracks, none of them flexible."""
    planned = [0.0] * len(tracks)
    for share in shares:
        mine = [n for n in range(share.cells.start, share.cells.end) if tracks[n].low]
        bases = [track.base for track in tracks[share.cells.start : share.cells.end]]
        # 11.5.1 step 1: what the spanned tracks, and the gaps between them, already hold is no
        # extra.
        extra = share.least - _gaps(gap, share.cells.span) - sum(bases)
        for n, more in _distributed(tracks, mine, extra).items():
            # Of all items of this span the largest increase counts, so their order does not.
            planned[n] = max(planned[n], more)
    for track, more in zip(tracks, planned, strict=True):
        track.base += more
        track.limit = max(track.limit, track.base)
    # 11.5.3, intrinsic then max-content maximums.
    for wants in ([share.small for share in shares], [share.large for share in shares]):
        raised: dict[int, float] = {}
        for share, want in zip(shares, wants, strict=True):
            mine = [n for n in range(share.cells.start, share.cells.end) if tracks[n].high]
            reaches = [track.reach for track in tracks[share.cells.start : share.cells.end]]
            extra = want - _gaps(gap, share.cells.span) - sum(reaches)
            for n, more in _raised(tracks, mine, extra).items():
                raised[n] = max(raised.get(n, 0.0), more)
        for n, more in raised.items():
            # Infinitely growable: until the next phase only.
            tracks[n].endless = tracks[n].limit == math.inf
            tracks[n].limit = tracks[n].reach + more
    for track in tracks:
        track.endless = False


def _span_flexible(tracks: list[_Track], shares: Sequence[Share], gap: float) -> None:
    """Step 11.5.4: items in flexible tracks make these as large as they need, by their shares."""
    planned = [0.0] * len(tracks)
    for share in shares:
        spanned = range(share.cells.start, share.cells.end)
        mine = [n for n in spanned if tracks[n].flexible and tracks[n].low]
        extra = share.least - _gaps(gap, len(spanned)) - sum(tracks[n].base for n in spanned)
        flex_sum = sum(tracks[n].flex for n in mine)
        for n in mine:
            # Flex factors that sum to nothing: equal parts (11.5.4).
            part = tracks[n].flex / flex_sum if flex_sum else 1 / len(mine)
            planned[n] = max(planned[n], extra * part)
    for track, more in zip(tracks, planned, strict=True):
        track.base += more


def _distributed(tracks: list[_Track], mine: list[int], extra: float) -> dict[int, float]:
    """Step 11.5.1: extra px among tracks' base sizes, up to their limits and then beyond."""
    sizes = dict.fromkeys(mine, 0.0)
    if extra <= 0 or not mine:
        return sizes
    left = _filled(sizes, {n: tracks[n].limit - tracks[n].base for n in mine}, extra)
    beyond = [n for n in mine if tracks[n].high] or mine
    for n in beyond:
        # 11.5.1 step 2.3: beyond the limits, in equal parts.
        sizes[n] += left / len(beyond)
    return sizes


def _raised(tracks: list[_Track], mine: list[int], extra: float) -> dict[int, float]:
    """The same for growth limits: those that have none yet, or may grow on, take it."""
    sizes = dict.fromkeys(mine, 0.0)
    if extra <= 0 or not mine:
        return sizes
    growing = [n for n in mine if tracks[n].limit == math.inf or tracks[n].endless]
    for n in growing or mine:
        sizes[n] = extra / len(growing or mine)
    return sizes


def _filled(sizes: dict[int, float], rooms: dict[int, float], extra: float) -> float:
    """Shares px equally, nobody getting more than there is room for; what is left over."""
    open_ones = [n for n, room in rooms.items() if room > 0]
    # Each turn fills one track or uses up what is left; less than 1e-9 px is rounding.
    while open_ones and extra > 1e-9:
        each = extra / len(open_ones)
        full = [n for n in open_ones if rooms[n] - sizes[n] <= each]
        for n in full or open_ones:
            more = rooms[n] - sizes[n] if full else each
            sizes[n] += more
            extra -= more
        open_ones = [n for n in open_ones if n not in full] if full else []
    return max(extra, 0.0)


def _maximize(tracks: list[_Track], free: float | None) -> None:
    """Step 11.6: maximize tracks; None is free space without an end."""
    rooms = {n: max(t.limit - t.base, 0.0) for n, t in enumerate(tracks) if not t.flexible}
    sizes = dict.fromkeys(rooms, 0.0)
    _filled(sizes, rooms, sum(rooms.values()) if free is None else free)
    for n, more in sizes.items():
        tracks[n].base += more


def _expand(tracks: list[_Track], shares: Sequence[Share], gap: float, room: float | None) -> None:
    """Step 11.7: expand flexible tracks."""
    # 11.7: the leftover space is definite: find the size of an fr.
    if room is not None:
        fraction = _fraction(tracks, room - _gaps(gap, len(tracks)))
    else:
        # Indefinite: as large as the largest track, or item, needs; a factor below 1 counts as 1.
        fraction = max([t.base / max(t.flex, 1.0) for t in tracks if t.flexible])
        for share in shares:
            spanned = tracks[share.cells.start : share.cells.end]
            if any(track.flex for track in spanned) and not share.edge:
                room = share.large - _gaps(gap, share.cells.span)
                fraction = max(fraction, _fraction(spanned, room))
    for track in tracks:
        track.base = max(track.base, fraction * track.flex)


def _fraction(tracks: Sequence[_Track], room: float) -> float:
    """Step 11.7.1: how many px one share is, where these tracks fill so many."""
    flexible = [track for track in tracks if track.flexible]
    while flexible:
        # 11.7.1 step 2: what inflexible tracks leave.
        left = room - sum(track.base for track in tracks if track not in flexible)
        # Step 3: divided by the sum of factors, at least 1.
        fraction = left / max(sum(track.flex for track in flexible), 1.0)
        # Step 4: a track that its share would make smaller than its base is treated as
        # inflexible, and all is done again.
        wide_enough = [t for t in flexible if fraction * t.flex >= t.base]
        if len(wide_enough) == len(flexible):
            return max(fraction, 0.0)
        flexible = wide_enough
    return 0.0
