"""The shadows of a box: the first one's lengths and colour, and how to add or drop one."""

from __future__ import annotations

from collections.abc import Callable

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.color import ColorField
from outgrowth.app.fields.number import NumberField
from outgrowth.core.color import Color
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import Shadow, Shadows, Token

_LENGTHS = (("x", "Right"), ("y", "Down"), ("blur", "Blur"), ("spread", "Spread"))
_FIRST = Shadow(Color(0.0, 0.0, 0.0, 0x40 / 255), 0.0, 4.0, 12.0)


class ShadowField(QWidget):
    """edited(object) carries the whole list of shadows to set."""

    edited = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, tokens: Callable[[], dict[str, Color]]) -> None:
        super().__init__()
        self._shadows: Shadows = ()
        self._tokens = tokens
        self.kinds = Segments((("none", "none"), ("outer", "outer"), ("inner", "inner")), "Shadow")
        self.kinds.edited.connect(self._kind)
        self.color = ColorField("Shadow colour", tokens)
        self.color.edited.connect(lambda value: self._change(color=value))
        self.color.failed.connect(self.failed)
        self.fields: dict[str, NumberField] = {}
        layout = QGridLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(4)
        layout.addWidget(self.kinds, 0, 0, 1, 4)
        for n, (name, label) in enumerate(_LENGTHS):
            low = 0.0 if name == "blur" else -10_000.0
            field = NumberField(NumberType(low, 10_000.0), f"Shadow: {label.lower()}")
            field.setMinimumWidth(30)
            field.edited.connect(lambda value, k=name: self._change(**{k: value}))
            field.failed.connect(self.failed)
            self.fields[name] = field
            layout.addWidget(field, 1, n)
        layout.addWidget(self.color, 2, 0, 1, 4)

    def show_value(self, shadows: Shadows | None) -> None:
        """Shows a value; none where several differ."""
        self._shadows = shadows or ()
        first = self._shadows[0] if self._shadows else None
        kind = "none" if first is None else "inner" if first.inner else "outer"
        self.kinds.show_value(None if shadows is None else kind)
        for name, field in self.fields.items():
            field.setVisible(first is not None)
            field.show_value(getattr(first, name) if first is not None else 0.0)
        self.color.setVisible(first is not None)
        color, token = (first.color, first.token) if first is not None else (None, "")
        # The token's colour as the file has it now.
        self.color.show_value(self._tokens().get(token, color), Token(token) if token else None)

    def _kind(self, kind: str) -> None:
        rest = self._shadows[1:]
        if kind == "none":
            self.edited.emit(rest)
        else:
            first = self._shadows[0] if self._shadows else _FIRST
            self.edited.emit((msgspec.structs.replace(first, inner=kind == "inner"), *rest))

    def _change(self, **changes: object) -> None:
        if not self._shadows:
            return
        color = changes.get("color")
        if isinstance(color, Token):
            changes |= {"color": self._tokens()[color.path], "token": color.path}
        elif color is not None:
            changes["token"] = ""
        first = msgspec.structs.replace(self._shadows[0], **changes)
        self.edited.emit((first, *self._shadows[1:]))
