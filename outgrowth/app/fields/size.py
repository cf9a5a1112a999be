"""A width or height: how it is got (fit, fixed, grow, a share), and the number behind it."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.length import LengthField
from outgrowth.app.theme.builders import column, label, row
from outgrowth.core.document.values import FIT, Size

_MODES = (("fit", "fit"), ("fixed", "px"), ("grow", "grow"), ("percent", "%"))


class SizeField(QWidget):
    """Segments for the mode, and a number: what it was given, or the measured px; under them
    what holds the part at another size, where something does.

    measured         the part's own px, and those inside what holds it
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
        self.held = label(tone="muted", wrap=True)
        self.held.hide()
        both, layout = column(self, spacing=2), row(spacing=2)
        both.addLayout(layout)
        both.addWidget(self.held)
        layout.addWidget(self.modes, 1)
        layout.addWidget(self.number)
        self.modes.edited.connect(self._mode)
        self.number.size_edited.connect(self.edited)
        self.number.tried.connect(self.dragged)
        self.number.dropped.connect(self.dropped)
        self.number.cancelled.connect(self.cancelled)
        self.number.failed.connect(self.failed)

    def show_value(
        self, size: Size | None, measured: float | None, room: float = 0.0, held: str = ""
    ) -> None:
        """Shows the mode, and its number or what the layout made of it."""
        self._measured, self._room = measured or 0.0, room
        self.modes.show_value(size.mode if size is not None else None)
        self.held.setText(held)
        self.held.setVisible(bool(held))
        if size is not None and size.mode in ("fixed", "percent", "chars"):
            self.number.show_length(size)
        else:
            self.number.show_length(None if measured is None else Size("fixed", round(measured, 1)))

    def _mode(self, mode: str) -> None:
        share = self._measured / self._room * 100 if self._room else 100.0
        sizes = {"fit": FIT, "grow": Size("grow", 1.0), "percent": Size("percent", round(share, 1))}
        self.edited.emit(sizes.get(mode, Size("fixed", round(self._measured, 2))))
