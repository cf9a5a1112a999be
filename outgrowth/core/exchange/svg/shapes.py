"""Lengths, transforms and basic shapes of SVG, as numbers, affine maps and path data.

Source: SVG 2, sections 8 (coordinates), 9 (paths) and 10 (basic shapes).
"""

from __future__ import annotations

import math
import re
from xml.etree.ElementTree import Element

from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen
from fontTools.svgLib.path.parser import parse_path

from outgrowth.core.geometry import Affine, Rect
from outgrowth.core.geometry.path import PathRefusal, outline

_NUMBER = r"[-+]?(?:\d++\.?\d*+|\.\d++)(?:[eE][-+]?\d++)?"
_LENGTH = re.compile(rf"({_NUMBER})\s*+([a-z%]*+)", re.IGNORECASE)
_LONGEST_LENGTH = 100
# Letters of a single length, and of a list of numbers or steps, that are read.
_LONGEST_LIST = 200_000
_MOST_STEPS = 1_000
"""Of one transform, which each use of a part goes through again."""
_UNITS = {
    "": 1.0,
    "px": 1.0,
    "pt": 96 / 72,
    "pc": 16.0,
    "in": 96.0,
    "cm": 96 / 2.54,
    "mm": 96 / 25.4,
    "q": 96 / 101.6,
    "em": 16.0,
    "rem": 16.0,
    "ex": 8.0,
}
_FARTHEST = 100_000.0


SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")
"""The elements that have an outline."""


def length(text: str | None, default: float = 0.0, full_length: float = 100.0) -> float:
    """A length in px; a percentage is one of `full_length`. What cannot be read is the default."""
    match = _LENGTH.fullmatch(text.strip()[:_LONGEST_LENGTH]) if text else None
    if match is None:
        return default
    unit = match.group(2).lower()
    value = float(match.group(1))
    value *= full_length / 100 if unit == "%" else _UNITS.get(unit, 1.0)
    return min(max(value, -_FARTHEST), _FARTHEST) if math.isfinite(value) else default


def numbers(text: str | None) -> list[float]:
    """All numbers in a list, as of `points` and `viewBox`."""
    numbers = (float(n) for n in re.findall(_NUMBER, (text or "")[:_LONGEST_LIST]))
    return [min(max(n, -_FARTHEST), _FARTHEST) for n in numbers if math.isfinite(n)]


def transform(text: str | None) -> Affine:
    """A transform list, the first applied last. Source: CSS Transforms 1, section 8."""
    matrix = Affine()
    steps = (text or "")[:_LONGEST_LIST].split(")", _MOST_STEPS)
    if len(steps) > _MOST_STEPS:
        raise PathRefusal(f"it is moved in more than {_MOST_STEPS:,} steps")
    for step in steps:
        name, opened, inside = step.partition("(")
        if opened:
            matrix = _step(name.strip(" \t\r\n,").lower(), numbers(inside[:1_000])).then(matrix)
    if not all(abs(n) < _FARTHEST**2 for n in matrix):
        raise PathRefusal("it is moved too far")
    return matrix


def _step(name: str, n: list[float]) -> Affine:
    first, second = (*n, 0.0, 0.0)[:2]
    if name == "matrix" and len(n) == 6:
        return Affine(*n)
    if name == "translate":
        return Affine(e=first, f=second)
    if name == "scale" and n:
        return Affine(a=first, d=n[1] if len(n) > 1 else first)
    if name == "rotate" and n:
        turn = math.radians(first)
        x, y = (n[1], n[2]) if len(n) == 3 else (0.0, 0.0)
        spin = Affine(math.cos(turn), math.sin(turn), -math.sin(turn), math.cos(turn))
        return Affine(e=-x, f=-y).then(spin).then(Affine(e=x, f=y))
    if name == "skewx":
        return Affine(c=math.tan(math.radians(first)))
    if name == "skewy":
        return Affine(b=math.tan(math.radians(first)))
    return Affine()


def upright(m: Affine) -> bool:
    """Whether a map only moves and enlarges, so that a rectangle stays one."""
    return abs(m.b) < 1e-9 and abs(m.c) < 1e-9 and m.a > 0 and m.d > 0


def enlarges(m: Affine) -> float:
    """By how much lengths grow on average: the root of the area's growth."""
    return math.sqrt(abs(m.a * m.d - m.b * m.c))


def path_data(element: Element, room: tuple[float, float]) -> str:
    """The path of a basic shape or of `path`; empty where it draws nothing. `room` is what
    percentages refer to."""
    wide, high = room
    get = element.get
    if element.tag == "path":
        return get("d") or ""
    if element.tag == "rect":
        return _rect(rect_of(element, room), radii_of(element, room))
    if element.tag in ("circle", "ellipse"):
        ellipse_rect = round_of(element, room)
        rx, ry = ellipse_rect.width / 2, ellipse_rect.height / 2
        if rx <= 0 or ry <= 0:
            return ""
        # From the right, clockwise: dashes begin there. Source: SVG 2, section 10.3.
        left, right, y = ellipse_rect.x, ellipse_rect.right, ellipse_rect.y + ry
        arc = f"A{rx:.10g} {ry:.10g} 0 1 1"
        return f"M{right:.10g} {y:.10g}{arc} {left:.10g} {y:.10g}{arc} {right:.10g} {y:.10g}Z"
    if element.tag == "line":
        ends = [length(get(k), 0.0, wide if k[0] == "x" else high) for k in _ENDS]
        return f"M{ends[0]:.10g} {ends[1]:.10g}L{ends[2]:.10g} {ends[3]:.10g}"
    points = numbers(get("points"))
    pairs = [f"{x:.10g} {y:.10g}" for x, y in zip(points[::2], points[1::2], strict=False)]
    closed = "Z" if element.tag == "polygon" else ""
    return f"M{'L'.join(pairs)}{closed}" if pairs else ""


_ENDS = ("x1", "y1", "x2", "y2")


def rect_of(element: Element, room: tuple[float, float]) -> Rect:
    """Where a rectangle or an image lies, in its own coordinates."""
    wide, high = room
    x, y = length(element.get("x"), 0.0, wide), length(element.get("y"), 0.0, high)
    w, h = length(element.get("width"), 0.0, wide), length(element.get("height"), 0.0, high)
    return Rect(x, y, max(w, 0.0), max(h, 0.0))


def radii_of(element: Element, room: tuple[float, float]) -> tuple[float, float]:
    """The corners of a `rect`: one radius given stands for both; half a side at most."""
    rect = rect_of(element, room)
    radii = element.get("rx"), element.get("ry")
    rx = length(radii[0] if radii[0] not in (None, "auto") else radii[1], 0.0, room[0])
    ry = length(radii[1] if radii[1] not in (None, "auto") else radii[0], 0.0, room[1])
    return min(max(rx, 0.0), rect.width / 2), min(max(ry, 0.0), rect.height / 2)


def round_of(element: Element, room: tuple[float, float]) -> Rect:
    """The rectangle around a `circle` or an `ellipse`."""
    wide, high = room
    get = element.get
    x, y = length(get("cx"), 0.0, wide), length(get("cy"), 0.0, high)
    if element.tag == "circle":
        rx = ry = length(get("r"), 0.0, math.hypot(wide, high) / math.sqrt(2))
    else:
        rx = length(get("rx") or get("ry"), 0.0, wide)
        ry = length(get("ry") or get("rx"), 0.0, high)
    rx, ry = max(rx, 0.0), max(ry, 0.0)
    return Rect(x - rx, y - ry, 2 * rx, 2 * ry)


def _rect(rect: Rect, radii: tuple[float, float]) -> str:
    x, y, w, h = rect
    rx, ry = radii
    if w <= 0 or h <= 0:
        return ""
    if rx <= 0 or ry <= 0:
        return f"M{x:.10g} {y:.10g}h{w:.10g}v{h:.10g}h{-w:.10g}Z"
    arc = f"a{rx:.10g} {ry:.10g} 0 0 1"
    across, down = w - 2 * rx, h - 2 * ry
    return (
        f"M{x + rx:.10g} {y:.10g}h{across:.10g}{arc} {rx:.10g} {ry:.10g}v{down:.10g}"
        f"{arc} {-rx:.10g} {ry:.10g}h{-across:.10g}{arc} {-rx:.10g} {-ry:.10g}"
        f"v{-down:.10g}{arc} {rx:.10g} {-ry:.10g}Z"
    )


def moved_path(data: str, by: Affine) -> str:
    """Path data with a map applied to it. Raises PathRefusal."""
    outline(data)  # says what is wrong with it
    pen = SVGPathPen(None, ntos=lambda n: f"{round(n, 4) + 0.0:.9g}")
    parse_path(data, TransformPen(pen, by))
    return str(pen.getCommands())


def path_bounds(data: str) -> Rect | None:
    """The exact bounds of path data; None for none. Raises PathRefusal."""
    pen = BoundsPen(None)
    for call, points in outline(data):
        getattr(pen, call)(*points)
    if pen.bounds is None:
        return None
    left, top, right, bottom = pen.bounds
    if not all(math.isfinite(n) for n in pen.bounds):
        raise PathRefusal("The path reaches too far to be drawn.")
    return Rect(left, top, right - left, bottom - top)
