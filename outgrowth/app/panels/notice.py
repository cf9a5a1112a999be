"""A strip above the benches that says what happened and offers what to do about it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from outgrowth.app.theme.builders import label, push_button
from outgrowth.app.theme.sheet import dress

NoticeButton = tuple[str, Callable[[], object]]


class NoticeStrip(QWidget):
    """Out of sight until there is something to say; every choice puts it away."""

    def __init__(self) -> None:
        super().__init__()
        dress(self, "field", "bottom")
        self.setAccessibleName("Notice")
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(12, 6, 12, 6)
        self.message = label(wrap=True)
        self._row.addWidget(self.message, 1)
        self.choices: list[QPushButton] = []
        self.hide()

    def show_message(self, sentence: str, *choices: NoticeButton) -> None:
        """Shows a sentence and what can be done; the first choice is what Enter does."""
        for old in self.choices:
            old.hide()
            old.deleteLater()
        self.choices = []
        self.message.setText(sentence)
        for name, command in choices:
            button = push_button(name, partial(self._chosen, command), look="firm")
            self._row.addWidget(button)
            self.choices.append(button)
        self.show()
        if self.choices:
            self.choices[0].setFocus()

    def withdraw(self, sentence: str) -> None:
        """Puts a sentence away, if it is the one that is still shown."""
        if self.message.text() == sentence:
            self.hide()

    def _chosen(self, command: Callable[[], object], _: bool = False) -> None:
        self.hide()
        command()
