"""Ways from screen to screen: which part leads, by whose cue, and what can be come to."""

import msgspec
from hypothesis import given
from hypothesis import strategies as some

from demo.drawing import box, instance
from outgrowth.core.document.cues import Behaviour, Change, Cue, Silence, Trigger
from outgrowth.core.document.records import Component, Document, Screen
from outgrowth.core.document.ways import reached_from, shared_leaders, ways
from outgrowth.core.edits.tree.components import add_component, add_screen


def leading(cue_id, node, *ends):
    return Cue(cue_id, node, Trigger("tap"), tuple(Change("go", end) for end in ends))


def test_a_way_begins_at_the_part_that_leads_through_instances(ferry):
    found = ways(ferry)
    own = next(way for way in found if way.screen == "fares" and way.end == "booking")
    assert own.is_own and own.part == own.cue.node == ("fare-0", "buy")
    by_bar = next(way for way in found if way.screen == "fares" and way.end == "islands")
    assert by_bar.owner == "navigation" and not by_bar.is_own
    assert by_bar.part[-len(by_bar.cue.node) :] == by_bar.cue.node
    assert len(by_bar.part) > len(by_bar.cue.node)
    assert all(way.screen != way.end for way in found)


def test_a_component_that_leads_from_several_screens_is_known(ferry):
    shared = shared_leaders(ways(ferry))
    assert set(shared["navigation"]) == {"boarding", "fares", "islands", "calendar"}


def test_what_is_silent_on_a_screen_does_not_lead_from_it(ferry):
    screen = ferry.screens["fares"]
    way = next(w for w in ways(ferry) if w.screen == "fares" and w.owner == "navigation")
    place = way.part[: len(way.part) - len(way.cue.node)]
    behaviour = msgspec.structs.replace(screen.behaviour, silenced=(Silence(place, way.cue.id),))
    silent = msgspec.structs.replace(screen, behaviour=behaviour)
    document = msgspec.structs.replace(ferry, screens=ferry.screens.set("fares", silent))
    after = {(w.screen, w.cue.id) for w in ways(document)}
    assert ("fares", way.cue.id) not in after and ("islands", way.cue.id) in after


@some.composite
def webs(draw):
    """Screens with bars on some of them, all leading anywhere, to what is gone too."""
    count = draw(some.integers(1, 9))
    ends = some.sampled_from([f"s{n}" for n in range(count)] + ["gone"])
    document = Document("web")
    bars = draw(some.integers(0, 3))
    for n in range(bars):
        cues = [leading(f"b{n}-{m}", (), draw(ends)) for m in range(draw(some.integers(0, 3)))]
        inner = [instance(f"in-{n}", f"bar{n - 1}")] if n and draw(some.booleans()) else []
        root = box(f"root-{n}", *inner)
        bar = Component(f"bar{n}", f"Bar {n}", root, behaviour=Behaviour(cues=tuple(cues)))
        document = add_component(document, bar)
    for n in range(count):
        held = draw(some.lists(some.integers(0, max(bars - 1, 0)), max_size=2)) if bars else []
        inside = [instance(f"i{n}-{m}", f"bar{bar}") for m, bar in enumerate(held)]
        cues = [leading(f"c{n}-{m}", (), draw(ends)) for m in range(draw(some.integers(0, 3)))]
        screen = Screen(
            f"s{n}", f"Screen {n}", box(f"r{n}", *inside), behaviour=Behaviour(cues=tuple(cues))
        )
        document = add_screen(document, screen)
    return document


def leads(document, owner):
    """All that an owner and what stands in it lead to, the slow way."""
    found = set()
    for cue in owner.behaviour.cues:
        found |= {(owner.id, cue.id, change.name) for change in cue.changes}
    for node in owner.root.children:
        if node.kind == "instance":
            found |= leads(document, document.components[node.style["component"]])
    return found


@given(webs())
def test_every_way_is_found_once(document):
    found = ways(document)
    told = [(w.screen, w.owner, w.cue.id, w.end) for w in found]
    assert len(set(told)) == len(told)
    wanted = {
        (screen.id, owner, cue, end)
        for screen in document.screens_in_order()
        for owner, cue, end in leads(document, screen)
        if end in document.screens and end != screen.id
    }
    assert set(told) == wanted


@given(webs())
def test_what_is_reached_leads_only_to_what_is_reached(document):
    found = ways(document)
    reached = reached_from("s0", found)
    assert "s0" in reached
    for way in found:
        assert way.screen not in reached or way.end in reached
    for screen in reached - {"s0"}:
        assert any(w.end == screen and w.screen in reached for w in found)
