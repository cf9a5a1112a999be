"""The colours of the workbench by role: paper and ink, with the parts as the bright things."""

from __future__ import annotations

from typing import NamedTuple

from PyQt6.QtGui import QColor


class Theme(NamedTuple):
    """One look. Every role is a hex colour; contrast of ink on panel is at least 7:1, of
    muted, clay, slate, saffron, problem and good on panel at least 4.5:1. `paper` is what
    parts lie on: light in both looks, since they are drawn for a product's own ground."""

    name: str
    panel: str
    chrome: str
    bed: str
    field: str
    paper: str
    ink: str
    muted: str
    hairline: str
    clay: str
    slate: str
    saffron: str
    problem: str
    good: str
    lit: str

    def color(self, role: str) -> QColor:
        """A role's colour as Qt has it."""
        return QColor(getattr(self, role))

    def between(self, role: str, other: str) -> QColor:
        """The colour half way from one role's to another's."""
        a, b = self.color(role), self.color(other)
        return QColor(*((m + n) // 2 for m, n in zip(a.getRgb(), b.getRgb(), strict=True)))


LIGHT = Theme(
    name="light",
    panel="#FAF6EE",
    chrome="#EDE6DA",
    bed="#DDD4C4",
    field="#FFFFFF",
    paper="#FFFFFF",
    ink="#2A241E",
    muted="#665B4E",
    hairline="#C9BDAB",
    clay="#9C3D1B",
    slate="#33526A",
    saffron="#8A5A00",
    problem="#A11D1D",
    good="#4B6320",
    lit="#F1EADD",
)

DARK = Theme(
    name="dark",
    panel="#241F1B",
    chrome="#1B1714",
    bed="#14110E",
    field="#191512",
    paper="#E9E2D6",
    ink="#F1E9DC",
    muted="#B3A796",
    hairline="#4A4138",
    clay="#F08A5D",
    slate="#9DBAD0",
    saffron="#E3B34A",
    problem="#F28B82",
    good="#AFC77A",
    lit="#302A24",
)
