"""Sizes that depend on something else: per cent of what holds the node, or the widths of a "0".

Before a box arranges its children they are exchanged for the same children with px in these
places, so the rest of the layout knows fixed sizes only.

Source: CSS Sizing 3, section 5.2 (percentages of what is not known yet), CSS Values 4, section
6.1.1 (ch).
"""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from outgrowth.core.document.formulas import is_share, value_of
from outgrowth.core.document.values import Limit, Size, fixed
from outgrowth.core.layout.memory import MOST_SIZES, memory_of
from outgrowth.core.resolve.scene import RELATIVE, YIELDS, LayoutNode
from outgrowth.core.resolve.sides import TURNED

UNSTRETCHED = Size("fit", 1.0)
"""What per cent of an unknown room comes to: it fits, but is not stretched, since something was
said of it (CSS Flexbox 1, section 8.3)."""

Zero = Callable[[LayoutNode], float]
"""How wide a "0" is in a node's letters (px)."""


def resolved_relative(
    node: LayoutNode, across: float | None, down: float | None, zero: Zero
) -> LayoutNode:
    """The node with px for what depends on the holder's inner width and height; None for those
    that are not known: per cent of them are as if nothing was said."""
    if not node.asks & RELATIVE:
        return node
    memory = memory_of(node)
    cached = memory.relative.get((across, down))
    if cached is None:
        if len(memory.relative) >= MOST_SIZES:
            memory.forget()
        cached = memory.relative[across, down] = _resolved(node, across, down, zero)
    return cached


def _resolved(node: LayoutNode, across: float | None, down: float | None, zero: Zero) -> LayoutNode:
    layout_style = node.style
    style = msgspec.structs.replace(
        layout_style,
        pin_x=_pin(layout_style.pin_x, layout_style.width),
        pin_y=_pin(layout_style.pin_y, layout_style.height),
        width=_size(layout_style.width, node, across, zero),
        height=_size(layout_style.height, node, down, zero),
        min_width=_limit(layout_style.min_width, node, across, zero, _LEAST),
        max_width=_limit(layout_style.max_width, node, across, zero, 0.0),
        min_height=_limit(layout_style.min_height, node, down, zero, _LEAST),
        max_height=_limit(layout_style.max_height, node, down, zero, 0.0),
        grow_base=_base(layout_style.grow_base, node, zero),
    )
    layout_node = LayoutNode(node.kind, style, node.children, None, node.rooms)
    limit = layout_style.max_width
    shared = is_share(layout_style.width) or (isinstance(limit, Size) and is_share(limit))
    if node.kind == "image" and shared:
        layout_node.asks |= YIELDS
    return layout_node


# Px: a limit of 0 is none, but 50 % of nothing is one; and a least size that is said, whatever it
# comes to, stands in the place of the content's own (CSS Flexbox 1, section 4.5).
_LEAST = 1e-9


def _pin(pin: str, size: Size) -> str:
    """A share of the holder scales with it by itself."""
    if not pin.startswith("scale") or size.mode not in ("percent", "chars", "formula"):
        return pin
    return "start" if pin == "scale" else f"end{TURNED}"


def _size(size: Size, node: LayoutNode, room: float | None, zero: Zero) -> Size:
    if size.mode == "chars":
        return fixed(size.amount * zero(node))
    if size.mode == "formula":
        value = value_of(size.formula, room, zero(node))
        return UNSTRETCHED if value is None else fixed(max(value, 0.0))
    if size.mode == "percent":
        return UNSTRETCHED if room is None else fixed(max(size.amount * room / 100, 0.0))
    return size


def _base(base: Limit, node: LayoutNode, zero: Zero) -> Limit:
    """The size that a side grows from in px; a share only layout can settle, which knows along
    which axis (see `base_of`)."""
    if not isinstance(base, Size) or is_share(base):
        return base
    return _size(base, node, None, zero).amount


def base_of(node: LayoutNode, room: float | None, zero: Zero) -> float | None:
    """What a growing side begins with along a flow that is so long inside, if it is known: px of
    its border box; None for its content. Source: CSS Flexbox 1, sections 7.2.3 and 9.2."""
    style = node.style
    if style.grow_from != "size":
        return 0.0 if style.grow_from == "nothing" else None
    base = style.grow_base
    if not isinstance(base, Size):
        return base
    size = _size(base, node, room, zero)
    return None if size is UNSTRETCHED else size.amount


def _limit(limit: Limit, node: LayoutNode, room: float | None, zero: Zero, unknown: float) -> float:
    """The limit in px; `unknown` where it is per cent of what is not known. What a least size by a
    formula has besides is there all the same (CSS Sizing 3, section 5.2.1)."""
    if not isinstance(limit, Size):
        return limit
    if limit.mode == "formula" and room is None and unknown:
        room = 0.0
    resolved = _size(limit, node, room, zero)
    return unknown if resolved is UNSTRETCHED else max(resolved.amount, _LEAST)
