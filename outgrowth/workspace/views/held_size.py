"""Why a part is not as wide or as high as was typed."""

from __future__ import annotations

from outgrowth.core.document.formulas import value_of
from outgrowth.core.document.values import Size
from outgrowth.core.resolve.ladder import Inspection
from outgrowth.core.resolve.styles import LayoutStyle
from outgrowth.workspace import measures
from outgrowth.workspace.workspace import Workspace

# Px: less is rounding.
_SAME = 0.5
_ENDS = {"width": ("left", "right"), "height": ("top", "bottom")}
_PINS = {"width": "pin-x", "height": "pin-y"}


def held_text(
    workspace: Workspace, inspection: Inspection, name: str, now: float, room: float
) -> str:
    """What the selected part's width or height comes to (`now`, in `room` px of what holds it) and
    what holds it there, where that is another than was typed: “is 32: its padding”. Empty where
    it is as it says, or where nobody typed one."""
    size = inspection.value(name)
    wanted = _wanted(workspace, size, room) if isinstance(size, Size) else None
    if wanted is None or abs(now - wanted) <= _SAME:
        return ""
    located = measures.located(workspace)
    if located is None:
        return ""
    style = located.scene.layout.style
    bound = getattr(style, f"{'min' if now > wanted else 'max'}_{name}")
    limit = _wanted(workspace, bound, room) if isinstance(bound, Size) else bound
    reason = _holding(style, name, now, limit, now > wanted)
    if not reason and inspection.value(_PINS[name]) == "both" and measures.stands_free(workspace):
        reason = "tied to both edges"
    return f"is {now:.4g}: {reason or 'by what it lies in'}"


def _wanted(workspace: Workspace, size: Size, room: float) -> float | None:
    if size.mode == "percent":
        return size.amount * room / 100 if room else None
    if size.mode == "formula":
        return value_of(size.formula, room or None, measures.zero_width(workspace))
    return size.amount if size.mode == "fixed" else None


def _holding(style: LayoutStyle, name: str, now: float, limit: float | None, larger: bool) -> str:
    """What in a part's own values keeps it from being smaller, or larger; empty for nothing.
    `limit` is its least, or its most (px)."""
    first, last = (getattr(style, f"padding_{end}") for end in _ENDS[name])
    if limit and abs(limit - now) <= _SAME:
        return f"its {'least' if larger else 'most'} {name}"
    if larger:
        return "its padding" if abs(first + last - now) <= _SAME and now > 0 else ""
    return "it gives way where room is short" if style.gives_way and style.shrink else ""
