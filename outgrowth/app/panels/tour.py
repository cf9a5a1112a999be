"""The short tour: the ten steps of the work, done on a copy of the demo. Each says what to do
and does it when asked; whatever is done in between is the user's own."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from outgrowth.app.theme import builders
from outgrowth.app.theme.sheet import dress
from outgrowth.workspace import Workspace
from outgrowth.workspace.views.tour_steps import STEPS, RunAction


class Tour(QWidget):
    """A strip above the bench; out of sight until the tour is taken."""

    def __init__(self, workspace: Workspace, run_action: RunAction) -> None:
        super().__init__()
        self._workspace = workspace
        self._do_action = run_action
        self.step_number = 0
        dress(self, "field", "bottom")
        self.setAccessibleName("Tour")
        row = builders.row(self, (12, 8, 12, 8), 6)
        texts = QVBoxLayout()
        texts.setSpacing(2)
        self.title, self.about = QLabel(), QLabel()
        self.title.setProperty("weight", "bold")
        self.about.setWordWrap(True)
        for label in (self.title, self.about):
            texts.addWidget(label)
        row.addLayout(texts, 1)
        self.buttons: dict[str, QPushButton] = {}
        for name, command in (
            ("Do it", self.do_step),
            ("Back", lambda: self.go(self.step_number - 1)),
            ("Next", lambda: self.go(self.step_number + 1)),
            ("End", self.hide),
        ):
            button = builders.push_button(
                name, lambda _=False, action=command: action(), look="firm"
            )
            self.buttons[name] = button
            row.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
        self.hide()

    def begin(self) -> None:
        """Shows the first step."""
        self.go(0)
        self.show()
        self.buttons["Do it"].setFocus()

    def go(self, step: int) -> None:
        """Shows a step; after the last one the tour is over."""
        if step >= len(STEPS):
            self.hide()
            return
        self.step_number = max(step, 0)
        step_shown = STEPS[self.step_number]
        self.title.setText(f"{self.step_number + 1} of {len(STEPS)} · {step_shown.title}")
        self.about.setText(step_shown.about)
        self.buttons["Back"].setEnabled(self.step_number > 0)
        self.buttons["Next"].setText("Next" if self.step_number + 1 < len(STEPS) else "Done")

    def do_step(self) -> None:
        """Does what the step is about."""
        STEPS[self.step_number].run(self._workspace, self._do_action)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.hide()
        else:
            super().keyPressEvent(event)
