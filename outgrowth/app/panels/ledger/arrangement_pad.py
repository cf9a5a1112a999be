"""The arrangement of the selected box, set on a drawing of it: its direction, where its children
stand, its gap and its padding."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

from PyQt6.QtCore import QPoint, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.paint.painted_view import ARROWS
from outgrowth.app.paint.paths import qrect
from outgrowth.app.theme import Theme, builders
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.values import Value
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.views.arrangement_sample import (
    HEIGHT,
    WIDTH,
    ArrangedBox,
    arranged_box,
    arranged_values,
    place_at,
    place_beside,
)

_FLOWS = (("row", "row"), ("column", "column"), ("grid", "grid"), ("free", "free"))
_SPREAD = (("", "together"), ("space-between", "spread apart"), ("space-evenly", "evenly"))
_TELLS = {
    "gap": "Gap: pull",
    "padding-top": "Padding above: pull",
    "padding-right": "Padding at the right: pull",
    "padding-bottom": "Padding below: pull",
    "padding-left": "Padding at the left: pull",
}
_EDGE = 8.0


class BoxDrawing(QWidget):
    """The drawing alone. A press among the children picks where they stand; the room between them
    and the band around them are pulled; arrow keys move the children, with Alt the gap."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._theme = theme
        self.values: dict[str, Value] = {}
        self.box: ArrangedBox | None = None
        self._pulled = ""
        self._pressed = QPointF()
        self._before = 0.0
        self._over = QPointF(-1, -1)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Arrangement: arrows move the children, with Alt the gap")
        self.setFixedSize(QSize(round(WIDTH + 2 * _EDGE), round(HEIGHT + 2 * _EDGE)))

    def show_values(self, values: dict[str, Value]) -> None:
        """Shows how a box is arranged."""
        self.values = values
        self.box = arranged_box(self._workspace.engine, values)
        self.update()

    # --- what is where --------------------------------------------------------------------------

    def part_at(self, point: QPointF) -> str:
        """The property that is pulled at a point: the gap or a padding; "" where the children's
        place is picked."""
        box = self.box
        if box is None or box.flow not in ("row", "column"):
            return ""
        x, y = point.x() - _EDGE, point.y() - _EDGE
        inside = box.inside
        for name, over in (
            ("padding-top", y < max(inside.y, _EDGE)),
            ("padding-bottom", y > min(inside.bottom, HEIGHT - _EDGE)),
            ("padding-left", x < max(inside.x, _EDGE)),
            ("padding-right", x > min(inside.right, WIDTH - _EDGE)),
        ):
            if over:
                return name
        return "gap" if self._in_gap(x, y) else ""

    def _in_gap(self, x: float, y: float) -> bool:
        """Whether a point lies between two children, with a few px to take hold of."""
        box = self.box
        assert box is not None
        for a, b in pairwise(box.children):
            if box.flow == "row" and a.right - 3 <= x <= b.x + 3:
                return min(a.y, b.y) <= y <= max(a.bottom, b.bottom)
            if box.flow == "column" and a.bottom - 3 <= y <= b.y + 3:
                return min(a.x, b.x) <= x <= max(a.right, b.right)
        return False

    # --- gestures -------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton or self.box is None:
            return
        self._pressed, self._pulled = event.position(), self.part_at(event.position())
        if self._pulled:
            before = self.values[self._pulled]
            self._before = before if isinstance(before, float) else 0.0
        elif self.box.flow in ("row", "column"):
            at = event.position()
            self._set(place_at(self.box, at.x() - _EDGE, at.y() - _EDGE))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self._over = event.position()
        if self._pulled and event.buttons() & Qt.MouseButton.LeftButton:
            every = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            style_commands.drag_style(self._workspace, self._pulled_values(every))
            self.follow()
            return
        part = self.part_at(self._over)
        self.setToolTip(_TELLS.get(part, ""))
        vertical = part in ("padding-top", "padding-bottom") or (
            part == "gap" and self.values.get("flow") == "column"
        )
        shape = Qt.CursorShape.SizeVerCursor if vertical else Qt.CursorShape.SizeHorCursor
        self.setCursor(shape if part else Qt.CursorShape.PointingHandCursor)
        self.update()

    def _pulled_values(self, every: bool) -> dict[str, Value]:
        """What is pulled by so much, never below none; with Shift all four paddings."""
        moved = self._over - self._pressed
        by = moved.y() if self.values.get("flow") == "column" else moved.x()
        by = {
            "padding-top": moved.y(),
            "padding-bottom": -moved.y(),
            "padding-left": moved.x(),
            "padding-right": -moved.x(),
        }.get(self._pulled, by)
        value = float(max(round(self._before + by), 0))
        paddings = FAMILY_MEMBERS["padding"]
        names = paddings if every and self._pulled in paddings else (self._pulled,)
        return dict.fromkeys(names, value)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        pulled, self._pulled = self._pulled, ""
        if pulled and self._workspace.dragging:
            self._workspace.drop(f"{pulled.replace('-', ' ')}")
        self.follow()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        key = Qt.Key(event.key()) if event is not None else None
        if event is None or key not in ARROWS or self.values.get("flow") not in ("row", "column"):
            super().keyPressEvent(event)
            return
        across, down = ARROWS[key]
        if event.modifiers() & Qt.KeyboardModifier.AltModifier:
            gap = self.values["gap"]
            more = float(max((gap if isinstance(gap, float) else 0.0) + across - down, 0))
            self._set({"gap": more})
        else:
            self._set(place_beside(self.values, across, down))

    def _set(self, values: dict[str, Value]) -> None:
        style_commands.set_style(self._workspace, values)
        self.follow()

    def follow(self) -> None:
        """Shows the selected box as it is now."""
        place = self._workspace.place
        inspection = inspect(self._workspace.document, place) if place is not None else None
        if inspection is not None:
            self.show_values(arranged_values(inspection))

    # --- painting -------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        box, theme = self.box, self._theme
        if box is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.translate(_EDGE, _EDGE)
        painter.setPen(QPen(theme.color("muted"), 1))
        painter.setBrush(theme.color("chrome"))
        painter.drawRoundedRect(QRectF(0, 0, WIDTH, HEIGHT), 3, 3)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("field"))
        painter.drawRect(qrect(box.inside))
        part = self._pulled or self.part_at(self._over)
        if not part and self._over.x() >= 0 and box.flow in ("row", "column"):
            self._preview(painter, box)
        for rect in box.children:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("ink"))
            painter.drawRoundedRect(qrect(rect), 2, 2)
        self._lit(painter, box, part)
        if self.hasFocus():
            painter.setPen(QPen(theme.color("slate"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(-3, -3, WIDTH + 6, HEIGHT + 6), 4, 4)
        painter.end()

    def _preview(self, painter: QPainter, box: ArrangedBox) -> None:
        """Where the children would stand."""
        values = self.values | place_at(box, self._over.x() - _EDGE, self._over.y() - _EDGE)
        painter.setPen(QPen(self._theme.color("clay"), 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for rect in arranged_box(self._workspace.engine, values).children:
            painter.drawRoundedRect(qrect(rect), 2, 2)

    def _lit(self, painter: QPainter, box: ArrangedBox, part: str) -> None:
        """What would be pulled, with its number."""
        value = self.values.get(part)
        if not part or not isinstance(value, float):
            return
        painter.setPen(self._theme.color("clay"))
        painter.setBrush(self._theme.color("clay"))
        text = f"{part.replace('-', ' ')} {value:g}"
        painter.drawText(
            QRectF(0, HEIGHT - 22, WIDTH - 8, 18),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            text,
        )
        color = self._theme.color("clay")
        color.setAlphaF(0.35)
        if part == "gap":
            for a, b in pairwise(box.children):
                room = (
                    QRectF(a.right, box.inside.y, b.x - a.right, box.inside.height)
                    if box.flow == "row"
                    else QRectF(box.inside.x, a.bottom, box.inside.width, b.y - a.bottom)
                )
                painter.fillRect(room, color)
            return
        inside = box.inside
        bands = {
            "padding-top": QRectF(0, 0, WIDTH, inside.y),
            "padding-bottom": QRectF(0, inside.bottom, WIDTH, HEIGHT - inside.bottom),
            "padding-left": QRectF(0, 0, inside.x, HEIGHT),
            "padding-right": QRectF(inside.right, 0, WIDTH - inside.right, HEIGHT),
        }
        painter.fillRect(bands[part], color)


class ArrangementPad(QWidget):
    """The drawing over the ledger, with the direction above it and how children spread below;
    it goes when something else is pressed, or by Esc."""

    def __init__(
        self, parent: QWidget, workspace: Workspace, theme: Theme, closed: Callable[[], object]
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._workspace = workspace
        self._closed = closed
        self.setObjectName("pad")
        column = builders.column(self, (12, 10, 12, 10), 8)
        self.flow = Segments(_FLOWS, "Flow")
        self.flow.edited.connect(lambda flow: self._set({"flow": flow}))
        self.drawing = BoxDrawing(workspace, theme)
        self.spread = Segments(_SPREAD, "How children spread")
        self.spread.edited.connect(lambda value: self._set({"justify": value or "start"}))
        for widget in (self.flow, self.drawing, self.spread):
            column.addWidget(widget)
        workspace.panels_due.connect(self._follow)
        self._follow()

    def open_below(self, at: QPoint) -> None:
        """Opens with its right edge at a point of the screen, within that, the keys on the
        drawing."""
        self.adjustSize()
        screen = self.screen()
        lowest = screen.availableGeometry().bottom() if screen is not None else at.y()
        self.move(at.x() - self.width(), min(at.y(), lowest - self.height()))
        self.show()
        self.drawing.setFocus()

    def _set(self, values: dict[str, Value]) -> None:
        style_commands.set_style(self._workspace, values)
        self._follow()

    def _follow(self) -> None:
        self.drawing.follow()
        values = self.drawing.values
        self.flow.show_value(str(values.get("flow", "")))
        justify = str(values.get("justify", ""))
        self.spread.show_value(justify if justify.startswith("space") else "")
        self.spread.setEnabled(values.get("flow") in ("row", "column"))

    def closeEvent(self, event: object) -> None:
        super().closeEvent(event)  # type: ignore[arg-type]  # what Qt gives
        self._closed()
