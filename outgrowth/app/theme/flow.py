"""A layout from left to right that goes on in the next line where a line is full."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QLayout, QLayoutItem, QWidget

from outgrowth.app.theme.builders import Margins


class FlowLayout(QLayout):
    """Lines of widgets, each at its own size, in the middle of its line."""

    def __init__(self, parent: QWidget, margins: Margins, spacing: int) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self.setContentsMargins(*margins)
        self.setSpacing(spacing)

    def addItem(self, item: QLayoutItem | None) -> None:
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        lines = self._lines(width)
        return self._height(lines)

    def sizeHint(self) -> QSize:
        """All in one line."""
        widths = [item.sizeHint().width() for item in self._shown()]
        left, _, right, _ = self.getContentsMargins()
        across = sum(widths) + self.spacing() * max(len(widths) - 1, 0) + (left or 0) + (right or 0)
        return QSize(across, self._height([self._shown()]))

    def minimumSize(self) -> QSize:
        """The widest alone."""
        left, _, right, _ = self.getContentsMargins()
        widest = max((item.sizeHint().width() for item in self._shown()), default=0)
        return QSize(widest + (left or 0) + (right or 0), self._height([self._shown()]))

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        left, top, _, _ = self.getContentsMargins()
        y = rect.y() + (top or 0)
        for line in self._lines(rect.width()):
            high = max((item.sizeHint().height() for item in line), default=0)
            x = rect.x() + (left or 0)
            for item in line:
                size = item.sizeHint()
                corner = QPoint(x, y + (high - size.height()) // 2)
                item.setGeometry(QRect(corner, size))
                x += size.width() + self.spacing()
            y += high + self.spacing()

    def _shown(self) -> list[QLayoutItem]:
        return [item for item in self._items if not item.isEmpty()]

    def _lines(self, width: int) -> list[list[QLayoutItem]]:
        left, _, right, _ = self.getContentsMargins()
        room = width - (left or 0) - (right or 0)
        lines: list[list[QLayoutItem]] = [[]]
        used = 0
        for item in self._shown():
            wide = item.sizeHint().width()
            if lines[-1] and used + wide > room:
                lines.append([])
                used = 0
            lines[-1].append(item)
            used += wide + self.spacing()
        return lines

    def _height(self, lines: list[list[QLayoutItem]]) -> int:
        _, top, _, bottom = self.getContentsMargins()
        heights = [max((i.sizeHint().height() for i in line), default=0) for line in lines]
        return sum(heights) + self.spacing() * (len(lines) - 1) + (top or 0) + (bottom or 0)
