"""Recording what is done to a running part, and playing it back headless.

A script is a small JSON list of events with their times; a playback samples axis values and
every shown node at given times. The same script gives the same output, byte for byte.
"""

from __future__ import annotations

from typing import Literal, get_args

import msgspec

from outgrowth.core.color import Color
from outgrowth.core.document.cues import is_key
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.refusal import LONGEST_SENTENCE, Refusal, quoted
from outgrowth.core.runtime.naming import NameRefusal, named_as, part_named
from outgrowth.core.runtime.runtime import Runtime

ScriptAct = Literal[
    "move",
    "leave",
    "press",
    "release",
    "tap",
    "scroll",
    "key",
    "text",
    "touch",
    "mouse",
    "reduced-motion",
    "full-motion",
    "resize",
]
PLACED: tuple[ScriptAct, ...] = ("move", "press", "release", "tap", "scroll")
"""What is done at a place: x and y, or the middle of a part."""
_DIGITS = 4

MOST_EVENTS = 20_000
"""Events that a script may have, and times to look: an hour of six a second."""
LATEST = 3.6e6
"""How many ms a script may last."""
_LARGEST = 1_000_000.0
_LONGEST_TEXT = 10_000


class ScriptRefusal(Refusal):
    """A script cannot be played; the message is a sentence for the user."""

    longest = LONGEST_SENTENCE


class Event(msgspec.Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """One thing done at a time (ms from the start); x and y in px of the subject, or the middle
    of a part, called by names from the subject in: “Help › May I bring my bicycle? › head”.
    A tap is a press and a release at once. Scrolling goes dx and dy px further; resizing gives what
    runs so much room (px; what is not said is its own size)."""

    at: float
    do: ScriptAct
    x: float | None = None
    y: float | None = None
    key: str = ""
    shift: bool = False
    part: str = ""
    text: str = ""
    dx: float = 0.0
    dy: float = 0.0
    width: float | None = None
    height: float | None = None


class Script(msgspec.Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """What is done, in order, and when to look (ms); whether by a finger, and whether without
    motion."""

    events: tuple[Event, ...]
    times: tuple[float, ...] = ()
    touch: bool = False
    reduced_motion: bool = False


def read_script(data: bytes, name: str) -> Script:
    """The script in a file's bytes. An event may say what it does in short, as
    `{"at": 0, "press": "Help › head"}`. Raises ScriptRefusal."""
    called = quoted(name, 60)
    try:
        script = msgspec.convert(_written_out(msgspec.json.decode(data)), type=Script)
    except (msgspec.MsgspecError, UnicodeDecodeError, RecursionError, OverflowError) as problem:
        raise ScriptRefusal(f"“{called}” is no script that can be played: {problem}.") from problem
    try:
        check_script(script)
    except ScriptRefusal as problem:
        raise ScriptRefusal(f"“{called}”: {problem}") from problem
    return script


def check_script(script: Script) -> None:
    """Raises ScriptRefusal for what cannot be played: too much, times that go back, an event
    that does not say where, or with which key."""
    if max(len(script.events), len(script.times)) > MOST_EVENTS:
        raise ScriptRefusal(f"There are more than {MOST_EVENTS:,} events or times to look.")
    times = [event.at for event in script.events]
    if not all(0 <= time <= LATEST for time in (*times, *script.times)):
        raise ScriptRefusal("The times must lie within an hour, from 0 ms on.")
    if times != sorted(times):
        raise ScriptRefusal("The times of the events must grow.")
    for n, event in enumerate(script.events):
        fault = _fault(event)
        if fault:
            raise ScriptRefusal(f"Event {n + 1}, “{event.do}”, {fault}.")


def _fault(event: Event) -> str:
    """What is wrong with an event; nothing for one that can be done."""
    places = [n for n in (event.x, event.y) if n is not None]
    if event.do in PLACED and not event.part and len(places) < 2:
        return "does not say where: it needs a part, or x and y"
    if event.part and (places or event.do not in PLACED):
        return "cannot have a part" if event.do not in PLACED else "has a part and a place"
    if places and event.do not in PLACED:
        return "has no place"
    if event.do != "scroll" and (event.dx or event.dy):
        return "does not scroll"
    room = [n for n in (event.width, event.height) if n is not None]
    if room and event.do != "resize":
        return "gives no room"
    if not all(0 < n <= _LARGEST for n in room):
        return f"gives a room that is not between 0 and {_LARGEST:,.0f} px"
    if not all(abs(n) <= _LARGEST for n in (*places, event.dx, event.dy)):
        return f"has a place that is farther than {_LARGEST:,.0f} px"
    if event.do == "key" and not is_key(event.key):
        return f"names no key: {quoted(event.key, 40) or 'nothing'}"
    if event.do == "text" and not 0 < len(event.text) <= _LONGEST_TEXT:
        return f"needs its text, of up to {_LONGEST_TEXT:,} letters"
    texts = {"key": event.key, "text": event.text}
    other = [name for name, value in texts.items() if value and name != event.do]
    return f"has a {other[0]}, which it does not use" if other else ""


def _written_out(data: object) -> object:
    """The same script with what its events say in short written out."""
    if not isinstance(data, dict) or not isinstance(data.get("events"), list):
        return data
    return data | {"events": [_event_written_out(event) for event in data["events"]]}


def _event_written_out(event: object) -> object:
    if not isinstance(event, dict) or "do" in event:
        return event
    acts = [name for name in event if name in get_args(ScriptAct)]
    if len(acts) != 1:
        return event
    (verb,) = acts
    argument, rest = event[verb], {k: v for k, v in event.items() if k != verb}
    if verb in PLACED and isinstance(argument, str):
        return rest | {"do": verb, "part": argument}
    if verb in PLACED and isinstance(argument, list) and len(argument) == 2:
        return rest | {"do": verb, "x": argument[0], "y": argument[1]}
    if verb in ("key", "text"):
        return rest | {"do": verb, verb: argument}
    if verb == "resize" and isinstance(argument, int | float | list):
        given = argument if isinstance(argument, list) else [argument]
        if len(given) <= 2:
            return rest | {"do": verb} | dict(zip(("width", "height"), given, strict=False))
    return rest | {"do": verb} if argument is True else event


def write_script(script: Script) -> bytes:
    """A script as the bytes of a file."""
    return msgspec.json.format(msgspec.json.encode(script), indent=1) + b"\n"


def perform(runtime: Runtime, event: Event) -> None:
    """Does one event now. Raises ScriptRefusal for a part that is not shown now."""
    x, y = _place(runtime, event)
    if event.do == "move":
        runtime.pointer_move(x, y)
    elif event.do == "leave":
        runtime.pointer_leave()
    elif event.do in ("press", "tap"):
        runtime.press(x, y)
    elif event.do == "scroll":
        runtime.scroll(x, y, event.dx, event.dy)
    if event.do in ("release", "tap"):
        runtime.release(x, y)
    elif event.do == "key":
        runtime.key(event.key, event.shift)
    elif event.do == "text":
        runtime.text(event.text)
    elif event.do in ("touch", "mouse"):
        runtime.touch = event.do == "touch"
    elif event.do == "resize":
        runtime.resize(event.width, event.height)
    elif event.do in ("reduced-motion", "full-motion"):
        runtime.reduced_motion = event.do == "reduced-motion"


def _place(runtime: Runtime, event: Event) -> tuple[float, float]:
    if not event.part:
        return event.x or 0.0, event.y or 0.0
    try:
        return part_named(runtime, event.part).rect.center
    except NameRefusal as problem:
        raise ScriptRefusal(f"At {runtime.now:g} ms: {problem}") from problem


def play(runtime: Runtime, script: Script) -> list[JsonObject]:
    """What is seen at each of the script's times, events of the same time done before. Raises
    ScriptRefusal for what cannot be done, as a part that is not shown when it is touched."""
    check_script(script)
    snapshots: list[JsonObject] = []
    runtime.touch = script.touch or runtime.touch
    runtime.reduced_motion = script.reduced_motion or runtime.reduced_motion
    waiting = list(reversed(script.events))
    for time in sorted(script.times):
        while waiting and waiting[-1].at <= time:
            event = waiting.pop()
            runtime.advance(event.at - runtime.now)
            perform(runtime, event)
        runtime.advance(time - runtime.now)
        snapshots.append(snapshot(runtime))
    return snapshots


def snapshot(runtime: Runtime) -> JsonObject:
    """Axis values, what has the focus, and rectangle, opacity and colours of every shown node,
    now; and the loops that were cut until now."""
    view = runtime.view()
    nodes: list[Json] = []
    for located in locate(*view, runtime.owner_name):
        paint = located.scene.paint
        node: JsonObject = {
            "path": "/".join(located.path),
            "name": named_as(located.names),
            "rect": [round(n, _DIGITS) for n in located.rect],
            "opacity": round(paint.opacity, _DIGITS),
        }
        for name in ("fill", "color", "stroke"):
            value = getattr(paint, name)
            if isinstance(value, Color) and value.alpha > 0:
                node[name] = value.hex
        if paint.rotate or paint.scale != 1.0:
            node["rotate"] = round(paint.rotate, _DIGITS)
            node["scale"] = round(paint.scale, _DIGITS)
        if paint.arc_sweep != 360.0:
            node["sweep"] = round(paint.arc_sweep, _DIGITS)
        nodes.append(node)
    values: JsonObject = {
        f"{'/'.join(path)}:{name}": value if isinstance(value, str | float | bool) else str(value)
        for (path, name), value in sorted(runtime.states.items(), key=lambda item: item[0])
    }
    named: JsonObject = {
        f"{named_as(names)}: {axis}": value for names, axis, value in runtime.named_states()
    }
    return {
        "at": round(runtime.now, _DIGITS),
        "shown": runtime.shown_owner,
        "values": values,
        "named": named,
        "focus": None if runtime.focus is None else "/".join(runtime.focus),
        "nodes": nodes,
        "problems": list(runtime.problems),
    }


def script_schema() -> JsonObject:
    """The JSON Schema of a script's file (draft 2020-12)."""
    place: JsonObject = {
        "anyOf": [
            {"type": "string", "minLength": 1, "description": "a part, by names"},
            {"type": "array", "items": {"type": "number"}, "minItems": 2, "maxItems": 2},
        ]
    }
    short: JsonObject = {}
    text: JsonObject = {"type": "string", "minLength": 1}
    side: JsonObject = {"type": ["number", "null"], "exclusiveMinimum": 0, "maximum": _LARGEST}
    room: JsonObject = {
        "anyOf": [side, {"type": "array", "items": side, "minItems": 1, "maxItems": 2}],
        "description": "a width, or a width and a height, in px; null is its own",
    }
    for verb in get_args(ScriptAct):
        said: JsonObject = text if verb in ("key", "text") else {"const": True}
        short[verb] = place if verb in PLACED else said
    short["resize"] = {"anyOf": [room, {"const": True}]}
    time: JsonObject = {"type": "number", "minimum": 0, "maximum": LATEST}
    event: JsonObject = {
        "type": "object",
        "required": ["at"],
        "additionalProperties": False,
        "properties": {
            "at": time,
            "do": {"enum": list(get_args(ScriptAct))},
            "x": {"type": "number", "minimum": -_LARGEST, "maximum": _LARGEST},
            "y": {"type": "number", "minimum": -_LARGEST, "maximum": _LARGEST},
            "dx": {"type": "number", "minimum": -_LARGEST, "maximum": _LARGEST},
            "dy": {"type": "number", "minimum": -_LARGEST, "maximum": _LARGEST},
            "shift": {"type": "boolean"},
            "part": {"type": "string"},
            "width": side,
            "height": side,
            **short,
        },
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A script of what is done to a running part",
        "type": "object",
        "required": ["events"],
        "additionalProperties": False,
        "properties": {
            "events": {"type": "array", "items": event, "maxItems": MOST_EVENTS},
            "times": {"type": "array", "items": time, "maxItems": MOST_EVENTS},
            "touch": {"type": "boolean"},
            "reduced_motion": {"type": "boolean"},
        },
    }
