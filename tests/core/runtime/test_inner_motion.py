"""A holder's rule that sets an axis of an inner part starts that part's own change; and parts whose
states are called as anybody likes."""

import msgspec
import pytest
from immutables import Map

from demo.drawing import box, instance
from outgrowth.core.document.axis_parts import pointer_parts
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Axis, AxisValue, Component, Document
from outgrowth.core.document.values import fixed
from outgrowth.core.edits.cues import set_led, set_motion
from outgrowth.core.edits.tree.components import add_axis, add_component
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.refusal import Refusal
from outgrowth.core.runtime.situation import Assignment
from tests.core.runtime.parts import part, screen, styled

FULL = {"open": "yes"}


SLOW, QUICK = Motion(1000.0, "linear"), Motion(160.0, "linear")


def tabs(own=SLOW, level="run"):
    """A ring that fills by itself in 1,000 ms, in a part that opens in 160 and sets it going."""
    ring = box("ring", box("bar", width=0, height=4))
    document = part(Document("Tabs"), "ring", ring, run=("no", "yes"))
    document = styled(document, "ring", ("bar",), {"run": "yes"}, width=fixed(100.0))
    if own is not None:
        axis, value = {"run": ("run", ""), "yes": ("run", "yes"), "all": ("", "")}[level]
        document = set_motion(document, "ring", axis, value, own)
    root = box("tab", box("head", width=20, height=20), instance("r", "ring"), flow="column")
    document = part(document, "tab", root, open=("no", "yes"))
    document = styled(document, "tab", ("head",), FULL, height=fixed(40.0))
    document = styled(document, "tab", ("r",), FULL, **{CHOICE + "run": "yes"})
    document = set_motion(document, "tab", "open", "", QUICK)
    return screen(document, "hall", instance("t", "tab"), flow="column")


def opened(run, document):
    return run(document, "hall")


def sizes(runtime):
    """The height of the head and the width of the bar, as they are seen."""
    found = {a.path: a.rect for a in locate(*runtime.view(), "")}
    return found["t", "head"].height, found["t", "r", "bar"].width


def set_open(runtime, value="yes"):
    situation = runtime._situation
    moves = situation.motion(("t",), "open", value)
    situation.apply((Assignment((("t",), "open"), value, moves),), {}, runtime.now)


@pytest.mark.parametrize("level", ["run", "yes", "all"])
def test_an_inner_part_moves_as_its_axis_its_value_or_its_component_says(run, level):
    runtime = opened(run, tabs(level=level))
    set_open(runtime)
    runtime.advance(80)
    assert sizes(runtime) == (30.0, 8.0)
    runtime.advance(420)
    assert sizes(runtime) == (40.0, 50.0)
    runtime.advance(500)
    assert sizes(runtime) == (40.0, 100.0) and not runtime.moving


def test_what_says_no_motion_of_its_own_goes_with_its_holder(run):
    runtime = opened(run, tabs(own=None))
    set_open(runtime)
    runtime.advance(80)
    assert sizes(runtime) == (30.0, 50.0)


def test_what_the_holder_leads_goes_with_it_and_again_by_itself(run):
    document = set_led(tabs(), "tab", ("r",), True)
    runtime = opened(run, document)
    set_open(runtime)
    runtime.advance(80)
    assert sizes(runtime) == (30.0, 50.0)
    again = set_led(document, "tab", ("r",), False)
    assert again.components["tab"].behaviour.leads == ()
    with pytest.raises(Refusal, match="Only an instance"):
        set_led(document, "tab", ("head",), True)


def test_turned_around_on_the_way_each_takes_over_what_is_left_of_its_own(run):
    runtime = opened(run, tabs())
    set_open(runtime)
    runtime.advance(500)
    before = sizes(runtime)
    set_open(runtime, "no")
    assert sizes(runtime) == before == (40.0, 50.0), "nothing jumps"
    runtime.advance(80)
    head, bar = sizes(runtime)
    assert head == pytest.approx(30.0) and bar == pytest.approx(46.0)


def test_what_is_hidden_when_it_changes_appears_as_it_should_be(run):
    document = styled(tabs(), "tab", ("r",), {"open": "no"}, shown=False)
    runtime = opened(run, document)
    set_open(runtime)
    assert sizes(runtime)[1] == 100.0, "it appears as it is, and plays nothing"


def test_three_deep_each_moves_as_it_says(run):
    document = tabs()
    root = box("outer", instance("i", "tab"), flow="column")
    document = part(document, "outer", root, on=("no", "yes"))
    document = styled(document, "outer", ("i",), {"on": "yes"}, **{CHOICE + "open": "yes"})
    document = set_motion(document, "outer", "on", "", Motion(400.0, "linear"))
    document = screen(document, "court", instance("o", "outer"), flow="column")
    runtime = run(document, "court")
    situation = runtime._situation
    step = Assignment((("o",), "on"), "yes", Motion(400.0, "linear"))
    situation.apply((step,), {}, runtime.now)
    runtime.advance(80)
    found = {a.path: a.rect for a in locate(*runtime.view(), "")}
    assert found["o", "i", "head"].height == 30.0, "the tab's own 160 ms"
    assert found["o", "i", "r", "bar"].width == 8.0, "the ring's own 1,000 ms"


# --- parts of the pointer's axis, by any name ---------------------------------------------------


def named(*pairs, start=0):
    """A button whose axis of the pointer has values of these names and parts."""
    values = tuple(AxisValue(f"v{n}", name, part=part) for n, (name, part) in enumerate(pairs))
    axis = Axis("look", "Look", values, f"v{start}", "pointer")
    document = add_component(Document("Named"), Component("b", "B", box("b", width=20, height=20)))
    document = add_axis(document, "b", axis)
    return screen(document, "hall", instance("one", "b"), flow="column"), axis


def look(runtime):
    return runtime.value("look", "one")


def test_hover_press_and_focus_are_heard_whatever_they_are_called(run):
    document, _ = named(("Ruhe", "rest"), ("Drauf", "hover"), ("Runter", "press"), ("Da", "focus"))
    runtime = run(document, "hall")
    assert look(runtime) == "v0"
    runtime.pointer_move(5, 5)
    assert look(runtime) == "v1"
    runtime.press(5, 5)
    assert look(runtime) == "v2"
    runtime.release(5, 5)
    runtime.pointer_leave()
    assert look(runtime) == "v3", "what was pressed has the focus"
    runtime.pointer_move(5, 5)
    assert look(runtime) == "v1", "what the pointer does comes first"


def test_what_only_cues_set_is_alive_and_what_is_disabled_is_not(run):
    for part_said, alive in (("cued", True), ("disabled", False)):
        document, _ = named(("A", "rest"), ("B", "hover"), ("C", part_said), ("F", "focus"))
        document = styled(document, "hall", ("one",), **{CHOICE + "look": "v2"})
        runtime = run(document, "hall")
        runtime.pointer_move(5, 5)
        assert look(runtime) == "v2", "the pointer has no say there"
        runtime.key("Tab")
        assert (runtime.focus == ("one",)) is alive


def test_an_axis_that_starts_with_another_rests_where_it_rests(run):
    document, _ = named(("A", "rest"), ("B", "hover"), start=1)
    runtime = run(document, "hall")
    assert look(runtime) == "v0", "what the pointer sets is not chosen"


def test_files_of_before_mean_what_they_meant():
    def axis(*ids, start=None):
        values = tuple(AxisValue(i, i.title()) for i in ids)
        return Axis("state", "State", values, start or ids[0], "pointer")

    assert dict(pointer_parts(axis("rest", "hover", "press", "disabled"))) == {
        "rest": "rest",
        "hover": "hover",
        "press": "press",
        "disabled": "disabled",
    }
    # What starts at no rest heard neither hover nor tap; now it starts at rest.
    assert dict(pointer_parts(axis("start", "hover"))) == {"start": "rest", "hover": "hover"}
    off = axis("disabled", "rest", "hover", start="disabled")
    assert pointer_parts(off)["disabled"] == "disabled"
    by_hand = msgspec.structs.replace(axis("rest", "hover"), driver="none")
    assert pointer_parts(by_hand) == Map()
