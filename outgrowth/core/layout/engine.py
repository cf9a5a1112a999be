"""The layout of resolved trees, with CSS Flexbox Level 1 as its meaning.

The mapping to CSS (fixed, fit, grow …) stands in docs/layout.md. A result depends on
the layout node and the size it is given, and is kept on that node: a thousand instances
with equal choices have one layout node, hence one layout.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import cache
from itertools import repeat
from typing import NamedTuple

from outgrowth.core.document.records import RoomUnit
from outgrowth.core.layout import fluid, grid
from outgrowth.core.layout.by_room import asks_room_height, measured, place_in_rooms
from outgrowth.core.layout.cross_axis import (
    LONGEST,
    before_baseline,
    column_turned,
    follows_width,
    hides_overflow,
    in_column,
    in_flow,
    in_row,
    line_height,
    line_width,
    lines_turned,
    rise_of,
    scrolls,
    shared_edge,
)
from outgrowth.core.layout.deltas import column_stack, free_box_as_before, stacked_column
from outgrowth.core.layout.directions import Spot, pushes_x, pushes_y, turned
from outgrowth.core.layout.flexible import (
    Item,
    aligned,
    collect_lines,
    justified,
    pushed,
    resolve,
    spread,
)
from outgrowth.core.layout.memory import MOST_SIZES, StackedChild, memory_of
from outgrowth.core.layout.pins import place, stretched, tie_x, tie_y
from outgrowth.core.layout.placed import Placed
from outgrowth.core.layout.relative import UNSTRETCHED, base_of, resolved_relative
from outgrowth.core.layout.scrolling import scrolled
from outgrowth.core.layout.sizes import (
    asks_height,
    carried_limits,
    fixed_room,
    grows_by_proportion,
    has_basis,
    inset_x,
    own_height,
    own_size,
    pictured_width,
    said_width,
    text_style,
    width_asks_height,
    width_at,
    within,
)
from outgrowth.core.resolve.scene import (
    BY_ROOM,
    LONG,
    PUSHES,
    RELATIVE,
    STICKS,
    YIELDS,
    Interner,
    LayoutNode,
)
from outgrowth.core.resolve.sides import TURNED
from outgrowth.core.resolve.styles import LayoutStyle
from outgrowth.core.text import Typesetter


@cache
def _usual() -> LayoutNode:
    """A part of which nobody says anything."""
    return LayoutNode("box", Interner().style({}), ())


class LayoutEngine:
    """Lays out trees of layout nodes, setting their texts with `typesetter`."""

    def __init__(self, typesetter: Typesetter) -> None:
        self.typesetter = typesetter

    def unit_of_room(self, unit: RoomUnit) -> float:
        """How many px there are in a unit of rooms: a "0" of texts of which nobody says more."""
        return self._zero(_usual()) if unit == "ch" else 1.0

    def place(self, node: LayoutNode, room_x: float = math.inf, room_y: float = math.inf) -> Placed:
        """The tree at its root's own size.

        room_x, room_y  px that a growing root fills and a fitting one wraps in; a growing
                        root with no given room fits
        """
        across, down = [room if room < math.inf else None for room in (room_x, room_y)]
        node = resolved_relative(node, across, down, self._zero)
        style = node.style
        width = self._cross_width(node, room_x, stretched=style.width.mode == "grow")
        if style.height.mode == "grow" and room_y < math.inf:
            return self._sized(node, width, within(room_y, *node.down))
        return self._row_child(node, width)

    def _sized(
        self, node: LayoutNode, width: float, height: float | None, definite: bool = True
    ) -> Placed:
        """The node in a border box of this width and (if known) height. A height that came of
        what is inside is not `definite`: per cent of it are none (CSS Sizing 3, section 5.2)."""
        if node.asks & BY_ROOM:
            return self._in_room(node, width, height, definite)
        # Invariant of the memory: equal keys mean equal results, so the key has all that matters
        # and nothing that does not.
        definite = definite or not asks_height(node)  # what makes no difference is laid out once
        memory = memory_of(node)
        placed = memory.sizes.get((width, height, definite))
        if placed is None:
            if len(memory.sizes) >= MOST_SIZES:
                memory.forget()
            placed = self._computed(node, width, height, definite)
            if node.deep & STICKS and scrolls(node):
                placed = scrolled(node, placed, (0.0, 0.0))
            memory.sizes[width, height, definite] = placed
        return placed

    def _in_room(
        self, node: LayoutNode, width: float, height: float | None, definite: bool
    ) -> Placed:
        """The node as a room of this size makes it. One that asks for its height is as high as its
        holder says, and nothing by itself."""
        measured(node, self.unit_of_room)
        if height is None and asks_room_height(node):
            height, definite = 0.0, False
        rooms = node.rooms
        assert rooms is not None
        within_room = rooms.nodes[place_in_rooms(node, width, height or 0.0)]
        return self._sized(fluid.in_room(within_room, width), width, height, definite)

    def _natural(self, node: LayoutNode, width: float) -> Placed:
        """The node at this width, as high as its content within its limits."""
        placed = self._sized(node, width, None)
        height = within(placed.height, *node.down)
        return placed if height == placed.height else self._sized(node, width, height, False)

    def _zero(self, node: LayoutNode) -> float:
        return self.typesetter.zero(text_style(node))

    def _inside(
        self, node: LayoutNode, across: float | None, down: float | None
    ) -> tuple[LayoutNode, ...]:
        """The children that the box arranges in so much room, if it is known."""
        children = in_flow(node)
        if not node.holds & RELATIVE:
            return children
        return tuple([resolved_relative(child, across, down, self._zero) for child in children])

    def _computed(
        self, node: LayoutNode, width: float, height: float | None, definite: bool
    ) -> Placed:
        if node.kind == "text":
            text = self.typesetter.set(node.style.content, text_style(node), width)
            return Placed(width, text.height if height is None else height, text=text)
        if node.kind in ("shape", "image"):
            return Placed(width, own_height(node, width) if height is None else height)
        if node.style.flow == "row":
            return self._row(node, width, height, definite)
        if node.style.flow == "column":
            return self._column(node, width, height, definite)
        if node.style.flow == "grid":
            return self._grid(node, width, height, definite)
        return self._free(node, width, height)

    # --- intrinsic widths ---------------------------------------------------------------

    def intrinsic(self, node: LayoutNode, tall: float | None = None) -> tuple[float, float]:
        """Min-content and max-content width of the node's border box, own limits apart; of one
        whose height is known to be `tall` px."""
        if node.asks & BY_ROOM:
            return 0.0, 0.0  # CSS Containment 3, section 3.2: as if nothing was in it
        if not width_asks_height(node):
            tall = None
        widths = memory_of(node).intrinsic
        cached = widths.get(tall)
        if cached is None:
            cached = widths[tall] = self._intrinsic(node, tall)
        return cached

    def _intrinsic(self, node: LayoutNode, tall: float | None) -> tuple[float, float]:
        layout_style = node.style
        down = fixed_room(node)
        if tall is not None:
            down = max(tall - layout_style.padding_top - layout_style.padding_bottom, 0.0)
        if node.kind == "text":
            style = text_style(node)
            setter = self.typesetter
            return setter.narrowest(layout_style.content, style), setter.widest(
                layout_style.content, style
            )
        # A replaced element has one width: both contributions are it (Sizing 3, 5.1).
        if node.kind in ("shape", "image"):
            return (own_size(node)[0],) * 2
        # What is placed by hand has no lines to break: its two widths are one.
        if layout_style.flow == "free":
            return (self._free_width(node),) * 2
        inset = layout_style.padding_left + layout_style.padding_right
        if layout_style.flow == "grid":
            narrowest, widest = grid.intrinsic(node, self)
            return narrowest + inset, widest + inset
        row = layout_style.flow == "row"
        children = self._inside(node, None, down)
        if row and not layout_style.wrap and down is not None and width_asks_height(node):
            parts = [
                self._beside(child, down, in_row(child.style, layout_style)) for child in children
            ]
        else:
            parts = [self.contribution(child, row) for child in children]
        least, most = [p[0] for p in parts], [p[1] for p in parts]
        if layout_style.flow == "row":
            # Gaps count between items only, also between those that a min-content width would
            # wrap apart.
            gaps = layout_style.gap * max(len(parts) - 1, 0)
            if not layout_style.wrap:
                return sum(least) + gaps + inset, sum(most) + gaps + inset
            # Flexbox 9.9.1: a multi-line container is at its narrowest as wide as its widest
            # item.
            narrowest = max([self.contribution(child)[0] for child in children], default=0.0)
            return narrowest + inset, max(sum(most) + gaps, narrowest) + inset
        # A column that wraps is as wide as all of its lines, which are known once its height is.
        if layout_style.wrap:
            ends = down
            if ends is None:
                tallest = within(math.inf, *node.down)
                ends = max(tallest - layout_style.padding_top - layout_style.padding_bottom, 0.0)
            return max(least, default=0.0) + inset, self._lines_width(node, ends, down) + inset
        return max(least, default=0.0) + inset, max(most, default=0.0) + inset

    def _lines_width(self, node: LayoutNode, room: float, down: float | None) -> float:
        """The width of all lines of a column that wraps after so many px; `down` is its height
        inside, if it is known."""
        style = node.style
        children = self._inside(node, None, down)
        natural = [self._column_child(child, style, math.inf) for child in children]
        items = [self._column_item(c, p, down) for c, p in zip(children, natural, strict=True)]
        lines = collect_lines(items, max(room, 0.0), style.gap)
        widths = [line_width(style, children[a:b], natural[a:b]) for a, b in lines]
        return sum(widths) + style.cross_gap * (len(widths) - 1)

    def _free_width(self, node: LayoutNode) -> float:
        """The right edge of what hangs on the left one."""
        # A part that hangs on another edge moves with it, so only the left ones ask for room.
        edges, mirrored = [0.0], node.style.mirrored
        for child in node.children:
            style = child.style
            if style.pin_x == "start" or (mirrored and style.pin_x == f"end{TURNED}"):
                resolved = resolved_relative(child, None, None, self._zero)
                far = style.x if style.pin_x == "start" else style.right
                edges.append(far + self.contribution(resolved)[1])
        return max(edges)

    def contribution(
        self, node: LayoutNode, along: bool = False, tall: float | None = None
    ) -> tuple[float, float]:
        """What the node adds to its parent's intrinsic widths, margins included; `along` the
        parent's flow or across it; `tall` where its height is known before."""
        style = node.style
        margins = style.margin_left + style.margin_right
        low, high = node.across
        stated_width = said_width(node)
        stated_width = pictured_width(node) if stated_width is None else stated_width
        least, most = (
            (stated_width, stated_width)
            if stated_width is not None
            else self._content_width(node, True, tall)
        )
        content = least
        if node.asks & YIELDS:
            # CSS Sizing 3, section 5.2.2 (compressible replaced elements); what does not give way
            # adds its own size all the same (CSS Flexbox 1, section 9.9.3).
            firm = along and style.width.mode == "fixed" and not style.gives_way
            least = most if firm else 0.0
        base = base_of(node, None, self._zero) if along and style.width.mode == "grow" else None
        if base is not None:
            # CSS Flexbox 1, section 9.9.3: what does not grow adds its base size at most, what does
            # not give way at least; section 4.5: its automatic minimum in any case.
            base = max(base, inset_x(node))
            sure = style.grow_from == "nothing" or style.min_width or hides_overflow(node)
            auto = (0.0, 0.0) if sure else (min(least, high), min(content, high))
            if not style.width.amount:
                least, most = min(least, base), min(most, base)
            if not style.shrink:
                least, most = max(least, base), max(most, base)
            least, most = max(least, auto[0]), max(most, auto[1])
        # Sizing 3, 5.1: the limits clamp each contribution; margins are added outside of them.
        return within(least, low, high) + margins, within(most, low, high) + margins

    def _beside(self, node: LayoutNode, down: float, how: str) -> tuple[float, float]:
        """What a child that stands so across a row of a known height adds to its width."""
        style = node.style
        if how != "stretch" or not grows_by_proportion(node):
            stretched = how == "stretch" and style.height.mode != "fixed"
            free = within(max(down - style.margin_top - style.margin_bottom, 0.0), *node.down)
            return self.contribution(node, True, free if stretched else None)
        tall = within(max(down - style.margin_top - style.margin_bottom, 0.0), *node.down)
        width = within(min(tall * style.aspect, LONGEST), *node.across)
        outer = width + style.margin_left + style.margin_right
        return (0.0 if node.asks & YIELDS else outer), outer

    def _cross_width(
        self, node: LayoutNode, room: float, stretched: bool, tall: float | None = None
    ) -> float:
        """The width of a node whose width is not the main axis, `room` px being there; `tall`
        where its height is known before."""
        stated_width = said_width(node)
        if stated_width is None and not stretched and node.kind == "image":
            stated_width = pictured_width(node)
        # Flexbox 9.4 step 11: a stretched item takes the line, within its limits.
        if stated_width is None and stretched and room < math.inf:
            return within(room, *node.across)
        low, high = node.across
        if stated_width is not None:
            return within(stated_width, low, high)
        # flex-basis auto with width auto is content: the max-content size (9.2 step 3E).
        least, most = self._content_width(node, tall=tall)
        # Sizing 3, 2.1: fit-content is min(max-content, max(min-content, available)).
        return within(min(most, max(least, room)), low, high)

    def _content_width(
        self, node: LayoutNode, adding: bool = False, tall: float | None = None
    ) -> tuple[float, float]:
        """Min-content and max-content width of a node with a proportion: the limits of its height
        hold for them; `adding`: as what it adds to its holder."""
        least, most = self.intrinsic(node, tall)
        if not node.style.aspect:
            return least, most
        if node.kind == "image" and node.style.grow_from != "nothing":
            pictured = pictured_width(node)
            least, most = (least, most) if pictured is None else (pictured, pictured)
        carried = carried_limits(node, adding)
        return (within(least, *carried), within(most, *carried)) if carried else (least, most)

    # --- the three flows ----------------------------------------------------------------

    def _row(self, node: LayoutNode, width: float, height: float | None, definite: bool) -> Placed:
        style = node.style
        inset = style.padding_top + style.padding_bottom
        across = max(width - style.padding_left - style.padding_right, 0.0)
        down = None if height is None else max(height - inset, 0.0)
        children = self._inside(node, across, down if definite else None)
        # Flexbox 9.8: a stretched item of a single line has a definite cross size.
        inner = down if definite and not style.wrap else None
        # Flexbox 8.3: align-self, or align-items of the container.
        hows = [in_row(child.style, style) for child in children]
        # Flexbox 9.2 step 3: flex base sizes and hypothetical main sizes.
        items = [
            self._row_item(c, across, inner, how) for c, how in zip(children, hows, strict=True)
        ]
        # Step 5: collect items into lines.
        lines = collect_lines(items, across if style.wrap else math.inf, style.gap)
        measured = [
            self._row_line(style, children[a:b], items[a:b], hows[a:b], across) for a, b in lines
        ]
        # Step 8: the cross size of each line, then step 9: what is left is spread among them.
        heights, top, between = [line.height for line in measured], 0.0, 0.0
        if down is None:
            height = sum(heights) + style.cross_gap * (len(lines) - 1) + inset
        elif style.wrap:
            heights, top, between = spread(
                style.align_content, heights, style.cross_gap, down, style.lines_reversed
            )
        else:
            # A single line of a known height takes it all, whatever its items need (step 8).
            heights = [down]
        placements: list[Spot] = []
        top += style.padding_top
        for line, tall in zip(measured, heights, strict=True):
            placements += self._in_line(node, line, tall, (across, top))
            top += tall + style.cross_gap + between
        assert height is not None
        placed = self._assembled(node, width, height, placements)
        if len(lines) > 1:
            # Of lines that are turned the last one stands first.
            placed.first_line = lines[-1][0] if style.lines_reversed else lines[0][1]
        return placed

    def _row_line(
        self,
        style: LayoutStyle,
        line: tuple[LayoutNode, ...],
        items: list[Item],
        hows: list[str],
        across: float,
    ) -> _Line:
        """One line of a row in `across` px, measured; `hows` are how its children stand across."""
        space = across - style.gap * max(len(line) - 1, 0)
        # Step 6: resolve the flexible lengths.
        widths = resolve(items, space)
        # Step 7: the hypothetical cross size, at the width that came out.
        natural = [self._row_child(c, w) for c, w in zip(line, widths, strict=True)]
        # Step 8.1: items that share a baseline reach as far above it as the highest of them.
        rise, turned = 0.0, False
        if "baseline" in hows:
            turned = lines_turned(style)
            rise = rise_of(line, natural, hows, turned)
        return _Line(line, natural, hows, rise, line_height(line, natural, hows, rise, turned))

    def _in_line(
        self, node: LayoutNode, line: _Line, inner: float, room: tuple[float, float]
    ) -> list[Spot]:
        """The children of a row's line that is `inner` px high; `room` is how wide it may be, and
        where it begins from the row's top."""
        style, (across, top) = node.style, room
        outer = _outer_sum(line.children, [placed.width for placed in line.natural])
        # Step 12: main-axis alignment; auto margins first, then justify-content.
        free = across - style.gap * max(len(line.children) - 1, 0) - outer
        margins: Iterable[tuple[float, float]] = repeat((0.0, 0.0))
        if node.holds & PUSHES:
            pushes = [pushes_x(child, style) for child in line.children]
            # 9.5 step 12, down the page.
            pen, between, margins = pushed(style.justify, free, pushes, style.reversed)
        else:
            pen, between = justified(style.justify, free, len(line.children), style.reversed)
        placements: list[Spot] = []
        pen += style.padding_left
        parts = zip(line.children, line.natural, line.hows, margins, strict=False)
        for child, placed, how, (before, after) in parts:
            child_style = child.style
            free = inner - child_style.margin_top - child_style.margin_bottom
            # Step 11: the used cross size of a stretched item, laid out again at it.
            if how == "stretch" and child_style.height.mode != "fixed":
                placed = self._sized(child, placed.width, within(max(free, 0.0), *child.down))
            if how == "baseline":
                rise = before_baseline(child, placed, lines_turned(style))
                y = top + child_style.margin_top + line.rise - rise
            else:
                # Step 14: align the items within their line.
                y = top + child_style.margin_top + aligned(how, free - placed.height)
            placements.append((placed, pen + before + child_style.margin_left, y))
            outer = child_style.margin_left + placed.width + child_style.margin_right
            pen += before + outer + after + style.gap + between
        return placements

    def _row_item(self, node: LayoutNode, across: float, inner: float | None, how: str) -> Item:
        """The item on the horizontal main axis of a row `across` px wide inside; `inner` is its
        height, if it is known, and `how` the item stands across it."""
        style = node.style
        low, high = node.across
        margins = style.margin_left + style.margin_right
        stated_width = said_width(node)
        if stated_width is not None:
            # Per cent and characters never give way here: web.py writes flex-shrink 0 for them.
            if not style.gives_way or style.width.mode != "fixed":
                return Item(stated_width, low, high, 0.0, 0.0, margins)
            # Flexbox 4.5: the content-based automatic minimum, unless the item hides its
            # overflow.
            if not style.min_width and not hides_overflow(node):
                content = self.intrinsic(node)[0]
                if style.aspect and (node.kind == "image" or follows_width(style)):
                    # CSS Flexbox 1, section 4.5: the transferred size suggestion.
                    own = style.height.amount if style.height.mode == "fixed" else math.inf
                    content = max(content, node.down[0] * style.aspect)
                    content = min(content, max(node.down) * style.aspect, own * style.aspect)
                # It is the smaller of the content size and the specified size suggestion, clamped
                # by the maximum.
                low = max(low, min(content, stated_width, high))
            return Item(stated_width, low, high, 0.0, style.shrink, margins, inset_x(node))
        grow = style.width.amount if style.width.mode == "grow" else 0.0
        # flex-basis 0: only the padding cannot be given up.
        if style.width.mode == "grow" and style.grow_from == "nothing":
            return Item(inset_x(node), low, high, grow, style.shrink, margins)
        stretched = how == "stretch" and style.height.mode != "fixed"
        tall = None
        if inner is not None and stretched:
            tall = within(max(inner - style.margin_top - style.margin_bottom, 0.0), *node.down)
        least, most = self._content_width(node, tall=tall)
        if inner is not None and how == "stretch" and grows_by_proportion(node):
            tall = within(max(inner - style.margin_top - style.margin_bottom, 0.0), *node.down)
            least = most = min(tall * style.aspect, LONGEST)
        if not style.min_width and not hides_overflow(node):
            low = max(low, min(least, high))
        # Where a height was said, the width follows it and does not give way (web.py).
        shrink = 0.0 if style.aspect and style.height == UNSTRETCHED else style.shrink
        base = base_of(node, across, self._zero) if style.width.mode == "grow" else None
        base = most if base is None else max(base, inset_x(node))
        return Item(base, low, high, grow, shrink, margins, inset_x(node))

    def _row_child(self, node: LayoutNode, width: float) -> Placed:
        """The child at its resolved width and, before any stretching, its own height."""
        style = node.style
        # A definite cross size is kept; limits clamp it (9.4 step 7).
        if style.height.mode == "fixed":
            return self._sized(node, width, within(style.height.amount, *node.down))
        # A proportion carries the width over (Sizing 4, 5.1).
        if follows_width(style):
            return self._sized(node, width, within(min(width / style.aspect, LONGEST), *node.down))
        return self._natural(node, width)

    def _column(
        self, node: LayoutNode, width: float, height: float | None, definite: bool
    ) -> Placed:
        style = node.style
        across = max(width - style.padding_left - style.padding_right, 0.0)
        inset = style.padding_top + style.padding_bottom
        down = max(height - inset, 0.0) if height is not None and definite else None
        children = self._inside(node, across, down)
        # Nothing has to flex in a column that is as high as its children: each stands below the
        # others, and lists that hardly changed are taken over.
        if height is None and not style.wrap:
            stack = column_stack(
                node, children, across, lambda child: self._stacked(child, style, across)
            )
            if stack is not None:
                stacked = stacked_column(node, width, stack, self._assembled)
                if stacked is not None:
                    return stacked
        natural = [self._column_child(child, style, across) for child in children]
        items = [self._column_item(c, p, down) for c, p in zip(children, natural, strict=True)]
        # A column of no known height never wraps (9.3 step 5: endless room).
        most = math.inf if height is None or not style.wrap else max(height - inset, 0.0)
        lines = collect_lines(items, most, style.gap)
        if height is None:
            gaps = style.gap * max(len(children) - 1, 0)
            # 9.2 step 4: the main size of a column is the sum of its items.
            content = sum(i.hypothetical + i.margins for i in items) + gaps
            height = max(content, 0.0) + inset
        inner = max(height - inset, 0.0)
        placements: list[Spot] = []
        widths, left, between = [across], 0.0, 0.0
        # 9.4 step 8 and 9: lines as wide as their widest item, then spread.
        if style.wrap:
            widths = [line_width(style, children[a:b], natural[a:b]) for a, b in lines]
            widths, left, between = spread(
                style.align_content, widths, style.cross_gap, across, style.lines_reversed
            )
        left += style.padding_left
        for (start, end), wide in zip(lines, widths, strict=True):
            line = [*zip(children[start:end], natural[start:end], items[start:end], strict=True)]
            placements_in_line = self._column_line(style, line, (wide, inner), down is not None)
            placements += [
                (placed, x + left, y + style.padding_top) for placed, x, y in placements_in_line
            ]
            left += wide + style.cross_gap + between
        placed = self._assembled(node, width, height, placements)
        if style.wrap and style.lines_reversed:
            placed.first_line = lines[-1][0]
        return placed

    def _stacked(
        self, child: LayoutNode, parent: LayoutStyle, across: float
    ) -> StackedChild | None:
        """A child of such a column, kept on the child: in a long list, what did not change
        costs one look. None for one that is aligned by its baseline, hence by its neighbours.
        """
        # Invariant: these are all that a stacked child depends on besides itself.
        key = across, parent.align, parent.mirrored
        remembered = memory_of(child).stacked
        stacked = remembered.get(key)
        if stacked is None:
            child_style = child.style
            how = in_column(child_style, parent)
            if how == "baseline":
                return None
            placed = self._column_child(child, parent, across)
            tall = self._column_item(child, placed, None).hypothetical
            if placed.height != tall or (has_basis(child) and asks_height(child)):
                definite_height = has_basis(child)
                placed = self._sized(
                    child, width_at(child, how, placed.width, tall), tall, definite_height
                )
            spare = across - child_style.margin_left - child_style.margin_right - placed.width
            x = child_style.margin_left + aligned(how, spare)
            reach = child_style.margin_top + tall + child_style.margin_bottom
            # Laid out in too many ways, the child may have forgotten meanwhile.
            stacked = StackedChild(placed, x, child_style.margin_top, reach)
            memory_of(child).stacked[key] = stacked
        return stacked

    def _column_item(self, node: LayoutNode, natural: Placed, down: float | None) -> Item:
        """The item on the vertical main axis of a column `down` px high inside, if it is known. Its
        automatic minimum is its content's height, if it has no minimum of its own: a growing
        child never becomes lower than what it holds (docs/layout.md)."""
        style = node.style
        low, high = node.down
        margins = style.margin_top + style.margin_bottom
        padded = node.kind == "box" and style.flow != "free"
        inset = style.padding_top + style.padding_bottom if padded else 0.0
        # 4.5 once more, down the page.
        free = not style.min_height and not hides_overflow(node)
        if style.height.mode == "fixed":
            if not style.gives_way:
                return Item(style.height.amount, low, high, 0.0, 0.0, margins)
            if free:
                content = self._sized(node, natural.width, None).height
                low = max(low, min(content, style.height.amount, high))
            return Item(style.height.amount, low, high, 0.0, style.shrink, margins, inset)
        if follows_width(style):
            return Item(natural.height, low, high, 0.0, 0.0, margins)
        content = natural.height
        # What its limits cut or stretched says nothing of the content; it is asked by itself.
        if content in (low, high) and node.kind in ("box", "text"):
            content = self._sized(node, natural.width, None).height
        if free:
            low = max(low, min(content, high))
        if style.height.mode == "grow":
            base = base_of(node, down, self._zero)
            base = content if base is None else max(base, inset)
            return Item(base, low, high, style.height.amount, style.shrink, margins, inset)
        gives_way = style.height != UNSTRETCHED or style.gives_way
        return Item(content, low, high, 0.0, style.shrink if gives_way else 0.0, margins, inset)

    def _column_line(
        self,
        style: LayoutStyle,
        line: list[tuple[LayoutNode, Placed, Item]],
        room: tuple[float, float],
        definite: bool,
    ) -> list[Spot]:
        """One line of a column: its children from the line's corner. Heights are `definite`
        where the column's is (CSS Flexbox 1, section 9.8)."""
        across, inner = room
        space = inner - style.gap * max(len(line) - 1, 0)
        items = [item for _, _, item in line]
        # 9.3 step 6, down the page.
        heights = resolve(items, space)
        free = space - sum(heights) - sum(item.margins for item in items)
        pushes = [pushes_y(child, style) for child, _, _ in line]
        pen, between, margins = pushed(style.justify, free, pushes, style.reversed)
        edge = shared_edge(
            style, [child for child, _, _ in line], [placed for _, placed, _ in line]
        )
        placements: list[Spot] = []
        for (child, placed, _), tall, (above, below) in zip(line, heights, margins, strict=True):
            child_style = child.style
            how = in_column(child_style, style)
            wide = width_at(child, how, placed.width, tall)
            definite_height = definite or has_basis(child)
            fits = child_style.width.mode == "fit" and not child_style.aspect
            if definite_height and fits and width_asks_height(child):
                spare = max(across - child_style.margin_left - child_style.margin_right, 0.0)
                wide = self._cross_width(child, spare, how == "stretch", tall)
            if style.wrap and how == "stretch" and child_style.width.mode != "fixed":
                spare = max(across - child_style.margin_left - child_style.margin_right, 0.0)
                wide = within(spare, *child.across)
            if (
                placed.height != tall
                or placed.width != wide
                or (definite_height and asks_height(child))
            ):
                # What flexed is known to a grid's rows (browsers).
                sure = (
                    definite_height
                    or child_style.height.mode == "fixed"
                    or child_style.flow == "grid"
                )
                placed = self._sized(child, wide, tall, sure)
            # 9.6 step 14: across a column is from left to right.
            spare = across - child_style.margin_left - child_style.margin_right - placed.width
            x = child_style.margin_left + aligned(how, spare)
            if how == "baseline":
                # Words run across a column, so the line that they share is their left edge.
                turned = column_turned(style)
                x = x + edge - child_style.margin_right - placed.width if turned else edge
            placements.append((placed, x, pen + above + child_style.margin_top))
            outer = child_style.margin_top + tall + child_style.margin_bottom
            pen += above + outer + below + style.gap + between
        return placements

    def _column_child(self, node: LayoutNode, parent: LayoutStyle, across: float) -> Placed:
        style = node.style
        room = max(across - style.margin_left - style.margin_right, 0.0)
        how = in_column(style, parent)
        # In a box that wraps, the line is as wide as its widest child, stretched only later.
        stretched = how == "stretch" and not parent.wrap
        return self._row_child(node, self._cross_width(node, room, stretched))

    # --- grids ---------------------------------------------------------------------------

    def _grid(self, node: LayoutNode, width: float, height: float | None, definite: bool) -> Placed:
        arranged = grid.arranged(node, width, height, definite, self)
        tall = arranged.height if height is None else height
        placed = self._assembled(node, width, tall, arranged.spots)
        placed.first_line = _in_all(node, arranged.first)
        placed.tracks = arranged.lines
        return placed

    def resolved_in(self, node: LayoutNode, across: float | None, down: float | None) -> LayoutNode:
        """A grid's child in an area of this size, as far as it is known."""
        return resolved_relative(node, across, down, self._zero)

    def in_cell(
        self, node: LayoutNode, wide: float, tall: float | None, hows: tuple[str, str]
    ) -> Placed:
        """A grid's child in an area of this width and (if known) height, aligned so across and
        down it."""
        style = node.style
        room = max(wide - style.margin_left - style.margin_right, 0.0)
        width = self._cross_width(node, room, hows[0] == "stretch")
        if tall is None or hows[1] != "stretch" or style.height.mode == "fixed":
            return self._row_child(node, width)
        free = max(tall - style.margin_top - style.margin_bottom, 0.0)
        return self._sized(node, width, within(free, *node.down))

    # --- what its pins place --------------------------------------------------------------

    def _free(self, node: LayoutNode, width: float, height: float | None) -> Placed:
        """Children stand where their pins say; a box that fits ends with those that hang on
        its top edge."""
        if height is None:
            parts = [(c, *self._pinned(c, width, None)) for c in node.children]
            ends = [y + placed.height for c, placed, _, y in parts if c.style.pin_y == "start"]
            return self._sized(node, width, max([0.0, *ends]))
        return self._assembled(node, width, height, [])

    def _pinned(self, node: LayoutNode, width: float, height: float | None) -> Spot:
        """A child that takes no room in the flow of a box of this size."""
        # Position 3, 3.5: insets against a known containing block; per cent refers to its padding
        # box.
        node = resolved_relative(node, width, height, self._zero)
        style = node.style
        across, down = tie_x(style), tie_y(style)
        wide = stretched(across, width)
        tall = None if height is None else stretched(down, height)
        # Sizing 4, 5.1: of two edges tied on one axis and none on the other, the proportion gives
        # the other size; its limits are carried over first.
        carries = bool(style.aspect) and node.kind != "image"
        if tall is not None and wide is None and carries and style.width.mode == "fit":
            lows = node.across
            tall = within(tall, lows[0] / style.aspect, lows[1] / style.aspect)
        if wide is not None and carries and style.height.mode == "fit" and tall is None:
            lows = node.down
            wide = within(wide, min(lows[0] * style.aspect, LONGEST), lows[1] * style.aspect)
        if wide is not None:
            wide = within(wide, *node.across)
        elif tall is not None and style.aspect and style.width.mode == "fit":
            by_height = min(within(tall, *node.down) * style.aspect, LONGEST)
            wide = within(by_height, *node.across)
        else:
            limited = None if tall is None else within(tall, *node.down)
            wide = self._cross_width(node, math.inf, stretched=False, tall=limited)
        if tall is None:
            placed = self._row_child(node, wide)
        else:
            placed = self._sized(node, wide, within(tall, *node.down))
        return placed, place(across, width, placed.width), place(down, height or 0.0, placed.height)

    def _assembled(self, node: LayoutNode, width: float, height: float, flow: list[Spot]) -> Placed:
        """The node with its children in their order, those that float among them."""
        flow = turned(node, width, height, flow)
        if node.floats or node.style.flow == "free":
            # Children in the flow come in their order; what floats is put between them where it
            # stood in the tree.
            rest = iter(flow)
            free = node.style.flow == "free"
            if free:
                again = free_box_as_before(
                    node, width, height, lambda child: self._pinned(child, width, height)
                )
                if again is not None:
                    return again
            flow = [
                self._pinned(child, width, height) if free or child.style.floating else next(rest)
                for child in node.children
            ]
        assembled = Placed(
            width,
            height,
            tuple([placed for placed, _, _ in flow]),
            tuple([x for _, x, _ in flow]),
            tuple([y for _, _, y in flow]),
        )
        if node.style.flow == "free" and len(flow) >= LONG:
            memory_of(node).pinned[width, height] = assembled
        return assembled


def _in_all(node: LayoutNode, n: int) -> int:
    """The place among all children of the nth of those that do not float."""
    flowing = [index for index, child in enumerate(node.children) if not child.style.floating]
    return flowing[n] if flowing else 0


class _Line(NamedTuple):
    """A row's line, measured: its children, how high each is by itself and how it stands across,
    how far from the edge at which the line begins the shared baseline lies, and the height that it
    needs."""

    children: tuple[LayoutNode, ...]
    natural: list[Placed]
    hows: list[str]
    rise: float
    height: float


def content_size(node: LayoutNode, placed: Placed) -> tuple[float, float]:
    """What a free box takes where it fits, as it was laid out: the width is known where it was
    asked for, and else of no account, and so is the height."""
    width, height = placed.width, placed.height
    for version in (node, *memory_of(node).relative.values()):
        memory = memory_of(version)
        width = memory.intrinsic.get(None, (0.0, width))[1]
        natural = memory.sizes.get((placed.width, None, True))
        height = natural.height if natural is not None else height
    return width, height


def _outer_sum(children: tuple[LayoutNode, ...], widths: list[float]) -> float:
    margins = sum(c.style.margin_left + c.style.margin_right for c in children)
    return margins + sum(widths)
