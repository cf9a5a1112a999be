"""The words of an SVG drawing, cut where it gives them a new place.

Source: SVG 2, section 11 (text); white space as by default, collapsed.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple
from xml.etree.ElementTree import Element

from outgrowth.core.document.values import Run
from outgrowth.core.exchange.svg.shapes import length
from outgrowth.core.exchange.svg.style_sheet import DrawingStyleSheet
from outgrowth.core.exchange.svg.svg_style import SvgStyle, svg_style_of

_WEIGHTS = {"normal": 400.0, "bold": 700.0, "lighter": 300.0, "bolder": 700.0}


class TextChunk(NamedTuple):
    """Words that are placed together: where their baseline begins."""

    x: float
    y: float
    look: SvgStyle
    runs: list[Run]


def chunks(
    element: Element, look: SvgStyle, room: tuple[float, float], sheet: DrawingStyleSheet
) -> list[TextChunk]:
    """The words of a text, cut where SVG gives a new place."""
    wide, high = room
    chunks_with_words = [
        TextChunk(
            _first(element, "x", 0.0, wide) + _first(element, "dx", 0.0, wide),
            _first(element, "y", 0.0, high) + _first(element, "dy", 0.0, high),
            look,
            [],
        )
    ]
    base = weight_of(look)
    for words, of, placed in _spelled(element, look, sheet):
        last = chunks_with_words[-1]
        if placed is not None and (last.runs or last.look is not of):
            x = _first(placed, "x", last.x, wide) + _first(placed, "dx", 0.0, wide)
            y = _first(placed, "y", last.y, high) + _first(placed, "dy", 0.0, high)
            chunks_with_words.append(TextChunk(x, y, of, []))
            base = weight_of(of)
        spaced = re.sub(r"\s+", " ", words)
        if not chunks_with_words[-1].runs:
            spaced = spaced.lstrip()
        if spaced:
            bold = weight_of(of) >= 600 > base
            slanted = of.get("font-style", "normal") != "normal"
            upright_base = chunks_with_words[-1].look.get("font-style", "normal") == "normal"
            chunks_with_words[-1].runs.append(Run(spaced, bold, slanted and upright_base))
    return chunks_with_words


def _spelled(
    element: Element, look: SvgStyle, sheet: DrawingStyleSheet
) -> Iterator[tuple[str, SvgStyle, Element | None]]:
    """Every stretch of words, how it looks, and the element that gives it a new place."""
    if element.text:
        yield element.text, look, element if element.tag == "tspan" and _moves(element) else None
    for child in element:
        if child.tag in ("tspan", "a"):
            inner = svg_style_of(child, look, sheet)
            yield from _spelled(child, inner, sheet)
        if child.tail:
            yield child.tail, look, None


def _moves(element: Element) -> bool:
    return any(element.get(k) is not None for k in ("x", "y", "dy"))


def _first(element: Element, name: str, default: float, full_length: float) -> float:
    parts = (element.get(name) or "").replace(",", " ").split()
    return length(parts[0], default, full_length) if parts else default


def weight_of(look: SvgStyle) -> float:
    """How bold the letters are, in CSS numbers."""
    weight = look.get("font-weight", "normal")
    return min(max(_WEIGHTS.get(weight, length(weight, 400.0)), 1.0), 1000.0)
