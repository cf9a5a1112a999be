"""The marks that a display list is made of, in the coordinates of their node."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.color import Color, Fill
from outgrowth.core.document.values import Picture, Shadow
from outgrowth.core.text import GlyphRun

Radii = tuple[float, float, float, float]


class Box(NamedTuple):
    """A filled rounded rectangle at 0, 0."""

    width: float
    height: float
    radii: Radii
    color: Fill


class Ring(NamedTuple):
    """A line along the edge of a rounded rectangle at 0, 0: `lines` px thick at the top, the
    right, the bottom and the left, with the share `out` of it outside the edge."""

    width: float
    height: float
    radii: Radii
    lines: Radii
    out: float
    color: Color


class BoxShadow(NamedTuple):
    """A shadow of a rounded rectangle at 0, 0, as CSS box-shadow casts it."""

    width: float
    height: float
    radii: Radii
    shadow: Shadow


class Outline(NamedTuple):
    """SVG path data drawn at `scale`, filled and (line > 0, in path units) stroked. A
    gradient spans the box of `size`, in path units; `rule`, `ends` and `joins` are SVG's
    fill-rule, stroke-linecap and stroke-linejoin."""

    data: str
    scale: float
    dx: float
    dy: float
    fill: Fill
    stroke: Color
    line: float
    size: tuple[float, float]
    rule: str = "nonzero"
    ends: str = "round"
    joins: str = "round"


class Image(NamedTuple):
    """A picture in a rounded rectangle at 0, 0: cover, contain, stretch or tile. `focal` are the
    shares of its size that lie at the same shares of the room."""

    width: float
    height: float
    radii: Radii
    picture: Picture
    fit: str
    focal: tuple[float, float] = (0.5, 0.5)


class Glyphs(NamedTuple):
    """A glyph run with its start on the baseline at x, y."""

    x: float
    y: float
    run: GlyphRun
    color: Color


class Bar(NamedTuple):
    """A line along words: its left-top corner, its length and its thickness."""

    x: float
    y: float
    width: float
    line: float
    color: Color


Mark = Box | Bar | Ring | BoxShadow | Outline | Image | Glyphs
