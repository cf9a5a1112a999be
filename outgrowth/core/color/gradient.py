"""Gradients as CSS writes them: colours along a line, or out from a point.

Source: CSS Images 3, section 3. Lengths in px, repeats and circles are left out.
"""

from __future__ import annotations

import math
import re
from typing import Literal

import msgspec
import tinycss2
from tinycss2.ast import Node

from outgrowth.core.color.shift import darkened, faded
from outgrowth.core.color.srgb import Color, ColorRefusal, parse

_FORM = re.compile(r"(linear|radial)-gradient\((.*)\)", re.IGNORECASE | re.DOTALL)
_ANGLE = re.compile(r"(-?(?:\d{1,20}\.?|\d{0,20}\.\d{1,20})(?:e[+-]?\d{1,3})?)deg", re.IGNORECASE)
# Letters that a gradient may have: over 32 stops in any notation.
_LONGEST = 8_000
_MOST_DEGREES = 36_000.0
_PERCENT = r"(-?\d{1,6}(?:\.\d{1,12})?)%"
_ROUND = re.compile(
    rf"(?:ellipse\s*)?(?:{_PERCENT}\s+{_PERCENT})?\s*(?:at\s+(\S+)(?:\s+(\S+))?)?", re.IGNORECASE
)
_PLACES = {"left": 0.0, "top": 0.0, "center": 50.0, "right": 100.0, "bottom": 100.0}
_MOST_PERCENT = 100_000.0
_SIDES = {"to top": 0.0, "to right": 90.0, "to bottom": 180.0, "to left": 270.0}
_MOST_STOPS = 32


MIDDLE = (50.0, 50.0)
"""Where a radial gradient begins if nothing is said."""


class Stop(msgspec.Struct, frozen=True):
    """A colour, and where it stands: 0 is the start, 1 the end."""

    color: Color
    at: float


class Gradient(msgspec.Struct, frozen=True):
    """Two stops or more in order. `angle` is that of CSS: degrees clockwise, 0 to the top.
    A radial one begins at `center` and reaches as far as `radii`, in per cent of the width
    and the height of what is filled; without radii, to the farthest corner."""

    kind: Literal["linear", "radial"]
    stops: tuple[Stop, ...]
    angle: float = 180.0
    center: tuple[float, float] = MIDDLE
    radii: tuple[float, float] | None = None

    @property
    def alpha(self) -> float:
        """That of its most solid stop: 0 is nothing to draw."""
        return max(stop.color.alpha for stop in self.stops)

    @property
    def css(self) -> str:
        """In CSS notation, which the file keeps too."""
        stops = ", ".join(f"{stop.color.hex} {stop.at * 100:.6g}%" for stop in self.stops)
        lead = f"{self.angle:.6g}deg" if self.kind == "linear" else self._css_ellipse
        return f"{self.kind}-gradient({lead}{', ' if lead else ''}{stops})"

    @property
    def _css_ellipse(self) -> str:
        words = [f"{_percent(n)}%" for n in self.radii or ()]
        if self.center != MIDDLE:
            words += ["at", *(f"{_percent(n)}%" for n in self.center)]
        return " ".join(words)

    def recolored(self, how: Literal["darken", "fade"], share: float) -> Gradient:
        """Every stop darker, or fainter, by a share."""
        recolored = darkened if how == "darken" else faded
        stops = tuple(Stop(recolored(stop.color, share), stop.at) for stop in self.stops)
        return msgspec.structs.replace(self, stops=stops)

    def line(self, width: float, height: float) -> tuple[float, float, float, float]:
        """Start and end of a linear gradient in a box of this size (section 3.1)."""
        angle = math.radians(self.angle)
        dx, dy = math.sin(angle), -math.cos(angle)
        half = (abs(width * dx) + abs(height * dy)) / 2
        x, y = width / 2, height / 2
        return x - dx * half, y - dy * half, x + dx * half, y + dy * half

    def ellipse(self, width: float, height: float) -> tuple[float, float, float, float]:
        """The middle and the radii of a radial gradient in a box of this size, in px. Source:
        section 3.2 (farthest-corner: as wide by high as the farthest sides are away)."""
        x, y = self.center[0] / 100 * width, self.center[1] / 100 * height
        if self.radii is not None:
            across, down = self.radii[0] / 100 * width, self.radii[1] / 100 * height
        else:
            across = max(abs(x), abs(width - x)) * math.sqrt(2)
            down = max(abs(y), abs(height - y)) * math.sqrt(2)
        return x, y, max(across, _LEAST_RADIUS), max(down, _LEAST_RADIUS)

    def within(
        self, size: tuple[float, float], part: tuple[float, float, float, float]
    ) -> tuple[Color, ...]:
        """Colours that a part (left, top, right, bottom; px) of a box of this size has: at its
        ends along the gradient, at the stops between, and at steps."""
        left, top, right, bottom = part
        corners = [(x, y) for x in (left, right) for y in (top, bottom)]
        if self.kind == "linear":
            x, y, end_x, end_y = self.line(*size)
            square = ((end_x - x) ** 2 + (end_y - y) ** 2) or 1.0
            shares = [((a - x) * (end_x - x) + (b - y) * (end_y - y)) / square for a, b in corners]
        else:
            x, y, across, down = self.ellipse(*size)
            nearest = min(max(x, left), right), min(max(y, top), bottom)
            shares = [math.hypot((a - x) / across, (b - y) / down) for a, b in (*corners, nearest)]
        first, last = min(shares), max(shares)
        places = [first + (last - first) * n / _STEPS for n in range(_STEPS + 1)]
        places += [stop.at for stop in self.stops if first < stop.at < last]
        return tuple(dict.fromkeys(self.color_at(place) for place in places))

    def color_at(self, share: float) -> Color:
        """The colour at a share of the way, mixed premultiplied. Source: CSS Images 3, 3.4.3."""
        before = [stop for stop in self.stops if stop.at <= share]
        after = [stop for stop in self.stops if stop.at > share]
        if not before or not after:
            return (before[-1] if before else after[0]).color
        one, two = before[-1], after[0]
        weight = (share - one.at) / (two.at - one.at)
        alpha = one.color.alpha * (1 - weight) + two.color.alpha * weight
        if alpha <= 0:
            return two.color.with_alpha(0.0)
        near, far = one.color.alpha * (1 - weight) / alpha, two.color.alpha * weight / alpha
        return Color(
            one.color.red * near + two.color.red * far,
            one.color.green * near + two.color.green * far,
            one.color.blue * near + two.color.blue * far,
            alpha,
        )


_STEPS = 8
_LEAST_RADIUS = 1e-6
"""Px: with none at all, all would be the last colour, which this comes to."""


def _percent(number: float) -> str:
    return f"{round(number, 6) + 0.0:.12g}"


Fill = Color | Gradient


def parse_fill(text: str) -> Fill:
    """A gradient, or a colour, from CSS notation. Raises ColorRefusal."""
    if len(text) > _LONGEST:
        raise ColorRefusal(f"“{text[:40]}…” is not a colour: it has {len(text):,} letters.")
    match = _FORM.fullmatch(text.strip())
    if match is None:
        return parse(text)
    kind, parts = match.group(1).lower(), _parts(match.group(2))
    angle = 180.0
    if kind == "linear" and parts:
        said = _angle(parts[0])
        if said is not None:
            angle, parts = said, parts[1:]
    center, radii = MIDDLE, None
    if kind == "radial" and parts:
        ellipse = _ellipse(parts[0])
        if ellipse is not None:
            (center, radii), parts = ellipse, parts[1:]
    stops = _placed([_stop(part) for part in parts])
    if not 2 <= len(stops) <= _MOST_STOPS:
        raise ColorRefusal(
            f"A gradient has from 2 to {_MOST_STOPS} colours; this has {len(stops)}."
        )
    return Gradient("linear" if kind == "linear" else "radial", stops, angle, center, radii)


def _ellipse(part: str) -> tuple[tuple[float, float], tuple[float, float] | None] | None:
    """Where a radial gradient begins and how far it reaches; None for words that say neither."""
    match = _ROUND.fullmatch(" ".join(part.split()))
    if match is None or not part:
        return None
    across, down, x, y = match.groups()
    center = MIDDLE
    if x is not None:
        center = _place(x), 50.0 if y is None else _place(y)
        if x.lower() in ("top", "bottom"):  # the first word says which side it is of
            center = center[1], center[0]
    radii = (_within(float(across)), _within(float(down))) if across is not None else None
    return center, radii


def _place(word: str) -> float:
    if word.lower() in _PLACES:
        return _PLACES[word.lower()]
    try:
        if word.endswith("%"):
            return _within(float(word[:-1]))
    except ValueError:
        pass
    raise ColorRefusal(f"“{word[:40]}” is no place of a gradient: write one like 30%.")


def _within(percent: float) -> float:
    """A share as it is kept: within what can be drawn, in millionths."""
    if percent != percent:
        raise ColorRefusal("A gradient's place has to be a number.")
    return round(min(max(percent, -_MOST_PERCENT), _MOST_PERCENT), 6) + 0.0


def _parts(text: str) -> list[str]:
    """What stands between the commas that are in no bracket, without comments."""
    parts: list[list[Node]] = [[]]
    for value in tinycss2.parse_component_value_list(text, skip_comments=True):
        if value.type == "literal" and value.value == ",":
            parts.append([])
        else:
            parts[-1].append(value)
    texts = (tinycss2.serialize(part).strip() for part in parts)
    return [part for part in texts if part]


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
            raise ColorRefusal(
                f"“{part}” is not a colour and a place like #1F4E5F 40%."
            ) from problem
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
