"""2-D affine maps, with the matrix letters of CSS Transforms 1 and SVG."""

from __future__ import annotations

import math
from typing import NamedTuple

from outgrowth.core.geometry.rect import Rect


class Affine(NamedTuple):
    """x' = a x + c y + e, y' = b x + d y + f."""

    a: float = 1.0
    b: float = 0.0
    c: float = 0.0
    d: float = 1.0
    e: float = 0.0
    f: float = 0.0

    def then(self, outer: Affine) -> Affine:
        """This map first, `outer` after it."""
        return Affine(
            outer.a * self.a + outer.c * self.b,
            outer.b * self.a + outer.d * self.b,
            outer.a * self.c + outer.c * self.d,
            outer.b * self.c + outer.d * self.d,
            outer.a * self.e + outer.c * self.f + outer.e,
            outer.b * self.e + outer.d * self.f + outer.f,
        )

    def apply(self, x: float, y: float) -> tuple[float, float]:
        """Where a point goes."""
        return self.a * x + self.c * y + self.e, self.b * x + self.d * y + self.f

    def bounds(self, rect: Rect) -> Rect:
        """The smallest upright rectangle around where a rectangle goes."""
        corners = [self.apply(x, y) for x in (rect.x, rect.right) for y in (rect.y, rect.bottom)]
        xs, ys = [x for x, _ in corners], [y for _, y in corners]
        return Rect(min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys))

    def inverse(self) -> Affine | None:
        """The map back, or None where everything falls on a line or a point."""
        det = self.a * self.d - self.b * self.c
        if abs(det) < 1e-12:
            return None
        a, b, c, d = self.d / det, -self.b / det, -self.c / det, self.a / det
        return Affine(a, b, c, d, -(a * self.e + c * self.f), -(b * self.e + d * self.f))


def about(
    origin: tuple[float, float], translate: tuple[float, float], scale: float, degrees: float
) -> Affine:
    """Scale, then rotate clockwise about `origin`, then translate.

    Source: CSS Transforms 2, section 8 (translate, rotate, scale, in that matrix order).
    """
    turn = math.radians(degrees)
    cos, sin = math.cos(turn) * scale, math.sin(turn) * scale
    ox, oy = origin
    return Affine(
        cos,
        sin,
        -sin,
        cos,
        ox - cos * ox + sin * oy + translate[0],
        oy - sin * ox - cos * oy + translate[1],
    )
