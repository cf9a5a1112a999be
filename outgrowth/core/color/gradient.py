"""Gradients as CSS writes them: colours along a line, or out from the middle.

Source: CSS Images 3, section 3. Lengths, repeats and other centres are left out.
"""

from __future__ import annotations

import math
import re
from typing import Literal

import msgspec

from outgrowth.core.color.shift import darkened, faded
from outgrowth.core.color.srgb import Color, ColorError, parse

_FORM = re.compile(r"(linear|radial)-gradient\((.*)\)", re.IGNORECASE | re.DOTALL)
_ANGLE = re.compile(r"(-?(?:\d{1,20}\.?|\d{0,20}\.\d{1,20})(?:e[+-]?\d{1,3})?)deg", re.IGNORECASE)
# Letters that a gradient may have: over 32 stops in any notation.
_LONGEST = 8_000
_MOST_DEGREES = 36_000.0
_SIDES = {"to top": 0.0, "to right": 90.0, "to bottom": 180.0, "to left": 270.0}
_MOST_STOPS = 32


class Stop(msgspec.Struct, frozen=True):
    """A colour, and where it stands: 0 is the start, 1 the end."""

    color: Color
    at: float


class Gradient(msgspec.Struct, frozen=True):
    """Two stops or more in order. `angle` is that of CSS: degrees clockwise, 0 to the top;
    a radial one reaches from the middle to the farthest corner."""

    kind: Literal["linear", "radial"]
    stops: tuple[Stop, ...]
    angle: float = 180.0

    @property
    def alpha(self) -> float:
        """That of its most solid stop: 0 is nothing to draw."""
        return max(stop.color.alpha for stop in self.stops)

    @property
    def css(self) -> str:
        """In CSS notation, which the file keeps too."""
        stops = ", ".join(f"{stop.color.hex} {stop.at * 100:.6g}%" for stop in self.stops)
        lead = f"{self.angle:.6g}deg, " if self.kind == "linear" else ""
        return f"{self.kind}-gradient({lead}{stops})"

    def recolored(self, how: Literal["darken", "fade"], share: float) -> Gradient:
        """Every stop darker, or fainter, by a share."""
        change = darkened if how == "darken" else faded
        stops = tuple(Stop(change(stop.color, share), stop.at) for stop in self.stops)
        return msgspec.structs.replace(self, stops=stops)

    def line(self, width: float, height: float) -> tuple[float, float, float, float]:
        """Start and end of a linear gradient in a box of this size (section 3.1)."""
        angle = math.radians(self.angle)
        dx, dy = math.sin(angle), -math.cos(angle)
        half = (abs(width * dx) + abs(height * dy)) / 2
        x, y = width / 2, height / 2
        return x - dx * half, y - dy * half, x + dx * half, y + dy * half


Fill = Color | Gradient


def parse_fill(text: str) -> Fill:
    """A gradient, or a colour, from CSS notation. Raises ColorError."""
    if len(text) > _LONGEST:
        raise ColorError(f"“{text[:40]}…” is not a colour: it has {len(text):,} letters.")
    match = _FORM.fullmatch(text.strip())
    if match is None:
        return parse(text)
    kind, parts = match.group(1).lower(), _parts(match.group(2))
    angle = 180.0
    if kind == "linear" and parts:
        said = _angle(parts[0])
        if said is not None:
            angle, parts = said, parts[1:]
    stops = _placed([_stop(part) for part in parts])
    if not 2 <= len(stops) <= _MOST_STOPS:
        raise ColorError(f"A gradient has from 2 to {_MOST_STOPS} colours; this has {len(stops)}.")
    return Gradient("linear" if kind == "linear" else "radial", stops, angle)


def _parts(text: str) -> list[str]:
    """What stands between the commas that are in no bracket."""
    results, depth, start = [], 0, 0
    for n, letter in enumerate(text):
        depth += (letter == "(") - (letter == ")")
        if letter == "," and not depth:
            results.append(text[start:n].strip())
            start = n + 1
    return [part for part in (*results, text[start:].strip()) if part]


def _angle(part: str) -> float | None:
    degrees = _ANGLE.fullmatch(part)
    if degrees is not None:
        return min(max(float(degrees.group(1)), -_MOST_DEGREES), _MOST_DEGREES)
    return _SIDES.get(" ".join(part.lower().split()))


def _stop(part: str) -> tuple[Color, float | None]:
    color, _, last = part.rpartition(" ")
    if last.endswith("%"):
        try:
            share = float(last[:-1]) / 100
            if share == share:
                return parse(color), min(max(share, 0.0), 1.0)
        except ValueError as problem:
            raise ColorError(f"“{part}” is not a colour and a place like #1F4E5F 40%.") from problem
    return parse(part), None


def _placed(stops: list[tuple[Color, float | None]]) -> tuple[Stop, ...]:
    """Stops without a place spread evenly between their neighbours; none before the one
    ahead of it (section 3.5.3)."""
    places = [position for _, position in stops]
    if places and places[0] is None:
        places[0] = 0.0
    if places and places[-1] is None:
        places[-1] = 1.0
    numbers: list[float] = []
    for n, position in enumerate(places):
        if position is None:
            end = next(m for m in range(n, len(places)) if places[m] is not None)
            before, after = numbers[n - 1], places[end] or 0.0
            position = before + (after - before) / (end - n + 1)
        numbers.append(max(position, numbers[-1]) if numbers else position)
    return tuple(Stop(color, position) for (color, _), position in zip(stops, numbers, strict=True))
