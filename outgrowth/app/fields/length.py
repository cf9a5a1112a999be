"""Lengths with their unit, typed as people say them: 80, 50 %, 40 ch, fit, grow 2."""

from __future__ import annotations

import re

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QToolButton, QWidget

from outgrowth.app.fields.line import ValueLine
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.track_strip import TrackStrip
from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import column, row
from outgrowth.core.document.formulas import canonical, is_formula
from outgrowth.core.document.grid_tracks import MOST_TRACKS
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import GROW, Size, Tracks, fixed, is_repeated
from outgrowth.workspace.views.arithmetic import ArithmeticRefusal
from outgrowth.workspace.views.length_format import UNITS, read_tracks, tracks_text

_BY_UNIT = {unit: mode for mode, unit in UNITS.items()}
_WITH_UNIT = re.compile(r"^(.*?)\s*(px|%|ch)$")


class LengthField(NumberField):
    """A number and its unit, or a formula; a unit that is typed is kept until another is.

    size_edited(object)  a Size to set: fixed, in per cent, in characters or by a formula
    tried(object)        one to try while the handle is pulled
    formula_typed(str)   what is being typed is a formula so far; empty where it is none
    """

    size_edited = pyqtSignal(object)
    tried = pyqtSignal(object)
    formula_typed = pyqtSignal(str)

    def __init__(self, name: str) -> None:
        super().__init__(NumberType(0.0, 100_000.0), name)
        self.unit = "px"
        self._typed = "px"
        self._formula = ""
        self.textEdited.connect(lambda text: self.formula_typed.emit(_formula_in(text)))
        self.editingFinished.connect(lambda: self.formula_typed.emit(""))
        self.dragged.connect(lambda value: self.tried.emit(Size(_BY_UNIT[self.unit], value)))  # type: ignore[arg-type]  # a mode

    def show_length(self, size: Size | None, measured: float | None = None) -> None:
        """Shows a size that is a number or a formula; `measured` px is what a formula comes to."""
        if size is not None:
            self.unit = self._typed = UNITS.get(size.mode, "px")
        self._formula = size.formula if size is not None else ""
        number = size.amount if size is not None else None
        self.show_value(measured if self._formula else number)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        super().keyPressEvent(event)
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.formula_typed.emit("")

    def _shown(self) -> str:
        return self._formula or super()._shown()

    def _take(self, text: str) -> None:
        if not is_formula(text):
            self._formula, was = "", self._formula
            if was:
                self._value = None  # whatever number is typed is another
            super()._take(text)
            return
        formula = canonical(text)
        changed, self._formula = formula != self._formula, formula
        self.setText(formula)
        if changed:
            self.size_edited.emit(Size("formula", 0.0, formula))

    def _step(self, by: float) -> None:
        if not self._formula:
            super()._step(by)

    def _written(self, value: float) -> str:
        return super()._written(value) + (f" {self.unit}" if self.unit != "px" else "")

    def _read(self, text: str, before: float) -> float:
        with_unit = _WITH_UNIT.match(text.strip())
        self._typed = with_unit[2] if with_unit is not None else self.unit
        return super()._read(with_unit[1] if with_unit is not None else text, before)

    def _set(self, value: float) -> None:
        changed = value != self._value or self._typed != self.unit
        self.unit, self._value = self._typed, value
        self.setText(self._written(value))
        if changed:
            self.edited.emit(value)
            self.size_edited.emit(Size(_BY_UNIT[self.unit], value))  # type: ignore[arg-type]  # a mode


def _formula_in(text: str) -> str:
    return text if is_formula(text) else ""


_BESIDE = 80.0
"""Px of one more column beside those that come as often as there is room: it has a size."""


class TracksField(QWidget):
    """The columns or rows of a grid, in words, with one more and one less at a press, and under
    them as they come out.

    edited(object)  sizes to set
    failed(str)     what was typed is no list of sizes
    """

    edited = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, name: str, theme: Theme) -> None:
        super().__init__()
        self._tracks: Tracks = ()
        self.strip = TrackStrip(theme, name)
        self.text = ValueLine()
        self.text.setAccessibleName(name)
        self.text.setToolTip(
            "For instance: 80, fit, grow, grow 2, 25 %, 7 × grow; with bounds: 80 to 200, at least "
            "120; as many as there is room for: auto × at least 240 (fill ×: empty ones too)"
        )
        self.text.setPlaceholderText("none listed")
        self.text.editingFinished.connect(self._commit)
        self.fewer, self.more = QToolButton(), QToolButton()
        both, layout = column(self, spacing=2), row(spacing=2)
        both.addLayout(layout)
        both.addWidget(self.strip)
        layout.addWidget(self.text, 1)
        for button, sign, about in (
            (self.fewer, "−", f"{name}: one less"),
            (self.more, "+", f"{name}: one more"),
        ):
            button.setText(sign)
            button.setProperty("look", "segment")
            button.setAccessibleName(about)
            button.setToolTip(about)
            layout.addWidget(button)
        self.fewer.clicked.connect(lambda: self.edited.emit(self._tracks[:-1]))
        self.more.clicked.connect(lambda: self.edited.emit((*self._tracks, self._one_more())))

    def _one_more(self) -> Size:
        if any(map(is_repeated, self._tracks)):
            return fixed(_BESIDE)
        return self._tracks[-1] if self._tracks else GROW

    def show_value(self, tracks: Tracks | None, ends: tuple[tuple[float, float], ...] = ()) -> None:
        """Shows a value, none where several differ, and where the tracks begin and end (px)."""
        self.strip.show_ends(ends)
        self.text.setPlaceholderText("mixed" if tracks is None else "none listed")
        self._tracks = tracks or ()
        self.fewer.setEnabled(bool(tracks))
        self.more.setEnabled(len(self._tracks) < MOST_TRACKS)
        if not (self.text.hasFocus() and self.text.isModified()):
            self.text.setText(tracks_text(self._tracks))
            self.text.setCursorPosition(0)

    def _commit(self) -> None:
        if not self.text.isModified():
            return
        try:
            tracks = read_tracks(self.text.text())
        except ArithmeticRefusal as problem:
            self.text.setModified(False)
            self.text.setText(tracks_text(self._tracks))
            self.text.selectAll()
            self.failed.emit(str(problem))
            return
        self.text.setModified(False)
        if tracks != self._tracks:
            self.edited.emit(tracks)
