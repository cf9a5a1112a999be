"""Shapes as SVG elements whose numbers a style sheet can change.

A ring, an arc and a sector are one stroked ellipse each: as thick as the ring, dashed as far as
the arc reaches, turned to where it begins. So a sweep is one number that can be tweened.
"""

from __future__ import annotations

from outgrowth.core.color import Gradient
from outgrowth.core.exchange.web.css import Css
from outgrowth.core.exchange.web.symbols import color_text, number_text
from outgrowth.core.resolve.scene import PaintStyle


def is_round(paint: PaintStyle) -> bool:
    """Whether it is drawn by a stroked ellipse: a ring, an arc or a sector without a line."""
    whole = abs(paint.arc_sweep) >= 360 and not paint.thickness
    return paint.form == "ellipse" and not whole


def shape_css(paint: PaintStyle) -> Css:
    """The CSS of the element that draws the shape."""
    fill = "" if isinstance(paint.fill, Gradient) else color_text(paint.fill)
    if is_round(paint):
        return _round(paint, fill)
    css = {"fill": fill} if fill else {}
    css["stroke"] = color_text(paint.stroke)
    css["stroke-width"] = number_text(paint.line_width)
    return css


def _round(paint: PaintStyle, fill: str) -> Css:
    thickness = number_text(paint.thickness)
    half = f"calc(50% - {thickness}px / 2)" if paint.thickness else "25%"
    start = paint.arc_start + min(paint.arc_sweep, 0.0)
    # A whole ring is not turned: its box may be longer than high.
    turn = f"{number_text(start - 90)}deg" if abs(paint.arc_sweep) < 360 else "0deg"
    return {
        "fill": "none",
        "stroke": fill,
        "stroke-width": f"{thickness}px" if paint.thickness else "50%",
        "rx": half,
        "ry": half,
        "stroke-dasharray": f"{number_text(min(abs(paint.arc_sweep), 360.0))} 360",
        "rotate": turn,
    }
