"""Recording what is done to a running part, and playing it back headless.

A script is a small JSON list of events with their times; a playback samples axis values and
every shown node at given times. The same script gives the same output, byte for byte.
"""

from __future__ import annotations

from typing import Literal

import msgspec

from outgrowth.core.color import Color
from outgrowth.core.document.refusal import LONGEST_SENTENCE, Refusal, quoted
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.runtime.runtime import Runtime

Do = Literal["move", "leave", "press", "release", "key", "touch", "mouse"]
_DIGITS = 4


MOST_EVENTS = 20_000
"""Events that a script may have, and times to look: an hour of six a second."""
_LARGEST = 1_000_000.0


class ScriptProblem(Refusal):
    """A script cannot be played; the message is a sentence for the user."""

    longest = LONGEST_SENTENCE


class Event(msgspec.Struct, frozen=True, omit_defaults=True):
    """One thing done at a time (ms from the start); x and y in px of the subject."""

    at: float
    do: Do
    x: float = 0.0
    y: float = 0.0
    key: str = ""
    shift: bool = False


class Script(msgspec.Struct, frozen=True, omit_defaults=True):
    """What is done, in order, and when to look (ms)."""

    events: tuple[Event, ...]
    times: tuple[float, ...] = ()


def read_script(data: bytes, name: str) -> Script:
    """The script in a file's bytes. Raises ScriptProblem."""
    called = quoted(name, 60)
    try:
        script = msgspec.json.decode(data, type=Script)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError, OverflowError) as problem:
        raise ScriptProblem(f"“{called}” is no script that can be played: {problem}.") from problem
    if max(len(script.events), len(script.times)) > MOST_EVENTS:
        raise ScriptProblem(f"“{called}” has more than {MOST_EVENTS:,} events or times to look.")
    times = [event.at for event in script.events]
    if times != sorted(times) or not all(0 <= at <= 3.6e6 for at in (*times, *script.times)):
        raise ScriptProblem(f"“{called}”: the times must grow, and lie within an hour.")
    if not all(abs(n) <= _LARGEST for event in script.events for n in (event.x, event.y)):
        raise ScriptProblem(f"“{called}”: a place must lie within {_LARGEST:,.0f} px.")
    return script


def write_script(script: Script) -> bytes:
    return msgspec.json.format(msgspec.json.encode(script), indent=1) + b"\n"


def act(runtime: Runtime, event: Event) -> None:
    """Does one event now."""
    if event.do == "move":
        runtime.pointer_move(event.x, event.y)
    elif event.do == "leave":
        runtime.pointer_leave()
    elif event.do == "press":
        runtime.press(event.x, event.y)
    elif event.do == "release":
        runtime.release(event.x, event.y)
    elif event.do == "key":
        runtime.key(event.key, event.shift)
    else:
        runtime.touch = event.do == "touch"


def play(runtime: Runtime, script: Script) -> list[JsonObject]:
    """What is seen at each of the script's times, events of the same time done before."""
    found: list[JsonObject] = []
    waiting = list(script.events)
    for time in sorted(script.times):
        while waiting and waiting[0].at <= time:
            event = waiting.pop(0)
            runtime.advance(event.at - runtime.now)
            act(runtime, event)
        runtime.advance(time - runtime.now)
        found.append(seen(runtime))
    return found


def seen(runtime: Runtime) -> JsonObject:
    """Axis values, and rectangle, opacity and colours of every shown node, now."""
    view = runtime.view()
    nodes: list[Json] = []
    for at in locate(*view, runtime.shown):
        paint = at.scene.paint
        node: JsonObject = {
            "path": "/".join(at.path),
            "rect": [round(n, _DIGITS) for n in at.rect],
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
    return {
        "at": round(runtime.now, _DIGITS),
        "shown": runtime.shown,
        "values": values,
        "nodes": nodes,
    }
