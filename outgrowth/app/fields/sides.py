"""Yes or no for each of four sides."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QToolButton, QWidget

from outgrowth.app.theme.builders import row


class SidesField(QWidget):
    """A button a side; `edited` carries a property's name and what it is to be."""

    edited = pyqtSignal(dict)

    def __init__(self, names: tuple[str, ...], title: str) -> None:
        super().__init__()
        self.buttons: dict[str, QToolButton] = {}
        layout = row(self)
        for name in names:
            side = name.rpartition("-")[2]
            button = QToolButton()
            button.setText({"bottom": "below"}.get(side, side))
            button.setCheckable(True)
            button.setProperty("look", "segment")
            button.setAccessibleName(f"{title}: {side}")
            button.clicked.connect(lambda on, n=name: self.edited.emit({n: on}))
            self.buttons[name] = button
            layout.addWidget(button)
        layout.addStretch()

    def show_values(self, values: Mapping[str, bool | None]) -> None:
        """Shows the four sides, those that are on pressed."""
        for name, button in self.buttons.items():
            button.setChecked(values.get(name) is True)
