"""The ruler above the grid of a component whose room decides what it is: in which room each value
holds, and where it begins, which is pulled."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QToolTip, QWidget

from outgrowth.app.theme import Theme, builders
from outgrowth.core.document.records import Document
from outgrowth.core.edits.variants.driving import set_least
from outgrowth.workspace import Workspace
from outgrowth.workspace.views.room_bands import RoomBand, RoomRulerRow, room_ruler_rows

_HIGH = 46
_BAND_TOP, _BAND_HIGH = 20.0, 18.0
_LEFT, _RIGHT = 92.0, 18.0
_GRIP = 6.0
"""Px beside a threshold within which it is taken hold of."""
_TICKS = (10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0, 2000.0, 5000.0)
_LEAST_TICK = 56.0
"""Px between two numbers of the ruler at least."""
_FINE = {"px": 1.0, "ch": 0.5}


class RoomRulers(QWidget):
    """The rulers of the component on the bench, one below the other; none where no room sets
    anything."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._theme = theme
        self._column = builders.column(self)
        self.rulers: list[RoomRuler] = []
        workspace.document_changed.connect(self._follow)
        workspace.selection_changed.connect(self._follow)
        workspace.panels_due.connect(self.refresh)
        self.hide()

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        for ruler in self.rulers:
            ruler.set_theme(theme)

    def _follow(self) -> None:
        """While a threshold is pulled only the numbers are others."""
        if self.rulers or self._workspace.selection.owner:
            self.refresh()

    def refresh(self) -> None:
        """Shows the axes as they are."""
        component = self._workspace.component
        rows = room_ruler_rows(self._workspace, component) if component is not None else ()
        while len(self.rulers) > len(rows):
            self.rulers.pop().deleteLater()
        while len(self.rulers) < len(rows):
            ruler = RoomRuler(self._workspace, self._theme)
            self.rulers.append(ruler)
            self._column.addWidget(ruler)
        for ruler, row in zip(self.rulers, rows, strict=True):
            ruler.show_row(row)
        self.setVisible(bool(rows))


class RoomRuler(QWidget):
    """One axis: bands of its values, with what may be pulled between them. A press on a band looks
    at that value; arrows move the threshold at hand, Shift by ten; Up and Down take another."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace, self._theme = workspace, theme
        self.row: RoomRulerRow | None = None
        self._held: int | None = None
        self._at = 1
        self._hovered: int | None = None
        self._frozen = 0.0
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumHeight(_HIGH)
        self.setMaximumHeight(_HIGH)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(400, _HIGH)

    def show_row(self, row: RoomRulerRow) -> None:
        """Shows an axis. While something is pulled the scale stays, and with it what was known."""
        if self._held is not None and self.row is not None:
            row = row._replace(length=self.row.length, used=self.row.used)
        self.row = row
        self._at = min(max(self._at, 1), max(len(row.bands) - 1, 1))
        self.setAccessibleName(f"Room of {row.axis.name}")
        self.setAccessibleDescription(", ".join(map(self._said, range(len(row.bands)))))
        self.update()

    def _said(self, n: int) -> str:
        row = self.row
        assert row is not None
        band, unit = row.bands[n], row.axis.unit
        return f"{band.name} from {band.start:g} {unit}" if n else f"{band.name} below that"

    # --- where it is --------------------------------------------------------------------------

    def x_of(self, room: float) -> float:
        """Where so much room lies on the ruler (px of the widget)."""
        row = self.row
        length = row.length if row is not None else 1.0
        return _LEFT + (self.width() - _LEFT - _RIGHT) * room / max(length, 1.0)

    def room_at(self, x: float) -> float:
        """How much room a place on the ruler is."""
        row = self.row
        if row is None:
            return 0.0
        span = max(self.width() - _LEFT - _RIGHT, 1.0)
        step = _FINE[row.axis.unit]
        return round((x - _LEFT) / span * row.length / step) * step

    def rect_of(self, band: RoomBand) -> QRectF:
        """Where a value's band lies."""
        left, right = self.x_of(band.start), self.x_of(band.end)
        return QRectF(left, _BAND_TOP, max(right - left, 0.0), _BAND_HIGH)

    def _threshold_at(self, point: QPointF) -> int | None:
        bands = self.row.bands if self.row is not None else ()
        near = [
            (abs(self.x_of(band.start) - point.x()), n) for n, band in enumerate(bands) if n > 0
        ]
        distance, n = min(near, default=(_GRIP + 1, 0))
        return n if distance <= _GRIP else None

    # --- drawing ------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self._theme.color("panel"))
        painter.setPen(QPen(self._theme.color("hairline"), 1))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)
        if self.row is not None:
            self._draw_name(painter, self.row)
            self._draw_scale(painter, self.row)
            for n in range(len(self.row.bands)):
                self._draw_band(painter, self.row, n)
            self._draw_used(painter, self.row)
            for n in range(1, len(self.row.bands)):
                self._draw_threshold(painter, self.row, n)
        painter.end()

    def _draw_name(self, painter: QPainter, row: RoomRulerRow) -> None:
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        painter.setPen(self._theme.color("ink"))
        name = painter.fontMetrics().elidedText(
            row.axis.name, Qt.TextElideMode.ElideRight, int(_LEFT - 20)
        )
        middle = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(12, _BAND_TOP, _LEFT - 20, _BAND_HIGH), middle, name)
        font.setBold(False)
        painter.setFont(font)
        painter.setPen(self._theme.color("muted"))
        unit = f"{row.axis.side}, {row.axis.unit}"
        painter.drawText(QRectF(12, 2, _LEFT - 16, 16), middle, unit)

    def _draw_scale(self, painter: QPainter, row: RoomRulerRow) -> None:
        span = max(self.width() - _LEFT - _RIGHT, 1.0)
        step = next((t for t in _TICKS if span * t / row.length >= _LEAST_TICK), _TICKS[-1])
        painter.setPen(self._theme.color("muted"))
        shown = {round(band.start, 3) for band in row.bands[1:]}
        for n in range(int(row.length // step) + 1):
            x = self.x_of(n * step)
            near = any(abs(self.x_of(s) - x) < 26 for s in shown)
            if not near:
                painter.drawText(
                    QRectF(x - 30, 2, 60, 15), Qt.AlignmentFlag.AlignCenter, f"{n * step:g}"
                )

    def _draw_band(self, painter: QPainter, row: RoomRulerRow, n: int) -> None:
        band = row.bands[n]
        rect = self.rect_of(band)
        selection = self._workspace.selection
        current = selection.variant.get(row.axis.id) == band.value
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("field") if current else self._theme.color("bed"))
        painter.drawRect(rect)
        painter.setPen(QPen(self._theme.color("slate" if current else "hairline"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(rect.adjusted(0.5, 0.5, -0.5, -0.5))
        painter.setPen(self._theme.color("ink" if current else "muted"))
        room = rect.adjusted(8, 0, -8, 0)
        name = painter.fontMetrics().elidedText(
            band.name, Qt.TextElideMode.ElideRight, int(max(room.width(), 0))
        )
        painter.drawText(room, Qt.AlignmentFlag.AlignCenter, name)

    def _draw_used(self, painter: QPainter, row: RoomRulerRow) -> None:
        """Small marks below the bands: the widths at which it stands on screens."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("clay"))
        for width in row.used:
            painter.drawEllipse(QPointF(self.x_of(width), _BAND_TOP + _BAND_HIGH + 4), 2, 2)

    def _draw_threshold(self, painter: QPainter, row: RoomRulerRow, n: int) -> None:
        band = row.bands[n]
        x = self.x_of(band.start)
        strong = n in (self._held, self._hovered) or (self.hasFocus() and n == self._at)
        color = self._theme.color("slate" if strong else "ink")
        painter.setPen(QPen(color, 2))
        painter.drawLine(QPointF(x, _BAND_TOP - 2), QPointF(x, _BAND_TOP + _BAND_HIGH + 2))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(color)
        painter.drawRoundedRect(QRectF(x - 3, _BAND_TOP + 4, 6, _BAND_HIGH - 8), 2, 2)
        painter.setPen(color)
        text = f"{band.start:g}"
        painter.drawText(QRectF(x - 40, 2, 80, 15), Qt.AlignmentFlag.AlignCenter, text)

    # --- by hand ------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton or self.row is None:
            return
        self._held = self._threshold_at(event.position())
        if self._held is not None:
            self._at = self._held
            self.update()
            return
        point = event.position()
        for band in self.row.bands:
            if self.rect_of(band).contains(point):
                selection = self._workspace.selection
                variant = selection.variant.set(self.row.axis.id, band.value)
                self._workspace.select(selection.path, variant)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if self._held is not None:
            self._pull(self._held, self.room_at(event.position().x()))
            return
        hovered = self._threshold_at(event.position())
        if hovered != self._hovered:
            self._hovered = hovered
            held = (
                Qt.CursorShape.SplitHCursor if hovered is not None else Qt.CursorShape.ArrowCursor
            )
            self.setCursor(held)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        held, self._held = self._held, None
        if held is not None and self.row is not None:
            self._workspace.drop(f"{self._said(held)}")
            self.update()

    def event(self, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.ToolTip and self.row is not None:
            self._tell(event)
            return True
        return super().event(event)

    def _tell(self, event: QEvent) -> None:
        row = self.row
        point = event.pos()  # type: ignore[attr-defined]  # a QHelpEvent
        used = [w for w in row.used if abs(self.x_of(w) - point.x()) < 5] if row is not None else []
        text = f"On a screen it is {used[0]:g} px wide." if used and point.y() > 36 else ""
        threshold = self._threshold_at(QPointF(point))
        if threshold is not None:
            text = f"{self._said(threshold)}. Pull it, or move it with the arrow keys."
        QToolTip.showText(event.globalPos(), text, self)  # type: ignore[attr-defined]  # the same

    def leaveEvent(self, event: QEvent | None) -> None:
        self._hovered = None
        self.update()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        row = self.row
        if event is None or row is None:
            return
        key, steps = event.key(), {Qt.Key.Key_Left: -1.0, Qt.Key.Key_Right: 1.0}
        if key == Qt.Key.Key_Escape and self._held is not None:
            self._held = None
            self._workspace.cancel_drag()
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            last = len(row.bands) - 1
            step = 1 if key == Qt.Key.Key_Down else -1
            self._at = min(max(self._at + step, 1), max(last, 1))
            self.update()
        elif key in steps and len(row.bands) > 1:
            ten = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            by = steps[Qt.Key(key)] * ten * _FINE[row.axis.unit]
            self._pull(self._at, row.bands[self._at].start + by)
            self._workspace.drop(self._said(self._at))
        else:
            super().keyPressEvent(event)

    def _pull(self, n: int, room: float) -> None:
        """Lets a value begin elsewhere, between its neighbours."""
        row, component = self.row, self._workspace.component
        if row is None or component is None or n >= len(row.bands):
            return
        fine = _FINE[row.axis.unit]
        lowest = row.bands[n - 1].start + fine
        highest = row.bands[n + 1].start - fine if n + 1 < len(row.bands) else row.length
        least = min(max(room, lowest), max(highest, lowest))
        begin = partial(_begun, component.id, row.axis.id, row.bands[n].value, least)
        self._workspace.drag(begin)


def _begun(
    component_id: str, axis_id: str, value_id: str, least: float, before: Document
) -> Document:
    return set_least(before, component_id, axis_id, value_id, least)
