"""Recorded scripts for every behaviour of the demo: played twice they give the same bytes, and
at eleven times what is seen lies on the way from one layout to the other."""

import json

import jsonschema
import msgspec
import pytest

from demo.behaviours import turned, with_cue
from outgrowth.core.document.cues import Trigger
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import (
    Event,
    Script,
    ScriptRefusal,
    perform,
    play,
    read_script,
    script_schema,
    snapshot,
    write_script,
)
from outgrowth.core.text import Typesetter

# What is done on which screen, and the node whose numbers have to move.
SCRIPTS = {
    "button hover": ("boarding", [("move", "board")], "board"),
    "button press": ("boarding", [("move", "board"), ("press", "board")], "board"),
    "toggle": ("booking", [("tap", "quiet")], "quiet/knob"),
    "checkbox": ("booking", [("tap", "bicycle")], "bicycle/tick"),
    "checkbox by its label": ("booking", [("tap", "bicycle/label")], "bicycle/tick"),
    "radio": ("booking", [("tap", "seat-2")], "seat-2/dot"),
    "tabs": ("booking", [("tap", "days/tab-weekend")], "days/tab-weekend"),
    "tabs by themselves": ("booking", [], "days/tab-today/ring"),
    "notice": ("help", [("tap", "notice-1/head")], "notice-1"),
    "two notices": ("help", [("tap", "notice-1/head"), ("tap", "notice-2/head")], "notice-2"),
    "islands": ("islands", [("tap", "panel/item-north-light")], "panel/item-north-light/mark"),
    "text field": ("booking", [("tap", "name/frame")], "name/frame"),
    "chip": ("fares", [("tap", "chip-1")], "chip-1"),
    "to another screen and back": (
        "fares",
        [("tap", "fare-0/buy"), ("key", "Tab"), ("key", "Enter")],
        "",
    ),
}
TIMES = tuple(float(n) * 32 for n in range(11))


@pytest.fixture
def stages(fonts):
    return Resolver(), Layout(Typesetter(fonts))


def recorded(stages, ferry, screen, deeds):
    """The script of these deeds: each at the middle of its node, 40 ms apart."""
    runtime, events = Runtime(*stages, ferry, Subject(screen)), []

    def do(**event):
        events.append(Event(runtime.now, **event))
        perform(runtime, events[-1])

    for kind, where in deeds:
        if kind == "key":
            do(do="key", key=where)
        else:
            path = tuple(where.split("/"))
            rect = next(a.rect for a in locate(*runtime.view(), "") if a.path == path)
            x, y = rect.center
            for step in ("move", "press", "release") if kind == "tap" else (kind,):
                do(do=step, x=x, y=y)
        runtime.advance(40)
    start = events[-1].at if events else 0.0
    return Script(tuple(events), tuple(start + time for time in TIMES))


@pytest.mark.parametrize("name", SCRIPTS)
def test_a_script_gives_the_same_bytes_every_time(stages, ferry, fonts, name):
    screen, deeds, moving = SCRIPTS[name]
    script = recorded(stages, ferry, screen, deeds)
    script = read_script(write_script(script), name)
    snapshot = []
    for fresh in (stages, (Resolver(), Layout(Typesetter(fonts)))):
        runtime = Runtime(*fresh, ferry, Subject(screen))
        snapshot.append(json.dumps(play(runtime, script)))
        assert runtime.problems == []
    assert snapshot[0] == snapshot[1]
    frames = json.loads(snapshot[0])
    assert [frame["at"] for frame in frames] == [round(t, 4) for t in script.times]
    followed = [[n for n in frame["nodes"] if n["path"] == moving] for frame in frames]
    if moving:
        assert len({json.dumps(nodes) for nodes in followed}) >= 2, "something is seen to move"


def test_after_an_expander_has_opened_its_neighbours_stand_where_a_fresh_layout_puts_them(
    stages, ferry
):
    runtime = Runtime(*stages, ferry, Subject("help"))
    script = recorded(stages, ferry, "help", [("tap", "notice-1/head")])
    before = places(runtime)
    for event in script.events:
        perform(runtime, event)
    after = {at.path: at.rect for at in locate(*runtime.target, "")}
    runtime.advance(150)
    half = places(runtime)
    runtime.advance(1000)
    assert not runtime.moving
    for path, rect in places(runtime).items():
        assert rect == pytest.approx(after[path], abs=0.01)
    moved = [p for p in after if p in before and abs(after[p].y - before[p].y) > 1]
    assert ("notice-1",) in moved
    for path in moved:
        low, high = sorted((before[path].y, after[path].y))
        assert low < half[path].y < high, "at half time, between"


def places(runtime):
    return {at.path: at.rect for at in locate(*runtime.view(), "")}


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"[]",
        b'{"events": [{"at": 5, "do": "move"}, {"at": 1, "do": "move"}]}',
        b'{"events": [{"at": -1, "do": "move"}]}',
        b'{"events": [{"at": 0, "do": "jump"}]}',
        b'{"events": [], "times": [1e12]}',
        b'{"events": [], "times": [1e999]}',
        b'{"events": [], "times": [NaN]}',
        b'{"events": [], "speed": 2}',
        b'{"events": [{"at": 0, "do": "press"}]}',
        b'{"events": [{"at": 0, "do": "press", "x": 3}]}',
        b'{"events": [{"at": 0, "do": "press", "x": 3, "y": 1e300}]}',
        b'{"events": [{"at": 0, "do": "press", "x": 3, "y": 4, "part": "head"}]}',
        b'{"events": [{"at": 0, "do": "leave", "part": "head"}]}',
        b'{"events": [{"at": 0, "do": "leave", "x": 1, "y": 1}]}',
        b'{"events": [{"at": 0, "do": "key"}]}',
        b'{"events": [{"at": 0, "do": "key", "key": "Entr"}]}',
        b'{"events": [{"at": 0, "do": "text"}]}',
        b'{"events": [{"at": 0, "do": "tap", "x": 3, "y": 4, "key": "a"}]}',
        b'{"events": [{"at": 0, "do": "tap", "x": 3, "y": 4, "colour": "a"}]}',
        b'{"events": [{"at": 0}]}',
        b'{"events": [{"do": "leave"}]}',
        b'{"events": [{"at": 0, "press": "a", "tap": "b"}]}',
    ],
)
def test_what_is_no_script_is_said(data):
    with pytest.raises(ScriptRefusal, match=r"“script\.json”"):
        read_script(data, "script.json")


def test_events_are_written_without_what_they_do_not_say():
    text = write_script(Script((Event(0.0, "press", 3.0, 4.0),), (0.0,))).decode()
    assert "key" not in text
    assert msgspec.json.decode(text)["events"] == [{"at": 0.0, "do": "press", "x": 3.0, "y": 4.0}]


def test_what_a_script_says_in_short_is_the_same():
    short = (
        b'{"events": [{"at": 0, "press": "Help > head"}, {"at": 1, "move": [3, 4]}, '
        b'{"at": 2, "key": "Tab", "shift": true}, {"at": 2, "leave": true}, '
        b'{"at": 3, "text": "a"}]}'
    )
    assert read_script(short, "s").events == (
        Event(0.0, "press", part="Help > head"),
        Event(1.0, "move", 3.0, 4.0),
        Event(2.0, "key", key="Tab", shift=True),
        Event(2.0, "leave"),
        Event(3.0, "text", text="a"),
    )
    jsonschema.validate(json.loads(short), script_schema())


def test_the_schema_of_scripts_is_one():
    jsonschema.Draft202012Validator.check_schema(script_schema())


@pytest.mark.parametrize("reduced", [False, True])
def test_parts_are_called_by_their_names(stages, ferry, reduced):
    """The names that a playback tells are those by which a script can call them."""
    runtime = Runtime(*stages, ferry, Subject("help"))
    head = next(
        node["name"] for node in snapshot(runtime)["nodes"] if node["path"] == "notice-1/head"
    )
    events = (Event(0.0, "tap", part=head),)
    frames = play(runtime, Script(events, (0.0, 10.0, 900.0), reduced_motion=reduced))
    assert frames[0]["values"]["notice-1:open"] == "yes"
    assert frames[0]["focus"] == "notice-1/head"
    (named,) = [name for name, value in frames[0]["named"].items() if value == "yes"]
    assert (
        named == f"{' › '.join(n for n in head.split(' › ') if n not in ('head', 'notices'))}: Open"
    )
    first, last = ([n["rect"] for n in f["nodes"]] for f in (frames[1], frames[2]))
    assert (first == last) is reduced


def test_a_name_that_nothing_or_more_than_one_has_is_said_with_what_there_is(stages, ferry):
    runtime = Runtime(*stages, ferry, Subject("help"))
    with pytest.raises(ScriptRefusal, match="At 0 ms: “head” could be"):
        perform(runtime, Event(0.0, "tap", part="head"))
    with pytest.raises(ScriptRefusal, match="No part called “Help › nothing” is shown"):
        perform(runtime, Event(0.0, "tap", part="Help › nothing"))


def test_a_circle_is_told_where_it_is_played(stages, ferry):
    document = with_cue(ferry, "help", Trigger("delay", ms=0), turned("open", ("notice-1",)))
    frames = play(Runtime(*stages, document, Subject("help")), Script((), (10.0,)))
    assert "Help: “After 0 ms, toggle Open of" in frames[0]["problems"][0]
