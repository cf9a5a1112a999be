"""Every trigger, change and condition of a cue, on small parts made for it."""

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from immutables import Map

from demo.behaviours import put, turned, with_cue
from demo.drawing import box, instance, text
from outgrowth.core.document.cues import HOLDER, TRIGGER_ROWS, Change, Cue, Motion, Trigger
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Screen,
)
from outgrowth.core.document.values import FromProperty, Once, plain, words
from outgrowth.core.edits.cues import add_cue, silence
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_component, add_property, add_screen
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.dispatch import MOST_ROUNDS
from outgrowth.core.text import Typesetter

NO_YES = (AxisValue("no", "no"), AxisValue("yes", "yes"))


def lamp():
    """A lamp with a switch in it, both of which can be on; no cues yet."""
    knob = box("knob", text("says", FromProperty("says")), width=40, height=20)
    document = add_component(Document("Lamps"), Component("knob", "Knob", knob))
    document = add_axis(document, "knob", Axis("down", "Down", NO_YES, "no"))
    says = ComponentProperty("says", "Says", "text", words("off"))
    document = add_property(document, "knob", says)
    root = box("lamp", instance("switch", "knob"), box("shade", width=40, height=20), flow="column")
    document = add_component(document, Component("lamp", "Lamp", root))
    document = add_axis(document, "lamp", Axis("lit", "Lit", NO_YES, "no"))
    levels = tuple(AxisValue(name, name) for name in ("low", "middle", "high"))
    return add_axis(document, "lamp", Axis("level", "Level", levels, "low"))


def with_room(document, count=1, **style):
    """A screen with so many lamps, one below the other."""
    lamps = [instance(f"lamp-{n}", "lamp") for n in range(count)]
    root = box("room", *lamps, flow="column", gap=10, width=200, height=300, **style)
    return add_screen(document, Screen("room", "Room", root))


SHADE = ("shade",)
DOWN, UP = ("press", 20, 30), ("release", 20, 30)
PLAYED = {
    "tap": (Trigger("tap"), SHADE, [DOWN, UP]),
    "press": (Trigger("press"), SHADE, [DOWN]),
    "release": (Trigger("release"), SHADE, [DOWN, ("release", 300, 300)]),
    "enter": (Trigger("enter"), SHADE, [("pointer_move", 20, 30)]),
    "leave": (Trigger("leave"), SHADE, [("pointer_move", 20, 30), ("pointer_move", 20, 10)]),
    "long-press": (Trigger("long-press"), SHADE, [DOWN, ("advance", 500)]),
    "focus": (Trigger("focus"), ("switch",), [("key", "Tab")]),
    "blur": (Trigger("blur"), ("switch",), [("key", "Tab"), ("drop_focus",)]),
    "key": (Trigger("key", key="F2"), (), [("key", "F2")]),
    "appear": (Trigger("appear"), SHADE, []),
    "delay": (Trigger("delay", ms=300), SHADE, [("advance", 300)]),
    "became": (
        Trigger("became", axis="down", value="yes"),
        ("switch",),
        [("press", 20, 10)],
    ),
}
"""By trigger: a cue's trigger and its place in the lamp, and what brings it about."""


def test_every_trigger_of_the_table_is_played_here():
    assert set(PLAYED) == set(TRIGGER_ROWS), "let core/runtime hear it, and play it here"


@pytest.mark.parametrize("kind", PLAYED)
def test_a_trigger_triggers_its_cue_by_its_last_act(run, kind):
    trigger, node, acts = PLAYED[kind]
    document = with_cue(lamp(), "knob", "press", turned("down"))
    document = with_cue(document, "lamp", trigger, turned("lit"), node=node)
    runtime = run(document, "lamp", True)
    for name, *at in acts:
        assert runtime.value("lit") == "no", "not before the last act"
        getattr(runtime, name)(*at)
    assert runtime.value("lit") == "yes"


def test_a_press_that_comes_back_is_a_tap_and_one_released_outside_is_none(run):
    document = with_cue(lamp(), "lamp", "tap", turned("lit"), node=("shade",))
    runtime = run(document, "lamp", True)
    runtime.press(20, 30)
    runtime.release(200, 200)
    assert runtime.value("lit") == "no"
    runtime.press(20, 30)
    runtime.pointer_move(200, 200)
    runtime.pointer_move(21, 31)
    runtime.release(21, 31)
    assert runtime.value("lit") == "yes"


def test_a_long_press_is_no_tap_besides(run):
    document = with_cue(lamp(), "lamp", "tap", turned("lit"), node=("shade",))
    document = with_cue(document, "lamp", "long-press", turned("level"), node=("shade",))
    runtime = run(document, "lamp", True)
    runtime.press(20, 30)
    runtime.advance(600)
    runtime.release(20, 30)
    assert (runtime.value("lit"), runtime.value("level")) == ("no", "middle")


def test_several_changes_go_together_and_the_next_value_wraps(run):
    document = with_cue(lamp(), "lamp", "tap", turned("level"), put("lit", "yes"))
    runtime = run(document, "lamp", True)
    seen = []
    for _ in range(4):
        runtime.tap("shade")
        seen.append(runtime.value("level"))
    assert seen == ["middle", "high", "low", "middle"]
    assert runtime.value("lit") == "yes"


def test_conditions_must_hold(run):
    document = with_cue(lamp(), "lamp", "tap", turned("level"), when={"lit": "yes"})
    runtime = run(document, "lamp", True)
    runtime.tap("shade")
    assert runtime.value("level") == "low"
    runtime = run(document, "lamp", True, variant=Map(lit="yes", level="low"))
    runtime.tap("shade")
    assert runtime.value("level") == "middle"


def test_an_inner_part_tells_its_holder_and_a_holder_sets_its_inner_part(run):
    document = with_cue(lamp(), "knob", "tap", turned("down"))
    become = Trigger("became", axis="down", value="yes")
    document = with_cue(document, "lamp", become, put("lit", "yes"), node=("switch",))
    document = with_cue(document, "lamp", "tap", put("down", "no", ("switch",)), node=("shade",))
    runtime = run(with_room(document), "room")
    runtime.tap("lamp-0", "switch")
    assert runtime.value("down", "lamp-0", "switch") == "yes"
    assert runtime.value("lit", "lamp-0") == "yes"
    runtime.tap("lamp-0", "shade")
    assert runtime.value("down", "lamp-0", "switch") == "no"


def test_an_inner_part_names_its_holders_axis_itself(run):
    change = Change("set", "Lit", "yes", (HOLDER,))
    document = with_cue(lamp(), "knob", "tap", change)
    runtime = run(with_room(document), "room")
    runtime.tap("lamp-0", "switch")
    assert runtime.value("lit", "lamp-0") == "yes"


def test_a_property_is_given(run):
    give = Change("give", "says", words("on"))
    document = with_cue(lamp(), "knob", "tap", give)
    runtime = run(document, "knob", True)
    runtime.press(5, 5)
    runtime.release(5, 5)
    assert plain(runtime.node("says").layout.style.content) == "on"


def test_of_two_that_disagree_the_innermost_owner_and_then_the_first_counts(run):
    document = with_cue(lamp(), "lamp", "tap", put("level", "high"), node=("switch",))
    document = with_cue(document, "lamp", "tap", put("level", "middle"), node=("switch",))
    runtime = run(document, "lamp", True)
    runtime.tap("switch")
    assert runtime.value("level") == "high"
    document = with_cue(document, "knob", "tap", Change("set", "Level", "low", (HOLDER,)))
    runtime = run(with_room(document), "room")
    runtime.tap("lamp-0", "switch")
    assert runtime.value("level", "lamp-0") == "low"


def test_a_tap_stops_at_the_innermost_that_listens(run):
    document = with_cue(lamp(), "lamp", "tap", turned("lit"))
    document = with_cue(document, "knob", "tap", turned("down"))
    runtime = run(document, "lamp", True)
    runtime.tap("switch")
    assert (runtime.value("lit"), runtime.value("down", "switch")) == ("no", "yes")
    runtime.tap("shade")
    assert runtime.value("lit") == "yes"


def test_an_instance_adds_a_cue_of_its_own_and_silences_one(run):
    document = with_room(with_cue(lamp(), "lamp", "tap", turned("lit"), node=("shade",)), 2)
    own = Cue("own", ("lamp-0", "shade"), Trigger("tap"), (put("level", "high", ("lamp-0",)),))
    document = add_cue(document, "room", own)
    document = silence(document, "room", ("lamp-1",), "lamp-cue-1", True)
    runtime = run(document, "room")
    for n in (0, 1):
        runtime.tap(f"lamp-{n}", "shade")
    assert [runtime.value("lit", f"lamp-{n}") for n in (0, 1)] == ["yes", "no"]
    assert [runtime.value("level", f"lamp-{n}") for n in (0, 1)] == ["high", "low"]


def test_one_at_a_time(run):
    document = with_cue(lamp(), "lamp", "tap", turned("lit"), node=("shade",))
    runtime = run(with_room(document, 3, one_at_a_time=(Once("lit", "yes"),)), "room")
    for n in (0, 2, 1):
        runtime.tap(f"lamp-{n}", "shade")
        lit = [runtime.value("lit", f"lamp-{m}") == "yes" for m in range(3)]
        assert lit == [m == n for m in range(3)]


def test_a_timer_starts_when_its_state_is_entered_and_stops_when_it_is_left(run):
    wait = Trigger("delay", ms=1000)
    document = with_cue(lamp(), "lamp", "tap", turned("lit"), node=("shade",))
    document = with_cue(document, "lamp", wait, turned("level"), when={"lit": "yes"})
    runtime = run(document, "lamp", True)
    runtime.advance(5000)
    assert runtime.value("level") == "low", "not lit yet"
    runtime.tap("shade")
    runtime.advance(999)
    assert runtime.value("level") == "low"
    runtime.advance(1)
    assert runtime.value("level") == "middle"
    runtime.advance(500)
    runtime.tap("shade")
    runtime.advance(5000)
    assert runtime.value("level") == "middle", "left before its time"
    runtime.tap("shade")
    runtime.advance(1000)
    assert runtime.value("level") == "high", "entered again, it starts again"


def test_appear_comes_at_the_start_and_whenever_something_comes_into_sight(run):
    document = with_cue(lamp(), "knob", "appear", turned("down"))
    document = set_properties(
        document, Place("lamp", ("switch",)), {"shown": False}, Map(lit="yes")
    )
    document = with_cue(document, "lamp", "tap", turned("lit"), node=("shade",))
    runtime = run(document, "lamp", True)
    assert runtime.value("down", "switch") == "yes"
    runtime.tap("shade")
    runtime.advance(1000)
    runtime.tap("shade")
    assert runtime.value("down", "switch") == "no", "appeared again, turned again"


def test_a_loop_is_cut_and_told_where(run):
    there = Trigger("became", axis="lit", value="yes")
    back = Trigger("became", axis="lit", value="no")
    document = with_cue(lamp(), "lamp", there, put("lit", "no"))
    document = with_cue(document, "lamp", back, put("lit", "yes"))
    document = with_cue(document, "lamp", "tap", turned("lit"), node=("shade",))
    runtime = run(document, "lamp", True)
    runtime.tap("shade")
    assert len(runtime.problems) == 1
    assert "round in a circle" in runtime.problems[0]
    assert MOST_ROUNDS >= 50
    runtime.advance(10)
    assert runtime.value("lit") in ("no", "yes")


def test_a_timer_of_no_time_is_cut_too(run):
    document = with_cue(lamp(), "lamp", Trigger("delay", ms=0), turned("level"))
    runtime = run(document, "lamp", True)
    runtime.advance(10)
    assert runtime.problems


def test_screens_are_left_and_come_back_as_they_were(run, ferry):
    runtime = run(ferry, "fares")
    runtime.tap("quiet")
    was = runtime.value("on", "quiet")
    runtime.tap("fare-0", "buy")
    assert runtime.shown_owner == "booking"
    assert "~screen" in runtime.view().scene.ids, "the old screen fades away"
    runtime.advance(1000)
    assert "~screen" not in runtime.view().scene.ids
    runtime.tap("header", "back")
    assert runtime.shown_owner == "fares"
    assert runtime.value("on", "quiet") == was
    runtime.tap("header", "back")
    assert runtime.shown_owner == "fares", "there is nothing before the first"


def test_on_touch_nothing_hovers(run, ferry):
    runtime = run(ferry, "button", True)
    runtime.runtime.touch = True
    runtime.pointer_move(10, 10)
    assert runtime.value("state") == "rest"
    runtime.press(10, 10)
    assert runtime.value("state") == "press"
    runtime.release(10, 10)
    assert runtime.value("state") == "rest"


def test_a_covered_part_gets_nothing(run):
    document = with_cue(lamp(), "lamp", "tap", turned("lit"), node=("shade",))
    cover = box("cover", floating=True, pins="both", x=0, y=0)
    document = with_room(document)
    room = document.screens["room"]
    root = msgspec.structs.replace(room.root, children=(*room.root.children, cover))
    covered = msgspec.structs.replace(room, root=root)
    document = msgspec.structs.replace(document, screens=document.screens.set("room", covered))
    runtime = run(document, "room")
    runtime.tap("lamp-0", "shade")
    assert runtime.value("lit", "lamp-0") == "no"
    document = set_properties(document, Place("room", ("cover",)), {"click-through": True})
    runtime = run(document, "room")
    runtime.tap("lamp-0", "shade")
    assert runtime.value("lit", "lamp-0") == "yes"


def test_a_click_through_label_lets_its_checkbox_have_the_tap(run, ferry):
    runtime = run(ferry, "booking")
    runtime.tap("bicycle", "label")
    assert runtime.value("checked", "bicycle") == "on"


def test_what_is_not_enabled_takes_no_tap_and_no_focus(run, ferry):
    runtime = run(ferry, "checkbox", True, variant=Map(checked="off", enabled="no"))
    runtime.press(8, 8)
    runtime.release(8, 8)
    runtime.key("Tab")
    assert (runtime.value("checked"), runtime.focus) == ("off", None)


def test_reduced_motion_cuts_every_change(run, ferry):
    runtime = run(ferry, "help")
    runtime.runtime.reduced_motion = True
    runtime.tap("notice-1", "head")
    assert not runtime.moving
    assert runtime.value("open", "notice-1") == "yes"


def test_a_cues_motion_comes_before_the_axis(run):
    slow = Motion(900.0, "linear")
    document = with_cue(lamp(), "lamp", "tap", turned("lit"), node=("shade",), motion=slow)
    document = set_properties(document, Place("lamp", ("shade",)), {"opacity": 0.0}, Map(lit="yes"))
    runtime = run(document, "lamp", True)
    runtime.tap("shade")
    runtime.advance(450)
    assert runtime.node("shade").paint.opacity == pytest.approx(0.5)


@given(st.lists(st.integers(1, 900), min_size=1, max_size=9))
def test_time_in_any_pieces_gives_the_same_states(ferry, fonts, pieces):
    stages = Resolver(), Layout(Typesetter(fonts))
    found = []
    for steps in ([sum(pieces)], pieces):
        runtime = Runtime(*stages, ferry, Subject("booking"))
        for step in steps:
            runtime.advance(step)
        found.append((dict(runtime.states), runtime.now, runtime.moving))
    assert found[0] == found[1]
