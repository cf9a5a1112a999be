"""A width or height: how it is got (fit, fixed, grow, a share), and the number behind it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLabel, QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.length import LengthField
from outgrowth.app.theme.builders import column, label, row
from outgrowth.core.document.values import FIT, Size

_MODES = (("fit", "fit"), ("fixed", "px"), ("grow", "grow"), ("percent", "%"))


class BoundField(QWidget):
    """A least or a most size in one line; a formula is explained under it while it is typed.

    explain  what a formula that is being typed comes to, in words
    """

    def __init__(self, name: str) -> None:
        super().__init__()
        self.number = LengthField(name)
        self.note = label(tone="muted", wrap=True)
        self.note.hide()
        self.explain: Callable[[str], str] = str
        both = column(self, spacing=2)
        both.addWidget(self.number)
        both.addWidget(self.note)
        self.setFocusProxy(self.number)
        self.number.formula_typed.connect(self._explain)

    def _explain(self, text: str) -> None:
        _note(self.note, self.explain(text) if text else "")


class SizeField(QWidget):
    """Segments for the mode, and a number: what it was given, or the measured px; under them
    the formula, where it is one, and what holds the part at another size, where something does. A
    formula that is begun in the number goes on in a line of its own, and is explained there.

    measured         the part's own px, and those inside what holds it
    explain          what a formula that is being typed comes to, in words
    edited(object)   a Size to set
    dragged(object)  a Size to try
    """

    edited = pyqtSignal(object)
    dragged = pyqtSignal(object)
    dropped = pyqtSignal()
    cancelled = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._measured = 0.0
        self._room = 0.0
        self.modes = Segments(_MODES, name, tight=True)
        self.number = LengthField(f"{name}: px, % of what holds it, or ch of its letters")
        self.number.setFixedWidth(48)
        self.formula = LengthField(f"{name} by a formula")
        self.formula.hide()
        self.explain: Callable[[str], str] = str
        self._held, self._by_formula = "", False
        self.held = label(tone="muted", wrap=True)
        self.held.hide()
        both, layout = column(self, spacing=2), row(spacing=2)
        both.addLayout(layout)
        both.addWidget(self.formula)
        both.addWidget(self.held)
        layout.addWidget(self.modes, 1)
        layout.addWidget(self.number)
        self.modes.edited.connect(self._mode)
        self.number.tried.connect(self.dragged)
        self.number.dropped.connect(self.dropped)
        self.number.cancelled.connect(self.cancelled)
        for line in (self.number, self.formula):
            line.size_edited.connect(self.edited)
            line.failed.connect(self.failed)
        self.number.formula_typed.connect(self._begun)
        self.formula.formula_typed.connect(self._explained)

    def show_value(
        self, size: Size | None, measured: float | None, room: float = 0.0, held: str = ""
    ) -> None:
        """Shows the mode, and its number or what the layout made of it."""
        self._measured, self._room, self._held = measured or 0.0, room, held
        self._by_formula = by_formula = size is not None and size.mode == "formula"
        self.modes.show_value(size.mode if size is not None and not by_formula else None)
        typing = self.formula.hasFocus() and self.formula.isModified()
        self.formula.setVisible(by_formula or typing)
        if not typing:
            _note(self.held, held)
        if by_formula:
            self.formula.show_length(size, measured)
        if size is not None and size.mode in ("fixed", "percent", "chars"):
            self.number.show_length(size)
        else:
            self.number.show_length(None if measured is None else Size("fixed", round(measured, 1)))

    def _begun(self, text: str) -> None:
        """What is being typed in the number is a formula: it goes on in its own line."""
        if not text:
            return
        self.number.setModified(False)
        self.formula.setText(text)
        self.formula.setModified(True)
        self.formula.show()
        self.formula.setFocus()
        self._explained(text)

    def _explained(self, text: str) -> None:
        """Says what the formula comes to so far; the held size again, where none is typed."""
        _note(self.held, self.explain(text) if text else self._held)
        if not text and not self._by_formula and not self.formula.isModified():
            self.formula.hide()

    def _mode(self, mode: str) -> None:
        share = self._measured / self._room * 100 if self._room else 100.0
        sizes = {"fit": FIT, "grow": Size("grow", 1.0), "percent": Size("percent", round(share, 1))}
        self.edited.emit(sizes.get(mode, Size("fixed", round(self._measured, 2))))


def _note(line: QLabel, text: str) -> None:
    line.setText(text)
    line.setVisible(bool(text))
