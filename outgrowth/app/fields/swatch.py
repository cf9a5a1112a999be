"""A small square of a colour, as lists and buttons show it."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QIcon, QPainter, QPen, QPixmap

from outgrowth.app.paint.painter import brush
from outgrowth.app.paint.paths import qrect
from outgrowth.core.color import Fill
from outgrowth.core.geometry import Rect

_SWATCH = 16


def swatch_icon(color: Fill, ratio: float) -> QIcon:
    """A square of the colour; its lower right half shows what its transparency lets through."""
    side = round(_SWATCH * ratio)
    pixmap = QPixmap(side, side)
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.white)
    painter = QPainter(pixmap)
    if color.alpha < 1:
        for n in range(4):
            for m in range(n % 2, 4, 2):
                painter.fillRect(n * 4, m * 4, 4, 4, Qt.GlobalColor.lightGray)
    bounds = Rect(0.0, 0.0, _SWATCH, _SWATCH)
    painter.fillRect(qrect(bounds), brush(color, bounds))
    painter.setPen(QPen(Qt.GlobalColor.gray, 1))
    painter.drawRect(QRectF(0.5, 0.5, _SWATCH - 1, _SWATCH - 1))
    painter.end()
    return QIcon(pixmap)
