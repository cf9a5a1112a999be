"""A field for a name that lies over what bears it, where that stands."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRect, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.words import WordsField

# Another window, or a list over this one, has the keys for a while.
_COMES_BACK = (
    Qt.FocusReason.ActiveWindowFocusReason,
    Qt.FocusReason.PopupFocusReason,
    Qt.FocusReason.MenuBarFocusReason,
)
_ENDING = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape)


class NameLine(WordsField):
    """Goes when it is done with: by Enter, by Esc, by going elsewhere. finished() then."""

    finished = pyqtSignal()

    def __init__(
        self, parent: QWidget, about: str, name: str, rename: Callable[[str], object]
    ) -> None:
        super().__init__(about)
        self.setParent(parent)
        self.show_value(name)
        self.edited.connect(rename)
        self._is_finished = False

    def show_at(self, rect: QRect) -> None:
        """Lies at a rectangle of the parent, ready for another name."""
        self.setGeometry(rect)
        self.show()
        self.setFocus()
        self.selectAll()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        super().keyPressEvent(event)
        if event is not None and event.key() in _ENDING:
            event.accept()  # the bench beneath would do its own with it
            self.finish()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        if event is None or event.reason() not in _COMES_BACK:
            self.finish()

    def finish(self) -> None:
        """Takes the field away; what was typed in it is kept."""
        if not self._is_finished:
            self._is_finished = True
            self._commit()
            had_keys = self.hasFocus()
            self.hide()
            self.deleteLater()
            if had_keys:
                self.finished.emit()
