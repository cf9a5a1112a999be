"""Figures of the trade, each marked: common practice, no source."""

import pytest
from immutables import Map

from outgrowth.core.document.records import find
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint import draw, record
from outgrowth.core.paint.marks import BoxShadow, Ring
from outgrowth.core.resolve.resolver import Resolver


@pytest.fixture
def rects(ferry, layout):
    """Rectangles by path of names below the root, for one variant of a component."""

    def of(component, **variant):
        scene = Resolver().variant(ferry, component, Map(variant))
        placed = layout.place(scene.layout)
        return {"/".join(at.names[1:]): at.rect for at in locate(scene, placed, "")}

    return of


def test_a_checkbox_is_16_by_16_with_radius_2_and_a_line_of_1(ferry, rects, layout):
    # common practice, no source
    mark = rects("checkbox")["mark"]
    assert (mark.width, mark.height) == (16, 16)
    scene = Resolver().variant(ferry, "checkbox", Map())
    ring = next(
        d.mark for d in record(draw(scene, layout.place(scene.layout))) if isinstance(d.mark, Ring)
    )
    assert (ring.lines, ring.radii) == ((1.0,) * 4, (2.0,) * 4)


def test_a_row_has_8_of_padding_around_cells_with_16_of_their_own(rects):
    # common practice, no source
    row = rects("timetable-row")
    assert row["time"].x == 8
    assert row["time/words"].x == 8 + 16
    last = row["seats"]
    assert last.right == row[""].width - 8


def test_a_bottom_border_is_an_inner_shadow_up_by_one(ferry, layout):
    # common practice, no source
    scene = Resolver().variant(ferry, "timetable-row", Map())
    (shade,) = [
        d.mark
        for d in record(draw(scene, layout.place(scene.layout)))
        if isinstance(d.mark, BoxShadow)
    ]
    assert (shade.shadow.y, shade.shadow.blur, shade.shadow.inner) == (-1.0, 0.0, True)


def test_there_is_exactly_one_hover_state(ferry):
    # common practice, no source
    for component in ferry.in_order():
        hovers = [v for axis in component.axes for v in axis.values if v.name == "hover"]
        assert len(hovers) <= 1


# Source: WCAG 2.2, SC 2.5.8: targets of at least 24 × 24 CSS px.
def test_what_is_touched_is_large_enough(rects):
    for component in ("button", "icon-button", "toggle", "chip", "nav-entry"):
        whole = rects(component)[""]
        assert min(whole.width, whole.height) >= 24, component


def test_the_fare_cards_words_wrap_inside_it(ferry, rects):
    card = rects("fare-card")
    inside = card[""].width - 32
    assert card["about"].width <= inside
    assert card["buy"].width == inside
    assert find(ferry.components["fare-card"].root, "about") is not None


def test_a_chosen_row_checks_its_box(ferry, layout):
    chosen = Map(kind="selectable", chosen="yes")
    scene = Resolver().variant(ferry, "timetable-row", chosen)
    check = scene.children[0]
    assert check.component == "checkbox"
    assert check.variant["checked"] == "on"


def test_a_notice_has_16_at_its_sides_and_24_above(rects):
    # common practice, no source
    closed, opened = rects("notice"), rects("notice", open="yes")
    assert (closed["head"].x, closed["head"].y) == (16, 24)
    assert "answer" not in closed
    assert opened["answer"].y > opened["head"].bottom


def test_a_search_form_is_at_most_300_wide_and_its_button_does_not_grow(ferry, layout):
    # common practice, no source
    screen = ferry.screens["help"]
    scene = Resolver().screen(ferry, screen)
    found = {a.path: a.rect for a in locate(scene, layout.place(scene.layout), "")}
    form, field, button = (found[p] for p in (("find",), ("find", "field"), ("find", "go")))
    assert form.width == 300
    assert button.width == button.height == 44
    assert field.width == 300 - 44 - 8
