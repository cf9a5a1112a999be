"""Words of the window itself, where a widget paints them."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QFont, QPainter


def elided(painter: QPainter, text: str, width: float) -> str:
    """The text, cut at its end where it is wider than so many px in the painter's font."""
    return painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(width))


def draw_line(painter: QPainter, rect: QRectF, text: str) -> None:
    """One line in the middle of a rectangle's height, from its left, cut at its end."""
    painter.drawText(rect, Qt.AlignmentFlag.AlignVCenter, elided(painter, text, rect.width()))


def bold(font: QFont) -> QFont:
    """The same font, bold."""
    made = QFont(font)
    made.setBold(True)
    return made
