"""The axes of the component on the bench: names, order, values, and what removal does."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.words import WordsField
from outgrowth.app.panels.sheet import Sheet, button, indented, line, muted
from outgrowth.core.document.records import Axis, AxisValue, Component
from outgrowth.core.document.variants import laid
from outgrowth.core.edits import axes
from outgrowth.core.edits.components import lay_axis
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import variant_commands
from outgrowth.workspace.workspace import Edit


class Axes(Sheet):
    """The axes in their order, each with its values."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace, "Axes")

    def about(self, component: Component | None) -> object:
        return component and (component.id, component.axes, component.columns, component.chips)

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        if component is None:
            layout.addWidget(muted("A screen has no axes; open a component."))
            return
        for number, axis in enumerate(component.axes):
            self._axis(layout, component, axis, number)
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

    def _axis(self, layout: QVBoxLayout, component: Component, axis: Axis, number: int) -> None:
        edit = self._workspace.edit
        name = WordsField(f"Name of the axis {axis.name}")
        name.show_value(axis.name)
        name.edited.connect(
            lambda text: edit(
                "rename an axis", partial_edit(axes.rename_axis, component, axis, text)
            )
        )
        earlier = partial_edit(axes.move_axis, component, axis, max(number - 1, 0))
        laid_out = ("rows", "columns", "chips")
        along = next(w for w, part in zip(laid_out, laid(component), strict=True) if axis in part)
        layout.addWidget(
            line(
                name,
                ("up", lambda: edit(f"move {axis.name} earlier", earlier)),
                ("add value", lambda: self._add_value(component, axis)),
                (self._removal(component, axis, ""), lambda: self._remove(component, axis, "")),
            )
        )
        if len(component.axes) > 1:
            lay = Segments([(w, _LAID[w]) for w in laid_out], f"Where {axis.name} lies")
            lay.show_value(along)
            lay.edited.connect(
                lambda where: edit(
                    f"lay {axis.name} along the {where}",
                    partial_edit(lay_axis, component, axis, where),
                )
            )
            layout.addWidget(indented(lay))
        for value in axis.values:
            layout.addWidget(self._value(component, axis, value))

    def _value(self, component: Component, axis: Axis, value: AxisValue) -> QWidget:
        name = WordsField(f"Name of the value {value.name} of {axis.name}")
        name.show_value(value.name)
        name.edited.connect(
            lambda text: self._workspace.edit(
                "rename a value",
                lambda d: axes.rename_value(d, component.id, axis.id, value.id, text),
            )
        )
        removal = self._removal(component, axis, value.id)
        whole = line(
            name,
            ("copy", lambda: self._add_value(component, axis, value)),
            (removal, lambda: self._remove(component, axis, value.id)),
        )
        whole.setToolTip(self._falls(component, axis, value.id))
        whole.setContentsMargins(18, 0, 0, 0)
        return whole

    def _removal(self, component: Component, axis: Axis, value_id: str) -> str:
        """ "remove, 9 change": how many instances removal changes, said before it is done."""
        found = axes.fallbacks(self._workspace.document, component.id, axis.id, value_id)
        return f"remove, {len(found)} change" if found else "remove"

    def _falls(self, component: Component, axis: Axis, value_id: str) -> str:
        found = axes.fallbacks(self._workspace.document, component.id, axis.id, value_id)
        if not found:
            return "No instance uses it."
        return f"{len(found)} instances fall back to {found[0].becomes}."

    def _remove(self, component: Component, axis: Axis, value_id: str) -> None:
        if value_id:
            change = partial_edit(axes.remove_value, component, axis, value_id)
        else:
            change = partial_edit(axes.remove_axis, component, axis)
        self._workspace.edit(
            f"remove from {axis.name}" if value_id else f"remove {axis.name}", change
        )

    def _add_value(self, component: Component, axis: Axis, like: AxisValue | None = None) -> None:
        start = f"{like.name} copy" if like is not None else "Value 1"
        variant_commands.add_value(self._workspace, component, axis, start, like)


_LAID = {"rows": "in rows", "columns": "in columns", "chips": "one at a time"}


def partial_edit(edit: Callable, component: Component, axis: Axis, *rest: object) -> Edit:  # type: ignore[type-arg]  # of the edits' many shapes
    """An edit of an axis with everything but the document given."""
    return lambda document: edit(document, component.id, axis.id, *rest)
