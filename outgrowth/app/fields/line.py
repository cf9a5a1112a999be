"""A line that shows a value of the document: what was committed is the document's to undo."""

from __future__ import annotations

from PyQt6.QtCore import QEvent
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QLineEdit

_HISTORY = (QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo)


def asks_history(event: QEvent) -> bool:
    """Whether a field is asked for undo or redo. Where nothing typed waits in it, it leaves that
    to the window: the field would only know its letters."""
    return (
        event.type() == QEvent.Type.ShortcutOverride
        and isinstance(event, QKeyEvent)
        and any(event.matches(keys) for keys in _HISTORY)
    )


class ValueLine(QLineEdit):
    """A field of one line for a value."""

    def event(self, event: QEvent | None) -> bool:
        if event is not None and asks_history(event) and not self.isModified():
            event.ignore()
            return True
        return super().event(event)
