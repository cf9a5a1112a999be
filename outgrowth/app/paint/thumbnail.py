"""Small live pictures of components and screens."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPainter, QPainterPath

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw


def draw_thumbnail(
    painter: QPainter,
    view: View,
    rect: QRectF,
    rasters: Rasters,
    ratio: float,
    inset: float,
    fills: bool = False,
) -> None:
    """The view in the middle of `rect`, shrunk if it has to be, never enlarged; one that `fills`
    it is as wide, and begins at its top."""
    room = rect.adjusted(inset, inset, -inset, -inset)
    placed = view.placed
    high = room.height() / max(placed.height, 1)
    zoom = min(room.width() / max(placed.width, 1), 1.0 if fills else min(high, 1.0))
    x = rect.center().x() - placed.width * zoom / 2
    y = rect.center().y() - placed.height * zoom / 2
    if fills:
        y = max(y, rect.top())
    painter.save()
    clip = QPainterPath()
    clip.addRoundedRect(rect, 3, 3)
    painter.setClipPath(clip)
    painter.translate(x, y)
    painter.scale(1 / ratio, 1 / ratio)
    QtPainter(painter, rasters, zoom * ratio).draw(draw(*view), 0.0, 0.0)
    painter.restore()
