"""The graph of a component's states, drawn from the real cues.
States are moved by hand; dragging from the knob of one to another makes a cue."""

from __future__ import annotations

import math

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from outgrowth.app.paint.paths import arrow_head
from outgrowth.app.theme import Theme
from outgrowth.core.document.graph import Edge, edges, state_key
from outgrowth.core.document.records import Component
from outgrowth.workspace import Workspace

# Px of the arrangement that the graph makes by itself.
_COLUMN, _ROW, _LEFT, _TOP = 190.0, 50.0, 46.0, 40.0
_SIDE = (112.0, 28.0)
# Px within which a knob, and an edge, is hit.
_KNOB = 5.0
_NEAR = 6.0
_OF_SCREENS = "The ways between screens are on the map of screens (Alt+M)."


class Graph(QWidget):
    """States and edges of the component on the bench.

    picked(cue id)               an edge was clicked; "" for none
    drawn(axis, from, to)        a cue was drawn from one value to another
    moved(state, place, let go)  a state is dragged to a place
    """

    picked = pyqtSignal(str)
    drawn = pyqtSignal(str, str, str)
    moved = pyqtSignal(str, QPointF, bool)

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._theme = theme
        self._boxes: dict[tuple[str, str], QRectF] = {}
        self._edges: list[tuple[Edge, QPainterPath]] = []
        self._chosen = ""
        self._pull: tuple[str, str] | None = None
        self._carried: tuple[tuple[str, str], QPointF] | None = None
        self._pointer = QPointF()
        self._moved = False
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("States and cues")
        self.setMinimumWidth(240)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.update()

    def show_chosen(self, cue_id: str) -> None:
        """Marks the edges of a cue; "" for none."""
        self._chosen = cue_id
        self.update()

    def refresh(self) -> None:
        """Lays the states out: by hand where they were put, else a column for each axis."""
        component = self._workspace.component
        self._boxes, self._edges = {}, []
        if component is not None:
            self._lay_states(component)
            self._route(edges(component))
        self.setMinimumSize(self.sizeHint())
        self.update()

    def _lay_states(self, component: Component) -> None:
        by_hand = component.behaviour.places
        for n, axis in enumerate(component.axes):
            for m, value in enumerate(axis.values):
                usual = (_LEFT + n * _COLUMN, _TOP + m * _ROW)
                x, y = by_hand.get(state_key(axis.id, value.id), usual)
                self._boxes[axis.id, value.id] = QRectF(x, y, *_SIDE)

    def sizeHint(self) -> QSize:
        right = max((box.right() for box in self._boxes.values()), default=200.0)
        bottom = max((box.bottom() for box in self._boxes.values()), default=120.0)
        return QSize(math.ceil(right) + 40, math.ceil(bottom) + 20)

    def _route(self, result: list[Edge]) -> None:
        """Edges leave on one side and come back on the other, so that both ways are seen."""
        used: dict[tuple[str, str, str], int] = {}
        for edge in result:
            key = edge.axis, edge.start, edge.end
            nth = used[key] = used.get(key, -1) + 1
            a, b = self._boxes[edge.axis, edge.start], self._boxes[edge.axis, edge.end]
            self._edges.append((edge, _curve(a, b, nth)))

    # --- drawing --------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self._theme.color("bed"))
        for edge, path in self._edges:
            self._draw_edge(painter, edge, path)
        component = self._workspace.component
        if component is not None:
            self._draw(painter, component)
        else:
            painter.setPen(self._theme.color("muted"))
            room = QRectF(self.rect()).adjusted(20, 20, -20, -20)
            painter.drawText(room, Qt.TextFlag.TextWordWrap, _OF_SCREENS)
        if self._pull is not None:
            painter.setPen(QPen(self._theme.color("clay"), 2, Qt.PenStyle.DashLine))
            painter.drawLine(_knob(self._boxes[self._pull]), self._pointer)
        painter.end()

    def _draw(self, painter: QPainter, component: Component) -> None:
        variant = self._workspace.selection.variant
        font = painter.font()
        for axis in component.axes:
            first = self._boxes[axis.id, axis.values[0].id]
            painter.setPen(self._theme.color("muted"))
            font.setBold(False)
            painter.setFont(font)
            headings = {"pointer": f"{axis.name} · pointer", "focus": f"{axis.name} · focus"}
            top = min(self._boxes[axis.id, v.id].top() for v in axis.values)
            painter.drawText(QPointF(first.left(), top - 10), headings.get(axis.driver, axis.name))
            for value in axis.values:
                is_current = variant.get(axis.id) == value.id
                font.setBold(is_current)
                painter.setFont(font)
                self._draw_state(painter, self._boxes[axis.id, value.id], value.name, is_current)

    def _draw_state(self, painter: QPainter, box: QRectF, name: str, is_current: bool) -> None:
        painter.setPen(
            QPen(self._theme.color("ink" if is_current else "hairline"), 2 if is_current else 1)
        )
        painter.setBrush(self._theme.color("panel"))
        painter.drawRoundedRect(box, 4, 4)
        painter.setPen(self._theme.color("ink"))
        inside = box.adjusted(10, 0, -16, 0)
        text = painter.fontMetrics().elidedText(
            name, Qt.TextElideMode.ElideRight, int(inside.width())
        )
        painter.drawText(inside, Qt.AlignmentFlag.AlignVCenter, text)
        painter.setPen(QPen(self._theme.color("clay"), 1.5))
        painter.drawEllipse(_knob(box), _KNOB - 1, _KNOB - 1)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _draw_edge(self, painter: QPainter, edge: Edge, path: QPainterPath) -> None:
        chosen = edge.cue is not None and edge.cue.id == self._chosen
        role = "clay" if chosen else "ink" if edge.cue is not None else "muted"
        style = Qt.PenStyle.SolidLine if edge.cue is not None else Qt.PenStyle.DotLine
        painter.setPen(QPen(self._theme.color(role), 2.5 if chosen else 1.4, style))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
        painter.setBrush(self._theme.color(role))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawPolygon(arrow_head(path, 8.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)

    # --- gestures -------------------------------------------------------------------------

    def _state_at(self, point: QPointF) -> tuple[str, str] | None:
        return next((key for key, box in self._boxes.items() if box.contains(point)), None)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        point = self._pointer = event.position()
        self._moved = False
        for key, box in self._boxes.items():
            if (_knob(box) - point).manhattanLength() <= _KNOB + 4:
                self._pull = key
                self.update()
                return
        state = self._state_at(point)
        if state is not None:
            self._carried = state, point - self._boxes[state].topLeft()
            return
        self._pick(point)

    def _pick(self, point: QPointF) -> None:
        zone = QRectF(point.x() - _NEAR, point.y() - _NEAR, 2 * _NEAR, 2 * _NEAR)
        for edge, path in reversed(self._edges):
            if edge.cue is not None and path.intersects(zone) and _close(path, point):
                self.picked.emit(edge.cue.id)
                return
        self.picked.emit("")

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self._pointer = event.position()
        if self._pull is not None:
            self.update()
        elif self._carried is not None:
            (axis, value), offset = self._carried
            self._moved = True
            place = self._pointer - offset
            place = QPointF(max(round(place.x()), 4), max(round(place.y()), 22))
            self.moved.emit(state_key(axis, value), place, False)
        else:
            over = any(
                (_knob(box) - self._pointer).manhattanLength() <= _KNOB + 4
                for box in self._boxes.values()
            )
            shape = Qt.CursorShape.CrossCursor if over else Qt.CursorShape.ArrowCursor
            self.setCursor(shape)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        pull, self._pull = self._pull, None
        carried, self._carried = self._carried, None
        if pull is not None:
            to = self._state_at(event.position())
            if to is not None and to[0] == pull[0] and to != pull:
                self.drawn.emit(pull[0], pull[1], to[1])
        elif carried is not None:
            (axis, value), offset = carried
            if self._moved:
                self.moved.emit(state_key(axis, value), event.position() - offset, True)
            else:
                variant = self._workspace.selection.variant.set(axis, value)
                self._workspace.select(self._workspace.selection.path, variant)
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Esc lets go of an edge that is being drawn."""
        if event is not None and event.key() == Qt.Key.Key_Escape and self._pull is not None:
            self._pull = None
            self.update()
            return
        super().keyPressEvent(event)

    def leaveEvent(self, event: QEvent | None) -> None:
        self.setCursor(Qt.CursorShape.ArrowCursor)

    def box_of(self, axis: str, value: str) -> QRectF:
        """Where a state lies in the widget."""
        return self._boxes[axis, value]


def _knob(box: QRectF) -> QPointF:
    """Where an edge is drawn from."""
    return QPointF(box.right() - 2, box.center().y())


def _curve(a: QRectF, b: QRectF, nth: int) -> QPainterPath:
    """From one state to another: downwards on the right, upwards on the left, each further
    edge a little wider."""
    path = QPainterPath()
    aside = 26.0 + 12.0 * nth
    if abs(a.center().x() - b.center().x()) > _SIDE[0]:
        start = QPointF(a.right(), a.center().y() - 6)
        end = QPointF(b.left(), b.center().y() - 6)
        path.moveTo(start)
        path.cubicTo(start + QPointF(40, 0), end - QPointF(40, 0), end)
        return path
    down = b.center().y() > a.center().y()
    x1, x2 = (a.right(), b.right()) if down else (a.left(), b.left())
    route = aside if down else -aside
    start, end = QPointF(x1, a.center().y() + 7), QPointF(x2, b.center().y() - 7)
    if not down:
        start, end = QPointF(x1, a.center().y() - 7), QPointF(x2, b.center().y() + 7)
    path.moveTo(start)
    path.cubicTo(start + QPointF(route, 0), end + QPointF(route, 0), end)
    return path


def _close(path: QPainterPath, point: QPointF) -> bool:
    """Whether a point lies near a path, and not only within its bend."""
    return any(
        (path.pointAtPercent(n / 40) - point).manhattanLength() <= 2 * _NEAR for n in range(41)
    )
