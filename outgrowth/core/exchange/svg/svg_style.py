"""What an SVG element looks like: inherited properties, colours and gradients.

Source: SVG 2, sections 6 (styling), 13 (painting) and 14 (paint servers). What style sheets say
stands in style_sheet.py.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import islice
from typing import NamedTuple
from xml.etree.ElementTree import Element

from outgrowth.core.color import Color, ColorRefusal, Fill, Gradient, parse
from outgrowth.core.color.gradient import Stop
from outgrowth.core.color.shift import faded
from outgrowth.core.color.srgb import TRANSPARENT
from outgrowth.core.exchange.svg.shapes import length, transform
from outgrowth.core.exchange.svg.style_sheet import (
    INHERITED,
    KNOWN,
    LONGEST_VALUE,
    DrawingStyleSheet,
    reference_of,
)
from outgrowth.core.geometry import Affine, Rect

SvgStyle = Mapping[str, str]
# Gradients that refer to each other.
_DEEPEST_CHAIN = 32


def svg_style_of(element: Element, outer: SvgStyle, sheet: DrawingStyleSheet) -> dict[str, str]:
    """What holds for an element: what it inherits, its attributes, rules, own style, and what of
    these two is important."""
    inherited = {name: value for name, value in outer.items() if name in INHERITED}
    rules, own = sheet.declared(element), sheet.own(element)
    stated = element.attrib | rules.usual | own.usual | rules.important | own.important
    return inherited | {
        name: value
        for name, value in stated.items()
        if name in KNOWN and value != "inherit" and len(value) <= LONGEST_VALUE
    }


def share(text: str | None, default: float = 1.0) -> float:
    """An opacity: a number or a percentage, from 0 to 1."""
    return min(max(length(text, default, 1.0), 0.0), 1.0)


class Paints(NamedTuple):
    """The paint servers of a drawing, by id; `current` is what currentColor starts as, `known`
    the stops of gradients that were read already."""

    servers: Mapping[str, Element]
    sheet: DrawingStyleSheet
    current: Color
    known: dict[Element, list[Stop]]

    def color(self, text: str, look: SvgStyle) -> Color | None:
        """A plain colour; None where it is none that we know."""
        said = text.strip()
        if said.lower() == "currentcolor":
            named = look.get("color", "currentcolor")
            return self.current if named.lower() == "currentcolor" else self.color(named, {})
        if said.lower() in ("none", "transparent"):
            return TRANSPARENT
        try:
            return parse(said)
        except ColorRefusal:
            return None

    def fill(
        self, look: SvgStyle, room: Rect, to_root: Affine, bounds: Rect | None = None
    ) -> tuple[Fill, str]:
        """What a shape is filled with, and what of it was left out ("" for nothing).

        `room` is its bounding box in its own coordinates, `to_root` what is done to them, and
        `bounds` where of the root it is drawn, if that is not all of the room.
        """
        text = look.get("fill", "black")
        fade = 1.0 - share(look.get("fill-opacity"))
        server = (
            reference_of(text) if "url" in text.lower() and len(text) <= _LONGEST_PAINT else None
        )
        if server is None:
            color = self.color(text, look)
            if color is None:
                return TRANSPARENT, f"the fill “{text[:40]}”"
            return faded(color, fade) if fade else color, ""
        element = self.servers.get(server[0])
        if element is None or element.tag not in ("linearGradient", "radialGradient"):
            spare = self.color(server[1] or "none", look) or TRANSPARENT
            return spare, f"the fill by a {element.tag if element is not None else 'lost part'}"
        result, lost = self._gradient(
            element, room, to_root, to_root.bounds(room) if bounds is None else bounds
        )
        if isinstance(result, Gradient):
            return (result.recolored("fade", fade) if fade else result), lost
        return (faded(result, fade) if fade else result), lost

    def _gradient(
        self, element: Element, room: Rect, to_root: Affine, bounds: Rect
    ) -> tuple[Fill, str]:
        chain = self._chain(element)
        stops = self.known.get(element)
        if stops is None:
            stops = self.known[element] = self._stops(chain)
        if not stops:
            return TRANSPARENT, ""
        if len(stops) == 1:
            return stops[0].color, ""
        attributes = {k: v for e in reversed(chain) for k, v in e.attrib.items()}
        boxed = attributes.get("gradientUnits", "objectBoundingBox") == "objectBoundingBox"
        place = transform(attributes.get("gradientTransform"))
        if boxed:
            place = place.then(Affine(a=room.width, d=room.height, e=room.x, f=room.y))
        place = place.then(to_root)
        lost = (
            [] if attributes.get("spreadMethod", "pad") == "pad" else ["the repeat of its gradient"]
        )
        if element.tag == "linearGradient":
            return _linear(attributes, place, bounds, stops, boxed), " and ".join(lost)
        gradient, moved = _radial(attributes, place, bounds, stops, boxed)
        return gradient, " and ".join([*lost, *(["the place of its gradient"] if moved else [])])

    def _chain(self, element: Element) -> list[Element]:
        """A gradient and those that it refers to, each once."""
        chain = [element]
        while len(chain) < _DEEPEST_CHAIN and (ref := chain[-1].get("href", "")).startswith("#"):
            referred = self.servers.get(ref[1:])
            if referred is None or referred in chain:
                break
            chain.append(referred)
        return chain

    def _stops(self, chain: list[Element]) -> list[Stop]:
        holder = next((e for e in chain if e.find("stop") is not None), None)
        stops: list[Stop] = []
        for stop in islice(holder.iterfind("stop"), _MOST_STOPS) if holder is not None else ():
            look = svg_style_of(stop, {}, self.sheet)
            color = self.color(look.get("stop-color", "black"), look) or TRANSPARENT
            fade = 1.0 - share(look.get("stop-opacity"))
            offset = min(max(length(stop.get("offset"), 0.0, 1.0), 0.0), 1.0)
            offset = max(offset, stops[-1].at) if stops else offset
            stops.append(Stop(faded(color, fade) if fade else color, offset))
        return stops


_MOST_STOPS = 30
_LONGEST_PAINT = 500


def _linear(
    attributes: Mapping[str, str], place: Affine, rect: Rect, stops: list[Stop], boxed: bool
) -> Fill:
    """The same gradient along CSS's line: the share along it is a linear function of x and
    y in SVG as in CSS, so only its direction and its two ends have to be said anew."""
    unit = 1.0 if boxed else 100.0
    x1, y1 = length(attributes.get("x1"), 0.0, unit), length(attributes.get("y1"), 0.0, unit)
    x2, y2 = length(attributes.get("x2"), unit, unit), length(attributes.get("y2"), 0.0, unit)
    dx, dy = x2 - x1, y2 - y1
    back = place.inverse()
    if back is None or (not dx and not dy):
        return stops[-1].color
    long = dx * dx + dy * dy
    # share = (back(p) − start) · d / |d|²: its slope in the root's coordinates.
    a = (back.a * dx + back.b * dy) / long
    b = (back.c * dx + back.d * dy) / long
    steep = math.hypot(a, b)
    if steep < 1e-12:
        return stops[-1].color
    cx, cy = rect.center
    mx, my = back.apply(cx, cy)
    middle = ((mx - x1) * dx + (my - y1) * dy) / long
    ux, uy = a / steep, b / steep
    line = abs(rect.width * ux) + abs(rect.height * uy) or 1.0
    placed = [Stop(s.color, (s.at - middle) / steep / line + 0.5) for s in stops]
    return Gradient("linear", within(placed), math.degrees(math.atan2(ux, -uy)) % 360)


def _radial(
    attributes: Mapping[str, str], place: Affine, rect: Rect, stops: list[Stop], boxed: bool
) -> tuple[Fill, bool]:
    """As a gradient from its point as far as it reaches, and whether that moved it."""
    unit = 1.0 if boxed else 100.0
    cx, cy = (
        length(attributes.get("cx"), unit / 2, unit),
        length(attributes.get("cy"), unit / 2, unit),
    )
    radius = length(attributes.get("r"), unit / 2, unit)
    x, y = place.apply(cx, cy)
    # An ellipse that lies askew has no notation in CSS: it is taken with its axes upright.
    across, down = math.hypot(place.a, place.c), math.hypot(place.b, place.d)
    askew = abs(place.a * place.b + place.c * place.d) > 0.02 * max(across * down, 1e-9)
    wide, high = rect.width or 1.0, rect.height or 1.0
    center = 100 * (x - rect.x) / wide, 100 * (y - rect.y) / high
    fx, fy = length(attributes.get("fx"), cx, unit), length(attributes.get("fy"), cy, unit)
    focused = abs(fx - cx) + abs(fy - cy) > 0.02 * radius
    radii = 100 * across * radius / wide, 100 * down * radius / high
    return Gradient("radial", tuple(stops), center=center, radii=radii), askew or focused


def within(stops: list[Stop]) -> tuple[Stop, ...]:
    """Stops cut to 0 … 1, with the colours that hold at the cuts."""
    inside = [s for s in stops if 0.0 < s.at < 1.0]
    return (Stop(_color_at(stops, 0.0), 0.0), *inside, Stop(_color_at(stops, 1.0), 1.0))


def _color_at(stops: list[Stop], position: float) -> Color:
    """The colour at a place, mixed as browsers mix it: with its alpha multiplied in."""
    before = [s for s in stops if s.at <= position]
    after = [s for s in stops if s.at > position]
    if not before or not after:
        return (before[-1] if before else after[0]).color
    lower, upper = before[-1], after[0]
    part = (position - lower.at) / (upper.at - lower.at)
    alpha = lower.color.alpha * (1 - part) + upper.color.alpha * part
    if alpha <= 0:
        return lower.color
    red, green, blue = [
        (p * lower.color.alpha * (1 - part) + q * upper.color.alpha * part) / alpha
        for p, q in zip(_channels(lower.color), _channels(upper.color), strict=True)
    ]
    return Color(red, green, blue, alpha)


def _channels(color: Color) -> tuple[float, float, float]:
    return color.red, color.green, color.blue
