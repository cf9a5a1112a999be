"""Where a pinned child stands along one axis of its box: numbers in, numbers out.

It is what CSS does with `position: absolute` and the insets of docs/layout.md.
"""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.values import Size
from outgrowth.core.resolve.sides import TURNED
from outgrowth.core.resolve.styles import LayoutStyle


class Tie(NamedTuple):
    """One axis of a pinned child, in px.

    pin       start, end, both, center or scale
    start     the distance from the near edge, without the margin
    end       the distance from the far edge, without the margin
    near, far the same, margins included
    middle    how far its middle stands from the box's, for one that is centred
    size      the size that is asked for
    from_far  whether its lines begin at the far edge: there it stands where both edges are too much
    """

    pin: str
    start: float
    end: float
    near: float
    far: float
    middle: float
    size: Size
    from_far: bool = False


def tie_x(style: LayoutStyle) -> Tie:
    """How it is tied to its holder across."""
    middle = style.x + (style.margin_left - style.margin_right) / 2
    near, far = style.x + style.margin_left, style.right + style.margin_right
    pin, from_far = style.pin_x.removesuffix(TURNED), style.pin_x.endswith(TURNED)
    return Tie(pin, style.x, style.right, near, far, middle, style.width, from_far)


def tie_y(style: LayoutStyle) -> Tie:
    """How it is tied to its holder down."""
    middle = style.y + (style.margin_top - style.margin_bottom) / 2
    near, far = style.y + style.margin_top, style.bottom + style.margin_bottom
    return Tie(style.pin_y, style.y, style.bottom, near, far, middle, style.height)


def scaling(tie: Tie) -> tuple[float, float] | None:
    """The shares of the box before and after a child that scales with it; None for one that
    does not. The three lengths that it was drawn with make up the whole."""
    if tie.pin != "scale" or tie.size.mode != "fixed":
        return None
    full_size = tie.start + tie.size.amount + tie.end
    return (tie.start / full_size, tie.end / full_size) if full_size > 0 else None


def stretched(tie: Tie, room: float) -> float | None:
    """The size that both edges give in `room` px; None where the child has its own."""
    shares = scaling(tie)
    if shares is not None:
        margins = tie.near - tie.start + tie.far - tie.end
        return max(room * (1 - shares[0] - shares[1]) - margins, 0.0)
    if tie.size.mode == "grow" or (tie.pin == "both" and tie.size.mode == "fit"):
        margins = tie.near - tie.start + tie.far - tie.end
        return max(max(room - tie.start - tie.end, 0.0) - margins, 0.0)
    return None


def place(tie: Tie, room: float, size: float) -> float:
    """Where a child of this size starts."""
    shares = scaling(tie)
    if shares is not None:
        if tie.from_far:
            return room - (room * shares[1] + tie.far - tie.end) - size
        return room * shares[0] + tie.near - tie.start
    if tie.size.mode == "grow" or tie.pin in ("both", "scale"):
        return room - tie.far - size if tie.from_far else tie.near
    if tie.pin == "start":
        return tie.near
    if tie.pin == "end":
        return room - tie.far - size
    return (room - size) / 2 + tie.middle
