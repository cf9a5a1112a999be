import os
from functools import cache

import pytest
from hypothesis import HealthCheck, assume, given, seed, settings
from hypothesis import strategies as st
from stretchable import Edge, Node
from stretchable.style import (
    AUTO,
    AlignContent,
    AlignItems,
    AlignSelf,
    FlexDirection,
    FlexWrap,
    JustifyContent,
)
from stretchable.style.geometry.length import LengthBase

from outgrowth.core.document.values import FIT, Size, fixed, words
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.scene import Interner
from outgrowth.core.text import Typesetter

intern = Interner()


def box(*children, **style):
    return intern.layout("box", {k.replace("_", "-"): v for k, v in style.items()}, children)


def block(width, height, **style):
    return box(width=fixed(width), height=fixed(height), **style)


def xs(placed):
    return list(placed.xs)


def test_a_row_stands_its_children_side_by_side_with_gaps(layout):
    row = box(
        block(30.0, 10.0),
        block(20.0, 14.0),
        gap=8.0,
        padding_left=5.0,
        padding_right=7.0,
        padding_top=2.0,
    )
    placed = layout.place(row)
    assert (placed.width, placed.height) == (5 + 30 + 8 + 20 + 7, 2 + 14)
    assert xs(placed) == [5, 43]


def test_growing_children_share_what_is_left_by_weight(layout):
    row = box(
        box(width=Size("grow", 1.0)),
        box(width=Size("grow", 3.0)),
        block(40.0, 5.0),
        width=fixed(200.0),
    )
    assert [c.width for c in layout.place(row).children] == [40, 120, 40]


def test_text_wraps_before_it_spills(layout):
    text = intern.layout("text", {"content": words("The sea is calm today")}, ())
    narrow = layout.place(box(text, width=fixed(90.0)))
    wide = layout.place(box(text))
    assert narrow.children[0].height > wide.children[0].height
    assert narrow.children[0].width <= 90
    least = layout.intrinsic(text)[0]
    squeezed = layout.place(box(text, width=fixed(10.0)))
    assert squeezed.children[0].width == pytest.approx(least)


def test_a_growing_child_of_a_column_is_never_lower_than_what_it_holds(layout):
    tall = box(block(10.0, 80.0), height=Size("grow", 1.0))
    column = box(tall, block(10.0, 10.0), flow="column", height=fixed(50.0))
    assert [c.height for c in layout.place(column).children] == [80, 10]


def test_a_free_box_that_fits_takes_the_bounds_of_its_children(layout):
    free = box(block(10.0, 10.0, x=30.0, y=4.0), block(20.0, 8.0, x=5.0, y=20.0), flow="free")
    placed = layout.place(free)
    assert (placed.width, placed.height) == (40, 28)


def test_equal_subtrees_share_one_layout(layout):
    rows = [box(block(12.0, 9.0), gap=float(n % 3), height=fixed(20.0)) for n in range(9)]
    placed = layout.place(box(*rows, flow="column"))
    assert len({id(child) for child in placed.children}) == 3


# --- against an independent library ---------------------------------------------------------
# Source: Taffy, by the package stretchable on PyPI: CSS Flexbox Level 1 written by others.

length = st.integers(0, 60).map(float)
tall = st.integers(100, 160).map(float)  # more than a padding: see below
side = st.one_of(
    st.just(FIT), tall.map(fixed), st.integers(1, 3).map(lambda w: Size("grow", float(w)))
)


def styles(leaf: bool):
    return st.fixed_dictionaries(
        {
            "width": length.map(fixed) if leaf else side,
            # Nothing grows down: this Taffy gives a fitting column room for it by flex
            # fractions (CSS Flexbox 9.9.1), browsers do not. tests/browser judges that.
            "height": length.map(fixed) if leaf else st.one_of(st.just(FIT), tall.map(fixed)),
            "align_self": st.sampled_from(["auto", "start", "center", "end", "stretch"]),
            # No negative margins: this Taffy leaves items out of its sums for them.
            "margin_left": st.integers(0, 9).map(float),
            "margin_top": st.integers(0, 9).map(float),
        },
        # No limits: this Taffy sizes what holds a limited item by its unlimited size, where
        # CSS (Flexbox 9.9.1) clamps each contribution first. Chromium judges those, in
        # tests/browser/test_random_trees.py.
    )


containers = st.fixed_dictionaries(
    {
        "flow": st.sampled_from(["row", "column"]),
        "gap": st.integers(0, 12).map(float),
        "justify": st.sampled_from(
            ["start", "center", "end", "space-between", "space-around", "space-evenly"]
        ),
        "align": st.sampled_from(["start", "center", "end", "stretch"]),
        # Paddings that leave room: this Taffy stretches boxes below their own padding.
        "padding_left": st.integers(0, 12).map(float),
        "padding_top": st.integers(0, 12).map(float),
        "wrap": st.booleans(),
        "cross_gap": st.integers(0, 9).map(float),
    }
)


def trees():
    leaf = st.tuples(styles(leaf=True), st.just({}), st.just(()))
    return st.recursive(
        leaf,
        lambda inner: st.tuples(
            styles(leaf=False), containers, st.lists(inner, min_size=1, max_size=4).map(tuple)
        ),
        max_leaves=9,
    )


def ours(tree):
    own, container, children = tree
    container = container | {"wrap": wraps(own, container)} if container else container
    return box(*(ours(child) for child in children), **own, **container)


_ALIGN = {
    "start": AlignItems.START,
    "center": AlignItems.CENTER,
    "end": AlignItems.END,
    "stretch": AlignItems.STRETCH,
}


def theirs(tree, flow):
    """The tree in Taffy's terms, by the mapping of docs/layout.md."""
    own, container, children = tree
    style = _their_size(own, flow)
    style["margin"] = (own["margin_top"], 0, 0, own["margin_left"])
    if container:
        style |= {
            "flex_direction": FlexDirection[container["flow"].upper()],
            "gap": _their_gap(container),
            "flex_wrap": FlexWrap.WRAP if wraps(own, container) else FlexWrap.NO_WRAP,
            "align_content": AlignContent.FLEX_START,
            "justify_content": JustifyContent[container["justify"].upper().replace("-", "_")],
            "align_items": _ALIGN[container["align"]],
            "padding": (container["padding_top"], 0, 0, container["padding_left"]),
        }
    inner = container.get("flow", "row")
    return Node(*[theirs(child, inner) for child in children], **style)


def wraps(own, container):
    """Only rows of a known width: this Taffy lets a wrapping row that fits grow beyond the
    room there is (fit-content of CSS Sizing 3 does not), and for columns see
    tests/browser/test_random_trees.py."""
    known = own["width"].mode == "fixed"
    return known and container.get("wrap", False) and container["flow"] == "row"


def _their_gap(container):
    """Between columns, and between rows."""
    gap, cross = container["gap"], container["cross_gap"]
    return (gap, cross) if container["flow"] == "row" else (cross, gap)


def _their_size(own, flow):
    main, cross = ("width", "height") if flow == "row" else ("height", "width")
    size = {"width": AUTO, "height": AUTO}
    style = {"min_size": (AUTO, AUTO)}
    for axis in (main, cross):
        if own[axis].mode == "fixed":
            size[axis] = own[axis].amount
    if own["align_self"] != "auto":
        style["align_self"] = AlignSelf[own["align_self"].upper()]
    if own[cross].mode == "grow":
        style["align_self"] = AlignSelf.STRETCH
    if own[main].mode == "grow":
        style |= {"flex_grow": own[main].amount, "flex_shrink": 1.0, "flex_basis": 0}
        if main == "width":
            style["min_size"] = (0, AUTO)
    elif own[main].mode == "fixed":
        style |= {"flex_grow": 0.0, "flex_shrink": 0.0}
    style["size"] = (size["width"], size["height"])
    return style


def compare(mine, other, path=""):
    frame = other.get_box(Edge.BORDER, relative=True)
    differences = []
    for what, a, b in (("width", mine.width, frame.width), ("height", mine.height, frame.height)):
        if abs(a - b) > 0.01:
            differences.append(f"{path} {what}: {a} and {b}")
    for n, (child, x, y) in enumerate(zip(mine.children, mine.xs, mine.ys, strict=True)):
        there = other[n].get_box(Edge.BORDER, relative=True)
        if abs(x - there.x) > 0.01 or abs(y - there.y) > 0.01:
            differences.append(f"{path}/{n} at {x}, {y} and {there.x}, {there.y}")
        differences += compare(child, other[n], f"{path}/{n}")
    return differences


def measured(node):
    """Whether Taffy's wrapper gave every node a box (it drops some of no size)."""
    return node._box is not None and all(measured(node[n]) for n in range(len(node)))


def rooted(tree, width):
    """The tree as a root of fixed width: no margins and limits of its own."""
    own, container, children = tree
    height = own["height"] if own["height"].mode == "fixed" else FIT
    plain = {"margin_left": 0.0, "margin_top": 0.0, "align_self": "auto"}
    return plain | {"width": fixed(width), "height": height}, container, children


def grows_in_a_fit(tree):
    """Whether something grows along a row that fits. Taffy shrinks such a row by flex
    fractions (CSS Flexbox 9.9.1); browsers take its items' contents, and so do we
    (tests/browser/test_rectangles.py, test_a_growing_part_of_a_fitting_row)."""
    own, container, children = tree
    fits = container.get("flow") == "row" and own["width"].mode != "fixed"
    growing = any(child[0]["width"].mode == "grow" for child in children)
    return (fits and growing) or any(grows_in_a_fit(child) for child in children)


def held_open(tree, placed):
    """Whether a box is held open by its padding in a parent with less room. This Taffy
    stretches such a box below its padding, and below nothing; a content box is never
    negative in CSS (Box Sizing 3, section 3), and browsers keep the padding. Found by the
    nightly form."""
    _, container, children = tree
    room = placed.width - container.get("padding_left", 0.0)
    return any(
        (
            at.width > room - child[0]["margin_left"]
            and at.width == child[1].get("padding_left", -1.0)
        )
        or held_open(child, at)
        for child, at in zip(children, placed.children, strict=True)
    )


TREES = int(os.environ.get("OUTGROWTH_TREES", "2000"))
"""How many random trees; the nightly form (OUTGROWTH_TREES=50000) takes a quarter of an hour."""
PARTS = 4
"""So many tests of a share each, for as many processors."""


# The library looks through all its units for each length of each node, a third of the time of
# this test; what it finds depends on nothing else.
LengthBase._check_scale = staticmethod(cache(LengthBase._check_scale))


@pytest.mark.parametrize("part", range(PARTS))
def test_random_trees_agree_with_an_independent_library(fonts, part):
    @seed(part)
    @settings(max_examples=TREES // PARTS, suppress_health_check=list(HealthCheck))
    @given(trees(), st.integers(120, 400))
    def agrees(tree, width):
        _agrees(fonts, tree, width)

    agrees()


def _agrees(fonts, tree, width):
    assume(tree[1] and not any(grows_in_a_fit(child) for child in tree[2]))
    tree = rooted(tree, float(width))
    other = theirs(tree, "row")
    other.compute_layout()
    assume(measured(other))
    placed = Layout(Typesetter(fonts)).place(ours(tree))
    assume(not held_open(tree, placed))
    assert compare(placed, other) == []


@given(trees(), st.integers(120, 400))
def test_children_keep_their_order_and_no_size_is_negative(fonts, tree, width):
    placed = Layout(Typesetter(fonts)).place(ours(rooted(tree, float(width))))
    stack = [placed]
    while stack:
        node = stack.pop()
        assert node.width >= 0
        assert node.height >= 0
        assert len(node.xs) == len(node.ys) == len(node.children)
        stack += node.children


def test_a_long_drag_of_a_width_does_not_pile_up_layouts(layout):
    text = intern.layout("text", {"content": words("The sea is calm today")}, ())
    for width in range(400):
        layout.place(box(text, width=fixed(40.0 + width / 7)))
    assert len(text.memory.sizes) <= 65


def test_the_baseline_of_a_row_that_wraps_is_that_of_its_first_line(layout):
    inner = box(block(20.0, 20.0), block(20.0, 10.0, align_self="baseline"), wrap=True)
    row = box(block(10.0, 60.0), inner, align="baseline")
    assert layout.place(row).ys == (0, 50)
    narrow = box(
        block(20.0, 20.0),
        block(20.0, 10.0, align_self="baseline"),
        wrap=True,
        width=fixed(30.0),
    )
    row = box(block(10.0, 60.0), narrow, align="baseline")
    assert layout.place(row).ys == (0, 40), "of the second line it does not count"


def test_a_text_of_so_many_lines_gives_way_below_its_longest_word(layout):
    said = intern.layout("text", {"content": words("Departure"), "max-lines": 1.0}, ())
    row = box(said, block(80.0, 20.0), gap=8.0, width=fixed(100.0))
    placed = layout.place(row)
    assert placed.children[0].width == 12
    (line,) = placed.children[0].text.lines
    assert line.text.endswith("…")


def test_the_baseline_of_clamped_text_lies_within_its_box(layout):
    said = {"content": words("ferry"), "font-size": 20.0, "line-height": 1.0}
    # Figtree at 20 px: 19 above, 5 below the baseline; of 20 − 24 half lies above: 17.
    for more, below in (({}, 15 + 17), ({"max-lines": 2.0}, 15)):
        text = intern.layout("text", said | more, ())
        column = box(text, flow="column", height=fixed(6.0), padding_top=15.0)
        row = box(block(4.0, 50.0), column, align="baseline")
        assert layout.place(row).ys == (0, 50 - below)
