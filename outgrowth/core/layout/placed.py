"""What layout gives: sizes, and the places of children relative to their parent."""

from __future__ import annotations

from outgrowth.core.text import Paragraph

Lines = tuple[tuple[float, float], ...]
"""Where each column, or row, begins and ends, in px."""


class Placed:
    """A node's border box in CSS px. `xs` and `ys` are the left-top corners of the
    children, from this node's left-top corner. Texts carry their set lines.

    first_line  how many children stand in the first line of a row that wraps, or of lines that are
                turned how many come before the last, which stands first; of a grid, which child its
                baseline comes from; None for all others
    tracks      where a grid's columns and rows begin and end, in px from the left-top corner
    unscrolled  the same before it was scrolled
    unstuck     the same with nothing in it stuck to an edge

    Equal subtrees under equal constraints are the same object.
    """

    __slots__ = (
        "__weakref__",
        "children",
        "first_line",
        "height",
        "text",
        "tracks",
        "unscrolled",
        "unstuck",
        "width",
        "xs",
        "ys",
    )

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
        self.first_line: int | None = None
        self.tracks: tuple[Lines, Lines] | None = None
        self.unscrolled: Placed | None = None
        self.unstuck: Placed | None = None

    def taking_over(self, other: Placed) -> Placed:
        """This one, with what is known of another that is arranged the same."""
        self.first_line, self.tracks = other.first_line, other.tracks
        self.unscrolled, self.unstuck = other.unscrolled, other.unstuck
        return self
