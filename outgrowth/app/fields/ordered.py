"""Rows that are put into another order by a handle at their left, by pointer and by keys."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import column

_DOT = 1.4
# Px that a pointer may shake before it pulls.
_SHAKE = 4


class Grip(QWidget):
    """The handle of one row. pulled(int) while the pointer is so far down in the window,
    dropped() where it is let go, stepped(int) by an arrow key."""

    pulled = pyqtSignal(QPoint)
    dropped = pyqtSignal()
    stepped = pyqtSignal(int)

    def __init__(self, name: str, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._pressed_at: QPointF | None = None
        self._pulls = False
        self.setAccessibleName(name)
        self.setToolTip("Pull to reorder, or use the arrow keys.")
        self.setCursor(Qt.CursorShape.SizeVerCursor)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        return QSize(12, 26)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("ink" if self.underMouse() else "muted"))
        middle = QRectF(self.rect()).center()
        for dx in (-2.5, 2.5):
            for dy in (-5.0, 0.0, 5.0):
                painter.drawEllipse(middle + QPointF(dx, dy), _DOT, _DOT)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self._theme.color("slate"), 2))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 3, -1, -3), 3, 3)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._pressed_at, self._pulls = event.position(), False

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._pressed_at is None:
            return
        if not self._pulls and abs(event.position().y() - self._pressed_at.y()) < _SHAKE:
            return
        self._pulls = True
        self.pulled.emit(event.globalPosition().toPoint())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._pulls:
            self.dropped.emit()
        self._pressed_at, self._pulls = None, False

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        step = steps.get(Qt.Key(event.key())) if event is not None else None
        if step is None:
            super().keyPressEvent(event)
        else:
            self.stepped.emit(step)


class OrderedRows(QWidget):
    """Rows with a handle each. moved(int, int): the row of one place is put at another."""

    moved = pyqtSignal(int, int)

    def __init__(self, theme: Theme, spacing: int = 2) -> None:
        super().__init__()
        self._theme = theme
        self._rows: list[QWidget] = []
        self._column = column(self, spacing=spacing)
        self._mark = _Mark(self, theme)
        self._target: int | None = None

    def add(self, row: QWidget, grip: Grip) -> None:
        """One more row, moved by a handle that stands in it."""
        self._rows.append(row)
        self._column.addWidget(row)
        grip.pulled.connect(lambda point: self._pull(row, point))
        grip.dropped.connect(lambda: self._drop(row))
        grip.stepped.connect(lambda step: self._step(row, step))

    def _pull(self, row: QWidget, point: QPoint) -> None:
        y = self.mapFromGlobal(point).y()
        others = [other for other in self._rows if other is not row]
        self._target = sum(y > other.geometry().center().y() for other in others)
        after = others[self._target - 1].geometry().bottom() + 1 if self._target else 0
        self._mark.show_at(min(max(after, 1), self.height() - 1), self.width())

    def _drop(self, row: QWidget) -> None:
        self._mark.hide()
        target, self._target = self._target, None
        if target is not None and target != self._rows.index(row):
            self.moved.emit(self._rows.index(row), target)

    def _step(self, row: QWidget, step: int) -> None:
        index = self._rows.index(row)
        target = min(max(index + step, 0), len(self._rows) - 1)
        if target != index:
            self.moved.emit(index, target)


class _Mark(QWidget):
    """The line where a row would be put."""

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent)
        self._theme = theme
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()

    def show_at(self, y: int, width: int) -> None:
        """Shows it at a height of its parent."""
        self.setGeometry(0, y - 1, width, 3)
        self.raise_()
        self.show()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.color("clay"))
        painter.end()
