"""Axis-parallel rectangles, in CSS px, y pointing down."""

from __future__ import annotations

from collections.abc import Iterable
from operator import add
from typing import NamedTuple


class Rect(NamedTuple):
    """A rectangle by its left-top corner and its size."""

    x: float
    y: float
    width: float
    height: float

    @property
    def right(self) -> float:
        """The x of its right edge."""
        return self.x + self.width

    @property
    def bottom(self) -> float:
        """The y of its lower edge."""
        return self.y + self.height

    @property
    def center(self) -> tuple[float, float]:
        """Its middle."""
        return self.x + self.width / 2, self.y + self.height / 2

    def contains(self, x: float, y: float) -> bool:
        """Whether a point lies inside; the right and bottom edges do not count."""
        return self.x <= x < self.right and self.y <= y < self.bottom

    def moved(self, dx: float, dy: float) -> Rect:
        """The rectangle elsewhere."""
        return Rect(self.x + dx, self.y + dy, self.width, self.height)

    def grown(self, by: float) -> Rect:
        """The rectangle with every edge moved outward by `by`."""
        return Rect(self.x - by, self.y - by, self.width + 2 * by, self.height + 2 * by)

    def meets(self, other: Rect) -> bool:
        """Whether two rectangles have a point in common, edges apart."""
        return (
            self.x < other.right
            and other.x < self.right
            and self.y < other.bottom
            and other.y < self.bottom
        )


def union(rects: Iterable[Rect]) -> Rect:
    """The smallest rectangle around all of `rects`; an empty one at 0, 0 for none."""
    columns = tuple(zip(*rects, strict=True))
    if not columns:
        return Rect(0.0, 0.0, 0.0, 0.0)
    xs, ys, widths, heights = columns
    left, top = min(xs), min(ys)
    right, bottom = max(map(add, xs, widths)), max(map(add, ys, heights))
    return Rect(left, top, right - left, bottom - top)


def corner_radii(
    width: float, height: float, radii: tuple[float, float, float, float]
) -> tuple[float, float, float, float]:
    """Corner radii (top-left, top-right, bottom-right, bottom-left) reduced so that
    no two overlap along an edge.

    Source: CSS Backgrounds and Borders 3, section 4.5, "Corner Overlap".
    """
    tl, tr, br, bl = radii
    factor = 1.0
    for edge, total in ((width, tl + tr), (width, bl + br), (height, tl + bl), (height, tr + br)):
        if total > edge and total > 0:
            factor = min(factor, max(edge, 0.0) / total)
    if factor == 1.0:
        return radii
    return tl * factor, tr * factor, br * factor, bl * factor


Bends = tuple[tuple[float, float], ...]
"""Radii across and down of each corner, clockwise from the top left."""


def edge_bends(
    radii: tuple[float, float, float, float],
    lines: tuple[float, float, float, float],
    share: float,
) -> Bends:
    """The corners of an edge that lies `share` of the lines (top, right, bottom, left) outside
    of a rounded one; square corners stay square.

    Source: CSS Backgrounds and Borders 3, section 4.2, "Corner Shaping".
    """
    top, right, bottom, left = lines
    beside = ((left, top), (right, top), (right, bottom), (left, bottom))
    return tuple(
        (max(r + share * across, 0.0), max(r + share * down, 0.0)) if r else (0.0, 0.0)
        for r, (across, down) in zip(radii, beside, strict=True)
    )


def in_rounded(
    x: float, y: float, width: float, height: float, radii: tuple[float, float, float, float]
) -> bool:
    """Whether a point lies in the rounded rectangle 0, 0, width, height."""
    if not (0 <= x < width and 0 <= y < height):
        return False
    tl, tr, br, bl = corner_radii(width, height, radii)
    for radius, cx, cy, outside in (
        (tl, tl, tl, x < tl and y < tl),
        (tr, width - tr, tr, x > width - tr and y < tr),
        (br, width - br, height - br, x > width - br and y > height - br),
        (bl, bl, height - bl, x < bl and y > height - bl),
    ):
        if outside:
            return (x - cx) ** 2 + (y - cy) ** 2 <= radius * radius
    return True
