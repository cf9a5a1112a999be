"""What runs."""

from __future__ import annotations

from typing import NamedTuple

from immutables import Map


class Subject(NamedTuple):
    """What runs: a screen, or (component true) a component in one of its variants.

    `width` and `height` are the room it is given in px; None is its own size. `rtl` is whether one
    reads from right to left around it.
    """

    owner: str
    component: bool = False
    variant: Map[str, str] = Map()
    width: float | None = None
    height: float | None = None
    rtl: bool = False
