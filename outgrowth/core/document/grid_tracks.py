"""The columns and rows of a grid as a value: what is allowed, its JSON and its schema.

Source of what can stand beside each other: CSS Grid 1, section 7.2.
"""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from outgrowth.core.document.types import Json, JsonObject, SizeType
from outgrowth.core.document.values import FIT, GridTrack, Literals, Size, Value, is_repeated
from outgrowth.core.refusal import ValueRefusal, shown_value

MOST_TRACKS = 200
"""Columns, and rows, that can be listed."""


class TracksType(msgspec.Struct, frozen=True):
    """The columns or rows of a grid: a list of sizes, or {"least": size, "most": size, "repeat":
    "fit" or "fill"} for one with bounds, or one that comes as often as it has room."""

    def check(self, value: Value) -> tuple[Size, ...]:
        tracks = tuple([_checked_track(track, _TRACK.check) for track in _tracks(value)])
        if len(tracks) > MOST_TRACKS:
            raise ValueRefusal(f"A grid has at most {MOST_TRACKS} columns and as many rows.")
        if any(map(is_repeated, tracks)):
            _check_repeated(tracks)
        return tracks

    def fit(self, value: Value) -> tuple[Size, ...]:
        tracks = _tracks(value)[:MOST_TRACKS]
        return self.check(tuple([_checked_track(track, _TRACK.fit) for track in tracks]))

    def read(self, data: Json) -> tuple[Size, ...]:
        if not isinstance(data, list):
            raise ValueRefusal(f"{shown_value(data)} is not a list of columns or rows.")
        return self.check(tuple([_read_track(item) for item in data]))

    def write(self, value: Literals) -> Json:
        return [_written_track(track) for track in self.check(value)]

    def schema(self) -> JsonObject:
        size = _TRACK.schema()
        bounded: JsonObject = {
            "type": "object",
            "properties": {"least": size, "most": size, "repeat": {"enum": ["fit", "fill"]}},
            "required": ["most"],
            "additionalProperties": False,
        }
        items: JsonObject = {"anyOf": [size, bounded]}
        return {"type": "array", "items": items, "maxItems": MOST_TRACKS}


_TRACK = SizeType(("fixed", "fit", "grow", "percent"))
_LEAST_TRACK = SizeType(("fixed", "fit", "percent"))


def _tracks(value: Value) -> tuple[Size, ...]:
    if not isinstance(value, tuple) or not all(isinstance(track, Size) for track in value):
        raise ValueRefusal(f"{shown_value(value)} is not a list of columns or rows.")
    return tuple([track for track in value if isinstance(track, Size)])


def _checked_track(track: Size, check: Callable[[Size], Size]) -> Size:
    """The track, a plain size where it has no bound and comes once."""
    if not isinstance(track, GridTrack):
        return check(track)
    most, least = check(track.most), track.least
    if track.repeat not in ("", "fit", "fill"):
        raise ValueRefusal(f"{shown_value(track.repeat)} is not a way to repeat a column.")
    if least is not None:
        least = _LEAST_TRACK.check(least)
        fits = least == FIT and most.mode in ("fit", "grow")  # never less than what is in it
        least = None if fits or least == most else least
    if least is None and not track.repeat:
        return most
    return GridTrack(most.mode, most.amount, "", least, track.repeat)


def _check_repeated(tracks: tuple[Size, ...]) -> None:
    """How many fit has to be known by numbers alone. Source: CSS Grid 1, section 7.2.3.1."""
    if sum(map(is_repeated, tracks)) > 1:
        raise ValueRefusal("Only one column or row of a grid can come as often as there is room.")
    for track in tracks:
        sizes = (track.most, track.least) if isinstance(track, GridTrack) else (track,)
        given = [s.amount for s in sizes if s is not None and s.mode in ("fixed", "percent")]
        if not given:
            raise ValueRefusal(
                "Beside one that comes as often as there is room every column has a size in px "
                "or per cent, or a least one: at least 80, for instance."
            )
        if is_repeated(track) and max(given) < 1.0:
            raise ValueRefusal("What comes as often as there is room is at least 1 px.")


def _read_track(data: Json) -> Size:
    if not isinstance(data, dict) or "most" not in data:
        return _TRACK.read(data)
    unknown = sorted(set(data) - {"least", "most", "repeat"})
    if unknown:
        raise ValueRefusal(f"{shown_value(unknown[0])} says nothing of a column or row.")
    most, repeat = _TRACK.read(data["most"]), data.get("repeat", "")
    least = _LEAST_TRACK.read(data["least"]) if "least" in data else None
    if repeat not in ("", "fit", "fill"):
        raise ValueRefusal(f"{shown_value(repeat)} is not a way to repeat a column.")
    return GridTrack(most.mode, most.amount, "", least, repeat)  # type: ignore[arg-type]  # looked at


def _written_track(track: Size) -> Json:
    if not isinstance(track, GridTrack):
        return _TRACK.write(track)
    written: JsonObject = {"most": _TRACK.write(track.most)}
    if track.least is not None:
        written["least"] = _LEAST_TRACK.write(track.least)
    return written | {"repeat": track.repeat} if track.repeat else written
