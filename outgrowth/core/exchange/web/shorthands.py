"""The usual shorthands of CSS, made of longhands."""

from __future__ import annotations

from outgrowth.core.exchange.web.css import CORNERS, SIDES, Css

# The shorthands, and the longhands that they are made of, in the order of their values.
_FOLDS = {
    "gap": ("row-gap", "column-gap"),
    "padding": tuple(f"padding-{side}" for side in SIDES),
    "margin": tuple(f"margin-{side}" for side in SIDES),
    "border-radius": tuple(f"border-{corner}-radius" for corner in CORNERS),
}


def folded(css: Css) -> Css:
    """The same with shorthands, where all longhands of one are there."""
    css = dict(css)
    for short, longs in _FOLDS.items():
        if all(name in css for name in longs):
            values = [css.pop(name) for name in longs]
            css[short] = " ".join(_shortest(values))
    return css


def _shortest(values: list[str]) -> list[str]:
    """Four sides as few (CSS 2.2, section 8.3), two as one."""
    if len(set(values)) == 1:
        return values[:1]
    if len(values) == 4 and values[1] == values[3]:
        return values[:2] if values[0] == values[2] else values[:3]
    return values
