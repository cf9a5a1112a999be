"""The display list by itself: bounds, extents, groups, clips, marks and damage, as values."""

import pytest

from demo.drawing import box, shape, text
from outgrowth.core.color import parse
from outgrowth.core.document.records import Document, Screen
from outgrowth.core.document.values import Shadow
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.geometry import Rect
from outgrowth.core.layout import Layout
from outgrowth.core.paint import draw, record
from outgrowth.core.paint.damage import MOST, damage
from outgrowth.core.paint.fragment import Group, replay
from outgrowth.core.paint.marks import Bar, Box, BoxShadow, Outline, Ring
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import LONG
from outgrowth.core.text import Typesetter

SOLID = "#204060"
WIDE, HIGH = 40, 30


class Drawing:
    """One screen, drawn again after each edit by the same stages."""

    def __init__(self, root, fonts):
        self.document = add_screen(Document("d"), Screen("s", "S", root))
        self.resolver, self.layout = Resolver(), Layout(Typesetter(fonts))

    def scene(self):
        return self.resolver.screen(self.document, self.document.screens["s"])

    def fragment(self):
        scene = self.scene()
        return draw(scene, self.layout.place(scene.layout))

    def set(self, node, **values):
        said = {name.replace("_", "-"): value for name, value in values.items()}
        path = (node,) if node else ()
        self.document = set_properties(self.document, Place("s", path), said)
        return self.fragment()


@pytest.fixture
def drawing(fonts):
    return lambda root: Drawing(root, fonts)


def part(**style):
    return box("part", width=WIDE, height=HIGH, **{"fill": SOLID} | style)


def inked(fragment):
    """The bounds as left, top, right, bottom."""
    left, top, width, height = fragment.bounds
    return left, top, left + width, top + height


# --- bounds ----------------------------------------------------------------------


@pytest.mark.parametrize(
    ("style", "reach"),
    [
        ({}, 0),
        ({"stroke": SOLID, "stroke_width": 6}, 0),
        ({"stroke": SOLID, "stroke_width": 6, "stroke_place": "center"}, 3),
        ({"stroke": SOLID, "stroke_width": 6, "stroke_place": "outside"}, 6),
        ({"stroke": SOLID, "stroke_left": 6, "stroke_place": "outside"}, 6),
        ({"stroke_width": 6, "stroke_place": "outside"}, 0),  # without a colour nothing is inked
        ({"shadow": (Shadow(parse(SOLID), 0.0, 0.0, 5.0),)}, 5),
        ({"shadow": (Shadow(parse(SOLID), 7.0, -2.0, 5.0),)}, 12),
        ({"shadow": (Shadow(parse(SOLID), 1.0, -9.0, 5.0, 4.0),)}, 18),
        ({"shadow": (Shadow(parse(SOLID), 0.0, 0.0, 5.0, -4.0),)}, 5),
        ({"shadow": (Shadow(parse(SOLID), 9.0, 9.0, 9.0, inner=True),)}, 0),
        ({"shadow": (Shadow(parse(SOLID), 0.0, 0.0, 2.0), Shadow(parse(SOLID), 0.0, 0.0, 8.0))}, 8),
        ({"shadow": (Shadow(parse(SOLID), 0.0, 0.0, 2.0),), "stroke": SOLID, "stroke_width": 6,
          "stroke_place": "outside"}, 6),
    ],
)  # fmt: skip
def test_a_box_inks_as_far_as_its_strokes_and_shadows_reach(drawing, style, reach):
    fragment = drawing(box("r", part(**style))).fragment().children[0][2]
    assert inked(fragment) == (-reach, -reach, WIDE + reach, HIGH + reach)


@pytest.mark.parametrize(
    ("style", "reach"),
    [
        ({"line_width": 2, "path_size": 20, "width": 20, "height": 20}, 2),
        ({"line_width": 2, "path_size": 20, "width": 60, "height": 60}, 6),
        ({"line_width": 2, "path_size": 20, "width": 60, "height": 20}, 2),
        ({"line_width": 2, "path_size": 20, "width": 60, "height": 60, "line_joins": "miter"}, 12),
        ({"line_width": 2, "path_size": 20, "width": 60, "height": 60, "form": "ellipse"}, 2),
    ],
)  # fmt: skip
def test_a_shape_inks_as_far_as_its_line_in_the_paths_own_units(drawing, style, reach):
    root = box("r", shape("part", "M0 0h20v20h-20z", stroke=SOLID, **style))
    fragment = drawing(root).fragment().children[0][2]
    assert inked(fragment) == (-reach, -reach, style["width"] + reach, style["height"] + reach)


def test_words_may_reach_out_by_their_own_size(drawing):
    root = box("r", text("part", "Skerry", font_size=24, width=100, height=30))
    assert inked(drawing(root).fragment().children[0][2]) == (-24, -24, 124, 54)


def test_bounds_hold_the_children_unless_they_are_cut(drawing):
    inner = box("inner", width=10, height=10, fill=SOLID, floating=True, x=35, y=-4)
    made = drawing(box("r", box("part", inner, width=WIDE, height=HIGH, flow="free")))
    assert inked(made.fragment().children[0][2]) == (0, -4, 45, HIGH)
    assert inked(made.set("part", clip=True).children[0][2]) == (0, 0, WIDE, HIGH)


def test_bounds_are_those_of_the_turned_picture(drawing):
    turned = drawing(box("r", part(rotate=90))).fragment().children[0][2]
    assert inked(turned) == pytest.approx((5, -5, 35, 35))
    moved = drawing(box("r", part(translate_x=11, scale=2))).fragment().children[0][2]
    assert inked(moved) == pytest.approx((-20 + 11, -15, 60 + 11, 45))


# --- long lists ----------------------------------------------------------------------


def long_list(count=LONG + 5, **style):
    rows = [
        box(f"r{n}", width=20 + n % 7, height=4 + n % 3, fill=SOLID, margin_left=n % 5)
        for n in range(count)
    ]
    return box("list", *rows, flow="column", gap=2, **style)


def extents_of(fragment):
    return [
        [left + x, top + y, left + x + width, top + y + height]
        for x, y, child in fragment.children
        for left, top, width, height in [child.bounds]
    ]


def test_extents_are_the_ink_of_each_child(drawing):
    made = drawing(long_list())
    fragment = made.fragment()
    assert fragment.extents.tolist() == extents_of(fragment)
    shadow = (Shadow(parse(SOLID), 3.0, 0.0, 30.0),)
    for node, style in (
        ("r3", {"shadow": shadow}),
        ("r60", {"margin-left": -50.0}),
        ("r0", {"margin-top": -20.0}),
    ):
        after = made.set(node, **style)
        assert after.extents.tolist() == extents_of(after)
        assert inked(after)[0] == min(0.0, *(row[0] for row in extents_of(after)))
        assert inked(after)[1] == min(0.0, *(row[1] for row in extents_of(after)))
        assert inked(after)[2:] == (
            max(after.bounds.width + after.bounds.x, *(row[2] for row in extents_of(after))),
            max(row[3] for row in extents_of(after)),
        )


def test_a_list_that_spills_inks_to_its_last_row_and_no_farther(drawing):
    fragment = drawing(long_list(height=50, padding=10)).fragment()
    assert inked(fragment)[3] == max(row[3] for row in extents_of(fragment))


class Choosing:
    """A painter that enters some children of a long list, and says which."""

    def __init__(self, chosen):
        self.chosen, self.entered = chosen, []

    def mark(self, mark):
        pass

    def among(self, fragment):
        return self.chosen

    def enter(self, x, y, fragment):
        self.entered.append(y)
        return True

    def inside(self, fragment):
        pass

    def leave(self, fragment):
        pass


def test_only_what_a_painter_chooses_of_a_long_list_is_entered(drawing):
    fragment = drawing(long_list()).fragment()
    painter = Choosing([3, 1])
    replay(fragment, painter)
    assert painter.entered == [0.0, fragment.children[3][1], fragment.children[1][1]]
    short = drawing(long_list(5)).fragment()
    painter = Choosing([])
    replay(short, painter)
    assert painter.entered == [0.0, *(y for _, y, _ in short.children)], "a short one is not asked"


def test_a_list_is_long_from_its_sixty_fourth_child(drawing):
    assert drawing(long_list(LONG - 1)).fragment().extents is None
    assert drawing(long_list(LONG)).fragment().extents is not None


def test_a_long_list_that_is_cut_ends_at_its_edge(drawing):
    made = drawing(long_list(height=50, width=15))
    assert inked(made.fragment())[3] > 300
    assert inked(made.set("", clip=True)) == (0, 0, 15, 50)


@pytest.mark.parametrize("node", ["r0", "r3", f"r{LONG + 4}"])
def test_what_did_not_change_is_the_very_same_picture(drawing, node):
    made = drawing(long_list())
    before = made.fragment()
    after = made.set(node, fill=parse("#FF0000"))
    number = int(node[1:])
    same = [a[2] is b[2] for a, b in zip(before.children, after.children, strict=True)]
    # Rows that are alike are one picture: only that row is another one.
    assert same == [n != number for n in range(LONG + 5)]


# --- groups and clips ----------------------------------------------------------------------


@pytest.mark.parametrize(
    ("style", "whole"),
    [
        ({}, None),
        ({"opacity": 0.5}, (None, 0.5, None)),
        ({"clip": True}, (None, 1.0, (WIDE, HIGH, (0, 0, 0, 0)))),
        ({"clip": True, "radius": 6}, (None, 1.0, (WIDE, HIGH, (6, 6, 6, 6)))),
        ({"clip": True, "radius": 100}, (None, 1.0, (WIDE, HIGH, (15, 15, 15, 15)))),
        ({"scrolls": "y"}, (None, 1.0, (WIDE, HIGH, (0, 0, 0, 0)))),
    ],
)
def test_a_group_is_there_where_something_holds_for_a_part_as_a_whole(drawing, style, whole):
    group = drawing(box("r", part(**style))).fragment().children[0][2].group
    if whole is None:
        assert group is None
        return
    transform, opacity, clip = whole
    assert (group.transform, group.opacity, group.clip) == (transform, opacity, clip)


def test_what_is_turned_or_faded_is_painted_as_a_whole():
    clip = (WIDE, HIGH, (0.0, 0.0, 0.0, 0.0))
    assert Group(None, 1.0, clip).repaints_parts
    assert not Group(None, 0.5, None).repaints_parts


# --- marks ----------------------------------------------------------------------


def test_a_boxs_marks_lie_outer_shadow_fill_inner_shadow_stroke(drawing):
    first, second = Shadow(parse(SOLID), 1.0), Shadow(parse(SOLID), 2.0)
    inner, unseen = Shadow(parse(SOLID), 3.0, inner=True), Shadow(parse("#00000000"), 4.0)
    styled = part(shadow=(first, second, inner, unseen), stroke=SOLID, stroke_width=1)
    marks = drawing(box("r", styled)).fragment().children[0][2].marks
    assert [type(mark) for mark in marks] == [BoxShadow, BoxShadow, Box, BoxShadow, Ring]
    # The first of CSS's shadows lies on top (CSS Backgrounds 3, section 7.1).
    assert [mark.shadow for mark in marks if isinstance(mark, BoxShadow)] == [second, first, inner]


def test_a_line_along_words_lies_where_the_font_says_and_is_a_px_at_least(drawing):
    for decoration in ("underline", "line-through"):
        small = drawing(box("r", text("part", "Skerry", decoration=decoration, font_size=8)))
        large = drawing(box("r", text("part", "Skerry", decoration=decoration, font_size=200)))
        bars = []
        for made in (small, large):
            glyphs, bar = (drawn.mark for drawn in record(made.fragment()))
            assert isinstance(bar, Bar) and bar.width == glyphs.run.advance
            offset, thick = (
                glyphs.run.face.underline if decoration == "underline" else glyphs.run.face.strike
            )
            assert bar.y == glyphs.y - offset * glyphs.run.size
            assert bar.line == max(thick * glyphs.run.size, 1.0)
            bars.append(bar)
        assert bars[0].line == 1.0 < bars[1].line


def test_a_path_stands_in_the_middle_of_its_room_and_keeps_its_proportion(drawing):
    root = box("r", shape("part", "M0 0h20v20z", path_size=20, width=60, height=40, fill=SOLID))
    (mark,) = drawing(root).fragment().children[0][2].marks
    assert isinstance(mark, Outline)
    assert (mark.scale, mark.dx, mark.dy, mark.size) == (2.0, 10.0, 0.0, (20.0, 20.0))


@pytest.mark.parametrize("path", ["", "M0 0 L x"])
def test_a_path_that_says_nothing_draws_nothing(drawing, path):
    root = box("r", shape("part", path, width=60, height=40, fill=SOLID))
    assert drawing(root).fragment().children[0][2].marks == ()


def test_what_nobody_sees_is_no_mark(drawing):
    made = drawing(box("r", part(fill="#00000000", stroke=SOLID)))
    assert made.fragment().children[0][2].marks == ()


# --- damage ----------------------------------------------------------------------


def spaced(*inner, **style):
    return box("r", *inner, flow="column", gap=10, padding=(5, 7), **style)


def two(**style):
    return [box(n, width=WIDE, height=HIGH, fill=SOLID, **style) for n in ("a", "b")]


FIRST, SECOND = Rect(7, 5, WIDE, HIGH), Rect(7, 5 + HIGH + 10, WIDE, HIGH)


def test_nothing_that_changed_is_no_damage(drawing):
    made = drawing(spaced(*two()))
    assert damage(made.fragment(), made.fragment()) == []
    assert damage(made.fragment(), made.set("a", label="Anchor")) == []


def test_damage_is_where_the_changed_part_is_drawn(drawing):
    made = drawing(spaced(*two(), width=100, height=100))
    before = made.fragment()
    assert damage(before, made.set("b", fill=parse("#FF0000"))) == [SECOND]
    before = made.fragment()
    assert damage(before, made.set("a", radius_top_left=3.0)) == [FIRST]


def test_a_part_that_moves_leaves_one_place_and_takes_another(drawing):
    made = drawing(spaced(*two(), width=100, height=100))
    before = made.fragment()
    after = made.set("b", margin_top=4.0)
    assert damage(before, after) == [SECOND, SECOND.moved(0, 4)]


def test_a_part_that_grows_is_damage_with_what_it_pushes(drawing):
    made = drawing(spaced(*two(), width=100, height=200))
    before = made.fragment()
    rects = damage(before, made.set("a", shadow=(Shadow(parse(SOLID), 0.0, 0.0, 6.0),)))
    assert rects == [FIRST.grown(6)], "its old place and its new one"


@pytest.mark.parametrize(
    ("style", "parts"),
    [
        ({}, True),
        ({"clip": True}, True),
        ({"opacity": 0.5}, False),
        ({"rotate": 90.0}, False),
    ],
)
def test_parts_of_a_group_are_damage_alone_unless_it_is_turned_or_faded(drawing, style, parts):
    group = box("group", *two(), flow="column", gap=10, width=WIDE, **style)
    made = drawing(box("r", group, padding=(5, 7), width=300, height=300))
    before = made.fragment()
    rects = damage(before, made.set("b", fill=parse("#FF0000")))
    assert (rects == [SECOND]) == parts
    assert len(rects) == 1


def test_another_clip_is_damage_of_all_that_is_cut(drawing):
    made = drawing(box("r", box("group", *two(), flow="column", clip=True, width=WIDE)))
    before = made.fragment()
    (rect,) = damage(before, made.set("group", radius_top_left=9.0))
    assert rect == Rect(0, 0, WIDE, 2 * HIGH)
    before = made.fragment()
    assert damage(before, made.set("group", clip=False)) == [Rect(0, 0, WIDE, 2 * HIGH)]


def test_what_comes_or_goes_is_damage_of_its_box(drawing):
    made = drawing(spaced(*two(), width=100, height=100))
    before = made.fragment()
    assert damage(before, made.set("b", shown=False)) == [Rect(0, 0, 100, 100)]


def test_more_places_than_are_worth_it_are_one_around_them_all(drawing):
    rows = [box(f"r{n}", width=10, height=2, fill=SOLID) for n in range(MOST + 12)]
    made = drawing(box("r", *rows, flow="column", width=300, height=300))
    before = made.fragment()
    after = before
    for n in range(MOST):
        after = made.set(f"r{n}", fill=parse("#FF0000"))
    assert len(damage(before, after)) == MOST
    after = made.set(f"r{MOST}", fill=parse("#FF0000"))
    assert damage(before, after) == [Rect(0, 0, 10, 2 * (MOST + 1))]
