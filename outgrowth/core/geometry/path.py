"""Path outlines from SVG path data, as segments that any backend can follow.

fontTools reads the grammar; what it emits is kept as the calls of its pen protocol.
"""

from __future__ import annotations

from functools import lru_cache

from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path.parser import parse_path

Point = tuple[float, float]
Segment = tuple[str, tuple[Point, ...]]


class PathError(ValueError):
    """The path data cannot be read; the message is a sentence for the user."""


@lru_cache(maxsize=1024)
def outline(data: str) -> tuple[Segment, ...]:
    """The segments (moveTo, lineTo, curveTo, qCurveTo, closePath, endPath) of path data.

    Raises PathError. Source: SVG 2, section 9.3 (path data).
    """
    pen = RecordingPen()
    try:
        parse_path(data, pen)
    except (ValueError, IndexError, AssertionError, TypeError) as problem:
        raise PathError("The path cannot be read: its data breaks SVG's path grammar.") from problem
    return tuple((name, tuple(points)) for name, points in pen.value)
