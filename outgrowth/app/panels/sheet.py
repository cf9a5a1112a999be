"""A scrolling sheet of lines about what is on the bench, beside the ledger."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from outgrowth.app.theme import builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.records import Component
from outgrowth.workspace import Workspace

LabelledAct = tuple[str, Callable[[], object]]
"""What is written on a button, and what it does."""


class SheetPanel(QScrollArea):
    """Rebuilt when what it shows changes, and only while it is in sight."""

    def __init__(self, workspace: Workspace, name: str) -> None:
        super().__init__()
        self._workspace = workspace
        self._made_for: object = self
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(name)
        workspace.panels_due.connect(self.refresh)
        workspace.selection_changed.connect(self.refresh)

    def about(self, component: Component | None) -> object:
        """What decides the lines: compared with what it was."""
        raise NotImplementedError

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the lines."""
        raise NotImplementedError

    def rebuild(self) -> None:
        """Makes the lines anew, even if nothing changed."""
        self._made_for = self
        self.refresh()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        component = self._workspace.component
        about = self.about(component)
        if not self.isVisible() or about == self._made_for:
            return
        self._made_for = about
        body = QWidget()
        dress(body, "panel")
        layout = builders.column(body, (14, 8, 6, 16), 2)
        self.fill(layout, component)
        layout.addStretch()
        body.setMinimumWidth(1)  # lines shrink with the panel
        # Later, since one of its fields may have led here, and has still to return.
        before = self.takeWidget()
        if before is not None:
            before.hide()
            before.deleteLater()
        self.setWidget(body)


def muted(text: str) -> QLabel:
    """A sentence that explains."""
    return builders.label(text, tone="muted", wrap=True)


def line(first: QWidget, *commands: LabelledAct) -> QWidget:
    """A widget with what can be done about it behind it."""
    container = QWidget()
    row = builders.row(container, (0, 1, 0, 1), 2)
    row.addWidget(first, 1)
    for name, command in commands:
        row.addWidget(button(name, command, "tag"), 0, Qt.AlignmentFlag.AlignTop)
    return container


def indented(widget: QWidget) -> QWidget:
    """A widget that belongs to the line above it."""
    container = QWidget()
    row = QHBoxLayout(container)
    row.setContentsMargins(18, 1, 0, 1)
    row.addWidget(widget)
    return container


def button(name: str, command: Callable[[], object], look: str) -> QPushButton:
    """A button of a look that does something when it is pressed."""
    return builders.push_button(name, lambda: command(), look=look)
