"""The list of all shortcuts, made from the actions."""

from __future__ import annotations

from itertools import groupby

from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import QDialog, QGridLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from outgrowth.app.benches.bench import BENCH_KEYS
from outgrowth.workspace.commands.action import Action


class Shortcuts(QDialog):
    """Every action with its keys, by group."""

    def __init__(self, actions: list[Action], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys")
        self.resize(560, 620)
        body = QWidget()
        body.setProperty("room", "panel")
        grid = QGridLayout(body)
        grid.setContentsMargins(20, 16, 20, 16)
        grid.setHorizontalSpacing(24)
        line = 0
        for group, group_actions in groupby(actions, lambda action: action.group):
            grid.addWidget(_head(group), line, 0, 1, 2)
            line += 1
            for action in group_actions:
                keys = QKeySequence(action.shortcut).toString(
                    QKeySequence.SequenceFormat.NativeText
                )
                grid.addWidget(QLabel(action.title), line, 0)
                keys_label = QLabel(keys or "by name")
                keys_label.setProperty("tone", "" if keys else "muted")
                grid.addWidget(keys_label, line, 1)
                line += 1
        grid.addWidget(_head("On the bench"), line, 0, 1, 2)
        for n, (title, pressed) in enumerate(BENCH_KEYS, line + 1):
            grid.addWidget(QLabel(title), n, 0)
            grid.addWidget(QLabel(pressed), n, 1)
        grid.setRowStretch(line + len(BENCH_KEYS) + 1, 1)
        frame = QScrollArea()
        frame.setWidget(body)
        frame.setWidgetResizable(True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(frame)


def _head(text: str) -> QLabel:
    head = QLabel(text)
    head.setProperty("weight", "bold")
    head.setProperty("tone", "muted")
    return head
