"""Where a flow begins, what stands beside its own place in it, and which margins take what is left.

Source: CSS Writing Modes 4, section 2.1; CSS Flexbox 1, sections 5.1 and 8.1; CSS Positioned
Layout 3, section 3.4.
"""

from __future__ import annotations

from outgrowth.core.layout.cross_axis import in_flow, lines_turned
from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import MOVED, PUSHES, LayoutNode
from outgrowth.core.resolve.styles import LayoutStyle

Spot = tuple[Placed, float, float]
"""A child, and where its corner stands."""


def turned_x(style: LayoutStyle) -> bool:
    """Whether a box's flow runs, or its lines follow each other, from right to left."""
    turned = style.reversed if style.flow == "row" else lines_turned(style)
    return style.mirrored != (turned and style.flow != "grid")


def turned_y(style: LayoutStyle) -> bool:
    """Whether a box's flow runs, or its lines follow each other, upwards."""
    if style.flow == "column":
        return style.reversed
    return style.lines_reversed and style.flow == "row" and lines_turned(style)


def turned(node: LayoutNode, width: float, height: float, flow: list[Spot]) -> list[Spot]:
    """A flow that begins at its other end: each child, margins included, stands as far from
    the content's one edge as it stood from the other. And what stands beside its own place.
    Source: CSS Writing Modes 4, section 2.1; CSS Flexbox 1, section 5.1 (flex-direction); CSS
    Positioned Layout 3, section 3.4 (relative)."""
    style = node.style
    if style.flow == "free":
        return flow
    if turned_x(style):
        axis_sum = width + style.padding_left - style.padding_right
        flow = [
            (
                placed,
                axis_sum - x - placed.width + child.style.margin_left - child.style.margin_right,
                y,
            )
            for child, (placed, x, y) in zip(in_flow(node), flow, strict=True)
        ]
    if turned_y(style):
        axis_sum = height + style.padding_top - style.padding_bottom
        flow = [
            (
                placed,
                x,
                axis_sum - y - placed.height + child.style.margin_top - child.style.margin_bottom,
            )
            for child, (placed, x, y) in zip(in_flow(node), flow, strict=True)
        ]
    if node.holds & MOVED:
        flow = [
            (placed, x + child.style.offset_x, y + child.style.offset_y)
            if child.asks & MOVED
            else (placed, x, y)
            for child, (placed, x, y) in zip(in_flow(node), flow, strict=True)
        ]
    return flow


def pushes_x(child: LayoutNode, style: LayoutStyle) -> tuple[bool, bool]:
    """Whether a row's child takes what is left before itself and after itself."""
    if not child.asks & PUSHES:
        return False, False
    sides = child.style.push_left, child.style.push_right
    return sides[::-1] if turned_x(style) else sides


def pushes_y(child: LayoutNode, style: LayoutStyle) -> tuple[bool, bool]:
    """The same in a column."""
    if not child.asks & PUSHES:
        return False, False
    sides = child.style.push_top, child.style.push_bottom
    return sides[::-1] if turned_y(style) else sides
