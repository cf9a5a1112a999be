"""Pins as a small picture of the box: its edges are clicked to tie the part to them or to let
go; the middle of an axis turns between staying there and growing with the box."""

from __future__ import annotations

from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from outgrowth.app.theme import Theme

_SIDES = ("left", "top", "right", "bottom")
_ARROWS = {
    Qt.Key.Key_Left: "left",
    Qt.Key.Key_Up: "top",
    Qt.Key.Key_Right: "right",
    Qt.Key.Key_Down: "bottom",
}


class Pins(NamedTuple):
    """What both axes are tied to; None where several are shown that differ."""

    across: str | None
    down: str | None


def turned(pin: str | None, far: bool) -> str:
    """What an axis is tied to after one of its edges was clicked."""
    near_held, far_held = pin in ("start", "both"), pin in ("end", "both")
    if far:
        far_held = not far_held
    else:
        near_held = not near_held
    if near_held and far_held:
        return "both"
    return "start" if near_held else "end" if far_held else "center"


class PinsField(QWidget):
    """edited(str, str) carries an axis ("pin-x" or "pin-y") and what it is tied to.

    By key: an arrow turns the edge on its side, Space the middle across, Shift+Space down.
    """

    edited = pyqtSignal(str, str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._pins = Pins("start", "start")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(68)
        self.setAccessibleName("Pins")
        self.setToolTip("Click an edge to tie the part to it, the middle to centre or to scale")

    def sizeHint(self) -> QSize:
        return QSize(110, 68)

    def show_value(self, across: str | None, down: str | None) -> None:
        """Shows a value; none where several differ."""
        self._pins = Pins(across, down)
        self.setAccessibleDescription(f"across: {across or 'mixed'}, down: {down or 'mixed'}")
        self.update()

    # --- the picture ----------------------------------------------------------------------

    @property
    def _outer(self) -> QRectF:
        return QRectF(3, 3, 104, 62)

    @property
    def _inner(self) -> QRectF:
        return self._outer.adjusted(34, 19, -34, -19)

    def zone(self, side: str) -> QRectF:
        """Where an edge (or "middle") is clicked."""
        o, i = self._outer, self._inner
        return {
            "left": QRectF(o.left(), i.top() - 6, i.left() - o.left(), i.height() + 12),
            "right": QRectF(i.right(), i.top() - 6, o.right() - i.right(), i.height() + 12),
            "top": QRectF(i.left() - 6, o.top(), i.width() + 12, i.top() - o.top()),
            "bottom": QRectF(i.left() - 6, i.bottom(), i.width() + 12, o.bottom() - i.bottom()),
            "middle": i,
        }[side]

    def is_pinned(self, side: str) -> bool:
        """Whether the part is tied to an edge."""
        pin = self._pins.across if side in ("left", "right") else self._pins.down
        target = "start" if side in ("left", "top") else "end"
        return pin in (target, "both")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        focus = self.hasFocus()
        edge = theme.color("slate" if focus else "hairline")
        painter.setPen(QPen(edge, 2 if focus else 1))
        painter.setBrush(theme.color("field"))
        painter.drawRoundedRect(self._outer, 3, 3)
        painter.setPen(QPen(theme.color("ink"), 1.5))
        painter.drawRect(self._inner)
        for side in _SIDES:
            self._tie(painter, side)
        self._middle(painter, self._pins.across, True)
        self._middle(painter, self._pins.down, False)
        painter.end()

    def _tie(self, painter: QPainter, side: str) -> None:
        zone, on = self.zone(side), self.is_pinned(side)
        color = self._theme.color("ink" if on else "hairline")
        painter.setPen(QPen(color, 3 if on else 1.5, cap=Qt.PenCapStyle.FlatCap))
        c = zone.center()
        if side in ("left", "right"):
            painter.drawLine(QPointF(zone.left() + 1, c.y()), QPointF(zone.right() - 1, c.y()))
        else:
            painter.drawLine(QPointF(c.x(), zone.top() + 1), QPointF(c.x(), zone.bottom() - 1))

    def _middle(self, painter: QPainter, pin: str | None, across: bool) -> None:
        """A dot for the middle, a double line for scaling with the box."""
        c = self._inner.center()
        painter.setPen(QPen(self._theme.color("ink"), 1.5))
        if pin == "center":
            painter.setBrush(self._theme.color("ink"))
            offset = QPointF(-6, 0) if across else QPointF(0, -6)
            painter.drawEllipse(c + offset, 2, 2)
        elif pin == "scale":
            route = QPointF(7, 0) if across else QPointF(0, 7)
            side = QPointF(0, 2) if across else QPointF(2, 0)
            painter.drawLine(c - route + side, c + route + side)
            painter.drawLine(c - route - side, c + route - side)

    # --- gestures -------------------------------------------------------------------------

    def turn(self, side: str, down: bool = False) -> None:
        """What a click on an edge or on the middle does."""
        if side == "middle":
            name, pin = ("pin-y", self._pins.down) if down else ("pin-x", self._pins.across)
            self.edited.emit(name, "scale" if pin == "center" else "center")
        elif side in ("left", "right"):
            self.edited.emit("pin-x", turned(self._pins.across, side == "right"))
        else:
            self.edited.emit("pin-y", turned(self._pins.down, side == "bottom"))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        with_shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        for side in (*_SIDES, "middle"):
            if self.zone(side).contains(event.position()):
                self.turn(side, with_shift)
                return

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        side = _ARROWS.get(Qt.Key(event.key()))
        if side is not None:
            self.turn(side)
        elif event.key() == Qt.Key.Key_Space:
            self.turn("middle", bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()
