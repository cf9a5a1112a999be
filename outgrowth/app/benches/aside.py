"""The frame of the benches that stand in the place of the work for a while: a head that says what
the bench is, what it is for and how far it is, a strip of choices, what it shows, and a foot."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QProgressBar, QWidget

from outgrowth.app.theme import builders
from outgrowth.app.theme.flow import FlowLayout
from outgrowth.app.theme.sheet import dress

_EDGE = 12
_STEPS = 1000


class AsideBench(QWidget):
    """A bench puts its strip, its middle and its foot into `page`, from top to bottom.

    left()     it is done with: by Esc, or by the button in its head
    stopped()  what takes long there is to stop

    summary  says in the head what there is now
    tools    the row in the head for what is done with all of it
    """

    left = pyqtSignal()
    stopped = pyqtSignal()

    def __init__(self, name: str = "", about: str = "") -> None:
        """`name` is what it is called, `about` the sentence that says what it is for."""
        super().__init__()
        dress(self, "panel")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.page = builders.column(self)
        self.heading = builders.label(weight="bold", plain=True)
        self.summary = builders.label(tone="muted", plain=True, name="What there is")
        self.about = builders.label(tone="muted", wrap=True, plain=True)
        self.tools = builders.row(spacing=8)
        self.page.addWidget(self._head())
        self.call(name, about)

    def call(self, name: str, about: str) -> None:
        """Says what it is called and what it is for from now on."""
        self.setAccessibleName(name)
        self.setAccessibleDescription(about)
        self.heading.setText(name)
        self.about.setText(about)

    def _head(self) -> QWidget:
        head = QWidget()
        dress(head, "panel", "bottom")
        lines = builders.column(head, (_EDGE, 7, _EDGE, 8), 2)
        first = builders.row(spacing=10)
        first.addWidget(self.heading)
        first.addWidget(self.summary, 1)
        self.progress = QProgressBar()
        self.progress.setAccessibleName("How far it is")
        self.progress.setFixedSize(120, 6)
        self.progress.setTextVisible(False)
        self.stop = builders.push_button("Stop", self.stopped, look="firm")
        self.leave = builders.push_button("Back to the bench", self.leave_bench, look="firm")
        first.addWidget(self.progress)
        first.addWidget(self.stop)
        first.addLayout(self.tools)
        first.addWidget(self.leave)
        lines.addLayout(first)
        lines.addWidget(self.about)
        self.show_share(1.0)
        return head

    def add_strip(self) -> FlowLayout:
        """A strip of choices at the end of the page, begun; it goes on in a line below where it
        is wider than the bench."""
        strip = QWidget()
        dress(strip, "panel", "bottom")
        self.page.addWidget(strip)
        return FlowLayout(strip, (_EDGE, 6, _EDGE, 6), _EDGE)

    def event(self, event: QEvent | None) -> bool:
        """Del means something here, or nothing: never what is selected on the bench behind."""
        is_override = event is not None and event.type() == QEvent.Type.ShortcutOverride
        if is_override and isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Delete:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.leave_bench()
        else:
            super().keyPressEvent(event)

    def leave_bench(self) -> None:
        """Leaves the bench as if nothing had been asked."""
        self.left.emit()

    def show_share(self, share: float | None) -> None:
        """Shows how far it is, from 0 to 1, where 1 is done; None where nobody knows."""
        for widget in (self.progress, self.stop):
            widget.setVisible(share is None or share < 1.0)
        self.progress.setRange(0, 0 if share is None else _STEPS)
        self.progress.setValue(round((share or 0.0) * _STEPS))
