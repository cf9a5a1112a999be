"""Four numbers that belong together: padding, margin, corner radii."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.number import NumberField
from outgrowth.app.theme.builders import row
from outgrowth.core.document.properties import TABLE
from outgrowth.core.document.types import NumberType
from outgrowth.workspace.views.length_format import four


class FourField(QWidget):
    """One number field a member, in CSS order.

    edited(dict)  property name → value to set; dragged(dict) to try
    """

    edited = pyqtSignal(dict)
    dragged = pyqtSignal(dict)
    dropped = pyqtSignal()
    cancelled = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, names: tuple[str, ...]) -> None:
        super().__init__()
        self.fields: dict[str, NumberField] = {}
        layout = row(self, spacing=4)
        for name in names:
            kind = TABLE[name].type
            assert isinstance(kind, NumberType)
            field = NumberField(kind, TABLE[name].label)
            field.setMinimumWidth(30)
            field.edited.connect(lambda value, n=name: self.edited.emit({n: value}))
            field.failed.connect(self.failed)
            field.takes_several = True
            field.several.connect(
                lambda values: self.edited.emit(dict(zip(names, four(values), strict=True)))
            )
            field.setToolTip(f"{TABLE[name].label}. “10 16” says all four, as in CSS")
            self.fields[name] = field
            layout.addWidget(field, 1)
        self.all = self._common(names)

    def _common(self, names: tuple[str, ...]) -> NumberField:
        """A field that is not shown and stands for all four: the row's label pulls it."""
        kind = TABLE[names[0]].type
        assert isinstance(kind, NumberType)
        field = NumberField(kind, "all four", self)
        field.hide()
        field.dragged.connect(lambda value: self.dragged.emit(dict.fromkeys(names, value)))
        field.dropped.connect(self.dropped)
        field.cancelled.connect(self.cancelled)
        return field

    def show_values(self, values: Mapping[str, float | None]) -> None:
        """Shows four values, as one where they are equal."""
        for name, field in self.fields.items():
            field.show_value(values[name])
        lengths = [value for value in values.values() if value is not None]
        self.all.show_value(max(lengths, default=0.0))
