"""Pictures side by side, before and after, with the places edged in which they differ."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.theme import Theme
from outgrowth.core.geometry import Rect
from outgrowth.core.team.pictures import Pair, SizedFragment
from outgrowth.core.team.report import bounds_of

_GAP = 12
_PAD = 8
_CAPTION = 20
_ARROW = 22
# Px: a side is never drawn larger than life, nor wider or higher than this.
_WIDEST, _HIGHEST = 220.0, 180.0
_SMALLEST = 56.0


class _Cell(NamedTuple):
    pair: Pair
    rect: QRectF
    sides: tuple[QRectF, QRectF]
    zoom: float


class PairsView(QWidget):
    """As high as its pictures need at its width; draws only those in sight."""

    def __init__(self, theme: Theme, rasters: Rasters) -> None:
        super().__init__()
        self._theme = theme
        self._rasters = rasters
        self._pairs: Sequence[Pair] = ()
        self._cells: list[_Cell] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    @property
    def pairs(self) -> Sequence[Pair]:
        """What is shown."""
        return self._pairs

    def show_pairs(self, pairs: Sequence[Pair], rasters: Rasters) -> None:
        """Shows these from now on; `rasters` know the pictures in them."""
        self._pairs, self._rasters = pairs, rasters
        names = ", ".join(pair.name for pair in pairs[:20])
        self.setAccessibleName(f"Before and after: {names}" if pairs else "Nothing looks different")
        self._lay()
        self.update()

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._lay()

    def sizeHint(self) -> QSize:
        return QSize(300, self.height())

    def _lay(self) -> None:
        """Cells from left to right, rows from top to bottom."""
        self._cells = []
        x = y = row = 0.0
        room = max(float(self.width()), 240.0)
        for pair in self._pairs:
            zoom = self._zoom(pair, room)
            sizes = [_size(picture, zoom) for picture in (pair.before, pair.after)]
            high = max(size[1] for size in sizes)
            caption = self.fontMetrics().horizontalAdvance(pair.name)
            wide = max(sizes[0][0] + sizes[1][0] + _ARROW, min(caption, room - 4))
            if x and x + wide > room:
                x, y, row = 0.0, y + row + _GAP, 0.0
            left = QRectF(x, y, sizes[0][0], high)
            right = QRectF(x + sizes[0][0] + _ARROW, y, sizes[1][0], high)
            rect = QRectF(x, y, wide, high + _CAPTION)
            self._cells.append(_Cell(pair, rect, (left, right), zoom))
            x, row = x + wide + _GAP, max(row, rect.height())
        high = int(y + row) if self._cells else 0
        if high != self.height():
            self.setFixedHeight(high)

    @staticmethod
    def _zoom(pair: Pair, room: float) -> float:
        widest = min(_WIDEST, (room - _ARROW) / 2 - 2 * _PAD)
        bounds = [bounds_of(p) for p in (pair.before, pair.after) if p is not None]
        across = max((b.width for b in bounds), default=1.0)
        down = max((b.height for b in bounds), default=1.0)
        return min(1.0, widest / max(across, 1.0), _HIGHEST / max(down, 1.0))

    # --- painting -------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if event is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        exposed = QRectF(event.rect())
        for cell in self._cells:
            if cell.rect.intersects(exposed):
                self._cell(painter, cell)
        painter.end()

    def _cell(self, painter: QPainter, cell: _Cell) -> None:
        for side, picture in zip(cell.sides, (cell.pair.before, cell.pair.after), strict=True):
            self._side(painter, side, picture, cell)
        painter.setPen(QPen(self._theme.color("muted"), 1.5))
        middle = cell.sides[0].right() + _ARROW / 2
        y = cell.sides[0].center().y()
        for start, end in (((-5, 0), (5, 0)), ((1, -4), (5, 0)), ((1, 4), (5, 0))):
            painter.drawLine(
                QPointF(middle + start[0], y + start[1]), QPointF(middle + end[0], y + end[1])
            )
        words = QRectF(cell.rect.x(), cell.rect.bottom() - _CAPTION, cell.rect.width(), _CAPTION)
        painter.setPen(self._theme.color("ink"))
        elided = painter.fontMetrics().elidedText(
            cell.pair.name, Qt.TextElideMode.ElideRight, int(words.width())
        )
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, elided)

    def _side(
        self, painter: QPainter, rect: QRectF, picture: SizedFragment | None, cell: _Cell
    ) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("bed" if picture is not None else "chrome"))
        painter.drawRoundedRect(rect, 3, 3)
        if picture is None:
            painter.setPen(self._theme.color("muted"))
            missing = "new" if cell.pair.before is None else "gone"
            painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, missing)
            return
        device = painter.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        draw_picture(painter, picture, rect, cell.zoom, self._rasters, ratio)
        if picture is cell.pair.after:
            self._edges(painter, rect, picture, cell)

    def _edges(self, painter: QPainter, rect: QRectF, picture: SizedFragment, cell: _Cell) -> None:
        """An edge around each place that differs, where a whole screen is shown."""
        bounds = bounds_of(picture)
        if cell.zoom >= 1.0 or _covers(cell.pair.places, bounds):
            return
        origin = _origin(rect, bounds, cell.zoom)
        painter.setPen(QPen(self._theme.color("clay"), 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for place in cell.pair.places:
            edged = QRectF(
                origin.x() + (place.x - bounds.x) * cell.zoom,
                origin.y() + (place.y - bounds.y) * cell.zoom,
                place.width * cell.zoom,
                place.height * cell.zoom,
            )
            painter.drawRoundedRect(edged.adjusted(-2, -2, 2, 2) & rect, 2, 2)


def _covers(places: Sequence[Rect], bounds: Rect) -> bool:
    """Whether the places are all of the picture: then an edge says nothing."""
    return any(p.width * p.height > 0.8 * bounds.width * bounds.height for p in places)


def _size(picture: SizedFragment | None, zoom: float) -> tuple[float, float]:
    if picture is None:
        return _SMALLEST, 0.0
    bounds = bounds_of(picture)
    return max(bounds.width * zoom + 2 * _PAD, 24.0), bounds.height * zoom + 2 * _PAD


def _origin(rect: QRectF, bounds: Rect, zoom: float) -> QPointF:
    return QPointF(
        rect.center().x() - bounds.width * zoom / 2, rect.center().y() - bounds.height * zoom / 2
    )


def draw_picture(
    painter: QPainter,
    picture: SizedFragment,
    rect: QRectF,
    zoom: float,
    rasters: Rasters,
    ratio: float,
) -> None:
    """A picture in the middle of a rectangle, cut to it."""
    bounds = bounds_of(picture)
    origin = _origin(rect, bounds, zoom)
    painter.save()
    painter.setClipRect(rect)
    painter.translate(origin.x() - bounds.x * zoom, origin.y() - bounds.y * zoom)
    painter.scale(1 / ratio, 1 / ratio)
    QtPainter(painter, rasters, zoom * ratio).draw(picture.fragment, 0.0, 0.0)
    painter.restore()
