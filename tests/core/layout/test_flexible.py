"""Flexible lengths, lines and alignment as numbers: the algorithms of CSS Flexbox Level 1 and
Box Alignment Level 3, each case with the section it works out. The numbers are worked out by
hand from the text of the section, not copied from a figure."""

import math

import pytest

from outgrowth.core.layout.flexible import Item, aligned, collect_lines, justified, resolve


def item(base=0.0, least=0.0, most=math.inf, grow=0.0, shrink=1.0, margins=0.0, inset=0.0):
    return Item(float(base), float(least), float(most), grow, shrink, float(margins), float(inset))


@pytest.mark.parametrize(
    ("section", "items", "room", "sizes"),
    [
        # Absolute flex: a basis of zero, the whole room is shared (section 7.1).
        ("7.1 absolute", [item(grow=1), item(grow=1), item(grow=2)], 400, [100, 100, 200]),
        # Relative flex: a basis of the content, only what is left is shared (section 7.1).
        (
            "7.1 relative",
            [item(20, grow=1), item(40, grow=1), item(60, grow=2)],
            400,
            [90, 110, 200],
        ),
        # No room left and nothing may give way (section 7.1, flex: none).
        ("7.1 none", [item(80, shrink=0), item(90, shrink=0)], 100, [80, 90]),
        # Shrinking goes by the shrink factor times the base size (section 9.7, step 4c).
        ("9.7 4c shrink", [item(100), item(300)], 200, [50, 150]),
        ("9.7 4c factors", [item(100, shrink=3), item(300, shrink=1)], 200, [0, 200]),
        # Only the inner size counts: padding does not give way (section 9.7, step 4c).
        ("9.7 4c inner", [item(150, inset=50), item(300)], 250, [100, 150]),
        # Factors that sum to less than one leave room over (section 9.7, step 4b).
        ("9.7 4b", [item(grow=0.2), item(grow=0.3)], 100, [20, 30]),
        # A minimum is hit: it freezes, the others share anew (section 9.7, steps 4d, 4e).
        ("9.7 4e least", [item(least=160, grow=1), item(grow=1), item(grow=1)], 300, [160, 70, 70]),
        ("9.7 4e most", [item(most=40, grow=1), item(grow=1), item(grow=1)], 300, [40, 130, 130]),
        # Both kinds at once: the larger total violation freezes first (section 9.7, step 4e).
        (
            "9.7 4e both",
            [item(least=200, grow=1), item(most=20, grow=1), item(grow=1)],
            300,
            [200, 20, 80],
        ),
        # Items that are past a limit from the start are frozen at once (section 9.7, step 2).
        ("9.7 2", [item(80, most=50, grow=1), item(10, grow=1)], 200, [50, 150]),
        # An automatic minimum keeps content from giving way further (section 4.5).
        ("4.5", [item(100, least=60), item(100)], 100, [60, 40]),
        # Margins are never flexed (section 9.7, step 1).
        ("9.7 1 margins", [item(grow=1, margins=30), item(grow=1)], 230, [100, 100]),
    ],
)
def test_flexible_lengths(section, items, room, sizes):
    assert resolve(items, float(room)) == pytest.approx(sizes), section


@pytest.mark.parametrize(
    ("section", "bases", "room", "gap", "lines"),
    [
        ("9.3 5 fits", [40, 40], 80, 0, [(0, 2)]),
        ("9.3 5 breaks", [40, 50, 30], 80, 0, [(0, 1), (1, 3)]),
        ("9.3 5 gaps count", [40, 40], 85, 8, [(0, 1), (1, 2)]),
        ("9.3 5 one a line at least", [200, 10], 80, 0, [(0, 1), (1, 2)]),
        ("9.3 5 none", [], 80, 0, [(0, 0)]),
    ],
)
def test_lines(section, bases, room, gap, lines):
    assert collect_lines([item(base) for base in bases], float(room), float(gap)) == lines, section


@pytest.mark.parametrize(
    ("how", "free", "first", "between"),
    [
        # Box Alignment 3, section 4.3 (distributed alignment) and its fallbacks (section 5.1).
        ("start", 60.0, 0.0, 0.0),
        ("end", 60.0, 60.0, 0.0),
        ("center", 60.0, 30.0, 0.0),
        ("space-between", 60.0, 0.0, 30.0),
        ("space-around", 60.0, 10.0, 20.0),
        ("space-evenly", 60.0, 15.0, 15.0),
        ("space-between", -30.0, 0.0, 0.0),
        ("space-around", -30.0, 0.0, 0.0),
        ("center", -30.0, -15.0, 0.0),
        ("end", -30.0, -30.0, 0.0),
    ],
)
def test_three_items_along_an_axis(how, free, first, between):
    assert justified(how, free, 3) == (first, between)


def test_one_item_between_and_across():
    assert justified("space-between", 60.0, 1) == (0.0, 0.0)
    assert [aligned(how, 20.0) for how in ("start", "center", "end", "stretch")] == [0, 10, 20, 0]
