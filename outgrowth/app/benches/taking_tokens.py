"""What a file of tokens would change, before it does."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QHBoxLayout,
    QLabel,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.theme.builders import push_button
from outgrowth.core.exchange.tokens.read import TokenFile, differences
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import token_commands

_USUAL = "the usual values"


class TakeTokensDialog(QDialog):
    """Lists what is new, changed and not in the file; takes it in as the values of a mode."""

    def __init__(self, parent: QWidget, workspace: Workspace, read: TokenFile, name: str) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._workspace = workspace
        self._read = read
        self.setWindowTitle("Take in tokens")
        self.resize(560, 460)
        column = QVBoxLayout(self)
        column.setSpacing(8)
        about = QLabel(f"“{name}” holds {len(read.tokens):,} tokens.")
        column.addWidget(about)
        column.addLayout(self._modes())
        self.list = QPlainTextEdit()
        self.list.setReadOnly(True)
        self.list.setAccessibleName("What the file would change")
        column.addWidget(self.list, 1)
        self.remove = QCheckBox()
        column.addWidget(self.remove)
        column.addLayout(self._ends())
        self._show()

    def _modes(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addWidget(QLabel("as"))
        self.mode = QComboBox()
        self.mode.setAccessibleName("For which mode")
        self.mode.addItems([_USUAL, *self._workspace.document.modes])
        if "dark" not in self._workspace.document.modes:
            self.mode.addItem("dark")
        self.mode.currentIndexChanged.connect(lambda: self._show())
        row.addWidget(self.mode)
        row.addStretch()
        return row

    def _ends(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addStretch()
        row.addWidget(push_button("Leave", self.reject, look="firm"))
        self.take = push_button("Take in", self._take, look="firm")
        self.take.setDefault(True)
        row.addWidget(self.take)
        return row

    @property
    def chosen_mode(self) -> str:
        """The mode that the values are for; "" for the usual ones."""
        text = self.mode.currentText()
        return "" if text == _USUAL else text

    def _show(self) -> None:
        told = differences(self._workspace.document, self._read, self.chosen_mode)
        lines: list[str] = []
        for title, paths in (("New", told.new), ("Changed", told.changed)):
            if paths:
                lines += [f"{title} ({len(paths):,})", *[f"  {path}" for path in paths], ""]
        if self._read.left_out:
            lines += ["Left out", *[f"  {text}" for text in self._read.left_out], ""]
        self.list.setPlainText("\n".join(lines) or "Everything in it is so already.")
        self.remove.setText(f"Remove the {len(told.gone):,} that are not in the file")
        self.remove.setVisible(bool(told.gone) and not self.chosen_mode)

    def _take(self) -> None:
        removes = self.remove.isVisible() and self.remove.isChecked()
        mode = self.chosen_mode
        if token_commands.take_in_file(self._workspace, self._read, mode, removes):
            self.accept()
