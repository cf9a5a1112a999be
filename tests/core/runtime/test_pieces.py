"""The runtime's pieces by themselves: where nodes are, what a change sets, what is driven."""

import pytest
from immutables import Map

from outgrowth.core.document.cues import HOLDER, Change, Cue, Trigger
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene_paths import all_instances, instances_in, line_to, scene_at
from outgrowth.core.runtime.changes import Shown, meant
from outgrowth.core.runtime.driven import Hand, driven
from outgrowth.core.runtime.keys import Group, enabled, stepped
from outgrowth.core.runtime.listening import Heard, Listening
from outgrowth.core.runtime.timers import refreshed
from outgrowth.core.text import Typesetter


@pytest.fixture(scope="module")
def booking(ferry, fonts):
    """The booking screen as it is at rest."""
    scene = Resolver().screen(ferry, ferry.screens["booking"], running=True)
    Layout(Typesetter(fonts)).place(scene.layout)
    return Shown(ferry, scene, {})


def test_nodes_are_found_through_boxes_and_instances(booking):
    scene = booking.scene
    line = [path for path, _ in line_to(scene, ("days", "tab-today", "ring"))]
    assert line == [
        (),
        ("days",),
        ("days", "row"),
        ("days", "tab-today"),
        ("days", "tab-today", "ring"),
    ]
    assert scene_at(scene, ("days", "gone")) is None
    seats = scene_at(scene, ("seats",))
    assert [path for path, _ in instances_in(seats, ())] == [(f"seat-{n}",) for n in range(3)]
    found = [path for path, _ in all_instances(scene)]
    assert found.index(("days",)) < found.index(("days", "tab-today"))
    assert ("seat-1",) in found


def test_a_change_means_the_owner_its_holder_or_a_part(booking):
    owner = ("days", "tab-today")
    assert meant(owner, Change("next", "quarter")) == owner
    assert meant(owner, Change("next", "day", at=(HOLDER,))) == ("days",)
    assert meant(("days",), Change("next", "quarter", at=("tab-today",))) == owner


@pytest.mark.parametrize(
    ("change", "found"),
    [
        (Change("set", "day", "weekend"), ((("days",), "day"), "weekend")),
        (Change("set", "Day", "Weekend"), ((("days",), "day"), "weekend")),
        (Change("next", "day"), ((("days",), "day"), "tomorrow")),
        (Change("set", "day", "never"), None),
        (Change("next", "gone"), None),
        (Change("give", "gone", 1.0), None),
        (Change("set", "chosen", "yes", ("gone",)), None),
    ],
)
def test_what_a_change_sets(booking, change, found):
    assert booking.changed(("days",), change, {}) == found


def test_the_next_value_counts_from_what_this_event_has_set(booking):
    states = {(("days",), "day"): "weekend"}
    assert booking.changed(("days",), Change("next", "day"), states)[1] == "today"


def test_a_box_that_allows_a_value_once_sets_the_others_back(booking):
    wanted = {(("seat-2",), "chosen"): "yes"}
    assert booking.one_at_a_time(wanted) == wanted | {(("seat-0",), "chosen"): "no"}
    off = {(("seat-0",), "chosen"): "no"}
    assert booking.one_at_a_time(off) == off


def test_everything_around_the_pointer_hovers_and_only_what_was_pressed_is_pressed(booking):
    tab = ("days", "tab-today")
    chain = ((), ("days",), tab)
    assert driven(booking, Hand(chain, None, None, False)) == {(tab, "state"): "hover"}
    assert driven(booking, Hand(chain, chain, None, False)) == {(tab, "state"): "press"}
    assert driven(booking, Hand(chain, chain, None, True)) == {(tab, "state"): "press"}
    assert driven(booking, Hand(chain, None, None, True)) == {}
    elsewhere = ((), ("done",))
    assert driven(booking, Hand(chain, elsewhere, None, False)) == {}
    assert driven(booking, Hand((), None, ("name",), False)) == {(("name",), "focus"): "focus"}


def test_a_timer_goes_on_in_its_state_and_starts_again_in_another(booking):
    cue = Cue("wait", (), Trigger("delay", ms=500.0), (Change("next", "day"),))
    heard = Heard(("days",), cue, 0)
    first = refreshed({}, [heard], booking, 100.0)
    assert [timer.due for timer in first.values()] == [600.0]
    assert refreshed(first, [heard], booking, 300.0) == first
    assert refreshed(first, [], booking, 300.0) == {}
    states = {(("days",), "day"): "tomorrow"}
    live = ((("days",), "day", "tomorrow"),)
    moved = Resolver().screen(booking.document, booking.document.screens["booking"], live, True)
    again = refreshed(first, [heard], Shown(booking.document, moved, states), 300.0)
    assert [timer.due for timer in again.values()] == [800.0]


def test_who_listens_at_a_node(ferry, booking):
    listening = Listening(ferry, ferry.screens["booking"])
    heard = listening.at(booking.scene, ("days", "tab-weekend"), "tap")
    assert [(h.owner, h.cue.changes[0].value) for h in heard] == [(("days",), "weekend")]
    assert listening.at(booking.scene, ("done",), "tap")[0].owner == ()
    assert listening.at(booking.scene, ("done",), "enter") == []
    timed = {(h.owner, h.cue.trigger.kind) for h in listening.timed(booking.scene)}
    assert (("days",), "delay") in timed
    assert (("days", "tab-today"), "appear") in timed
    assert (("days", "tab-today"), "selected") in listening.watched(booking.scene)


def test_enabled_is_read_from_the_axes(ferry):
    resolver = Resolver()
    for component, variant, answer in (
        ("checkbox", Map(enabled="no"), False),
        ("checkbox", Map(enabled="yes"), True),
        ("button", Map(state="disabled"), False),
        ("button", Map(state="hover"), True),
    ):
        scene = resolver.variant(ferry, component, variant)
        assert enabled(ferry.components[component], scene) is answer


def test_steps_in_a_group_lead_around_its_ends():
    tabs = Group("tablist", [("a",), ("b",), ("c",)])
    assert stepped(tabs, ("c",), "ArrowRight") == ("a",)
    assert stepped(tabs, ("a",), "ArrowUp") is None
    assert stepped(tabs, ("a",), "End") == ("c",)
    assert stepped(Group("radiogroup", tabs.members), ("a",), "ArrowUp") == ("c",)
    assert stepped(Group("radiogroup", tabs.members), ("a",), "Home") is None
