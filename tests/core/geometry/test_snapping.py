"""What a moved rectangle catches on."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.snapping import Guide, snapped

ROOM = Rect(0.0, 0.0, 400.0, 300.0)


@pytest.mark.parametrize(
    ("rect", "by"),
    [
        (Rect(103.0, 50.0, 40.0, 20.0), (-3.0, 0.0)),  # left to left
        (Rect(178.0, 150.0, 40.0, 20.0), (2.0, 0.0)),  # left to right
        (Rect(122.0, 50.0, 40.0, 20.0), (-2.0, 0.0)),  # middle to middle
        (Rect(3.0, 4.0, 40.0, 20.0), (-3.0, -4.0)),  # the room's corner
        (Rect(250.0, 170.0, 40.0, 20.0), (0.0, 0.0)),  # nothing near
    ],
)
def test_edges_and_middles(rect, by):
    found = snapped(rect, [Rect(100.0, 100.0, 80.0, 30.0)], ROOM, 5.0)
    assert (found.dx, found.dy) == by
    assert bool(found.guides) == any(by)


def test_equal_distances_are_caught_and_told():
    others = [Rect(20.0, 100.0, 40.0, 40.0), Rect(80.0, 100.0, 40.0, 40.0)]
    found = snapped(Rect(142.0, 107.0, 50.0, 20.0), others, ROOM, 2.5)
    assert found.dx == -2.0
    told = [guide.distance for guide in found.guides if guide.distance]
    assert told == [20.0, 20.0]


def test_a_gap_is_split_in_two():
    others = [Rect(20.0, 10.0, 40.0, 40.0), Rect(160.0, 10.0, 40.0, 40.0)]
    found = snapped(Rect(88.0, 14.0, 40.0, 30.0), others, Rect(0.0, 0.0, 399.0, 999.0), 4.0)
    assert found.dx == 2.0


def test_a_line_spans_both_and_says_how_far_apart_they_are():
    found = snapped(Rect(101.0, 10.0, 40.0, 20.0), [Rect(100.0, 100.0, 80.0, 30.0)], ROOM, 5.0)
    assert found.guides[0] == Guide(100.0, 10.0, 100.0, 130.0)
    assert found.guides[1].distance == 70.0


sides = st.floats(1.0, 200.0)
rects = st.builds(Rect, st.floats(-100, 400), st.floats(-100, 400), sides, sides)


@given(rects, st.lists(rects, max_size=5), st.floats(0.0, 12.0))
def test_it_never_moves_farther_than_it_may(rect, others, within):
    found = snapped(rect, others, ROOM, within)
    assert abs(found.dx) <= within + 1e-9 and abs(found.dy) <= within + 1e-9
    again = snapped(rect.moved(found.dx, found.dy), others, ROOM, within)
    assert abs(again.dx) <= abs(found.dx) + 1e-6 or found.dx == 0.0


def test_parts_that_touch_have_no_distance_to_be_told():
    """Two stand edge to edge: a third is caught at their distance, which is none."""
    others = [Rect(0.0, 10.0, 40.0, 40.0), Rect(40.0, 90.0, 40.0, 40.0)]
    found = snapped(Rect(82.0, 50.0, 40.0, 40.0), others, ROOM, 5.0)
    assert found.dx == -2.0
    assert all(guide.x2 > guide.x1 or guide.y2 > guide.y1 for guide in found.guides)
