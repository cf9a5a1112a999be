import pytest
from hypothesis import given
from hypothesis import strategies as st
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.records import Motion
from outgrowth.core.document.values import fixed
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.easing import easing
from outgrowth.core.motion.mixing import mix
from outgrowth.core.paint import draw, record
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject, hit, scene_at
from outgrowth.core.text import Typesetter

BUTTON = Subject("button", True)
BOARD = ("board",)


@pytest.fixture
def run(fonts):
    stages = Resolver(), Layout(Typesetter(fonts))

    def made(document, subject=BUTTON):
        return Runtime(*stages, document, subject)

    return made


def fill(runtime, path=()):
    return scene_at(runtime.view().scene, path).paint.fill


def middle(runtime, path):
    view = runtime.view()
    at = next(a for a in locate(view.scene, view.placed, "") if a.path == path)
    return at.rect.center


def test_hover_fades_in_and_out_again(ferry, run, close):
    runtime = run(ferry)
    rest = fill(runtime)
    runtime.pointer_move(10, 10)
    assert fill(runtime) == close(rest)
    runtime.advance(80)
    half = fill(runtime)
    runtime.advance(80)
    hover = fill(runtime)
    assert len({rest, half, hover}) == 3
    # Source: CSS Color 4 (OKLab, premultiplied) at the CSS easing's progress.
    assert half == close(mix(rest, hover, easing("ease-out")(0.5)))
    runtime.pointer_leave()
    runtime.advance(160)
    assert fill(runtime) == rest
    assert not runtime.moving
    assert dict(runtime.states) == {}


def test_press_is_held_until_release(ferry, run):
    runtime = run(ferry)
    runtime.press(10, 10)
    runtime.advance(200)
    assert runtime.states[(), "state"] == "press"
    runtime.pointer_move(500, 500)
    runtime.advance(200)
    assert not runtime.states, "pressed and dragged off: neither pressed nor hovered"
    runtime.pointer_move(10, 10)
    runtime.advance(200)
    assert runtime.states[(), "state"] == "press", "and back on it"
    runtime.release(10, 10)
    runtime.advance(200)
    assert runtime.states[(), "state"] == "hover"


def test_only_the_button_under_the_pointer_reacts(ferry, run):
    runtime = run(ferry, Subject("boarding"))
    before = runtime.view()
    runtime.pointer_move(*middle(runtime, BOARD))
    runtime.advance(1000)
    after = runtime.view()
    assert set(runtime.states) == {(BOARD, "state")}
    assert fill(runtime, BOARD) != scene_at(before.scene, BOARD).paint.fill
    assert scene_at(after.scene, ("return",)) is scene_at(before.scene, ("return",))


def test_a_click_through_part_lets_the_pointer_through(ferry, run):
    through = set_properties(ferry, Place("boarding", BOARD), {"click-through": True})
    runtime = run(through, Subject("boarding"))
    runtime.pointer_move(*middle(runtime, BOARD))
    assert not runtime.states


def test_a_round_corner_is_not_hit(ferry, run):
    runtime = run(ferry, Subject("icon-button", True))
    runtime.pointer_move(2, 2)
    assert not runtime.states
    runtime.pointer_move(22, 2)
    assert runtime.states


def test_a_part_that_moved_is_hit_where_it_is_seen(ferry, run):
    moved = set_properties(ferry, Place("icon-button"), {"translate-x": 100.0, "scale": 0.5})
    view = run(moved, Subject("icon-button", True)).view()
    assert hit(view.scene, view.placed, 122, 22) is not None
    assert hit(view.scene, view.placed, 22, 22) is None


def test_reduced_motion_cuts(ferry, run):
    runtime = run(ferry)
    runtime.reduced_motion = True
    runtime.pointer_move(10, 10)
    assert not runtime.moving
    assert runtime.states


def test_an_edit_shows_at_once_and_keeps_the_state(ferry, run):
    runtime = run(ferry)
    runtime.pointer_move(10, 10)
    runtime.advance(200)
    red = parse("#FF0000")
    edited = set_properties(
        ferry, Place("button"), {"fill": red}, Map(kind="primary", state="hover")
    )
    runtime.update(edited)
    assert runtime.states
    assert not runtime.moving
    shift_on_top = fill(runtime)
    assert shift_on_top.red > 0.8
    assert shift_on_top.blue < 0.1


def test_another_subject_starts_at_rest(ferry, run):
    runtime = run(ferry)
    runtime.pointer_move(10, 10)
    runtime.update(ferry, Subject("icon-button", True))
    runtime.advance(1000)
    assert scene_at(runtime.view().scene, ()).component == "icon-button"


def test_motion_is_found_at_the_value_then_the_axis_then_the_component(ferry, run):
    import msgspec

    button = ferry.components["button"]
    state = button.axis("state")
    slow = msgspec.structs.replace(state.value("hover"), motion=Motion(1000.0, "linear"))
    values = tuple(slow if v.id == "hover" else v for v in state.values)
    axes = (button.axis("kind"), msgspec.structs.replace(state, values=values))
    changed = msgspec.structs.replace(button, axes=axes)
    document = msgspec.structs.replace(ferry, components=ferry.components.set("button", changed))
    runtime = run(document)
    runtime.pointer_move(10, 10)
    runtime.advance(500)
    assert runtime.moving, "entering hover takes its own second"
    runtime.advance(500)
    runtime.pointer_leave()
    runtime.advance(160)
    assert not runtime.moving, "entering rest takes the axis's 160 ms"


def test_a_growing_hover_stays_centred_at_every_instant(ferry, run):
    # Common practice, no source: a growing hover stays centred on the rest state.
    grown = set_properties(ferry, Place("button"), {"scale": 1.2}, Map(state="hover"))
    runtime = run(grown)
    centre = draw(*runtime.view()).bounds.center
    runtime.pointer_move(10, 10)
    for _ in range(16):
        runtime.advance(10)
        bounds = draw(*runtime.view()).bounds
        assert bounds.center[0] == pytest.approx(centre[0], abs=0.01)


def test_neighbours_are_pushed_while_a_part_grows(ferry, run):
    wide = set_properties(
        ferry, Place("button"), {"width": fixed(300.0)}, Map(kind="quiet", state="hover")
    )
    runtime = run(wide, Subject("boarding"))
    runtime.pointer_move(*middle(runtime, ("wait",)))
    before = next(a.rect for a in locate(*runtime.view(), "") if a.path == BOARD)
    runtime.advance(80)
    between = next(a.rect for a in locate(*runtime.view(), "") if a.path == BOARD)
    runtime.advance(80)
    after = next(a.rect for a in locate(*runtime.view(), "") if a.path == BOARD)
    assert after.width < between.width < before.width


@given(st.lists(st.integers(1, 60), min_size=1, max_size=12))
def test_time_in_any_pieces_gives_the_same_picture(ferry, fonts, pieces):
    stages = Resolver(), Layout(Typesetter(fonts))
    whole, parts = (Runtime(*stages, ferry, BUTTON) for _ in range(2))
    for runtime, steps in ((whole, [sum(pieces)]), (parts, pieces)):
        runtime.pointer_move(10, 10)
        for step in steps:
            runtime.advance(step)
    assert record(draw(*whole.view())) == record(draw(*parts.view()))


@given(st.integers(1, 159))
def test_turning_back_midway_jumps_nowhere(ferry, fonts, close, instant):
    runtime = Runtime(Resolver(), Layout(Typesetter(fonts)), ferry, BUTTON)
    runtime.pointer_move(10, 10)
    runtime.advance(instant)
    before = record(draw(*runtime.view()))
    runtime.pointer_leave()
    assert record(draw(*runtime.view())) == close(before)


def test_a_disabled_part_does_not_react(ferry, run):
    runtime = run(ferry, Subject("button", True, Map(state="disabled")))
    runtime.pointer_move(10, 10)
    assert not runtime.states
    assert scene_at(runtime.view().scene, ()).variant["state"] == "disabled"
