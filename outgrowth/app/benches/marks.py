"""What the benches draw over the parts: selection, reach, hover. No mark is colour alone."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPen

from outgrowth.app.theme import Theme

# Px of the corners that mark a selection, and of its ticks.
_ARM = 9.0
_TICK = 3.0


def adding(event: QMouseEvent) -> bool:
    """Whether a press selects besides what is selected."""
    modifiers = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    return bool(event.modifiers() & modifiers)


def selected(painter: QPainter, rect: QRectF, theme: Theme) -> None:
    """Corner brackets, and square ticks in the middle of the sides."""
    outline = rect.adjusted(-4.5, -4.5, 4.5, 4.5).toAlignedRect()
    r = QRectF(outline).adjusted(0.5, 0.5, -0.5, -0.5)
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    for color, width in ((theme.color("panel"), 4.0), (theme.color("ink"), 2.0)):
        painter.setPen(QPen(color, width, cap=Qt.PenCapStyle.FlatCap))
        painter.drawLines(*_brackets(r))
    if r.width() > 36 and r.height() > 36:
        for x, y in (
            (r.center().x(), r.top()),
            (r.center().x(), r.bottom()),
            (r.left(), r.center().y()),
            (r.right(), r.center().y()),
        ):
            tick = QRectF(x - _TICK, y - _TICK, 2 * _TICK, 2 * _TICK)
            painter.fillRect(tick.adjusted(-1, -1, 1, 1), theme.color("panel"))
            painter.fillRect(tick, theme.color("ink"))
    painter.restore()


def _brackets(rect: QRectF) -> list[QLineF]:
    arm = min(_ARM, rect.width() / 4, rect.height() / 4)
    lines = []
    for x, dx in ((rect.left(), arm), (rect.right(), -arm)):
        for y, dy in ((rect.top(), arm), (rect.bottom(), -arm)):
            lines.append(QLineF(QPointF(x, y), QPointF(x + dx, y)))
            lines.append(QLineF(QPointF(x, y), QPointF(x, y + dy)))
    return lines


def hovered(painter: QPainter, rect: QRectF, theme: Theme) -> None:
    """A thin line around what a click would pick."""
    painter.setPen(QPen(theme.color("slate"), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(rect.adjusted(-1.5, -1.5, 0.5, 0.5))


def reached(painter: QPainter, bar: QRectF, theme: Theme) -> None:
    """A bar at the heading of variants that an edit would change."""
    painter.fillRect(bar.toAlignedRect(), theme.color("clay"))


def framed(painter: QPainter, frame: QRectF, theme: Theme) -> None:
    """What is being drawn, or caught: a thin line, ink and paper by turns."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(theme.color("panel"), 1))
    painter.drawRect(frame)
    pen = QPen(theme.color("ink"), 1)
    pen.setDashPattern([3.0, 3.0])
    painter.setPen(pen)
    painter.drawRect(frame)
    painter.restore()


def guided(painter: QPainter, start: QPointF, end: QPointF, distance: float, theme: Theme) -> None:
    """A line that a moved part catches on, or a distance with its number in the middle."""
    color = theme.color("slate")
    painter.save()
    painter.setPen(QPen(color, 1))
    painter.drawLine(start, end)
    if distance:
        across = abs(end.x() - start.x()) > abs(end.y() - start.y())
        tip = QPointF(0, 4) if across else QPointF(4, 0)
        for point in (start, end):
            painter.drawLine(point - tip, point + tip)
        text = f"{distance:g}"
        room = painter.fontMetrics().horizontalAdvance(text) + 8
        middle = (start + end) / 2
        box = QRectF(middle.x() - room / 2, middle.y() - 9, room, 18)
        box.translate(0 if across else room / 2 + 6, -14 if across else 0)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(color)
        painter.drawRoundedRect(box, 3, 3)
        painter.setPen(theme.color("panel"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
    painter.restore()
