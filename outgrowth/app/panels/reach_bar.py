"""The reach bar: says in words what an edit will touch, and lets it be widened or narrowed
before anything is changed."""

from __future__ import annotations

from itertools import product

from immutables import Map
from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QLabel, QMenu, QToolButton, QWidget

from outgrowth.app.theme.builders import label, row, show_menu, tool_button
from outgrowth.app.theme.sheet import dress, restyle
from outgrowth.core.document.records import Axis
from outgrowth.workspace import Workspace
from outgrowth.workspace.measures import is_counted
from outgrowth.workspace.views.reach_text import reach_texts

_WAIT_MS = 120


class ReachBar(QWidget):
    """A chip an axis: "Kind: any", or the value that edits are kept to."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._workspace = workspace
        self._names: tuple[str, ...] = ()
        dress(self, "panel", "bottom")
        self.setFixedHeight(40)
        self._row = row(self, (12, 0, 12, 0), 8)
        self._lead = label("Edits reach", tone="muted")
        self._row.addWidget(self._lead)
        self._chips = QWidget()
        self._chip_row = row(self._chips, spacing=6)
        self._row.addWidget(self._chips)
        self._row.addStretch()
        self.reach_label = label(name="What an edit will touch")
        self._row.addWidget(self.reach_label)
        # How wide words are with what is bold in them.
        self._gauge = QLabel(self)
        self._gauge.hide()
        self.chips: dict[str, QToolButton] = {}
        # Whether an axis that any value goes for is told by its name alone.
        self._in_short = False
        self._axes: tuple[Axis, ...] | None = None
        self._said_of: object = None
        self._waiting = QTimer(self)
        self._waiting.setSingleShot(True)
        self._waiting.timeout.connect(self._count)
        workspace.panels_due.connect(self._follow)
        workspace.selection_changed.connect(self.refresh)
        self._show_chips()
        self._later()

    def attend(self, names: tuple[str, ...]) -> None:
        """Which properties are being looked at: the counts are those of an edit of them."""
        self._names = names
        self._later()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        self._show_chips()
        self._count()

    def _follow(self) -> None:
        component = self._workspace.component
        # Named otherwise, or more of them; what is kept to is told by the selection.
        if (component.axes if component is not None else ()) is not self._axes:
            self._show_chips()
        self._later()

    def _show_chips(self) -> None:
        component = self._workspace.component
        axes = component.axes if component is not None else ()
        if axes != self._axes:
            self._axes = axes
            self._make_chips(axes)
        for axis in axes:
            value = axis.value(self._workspace.reach.get(axis.id, ""))
            chip = self.chips[axis.id]
            said = f"{axis.name}: {value.name if value else 'any'}"
            chip.setText(axis.name if self._in_short and value is None else said)
            restyle(chip, "look", "held" if value else "firm")
        self._lead.setText("Edits reach" if component is not None else "Edits reach this screen")
        if component is not None and not axes:
            self._lead.setText("Edits reach the one variant of this component")

    def _make_chips(self, axes: tuple[Axis, ...]) -> None:
        for chip in self.chips.values():
            chip.hide()
            chip.deleteLater()
        self.chips = {}
        for axis in axes:
            chip = tool_button(
                lambda _=False, action=axis.id: self._menu(action),
                look="firm",
                name=f"Reach: {axis.name}",
                tip=f"Keep edits to one value of {axis.name}, or let them reach any.",
            )
            self.chips[axis.id] = chip
            self._chip_row.addWidget(chip)

    def _menu(self, axis_id: str) -> None:
        component = self._workspace.component
        axis = component.axis(axis_id) if component is not None else None
        if axis is None:
            return
        menu = QMenu(self)
        reach = self._workspace.reach
        any_value = menu.addAction(f"any {axis.name}")
        if any_value is not None:
            wider = reach.delete(axis_id) if axis_id in reach else reach
            any_value.triggered.connect(lambda: self._workspace.set_reach(wider))
        menu.addSeparator()
        for value in axis.values:
            action = menu.addAction(value.name)
            if action is not None:
                narrower = reach.set(axis_id, value.id)
                action.triggered.connect(
                    lambda _=False, rect=narrower: self._workspace.set_reach(rect)
                )
        chip = self.chips[axis_id]
        show_menu(menu, chip)

    def set_axis(self, axis_id: str, value: str | None) -> None:
        """What picking from a chip's menu does."""
        reach: Map[str, str] = self._workspace.reach
        if value is not None:
            self._workspace.set_reach(reach.set(axis_id, value))
        elif axis_id in reach:
            self._workspace.set_reach(reach.delete(axis_id))

    def _later(self) -> None:
        self._waiting.start(_WAIT_MS)

    def _count(self) -> None:
        """Says what an edit would touch; in a large file once that is counted, a moment at a
        time, beside what is done meanwhile."""
        subject = self._workspace.selection.owner, self._workspace.reach, self._names
        if self._workspace.component is not None and not is_counted(self._workspace):
            if subject != self._said_of:
                self.reach_label.setText("counting …")
            self._waiting.start(0)
            return
        self._said_of = subject
        self._say()

    def _say(self) -> None:
        """As much of it as there is room for; all of it when it is pointed at."""
        texts = reach_texts(self._workspace, self._names)
        for in_short, text in product((False, True), texts):
            if self._in_short != in_short:
                self._in_short = in_short
                self._show_chips()
            room = self._room_beside_chips()
            self._gauge.setText(text)
            wide = self._gauge.sizeHint().width()
            if wide <= room:
                break
        lead = self._lead.sizeHint().width() + self._row.spacing()
        self._lead.setVisible(wide + lead <= room or not self.chips)
        self.reach_label.setText(text)
        self.reach_label.setToolTip(texts[0])

    def _room_beside_chips(self) -> int:
        """Px that the chips leave for words."""
        chips = sum(chip.sizeHint().width() for chip in self.chips.values())
        chips += self._chip_row.spacing() * max(len(self.chips) - 1, 0)
        return self.width() - 24 - 3 * self._row.spacing() - chips

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self._said_of is not None:
            self._say()
