"""What runs in Live, with a clock that the test turns."""

import pytest

from outgrowth.core.runtime.script import Event, Script
from outgrowth.workspace.playback import STEP_MS, Playback


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
