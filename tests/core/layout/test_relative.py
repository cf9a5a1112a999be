"""Sizes in per cent and characters, margins that push, lines' places, what begins at the other
end, what stands beside its place: hand-worked numbers. Chromium judges the rest
(tests/browser/test_generated_trees.py)."""

import pytest

from outgrowth.core.document.values import FIT, GROW, Size, fixed, words
from outgrowth.core.resolve.scene import Interner

intern = Interner()
BLOCK = {"width": fixed(20.0), "height": fixed(10.0)}


def half(amount=50.0):
    return Size("percent", amount)


def laid(layout, style, *children, kind="box"):
    """A box of these children, each a style or a style with children."""

    def node(said):
        inner = said.pop("inside", ())
        of = "text" if "content" in said else "box"
        return intern.layout(of, said, tuple(node(dict(child)) for child in inner))

    return layout.place(node({**style, "inside": children}))


def spots(placed):
    return list(zip(placed.xs, placed.ys, strict=True))


def test_per_cent_are_of_what_the_holder_has_inside(layout):
    style = {"width": fixed(220.0), "height": fixed(100.0), "padding-left": 20.0}
    placed = laid(layout, style, {"width": half(), "height": half(25.0)})
    assert (placed.children[0].width, placed.children[0].height) == (100.0, 25.0)


def test_per_cent_of_a_height_that_is_not_known_is_as_if_nothing_was_said(layout):
    placed = laid(layout, {"width": fixed(100.0)}, {"height": half(), "inside": (BLOCK,)})
    assert placed.children[0].height == 10.0
    row = {"width": fixed(100.0), "height": fixed(40.0), "align": "stretch"}
    held = {"inside": ({"width": half(), "height": half()},), "width": GROW}
    placed = laid(layout, row, held)
    assert placed.children[0].children[0].height == 20.0  # stretched, so it is known


def test_limits_in_per_cent(layout):
    style = {"width": fixed(200.0)}
    wide, narrow = (
        {"width": GROW, "max-width": half()},
        {"width": fixed(0.0), "min-width": half(25.0)},
    )
    placed = laid(layout, style, wide, narrow)
    assert [child.width for child in placed.children] == [100.0, 50.0]


def test_characters_are_as_wide_as_a_zero_of_the_letters(layout):
    style = {"content": words("Skerry"), "width": Size("chars", 10.0), "font-size": 20.0}
    (child,) = laid(layout, {"width": FIT}, style).children
    zero = laid(layout, {"width": FIT}, {"content": words("0"), "font-size": 20.0}).width
    assert child.width == pytest.approx(10 * zero)


@pytest.mark.parametrize(
    ("pushes", "xs"),
    [
        (({}, {"push-left": True}), [0, 80]),
        (({"push-right": True}, {}), [0, 80]),
        (({"push-left": True}, {}), [60, 80]),
        (({"push-left": True, "push-right": True}, {}), [30, 80]),
        (({"push-left": True, "margin-left": 7.0}, {}), [60, 80]),  # it has no length of its own
    ],
)
def test_margins_that_push_take_what_is_left(layout, pushes, xs):
    style = {"width": fixed(100.0), "justify": "center"}
    placed = laid(layout, style, *({**BLOCK, **push} for push in pushes))
    assert list(placed.xs) == xs


def test_a_push_across_the_flow_is_stronger_than_the_alignment(layout):
    style = {"width": fixed(100.0), "height": fixed(50.0), "align": "stretch"}
    down = {"width": fixed(20.0), "push-top": True, "inside": (BLOCK,)}
    middle = {**BLOCK, "push-top": True, "push-bottom": True}
    assert list(laid(layout, style, down, middle).ys) == [40.0, 20.0]


@pytest.mark.parametrize(
    ("how", "ys", "height"),
    [
        ("start", [0, 10], 10), ("end", [80, 90], 10), ("center", [40, 50], 10),
        ("space-between", [0, 90], 10), ("stretch", [0, 50], 50),
    ],
)  # fmt: skip
def test_where_the_lines_of_a_box_that_wraps_stand(layout, how, ys, height):
    style = {"width": fixed(30.0), "height": fixed(100.0), "wrap": True, "align-content": how}
    parts = ({"width": fixed(20.0), "height": GROW, "inside": (BLOCK,)},) * 2
    placed = laid(layout, style, *parts)
    assert (list(placed.ys), placed.children[0].height) == (ys, height)


def test_a_flow_that_begins_at_its_other_end(layout):
    style = {"width": fixed(100.0), "reversed": True, "gap": 5.0}
    assert list(laid(layout, style, BLOCK, BLOCK).xs) == [80.0, 55.0]
    column = {"flow": "column", "height": fixed(50.0), "reversed": True}
    assert list(laid(layout, column, BLOCK, {**BLOCK, "margin-top": 3.0}).ys) == [40.0, 30.0]


def test_what_grows_from_its_content_shares_what_is_left(layout):
    style = {"width": fixed(100.0)}
    one = {"width": GROW, "grow-from": "content", "inside": (BLOCK,)}
    two = {"width": GROW, "grow-from": "content", "inside": (BLOCK, BLOCK)}
    assert [c.width for c in laid(layout, style, one, two).children] == [40.0, 60.0]


def test_a_fixed_part_that_gives_way_does_so_down_to_its_content(layout):
    style = {"width": fixed(50.0)}
    part = {"width": fixed(60.0), "height": fixed(10.0), "gives-way": True}
    assert [c.width for c in laid(layout, style, part, part).children] == [25.0, 25.0]
    held = part | {"inside": ({"width": fixed(40.0)},)}
    assert [c.width for c in laid(layout, style, part, held).children] == [10.0, 40.0]


def test_a_side_that_grows_from_a_size_shares_what_is_left(layout):
    style = {"width": fixed(200.0)}
    small, half_of_it = (
        {"width": GROW, "grow-from": "size", "grow-base": base} for base in (40.0, half())
    )
    assert [c.width for c in laid(layout, style, small, half_of_it).children] == [70.0, 130.0]
    column = {"flow": "column", "height": fixed(200.0)}
    parts = ({"height": GROW, "grow-from": "size", "grow-base": base} for base in (40.0, half()))
    assert [c.height for c in laid(layout, column, *parts).children] == [70.0, 130.0]


def test_a_share_of_a_height_that_is_not_known_is_no_size_to_grow_from(layout):
    part = {"height": GROW, "grow-from": "size", "grow-base": half(), "inside": (BLOCK,)}
    assert laid(layout, {"flow": "column"}, part).children[0].height == 10.0


def test_what_gives_way_does_so_by_its_share(layout):
    style = {"width": fixed(70.0)}
    part = {"width": fixed(50.0), "height": fixed(10.0), "gives-way": True}
    assert [c.width for c in laid(layout, style, part, part | {"shrink": 2.0}).children] == [
        40.0, 30.0,
    ]  # fmt: skip
    whole = laid(layout, style, part, part | {"shrink": 0.0})
    assert [c.width for c in whole.children] == [20.0, 50.0]


def test_lines_that_begin_at_the_other_end(layout):
    style = {"width": fixed(30.0), "height": fixed(100.0), "wrap": True, "lines-reversed": True}
    parts = ({"width": fixed(20.0), "height": fixed(h)} for h in (10.0, 30.0))
    assert list(laid(layout, style, *parts).ys) == [90.0, 60.0]
    column = {"flow": "column", "height": fixed(30.0), "width": fixed(100.0), "wrap": True}
    parts = ({"width": fixed(w), "height": fixed(20.0)} for w in (10.0, 30.0))
    assert list(laid(layout, column | {"lines-reversed": True}, *parts).xs) == [90.0, 60.0]


def test_the_baseline_of_lines_that_begin_below_is_counted_from_there(layout):
    style = {"width": fixed(200.0), "wrap": True, "lines-reversed": True, "align": "baseline"}
    large = {"width": fixed(20.0), "height": fixed(30.0), "margin-bottom": 6.0}
    placed = laid(layout, style, large, BLOCK)
    assert (placed.height, list(placed.ys)) == (36.0, [0.0, 20.0])


def test_an_offset_moves_nothing_else_and_not_the_baseline(layout):
    style = {"width": FIT, "align": "baseline"}
    plain = laid(layout, style, {"content": words("a")}, {"content": words("b")})
    moved = {"content": words("a"), "offset-x": 3.0, "offset-y": -4.0}
    placed = laid(layout, style, moved, {"content": words("b")})
    assert spots(placed)[0] == (3.0, -4.0)
    assert (spots(placed)[1], placed.width) == (spots(plain)[1], plain.width)


def test_a_box_that_scrolls_is_as_small_as_it_must_be(layout):
    column = {"flow": "column", "height": fixed(60.0)}
    tall = {"scrolls": "y", "flow": "column", "inside": (BLOCK,) * 9}
    assert [c.height for c in laid(layout, column, BLOCK, tall).children] == [10.0, 50.0]


def test_words_break_anywhere_where_that_is_said(layout):
    narrow = {"content": words("Departure"), "width": fixed(30.0)}
    (spilled,) = laid(layout, {}, narrow).children
    (collect_lines,) = laid(layout, {}, narrow | {"break-words": True}).children
    assert len(spilled.text.lines) == 1
    assert len(collect_lines.text.lines) > 1
    assert max(line.width for line in collect_lines.text.lines) <= 30.0


def test_a_soft_hyphen_is_seen_only_where_the_word_is_divided(layout):
    word = {"content": words("inter\u00adisland")}
    (whole,) = laid(layout, {}, word).children
    (divided,) = laid(layout, {}, word | {"width": fixed(50.0)}).children
    plain = laid(layout, {}, {"content": words("interisland")}).width
    assert whole.width == pytest.approx(plain)
    first = divided.text.lines[0]
    assert first.width > laid(layout, {}, {"content": words("inter")}).width
    assert len(first.runs) == 2  # the letters, and the hyphen


def test_a_trimmed_text_ends_at_its_capitals_and_its_last_baseline(layout):
    said = {"content": words("Holm"), "font-size": 20.0, "line-height": 2.0}
    (plain,) = laid(layout, {}, said).children
    (trimmed,) = laid(layout, {}, said | {"trim": "letters"}).children
    assert (plain.height, trimmed.height) == (40.0, pytest.approx(14.0))  # Figtree: 0.7 em
    assert trimmed.text.lines[0].baseline == pytest.approx(trimmed.height)
