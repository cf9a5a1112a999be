"""The runtime's pieces by themselves: where nodes are, what a change sets, what is driven, when
time has come, where the pointer is."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from immutables import Map

from outgrowth.core.document.cues import HOLDER, Change, Cue, Trigger
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene_paths import (
    all_instances,
    instances_in,
    instances_that_differ,
    line_to,
    positions_of,
    scene_at,
)
from outgrowth.core.runtime import Subject
from outgrowth.core.runtime.clock import Clock, Timers
from outgrowth.core.runtime.dispatch import Dispatch
from outgrowth.core.runtime.focus import Focus, FocusGroup, is_enabled, stepped
from outgrowth.core.runtime.interaction_states import PointerState, interaction_states
from outgrowth.core.runtime.listening import Heard, meant
from outgrowth.core.runtime.navigation import Navigation
from outgrowth.core.runtime.pointer import Pointer
from outgrowth.core.runtime.rounds import Round
from outgrowth.core.runtime.situation import Assignment, Situation
from outgrowth.core.text import Typesetter


@pytest.fixture
def booking(ferry, fonts):
    """The booking screen as it is at rest."""
    return Situation(Resolver(), Layout(Typesetter(fonts)), ferry, Subject("booking"))


def heard(owner, *changes, ms=0.0, when=None):
    trigger = Trigger("delay", ms=ms)
    return Heard(owner, Cue("cue", (), trigger, changes, Map(when or {})), 0)


def assigned(situation, owner, *changes):
    """What one cue of these changes sets."""
    acting = Round(situation)
    acting.collect(heard(owner, *changes))
    return {key: each.value for key, each in acting.assignments.items()}


def put(situation, *assignments, driven=None):
    motion = situation.document.motion
    steps = [Assignment(key, value, motion) for key, value in assignments]
    return situation.apply(steps, driven or {}, 0.0)


def test_nodes_are_found_through_boxes_and_instances(booking):
    scene = booking.target
    line = [path for path, _ in line_to(scene, ("days", "tab-today", "ring"))]
    assert line == [
        (),
        ("days",),
        ("days", "row"),
        ("days", "tab-today"),
        ("days", "tab-today", "ring"),
    ]
    assert scene_at(scene, ("days", "gone")) is None
    assert positions_of(scene, ("days", "gone")) is None
    node = scene
    for n in positions_of(scene, ("days", "tab-today", "ring")):
        node = node.children[n]
    assert node is line_to(scene, ("days", "tab-today", "ring"))[-1][1]
    seats = scene_at(scene, ("seats",))
    assert [path for path, _ in instances_in(seats, ())] == [(f"seat-{n}",) for n in range(3)]
    found = [path for path, _ in all_instances(scene)]
    assert found.index(("days",)) < found.index(("days", "tab-today"))
    assert ("seat-1",) in found


def test_instances_that_differ_are_those_that_changed_and_all_around_them(booking):
    before = booking.target
    assert list(instances_that_differ(before, before)) == []
    put(booking, ((("seat-2",), "chosen"), "yes"))
    found = {path for path, _, _ in instances_that_differ(before, booking.target)}
    assert found == {(), ("seat-2",)}
    everything = {path for path, _, _ in instances_that_differ(None, before)}
    assert everything == {(), *(path for path, _ in all_instances(before))}


def test_a_change_means_the_owner_its_holder_or_a_part():
    owner = ("days", "tab-today")
    assert meant(owner, ()) == owner
    assert meant(owner, (HOLDER,)) == ("days",)
    assert meant(("days",), ("tab-today",)) == owner


@pytest.mark.parametrize(
    ("change", "found"),
    [
        (Change("set", "day", "weekend"), {(("days",), "day"): "weekend"}),
        (Change("set", "Day", "Weekend"), {(("days",), "day"): "weekend"}),
        (Change("next", "day"), {(("days",), "day"): "tomorrow"}),
        (Change("set", "day", "never"), {}),
        (Change("next", "gone"), {}),
        (Change("give", "gone", 1.0), {}),
        (Change("set", "chosen", "yes", ("gone",)), {}),
    ],
)
def test_what_a_change_sets(booking, change, found):
    assert assigned(booking, ("days",), change) == found


def test_of_two_changes_of_one_round_the_first_counts(booking):
    both = Change("set", "day", "weekend"), Change("set", "day", "tomorrow")
    assert assigned(booking, ("days",), *both) == {(("days",), "day"): "weekend"}


def test_a_box_that_allows_a_value_once_sets_the_others_back(booking):
    second = Change("set", "chosen", "yes", ("seat-2",))
    set_back = {(("seat-2",), "chosen"): "yes", (("seat-0",), "chosen"): "no"}
    assert assigned(booking, (), second) == set_back
    off = Change("set", "chosen", "no", ("seat-0",))
    assert assigned(booking, (), off) == {(("seat-0",), "chosen"): "no"}
    third = Change("set", "chosen", "yes", ("seat-1",))
    assert assigned(booking, (), second, third) == set_back, "the second of two has no effect"


def test_everything_around_the_pointer_hovers_and_only_what_was_pressed_is_pressed(booking):
    tab = ("days", "tab-today")
    chain = ((), ("days",), tab)
    hover, press = {(tab, "state"): "hover"}, {(tab, "state"): "press"}
    assert interaction_states(booking, PointerState(chain, None, None, False)) == hover
    assert interaction_states(booking, PointerState(chain, chain, None, False)) == press
    assert interaction_states(booking, PointerState(chain, chain, None, True)) == press
    assert interaction_states(booking, PointerState(chain, None, None, True)) == {}
    elsewhere = ((), ("done",))
    assert interaction_states(booking, PointerState(chain, elsewhere, None, False)) == {}
    named = interaction_states(booking, PointerState((), None, ("name",), False))
    assert named == {(("name",), "focus"): "focus"}


@given(st.floats(0.001, 5_000.0), st.integers(1, 400))
def test_time_adds_up_however_it_is_cut(whole, pieces):
    clock = Clock()
    for _ in range(pieces):
        clock.advance(whole / pieces)
    assert clock.now == pytest.approx(round(whole, 6), abs=1.5e-6)


@pytest.mark.parametrize("pieces", [3, 7, 9, 11, 13, 97, 333])
def test_a_whole_time_is_met_to_the_last_digit(pieces):
    clock = Clock()
    for _ in range(pieces):
        clock.advance(3000 / pieces)
    assert clock.now == 3000.0


def test_a_timer_goes_on_in_its_state_and_starts_again_in_another(booking):
    timers, owner = Timers(booking), ("days",)
    wait = heard(owner, Change("next", "day"), ms=500.0)
    timers.refresh([wait], owner, 100.0)
    assert timers.next_due == 600.0
    timers.refresh([wait], owner, 300.0)
    assert timers.next_due == 600.0, "in the same state it goes on"
    put(booking, ((owner, "day"), "tomorrow"))
    timers.refresh([wait], owner, 300.0)
    assert timers.next_due == 800.0
    assert timers.ring(799.0) == []
    assert timers.ring(800.0) == [wait]
    assert (timers.next_due, timers.due(9000.0)) == (math.inf, [])
    timers.refresh([], owner, 900.0)
    timers.refresh([wait], owner, 900.0)
    assert timers.next_due == 1400.0, "left and entered again"
    timers.keep(set())
    assert timers.next_due == math.inf


def test_timers_of_one_instant_come_innermost_first(booking):
    timers, inner, outer = Timers(booking), ("days", "tab-today"), ("days",)
    for owner in (outer, inner):
        timers.refresh([heard(owner, Change("next", "day"), ms=5.0)], owner, 0.0)
    assert [timer.heard.owner for timer in timers.due(5.0)] == [inner, outer]


def test_the_pointer_sees_what_is_enabled_and_lets_go_of_what_is_not(booking):
    pointer = Pointer(booking)
    target = booking.movement.target
    x = y = 0.0
    node, placed = target
    for n in positions_of(node, ("done",)):
        x, y = x + placed.xs[n], y + placed.ys[n]
        node, placed = node.children[n], placed.children[n]
    pointer.press(x + placed.width / 2, y + placed.height / 2, 0.0)
    assert ("done",) in pointer.chain
    assert pointer.pressed == pointer.chain
    assert pointer.long_due == 500.0
    put(booking, ((("done",), "state"), "disabled"))
    pointer.keep_alive()
    assert ("done",) not in pointer.chain
    assert ("done",) not in pointer.pressed
    assert pointer.long_due == math.inf
    assert pointer.release(-9.0, -9.0, 0.0)[1] == ()


def test_screens_are_come_back_to_as_they_were_left(booking):
    navigation = Navigation(booking, Subject("booking"))
    motion = booking.document.motion
    assert not navigation.travel(Change("back"), motion, 0.0)
    put(booking, ((("quiet",), "on"), "yes"))
    assert navigation.travel(Change("go", "help"), motion, 0.0)
    assert (booking.subject.owner, booking.chosen) == ("help", {})
    assert navigation.travel(Change("back"), motion, 0.0)
    assert booking.chosen == {(("quiet",), "on"): "yes"}


def test_rounds_are_performed_in_the_order_in_which_they_were_sent(booking):
    done = []
    dispatch = Dispatch(booking, [], lambda acting: done.append(list(acting.assignments)), None)
    first = heard(("days",), Change("next", "day"))
    second = heard(("quiet",), Change("next", "on"))
    dispatch.send([first])
    dispatch.send([second, first])
    dispatch.run()
    assert done == [[(("days",), "day")], [(("quiet",), "on"), (("days",), "day")]]


def test_the_last_of_the_steps_is_what_is_shown(booking):
    """What is chosen of an axis that is driven meanwhile comes to sight when it no longer is."""
    key = ("done",), "state"
    put(booking, driven={key: "hover"})
    put(booking, (key, "press"), driven={key: "hover"})
    assert booking.value(*key) == "hover"
    put(booking)
    assert booking.value(*key) == "press"
    assert booking.target is booking.lay_out(booking.states).scene


def test_who_listens_at_a_node(booking):
    listening = booking.listening
    listens = listening.cues_at(("days", "tab-weekend"), "tap")
    found = [(h.owner, h.cue.changes[0].value) for h in listens]
    inner = ("days", "tab-weekend"), "start"
    assert found == [inner, (("days",), "weekend")], "the innermost owner's first"
    assert listening.cues_at(("done",), "tap")[0].owner == ()
    assert listening.cues_at(("done",), "enter") == []
    assert [h.owner for h in listening.own(("days",), "delay")] == [("days",)]
    assert listening.own(("days", "tab-today"), "appear")
    assert listening.cues_at(("days", "tab-today"), "became")


def test_enabled_is_read_from_the_axes(ferry):
    resolver = Resolver()
    for component, variant, answer in (
        ("checkbox", Map(enabled="no"), False),
        ("checkbox", Map(enabled="yes"), True),
        ("button", Map(state="disabled"), False),
        ("button", Map(state="hover"), True),
    ):
        scene = resolver.variant(ferry, component, variant)
        assert is_enabled(ferry.components[component], scene) is answer


def test_steps_in_a_group_lead_around_its_ends():
    tabs = FocusGroup("tablist", [("a",), ("b",), ("c",)])
    assert stepped(tabs, ("c",), "ArrowRight") == ("a",)
    assert stepped(tabs, ("a",), "ArrowUp") is None
    assert stepped(tabs, ("a",), "End") == ("c",)
    down = FocusGroup("tablist", tabs.members, down=True)
    assert stepped(down, ("a",), "ArrowDown") == ("b",)
    assert stepped(down, ("a",), "ArrowRight") is None
    mirrored = FocusGroup("tablist", tabs.members, mirrored=True)
    assert stepped(mirrored, ("a",), "ArrowLeft") == ("b",)
    assert stepped(FocusGroup("radiogroup", tabs.members), ("a",), "ArrowUp") == ("c",)
    assert stepped(FocusGroup("radiogroup", tabs.members), ("a",), "Home") is None


def test_the_order_of_focus_is_that_of_reading(booking):
    focus = Focus(booking)
    stops = focus.stops()
    assert stops.index(("header", "back")) == 0
    assert [path for path in stops if path[0].startswith("seat")] == [("seat-0",)]
    assert focus.next(1) == stops[0]
    focus.path = stops[-1]
    assert focus.next(1) == stops[0]
    assert focus.leaves(1)
    assert not focus.leaves(-1)
    group = focus.group_of(("seat-0",))
    assert group.members == [("seat-0",), ("seat-1",), ("seat-2",)]
    assert focus.group_of(("done",)) is None
