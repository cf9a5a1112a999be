"""The rules of the component on the bench as a table of differences: what holds at which reach,
edited where it is read."""

from __future__ import annotations

from functools import partial

from immutables import Map
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from outgrowth.app.panels.rule_grid import RuleGrid
from outgrowth.app.panels.sheet import line, muted
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.records import Component
from outgrowth.core.document.variants import condition_text
from outgrowth.core.edits.variants import rules
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import rule_commands
from outgrowth.workspace.views.rule_table import Reach, RuleRow, rule_table
from outgrowth.workspace.views.typed_values import read_values

_OF_SCREENS = "A screen has no rules; open a component."
_NONE = (
    "No rules yet. Pick a variant and a reach above, change a property, and the rule appears here."
)


class Rules(QWidget):
    """Filled when what it shows changes, and only while it is in sight.

    edited(str)  a rule's property is to be edited where the rule holds
    """

    edited = pyqtSignal(str)

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._made_for: object = self
        dress(self, "panel")
        self.setAccessibleName("Rules")
        column = builders.column(self)
        self.said = muted("")
        self.said.setContentsMargins(14, 10, 8, 6)
        self._equal = QWidget()
        self._equal_at = builders.column(self._equal, (14, 6, 6, 6), 2)
        self.grid = RuleGrid(theme)
        column.addWidget(self.said)
        column.addWidget(self._equal)
        column.addWidget(self.grid, 1)
        column.addStretch()
        self.grid.typed.connect(self._type)
        self.grid.moved.connect(self._move)
        self.grid.removed.connect(self._remove)
        self.grid.visited.connect(self._visit)
        self.grid.picked.connect(self._pick)
        workspace.panels_due.connect(self.refresh)
        workspace.selection_changed.connect(self.refresh)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self.grid.set_theme(theme)

    def begin(self) -> None:
        """Takes the keys."""
        self.refresh()
        self.grid.setFocus()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]  # what Qt gives
        self.refresh()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        component, document = self._workspace.component, self._workspace.document
        reach = self._workspace.reach
        about = component, document.tokens, document.mode, document.components
        if not self.isVisible():
            return
        if about == self._made_for:
            self.grid.show_table(self.grid.table, reach)
            return
        self._made_for = about
        has_rules = component is not None and bool(component.rules)
        self.said.setText(_OF_SCREENS if component is None else _NONE)
        self.said.setVisible(not has_rules)
        self.grid.setVisible(has_rules)
        self._show_equal(component)
        if component is not None and has_rules:
            self.grid.show_table(rule_table(document, component), reach)

    def _show_equal(self, component: Component | None) -> None:
        """Rules that one could replace, with a press that makes it one."""
        while (item := self._equal_at.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        groups = rules.equal_rules(component) if component is not None else ()
        self._equal.setVisible(bool(groups))
        for group in groups:
            assert component is not None
            reach = condition_text(component, group.one.when)
            text = f"{len(group.rules)} rules say the same at {reach}"
            join = partial(rule_commands.join, self._workspace, group)
            self._equal_at.addWidget(line(muted(text), ("make one", join)))

    # --- what is done ---------------------------------------------------------------------------

    def _type(self, row: RuleRow, reach: Reach, text: str) -> None:
        component = self._workspace.component
        if component is None:
            return
        if not text.strip():
            self._remove(row, reach)
            return
        path = () if row.node == (component.root.id,) else row.node
        inspection = inspect(self._workspace.document, Place(component.id, path, Map(reach)))
        values = read_values(self._workspace, inspection, row.names, text) if inspection else {}
        if not values:
            self._workspace.failed.emit(f"“{text}” is nothing that {row.label.lower()} can be.")
            return
        rule_commands.set_at(self._workspace, component, row.node, values, reach)

    def _move(self, row: RuleRow, start: Reach, end: Reach) -> None:
        component = self._workspace.component
        if component is not None:
            rule_commands.aim(self._workspace, component, row.cells[start].rules, end)

    def _remove(self, row: RuleRow, reach: Reach) -> None:
        component, cell = self._workspace.component, row.cells.get(reach)
        if component is not None and cell is not None and cell.rules:
            rule_commands.delete(self._workspace, component, cell.rules)
        elif not reach:
            self._workspace.failed.emit(
                "What the component says at first is taken away in the ledger, where it says so."
            )

    def _visit(self, row: RuleRow, reach: Reach) -> None:
        """Puts the hand where the rule is: its part, a variant in which it holds, its reach."""
        component = self._workspace.component
        if component is not None:
            rule_commands.go_to(self._workspace, component, row.node, reach)
            self.edited.emit(row.names[0])

    def _pick(self, reach: Reach) -> None:
        """The reach of a column becomes the present one, in a variant in which it holds."""
        variant = self._workspace.selection.variant.update(reach)
        self._workspace.select(self._workspace.selection.path, variant)
        self._workspace.set_reach(reach)
