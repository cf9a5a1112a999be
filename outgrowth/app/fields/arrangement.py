"""Small drawings of how children stand in a box, for the choices of its arrangement."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap

from outgrowth.app.theme import Theme

WIDE, HIGH = 26, 18
_EDGE, _BAR, _GAP = 2.5, 3.5, 2.0
_LENGTHS = (9.0, 5.0, 7.0)
_RATIO = 2
DRAWN = frozenset(
    {"flow", "justify", "align", "align-self", "text-align", "align-content", "justify-items"}
)
"""The properties whose choices are drawn."""


@lru_cache(maxsize=512)
def arrangement_icon(name: str, option: str, column: bool, theme: Theme) -> QIcon:
    """A choice of an arrangement's property as it looks, in a column turned."""
    pixmap = QPixmap(WIDE * _RATIO, HIGH * _RATIO)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.scale(_RATIO, _RATIO)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(theme.color("muted"), 1))
    painter.drawRoundedRect(QRectF(0.5, 0.5, WIDE - 1, HIGH - 1), 2, 2)
    painter.setPen(Qt.PenStyle.NoPen)
    ink = theme.color("ink")
    for bar in bars(name, option, column):
        painter.fillRect(bar, QColor(ink))
    painter.end()
    pixmap.setDevicePixelRatio(_RATIO)
    made = QIcon(pixmap)
    made.addPixmap(pixmap, QIcon.Mode.Selected)
    return made


def bars(name: str, option: str, column: bool) -> list[QRectF]:
    """Where the children of a small box stand, in px of the drawing."""
    room = QRectF(_EDGE, _EDGE, WIDE - 2 * _EDGE, HIGH - 2 * _EDGE)
    if name == "flow":
        return _flow(option, room)
    if name == "text-align":
        return [
            QRectF(_at(option, room.x(), room.width(), wide), room.y() + n * 5.0, wide, 2.0)
            for n, wide in enumerate((16.0, 10.0, 13.0))
        ]
    along = name in ("justify", "justify-items", "align-content")
    length, across = (room.height(), room.width()) if column else (room.width(), room.height())
    made = _along(option, length, across) if along else _across(option, length, across)
    if column:
        return [QRectF(room.x() + b.y(), room.y() + b.x(), b.height(), b.width()) for b in made]
    return [b.translated(room.topLeft()) for b in made]


def _at(option: str, start: float, room: float, size: float) -> float:
    spare = room - size
    return start + {"center": spare / 2, "end": spare, "right": spare}.get(option, 0.0)


def _flow(option: str, room: QRectF) -> list[QRectF]:
    x, y = room.x(), room.y()
    if option == "row":
        return [QRectF(x + 1 + n * 7.0, y + 1, 5, 11) for n in range(3)]
    if option == "column":
        return [QRectF(x + 3, y + n * 4.6, 15, 3.2) for n in range(3)]
    if option == "grid":
        return [QRectF(x + 3 + m * 8.5, y + n * 7, 6.5, 5.5) for n in range(2) for m in range(2)]
    return [QRectF(x + 1, y + 1, 7, 5), QRectF(x + 11, y + 4, 8, 4), QRectF(x + 5, y + 8.5, 6, 4)]


def _along(option: str, length: float, across: float) -> list[QRectF]:
    """Three bars along the way that a box lays its children."""
    bar = min(_BAR, length / 6)
    spare = length - 3 * bar
    gap, first = bar / 2, 0.0
    if option.endswith("between"):
        gap = spare / 2
    elif option.endswith("around"):
        gap, first = spare / 3, spare / 6
    elif option.endswith("evenly"):
        gap, first = spare / 4, spare / 4
    elif option == "stretch":
        each = (length - 2 * _GAP) / 3
        return [QRectF(n * (each + _GAP), 1.0, each, across - 2) for n in range(3)]
    else:
        first = _at(option, 0.0, length, 4 * bar)
    return [QRectF(first + n * (bar + gap), 1.0, bar, across - 2) for n in range(3)]


def _across(option: str, length: float, across: float) -> list[QRectF]:
    """Three bars of several lengths, as they stand across that way."""
    bar = min(_BAR, length / 6)
    first, share = (length - 4 * bar) / 2, across / 13.0
    made = []
    for n, whole in enumerate(_LENGTHS):
        size = across if option == "stretch" else whole * share
        top = 8.0 * share - size * 0.7 if option == "baseline" else _at(option, 0.0, across, size)
        made.append(QRectF(first + n * bar * 1.5, top, bar, size))
    return made
