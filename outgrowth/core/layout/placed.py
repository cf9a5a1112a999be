"""What layout gives: sizes, and the places of children relative to their parent."""

from __future__ import annotations

from outgrowth.core.text import Paragraph


class Placed:
    """A node's border box in CSS px. `xs` and `ys` are the left-top corners of the
    children, from this node's left-top corner. Texts carry their set lines.

    Equal subtrees under equal constraints are the same object.
    """

    __slots__ = ("__weakref__", "children", "height", "kept", "text", "width", "xs", "ys")

    def __init__(
        self,
        width: float,
        height: float,
        children: tuple[Placed, ...] = (),
        xs: tuple[float, ...] = (),
        ys: tuple[float, ...] = (),
        text: Paragraph | None = None,
    ) -> None:
        self.width = width
        self.height = height
        self.children = children
        self.xs = xs
        self.ys = ys
        self.text = text
        self.kept: dict[object, object] = {}
