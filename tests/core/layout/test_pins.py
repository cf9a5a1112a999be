"""Pinned children along one axis. Source: CSS Positioned Layout 3, section 3.1 (insets), and
Box Alignment 3, section 6.1 (centring), worked out by hand."""

import pytest

from outgrowth.core.document.values import FIT, GROW, fixed
from outgrowth.core.layout.pins import Tie, place, scaling, stretched


def tie(pin, near=0.0, far=0.0, size=FIT, margins=(0.0, 0.0)):
    before, after = margins
    middle = near + (before - after) / 2
    return Tie(pin, near, far, near + before, far + after, middle, size)


@pytest.mark.parametrize(
    ("made", "room", "size", "at"),
    [
        (tie("start", 12), 200, 40, 12),
        (tie("start", 12, margins=(5, 0)), 200, 40, 17),
        (tie("end", far=10), 200, 40, 150),
        (tie("end", far=10, margins=(0, 6)), 200, 40, 144),
        (tie("center"), 200, 40, 80),
        (tie("center", 7), 200, 40, 87),
        (tie("center", margins=(10, 0)), 200, 40, 85),
        (tie("center"), 20, 40, -10),
        (tie("both", 12, 8), 200, 180, 12),
        (tie("start", 12, size=GROW), 200, 188, 12),
        # Drawn 20 from the left, 60 wide, 120 from the right of 200: a tenth before it.
        (tie("scale", 20, 120, fixed(60)), 200, 60, 20),
        (tie("scale", 20, 120, fixed(60)), 400, 120, 40),
    ],
)
def test_where_a_pinned_child_starts(made, room, size, at):
    assert place(made, float(room), float(size)) == pytest.approx(at)


@pytest.mark.parametrize(
    ("made", "room", "size"),
    [
        (tie("both", 12, 8), 200, 180),
        (tie("both", 12, 8, fixed(50)), 200, None),
        (tie("both", 150, 80), 200, 0),
        (tie("start", 12, 8, GROW), 200, 180),
        (tie("scale", 20, 120, fixed(60)), 400, 120),
        (tie("scale", 20, 120, fixed(60), (10, 0)), 400, 110),
        (tie("end", 0, 8), 200, None),
    ],
)
def test_how_wide_both_edges_make_it(made, room, size):
    assert stretched(made, float(room)) == (None if size is None else pytest.approx(size))


def test_only_a_fixed_size_scales():
    assert scaling(tie("scale", 10, 10)) is None
    assert scaling(tie("start", 10, 10, fixed(20))) is None
    assert scaling(tie("scale", 0, 0, fixed(0))) is None
    assert scaling(tie("scale", 10, 20, fixed(20))) == pytest.approx((0.2, 0.4))
