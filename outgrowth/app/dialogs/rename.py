"""Renames several by one pattern, and shows what comes of it before anything is renamed."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QGridLayout, QListWidget, QListWidgetItem, QWidget

from outgrowth.app.theme import builders
from outgrowth.core.edits.tree.patterns import Renaming
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import naming_commands
from outgrowth.workspace.commands.naming_commands import Renamable

_ABOUT = (
    "… stands for the name as it is, # for a number. “Icons/…” files them, “Row #” numbers them; "
    "with words to find, only these become others, and “Btn *” finds by how a name begins."
)


class RenameDialog(QDialog):
    """Two fields, and what each name would be; a line that is not ticked stays."""

    def __init__(self, parent: QWidget, workspace: Workspace, meant: Renamable) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._workspace, self._meant = workspace, meant
        self._planned: list[Renaming] = []
        self.setWindowTitle(f"Rename {meant.title}")
        self.resize(560, 420)
        column = builders.column(self, (16, 14, 16, 14), 8)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        self.sought = builders.line_edit("all of them", "Names to find")
        self.becomes = builders.line_edit("Icons/…", "What they become")
        for n, (text, field) in enumerate((("Find", self.sought), ("Becomes", self.becomes))):
            grid.addWidget(builders.label(text), n, 0)
            grid.addWidget(field, n, 1)
            field.textChanged.connect(self._show)
        column.addLayout(grid)
        column.addWidget(builders.label(_ABOUT, tone="muted", wrap=True))
        self.list = QListWidget()
        self.list.setAccessibleName("What they would be called")
        self.list.itemChanged.connect(self._count)
        column.addWidget(self.list, 1)
        row = builders.row(spacing=8)
        row.addStretch(1)
        row.addWidget(builders.push_button("Cancel", self.reject))
        self.rename = builders.push_button("Rename", self._rename, look="firm")
        self.rename.setDefault(True)
        row.addWidget(self.rename)
        column.addLayout(row)
        self.becomes.setFocus()
        self._show()

    def _show(self) -> None:
        sought, becomes = self.sought.text(), self.becomes.text()
        self._planned = naming_commands.planned(self._meant, sought, becomes)
        self.list.blockSignals(True)
        self.list.clear()
        for renaming in self._planned:
            item = QListWidgetItem(f"{renaming.before}  →  {renaming.after}")
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked)
            self.list.addItem(item)
        if not self._planned:
            told = "No name is found so." if becomes.strip() else "Say what they become."
            self.list.addItem(QListWidgetItem(told))
        self.list.blockSignals(False)
        self._count()

    @property
    def chosen(self) -> list[Renaming]:
        """What would be renamed now: the lines that are ticked."""
        ticked = Qt.CheckState.Checked
        return [
            renaming
            for n, renaming in enumerate(self._planned)
            if (item := self.list.item(n)) is not None and item.checkState() == ticked
        ]

    def _count(self) -> None:
        count = len(self.chosen)
        self.rename.setText(f"Rename {count}" if count else "Rename")
        self.rename.setEnabled(bool(count))

    def _rename(self) -> None:
        if naming_commands.rename_all(self._workspace, self._meant, self.chosen):
            self.accept()
