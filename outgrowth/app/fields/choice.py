"""One of a few: segments side by side, a drop-down for many, a switch for yes and no."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QPainter, QPaintEvent, QPen, QPolygonF, QWheelEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QComboBox,
    QMenu,
    QPushButton,
    QSizePolicy,
    QStyle,
    QStyleOptionButton,
    QStylePainter,
    QToolButton,
    QWidget,
)

from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import row

Option = tuple[str, str]
"""What an option stands for, and what is written on it."""


class Segments(QWidget):
    """Options side by side; `edited` carries what the chosen one stands for."""

    edited = pyqtSignal(str)

    def __init__(self, options: Sequence[Option], name: str, tight: bool = False) -> None:
        super().__init__()
        self._options = [value for value, _ in options]
        self._group = QButtonGroup(self)
        self.setAccessibleName(name)
        layout = row(self)
        for n, (_, text) in enumerate(options):
            button = QToolButton()
            button.setText(text)
            button.setCheckable(True)
            button.setProperty("look", "segment")
            button.setProperty("tight", tight)
            button.setAccessibleName(f"{name}: {text}")
            self._group.addButton(button, n)
            layout.addWidget(button)
        layout.addStretch()
        self._group.idClicked.connect(lambda n: self.edited.emit(self._options[n]))

    def show_value(self, value: str | None) -> None:
        """Shows a value; none where several differ."""
        self._group.setExclusive(value is not None and value in self._options)
        for n, option in enumerate(self._options):
            button = self._group.button(n)
            if button is not None:
                button.setChecked(option == value)

    @property
    def value(self) -> str:
        """What the chosen option stands for; "" for none."""
        chosen = self._group.checkedId()
        return self._options[chosen] if chosen >= 0 else ""

    def button(self, value: str) -> QAbstractButton:
        """The button of an option."""
        button = self._group.button(self._options.index(value))
        assert button is not None
        return button


class DropDown(QComboBox):
    """Many options; `edited` carries what the chosen one stands for."""

    edited = pyqtSignal(str)

    def __init__(self, options: Sequence[Option], name: str) -> None:
        super().__init__()
        self._options = [value for value, _ in options]
        self.addItems([text for _, text in options])
        self.setAccessibleName(name)
        self.setMaxVisibleItems(16)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(6)
        self.activated.connect(lambda n: self.edited.emit(self._options[n]))

    def show_value(self, value: str | None) -> None:
        """Shows a value; none where several differ."""
        self.setCurrentIndex(self._options.index(value) if value in self._options else -1)

    def set_options(self, options: Sequence[Option]) -> None:
        """Other options; what is chosen stays, if it is among them."""
        if self._options == [value for value, _ in options] and [
            self.itemText(n) for n in range(self.count())
        ] == [text for _, text in options]:
            return
        chosen = self.value
        self.clear()
        self._options = [value for value, _ in options]
        self.addItems([text for _, text in options])
        self.show_value(chosen)

    @property
    def value(self) -> str:
        """What is chosen; empty for nothing."""
        return self._options[self.currentIndex()] if self.currentIndex() >= 0 else ""

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            event.ignore()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.palette().windowText().color(), 1.5))
        x, y = self.width() - 14, self.height() / 2
        painter.drawPolyline(_chevron(x, y))
        painter.end()


class Several(QPushButton):
    """Any of some options, ticked in a menu; none of them stands for all. `edited` carries the
    values of those that are ticked, in their order."""

    edited = pyqtSignal(object)

    def __init__(self, options: Sequence[Option], name: str) -> None:
        super().__init__()
        self.setProperty("look", "several")
        self.setAccessibleName(name)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        menu = QMenu(self)
        self._ticks: list[tuple[str, QAction]] = []
        for value, text in options:
            tick = QAction(text, menu)
            tick.setCheckable(True)
            # Later, since the field may be made anew then, and the menu goes with it.
            tick.triggered.connect(self._changed, Qt.ConnectionType.QueuedConnection)  # type: ignore[call-arg]  # the stubs lack it
            menu.addAction(tick)
            self._ticks.append((value, tick))
        self.setMenu(menu)
        self.show_values(())

    @property
    def values(self) -> tuple[str, ...]:
        """Those that are ticked, in the order of the options."""
        return tuple(value for value, tick in self._ticks if tick.isChecked())

    def show_values(self, values: Collection[str]) -> None:
        """Ticks these."""
        for value, tick in self._ticks:
            tick.setChecked(value in values)
        names = [tick.text() for _, tick in self._ticks if tick.isChecked()]
        self.setText(" or ".join(names) or "any")
        self.setToolTip(self.text())

    def _changed(self) -> None:
        self.show_values(self.values)
        self.edited.emit(self.values)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """As a drop-down: the words at the left, as far as there is room, and the arrow."""
        option = QStyleOptionButton()
        self.initStyleOption(option)
        option.text = ""
        option.features = QStyleOptionButton.ButtonFeature.None_
        painter = QStylePainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawControl(QStyle.ControlElement.CE_PushButton, option)
        room = self.rect().adjusted(7, 0, -22, 0)
        mode = Qt.TextElideMode.ElideRight
        text = self.fontMetrics().elidedText(self.text(), mode, room.width())
        painter.setPen(self.palette().windowText().color())
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, text)
        painter.setPen(QPen(self.palette().windowText().color(), 1.5))
        painter.drawPolyline(_chevron(self.width() - 14, self.height() / 2))
        painter.end()


def _chevron(x: float, y: float) -> QPolygonF:
    return QPolygonF([QPointF(x - 4, y - 2), QPointF(x, y + 2), QPointF(x + 4, y - 2)])


class Switch(QAbstractButton):
    """Yes or no. A bar with its knob at the left or right, and a tick when it is on."""

    edited = pyqtSignal(bool)

    def __init__(self, name: str, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._mixed = False
        self.setCheckable(True)
        self.setAccessibleName(name)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.clicked.connect(self.edited)

    def show_value(self, value: bool | None) -> None:
        """None where several are shown that differ: the knob stands in the middle."""
        self._mixed = value is None
        self.setChecked(bool(value))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(36, 26)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        bar = QRectF(1, 5, 32, 16)
        on = self.isChecked()
        ink = self.theme.color("ink")
        painter.setPen(QPen(ink if on else self.theme.color("muted"), 1.5))
        painter.setBrush(ink if on else self.theme.color("field"))
        painter.drawRoundedRect(bar, 3, 3)
        left = bar.right() - 14 if on else bar.left() + 3
        knob = QRectF(bar.center().x() - 5.5 if self._mixed else left, bar.top() + 3, 11, 10)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.color("panel" if on else "muted"))
        painter.drawRoundedRect(knob, 2, 2)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self.theme.color("slate"), 2))
            painter.drawRoundedRect(bar.adjusted(-0.5, -3, 2.5, 3), 4, 4)
        painter.end()
