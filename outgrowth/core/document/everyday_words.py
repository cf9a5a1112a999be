"""What people call states, so that a set of drawings called normal, over and down is live at once.

Common practice, no source: the words that designers, programs and toolkits use for the states of a
control, collected by hand. A word is known in any capitals, and with what people put before it
(“is-hovered”, “:hover”, “Mouse over”).
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import partial
from typing import NamedTuple

import msgspec

from outgrowth.core.document.axis_parts import (
    POINTER_PARTS,
    starting_at_rest,
    value_for,
    with_parts_said,
)
from outgrowth.core.document.records import (
    MOST_ROOM,
    Axis,
    Driver,
    Meaning,
    RoomSide,
    RoomUnit,
    ValuePart,
)

_POINTER_WORDS: dict[ValuePart, tuple[str, ...]] = {
    "rest": (
        *("rest", "resting", "normal", "default", "idle", "up", "base", "static", "initial"),
        *("standard", "enabled", "usual", "untouched", "unhovered"),
    ),
    "hover": ("hover", "hovered", "hovering", "over", "mouseover", "rollover", "pointerover"),
    "press": (
        *("press", "pressed", "pressing", "down", "active", "pushed", "push", "tapped", "tap"),
        *("click", "clicked", "mousedown", "pointerdown", "touched"),
    ),
    "focus": ("focus", "focused", "focussed", "focusvisible", "focusring", "focuswithin"),
    "disabled": (
        *("disabled", "disable", "off", "inactive", "unavailable", "greyed", "grayed", "dimmed"),
        *("greyedout", "grayedout", "notavailable", "deactivated"),
    ),
}
_NEXT_IN_ORDER: tuple[ValuePart, ...] = ("hover", "press")
_PARTS = {word: part for part, words in _POINTER_WORDS.items() for word in words}
_SURELY_PRESSED = {"press", "pressed", "pressing", "pushed", "tapped", "clicked", "mousedown"}
"""Pressed even where nothing hovers; “down” may be a direction, “active” the chosen tab."""

_MEANT: tuple[tuple[Meaning, tuple[str, ...], tuple[str, ...]], ...] = (
    ("checked", ("checked", "ticked"), ("unchecked", "unticked", "notchecked", "clear")),
    (
        "expanded",
        ("expanded", "open", "opened", "unfolded"),
        ("collapsed", "closed", "folded", "shut"),
    ),
    ("selected", ("selected", "chosen", "picked"), ("unselected", "notselected", "deselected")),
    ("current", ("current", "here"), ("other", "notcurrent", "elsewhere")),
    ("invalid", ("invalid", "error", "wrong", "failed"), ("valid", "correct", "right", "fine")),
    ("busy", ("busy", "loading", "working", "waiting"), ("ready", "done", "loaded")),
    ("filled", ("filled",), ("empty", "blank", "placeholder")),
    ("required", ("required", "mandatory"), ("optional",)),
    ("read-only", ("readonly", "locked"), ("editable", "unlocked")),
)
"""By meaning: what a value is called that says yes, and one that says no."""
_MIXED = ("mixed", "some", "partly", "indeterminate", "partial")
_YES, _NO = ("yes", "on", "true", "with", "shown"), ("no", "off", "false", "without", "hidden")


class WordGuess(NamedTuple):
    """What a set of values seems to be: what sets the axis, what it means, what each stands for
    (in their order), and what such an axis is usually called; "" for nothing known."""

    driver: Driver
    meaning: Meaning
    parts: tuple[ValuePart, ...]
    name: str = ""


def plain_word(name: str) -> str:
    """A name as it is looked up: small letters only, without what people put before a state."""
    word = re.sub(r"[^a-z]", "", name.lower())
    for prefix in ("state", "is", "on"):
        if word.startswith(prefix) and word.removeprefix(prefix) in _PARTS:
            return word.removeprefix(prefix)
    return word


def pointer_part_of_word(name: str) -> ValuePart:
    """The part of a pointer's axis that a word stands for, "" for an unknown one."""
    return _PARTS.get(plain_word(name), "")


def guessed(names: Sequence[str], axis_name: str = "") -> WordGuess:
    """What an axis with values of these names seems to be, by the everyday words among them, and
    by its own name where that is one of the meanings."""
    words = [plain_word(name) for name in names]
    parts = _told_parts(words)
    known = {part for part in parts if part}
    pressed = "press" in known and "rest" in known and bool(_SURELY_PRESSED & set(words))
    if len(names) > 1 and ("hover" in known or pressed):
        return WordGuess("pointer", "none", tuple(_first_of_each(parts)), "State")
    if len(names) == 2 and known == {"rest", "focus"} and "" not in parts:
        return WordGuess("focus", "none", tuple(parts), "Focus")
    return _meant(words, axis_name) or WordGuess("none", "none", tuple("" for _ in names))


def _told_parts(words: Sequence[str]) -> list[ValuePart]:
    """What words stand for, "" for unknown ones. Beside “on”, “off” is a switch, not disabled."""
    return ["" if word == "off" and "on" in words else _PARTS.get(word, "") for word in words]


def _first_of_each(parts: Sequence[ValuePart]) -> list[ValuePart]:
    """The parts, of several values of one part only the first; nothing by which to know the
    others, so only cues set them. Where none is at rest, the first that is unknown is, else the
    first that is disabled, else the first: something always is."""
    results: list[ValuePart] = []
    for part in parts:
        results.append(part if part and (part not in results or part == "disabled") else "cued")
    if "rest" not in results:
        sure = next((part for part in ("cued", "disabled") if part in results), results[0])
        results[results.index(sure)] = "rest"
    return results


def _meant(words: Sequence[str], axis_name: str) -> WordGuess | None:
    if len(words) < 2:
        return None
    for meaning, yes, no in _MEANT:
        said = [_saying(word, yes, no) for word in words]
        if "yes" in said and "" not in said and set(words) & {*yes, *no}:
            return WordGuess("none", meaning, tuple(said), meaning.capitalize())
    disabled = [_PARTS.get(word, "") for word in words]
    if len(words) == 2 and set(disabled) == {"rest", "disabled"} and "off" not in words:
        enabled: list[ValuePart] = ["no" if part == "disabled" else "yes" for part in disabled]
        return WordGuess("none", "enabled", tuple(enabled), "Enabled")
    return _by_axis_name(words, plain_word(axis_name))


def _saying(word: str, yes: Sequence[str], no: Sequence[str]) -> ValuePart:
    if word in yes:
        return "yes"
    if word in _MIXED:
        return "mixed"
    return "no" if word in no or _PARTS.get(word) == "rest" else ""


def _by_axis_name(words: Sequence[str], axis: str) -> WordGuess | None:
    """An axis of yes and no whose own name says what it means."""
    said = [_saying(word, _YES, _NO) for word in words]
    if "yes" not in said or "no" not in said or "" in said:
        return None
    if axis in _POINTER_WORDS["disabled"]:
        turned: dict[ValuePart, ValuePart] = {"yes": "no", "no": "yes"}
        return WordGuess("none", "enabled", tuple(turned.get(part, part) for part in said))
    if axis == "enabled":
        return WordGuess("none", "enabled", tuple(said))
    if axis in _POINTER_WORDS["focus"]:
        focus: tuple[ValuePart, ...] = tuple("focus" if p == "yes" else "" for p in said)
        return WordGuess("focus", "none", focus)
    for meaning, yes, _ in _MEANT:
        if axis in yes:
            return WordGuess("none", meaning, tuple(said))
    return None


def driven_by(axis: Axis, driver: Driver) -> Axis:
    """The axis given to pointer or focus, or (“none”) to the hand; what its values stand for stays
    said. What pointer or focus set means nothing besides."""
    if axis.driver == driver:
        return axis
    if driver == "pointer":
        return starting_at_rest(msgspec.structs.replace(driven_by_pointer(axis), meaning="none"))
    given = with_parts_said(axis)
    if driver == "room":
        return _driven_by_room(given)
    if driver == "focus":
        return with_parts_said(msgspec.structs.replace(given, driver="focus", meaning="none"))
    return msgspec.structs.replace(given, driver="none")


def _driven_by_room(axis: Axis) -> Axis:
    """The axis given to the room: its values begin where they said, or a usual step apart."""
    leasts = [value.least for value in axis.values]
    if len(set(leasts)) < len(leasts):
        leasts = [min(n * USUAL_STEP, MOST_ROOM) for n in range(len(leasts))]
    # What a room sets comes at once.
    values = tuple(
        msgspec.structs.replace(value, least=least, motion=None)
        for value, least in zip(axis.values, leasts, strict=True)
    )
    return msgspec.structs.replace(axis, driver="room", meaning="none", motion=None, values=values)


def driven_by_pointer(axis: Axis) -> Axis:
    """The axis given to the pointer: what its values stand for is said already, or told by their
    names; where none of these is known, they are taken in their order."""
    said = [value.part for value in axis.values]
    said = [part if part in POINTER_PARTS else "" for part in said]
    told = _told_parts([plain_word(value.name) for value in axis.values])
    known = _first_of_each([one or other for one, other in zip(said, told, strict=True)])
    if not {"hover", "press"} & set(known):
        free = [n for n, part in enumerate(known) if part == "cued"]
        for n, part in zip(free, _NEXT_IN_ORDER, strict=False):
            known[n] = part
    return with_parts(msgspec.structs.replace(axis, driver="pointer"), known)


def part_of_new_value(axis: Axis, name: str) -> ValuePart:
    """What one more value of an axis stands for: what its name tells, if that is free; of an axis
    that the pointer sets, else nothing that the pointer sets."""
    if axis.driver != "pointer":
        return ""
    told = pointer_part_of_word(name)
    return told if told == "disabled" or (told and value_for(axis, told) is None) else "cued"


def meaning_something(axis: Axis, meaning: Meaning) -> Axis:
    """The axis given a meaning: those of its values say yes that read so, by the everyday words;
    where none does, all but the one that it starts with."""
    saying = _saying_enabled if meaning == "enabled" else partial(_saying_of, meaning)
    said = [saying(plain_word(value.name), plain_word(axis.name)) for value in axis.values]
    if "yes" not in said:
        said = ["no" if value.id == axis.default else "yes" for value in axis.values]
    return with_parts(msgspec.structs.replace(axis, meaning=meaning), said)


def _saying_of(meaning: Meaning, word: str, axis_name: str) -> ValuePart:
    yes, no = next(((yes, no) for each, yes, no in _MEANT if each == meaning), ((), ()))
    return _saying(word, (*_YES, *yes), (*_NO, *no)) or "no"


def _saying_enabled(word: str, axis_name: str) -> ValuePart:
    """“Disabled: no, yes” says the opposite of what it means."""
    if axis_name in _POINTER_WORDS["disabled"]:
        return "no" if word in _YES else "yes"
    return "no" if word in _NO or _PARTS.get(word) == "disabled" else "yes"


def with_parts(axis: Axis, parts: Sequence[ValuePart]) -> Axis:
    """The axis with what each of its values stands for, in their order."""
    values = tuple(
        msgspec.structs.replace(value, part=part)
        for value, part in zip(axis.values, parts, strict=True)
    )
    return msgspec.structs.replace(axis, values=values)


def plainly(axis: Axis) -> Axis:
    """The axis with everything that its words tell: what sets it, what it means, and what its
    values stand for."""
    guess = guessed([value.name for value in axis.values], axis.name)
    told = msgspec.structs.replace(axis, driver=guess.driver, meaning=guess.meaning)
    return starting_at_rest(with_parts(told, guess.parts))


def usual_axis_name(names: Sequence[str], number: int) -> str:
    """What an axis with values of these names is usually called; the number of one that nothing
    tells."""
    words = {plain_word(name) for name in names}
    guess = guessed(names)
    if guess.name:
        return guess.name
    if words & {"small", "medium", "large", "s", "m", "l", "xs", "xl", "tiny", "huge", "compact"}:
        return "Size"
    if words & {"primary", "secondary", "tertiary", "quiet", "plain", "main", "regular"}:
        return "Kind"
    if words & {"light", "dark"}:
        return "Theme"
    if words <= {*_YES, *_NO}:
        return "On"
    return f"Axis {number}"


class AxisLine(NamedTuple):
    """An axis as it is written in one line: “On: no, yes”. One that the room sets says where its
    values begin: “Room: narrow < 320, usual, wide ≥ 640”."""

    name: str
    values: tuple[str, ...]
    leasts: tuple[float, ...] = ()
    side: RoomSide = "width"
    unit: RoomUnit = "px"


_ROOM = re.compile(
    r"(?P<name>.*?)\s*(?P<way><|≤|≥|>=?|\bbelow\b|\bunder\b|\bfrom\b|\babove\b|\bover\b)\s*"
    r"(?P<number>\d+(?:\.\d+)?)\s*(?P<unit>px|ch)?"
)
_UPWARDS = ("<", "≤", "below", "under")
_ROOM_NAMES = ("room", "by room", "container")
_HIGH = ("height", "high", "tall", "low")
USUAL_STEP = 320.0
"""Px between where the values of an axis begin that the room sets and nobody said. Common practice,
no source: the narrowest screens are as wide."""


def _with_rooms(line: AxisLine) -> AxisLine:
    """The line with what its values say of a room, where any does."""
    found = [_ROOM.fullmatch(value) for value in line.values]
    words = set(re.split(r"[^a-z]+", line.name.lower()))
    if not any(found) and line.name.lower() not in _ROOM_NAMES:
        return line
    names = [
        m["name"] if m and m["name"] else text for m, text in zip(found, line.values, strict=True)
    ]
    units: set[RoomUnit] = {"ch" for m in found if m and m["unit"] == "ch"}
    leasts = _leasts(found)
    side: RoomSide = "height" if words & set(_HIGH) else "width"
    return AxisLine(line.name, tuple(names), leasts, side, units.pop() if units else "px")


def _leasts(found: Sequence[re.Match[str] | None]) -> tuple[float, ...]:
    """Where each value begins: as it says, or where the one before it ends; what says nothing, a
    usual step after the one before."""
    leasts: list[float] = []
    ends: float | None = None
    for n, match in enumerate(found):
        number = float(match["number"]) if match else None
        upwards = match is not None and match["way"] in _UPWARDS
        if number is not None and not upwards:
            least = number
        elif ends is not None:
            least = ends
        else:
            least = leasts[-1] + USUAL_STEP if n else 0.0
        leasts.append(min(least, MOST_ROOM))
        ends = number if upwards else None
    return tuple(leasts)


def axis_line(text: str) -> AxisLine | None:
    """What a line says of an axis: its name, a colon, its values with commas (or bars) between
    them. Of a name alone, no and yes. None for what is no such line."""
    line = _plain_line(text)
    return _with_rooms(line) if line is not None else None


def _plain_line(text: str) -> AxisLine | None:
    name, colon, said = text.partition(":")
    values = [part.strip() for part in re.split(r"[,|;/·]", said)]
    named = tuple(dict.fromkeys(value for value in values if value))
    name = name.strip()
    if not colon:
        parts = [part.strip() for part in re.split(r"[,|;·]", name) if part.strip()]
        if len(parts) > 1:
            return AxisLine("", tuple(dict.fromkeys(parts)))
        return AxisLine(name, ("no", "yes")) if name else None
    return AxisLine(name, named) if named else None
