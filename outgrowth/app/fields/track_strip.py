"""A grid's columns or rows as they come out, drawn to scale, with their px."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from outgrowth.app.theme import Theme

_HIGH = 18
# Px of a drawn track from which on its number has room.
_NUMBERED = 24.0
# Px of a drawn grid that a gap takes at least, so that two tracks stay two.
_APART = 2.0


class TrackStrip(QWidget):
    """One bar a track, from the first to the last; hidden where there is none."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self._theme = theme
        self._ends: tuple[tuple[float, float], ...] = ()
        self._name = name
        self.setFixedHeight(_HIGH)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.hide()

    def sizeHint(self) -> QSize:
        return QSize(80, _HIGH)

    def show_ends(self, ends: tuple[tuple[float, float], ...]) -> None:
        """Shows tracks by where they begin and end (px of the grid)."""
        if ends == self._ends:
            return
        self._ends = ends
        self.setVisible(bool(ends))
        sizes = ", ".join(f"{end - start:.4g}" for start, end in ends)
        self.setAccessibleName(f"{self._name} as they come out: {sizes} px")
        self.setToolTip(f"{sizes} px")
        self.update()

    def bars(self) -> list[QRectF]:
        """Where each track is drawn."""
        if not self._ends:
            return []
        first, last = self._ends[0][0], max(end for _, end in self._ends)
        scale = (self.width() - 1) / max(last - first, 1.0)
        made = []
        for start, end in self._ends:
            wide = max((end - start) * scale - _APART, 1.0)
            made.append(QRectF((start - first) * scale + 0.5, 0.5, wide, self.height() - 1))
        return made

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        font = self.font()
        font.setPixelSize(11)
        painter.setFont(font)
        for bar, (start, end) in zip(self.bars(), self._ends, strict=True):
            painter.setPen(QPen(self._theme.color("hairline"), 1))
            painter.setBrush(self._theme.color("field"))
            painter.drawRoundedRect(bar, 2, 2)
            if bar.width() >= _NUMBERED:
                painter.setPen(self._theme.color("muted"))
                painter.drawText(bar, Qt.AlignmentFlag.AlignCenter, f"{end - start:.4g}")
        painter.end()
