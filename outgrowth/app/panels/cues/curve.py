"""The curve of a motion: progress over time, with a curve's two handles to pull."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from outgrowth.app.theme import Theme
from outgrowth.core.document.cues import Motion
from outgrowth.core.motion.easing import KEYWORDS
from outgrowth.core.motion.timing import Begun, length

# Px that curves may swing over the ends by.
_INSET = 18.0
_REACH = 9.0
# Enough for the swings of a spring at this width.
_SAMPLES = 80
_LOW, _HIGH = -0.6, 1.6

Points = tuple[float, float, float, float]


class Curve(QWidget):
    """Plots a motion. pulled(Points, done) carries a cubic Bézier's control points while a
    handle is pulled, and at its end."""

    pulled = pyqtSignal(tuple, bool)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._motion = Motion(300.0)
        self._points: Points | None = None
        self._dragged_point: int | None = None
        self._chosen = 0
        self._share: float | None = None
        self.setMinimumSize(120, 84)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Curve of the motion")
        self.setToolTip("Arrow keys move a handle, Enter takes the other one.")

    def sizeHint(self) -> QSize:
        return QSize(180, 110)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.update()

    def show_motion(self, motion: Motion) -> None:
        """Draws a motion, with handles where it is a Bézier curve."""
        self._motion = motion
        self._points = points_of(motion.easing)
        self.update()

    def show_share(self, share: float | None) -> None:
        """Where the scrubber stands, as a share of the motion's time."""
        self._share = share
        self.update()

    def _area(self) -> QRectF:
        return QRectF(self.rect()).adjusted(_INSET, _INSET + 6, -_INSET, -_INSET - 2)

    def _to_widget(self, x: float, y: float) -> QPointF:
        area = self._area()
        return QPointF(area.left() + x * area.width(), area.bottom() - y * area.height())

    def handle(self, n: int) -> QPointF:
        """Where a handle lies in the widget."""
        x1, y1, x2, y2 = self._points or (0.0, 0.0, 1.0, 1.0)
        return self._to_widget(x1, y1) if n == 0 else self._to_widget(x2, y2)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self._theme.color("field"))
        area = self._area()
        painter.setPen(QPen(self._theme.color("hairline"), 1))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        painter.drawLine(area.topLeft(), area.topRight())
        duration = length(self._motion)
        begun = Begun(self._motion, 0.0)
        line = [
            self._to_widget(
                n / _SAMPLES, 1.0 - begun.at_time(duration * n / _SAMPLES * 0.9999).rest
            )
            for n in range(_SAMPLES + 1)
        ]
        painter.setPen(QPen(self._theme.color("clay"), 2))
        painter.drawPolyline(QPolygonF(line))
        self._draw_handles(painter)
        if self._share is not None:
            x = area.left() + self._share * area.width()
            painter.setPen(QPen(self._theme.color("ink"), 1, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(x, area.top() - 8), QPointF(x, area.bottom() + 6))
        painter.setPen(self._theme.color("muted"))
        foot = QRectF(self.rect()).adjusted(6, 0, -6, -2)
        painter.drawText(foot, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, "0")
        right = Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignRight
        painter.drawText(foot, right, f"{duration:.0f} ms")
        painter.end()

    def _draw_handles(self, painter: QPainter) -> None:
        if self._points is None:
            return
        ends = (self._to_widget(0, 0), self._to_widget(1, 1))
        for n in (0, 1):
            point = self.handle(n)
            painter.setPen(QPen(self._theme.color("slate"), 1))
            painter.drawLine(ends[n], point)
            focused = self.hasFocus() and n == self._chosen
            painter.setPen(QPen(self._theme.color("slate"), 2))
            painter.setBrush(self._theme.color("slate" if focused else "panel"))
            painter.drawEllipse(point, 5, 5)
            painter.setBrush(Qt.BrushStyle.NoBrush)

    # --- gestures -------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._points is None:
            return
        near = [n for n in (0, 1) if (self.handle(n) - event.position()).manhattanLength() < 18]
        if near:
            self._dragged_point = self._chosen = near[-1]

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._dragged_point is not None:
            area = self._area()
            x = (event.position().x() - area.left()) / area.width()
            y = (area.bottom() - event.position().y()) / area.height()
            self._put(self._dragged_point, x, y, False)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._dragged_point is not None and self._points is not None:
            self._dragged_point = None
            self.pulled.emit(self._points, True)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {
            Qt.Key.Key_Left: (-0.02, 0.0),
            Qt.Key.Key_Right: (0.02, 0.0),
            Qt.Key.Key_Up: (0.0, 0.02),
            Qt.Key.Key_Down: (0.0, -0.02),
        }
        key = Qt.Key(event.key()) if event is not None else None
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._chosen = 1 - self._chosen
            self.update()
        elif key in steps and self._points is not None:
            dx, dy = steps[key]
            n = self._chosen
            self._put(n, self._points[2 * n] + dx, self._points[2 * n + 1] + dy, True)
        else:
            super().keyPressEvent(event)

    def _put(self, n: int, x: float, y: float, finished: bool) -> None:
        points = list(self._points or (0.0, 0.0, 1.0, 1.0))
        points[2 * n] = round(min(max(x, 0.0), 1.0), 2)
        points[2 * n + 1] = round(min(max(y, _LOW), _HIGH), 2)
        self._points = (points[0], points[1], points[2], points[3])
        self.pulled.emit(self._points, finished)
        self.update()


def points_of(easing: str) -> Points | None:
    """The control points of a cubic Bézier easing; None for another one."""
    if easing in KEYWORDS:
        return KEYWORDS[easing]
    if easing == "linear":
        return (0.0, 0.0, 1.0, 1.0)
    if easing.startswith("cubic-bezier(") and easing.endswith(")"):
        try:
            x1, y1, x2, y2 = (float(part) for part in easing[13:-1].split(","))
        except ValueError:
            return None
        return (x1, y1, x2, y2)
    return None


def bezier_text(points: Points) -> str:
    """The easing of control points, by its keyword where it has one."""
    named = [name for name, ends in KEYWORDS.items() if ends == points]
    return named[0] if named else f"cubic-bezier({', '.join(f'{n:g}' for n in points)})"
