"""What runs in Live, with a clock that the test turns."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from outgrowth.core.layout.rectangles import locate
from outgrowth.core.runtime.script import Event, Script
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.playback import STEP_MS, Playback
from tests.workspace.conftest import Desk


@pytest.fixture
def time():
    return [0.0]


@pytest.fixture
def playback(workspace, time):
    workspace.open("toggle")
    playback = Playback(workspace, lambda: time[0])
    playback.follow()
    return playback


def states(playback):
    return dict(playback.runtime.states)


def tap(playback):
    width, height = playback.runtime.target_placed.width, playback.runtime.target_placed.height
    for do in ("move", "press", "release"):
        playback.perform(do, width / 2, height / 2)


def test_time_passes_by_the_clock_and_the_speed(playback, time):
    tap(playback)
    assert playback.moving
    time[0] += 20.0
    playback.tick()
    assert playback.runtime.now == 20.0
    playback.set_speed(0.25)
    time[0] += 100.0
    playback.tick()
    assert playback.runtime.now == 45.0
    time[0] += 10_000.0
    playback.tick()
    assert not playback.moving


def test_held_time_stands_and_steps_frame_by_frame(playback, time):
    tap(playback)
    playback.hold(True)
    time[0] += 500.0
    playback.tick()
    assert playback.runtime.now == 0.0
    playback.step()
    assert playback.runtime.now == pytest.approx(STEP_MS)
    playback.hold(False)
    assert playback.runtime.now == pytest.approx(STEP_MS), "what went by meanwhile does not count"


def test_what_is_recorded_plays_to_the_same_states(playback, time):
    playback.record()
    time[0] += 100.0
    tap(playback)
    script = playback.end_recording()
    assert [event.do for event in script.events] == ["move", "press", "release"]
    assert script.events[0].at == 100.0 and script.times[-1] == 1100.0
    done = states(playback)
    playback.play(script)
    assert playback.playing and states(playback) != done
    time[0] += 101.0
    playback.tick()
    assert not playback.playing and states(playback) == done


def test_a_script_that_means_nothing_here_is_told_and_ends(desk, playback, time):
    playback.play(Script((Event(1.0, "tap", part="nowhere"), Event(2.0, "leave")), (3.0,)))
    time[0] += 5.0
    playback.tick()
    assert len(desk.sentences) == 1 and not playback.playing


def test_it_follows_the_bench_and_keeps_how_it_is_touched(workspace, playback):
    playback.set_touch(True)
    workspace.open("boarding")
    playback.follow()
    assert playback.runtime.shown_owner == "boarding"
    workspace.open("")
    playback.follow()
    assert playback.runtime is None
    playback.perform("press", 1.0, 1.0)
    playback.step()
    assert not playback.moving and not playback.waiting


def edit(desk, playback, time):
    desk.workspace.select(())
    style_commands.set_style(desk.workspace, {"padding-left": time[0] % 40})


DOINGS = {
    "tap": lambda desk, playback, time: playback.runtime and tap(playback),
    "key": lambda desk, playback, time: playback.press_key("Tab", False),
    "leave": lambda desk, playback, time: playback.perform("leave"),
    "scroll": lambda desk, playback, time: playback.scroll(20.0, 90.0, 0.0, 35.0),
    "hold": lambda desk, playback, time: playback.hold(not playback.paused),
    "step": lambda desk, playback, time: playback.step(),
    "slow": lambda desk, playback, time: playback.set_speed(0.25),
    "fast": lambda desk, playback, time: playback.set_speed(1.0),
    "record": lambda desk, playback, time: playback.record(),
    "play": lambda desk, playback, time: playback.play(playback.end_recording()),
    "restart": lambda desk, playback, time: playback.restart(),
    "touch": lambda desk, playback, time: playback.set_touch(True),
    "mouse": lambda desk, playback, time: playback.set_touch(False),
    "no motion": lambda desk, playback, time: playback.set_reduced_motion(True),
    "room": lambda desk, playback, time: playback.set_room(240.0, None),
    "own size": lambda desk, playback, time: playback.set_room(None, None),
    "edit": edit,
    "undo": lambda desk, playback, time: desk.workspace.undo(),
    "redo": lambda desk, playback, time: desk.workspace.redo(),
    "remove": lambda desk, playback, time: desk.do("remove-owner"),
    **{
        f"open {owner}": lambda desk, playback, time, owner=owner: desk.workspace.open(owner)
        for owner in ("toggle", "notice", "booking", "calendar")
    },
}


def seen(runtime):
    return [(at.path, at.rect) for at in locate(*runtime.view(), "")]


@settings(max_examples=60, deadline=None)
@given(
    steps=st.lists(st.tuples(st.sampled_from(sorted(DOINGS)), st.floats(0.0, 400.0)), max_size=20)
)
def test_whatever_happens_at_once_starting_again_is_as_from_nothing(fonts, ferry, steps):
    desk, time = Desk(fonts, ferry), [0.0]
    playback = Playback(desk.workspace, lambda: time[0])
    desk.workspace.document_changed.connect(playback.follow)
    desk.workspace.selection_changed.connect(playback.follow)
    playback.follow()
    for doing, ms in steps:
        before = playback.runtime, playback.runtime and playback.runtime.now
        DOINGS[doing](desk, playback, time)
        time[0] += ms
        playback.tick()
        if playback.runtime is not None and playback.runtime is before[0]:
            assert playback.runtime.now >= before[1], "time never runs back"
    subject = playback.subject()
    assert (playback.runtime is None) == (subject is None)
    if subject is not None:
        playback.restart()
        fresh = Engine(fonts).runtime(desk.workspace.document, subject)
        fresh.reduced_motion = playback.runtime.reduced_motion
        for runtime in (playback.runtime, fresh):
            runtime.advance(60_000.0)
        assert seen(playback.runtime) == seen(fresh)
        assert states(playback) == dict(fresh.states)


def test_a_recording_keeps_how_it_was_touched_and_whether_it_moved(playback, time):
    playback.set_touch(True)
    playback.set_reduced_motion(True)
    playback.record()
    tap(playback)
    playback.set_reduced_motion(False)
    playback.set_touch(False)
    script = playback.end_recording()
    assert (script.touch, script.reduced_motion) == (True, True)
    assert [e.do for e in script.events][-2:] == ["full-motion", "mouse"]
    after = states(playback)
    playback.set_touch(False)
    playback.play(script)
    assert (playback.runtime.touch, playback.runtime.reduced_motion) == (True, True)
    time[0] += 1000.0
    playback.tick()
    assert states(playback) == after
    assert (playback.runtime.touch, playback.runtime.reduced_motion) == (False, False)
