"""A line that shows a value of the document: what was committed is the document's to undo."""

from __future__ import annotations

from PyQt6.QtCore import QEvent
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QLineEdit

_DOCUMENTS = (QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo)


def is_for_document(event: QEvent | None, modified: bool) -> bool:
    """Whether a field is asked for undo or redo while nothing is typed in it that waits: then the
    window does it, and not the field with its letters."""
    return (
        isinstance(event, QKeyEvent)
        and event.type() == QEvent.Type.ShortcutOverride
        and not modified
        and any(event.matches(keys) for keys in _DOCUMENTS)
    )


class ValueLine(QLineEdit):
    """A field of one line for a value."""

    def event(self, event: QEvent | None) -> bool:
        if event is not None and is_for_document(event, self.isModified()):
            event.ignore()
            return True
        return super().event(event)
