"""Resolved styles: a field for each row of the property table, in its order.

Made by `python -m tools.generated`; change the table, not this.
"""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from outgrowth.core.color import Color, Fill
from outgrowth.core.document.values import (
    Content,
    Limit,
    Onces,
    Picture,
    Shadows,
    Size,
    Tracks,
)


class LayoutStyle(msgspec.Struct, frozen=True, weakref=True):
    """What decides sizes and places."""

    content: Content
    picture: Picture
    flow: str
    wrap: bool
    columns: Tracks
    rows: Tracks
    areas: str
    subgrid: str
    gap: float
    cross_gap: float
    padding_top: float
    padding_right: float
    padding_bottom: float
    padding_left: float
    mirrored: bool
    justify: str
    align: str
    align_content: str
    justify_items: str
    reversed: bool
    lines_reversed: bool
    scrolls: str
    width: Size
    height: Size
    min_width: Limit
    max_width: Limit
    min_height: Limit
    max_height: Limit
    aspect: float
    grow_from: str
    grow_base: Limit
    gives_way: bool
    shrink: float
    align_self: str
    margin_top: float
    margin_right: float
    margin_bottom: float
    margin_left: float
    push_top: bool
    push_right: bool
    push_bottom: bool
    push_left: bool
    area: str
    column_start: float
    column_span: float
    row_start: float
    row_span: float
    offset_x: float
    offset_y: float
    sticks: str
    x: float
    y: float
    floating: bool
    pin_x: str
    pin_y: str
    right: float
    bottom: float
    font_family: str
    font_size: float
    fluid_size: float
    fluid_from: float
    fluid_until: float
    font_weight: float
    line_height: float
    letter_spacing: float
    text_align: str
    font_style: str
    letter_case: str
    max_lines: float
    break_words: bool
    trim: str


class PaintRows(msgspec.Struct, frozen=True, weakref=True):
    """What decides only how it is drawn."""

    fit: str
    focal_x: float
    focal_y: float
    clip: bool
    fill: Fill
    stroke: Color
    line_width: float
    stroke_place: str
    color: Color
    opacity: float
    stroke_top: float
    stroke_right: float
    stroke_bottom: float
    stroke_left: float
    radius_top_left: float
    radius_top_right: float
    radius_bottom_right: float
    radius_bottom_left: float
    shadow: Shadows
    translate_x: float
    translate_y: float
    scale: float
    rotate: float
    origin_x: float
    origin_y: float
    turns: bool
    decoration: str
    form: str
    arc_start: float
    arc_sweep: float
    thickness: float
    path: str
    path_size: float
    path_height: float
    fill_rule: str
    line_ends: str
    line_joins: str


class Interaction(NamedTuple):
    """How a node takes the pointer and the keys; click-through is a scene node's own."""

    clears_edges: bool = False
    one_at_a_time: Onces = ()
    role: str = "none"
    label: str = ""
    cursor: str = "auto"
