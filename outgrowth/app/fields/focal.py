"""The focal point of a picture, on the picture: what of it is seen, and the point that stays in
sight, pulled where it shall be; both numbers can be typed beside it."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFocusEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
)
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.number import NumberField
from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import column, row
from outgrowth.core.document.properties import TABLE
from outgrowth.core.document.records import Asset
from outgrowth.core.document.types import NumberType

_NAMES = ("focal-x", "focal-y")
_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}
_STEP, _FINE = 0.05, 0.01
"""Shares of the picture that an arrow moves the point by, and with Shift."""
_ROOM = QSize(104, 66)
_DIMMED = 0.55
"""How much of the ground covers what of the picture is cut away."""


class FocalPad(QWidget):
    """The picture as a whole, what of it is seen, and its focal point.

    dragged(dict)  what the point would be, while it is pulled; dropped/cancelled end it
    edited(dict)   what it is to be
    """

    dragged = pyqtSignal(dict)
    edited = pyqtSignal(dict)
    dropped = pyqtSignal()
    cancelled = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._picture = QPixmap()
        self._point: tuple[float, float] | None = (0.5, 0.5)
        self._seen = (1.0, 1.0)
        self._is_pulled = False
        self.setFixedSize(_ROOM)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setAccessibleName("Focal point")
        self.setToolTip("Pull the point that stays in sight; arrows move it, with Shift a little")

    def show_value(
        self,
        picture: QPixmap,
        point: tuple[float, float] | None,
        seen: tuple[float, float],
    ) -> None:
        """The picture, its point as shares of it (None for several that differ), and which share
        of its width and height is seen."""
        self._picture, self._point, self._seen = picture, point, seen
        said = "mixed" if point is None else f"{point[0]:.0%} across, {point[1]:.0%} down"
        self.setAccessibleDescription(said)
        self.update()

    def frame(self) -> QRectF:
        """Where the whole picture is drawn."""
        room = QRectF(1, 1, self.width() - 2, self.height() - 2)
        wide, high = float(self._picture.width()), float(self._picture.height())
        if not wide or not high:
            return room
        scale = min(room.width() / wide, room.height() / high)
        frame = QRectF(0, 0, wide * scale, high * scale)
        frame.moveCenter(room.center())
        return frame

    def seen(self) -> QRectF:
        """Where in it that lies which is seen."""
        frame, (x, y) = self.frame(), self._point or (0.5, 0.5)
        wide, high = frame.width() * self._seen[0], frame.height() * self._seen[1]
        left = frame.left() + (frame.width() - wide) * x
        return QRectF(left, frame.top() + (frame.height() - high) * y, wide, high)

    def at(self, point: QPointF) -> dict[str, float]:
        """The shares of the picture at a place of the drawing."""
        frame = self.frame()
        shares = (
            (point.x() - frame.left()) / max(frame.width(), 1.0),
            (point.y() - frame.top()) / max(frame.height(), 1.0),
        )
        return {name: _share(n) for name, n in zip(_NAMES, shares, strict=True)}

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(
            QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform
        )
        theme, frame, seen = self._theme, self.frame(), self.seen()
        painter.fillRect(frame, theme.color("field"))
        if not self._picture.isNull():
            painter.drawPixmap(frame, self._picture, QRectF(self._picture.rect()))
            veil = theme.color("panel")
            veil.setAlphaF(_DIMMED)
            painter.setClipRect(frame)
            for cut in _around(frame, seen):
                painter.fillRect(cut, veil)
            painter.setClipping(False)
        focus = self.hasFocus()
        painter.setPen(QPen(theme.color("slate" if focus else "hairline"), 2 if focus else 1))
        painter.drawRect(frame)
        painter.setPen(QPen(theme.color("ink"), 1.5))
        painter.drawRect(seen)
        if self._point is not None:
            x, y = self._point
            dot = QPointF(frame.left() + frame.width() * x, frame.top() + frame.height() * y)
            painter.setPen(QPen(theme.color("ink"), 3.5))
            painter.drawEllipse(dot, 5, 5)
            painter.setPen(QPen(theme.color("panel"), 1.5))
            painter.drawEllipse(dot, 5, 5)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._is_pulled = True
            self.dragged.emit(self.at(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._is_pulled:
            self.dragged.emit(self.at(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._is_pulled:
            self._is_pulled = False
            self.dropped.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        if event.key() == Qt.Key.Key_Escape and self._is_pulled:
            self._is_pulled = False
            self.cancelled.emit()
            return
        way = _ARROWS.get(Qt.Key(event.key()))
        if way is None:
            super().keyPressEvent(event)
            return
        step = _FINE if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else _STEP
        point = self._point or (0.5, 0.5)
        moved = (_share(n + by * step) for n, by in zip(point, way, strict=True))
        self.edited.emit(dict(zip(_NAMES, moved, strict=True)))

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()


class Thumbnails:
    """The last picture of the file that was shown, as small as the drawing."""

    def __init__(self) -> None:
        self._digest, self._small = "", QPixmap()

    def of(self, asset: Asset | None) -> QPixmap:
        """The picture; an empty one for none, and for one that is damaged."""
        digest = asset.digest if asset is not None else ""
        if digest != self._digest:
            image = QImage.fromData(asset.data) if asset is not None else QImage()
            if not image.isNull():
                keep = Qt.AspectRatioMode.KeepAspectRatio
                smooth = Qt.TransformationMode.SmoothTransformation
                image = image.scaled(_ROOM * 2, keep, smooth)
            self._digest, self._small = digest, QPixmap.fromImage(image)
        return self._small


class FocalField(QWidget):
    """The drawing with its two numbers: signals as those of the drawing; `failed` says in a
    sentence that what was typed is no number."""

    failed = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.pad = FocalPad(theme)
        self.dragged, self.edited = self.pad.dragged, self.pad.edited
        self.dropped, self.cancelled = self.pad.dropped, self.pad.cancelled
        self.numbers: dict[str, NumberField] = {}
        typed = QWidget()
        stack = column(typed, spacing=4)
        for name in _NAMES:
            kind = TABLE[name].type
            assert isinstance(kind, NumberType)
            number = NumberField(kind, TABLE[name].label)
            number.edited.connect(lambda value, n=name: self.edited.emit({n: value}))
            number.failed.connect(self.failed)
            self.numbers[name] = number
            stack.addWidget(number)
        stack.addStretch()
        layout = row(self, spacing=8)
        layout.addWidget(self.pad)
        layout.addWidget(typed, 1)

    def show_value(
        self,
        picture: QPixmap,
        point: tuple[float | None, float | None],
        seen: tuple[float, float],
    ) -> None:
        """The picture, its point (None for what differs), and the shares of it that are seen."""
        x, y = point
        self.pad.show_value(picture, None if x is None or y is None else (x, y), seen)
        for number, value in zip(self.numbers.values(), point, strict=True):
            number.show_value(value)


def _share(number: float) -> float:
    return round(min(max(number, 0.0), 1.0), 3)


def _around(frame: QRectF, inner: QRectF) -> tuple[QRectF, ...]:
    """What of a frame lies around a rectangle in it."""
    return (
        QRectF(frame.left(), frame.top(), frame.width(), inner.top() - frame.top()),
        QRectF(frame.left(), inner.bottom(), frame.width(), frame.bottom() - inner.bottom()),
        QRectF(frame.left(), inner.top(), inner.left() - frame.left(), inner.height()),
        QRectF(inner.right(), inner.top(), frame.right() - inner.right(), inner.height()),
    )
