"""A relative change: how a colour or a number differs from whatever lies below it."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.choice import DropDown
from outgrowth.app.fields.number import NumberField
from outgrowth.app.theme.builders import push_button, row
from outgrowth.core.document.types import (
    ColorType,
    FillType,
    LimitType,
    NumberType,
    ValueType,
)
from outgrowth.core.document.values import Shift

_PERCENT = NumberType(0.0, 1.0, "")
# What a way is called: the shift it makes, its number, its sign, and a first value.
_WAYS: dict[str, tuple[str, NumberType, float, float]] = {
    "darker": ("darken", _PERCENT, 1.0, 0.08),
    "lighter": ("darken", _PERCENT, -1.0, 0.08),
    "fainter": ("fade", _PERCENT, 1.0, 0.2),
    "more by": ("add", NumberType(), 1.0, 2.0),
    "times": ("multiply", NumberType(0.0, 1000.0, "×"), 1.0, 1.1),
}


def shift_kinds(kind: ValueType) -> tuple[str, ...]:
    """The ways in which a value of this type can be relative; none for most types."""
    if isinstance(kind, ColorType | FillType):
        return ("darker", "lighter", "fainter")
    return ("more by", "times") if isinstance(kind, NumberType | LimitType) else ()


class RelativeField(QWidget):
    """A way, an amount, and a button. edited(Shift)"""

    edited = pyqtSignal(object)

    def __init__(self, directions: tuple[str, ...], name: str) -> None:
        super().__init__()
        self._name = name
        self._direction = directions[0]
        self.direction = DropDown(
            tuple((route, route) for route in directions), f"{name}: how it differs"
        )
        self.direction.edited.connect(self._turned)
        self._row = row(self, spacing=4)
        self._row.addWidget(self.direction, 1)
        self.amount = self._made_amount()
        self._row.addWidget(self.amount, 1)
        self.set = push_button("set", self._set, look="firm")
        self._row.addWidget(self.set)

    def _made_amount(self) -> NumberField:
        _, kind, _, first = _WAYS[self._direction]
        field = NumberField(kind, f"{self._name}: by how much")
        field.show_value(first)
        return field

    def _turned(self, route: str) -> None:
        self._direction = route
        old, self.amount = self.amount, self._made_amount()
        self._row.replaceWidget(old, self.amount)
        old.hide()
        old.deleteLater()

    def _set(self) -> None:
        how, _, sign, _ = _WAYS[self._direction]
        self.edited.emit(Shift(how, sign * self.amount.value))  # type: ignore[arg-type]  # a way of the table
