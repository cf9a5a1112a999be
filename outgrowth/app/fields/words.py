"""A field for words: confirms on Enter and when it is left, Esc goes back."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent

from outgrowth.app.fields.line import ValueLine

# Letters from which on the whole is told by the tool tip.
_LONG = 30


class WordsField(ValueLine):
    """edited(str) carries the words to set; typed(str) those to try with each key."""

    edited = pyqtSignal(str)
    typed = pyqtSignal(str)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._shown_text = ""
        self.setAccessibleName(name)
        self.setMinimumWidth(60)
        self.textEdited.connect(self.typed)
        self.returnPressed.connect(self._commit)

    def show_value(self, words: str | None) -> None:
        """Shows a value; none where several differ."""
        self._shown_text = words or ""
        self.setPlaceholderText("mixed" if words is None else "")
        if not (self.hasFocus() and self.isModified()) and self.text() != self._shown_text:
            self.setText(self._shown_text)
            if len(self._shown_text) > _LONG and not self.hasFocus():
                self.setCursorPosition(0)  # the beginning says more than the end

    def renames(self, rename: Callable[[str], bool]) -> None:
        """Lets what is typed be done by `rename`; where that refuses, what there is is shown
        again."""

        def renamed(text: str) -> None:
            if not rename(text):
                self.show_value(self._shown_text)

        self.edited.connect(renamed)

    def _commit(self) -> None:
        if self.isModified():
            self.setModified(False)
            self.edited.emit(self.text())

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self._commit()
        super().focusOutEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape and self.isModified():
            # What was typed is kept, however the field is left; undo takes it back.
            self._commit()
            return
        super().keyPressEvent(event)
