"""Asks where a library is, or where a new one is to be made."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QWidget,
)

from outgrowth.app.theme import builders

_CONNECT = (
    "A library holds the parts that the team shares. It is a git repository: a folder on this "
    "machine or a file server, or an address as git takes it."
)
_MAKE = (
    "A new library begins empty: choose a new folder that everybody reaches, or give the address "
    "of an empty repository."
)


class LibraryDialog(QDialog):
    """Where, and for a new one its name. `address` and `name` are what was given."""

    def __init__(self, parent: QWidget, is_new: bool, name: str = "") -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._is_new = is_new
        self.setWindowTitle("Make a library" if is_new else "Connect to a library")
        self.setMinimumWidth(460)
        column = builders.column(self, (16, 14, 16, 14), 8)
        about = builders.label(_MAKE if is_new else _CONNECT, tone="muted", wrap=True)
        column.addWidget(about)
        self._name = QLineEdit(name)
        self._name.setAccessibleName("Name of the library")
        if is_new:
            column.addWidget(QLabel("What it is called"))
            column.addWidget(self._name)
        column.addWidget(QLabel("Where it is" if not is_new else "Where it will be"))
        hint = "/srv/team/parts  or  ssh://host/team/parts.git"
        self._address = builders.line_edit(hint, "Folder or address")
        folder = builders.push_button("Choose a folder …", self._choose, look="firm")
        row = QHBoxLayout()
        row.addWidget(self._address, 1)
        row.addWidget(folder)
        column.addLayout(row)
        buttons = QDialogButtonBox()
        self._accept = builders.push_button("Make it" if is_new else "Connect", look="firm")
        leave = builders.push_button("Leave", look="firm")
        buttons.addButton(leave, QDialogButtonBox.ButtonRole.RejectRole)
        buttons.addButton(self._accept, QDialogButtonBox.ButtonRole.AcceptRole)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column.addStretch()
        column.addSpacing(6)
        column.addWidget(buttons)
        for field in (self._name, self._address):
            field.textChanged.connect(self._check)
        self._accept.setDefault(True)
        self._check()
        self._address.setFocus()

    @property
    def address(self) -> str:
        """The folder or address."""
        return self._address.text().strip()

    @property
    def name(self) -> str:
        """What a new library is called."""
        return self._name.text().strip()

    def suggest(self, address: str) -> None:
        """Begins with an address."""
        self._address.setText(address)

    def _check(self) -> None:
        self._accept.setEnabled(bool(self.address) and (not self._is_new or bool(self.name)))

    def _choose(self) -> None:
        title = "A new folder for the library" if self._is_new else "The library's folder"
        folder = QFileDialog.getExistingDirectory(self, title, self.address)
        if folder:
            self._address.setText(folder)
