"""What marks come down to, once for every backend: rounded rectangles, and where pictures lie.

Backends hand in the rectangle that a mark takes (Qt moves its edges onto device pixels first)
and draw what comes back; none of them works out an edge or a shadow for itself.
"""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.values import Picture
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.rect import Bends, edge_bends
from outgrowth.core.paint.marks import BoxShadow, Image, Radii, Ring

SQUARE: Bends = ((0.0, 0.0),) * 4
"""Corners without a radius."""


class Rounded(NamedTuple):
    """A rectangle with elliptic corners: radii across and down, clockwise from the top left."""

    rect: Rect
    bends: Bends = SQUARE


class ShadowShapes(NamedTuple):
    """A shadow before it is blurred and coloured.

    caster      what throws it; an inner shadow is thrown by everything in `reach_rect` but this
    box         what it is seen outside of, or, for an inner one, inside of
    reach_rect  large enough for all that is seen of it
    """

    caster: Rounded
    box: Rounded
    reach_rect: Rect


def even(radii: Radii) -> Bends:
    """Round corners as elliptic ones."""
    return tuple((radius, radius) for radius in radii)


def box_shape(width: float, height: float, radii: Radii) -> Rounded:
    """A rounded rectangle at 0, 0."""
    return Rounded(Rect(0.0, 0.0, width, height), even(radii))


def ring_shapes(mark: Ring, rect: Rect) -> tuple[Rounded, Rounded | None]:
    """The outer and the inner edge of a ring along `rect`; None where its lines meet inside.

    Source: CSS Backgrounds and Borders 3, section 4.2 (the inner edge's corners).
    """
    top, right, bottom, left = mark.lines
    out = mark.out
    outer = Rect(
        rect.x - out * left,
        rect.y - out * top,
        rect.width + out * (left + right),
        rect.height + out * (top + bottom),
    )
    edge = Rounded(outer, edge_bends(mark.radii, mark.lines, out))
    wide, high = outer.width - left - right, outer.height - top - bottom
    if wide <= 0 or high <= 0:
        return edge, None
    inner = Rect(outer.x + left, outer.y + top, wide, high)
    return edge, Rounded(inner, edge_bends(mark.radii, mark.lines, out - 1))


def shadow_shapes(mark: BoxShadow) -> ShadowShapes:
    """The shapes of a shadow of a box at 0, 0.

    Source: CSS Backgrounds and Borders 3, section 6.1 (offset, spread, corners; the deviation
    of the blur is half its length, so nothing is seen beyond twice that).
    """
    shadow = mark.shadow
    spread = -shadow.spread if shadow.inner else shadow.spread
    caster = Rect(
        shadow.x - spread,
        shadow.y - spread,
        max(mark.width + 2 * spread, 0.0),
        max(mark.height + 2 * spread, 0.0),
    )
    # A square corner stays square, however far it is spread.
    bends = even(tuple(max(r + spread, 0.0) if r else 0.0 for r in mark.radii))  # type: ignore[arg-type]  # four of four
    # Two px more than can be seen: edges are smoothed.
    reach = shadow.blur * 2 + abs(shadow.x) + abs(shadow.y) + abs(spread) + 2
    reach_rect = Rect(-reach, -reach, mark.width + 2 * reach, mark.height + 2 * reach)
    return ShadowShapes(
        Rounded(caster, bends), box_shape(mark.width, mark.height, mark.radii), reach_rect
    )


def seen_shares(picture: Picture, room: tuple[float, float], fit: str) -> tuple[float, float]:
    """Which shares of a picture's width and height are seen in a room of this size (px)."""
    wide, high = room
    if fit != "cover" or min(wide, high, picture.width, picture.height) <= 0:
        return 1.0, 1.0
    scale = max(wide / picture.width, high / picture.height)
    return wide / (picture.width * scale), high / (picture.height * scale)


def image_rect(mark: Image, room: Rect) -> Rect:
    """Where a picture lies whole: over the room (cover), in it (contain), or as it (stretch).

    Source: CSS Images 3, sections 5.5 and 5.6 (object-fit, object-position).
    """
    picture = mark.picture
    if mark.fit == "stretch" or not (picture.width and picture.height):
        return room
    across, down = room.width / picture.width, room.height / picture.height
    scale = max(across, down) if mark.fit == "cover" else min(across, down)
    width, height = picture.width * scale, picture.height * scale
    x, y = mark.focal
    return Rect(
        room.x + (room.width - width) * x, room.y + (room.height - height) * y, width, height
    )
