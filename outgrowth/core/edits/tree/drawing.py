"""What is drawn new: a box, words, simple shapes, an icon; each seen at once as it begins."""

from __future__ import annotations

from typing import Literal, get_args

import msgspec

from outgrowth.core.color import Color, contrast, darkened
from outgrowth.core.color.convert import luminance
from outgrowth.core.document.properties import FAMILY_MEMBERS, INK, NodeKind
from outgrowth.core.document.records import Node
from outgrowth.core.document.values import Value, fixed, words
from outgrowth.core.edits.tree.nodes import new_node
from outgrowth.core.edits.tree.owners import GROUND, PAPER

DrawnKind = Literal["box", "text", "ellipse", "ring", "line"]
DRAWN_KINDS: tuple[DrawnKind, ...] = get_args(DrawnKind)
MID = Color(0x8F / 255, 0xA3 / 255, 0xAB / 255)
"""The fill of a shape that is new: seen on white and on the ground of a new box."""

_SIZES: dict[DrawnKind, tuple[float, float]] = {
    "ellipse": (40.0, 40.0),
    "ring": (40.0, 40.0),
    "line": (96.0, 2.0),
}
# Contrast with what lies behind from which on a box is told from it, and how much darker one is
# that is not.
_TOLD_APART, _STEP = 1.12, 0.1
LEAST = 3.0
"""Px below which a drag is no size."""


def kind_of(drawn_kind: DrawnKind) -> NodeKind:
    """The node kind that it is drawn as."""
    return drawn_kind if drawn_kind in ("box", "text") else "shape"


def drawn_node(
    drawn_kind: DrawnKind, node_id: str, size: tuple[float, float] | None = None
) -> Node:
    """A new node: of this size in px where one was drawn, else of a usual one."""
    style: dict[str, Value]
    if drawn_kind == "text":
        style = {"content": words("Words"), "color": INK}
        if size is not None and size[0] >= LEAST:
            style["width"] = fixed(size[0])
    elif drawn_kind == "box":
        style = {"flow": "row", "gap": 8.0, "align": "center", "fill": GROUND}
        style |= dict.fromkeys(FAMILY_MEMBERS["radius"], 6.0)
        style |= dict.fromkeys(FAMILY_MEMBERS["padding"], 12.0)
    elif drawn_kind == "line":
        style = {"form": "line", "stroke": INK, "line-width": 2.0}
    else:
        style = {"form": "ellipse", "fill": MID}
        if drawn_kind == "ring":
            style["thickness"] = 6.0
    drawn = size is not None and max(size) >= LEAST
    if drawn_kind != "text" and (drawn or drawn_kind in _SIZES):
        wide, high = size if drawn and size is not None else _SIZES.get(drawn_kind, (0.0, 0.0))
        least = 2.0 if drawn_kind == "line" else 1.0
        style |= {"width": fixed(max(wide, 1.0)), "height": fixed(max(high, least))}
    return new_node(node_id, drawn_kind, kind_of(drawn_kind), style)


def told_apart(node: Node, ground: Color) -> Node:
    """A new node that is seen on a ground: words and lines dark or light, a box or shape of the
    ground's own colour a little darker, or lighter where that is dark."""
    name = "color" if node.kind == "text" else "stroke" if "stroke" in node.style else "fill"
    value = node.style.get(name)
    if not isinstance(value, Color):
        return node
    if value == INK:
        ink = value if contrast(value, ground) >= contrast(GROUND, ground) else PAPER
        return node if ink is value else _colored(node, name, ink)
    if contrast(value, ground) >= _TOLD_APART:
        return node
    return _colored(node, name, darkened(ground, _STEP if luminance(ground) > 0.2 else -_STEP))


def _colored(node: Node, name: str, color: Color) -> Node:
    return msgspec.structs.replace(node, style=node.style.set(name, color))


def icon_node(node_id: str, name: str, path: str, side: float = 24.0) -> Node:
    """An icon of the shipped set: a path drawn in a square of 256."""
    style: dict[str, Value] = {
        "path": path,
        "path-size": 256.0,
        "fill": INK,
        "width": fixed(side),
        "height": fixed(side),
    }
    return new_node(node_id, name, "shape", style)
