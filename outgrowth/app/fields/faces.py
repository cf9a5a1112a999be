"""A list of typefaces, each written in itself by the engine's own letters."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QModelIndex, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.theme import Theme
from outgrowth.core.paint import Fragment

_HIGH, _EDGE = 30, 10


class FaceDelegate(QStyledItemDelegate):
    """Draws each row of a list of typefaces. `sample` gives what a name looks like in itself; it is
    asked for the rows that are seen."""

    def __init__(self, sample: Callable[[str], Fragment], rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self._sample = sample
        self._rasters = rasters
        self._theme = theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(super().sizeHint(option, index).width(), _HIGH)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        rect = QRectF(option.rect)
        painter.save()
        lit = option.state & (QStyle.StateFlag.State_Selected | QStyle.StateFlag.State_MouseOver)
        painter.fillRect(rect, self._theme.color("lit" if lit else "field"))
        fragment = self._sample(str(index.data(Qt.ItemDataRole.DisplayRole)))
        device = painter.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        painter.setClipRect(rect.adjusted(_EDGE, 0, -_EDGE, 0))
        middle = rect.center().y() - fragment.bounds.height / 2
        painter.translate(round(rect.x() + _EDGE), round(middle))
        painter.scale(1 / ratio, 1 / ratio)
        QtPainter(painter, self._rasters, ratio).draw(fragment, 0.0, 0.0)
        painter.restore()
