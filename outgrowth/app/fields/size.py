"""A width or height: how it is got (fit, fixed, grow), and the number behind it."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.number import NumberField
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import FIT, Size

_MODES = (("fit", "fit"), ("fixed", "fixed"), ("grow", "grow"))


class SizeField(QWidget):
    """Segments for the mode, and a number: px when fixed, the measured px otherwise.

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
        self.modes = Segments(_MODES, name)
        self.number = NumberField(NumberType(0.0, 100_000.0), f"{name} in px")
        self.number.setFixedWidth(50)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(2)
        layout.addWidget(self.modes, 1)
        layout.addWidget(self.number)
        self.modes.edited.connect(self._mode)
        self.number.edited.connect(lambda px: self.edited.emit(Size("fixed", px)))
        self.number.dragged.connect(lambda px: self.dragged.emit(Size("fixed", px)))
        self.number.dropped.connect(self.dropped)
        self.number.cancelled.connect(self.cancelled)
        self.number.failed.connect(self.failed)

    def show_value(self, size: Size | None, measured: float | None) -> None:
        """Shows the mode, and what the layout made of it."""
        self._measured = measured or 0.0
        self.modes.show_value(size.mode if size is not None else None)
        self.number.show_value(None if measured is None else round(measured, 1))

    def _mode(self, mode: str) -> None:
        sizes = {"fit": FIT, "grow": Size("grow", 1.0)}
        self.edited.emit(sizes.get(mode, Size("fixed", round(self._measured, 2))))
