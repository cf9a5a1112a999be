"""The rules of the component on the bench, by the part they speak about: to be read, aimed
at the present reach, deleted, and made one where several say the same."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.panels.sheet import Sheet, line, muted
from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import Component, Rule
from outgrowth.core.document.variants import in_cascade_order, said
from outgrowth.core.edits import rules
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace import Workspace
from outgrowth.workspace.views.value_format import value_text

_ORDERS = ("part", "property", "reach")


class Rules(Sheet):
    """The rules of the component on the bench, strongest last under each heading.

    edited(str)  a rule's property is to be edited where the rule holds
    """

    edited = pyqtSignal(str)

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace, "Rules")
        self._order = "part"

    def about(self, component: Component | None) -> object:
        return component and (component.id, component.rules, component.root, component.axes)

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        if component is None:
            layout.addWidget(muted("A screen has no rules; open a component."))
        elif not component.rules:
            layout.addWidget(
                muted(
                    "No rules yet. Pick a face and a reach above, change a property, and the "
                    "rule appears here."
                )
            )
        else:
            self._fill(layout, component)

    def _fill(self, layout: QVBoxLayout, component: Component) -> None:
        for group in rules.alike(component):
            text = f"{len(group.rules)} rules say the same at {said(component, group.one.when)}"
            layout.addWidget(line(muted(text), ("make one", partial(self._join, group))))
        order = Segments([(o, o) for o in _ORDERS], "Sort the rules by")
        order.show_value(self._order)
        order.edited.connect(self._sort)
        layout.addWidget(order)
        grouped: dict[str, list[Rule]] = {}
        for rule in in_cascade_order(component):
            grouped.setdefault(self._head(component, rule), []).append(rule)
        for title, listed in grouped.items():
            head = QLabel(title)
            head.setProperty("weight", "bold")
            head.setContentsMargins(0, 8, 0, 2)
            layout.addWidget(head)
            for rule in listed:
                layout.addWidget(self._rule(component, rule))

    def _head(self, component: Component, rule: Rule) -> str:
        if self._order == "property":
            return row_of(rule.property).label
        return (
            self._called(component, rule.node)
            if self._order == "part"
            else said(component, rule.when)
        )

    def _sort(self, order: str) -> None:
        self._order = order
        self.rebuild()

    def _called(self, component: Component, node: tuple[str, ...]) -> str:
        path = () if node == (component.root.id,) else node
        found = inspect(self._workspace.document, Place(component.id, path))
        if found is None:
            return "a part that is hidden or gone"
        return found.instance.name if found.instance is not None else found.node.name

    def _rule(self, component: Component, rule: Rule) -> QWidget:
        value = value_text(self._workspace.document, rule.value)
        says = {
            "reach": said(component, rule.when),
            "part": self._called(component, rule.node),
            "property": row_of(rule.property).label,
        }
        rest = [text for order, text in says.items() if order != self._order]
        text = QLabel(f"{rest[0]}<br>{rest[1]} · <b>{value}</b>")
        text.setWordWrap(True)
        return line(
            text,
            ("edit", partial(self._edit, component, rule)),
            ("to this reach", partial(self._aim, component.id, rule)),
            ("delete", partial(self._delete, component.id, rule)),
        )

    def _edit(self, component: Component, rule: Rule) -> None:
        """Puts the hand where the rule is: its part, a face in which it holds, its reach."""
        path = () if rule.node == (component.root.id,) else rule.node
        face = self._workspace.selection.variant.update(rule.when)
        self._workspace.select(path, face)
        self._workspace.set_reach(rule.when)
        self.edited.emit(rule.property)

    def _join(self, group: rules.Alike) -> None:
        component = self._workspace.component
        if component is not None:
            self._workspace.edit(
                "make one rule of several", lambda d: rules.make_one(d, component.id, group)
            )

    def _aim(self, component_id: str, rule: Rule) -> None:
        reach = self._workspace.reach
        self._workspace.edit(
            f"aim {row_of(rule.property).label.lower()}",
            lambda d: rules.aim_rule(d, component_id, rule, reach),
        )

    def _delete(self, component_id: str, rule: Rule) -> None:
        self._workspace.edit(
            f"delete the rule for {row_of(rule.property).label.lower()}",
            lambda d: rules.remove_rule(d, component_id, rule),
        )
