"""The rules of the component on the bench, by the part they speak about: to be read, aimed
at the present reach, deleted, and made one where several say the same."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.panels.sheet import SheetPanel, line, muted
from outgrowth.app.theme.builders import label
from outgrowth.core.document.records import Component, Rule
from outgrowth.core.document.variants import condition_text
from outgrowth.core.edits.variants import rules
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import rule_commands
from outgrowth.workspace.views.rule_rows import ORDERS, RuleRow, rule_rows


class Rules(SheetPanel):
    """The rules of the component on the bench, strongest last under each heading.

    edited(str)  a rule's property is to be edited where the rule holds
    """

    edited = pyqtSignal(str)

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace, "Rules")
        self._order = "part"

    def about(self, component: Component | None) -> object:
        """What decides the lines: they are made anew when this is another."""
        return component and (component.id, component.rules, component.root, component.axes)

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the lines for the component on the bench."""
        if component is None:
            layout.addWidget(muted("A screen has no rules; open a component."))
        elif not component.rules:
            layout.addWidget(
                muted(
                    "No rules yet. Pick a variant and a reach above, change a property, and the "
                    "rule appears here."
                )
            )
        else:
            self._fill(layout, component)

    def _fill(self, layout: QVBoxLayout, component: Component) -> None:
        for group in rules.equal_rules(component):
            reach = condition_text(component, group.one.when)
            text = f"{len(group.rules)} rules say the same at {reach}"
            layout.addWidget(
                line(muted(text), ("make one", partial(rule_commands.join, self._workspace, group)))
            )
        order = Segments([(o, o) for o in ORDERS], "Sort the rules by")
        order.show_value(self._order)
        order.edited.connect(self._sort)
        layout.addWidget(order)
        for title, rows in rule_rows(self._workspace.document, component, self._order).items():
            head = label(title, weight="bold")
            head.setContentsMargins(0, 8, 0, 2)
            layout.addWidget(head)
            for row in rows:
                layout.addWidget(self._rule(component, row))

    def _sort(self, order: str) -> None:
        self._order = order
        self.rebuild()

    def _rule(self, component: Component, row: RuleRow) -> QWidget:
        first, second = row.texts
        tone = "muted" if row.idle else ""
        text = label(f"{first}<br>{second} · <b>{row.value}</b>", wrap=True, tone=tone)
        if row.idle:
            text.setText(f"{first}<br>{second} · <s>{row.value}</s><br><i>{row.idle}</i>")
        arguments = self._workspace, component, row.rules
        return line(
            text,
            ("edit", partial(self._edit, component, row.rule)),
            ("to this reach", partial(rule_commands.aim, *arguments)),
            ("delete", partial(rule_commands.delete, *arguments)),
        )

    def _edit(self, component: Component, rule: Rule) -> None:
        """Puts the hand where the rule is: its part, a variant in which it holds, its reach."""
        rule_commands.go_to(self._workspace, component, rule)
        self.edited.emit(rule.property)
