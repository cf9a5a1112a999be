import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.geometry import Affine, Rect
from outgrowth.core.geometry.affine import about
from outgrowth.core.geometry.path import PathRefusal, ellipse, outline
from outgrowth.core.geometry.rect import corner_radii, in_rounded, union

sides = st.floats(0, 500)


# Source: CSS Backgrounds and Borders 3, section 4.5, "Corner Overlap".
@given(sides, sides, st.tuples(*[st.floats(0, 900)] * 4))
def test_corners_never_overlap_and_keep_their_ratio(width, height, radii):
    tl, tr, br, bl = corner_radii(width, height, radii)
    assert tl + tr <= width + 1e-6
    assert bl + br <= width + 1e-6
    assert tl + bl <= height + 1e-6
    assert tr + br <= height + 1e-6
    if max(radii) > 0 and radii[0] > 0:
        assert math.isclose(tr * radii[0], tl * radii[1], abs_tol=1e-3)


def test_small_corners_stay_as_they_are():
    assert corner_radii(100, 40, (8.0, 8.0, 8.0, 8.0)) == (8.0, 8.0, 8.0, 8.0)
    assert corner_radii(100, 40, (99.0,) * 4) == (20.0,) * 4


def test_a_point_in_a_corner_is_outside():
    round_box = (40.0, 40.0, (20.0,) * 4)
    assert not in_rounded(1, 1, *round_box)
    assert in_rounded(20, 1, *round_box)
    assert in_rounded(6, 6, *round_box)
    assert not in_rounded(40, 20, *round_box)


def test_rectangles_join_and_meet():
    a, b = Rect(0, 0, 10, 10), Rect(20, 5, 10, 10)
    assert union([a, b]) == Rect(0, 0, 30, 15)
    assert union([]) == Rect(0, 0, 0, 0)
    assert not a.meets(b)
    assert a.grown(11).meets(b)
    assert a.moved(5, 0).contains(14, 9)
    assert not a.contains(10, 5)


@given(st.floats(-360, 360), st.floats(0.1, 5), st.floats(-50, 50), st.floats(-50, 50))
def test_a_map_about_a_point_keeps_it_and_can_be_undone(turn, scale, x, y):
    there = about((x, y), (0.0, 0.0), scale, turn)
    assert there.apply(x, y) == pytest.approx((x, y), abs=1e-6)
    back = there.inverse()
    assert back.apply(*there.apply(3.0, -7.0)) == pytest.approx((3.0, -7.0), abs=1e-6)


def test_turning_is_clockwise_as_in_css():
    # Source: CSS Transforms 1, section 11: positive angles turn clockwise, y pointing down.
    x, y = about((0.0, 0.0), (0.0, 0.0), 1.0, 90.0).apply(1.0, 0.0)
    assert (round(x, 9), round(y, 9)) == (0.0, 1.0)


def test_maps_follow_one_another():
    shift, grow = Affine(e=10.0), Affine(a=2.0, d=2.0)
    assert shift.then(grow).apply(1, 1) == (22, 2)
    assert grow.then(shift).apply(1, 1) == (12, 2)


# Source: SVG 2, section 9.3, its examples of the path grammar.
@pytest.mark.parametrize(
    "data",
    [
        "M 100 100 L 300 100 L 200 300 z",
        "M100,200 C100,100 250,100 250,200 S400,300 400,200",
        "M200,300 Q400,50 600,300 T1000,300",
        "M300,200 h-150 a150,150 0 1,0 150,-150 z",
        "M 100 100 L 200 200",
        "M100 100L200 200",
        "M 100 200 L 200 100 -100 -200",
        "M.6.5",
    ],
)
def test_svgs_own_paths_are_read(data):
    assert outline(data)[0][0] == "moveTo"


@pytest.mark.parametrize("data", ["M 0 zero", "L", "M 1", "Q 1 2 3"])
def test_a_broken_path_is_a_sentence(data):
    with pytest.raises(PathRefusal, match="cannot be read"):
        outline(data)


@pytest.mark.parametrize(
    ("arc", "thickness", "path"),
    [
        ((0.0, 90.0), 0.0, "M20 0A20 10 0 0 1 40 10L20 10Z"),
        ((0.0, 180.0), 0.0, "M20 0A20 10 0 0 1 20 20L20 10Z"),
        ((0.0, 181.0), 0.0, "M20 0A20 10 0 1 1 19.6510 19.9985L20 10Z"),
        ((0.0, -90.0), 0.0, "M20 0A20 10 0 0 0 0 10L20 10Z"),
        ((0.0, 90.0), 4.0, "M20 0A20 10 0 0 1 40 10L36 10A16 6 0 0 0 20 4Z"),
        # As thick as half its height: nothing is left in the middle.
        ((0.0, 90.0), 10.0, "M20 0A20 10 0 0 1 40 10L20 10Z"),
        ((0.0, 90.0), 20.0, "M20 0A20 10 0 0 1 40 10L20 10Z"),
        ((0.0, 0.0), 0.0, ""),
    ],
)
def test_arcs_in_svgs_notation(arc, thickness, path):
    """Worked by hand for an ellipse of 40 × 20 px. Source: SVG 2, section 9.3.8: an arc of exactly
    half a turn is no large one."""
    assert _numbers(ellipse(40.0, 20.0, arc, thickness)) == _numbers(path)


def _numbers(path):
    parts = re.findall(r"[A-Z]|-?[\d.]+(?:e-?\d+)?", path)
    return [part if part.isalpha() else round(float(part), 2) + 0.0 for part in parts]


def test_a_ring_as_thick_as_half_its_width_is_a_slice():
    assert _numbers(ellipse(20.0, 40.0, (0.0, 90.0), 10.0)) == _numbers(
        "M10 0A10 20 0 0 1 20 20L10 20Z"
    )


@pytest.mark.parametrize("size", [(0.0, 20.0), (40.0, 0.0), (-1.0, 5.0)])
def test_an_ellipse_of_no_size_is_no_path(size):
    assert ellipse(*size, (0.0, 90.0), 0.0) == ""
