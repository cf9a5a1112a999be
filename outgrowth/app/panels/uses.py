"""Where the component on the bench is used: screens and components, with how often, each a
way there."""

from __future__ import annotations

from functools import partial
from itertools import groupby

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLabel, QVBoxLayout

from outgrowth.app.panels.sheet import Sheet, line, muted
from outgrowth.core.document.records import Component, find
from outgrowth.core.document.uses import Use, uses
from outgrowth.workspace import Workspace

# Places of one owner before the rest is counted.
_MOST = 12


class Uses(Sheet):
    """visited(str, tuple)  an owner, and the path of an instance in it"""

    visited = pyqtSignal(str, tuple)

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace, "Uses")

    def about(self, component: Component | None) -> object:
        """What decides the lines: they are made anew when this is another."""
        document = self._workspace.document
        return component and (component.id, id(document.components), id(document.screens))

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the lines for the component on the bench."""
        if component is None:
            layout.addWidget(muted("A screen is not used by anything; open a component."))
            return
        result = uses(self._workspace.document, component.id)
        if not result:
            layout.addWidget(
                muted("Not used yet. Drag it from the Library onto a screen, or into a part.")
            )
        for owner_id, group in groupby(result, lambda use: use.owner):
            self._owner(layout, owner_id, list(group))

    def _owner(self, layout: QVBoxLayout, owner_id: str, group: list[Use]) -> None:
        document = self._workspace.document
        owner = document.owner(owner_id)
        if owner is None:
            return
        kind = "component" if isinstance(owner, Component) else "screen"
        head = QLabel(f"<b>{owner.name}</b> · {kind} · {len(group)}")
        layout.addWidget(line(head, ("go there", partial(self.visited.emit, owner_id, ()))))
        for use in group[:_MOST]:
            node = find(owner.root, use.node)
            name = QLabel(node.name if node is not None else "")
            name.setContentsMargins(18, 0, 0, 0)
            command = partial(self.visited.emit, owner_id, (use.node,))
            layout.addWidget(line(name, ("go there", command)))
        if len(group) > _MOST:
            layout.addWidget(muted(f"and {len(group) - _MOST} more"))
