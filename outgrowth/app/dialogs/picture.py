"""Asks what of the bench becomes a picture, as SVG or PNG, and how large."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QButtonGroup,
    QDialog,
    QHBoxLayout,
    QLabel,
    QRadioButton,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.fields.choice import Segments
from outgrowth.app.theme.builders import push_button
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands.picture_commands import PictureFile, choices


class PictureDialog(QDialog):
    """`wanted` is what was asked for."""

    def __init__(self, parent: QWidget, workspace: Workspace) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Save as a picture")
        column = QVBoxLayout(self)
        column.setSpacing(10)
        column.addWidget(QLabel("What becomes a picture"))
        self._choices = choices(workspace)
        self._group = QButtonGroup(self)
        self.buttons: list[QRadioButton] = []
        for n, (_, text) in enumerate(self._choices):
            button = QRadioButton(text)
            button.setChecked(n == 0)
            self._group.addButton(button, n)
            self.buttons.append(button)
            column.addWidget(button)
        row = QHBoxLayout()
        self.form = Segments([("png", "PNG"), ("svg", "SVG")], "Form")
        self.form.show_value("png")
        self.form.edited.connect(self._formed)
        self.scale = Segments([(n, f"{n}×") for n in ("1", "2", "3", "4")], "Pixels to a px")
        self.scale.show_value("2")
        row.addWidget(self.form)
        row.addWidget(self.scale)
        row.addStretch()
        column.addLayout(row)
        ends = QHBoxLayout()
        ends.addStretch()
        leave = push_button("Leave", self.reject, look="firm")
        go = push_button("Choose where …", look="firm")
        go.setDefault(True)
        go.setEnabled(bool(self._choices))
        go.clicked.connect(self.accept)
        ends.addWidget(leave)
        ends.addWidget(go)
        column.addLayout(ends)

    def _formed(self, form: str) -> None:
        # A drawing of lines has no pixels.
        self.scale.setEnabled(form == "png")

    @property
    def wanted(self) -> PictureFile:
        """What was asked for."""
        what = self._choices[max(self._group.checkedId(), 0)][0]
        if self.form.value == "svg":
            return PictureFile(what, "svg")
        return PictureFile(what, "png", float(self.scale.value))
