"""Whole screens running: many parts, nested ones, what is edited meanwhile."""

import msgspec
import pytest
from immutables import Map

from outgrowth.core.document.values import fixed
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.nodes import remove_node
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint import draw, record
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject, hit, scene_at
from outgrowth.core.text import Typesetter

BUY = ("fare-0", "buy")


@pytest.fixture
def run(ferry, fonts):
    def made(owner="fares", document=ferry):
        return Runtime(Resolver(), Layout(Typesetter(fonts)), document, Subject(owner))

    return made


def middle(runtime, path):
    view = runtime.view()
    return next(a for a in locate(*view, "") if a.path == path).rect.center


def test_a_button_inside_a_card_is_hovered_through_it(run):
    runtime = run()
    runtime.pointer_move(*middle(runtime, BUY))
    assert runtime.states == {(BUY, "state"): "hover"}
    runtime.press(*middle(runtime, BUY))
    assert runtime.states == {(BUY, "state"): "press"}


def test_from_one_part_to_the_next_both_move_at_once(run):
    runtime = run()
    one, two = ("chip-0",), ("chip-1",)
    fills = [scene_at(runtime.view().scene, p).paint.fill for p in (one, two)]
    runtime.pointer_move(*middle(runtime, one))
    runtime.advance(160)
    hovered = scene_at(runtime.view().scene, one).paint.fill
    runtime.pointer_move(*middle(runtime, two))
    runtime.advance(60)
    now = [scene_at(runtime.view().scene, p).paint.fill for p in (one, two)]
    assert now[0] not in (fills[0], hovered), "on its way back"
    assert now[1] != fills[1], "on its way in"
    runtime.advance(200)
    assert scene_at(runtime.view().scene, one).paint.fill == fills[0]
    assert set(runtime.states) == {(two, "state")}


def test_the_same_script_twice_gives_the_same_pictures(run):
    def played():
        runtime = run("boarding")
        pictures = []
        for path in (("board",), ("wait",), ("back",), ("hold-10-15",)):
            runtime.pointer_move(*middle(runtime, path))
            runtime.advance(37)
            runtime.press(*middle(runtime, path))
            runtime.advance(90)
            pictures.append(record(draw(*runtime.view())))
            runtime.release(*middle(runtime, path))
        return pictures

    first, second = played(), played()
    assert [[(d.to_root, d.opacity) for d in p] for p in first] == [
        [(d.to_root, d.opacity) for d in p] for p in second
    ]


def test_a_part_that_is_removed_while_hovered_leaves_no_trace(run, ferry):
    runtime = run("boarding")
    runtime.pointer_move(*middle(runtime, ("wait",)))
    runtime.advance(50)
    assert runtime.states
    runtime.update(remove_node(ferry, "boarding", "wait"))
    assert all(path != ("wait",) for path, _ in runtime.states)
    runtime.advance(500)
    assert not runtime.moving


def test_an_axis_that_goes_takes_its_state_along(run, ferry):
    runtime = run("boarding")
    runtime.pointer_move(*middle(runtime, ("board",)))
    button = ferry.components["button"]
    stateless = msgspec.structs.replace(button, axes=button.axes[:1], rules=())
    components = ferry.components.set("button", stateless)
    runtime.update(msgspec.structs.replace(ferry, components=components))
    assert not runtime.states


def test_a_hover_that_widens_moves_what_comes_after_and_comes_to_rest(run, ferry):
    wide = set_properties(ferry, Place("chip"), {"width": fixed(160.0)}, Map(state="hover"))
    runtime = run(document=wide)
    start = middle(runtime, ("chip-1",))[0]
    runtime.pointer_move(*middle(runtime, ("chip-0",)))
    seen = []
    for _ in range(8):
        runtime.advance(20)
        seen.append(middle(runtime, ("chip-1",))[0])
    assert seen == sorted(seen)
    assert start < seen[0] < seen[-1]
    assert not runtime.moving


def test_a_restart_is_at_rest_at_once(run):
    runtime = run()
    before = record(draw(*runtime.view()))
    runtime.press(*middle(runtime, BUY))
    runtime.advance(80)
    runtime.restart()
    assert record(draw(*runtime.view())) == before
    assert not runtime.moving


def test_hits_name_the_node_and_all_instances_around_it(run):
    view = run().view()
    x, y = middle(run(), (*BUY, "label"))
    found = hit(view.scene, view.placed, x, y)
    assert found.path == (*BUY, "label")
    assert found.instances == (("fare-0",), BUY)
    assert hit(view.scene, view.placed, -5, -5) is None


def test_clipped_parts_are_not_hit_outside(ferry, run):
    place = Place("fares", ("days",))
    clipped = set_properties(ferry, place, {"clip": True, "width": fixed(40.0)})
    runtime = run(document=clipped)
    runtime.pointer_move(*middle(runtime, ("chip-2",)))
    assert not runtime.states
