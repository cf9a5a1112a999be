"""Several nodes looked at as one: shared values, and None where they differ."""

import pytest

from outgrowth.core.color import parse
from outgrowth.core.document.values import Shift, fixed
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.resolve.ladder import Place, Together, inspect

BOARD, WAIT, TITLE = (Place("boarding", (node,)) for node in ("board", "wait", "title"))


def together(document, *places):
    return Together([inspect(document, place) for place in places])


def test_equal_values_are_shown_and_different_ones_are_not(ferry):
    both = together(ferry, BOARD, WAIT)
    assert both.value("radius-top-left") == inspect(ferry, BOARD).value("radius-top-left")
    assert both.value("choice:label") is None
    alike = set_properties(ferry, BOARD, {"fill": parse("#123456")})
    assert together(alike, BOARD, WAIT).value("fill") is None
    alike = set_properties(alike, WAIT, {"fill": parse("#123456")})
    assert together(alike, BOARD, WAIT).value("fill") == parse("#123456")


def test_what_means_nothing_for_one_of_them_is_asked_of_the_others(ferry):
    mixed = together(ferry, TITLE, BOARD)
    assert mixed.value("font-size") == inspect(ferry, TITLE).value("font-size")
    assert mixed.value("gap") == inspect(ferry, BOARD).value("gap")
    assert mixed.has("font-size")
    assert not together(ferry, BOARD, WAIT).has("font-size")
    assert mixed.ladder("gap")[-1].source.owner == "button"


def test_a_relative_value_needs_something_below_it(ferry):
    shift = {"opacity": Shift("multiply", 0.5)}
    with pytest.raises(Refusal, match="choose a reach"):
        set_properties(ferry, Place("button"), shift)
    with pytest.raises(Refusal, match="choose a reach"):
        set_properties(ferry, TITLE, shift)
    on_instance = set_properties(ferry, BOARD, shift)
    assert inspect(on_instance, BOARD).value("opacity") == 0.5
    assert inspect(on_instance, BOARD).value("width") != fixed(0.0)
