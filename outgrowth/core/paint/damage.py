"""What of a picture is another one than before, found by identity."""

from __future__ import annotations

from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.rect import union
from outgrowth.core.memo import differing
from outgrowth.core.paint.fragment import Fragment, Group

MOST = 48
"""Rectangles; more are one around them all."""


def damage(before: Fragment, after: Fragment) -> list[Rect]:
    """The rectangles, in px of the root, outside of which both look the same."""
    rects: list[Rect] = []
    _compare(before, after, 0.0, 0.0, rects)
    return rects if len(rects) <= MOST else [union(rects)]


def _compare(a: Fragment, b: Fragment, x: float, y: float, rects: list[Rect]) -> None:
    if a is b:
        return
    similar = (
        len(a.children) == len(b.children)
        and _plain(a.group, b.group)
        # A part that becomes a component, or one no more, goes onto whole device px or off them.
        and a.is_instance_root is b.is_instance_root
    )
    if not similar or (a.marks is not b.marks and a.marks != b.marks):
        rects.append(union((a.bounds, b.bounds)).moved(x, y))
        return
    for n in differing(a.children, b.children):
        ax, ay, child_before = a.children[n]
        bx, by, child_after = b.children[n]
        if (ax, ay) == (bx, by):
            _compare(child_before, child_after, x + ax, y + ay, rects)
        else:
            rects.append(child_before.bounds.moved(x + ax, y + ay))
            rects.append(child_after.bounds.moved(x + bx, y + by))


def _plain(a: Group | None, b: Group | None) -> bool:
    """Whether what is inside of both is drawn alike, part by part, and cut the same."""
    if a is None or b is None:
        return a is b
    return a.repaints_parts and b.repaints_parts and a.clip == b.clip
