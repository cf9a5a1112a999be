"""What scrolls: how far it reaches, where its parts stand at a place of it, and what stays in
sight at its edges.

Source: CSS Overflow 3, section 2.2 (scrollable overflow); CSS Positioned Layout 3, section 3.4
(sticky).
"""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.layout.by_room import as_laid
from outgrowth.core.layout.cross_axis import scrolls
from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import BY_ROOM, STICKS, LayoutNode, SceneNode
from outgrowth.core.resolve.styles import LayoutStyle

Point = tuple[float, float]
Laid = LayoutNode | SceneNode
"""What was laid out: of a moving picture, the scene has what fades as well."""


def _about(node: Laid) -> LayoutNode:
    return node.layout if isinstance(node, SceneNode) else node


def _parts(node: Laid, placed: Placed) -> Sequence[Laid]:
    children: Sequence[Laid] = node.children
    if not _about(node).holds & BY_ROOM:
        return children
    parts = zip(children, placed.children, strict=True)
    return [one if isinstance(one, SceneNode) else as_laid(one, part) for one, part in parts]


def reach(node: Laid, placed: Placed) -> Point:
    """How wide and high all is that a box scrolls, at least its own size (px): its children with
    their margins and its padding, and what reaches out of them."""
    base = _unscrolled(placed)
    return _reach(node, base)


def _reach(node: Laid, placed: Placed) -> Point:
    style = _about(node).style
    wide, high = placed.width, placed.height
    for child, point, x, y in zip(
        _parts(node, placed), placed.children, placed.xs, placed.ys, strict=True
    ):
        c = _about(child).style
        flows = style.flow != "free" and not c.floating
        after = max(c.margin_right + style.padding_right, 0.0) if flows else 0.0
        below = max(c.margin_bottom + style.padding_bottom, 0.0) if flows else 0.0
        wide = max(wide, x + point.width + after)
        high = max(high, y + point.height + below)
        if not scrolls(_about(child)) and point.children:
            inner = _reach(child, point)
            wide, high = max(wide, x + inner[0]), max(high, y + inner[1])
    return wide, high


def scrolled(node: Laid, placed: Placed, to: Point) -> Placed:
    """A box that scrolls, with what is in it moved up and left by so many px."""
    base = _unscrolled(placed)
    about = _about(node)
    if to == (0.0, 0.0) and not about.deep & STICKS:
        return base
    left, top = to
    moved = Placed(
        base.width,
        base.height,
        base.children,
        tuple([x - left for x in base.xs]),
        tuple([y - top for y in base.ys]),
    )
    moved.taking_over(base)
    if about.deep & STICKS:
        wide, high = _reach(node, base)
        before = _room(about.style, (wide, high), (-left, -top))
        port = _room(about.style, (base.width, base.height), (0.0, 0.0))
        moved = _stuck(node, moved, (0.0, 0.0), before, port)
    moved.unscrolled = base
    return moved


def unstuck(node: LayoutNode, placed: Placed) -> Placed:
    """A picture in which nothing sticks yet: what movements begin from and go to, so that a part
    sticks in each of their frames by itself."""
    if not node.deep & STICKS:
        return placed
    result = placed.unstuck
    if result is None:
        base = _unscrolled(placed) if scrolls(node) else placed
        parts = zip(node.children, base.children, strict=True)
        children = tuple([unstuck(as_laid(child, part), part) for child, part in parts])
        result = Placed(base.width, base.height, children, base.xs, base.ys, base.text)
        placed.unstuck = result
    return result


def _unscrolled(placed: Placed) -> Placed:
    return placed.unscrolled or placed


_Edges = tuple[float, float, float, float]


def _stuck(node: Laid, placed: Placed, corner: Point, room: _Edges, port: _Edges) -> Placed:
    """The node with its parts kept in sight. `corner` is where it stands in the box that
    scrolls, `room` the left, top, right and bottom edge there within which its parts stay, and
    `port` those of what is seen: the box without its padding, as browsers have it."""
    children, xs, ys = list(placed.children), list(placed.xs), list(placed.ys)
    for n, child in enumerate(_parts(node, placed)):
        about = _about(child)
        flows = not about.style.floating and _about(node).style.flow != "free"
        if about.asks & STICKS and flows:
            point = corner[0] + xs[n], corner[1] + ys[n]
            dx, dy = _kept_in_sight(about.style, point, children[n], room, port)
            xs[n], ys[n] = xs[n] + dx, ys[n] + dy
        if about.deep & STICKS and not scrolls(about):
            point = corner[0] + xs[n], corner[1] + ys[n]
            inner = _room(about.style, (children[n].width, children[n].height), point)
            children[n] = _stuck(child, children[n], point, inner, port)
    stuck = Placed(placed.width, placed.height, tuple(children), tuple(xs), tuple(ys), placed.text)
    return stuck.taking_over(placed)


def _room(style: LayoutStyle, size: Point, corner: Point) -> _Edges:
    """The edges of what is inside of a box's padding."""
    (x, y), (width, height) = corner, size
    if style.flow == "free":
        return x, y, x + width, y + height
    right, bottom = x + width - style.padding_right, y + height - style.padding_bottom
    return x + style.padding_left, y + style.padding_top, right, bottom


def _kept_in_sight(
    style: LayoutStyle, point: Point, placed: Placed, room: _Edges, port: _Edges
) -> Point:
    """How far a part is moved so that it stays in sight, within what holds it."""
    x, y = point
    left, top, right, bottom = room
    if style.sticks == "top":
        most = bottom - (y + placed.height + style.margin_bottom)
        return 0.0, max(min(port[1] + style.y - y, most), 0.0)
    if style.sticks == "bottom":
        most = y - style.margin_top - top
        return 0.0, -max(min(y + placed.height - (port[3] - style.bottom), most), 0.0)
    if style.sticks == "left":
        most = right - (x + placed.width + style.margin_right)
        return max(min(port[0] + style.x - x, most), 0.0), 0.0
    most = x - style.margin_left - left
    return -max(min(x + placed.width - (port[2] - style.right), most), 0.0), 0.0
