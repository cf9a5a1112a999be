"""Four numbers that belong together: padding, margin, line widths, corner radii."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QGridLayout, QWidget

from outgrowth.app.fields.number import NumberField
from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import column, row, tool_button
from outgrowth.core.document.properties import TABLE, StyleProperty
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import Token, Value
from outgrowth.workspace.views.length_format import four, in_short

_PLACES = {
    "top-left": (0, 0),
    "top-right": (0, 1),
    "bottom-right": (1, 1),
    "bottom-left": (1, 0),
    "top": (0, 0),
    "bottom": (0, 1),
    "left": (1, 0),
    "right": (1, 1),
}
"""The row and the column in which each of four stands when all are shown."""


class FourField(QWidget):
    """One line for four numbers, as CSS says them (`8`, `10 16`, `10 16 12 16`), and a press that
    shows each beside a drawing of its side.

    edited(dict)  property name → value to set; dragged(dict) to try
    opened(bool)  whether each is shown
    """

    edited = pyqtSignal(dict)
    dragged = pyqtSignal(dict)
    dropped = pyqtSignal()
    cancelled = pyqtSignal()
    failed = pyqtSignal(str)
    opened = pyqtSignal(bool)

    def __init__(self, names: tuple[str, ...], title: str, theme: Theme) -> None:
        super().__init__()
        self.line = FourLine(names, title)
        self.line.edited_four.connect(self.edited)
        self.line.dragged_four.connect(self.dragged)
        self.line.dropped.connect(self.dropped)
        self.line.cancelled.connect(self.cancelled)
        self.line.failed.connect(self.failed)
        each = "corner" if names[0].startswith("radius") else "side"
        self.more = tool_button(
            self._toggle, text="▾", look="icon", name=f"{title}: each {each}", tip=f"Each {each}"
        )
        self.more.setCheckable(True)
        layout = column(self, spacing=4)
        first = row(spacing=4)
        first.addWidget(self.line, 1)
        first.addWidget(self.more)
        layout.addLayout(first)
        self.sides = QWidget()
        self.sides.hide()
        layout.addWidget(self.sides)
        self.fields = {name: self._field(TABLE[name]) for name in names}
        grid = QGridLayout(self.sides)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        for name, field in self.fields.items():
            side = name.partition("-")[2]
            line, place = _PLACES[side]
            grid.addWidget(_SideMark(side, theme), line, place * 2)
            grid.addWidget(field, line, place * 2 + 1)
        self.setFocusProxy(self.line)

    def _field(self, style_row: StyleProperty) -> NumberField:
        field = NumberField(_number(style_row), style_row.label)
        field.names = lambda: self.line.names()
        field.edited.connect(lambda value: self.edited.emit({style_row.name: value}))
        field.named.connect(lambda path: self.edited.emit({style_row.name: Token(path)}))
        field.failed.connect(self.failed)
        return field

    def _toggle(self, on: bool) -> None:
        self.open_sides(on)
        self.opened.emit(on)
        if on:
            next(iter(self.fields.values())).setFocus(Qt.FocusReason.TabFocusReason)

    def open_sides(self, on: bool) -> None:
        """Shows each of the four, or the one line alone."""
        self.more.setChecked(on)
        self.more.setText("▴" if on else "▾")
        self.sides.setVisible(on)

    def show_values(self, values: Mapping[str, float | None]) -> None:
        """Shows four values; none where several parts differ."""
        for name, field in self.fields.items():
            field.show_value(values[name])
        self.line.show_four(list(values.values()))


class FourLine(NumberField):
    """Four numbers in one line: what is done to one number is done to each of them.

    edited_four(dict)   values to set, numbers or tokens
    dragged_four(dict)  values to try while the label is pulled
    """

    edited_four = pyqtSignal(dict)
    dragged_four = pyqtSignal(dict)

    def __init__(self, members: tuple[str, ...], title: str) -> None:
        super().__init__(_number(TABLE[members[0]]), title)
        self._members = members
        self._four: list[float | None] = [0.0] * 4
        self.named.connect(lambda path: self._emit([Token(path)] * 4))
        self.dragged.connect(self._drag)

    @property
    def value(self) -> float:
        """The largest of them: what the label pulls from."""
        return max((value for value in self._four if value is not None), default=0.0)

    def show_four(self, values: list[float | None]) -> None:
        """Shows four values; none where several parts differ."""
        self._four = values
        self._show_again()

    def _shown(self) -> str:
        known = [value for value in self._four if value is not None]
        return " ".join(map(self._written, in_short(known))) if len(known) == 4 else ""

    def _take(self, text: str) -> None:
        # A sum has blanks too: what is no list of words is one for all.
        words = text.split()
        listed = 1 < len(words) <= 4 and all(word in self.names() or _alone(word) for word in words)
        self._set_all(self._read_each(four(words) if listed else [text] * 4))

    def _read_each(self, words: list[str]) -> list[Value]:
        return [
            Token(word) if word in self.names() else self._read(word, before or 0.0)
            for word, before in zip(words, self._four, strict=True)
        ]

    def _step(self, by: float) -> None:
        self._set_all([self._stepped(value or 0.0, by) for value in self._four])

    def _drag(self, value: float) -> None:
        by = value - self.value
        values = [self._stepped(before or 0.0, by) for before in self._four]
        self.dragged_four.emit(dict(zip(self._members, values, strict=True)))

    def _set_all(self, values: list[Value]) -> None:
        if values != self._four:
            self._emit(values)
        self._show_again()

    def _emit(self, values: list[Value]) -> None:
        self.edited_four.emit(dict(zip(self._members, values, strict=True)))


class _SideMark(QWidget):
    """A square of which one side or corner is drawn in ink."""

    def __init__(self, side: str, theme: Theme) -> None:
        super().__init__()
        self._side = side
        self._theme = theme
        self.setFixedSize(14, 26)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        square = QRectF(1.5, 7.5, 11, 11)
        painter.setPen(QPen(self._theme.color("hairline"), 1))
        painter.drawRect(square)
        painter.setPen(QPen(self._theme.color("ink"), 2))
        painter.drawPolyline(*_drawn(square, self._side))
        painter.end()


def _drawn(square: QRectF, side: str) -> list[QPointF]:
    """The line along a side, or around a corner."""
    if "-" not in side:
        return [*_SIDE_ENDS[side](square)]
    down, across = side.split("-")
    corner = QPointF(
        square.left() if across == "left" else square.right(),
        square.top() if down == "top" else square.bottom(),
    )
    half = square.width() / 2
    along = QPointF(half if across == "left" else -half, 0)
    return [corner + along, corner, corner + QPointF(0, half if down == "top" else -half)]


_SIDE_ENDS: dict[str, Callable[[QRectF], tuple[QPointF, QPointF]]] = {
    "top": lambda square: (square.topLeft(), square.topRight()),
    "right": lambda square: (square.topRight(), square.bottomRight()),
    "bottom": lambda square: (square.bottomLeft(), square.bottomRight()),
    "left": lambda square: (square.topLeft(), square.bottomLeft()),
}


def _number(style_row: StyleProperty) -> NumberType:
    assert isinstance(style_row.type, NumberType)
    return style_row.type


def _alone(word: str) -> bool:
    """Whether a word is a number by itself, and no part of a sum."""
    return word.removesuffix("px").replace(".", "", 1).replace(",", "", 1).lstrip("-").isdigit()
