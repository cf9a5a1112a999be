"""A number field: typed with arithmetic, stepped with arrows, dragged by its handle."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QWheelEvent
from PyQt6.QtWidgets import QLabel, QWidget

from outgrowth.app.fields.line import ValueLine
from outgrowth.core.document.types import NumberType
from outgrowth.core.refusal import Refusal
from outgrowth.workspace.views.arithmetic import evaluate


class NumberField(ValueLine):
    """Shows one number, or nothing when several differ.

    edited(float)   a value to set
    dragged(float)  a value to try while the handle is pulled; dropped/cancelled end it
    failed(str)     what was typed is no number: the field shows the document's again
    named(str)    the name of a token, one of `names`, was typed instead of a number
    """

    edited = pyqtSignal(float)
    dragged = pyqtSignal(float)
    dropped = pyqtSignal()
    cancelled = pyqtSignal()
    failed = pyqtSignal(str)
    named = pyqtSignal(str)

    def __init__(self, kind: NumberType, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.kind = kind
        self.names: Callable[[], set[str]] = set
        self._value: float | None = 0.0
        self.setAccessibleName(name)
        self.setToolTip(name)
        self.setMinimumWidth(40)
        self.returnPressed.connect(self._commit)

    @property
    def value(self) -> float:
        """The number that is shown, 0 where there is none."""
        return self._value or 0.0

    def show_value(self, value: float | None) -> None:
        """Shows a value, nothing where several differ, without saying that it was edited."""
        self._value = value
        self._show_again()

    def _show_again(self) -> None:
        """Shows what the document says; what is being typed stays."""
        text = self._shown()
        self.setPlaceholderText("" if text else "mixed")
        if text != self.text() and not (self.hasFocus() and self.isModified()):
            self.setText(text)

    def _shown(self) -> str:
        return "" if self._value is None else self._written(self._value)

    def _written(self, value: float) -> str:
        if self.kind.is_share:
            return f"{value * 100:g} %"
        return f"{round(value, 2):g}"

    def _read(self, text: str, before: float) -> float:
        """The number that text means, which may be a change of the one before."""
        percent = self.kind.is_share
        value = evaluate(text, before * 100 if percent else before)
        return self._clamped(value / 100 if percent else value)

    def _clamped(self, value: float) -> float:
        return min(max(value, self.kind.minimum), self.kind.maximum)

    def _commit(self) -> None:
        if not self.isModified():
            return
        text = self.text().strip().strip("{}")
        self.setModified(False)
        if text in self.names():
            self.named.emit(text)
            return
        try:
            self._take(text)
        except Refusal as problem:
            self._show_again()
            self.selectAll()
            self.failed.emit(str(problem))

    def _take(self, text: str) -> None:
        """Sets what was typed. Raises Refusal."""
        self._set(self._read(text, self.value))

    def _set(self, value: float) -> None:
        changed = value != self._value
        self._value = value
        self.setText(self._written(value))
        if changed:
            self.edited.emit(value)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self._commit()
        super().focusOutEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        if event is not None and event.reason() in (
            Qt.FocusReason.TabFocusReason,
            Qt.FocusReason.BacktabFocusReason,
        ):
            self.selectAll()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        steps = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0}.get(Qt.Key(event.key()))
        if steps is not None:
            big = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self._step(steps * (8 if big else 1) * (0.01 if self.kind.is_share else 1.0))
        elif event.key() == Qt.Key.Key_Escape and self.isModified():
            self.setModified(False)
            self._show_again()
        else:
            super().keyPressEvent(event)

    def _step(self, by: float) -> None:
        """Adds to the number."""
        self._set(self._stepped(self.value, by))

    def _stepped(self, value: float, by: float) -> float:
        return self._clamped(round(value + by, 6))

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            event.ignore()


class DragLabel(QLabel):
    """The name of a number: pulling it sideways changes the number, Esc lets go."""

    def __init__(self, text: str, field: NumberField | None = None) -> None:
        super().__init__(text)
        self._field = field
        self._from: tuple[QPointF, float] | None = None
        self._moved = False
        if field is not None:
            self.setCursor(Qt.CursorShape.SizeHorCursor)
            self.setProperty("pulled", True)
            self.setBuddy(field)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._field is not None:
            self._from = event.globalPosition(), self._field.value
            self._moved = False
            self.grabKeyboard()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._from is None or self._field is None:
            return
        start, value = self._from
        unit = 0.01 if self._field.kind.is_share else 1.0
        steps = round((event.globalPosition().x() - start.x()) / 2)
        if steps or self._moved:
            self._moved = True
            kind = self._field.kind
            clamped = min(max(value + steps * unit, kind.minimum), kind.maximum)
            self._field.dragged.emit(clamped)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._end(cancelled=False)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self._end(cancelled=True)

    def _end(self, cancelled: bool) -> None:
        if self._from is None or self._field is None:
            return
        self._from = None
        self.releaseKeyboard()
        if self._moved:
            (self._field.cancelled if cancelled else self._field.dropped).emit()
