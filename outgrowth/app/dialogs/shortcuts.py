"""The list of all keys, made from the actions, with a field to search it."""

from __future__ import annotations

from itertools import groupby

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import (
    QDialog,
    QGridLayout,
    QLabel,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.panels.sheet import muted
from outgrowth.app.theme import builders
from outgrowth.app.theme.sheet import dress
from outgrowth.workspace.commands.action import Action
from outgrowth.workspace.views.key_rows import key_rows


class Shortcuts(QDialog):
    """Every action with its keys, by group."""

    def __init__(self, actions: list[Action], parent: QWidget) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._actions = actions
        self.setWindowTitle("Keys")
        self.resize(760, 680)
        dress(self, "panel")
        hint = "Search for what can be done, or a key"
        self.search = builders.line_edit(hint, "Search the keys")
        self.search.textChanged.connect(self._fill)
        self._frame = QScrollArea()
        self._frame.setWidgetResizable(True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(20, 16, 20, 0)
        layout.addWidget(self.search)
        layout.addWidget(self._frame)
        self._fill()

    def _fill(self) -> None:
        body = QWidget()
        dress(body, "panel")
        grid = QGridLayout(body)
        grid.setContentsMargins(0, 0, 8, 16)
        grid.setHorizontalSpacing(24)
        line = 0
        rows = key_rows(self._actions, self.search.text())
        for group, group_rows in groupby(rows, lambda row: row.group):
            grid.addWidget(_head(group), line, 0, 1, 2)
            for row in group_rows:
                line += 1
                grid.addWidget(QLabel(row.title), line, 0)
                grid.addWidget(_keys(row.keys), line, 1)
            line += 1
        if not rows:
            grid.addWidget(muted("Nothing is called so. Try one word of it."), 0, 0)
        grid.setRowStretch(line + 1, 1)
        self._frame.setWidget(body)


def _keys(keys: str) -> QLabel:
    return QLabel(_native(keys)) if keys else muted("by name")


def _native(keys: str) -> str:
    """A chord as this machine writes it; words stay words."""
    text = QKeySequence(keys).toString(QKeySequence.SequenceFormat.NativeText)
    return text if text and " " not in keys else keys


def _head(text: str) -> QLabel:
    head = builders.label(text, tone="muted", weight="bold")
    head.setContentsMargins(0, 10, 0, 0)
    return head
