"""What the benches have in common that stand in the place of the work for a while."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QProgressBar, QWidget

from outgrowth.app.theme import builders
from outgrowth.app.theme.sheet import dress


class AsideBench(QWidget):
    """left()     it is done with: by Esc, or by the button in its head
    stopped()  what takes long there is to stop
    """

    left = pyqtSignal()
    stopped = pyqtSignal()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)

    def head_named(self, name: str) -> tuple[QWidget, QHBoxLayout]:
        """The strip at its top, begun with what the bench is called, and the strip's row."""
        head = QWidget()
        dress(head, "panel", "bottom")
        head.setFixedHeight(40)
        row = builders.row(head, (12, 0, 12, 0), 8)
        title = builders.label(name, weight="bold")
        row.addWidget(title)
        return head, row

    def add_progress(self, row: QHBoxLayout) -> None:
        """Adds how far something is to a head, and what stops it; out of sight at first."""
        self.progress = QProgressBar()
        self.progress.setRange(0, 100)
        self.progress.setFixedWidth(120)
        self.progress.setTextVisible(False)
        self.stop = builders.push_button("Stop", self.stopped, look="firm")
        for widget in (self.progress, self.stop):
            widget.hide()
            row.addWidget(widget)

    def show_share(self, share: float) -> None:
        """Shows how far it is, from 0 to 1; at 1 it is done."""
        for widget in (self.progress, self.stop):
            widget.setVisible(share < 1.0)
        self.progress.setValue(round(share * 100))

    def add_way_back(self, row: QHBoxLayout) -> None:
        """Ends the row of a head."""
        back = builders.push_button("Back to the bench", self.left, look="firm")
        row.addWidget(back)
