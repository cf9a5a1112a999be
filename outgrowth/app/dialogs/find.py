"""Find or do: every action, component, screen and node by name, on one field."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.theme import builders
from outgrowth.workspace.views.search_results import Candidate, ranked

# Px, and rows: what is read at a glance.
_WIDTH = 460
_MOST = 40


class Finder(QFrame):
    """A frame below the top strip's field. Arrows choose, Enter does, Esc leaves.

    refused(str)  why what was chosen can't be done now
    """

    refused = pyqtSignal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._candidates: list[Candidate] = []
        self._matches: list[Candidate] = []
        self._typed: Callable[[str], list[Candidate]] = lambda text: []
        self.setObjectName("finder")
        self.setFixedWidth(_WIDTH)
        hint = "Find a component, a screen, a part, or something to do"
        self.field = builders.line_edit(hint, "Find or do")
        self.field.textChanged.connect(self._fill)
        self.field.installEventFilter(self)
        self.list = QListWidget()
        self.list.setAccessibleName("Found")
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.itemClicked.connect(lambda item: self._run(self.list.row(item)))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(8, 8, 8, 8)
        layout.addWidget(self.field)
        layout.addWidget(self.list)
        self.setFixedHeight(360)

    def ask(
        self,
        candidates: list[Candidate],
        point: QPoint,
        typed: Callable[[str], list[Candidate]] = lambda text: [],
    ) -> None:
        """Opens with these candidates, its top middle at a point of the screen. `typed` gives what
        a text means by itself, like “gap 12”."""
        self._candidates, self._typed = candidates, typed
        self.field.clear()
        self._fill("")
        self.move(point.x() - _WIDTH // 2, point.y())
        self.show()
        self.field.setFocus()

    def _fill(self, text: str) -> None:
        self._matches = [*self._typed(text), *ranked(self._candidates, text)][:_MOST]
        self.list.clear()
        for candidate in self._matches:
            item = QListWidgetItem()
            line = _line(candidate)
            item.setSizeHint(line.sizeHint())
            self.list.addItem(item)
            self.list.setItemWidget(item, line)
        if self._matches:
            self.list.setCurrentRow(0)

    def _run(self, row: int) -> None:
        if not 0 <= row < len(self._matches):
            return
        candidate = self._matches[row]
        if candidate.enabled:
            self.hide()
            candidate.run()
        elif candidate.why:
            self.hide()
            self.refused.emit(candidate.why)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
            if step is not None and self._matches:
                row = (self.list.currentRow() + step) % len(self._matches)
                self.list.setCurrentRow(row)
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._run(self.list.currentRow())
                return True
        return super().eventFilter(watched, event)


def _line(candidate: Candidate) -> QWidget:
    line = QWidget()
    row = QHBoxLayout(line)
    row.setContentsMargins(8, 3, 8, 3)
    title = QLabel(candidate.title)
    subject = builders.label(candidate.kind, tone="muted")
    if not candidate.enabled:
        title.setProperty("tone", "muted")
    row.addWidget(title, 1)
    row.addWidget(subject)
    return line
