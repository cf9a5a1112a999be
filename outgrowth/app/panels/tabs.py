"""A row of tabs, one of them chosen: the Library's, and those beside the ledger."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QToolButton, QWidget

from outgrowth.app.theme.sheet import dress


class Tabs(QWidget):
    """`chosen` carries the number of the tab."""

    chosen = pyqtSignal(int)

    def __init__(self, names: tuple[str, ...], helps: tuple[str, ...] = ()) -> None:
        """`helps` say in a sentence each what a tab holds."""
        super().__init__()
        dress(self, edge="bottom")
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 0, 8, 0)
        row.setSpacing(16 if len(names) < 5 else 4)
        self._group = QButtonGroup(self)
        self.tabs: dict[str, QToolButton] = {}
        for n, name in enumerate(names):
            tab = QToolButton()
            tab.setText(name)
            tab.setProperty("look", "tab")
            tab.setToolTip(helps[n] if helps else "")
            tab.setCheckable(True)
            tab.setChecked(n == 0)
            self._group.addButton(tab, n)
            self.tabs[name] = tab
            row.addWidget(tab)
        row.addStretch()
        self._group.idToggled.connect(self._toggled)

    def _toggled(self, number: int, on: bool) -> None:
        if on:
            self.chosen.emit(number)

    @property
    def current(self) -> str:
        """The name of the tab in front."""
        return next(name for name, tab in self.tabs.items() if tab.isChecked())

    def choose(self, name: str) -> None:
        """Puts a tab in front, by its name."""
        self.tabs[name].setChecked(True)
