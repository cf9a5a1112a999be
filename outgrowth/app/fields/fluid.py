"""Letters that grow with the room, in one line: to which size, from which room to which."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.number import NumberField
from outgrowth.app.theme.builders import label, row
from outgrowth.core.document.properties import FAMILY_MEMBERS, TABLE
from outgrowth.core.document.types import NumberType

_BETWEEN = ("", "by", "to")
"""What stands before each number."""


class FluidField(QWidget):
    """Three numbers; `edited` carries a property's name and what it is to be."""

    edited = pyqtSignal(dict)

    def __init__(self) -> None:
        super().__init__()
        self.numbers: dict[str, NumberField] = {}
        self._rooms: list[QWidget] = []
        layout = row(self, spacing=4)
        for name, before in zip(FAMILY_MEMBERS["grows-to"], _BETWEEN, strict=True):
            kind = TABLE[name].type
            assert isinstance(kind, NumberType)
            number = NumberField(kind, f"{TABLE[name].label}, px")
            number.edited.connect(lambda value, n=name: self.edited.emit({n: value}))
            if before:
                word = label(before, tone="muted")
                layout.addWidget(word)
                self._rooms += [word, number]
            layout.addWidget(number, 1)
            self.numbers[name] = number

    def show_values(self, values: Mapping[str, float | None]) -> None:
        """Shows the numbers, None for several that differ; the rooms mean nothing where letters do
        not grow."""
        for name, number in self.numbers.items():
            number.show_value(values.get(name))
        grows = values.get("fluid-size") != 0.0
        for widget in self._rooms:
            widget.setEnabled(grows)
