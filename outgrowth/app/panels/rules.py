"""The rules of the component on the bench, by the part they speak about: to be read, aimed
at the present reach, deleted, and made one where several say the same."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from outgrowth.app.panels.ledger.said import value_text
from outgrowth.app.session import Session
from outgrowth.app.session.session import Edit
from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import Component, Rule
from outgrowth.core.document.variants import in_cascade_order, said
from outgrowth.core.edits import rules
from outgrowth.core.resolve.ladder import Place, inspect


class Rules(QScrollArea):
    """Rebuilt when the rules change, and only while it is in sight."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._made_for: object = None
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("Rules")
        session.settled.connect(self.refresh)
        session.selection_changed.connect(self.refresh)

    def refresh(self) -> None:
        component = self._session.component
        made_for = component and (component.rules, component.root, component.axes)
        if not self.isVisible() or (self._made_for is not None and made_for is self._made_for):
            return
        self._made_for = made_for
        self._build(component)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()

    def _build(self, component: Component | None) -> None:
        body = QWidget()
        body.setProperty("room", "panel")
        body.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        layout = QVBoxLayout(body)
        layout.setContentsMargins(14, 8, 6, 16)
        layout.setSpacing(0)
        if component is None:
            layout.addWidget(_muted("A screen has no rules; open a component."))
        elif not component.rules:
            layout.addWidget(
                _muted(
                    "No rules yet. Pick a face and a reach above, change a property, and the "
                    "rule appears here."
                )
            )
        else:
            self._fill(layout, component)
        layout.addStretch()
        body.setMinimumWidth(1)
        self.setWidget(body)

    def _fill(self, layout: QVBoxLayout, component: Component) -> None:
        for group in rules.alike(component):
            text = f"{len(group.rules)} rules say the same at {said(component, group.one.when)}"
            act = lambda _=False, g=group: self._edit(  # noqa: E731  # a slot for this group
                "make one rule of several", lambda d: rules.make_one(d, component.id, g)
            )
            layout.addWidget(_line(_muted(text), ("make one", act)))
        grouped: dict[tuple[str, ...], list[Rule]] = {}
        for rule in in_cascade_order(component):
            grouped.setdefault(rule.node, []).append(rule)
        for node, listed in grouped.items():
            head = QLabel(self._called(component, node))
            head.setProperty("weight", "bold")
            head.setContentsMargins(0, 8, 0, 2)
            layout.addWidget(head)
            for rule in listed:
                layout.addWidget(self._rule(component, rule))

    def _called(self, component: Component, node: tuple[str, ...]) -> str:
        path = () if node == (component.root.id,) else node
        found = inspect(self._session.document, Place(component.id, path))
        if found is None:
            return "a part that is hidden or gone"
        return found.instance.name if found.instance is not None else found.node.name

    def _rule(self, component: Component, rule: Rule) -> QWidget:
        label = row_of(rule.property).label
        value = value_text(self._session.document, rule.value)
        text = QLabel(f"{said(component, rule.when)}<br>{label} · <b>{value}</b>")
        text.setWordWrap(True)
        aim = lambda _=False: self._edit(  # noqa: E731  # a slot for this rule
            f"aim {label.lower()}",
            lambda d: rules.aim_rule(d, component.id, rule, self._session.reach),
        )
        delete = lambda _=False: self._edit(  # noqa: E731  # likewise
            f"delete the rule for {label.lower()}",
            lambda d: rules.remove_rule(d, component.id, rule),
        )
        return _line(text, ("to this reach", aim), ("delete", delete))

    def _edit(self, name: str, change: Edit) -> None:
        self._session.edit(name, change)


def _muted(text: str) -> QLabel:
    label = QLabel(text)
    label.setWordWrap(True)
    label.setProperty("tone", "muted")
    return label


def _line(text: QLabel, *acts: tuple[str, Callable[..., object]]) -> QWidget:
    line = QWidget()
    row = QHBoxLayout(line)
    row.setContentsMargins(0, 2, 0, 2)
    row.setSpacing(2)
    row.addWidget(text, 1)
    for name, act in acts:
        button = QPushButton(name)
        button.setProperty("look", "tag")
        button.clicked.connect(act)
        row.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
    return line
