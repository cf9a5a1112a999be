"""Columns and rows of grids: where items go, and how wide tracks come out. The numbers are worked
out by hand by the steps of CSS Grid 1, sections 8.5 and 11; Chromium judges random ones in
tests/browser/test_generated_trees.py."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.document.values import FIT, Size, fixed
from outgrowth.core.layout.tracks import Cells, Share, Wish, placed, sized

ANY = Wish(0, 1)


def fr(amount):
    return Size("grow", float(amount))


def share(start, span, least, small=None, large=None):
    small = least if small is None else small
    return Share(Cells(start, span), least, small, small if large is None else large)


@pytest.mark.parametrize(
    ("columns", "wishes", "spots"),
    [
        # One after the other, row by row.
        (2, [(ANY, ANY)] * 3, [(0, 0), (1, 0), (0, 1)]),
        # What is wider than the rest of a row begins the next; nothing goes back (sparse).
        (3, [(ANY, ANY), (Wish(0, 3), ANY), (ANY, ANY)], [(0, 0), (0, 1), (0, 2)]),
        # A column that was said: the next row in which it is free.
        (3, [(Wish(3, 1), ANY), (Wish(3, 1), ANY), (ANY, ANY)], [(2, 0), (2, 1), (0, 2)]),
        # Both said: first of all, the others around it.
        (2, [(ANY, ANY), (ANY, ANY), (Wish(1, 1), Wish(1, 1))], [(1, 0), (0, 1), (0, 0)]),
        # A row that was said, in front of those that are free.
        (2, [(ANY, ANY), (ANY, Wish(1, 1))], [(1, 0), (0, 0)]),
        # More columns than there are: the grid gets them.
        (1, [(Wish(4, 2), ANY), (ANY, ANY)], [(3, 0), (0, 1)]),
    ],
)
def test_where_items_go(columns, wishes, spots):
    found = placed(wishes, columns)
    assert [(across.start, down.start) for across, down in found] == spots


@pytest.mark.parametrize(
    ("tracks", "shares", "gap", "room", "sizes"),
    [
        ([fixed(80), Size("percent", 25.0)], [], 10, 200, [80, 50]),
        ([fr(1), fr(2)], [], 10, 100, [30, 60]),
        # A share is never less than what is in it; the others divide what is left.
        ([fr(1), fr(1)], [share(0, 1, 70)], 0, 100, [70, 30]),
        # Shares that make up less than one leave room.
        ([fr(0.5)], [], 0, 100, [50]),
        # What fits takes at most what it likes to have, at least what it needs.
        ([FIT, fixed(20)], [share(0, 1, 10, 10, 50)], 0, 100, [50, 20]),
        ([FIT, fixed(20)], [share(0, 1, 10, 10, 50)], 0, 40, [20, 20]),
        ([FIT, fixed(20)], [share(0, 1, 10, 10, 50)], 0, 15, [10, 20]),
        # An item over two that fit: they share what it needs, the gap counts in between.
        ([FIT, FIT], [share(0, 2, 50)], 10, 200, [20, 20]),
        ([fixed(30), FIT], [share(0, 2, 50)], 0, 200, [30, 20]),
        ([FIT, FIT], [share(0, 1, 30), share(0, 2, 50)], 0, 200, [30, 20]),
        # Over a share, only that takes it.
        ([FIT, fr(1)], [share(0, 2, 50)], 0, None, [0, 50]),
        # Room without an end: a share is as large as the largest asks for.
        ([fr(1), fr(2)], [share(0, 1, 10), share(1, 1, 50)], 0, None, [25, 50]),
        # Per cent of what is not known: as if nothing was said.
        ([Size("percent", 50.0)], [share(0, 1, 24)], 0, None, [24]),
    ],
)
def test_how_wide_tracks_come_out(tracks, shares, gap, room, sizes):
    assert sized(tracks, shares, gap, room) == pytest.approx(sizes)


def test_the_narrowest_room_is_what_is_needed_at_least():
    assert sized([FIT, fr(1)], [share(0, 1, 10, 20, 90)], 0, None, narrowest=True) == [10, 0]


amounts = st.integers(0, 90).map(float)
tracks = st.one_of(st.just(FIT), amounts.map(fixed), st.integers(1, 3).map(fr))


@given(
    st.lists(tracks, min_size=1, max_size=6),
    st.lists(st.tuples(st.integers(0, 5), st.integers(1, 3), amounts, amounts), max_size=6),
    st.integers(0, 9),
    st.integers(0, 600),
)
def test_every_item_has_what_it_needs_and_shares_fill_the_room(sizes, items, gap, room):
    shares = []
    for start, span, least, more in items:
        start = min(start, len(sizes) - 1)
        shares.append(share(start, min(span, len(sizes) - start), least, least, least + more))
    found = sized(sizes, shares, float(gap), float(room))
    for held in shares:
        cells = range(held.cells.start, held.cells.end)
        if all(sizes[n].mode == "fixed" for n in cells):
            continue
        got = sum(found[n] for n in cells) + gap * (held.cells.span - 1)
        assert got >= held.least - 1e-6
    whole = sum(found) + gap * (len(sizes) - 1)
    if any(size.mode == "grow" for size in sizes):
        assert whole >= room - 1e-6
