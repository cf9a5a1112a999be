"""Across the flow: how children are aligned there, their baselines, and how high or wide the
lines come out that they need.

Source: CSS Flexbox Level 1, sections 8 and 9.4.
"""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.document.values import Size
from outgrowth.core.layout.by_room import as_laid
from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import MOVED, LayoutNode
from outgrowth.core.resolve.styles import LayoutStyle


def in_flow(node: LayoutNode) -> tuple[LayoutNode, ...]:
    """The children that the box arranges: all but those that float."""
    if not node.floats:
        return node.children
    return tuple([child for child in node.children if not child.style.floating])


def lines_turned(style: LayoutStyle) -> bool:
    """Whether the lines of a box follow each other from its far end (CSS Flexbox 1, section 5.2,
    wrap-reverse): across its flow, start and end are the other way round."""
    return style.lines_reversed and style.wrap and style.flow in ("row", "column")


def column_turned(style: LayoutStyle) -> bool:
    """Whether what a column has across it begins at its right edge."""
    return style.mirrored != lines_turned(style)


LONGEST = 1e9
"""Px that a side comes to by its proportion at most: one of 1e−300 would make it infinite, and
what is infinite makes all beside it no number."""


def _fits(size: Size) -> bool:
    """Whether a side fits, with nothing said of it: not per cent of what is not known."""
    return size.mode == "fit" and not size.amount


def follows_height(style: LayoutStyle) -> bool:
    """Whether its width comes of its height, by its proportion."""
    return bool(style.aspect) and style.height.mode == "fixed" and _fits(style.width)


def follows_width(style: LayoutStyle) -> bool:
    """Whether its height comes of its width, by its proportion."""
    return bool(style.aspect) and _fits(style.height)


def in_row(child: LayoutStyle, parent: LayoutStyle) -> str:
    """How a row's child stands across it."""
    if child.push_top or child.push_bottom:
        return _pushed(child.push_top, child.push_bottom, lines_turned(parent))
    size = child.height
    if size.mode == "grow":
        return "stretch"
    how = parent.align if child.align_self == "auto" else child.align_self
    return "start" if how == "stretch" and (follows_width(child) or _is_stiff(size)) else how


def in_column(child: LayoutStyle, parent: LayoutStyle) -> str:
    """How a column's child stands across it."""
    if child.push_left or child.push_right:
        left, right = child.push_left, child.push_right
        sides = (right, left) if parent.mirrored else (left, right)
        return _pushed(*sides, lines_turned(parent))
    size = child.width
    if size.mode == "grow":
        return "stretch"
    how = parent.align if child.align_self == "auto" else child.align_self
    return "start" if how == "stretch" and (follows_height(child) or _is_stiff(size)) else how


def _is_stiff(size: Size) -> bool:
    """Whether a side is not stretched, though it fits: something was said of it."""
    return size.mode == "fit" and size.amount > 0


def in_cell(child: LayoutStyle, parent: LayoutStyle) -> str:
    """How a grid's child stands across its columns; down them it is as in a row."""
    if child.push_left or child.push_right:
        left, right = child.push_left, child.push_right
        return _pushed(*(right, left) if parent.mirrored else (left, right))
    if child.width.mode == "grow":
        return "stretch"
    follows = follows_height(child)
    return "start" if follows and parent.justify_items == "stretch" else parent.justify_items


def _pushed(before: bool, after: bool, turned: bool = False) -> str:
    """Where margins that take what is left put a child, if there is anything left: before and
    after it as one reads, also where lines are `turned`. Source: CSS Flexbox 1, section 9.6, step
    13."""
    if turned:
        # What has no room reaches out where one reads to, which is before the first line.
        return "end" if not before else "far center" if after else "far start"
    if before and after:
        return "safe center"
    return "safe end" if before else "start"


def line_height(
    line: tuple[LayoutNode, ...],
    natural: list[Placed],
    hows: list[str],
    rise: float,
    turned: bool = False,
) -> float:
    """The height of a line: its highest child, or what its baselines need on both sides; `rise` as
    in `rise_of`. Source: CSS Flexbox 1, section 9.4, step 8."""
    tallest = 0.0
    for child, placed, how in zip(line, natural, hows, strict=True):
        outer = child.style.margin_top + placed.height + child.style.margin_bottom
        if how == "baseline":
            outer += rise - before_baseline(child, placed, turned)
        tallest = max(tallest, outer)
    return tallest


def before_baseline(child: LayoutNode, placed: Placed, turned: bool) -> float:
    """From the edge, margin included, at which the line begins to the child's baseline (px): its
    upper one, or in a line that is `turned` its lower one."""
    below = baseline(child, placed)
    if turned:
        return child.style.margin_bottom + placed.height - below
    return child.style.margin_top + below


def rise_of(
    line: tuple[LayoutNode, ...], natural: list[Placed], hows: list[str], turned: bool = False
) -> float:
    """How far from the edge at which it begins a line's shared baseline lies."""
    return max(
        (
            before_baseline(child, placed, turned)
            for child, placed, how in zip(line, natural, hows, strict=True)
            if how == "baseline"
        ),
        default=0.0,
    )


def line_width(parent: LayoutStyle, line: tuple[LayoutNode, ...], natural: list[Placed]) -> float:
    """How wide a line of a column is: its widest child, margins included (px)."""
    edge = shared_edge(parent, line, natural)
    outer = []
    for child, placed in zip(line, natural, strict=True):
        child_style = child.style
        before, after = child_style.margin_left, placed.width + child_style.margin_right
        if _by_edge(child, parent):
            before, after = (before, edge) if column_turned(parent) else (edge, after)
        outer.append(before + after)
    return max([0.0, *outer])


def shared_edge(
    parent: LayoutStyle, line: Sequence[LayoutNode], natural: Sequence[Placed]
) -> float:
    """How far from the beginning of a column's line the left edge is that those children share
    who are aligned by their baseline: words run across a column, so the baseline along it is
    each child's left edge. Source: CSS Flexbox 1, section 9.4, step 8."""
    turned = column_turned(parent)
    edges = [
        placed.width + child.style.margin_right if turned else child.style.margin_left
        for child, placed in zip(line, natural, strict=True)
        if _by_edge(child, parent)
    ]
    return max(edges, default=0.0)


def _by_edge(child: LayoutNode, parent: LayoutStyle) -> bool:
    return in_column(child.style, parent) == "baseline"


def hides_overflow(node: LayoutNode) -> bool:
    """Whether a node has no automatic minimum, since what it cannot show is hidden: a text of
    so many lines at most, or a box that scrolls. Source: CSS Flexbox 1, section 4.5."""
    return (node.kind == "text" and node.style.max_lines > 0) or scrolls(node)


def scrolls(node: LayoutNode) -> bool:
    """Whether it scrolls what it holds."""
    return node.kind == "box" and node.style.scrolls != "none"


def baseline(node: LayoutNode, placed: Placed) -> float:
    """The first baseline of a laid-out node, from its top edge; its lower edge if it has
    none. Source: CSS Flexbox 1, section 8.5."""
    node = as_laid(node, placed)
    own = _own_baseline(node, placed)
    # What hides its overflow has its baseline within its border box (CSS Align 3, 9.1).
    return min(max(own, 0.0), placed.height) if hides_overflow(node) else own


def _own_baseline(node: LayoutNode, placed: Placed) -> float:
    if placed.text is not None and placed.text.lines:
        return placed.text.lines[0].baseline
    if node.kind != "box" or node.style.flow == "free" or not in_flow(node):
        return placed.height
    is_grid = node.style.flow == "grid"
    index = placed.first_line or 0 if is_grid else _first_with_baseline(node, placed)
    child = node.children[index]
    moved = child.style.offset_y if child.asks & MOVED else 0.0
    return placed.ys[index] - moved + baseline(child, placed.children[index])


def _first_with_baseline(node: LayoutNode, placed: Placed) -> int:
    """The child whose baseline a box takes: of its first line the first that is aligned by it,
    else the first. Source: CSS Flexbox 1, section 8.5."""
    children = [(n, child) for n, child in enumerate(node.children) if not child.style.floating]
    turned = lines_turned(node.style)
    line = children[placed.first_line :] if turned else children[: placed.first_line]
    if node.style.flow == "row":
        for n, child in line:
            if in_row(child.style, node.style) == "baseline":
                return n
    # The one that stands first to the eye, as browsers have it.
    return line[-1 if node.style.reversed else 0][0]
