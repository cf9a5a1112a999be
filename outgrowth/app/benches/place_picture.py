"""A picture of a place: what an owner looks like around one of its parts, with that edged."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.theme import LIGHT, Theme
from outgrowth.core.document.records import Path
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate_some
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw

_AROUND = 40.0
_LEAST = 180.0


class PlacePicture(QWidget):
    """Shows nothing until it is given a view. `role` is the colour of the part's edge."""

    def __init__(self, rasters: Rasters, theme: Theme, name: str, role: str = "problem") -> None:
        super().__init__()
        self._rasters = rasters
        self._theme = theme
        self._role = role
        self._view: View | None = None
        self._part: Rect | None = None
        self.setAccessibleName(name)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(90)

    def sizeHint(self) -> QSize:
        return QSize(280, 170)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.update()

    def show_place(self, view: View | None, path: Path) -> None:
        """Shows a view around the part at a path; the whole view where it is not there."""
        self._view, self._part = view, None
        if view is not None and path:
            located = next(locate_some(view.scene, view.placed, "", [path]), None)
            self._part = located.rect if located is not None else None
        self.update()

    def _region(self, view: View) -> Rect:
        """What of the view is shown: the part with something around it."""
        entire = Rect(0.0, 0.0, max(view.placed.width, 1.0), max(view.placed.height, 1.0))
        part = self._part
        if part is None:
            return entire
        width = min(max(part.width + 2 * _AROUND, _LEAST), entire.width)
        height = min(max(part.height + 2 * _AROUND, _LEAST * 0.6), entire.height)
        x, y = part.center
        left = min(max(x - width / 2, 0.0), entire.width - width)
        top = min(max(y - height / 2, 0.0), entire.height - height)
        return Rect(left, top, width, height)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(self._theme.color("hairline"), 1))
        painter.setBrush(LIGHT.color("paper"))
        painter.drawRoundedRect(room, 4, 4)
        if self._view is not None:
            self._draw(painter, self._view, room.adjusted(6, 6, -6, -6))
        painter.end()

    def _draw(self, painter: QPainter, view: View, room: QRectF) -> None:
        region = self._region(view)
        zoom = min(room.width() / region.width, room.height() / region.height, 2.0)
        x = room.center().x() - (region.x + region.width / 2) * zoom
        y = room.center().y() - (region.y + region.height / 2) * zoom
        ratio = self.devicePixelRatioF()
        painter.save()
        painter.setClipRect(room)
        painter.translate(x, y)
        painter.scale(1 / ratio, 1 / ratio)
        QtPainter(painter, self._rasters, zoom * ratio).draw(draw(*view), 0.0, 0.0)
        painter.restore()
        if self._part is not None:
            painter.setClipRect(room.adjusted(-3, -3, 3, 3))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(LIGHT.color(self._role), 1.5))
            part = self._part
            painter.drawRect(
                QRectF(x + part.x * zoom, y + part.y * zoom, part.width * zoom, part.height * zoom)
            )
