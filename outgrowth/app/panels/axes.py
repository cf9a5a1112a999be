"""The axes of the component on the bench: names, order, values, and what removal does."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.words import WordsField
from outgrowth.app.panels.sheet import SheetPanel, button, indented, line, muted
from outgrowth.core.document.records import Axis, AxisValue, Component
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import axis_commands, variant_commands
from outgrowth.workspace.commands.axis_commands import LAYINGS


class Axes(SheetPanel):
    """The axes in their order, each with its values."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace, "Axes")

    def about(self, component: Component | None) -> object:
        """What decides the lines: they are made anew when this is another."""
        return component and (component.id, component.axes, component.columns, component.chips)

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the lines for the component on the bench."""
        if component is None:
            layout.addWidget(muted("A screen has no axes; open a component."))
            return
        for axis in component.axes:
            self._axis(layout, component, axis)
        new = QHBoxLayout()
        new.setContentsMargins(0, 8, 0, 0)
        new.addWidget(
            button("add an axis", lambda: variant_commands.give_axis(self._workspace), "firm")
        )
        new.addWidget(
            button("add states", lambda: variant_commands.give_states(self._workspace), "firm")
        )
        new.addStretch()
        layout.addLayout(new)

    def _axis(self, layout: QVBoxLayout, component: Component, axis: Axis) -> None:
        workspace = self._workspace
        name = WordsField(f"Name of the axis {axis.name}")
        name.show_value(axis.name)
        name.edited.connect(partial(axis_commands.rename, workspace, component, axis))
        layout.addWidget(
            line(
                name,
                ("up", partial(axis_commands.move_earlier, workspace, component, axis)),
                ("add value", partial(self._add_value, component, axis)),
                (
                    axis_commands.removal_text(workspace, component, axis),
                    partial(axis_commands.remove, workspace, component, axis),
                ),
            )
        )
        if len(component.axes) > 1:
            lay = Segments([(w, _LAID[w]) for w in LAYINGS], f"Where {axis.name} lies")
            lay.show_value(axis_commands.laying_of(component, axis))
            lay.edited.connect(partial(axis_commands.lay, workspace, component, axis))
            layout.addWidget(indented(lay))
        for value in axis.values:
            layout.addWidget(self._value(component, axis, value))

    def _value(self, component: Component, axis: Axis, value: AxisValue) -> QWidget:
        workspace = self._workspace
        name = WordsField(f"Name of the value {value.name} of {axis.name}")
        name.show_value(value.name)
        name.edited.connect(partial(axis_commands.rename_value, workspace, component, axis, value))
        container = line(
            name,
            ("copy", partial(self._add_value, component, axis, value)),
            (
                axis_commands.removal_text(workspace, component, axis, value.id),
                partial(axis_commands.remove, workspace, component, axis, value.id),
            ),
        )
        container.setToolTip(axis_commands.fallback_text(workspace, component, axis, value.id))
        container.setContentsMargins(18, 0, 0, 0)
        return container

    def _add_value(
        self, component: Component, axis: Axis, template: AxisValue | None = None
    ) -> None:
        start = f"{template.name} copy" if template is not None else "Value 1"
        variant_commands.add_value(self._workspace, component, axis, start, template)


_LAID = {"rows": "in rows", "columns": "in columns", "chips": "one at a time"}
