"""Small live pictures of components and screens."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPainter, QPainterPath

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw


def draw_thumbnail(
    painter: QPainter, view: View, rect: QRectF, rasters: Rasters, ratio: float, inset: float
) -> None:
    """The view in the middle of `rect`, shrunk if it has to be, never enlarged."""
    room = rect.adjusted(inset, inset, -inset, -inset)
    placed = view.placed
    zoom = min(room.width() / max(placed.width, 1), room.height() / max(placed.height, 1), 1.0)
    x = rect.center().x() - placed.width * zoom / 2
    y = rect.center().y() - placed.height * zoom / 2
    painter.save()
    clip = QPainterPath()
    clip.addRoundedRect(rect, 3, 3)
    painter.setClipPath(clip)
    painter.translate(x, y)
    painter.scale(1 / ratio, 1 / ratio)
    QtPainter(painter, rasters, zoom * ratio).draw(draw(*view), 0.0, 0.0)
    painter.restore()
