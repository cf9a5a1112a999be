"""What the review leaves in peace: what a library's file keeps for others, words that another look
says too, what was dismissed; and what is near a finding and none.
"""

import msgspec
import pytest
from immutables import Map

from demo.behaviours import put, with_cue
from demo.drawing import box, instance, shape, text
from outgrowth.core.color import parse
from outgrowth.core.document.cues import Trigger
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    DesignToken,
    Document,
    Rule,
    Screen,
)
from outgrowth.core.document.sharing import Library, Origin, Sharing, TokenOrigin
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_component, add_screen, add_token
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.review.reviewer import review


def kinds(document, layout, *only):
    return [f.kind for f in review(document, layout, only)]


def pointer_axis():
    values = tuple(AxisValue(name, name) for name in ("rest", "hover"))
    return Axis("state", "State", values, "rest", "pointer")


def component(*children, axes=(), rules=(), **style):
    usual = {"padding": (12, 16), "fill": "#FFFFFF"}
    return Component("c", "Card", box("root", *children, **(usual | style)), axes, tuple(rules))


def rule(value, node, name, said, axis="state"):
    return Rule(Map({axis: value}), (node,), name, said)


# --- quieter ------------------------------------------------------------------------------------


def test_what_a_library_keeps_for_others_is_not_called_unused(layout):
    document = add_component(Document("d"), component(text("t", "Sail", color="#14252B")))
    document = add_token(document, "color.sea", DesignToken("color", parse("#17495A")))
    assert {"component-unused", "token-unused"} <= set(kinds(document, layout, "system"))
    sharing = Sharing(
        (Library("lib", "Harbour", "/somewhere"),),
        Map({"c": Origin("lib", "1.0.0", own=True)}),
        Map({"color.sea": TokenOrigin("lib", "1.0.0")}),
    )
    shared = msgspec.structs.replace(document, sharing=sharing)
    assert not {"component-unused", "token-unused"} & set(kinds(shared, layout, "system"))


@pytest.mark.parametrize(("there", "told"), [("Sail", False), ("Opens a page", True)])
def test_only_words_that_no_other_look_says_are_for_the_pointer_alone(there, told, layout):
    """A label that is another node under the pointer says the same."""
    resting = text("one", "Sail", color="#14252B")
    hovered = text("two", there, color="#14252B", shown=False)
    rules = [rule("hover", "one", "shown", False), rule("hover", "two", "shown", True)]
    made = component(resting, hovered, axes=(pointer_axis(),), rules=rules)
    document = add_component(Document("d"), made)
    assert ("hover-only" in kinds(document, layout, "targets")) is told


@pytest.mark.parametrize(
    ("said", "told"),
    [
        (("root", "shown", False), False),
        (("root", "opacity", 0.0), False),
        (("t", "color", parse("#17495A")), True),
    ],
)
def test_a_toast_that_was_dismissed_is_no_dead_end(said, told, layout):
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    axis = Axis("gone", "Gone", values, "no")
    toast = component(
        text("t", "Ticket kept", color="#14252B"), axes=(axis,), rules=[rule("yes", *said, "gone")]
    )
    document = add_component(Document("d"), toast)
    document = with_cue(document, "c", "tap", put("gone", "yes"))
    assert ("state-no-way-out" in kinds(document, layout, "states")) is told


# --- near a finding, and none ---------------------------------------------------------------------


@pytest.mark.parametrize(
    ("name", "value", "told"),
    [("scale", 1.05, False), ("fill", parse("#E0E0E0"), False), ("padding-left", 30.0, True)],
)
def test_a_hover_that_keeps_its_size_pushes_nothing(name, value, told, layout):
    label = text("t", "Sail", color="#14252B")
    made = component(label, axes=(pointer_axis(),), rules=[rule("hover", "root", name, value)])
    document = add_component(Document("d"), made)
    assert ("hover-pushes" in kinds(document, layout, "states")) is told


@pytest.mark.parametrize(
    ("more", "told"),
    [
        ((), True),
        (("root", "stroke-top", 3.0), False),
        (("mark", "shown", True), False),
        (("t", "font-weight", 700.0), False),
    ],
)
def test_an_error_that_more_than_a_color_tells_is_told(more, told, layout):
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    axis = Axis("bad", "Bad", values, "no", meaning="invalid")
    rules = [rule("yes", "root", "stroke", parse("#A11D1D"), "bad")]
    rules += [rule("yes", *more, "bad")] if more else []
    mark = shape("mark", "M0 0H24V24Z", fill="#A11D1D", width=12, height=12, shown=False)
    label = text("t", "Your name", color="#14252B")
    made = component(label, mark, axes=(axis,), rules=rules, stroke="#8FA3AA", line_width=1)
    document = add_component(Document("d"), made)
    assert ("error-by-color" in kinds(document, layout, "states")) is told


def test_a_link_that_the_focus_brings_is_seen(layout):
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    axis = Axis("focus", "Focus", values, "no", "focus")
    skip = component(
        text("t", "To the fares", color="#14252B"),
        axes=(axis,),
        rules=[rule("yes", "root", "opacity", 1.0, "focus")],
        role="link",
        opacity=0,
    )
    document = add_component(Document("d"), skip)
    assert "focus-unseen" not in kinds(document, layout, "states")
    bare = msgspec.structs.replace(skip, axes=(), rules=())
    assert "focus-unseen" in kinds(add_component(Document("d"), bare), layout, "states")


def test_a_timer_that_the_pointer_holds_takes_nothing_away(layout):
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    toast = component(
        text("t", "Ticket kept", color="#14252B"),
        axes=(Axis("gone", "Gone", values, "no"), pointer_axis()),
        rules=[rule("yes", "t", "shown", False, "gone")],
    )
    document = add_component(Document("d"), toast)
    wait = Trigger("delay", ms=4000.0)
    free = with_cue(document, "c", wait, put("gone", "yes"))
    assert "time-leaves" in kinds(free, layout, "states")
    held = with_cue(document, "c", wait, put("gone", "yes"), when={"state": "rest"})
    assert "time-leaves" not in kinds(held, layout, "states")


@pytest.mark.parametrize(
    ("label", "words", "told"),
    [
        ("Book a crossing", "Book", False),
        ("BOOK – a crossing", "book", False),
        ("Close", "×", False),
        ("Booking", "Book", True),
        ("Go on", "Book", True),
    ],
)
def test_a_spoken_name_has_the_words_that_are_seen(label, words, told, layout):
    made = component(text("t", words, color="#14252B"), role="button", label=label)
    document = add_component(Document("d"), made)
    assert ("label-in-name" in kinds(document, layout, "names")) is told


def test_tabs_in_a_list_at_any_depth_and_named_groups_are_left_alone(layout):
    tab = component(text("t", "Today", color="#14252B"), role="tab")
    document = add_component(Document("d"), tab)
    inside = box("row", box("inner", instance("one", "c"), instance("two", "c")))
    page = box("page", inside, fill="#FFFFFF")
    document = add_screen(document, Screen("s", "Page", page))
    assert "tab-without-list" in kinds(document, layout, "names")
    said = {"role": "tablist", "label": "Days"}
    listed = set_properties(document, Place("s", ("row",)), said)
    found = kinds(listed, layout, "names")
    assert "tab-without-list" not in found and "group-without-name" not in found
