"""What scrolls: how far it reaches, where its parts stand at a place of it, and what stays in
sight at its edges.

Source: CSS Overflow 3, section 2.2 (scrollable overflow); CSS Positioned Layout 3, section 3.4
(sticky).
"""

from __future__ import annotations

from outgrowth.core.layout.across import scrolls
from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import STICKS, LayoutNode
from outgrowth.core.resolve.styles import LayoutStyle

_UNSCROLLED = "unscrolled"
Point = tuple[float, float]


def reach(node: LayoutNode, placed: Placed) -> Point:
    """How wide and high all is that a box scrolls, at least its own size (px): its children with
    their margins and its padding, and what reaches out of them."""
    base = _unscrolled(placed)
    return _reach(node, base)


def _reach(node: LayoutNode, at: Placed) -> Point:
    s = node.style
    wide, high = at.width, at.height
    for child, spot, x, y in zip(node.children, at.children, at.xs, at.ys, strict=True):
        c = child.style
        flows = s.flow != "free" and not c.floating
        after = c.margin_right + s.padding_right if flows else 0.0
        below = c.margin_bottom + s.padding_bottom if flows else 0.0
        wide = max(wide, x + spot.width + after)
        high = max(high, y + spot.height + below)
        if not scrolls(child) and spot.children:
            inner = _reach(child, spot)
            wide, high = max(wide, x + inner[0]), max(high, y + inner[1])
    return wide, high


def scrolled(node: LayoutNode, placed: Placed, to: Point) -> Placed:
    """A box that scrolls, with what is in it moved up and left by so many px."""
    base = _unscrolled(placed)
    if to == (0.0, 0.0) and not node.deep & STICKS:
        return base
    left, top = to
    moved = Placed(
        base.width,
        base.height,
        base.children,
        tuple([x - left for x in base.xs]),
        tuple([y - top for y in base.ys]),
    )
    if node.deep & STICKS:
        wide, high = _reach(node, base)
        s = node.style
        whole = (-left + s.padding_left, -top + s.padding_top)
        end = (wide - left - s.padding_right, high - top - s.padding_bottom)
        moved = _stuck(node, moved, (0.0, 0.0), (*whole, *end), (base.width, base.height))
    moved.kept[_UNSCROLLED] = base
    return moved


def _unscrolled(placed: Placed) -> Placed:
    base = placed.kept.get(_UNSCROLLED, placed)
    assert isinstance(base, Placed)
    return base


_Edges = tuple[float, float, float, float]


def _stuck(node: LayoutNode, at: Placed, corner: Point, room: _Edges, port: Point) -> Placed:
    """The node with its parts kept in sight. `corner` is where it stands in the box that
    scrolls, `room` the left, top, right and bottom edge there within which its parts stay, and
    `port` how much of that box is seen."""
    children, xs, ys = list(at.children), list(at.xs), list(at.ys)
    for n, child in enumerate(node.children):
        if child.asks & STICKS and not child.style.floating and node.style.flow != "free":
            spot = corner[0] + xs[n], corner[1] + ys[n]
            dx, dy = _kept_in_sight(child.style, spot, children[n], room, port)
            xs[n], ys[n] = xs[n] + dx, ys[n] + dy
        if child.deep & STICKS and not scrolls(child):
            spot = corner[0] + xs[n], corner[1] + ys[n]
            children[n] = _stuck(child, children[n], spot, _room(child, children[n], spot), port)
    made = Placed(at.width, at.height, tuple(children), tuple(xs), tuple(ys), at.text)
    made.kept.update(at.kept)
    return made


def _room(node: LayoutNode, at: Placed, corner: Point) -> _Edges:
    s = node.style
    x, y = corner
    right, bottom = x + at.width - s.padding_right, y + at.height - s.padding_bottom
    return x + s.padding_left, y + s.padding_top, right, bottom


def _kept_in_sight(s: LayoutStyle, spot: Point, at: Placed, room: _Edges, port: Point) -> Point:
    """How far a part is moved so that it stays in sight, within what holds it."""
    x, y = spot
    left, top, right, bottom = room
    if s.sticks == "top":
        most = bottom - (y + at.height + s.margin_bottom)
        return 0.0, max(min(s.y - y, most), 0.0)
    if s.sticks == "bottom":
        most = y - s.margin_top - top
        return 0.0, -max(min(y + at.height - (port[1] - s.bottom), most), 0.0)
    if s.sticks == "left":
        most = right - (x + at.width + s.margin_right)
        return max(min(s.x - x, most), 0.0), 0.0
    most = x - s.margin_left - left
    return -max(min(x + at.width - (port[0] - s.right), most), 0.0), 0.0
