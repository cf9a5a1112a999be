"""The layout of resolved trees, with CSS Flexbox Level 1 as its meaning.

The mapping to CSS (fixed, fit, grow …) stands in docs/architecture.md. A result depends on
the layout node and the size it is given, and is kept on that node: a thousand instances
with equal choices have one layout node, hence one layout.
"""

from __future__ import annotations

import math

from outgrowth.core.layout.flexible import Item, aligned, justified, resolve
from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import LayoutNode, LayoutStyle
from outgrowth.core.text import TextStyle, Typesetter

_INTRINSIC = "intrinsic"
_TEXT_STYLE = "text style"
_SIZES_KEPT = 64
"""Under how many constraints a node keeps its layout; a long drag of a width asks for more."""

_GLYPH_BOX = 24.0
"""Width and height of a shape that fits: the square that icons are drawn in."""


class Layout:
    """Lays out resolved trees, setting their texts with `typesetter`."""

    def __init__(self, typesetter: Typesetter) -> None:
        self.typesetter = typesetter

    def place(self, node: LayoutNode, room_x: float = math.inf, room_y: float = math.inf) -> Placed:
        """The tree at its root's own size.

        room_x, room_y  px that a growing root fills and a fitting one wraps in; a growing
                        root with no given room fits
        """
        s = node.style
        width = self._cross_width(node, room_x, stretched=s.width.mode == "grow")
        if s.height.mode == "fixed":
            return self._at(node, width, _held(s.height.amount, *_limits_y(s)))
        if s.height.mode == "grow" and room_y < math.inf:
            return self._at(node, width, _held(room_y, *_limits_y(s)))
        return self._natural(node, width)

    def _at(self, node: LayoutNode, width: float, height: float | None) -> Placed:
        """The node in a border box of this width and (if known) height."""
        key = width, height
        found = node.kept.get(key)
        if found is None:
            if len(node.kept) >= _SIZES_KEPT:
                node.kept.clear()
            found = self._computed(node, width, height)
            node.kept[key] = found
        assert isinstance(found, Placed)
        return found

    def _natural(self, node: LayoutNode, width: float) -> Placed:
        """The node at this width, as high as its content within its limits."""
        placed = self._at(node, width, None)
        height = _held(placed.height, *_limits_y(node.style))
        return placed if height == placed.height else self._at(node, width, height)

    def _computed(self, node: LayoutNode, width: float, height: float | None) -> Placed:
        if node.kind == "text":
            text = self.typesetter.set(node.style.content, _text_style(node), width)
            return Placed(width, text.height if height is None else height, text=text)
        if node.kind == "shape":
            return Placed(width, _GLYPH_BOX if height is None else height)
        if node.style.flow == "row":
            return self._row(node, width, height)
        if node.style.flow == "column":
            return self._column(node, width, height)
        return self._free(node, width, height)

    # --- intrinsic widths ---------------------------------------------------------------

    def intrinsic(self, node: LayoutNode) -> tuple[float, float]:
        """Min-content and max-content width of the node's border box, own limits apart."""
        found = node.kept.get(_INTRINSIC)
        if found is None:
            found = self._intrinsic(node)
            node.kept[_INTRINSIC] = found
        assert isinstance(found, tuple)
        return found

    def _intrinsic(self, node: LayoutNode) -> tuple[float, float]:
        s = node.style
        if node.kind == "text":
            style = _text_style(node)
            setter = self.typesetter
            return setter.narrowest(s.content, style), setter.widest(s.content, style)
        if node.kind == "shape":
            return _GLYPH_BOX, _GLYPH_BOX
        parts = [self._contribution(child) for child in node.children]
        if s.flow == "free":
            edges = [c.style.x + most for c, (_, most) in zip(node.children, parts, strict=True)]
            return (max(edges, default=0.0),) * 2
        least, most = [p[0] for p in parts], [p[1] for p in parts]
        inset = s.padding_left + s.padding_right
        if s.flow == "row":
            gaps = s.gap * max(len(parts) - 1, 0)
            return sum(least) + gaps + inset, sum(most) + gaps + inset
        return max(least, default=0.0) + inset, max(most, default=0.0) + inset

    def _contribution(self, node: LayoutNode) -> tuple[float, float]:
        """What the node adds to its parent's intrinsic widths, margins included."""
        s = node.style
        margins = s.margin_left + s.margin_right
        low, high = _limits_x(node)
        if s.width.mode == "fixed":
            width = _held(s.width.amount, low, high) + margins
            return width, width
        least, most = self.intrinsic(node)
        return _held(least, low, high) + margins, _held(most, low, high) + margins

    def _cross_width(self, node: LayoutNode, room: float, stretched: bool) -> float:
        """The width of a node whose width is not the main axis, `room` px being there."""
        s = node.style
        low, high = _limits_x(node)
        if s.width.mode == "fixed":
            return _held(s.width.amount, low, high)
        if stretched and room < math.inf:
            return _held(room, low, high)
        least, most = self.intrinsic(node)
        return _held(min(most, max(least, room)), low, high)

    # --- the three flows ----------------------------------------------------------------

    def _row(self, node: LayoutNode, width: float, height: float | None) -> Placed:
        s = node.style
        children = node.children
        gaps = s.gap * max(len(children) - 1, 0)
        room = max(width - s.padding_left - s.padding_right, 0.0) - gaps
        widths = resolve([self._row_item(child) for child in children], room)
        inset = s.padding_top + s.padding_bottom
        natural = [self._row_child(c, w) for c, w in zip(children, widths, strict=True)]
        if height is None:
            outer = (
                p.height + c.style.margin_top + c.style.margin_bottom
                for c, p in zip(children, natural, strict=True)
            )
            height = max(max(outer, default=0.0), 0.0) + inset
        inner = max(height - inset, 0.0)
        start, between = justified(s.justify, room - _outer_sum(children, widths), len(children))
        pen = s.padding_left + start
        placed, xs, ys = [], [], []
        for child, at in zip(children, natural, strict=True):
            c = child.style
            how = _alignment(c, s, c.height.mode)
            free = inner - c.margin_top - c.margin_bottom
            if how == "stretch" and c.height.mode != "fixed":
                at = self._at(child, at.width, _held(max(free, 0.0), *_limits_y(c)))
            placed.append(at)
            xs.append(pen + c.margin_left)
            ys.append(s.padding_top + c.margin_top + aligned(how, free - at.height))
            pen += c.margin_left + at.width + c.margin_right + s.gap + between
        return Placed(width, height, tuple(placed), tuple(xs), tuple(ys))

    def _row_item(self, node: LayoutNode) -> Item:
        s = node.style
        low, high = _limits_x(node)
        margins = s.margin_left + s.margin_right
        if s.width.mode == "fixed":
            return Item(s.width.amount, low, high, 0.0, 0.0, margins)
        if s.width.mode == "grow":
            return Item(_inset_x(node), low, high, s.width.amount, 1.0, margins)
        least, most = self.intrinsic(node)
        if s.min_width == 0:
            low = max(low, min(least, high))
        return Item(most, low, high, 0.0, 1.0, margins)

    def _row_child(self, node: LayoutNode, width: float) -> Placed:
        """The child at its resolved width and, before any stretching, its own height."""
        s = node.style
        if s.height.mode == "fixed":
            return self._at(node, width, _held(s.height.amount, *_limits_y(s)))
        return self._natural(node, width)

    def _column(self, node: LayoutNode, width: float, height: float | None) -> Placed:
        s = node.style
        children = node.children
        across = max(width - s.padding_left - s.padding_right, 0.0)
        natural = [self._column_child(child, s, across) for child in children]
        items = [_column_item(c, p) for c, p in zip(children, natural, strict=True)]
        gaps = s.gap * max(len(children) - 1, 0)
        inset = s.padding_top + s.padding_bottom
        if height is None:
            content = sum(i.hypothetical + i.margins for i in items) + gaps
            height = max(content, 0.0) + inset
        room = max(height - inset, 0.0) - gaps
        heights = resolve(items, room)
        free = room - sum(heights) - sum(item.margins for item in items)
        start, between = justified(s.justify, free, len(children))
        pen = s.padding_top + start
        placed, xs, ys = [], [], []
        for child, at, tall in zip(children, natural, heights, strict=True):
            c = child.style
            if at.height != tall:
                at = self._at(child, at.width, tall)
            how = _alignment(c, s, c.width.mode)
            spare = across - c.margin_left - c.margin_right - at.width
            placed.append(at)
            xs.append(s.padding_left + c.margin_left + aligned(how, spare))
            ys.append(pen + c.margin_top)
            pen += c.margin_top + tall + c.margin_bottom + s.gap + between
        return Placed(width, height, tuple(placed), tuple(xs), tuple(ys))

    def _column_child(self, node: LayoutNode, parent: LayoutStyle, across: float) -> Placed:
        s = node.style
        room = max(across - s.margin_left - s.margin_right, 0.0)
        stretched = _alignment(s, parent, s.width.mode) == "stretch"
        return self._row_child(node, self._cross_width(node, room, stretched))

    def _free(self, node: LayoutNode, width: float, height: float | None) -> Placed:
        """Children stand at their x and y; growing ones reach to the far edge."""
        placed = []
        for child in node.children:
            s = child.style
            room = max(width - s.x, 0.0) if s.width.mode == "grow" else math.inf
            wide = self._cross_width(child, room, stretched=True)
            if s.height.mode == "grow" and height is not None:
                tall = _held(max(height - s.y, 0.0), *_limits_y(s))
                placed.append(self._at(child, wide, tall))
            else:
                placed.append(self._row_child(child, wide))
        xs = tuple(child.style.x for child in node.children)
        ys = tuple(child.style.y for child in node.children)
        if height is None:
            height = max((y + p.height for y, p in zip(ys, placed, strict=True)), default=0.0)
            return self._at(node, width, max(height, 0.0))
        return Placed(width, height, tuple(placed), xs, ys)


def _column_item(node: LayoutNode, natural: Placed) -> Item:
    """The item on the vertical main axis. Its automatic minimum is its content's height, if
    it has no minimum of its own: a growing child never becomes lower than what it holds
    (docs/architecture.md)."""
    s = node.style
    low, high = _limits_y(s)
    margins = s.margin_top + s.margin_bottom
    if s.height.mode == "fixed":
        return Item(s.height.amount, low, high, 0.0, 0.0, margins)
    if s.min_height == 0:
        low = max(low, min(natural.height, high))
    if s.height.mode == "grow":
        inset = s.padding_top + s.padding_bottom if node.kind == "box" else 0.0
        return Item(inset, low, high, s.height.amount, 1.0, margins)
    return Item(natural.height, low, high, 0.0, 1.0, margins)


def _alignment(child: LayoutStyle, parent: LayoutStyle, cross_mode: str) -> str:
    """How the child stands across its parent's flow: growing there is stretching."""
    if cross_mode == "grow":
        return "stretch"
    return parent.align if child.align_self == "auto" else child.align_self


def _outer_sum(children: tuple[LayoutNode, ...], widths: list[float]) -> float:
    margins = sum(c.style.margin_left + c.style.margin_right for c in children)
    return margins + sum(widths)


def _inset_x(node: LayoutNode) -> float:
    if node.kind != "box":
        return 0.0
    return node.style.padding_left + node.style.padding_right


def _limits_x(node: LayoutNode) -> tuple[float, float]:
    """Least and most border-box width; a box is never narrower than its padding."""
    s = node.style
    return max(s.min_width, _inset_x(node)), s.max_width or math.inf


def _limits_y(s: LayoutStyle) -> tuple[float, float]:
    return max(s.min_height, s.padding_top + s.padding_bottom), s.max_height or math.inf


def _held(value: float, least: float, most: float) -> float:
    """The value within its limits; the lower one is stronger, as in CSS."""
    return max(min(value, most), least)


def _text_style(node: LayoutNode) -> TextStyle:
    found = node.kept.get(_TEXT_STYLE)
    if found is None:
        s = node.style
        found = TextStyle(
            s.font_family, s.font_size, s.font_weight, s.line_height, s.letter_spacing, s.text_align
        )
        node.kept[_TEXT_STYLE] = found
    assert isinstance(found, TextStyle)
    return found
