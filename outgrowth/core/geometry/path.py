"""Path outlines from SVG path data, as segments that any backend can follow.

fontTools reads the grammar; what it emits is kept as the calls of its pen protocol.
"""

from __future__ import annotations

import math
from functools import lru_cache

from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path.parser import parse_path

from outgrowth.core.refusal import Refusal

Point = tuple[float, float]
Segment = tuple[str, tuple[Point, ...]]

FARTHEST = 1e7
"""Units that a path may reach from its origin; painters count in single precision."""


class PathRefusal(Refusal):
    """The path data cannot be read; the message is a sentence for the user."""


@lru_cache(maxsize=1024)
def outline(data: str) -> tuple[Segment, ...]:
    """The segments (moveTo, lineTo, curveTo, qCurveTo, closePath, endPath) of path data.

    Raises PathRefusal. Source: SVG 2, section 9.3 (path data).
    """
    pen = RecordingPen()
    try:
        parse_path(data, pen)
    except (ValueError, IndexError, AssertionError, TypeError, ArithmeticError) as problem:
        raise PathRefusal(
            "The path cannot be read: its data breaks SVG's path grammar."
        ) from problem
    segments = tuple((name, tuple(points)) for name, points in pen.value)
    if not all(
        abs(n) <= FARTHEST for _, points in segments for point in points for n in point or ()
    ):
        raise PathRefusal("The path reaches too far to be drawn.")
    return segments


def ellipse(width: float, height: float, arc: tuple[float, float], thickness: float) -> str:
    """Path data of an ellipse in a box of this size.

    arc        where it begins (degrees clockwise from the top) and how far it reaches; a
               full turn is the whole ellipse
    thickness  px of the ring that is left; 0 is a disc, or a slice of it

    Empty where nothing is left of it. Source of the arc notation: SVG 2, section 9.3.8.
    """
    rx, ry = width / 2, height / 2
    start, sweep = arc
    if rx <= 0 or ry <= 0 or not sweep:
        return ""
    inner = max(rx - thickness, 0.0), max(ry - thickness, 0.0)
    hollow = thickness > 0 and inner[0] > 0 and inner[1] > 0
    if abs(sweep) >= 360:
        hole = _turn((rx, ry), inner, 0.0, -359.999) + "Z" if hollow else ""
        return _turn((rx, ry), (rx, ry), 0.0, 359.999) + "Z" + hole
    outside = _turn((rx, ry), (rx, ry), start, sweep)
    if not hollow:
        return f"{outside}L{rx:.6g} {ry:.6g}Z"
    back = _turn((rx, ry), inner, start + sweep, -sweep)
    return f"{outside}L{back[1:]}Z"


def _turn(center: Point, radii: Point, start: float, sweep: float) -> str:
    """A move to where an arc begins, and the arc."""
    begin, end = (_on(center, radii, angle) for angle in (start, start + sweep))
    large, clockwise = int(abs(sweep) > 180), int(sweep > 0)
    size = f"{radii[0]:.6g} {radii[1]:.6g}"
    return f"M{begin}A{size} 0 {large} {clockwise} {end}"


def _on(center: Point, radii: Point, degrees: float) -> str:
    angle = math.radians(degrees)
    x, y = center[0] + radii[0] * math.sin(angle), center[1] - radii[1] * math.cos(angle)
    return f"{x:.6g} {y:.6g}"
