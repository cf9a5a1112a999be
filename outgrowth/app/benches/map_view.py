"""The map of the screens: drawn, picked, and its ways pulled from parts to screens."""

from __future__ import annotations

import math
import time
from itertools import pairwise
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QApplication

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.paint.painted_view import ARROWS, PaintedView
from outgrowth.app.paint.paths import arrow_head
from outgrowth.app.paint.words import bold, draw_line
from outgrowth.app.theme import Theme
from outgrowth.core.document.cues import Path
from outgrowth.core.document.referring import settled
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate_some
from outgrowth.core.motion.timing import Begun, length
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw
from outgrowth.core.runtime.hit import hit
from outgrowth.workspace import Workspace
from outgrowth.workspace.views.screen_map import (
    HEAD,
    MARGIN,
    NAME,
    TAG,
    MapLine,
    MapNode,
    ScreenMap,
    screen_map,
)

_LEAST, _MOST = 0.3, 2.0
# Words of 13 px can be read, and screens told apart.
_READABLE = 0.72
_NEAR = 6.0
# An end of a line is taken hold of within so many px of it.
_END = 26.0
_FRAME_MS = 16
_REST_S = 0.5


class _Pull(NamedTuple):
    """What the hand has hold of: a part, or a way at one of its ends ("" for its middle), and
    where it is now."""

    part: tuple[MapNode, Path, QRectF] | None = None
    line: MapLine | None = None
    end: str = ""
    active: bool = False
    at: QPointF | None = None


class MapView(PaintedView):
    """opened(str)          a screen is to go on the bench
    current_changed()    another screen or way is looked at
    drawn(str, tuple, str)  a way was pulled from a part of a screen to another screen
    led(object, str)     the end of a way was taken to another screen
    led_from(object, tuple)  its beginning was taken to another part of its screen
    """

    opened = pyqtSignal(str)
    current_changed = pyqtSignal()
    drawn = pyqtSignal(str, tuple, str)
    led = pyqtSignal(object, str)
    led_from = pyqtSignal(object, tuple)

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__(theme, "Map of screens")
        self._workspace = workspace
        self._rasters = rasters
        self.map = ScreenMap((), (), 0.0, 0.0, 0.0)
        self._curves: list[QPainterPath] = []
        self.zoom = 1.0
        # Until somebody looks closer, the whole map is in sight however large the view is.
        self._is_fitted = True
        self.current = ""
        self.line: MapLine | None = None
        self._hovered: MapLine | None = None
        self._part: tuple[MapNode, Path, QRectF] | None = None
        self._pressed: QPointF | None = None
        self._pull: _Pull | None = None
        self._began = 0.0
        self._frames = QTimer(self)
        self._frames.setInterval(_FRAME_MS)
        self._frames.timeout.connect(self.sight.update)

    # --- what is shown --------------------------------------------------------------------------

    def refresh(self) -> None:
        """Shows the screens and their ways as they are now."""
        self.map = screen_map(self._workspace.document, self._size, self.part_rect)
        self._curves = [_curve(line) for line in self.map.lines]
        if self.map.node(self.current) is None:
            self.current = next((node.id for node in self.map.nodes), "")
        key = _key(self.line) if self.line is not None else None
        self.line = next((line for line in self.map.lines if _key(line) == key), None)
        self._hovered = self._part = None
        self._frames.stop()
        if self._is_fitted:
            self.fit()
        else:
            self._range()
        self.sight.update()
        self.current_changed.emit()

    def _view(self, owner: str) -> View:
        return self._workspace.engine.view(self._workspace.document, owner)

    def _size(self, owner: str) -> tuple[float, float]:
        placed = self._view(owner).placed
        return placed.width, placed.height

    def part_rect(self, owner: str, path: Path) -> Rect | None:
        """Where a part of a screen lies in it, in its px."""
        view = self._view(owner)
        found = next(locate_some(*view, "", (path,)), None)
        return found.rect if found is not None else None

    def fit(self) -> None:
        """The whole map in sight, no larger than life."""
        room = self.sight.size()
        wide = room.width() / max(self.map.width, 1.0)
        high = room.height() / max(self.map.height, 1.0)
        self.set_zoom(min(wide, high, 1.0))
        self._is_fitted = True

    def show_readable(self) -> None:
        """The whole map if it can be read then, else what is looked at, and as much as fits."""
        self.fit()
        if self.zoom < _READABLE:
            self.set_zoom(_READABLE)
            self.show_current()

    def set_zoom(self, zoom: float) -> None:
        """So many px of the display to one of the map."""
        self.zoom = min(max(zoom, _LEAST), _MOST)
        self._is_fitted = False
        self._range()
        self.sight.update()

    def _range(self) -> None:
        self.show_range(self.map.width * self.zoom, self.map.height * self.zoom)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self._is_fitted:
            self.fit()
        else:
            self._range()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.set_zoom(self.zoom * (1.15 if event.angleDelta().y() > 0 else 1 / 1.15))
        else:
            super().wheelEvent(event)

    @property
    def _origin(self) -> QPointF:
        """Where the map's corner lies in the view: what is smaller stands in the middle."""
        room, bar_x, bar_y = (
            self.sight.size(),
            self.horizontalScrollBar(),
            self.verticalScrollBar(),
        )
        assert bar_x is not None
        assert bar_y is not None
        x = max((room.width() - self.map.width * self.zoom) / 2, 0.0) - bar_x.value()
        return QPointF(x, -bar_y.value())

    def _on_map(self, point: QPointF) -> QPointF:
        return (point - self._origin) / self.zoom

    def in_view(self, x: float, y: float) -> QPointF:
        """A place of the map in the view's px."""
        return QPointF(x, y) * self.zoom + self._origin

    # --- what is under the pointer --------------------------------------------------------------

    def node_at(self, point: QPointF) -> MapNode | None:
        """The screen under a point of the view."""
        on_map = self._on_map(point)
        return next(
            (node for node in self.map.nodes if node.rect.contains(on_map.x(), on_map.y())), None
        )

    def line_at(self, point: QPointF) -> MapLine | None:
        """The way under a point of the view, the chosen one first."""
        on_map = self._on_map(point)
        near = _NEAR / self.zoom
        pairs = sorted(
            zip(self.map.lines, self._curves, strict=True), key=lambda pair: pair[0] != self.line
        )
        return next((line for line, curve in pairs if _close(curve, on_map, near)), None)

    def part_at(self, point: QPointF) -> tuple[MapNode, Path, QRectF] | None:
        """The part of a screen's picture under a point: an instance as a whole, else the node;
        with where it lies on the map."""
        node, on_map = self.node_at(point), self._on_map(point)
        if node is None or not node.is_screen or not node.picture.contains(on_map.x(), on_map.y()):
            return None
        view = self._view(node.id)
        zoom = node.picture.width / max(view.placed.width, 1.0)
        x, y = (on_map.x() - node.picture.x) / zoom, (on_map.y() - node.picture.y) / zoom
        found = hit(*view, x, y)
        if found is None:
            return None
        path = found.instances[-1] if found.instances else found.path
        rect = self.part_rect(node.id, path)
        if rect is None:
            return None
        corner = node.picture.x + rect.x * zoom, node.picture.y + rect.y * zoom
        frame = QRectF(*node.picture)
        return node, path, QRectF(*corner, rect.width * zoom, rect.height * zoom) & frame

    # --- gestures -------------------------------------------------------------------------------

    def look_at(self, node_id: str, line: MapLine | None = None) -> None:
        """Looks at a screen, and at one of its ways."""
        self.current, self.line = node_id, line
        self.sight.update()
        node = self.map.node(node_id)
        self.setAccessibleDescription(node.title if node is not None else "")
        self.current_changed.emit()

    def show_current(self) -> None:
        """Scrolls to what is looked at."""
        node = self.map.node(self.current)
        if node is None:
            return
        corner = self.in_view(node.rect.x, node.rect.y)
        for bar, first, extent, room in (
            (self.across, corner.x(), node.rect.width, self.sight.width()),
            (self.down, corner.y(), node.rect.height, self.sight.height()),
        ):
            last = first + extent * self.zoom
            if first < 0:
                bar.setValue(round(bar.value() + first - MARGIN))
            elif last > room:
                bar.setValue(round(bar.value() + last - room + MARGIN))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        point = self._pressed = event.position()
        line = self.line_at(point)
        part = self.part_at(point)
        if line is not None and (part is None or self._end_at(line, point)):
            self.look_at(line.start, line)
            self._pull = _Pull(line=line, end=self._end_at(line, point))
        elif part is not None:
            self.look_at(part[0].id)
            self._pull = _Pull(part=part)
        else:
            node = self.node_at(point)
            if node is not None:
                self.look_at(node.id)

    def _end_at(self, line: MapLine, point: QPointF) -> str:
        """Which end of a way is under a point: "start", "end", or "" for its middle."""
        on_map = self._on_map(point)
        for name, place in (("end", line.points[-1]), ("start", line.points[0])):
            if math.dist((on_map.x(), on_map.y()), place) <= _END / max(self.zoom, 1.0):
                return name
        return ""

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        point = event.position()
        pull, pressed = self._pull, self._pressed
        if pull is not None and pressed is not None and event.buttons() & Qt.MouseButton.LeftButton:
            far = (point - pressed).manhattanLength() >= QApplication.startDragDistance()
            if (far or pull.active) and (pull.part is not None or pull.end):
                self._pull = pull._replace(active=True, at=point)
            self.sight.update()
            return
        self._hover(point)

    def _hover(self, point: QPointF) -> None:
        line = self.line_at(point)
        self._part = self.part_at(point) if line is None else None
        if line is not self._hovered:
            self._hovered = line
            self._began = time.perf_counter()
            if line is not None:
                self._frames.start()
            else:
                self._frames.stop()
        over = line is not None or self._part is not None
        self.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor)
        self.sight.update()

    @property
    def hovered(self) -> MapLine | None:
        """The way under the pointer, whose motion is shown."""
        return self._hovered

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        pull, self._pull, self._pressed = self._pull, None, None
        self.sight.update()
        if pull is None or not pull.active:
            return
        if pull.line is not None and pull.end == "start":
            part = self.part_at(event.position())
            if part is not None and part[0].id == pull.line.way.screen:
                self.led_from.emit(pull.line.way, part[1])
            return
        node = self.node_at(event.position())
        if node is None or not node.is_screen:
            return
        if pull.line is not None:
            self.led.emit(pull.line.way, node.id)
        elif pull.part is not None and pull.part[0].id != node.id:
            self.drawn.emit(pull.part[0].id, pull.part[1], node.id)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        node = self.node_at(event.position()) if event is not None else None
        if node is not None:
            self._pull = None
            self.opened.emit(node.id)

    def leaveEvent(self, event: object) -> None:
        super().leaveEvent(event)  # type: ignore[arg-type]  # what Qt gives
        self._hovered = self._part = None
        self._frames.stop()
        self.sight.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Escape and self._pull is not None:
            self._pull = None
            self.sight.update()
        elif key in ARROWS and event.modifiers() in _PLAIN:
            self._step(*ARROWS[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.current:
            self.opened.emit(self.current)
        else:
            event.ignore()

    def _step(self, across: int, down: int) -> None:
        """To the nearest screen on one side."""
        here = self.map.node(self.current)
        if here is None:
            return
        x, y = here.rect.center

        def far(node: MapNode) -> float:
            dx, dy = node.rect.center[0] - x, node.rect.center[1] - y
            ahead, aside = dx * across + dy * down, abs(dx * down) + abs(dy * across)
            return ahead + 2 * aside if ahead > 1 else math.inf

        nearest = min(self.map.nodes, key=far)
        if far(nearest) < math.inf:
            self.look_at(nearest.id)
            self.show_current()

    # --- painting -------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.sight)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.sight.rect(), self.theme.color("bed"))
        painter.translate(self._origin)
        painter.scale(self.zoom, self.zoom)
        if self.map.apart:
            painter.setPen(self.theme.color("muted"))
            painter.drawText(
                QRectF(MARGIN, self.map.apart, 600, HEAD),
                Qt.AlignmentFlag.AlignVCenter,
                "No way leads to these: pull one from a part to them.",
            )
        lit = self._lit()
        pairs = list(zip(self.map.lines, self._curves, strict=True))
        for line, curve in pairs:
            if line not in lit:
                self._draw_line(painter, line, curve, bool(lit))
        for node in self.map.nodes:
            self._node(painter, node)
        for line, curve in pairs:
            if line in lit:
                self._draw_line(painter, line, curve, False)
        self._preview(painter)
        self._draw_pull(painter)
        painter.end()

    def _lit(self) -> list[MapLine]:
        """The ways that are looked at: the one under the pointer or chosen, else all of the
        screen."""
        one = self._hovered or self.line
        if one is not None:
            return [one]
        node = self.map.node(self.current)
        if node is None or not self.hasFocus():
            return []
        also = {node.id, *node.shared}
        return [line for line in self.map.lines if line.start in also]

    def _draw_line(
        self, painter: QPainter, line: MapLine, curve: QPainterPath, stands_back: bool
    ) -> None:
        chosen = line == self.line or line == self._hovered
        role = "clay" if chosen else "ink" if not stands_back else "muted"
        color = self.theme.color(role)
        color.setAlphaF(0.4 if stands_back else 1.0)
        painter.setPen(QPen(color, 2.5 if chosen else 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(curve)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(color)
        painter.drawEllipse(QPointF(*line.points[0]), 3.0, 3.0)
        painter.drawPolygon(arrow_head(curve, 9.0))

    def _node(self, painter: QPainter, node: MapNode) -> None:
        theme, picture = self.theme, QRectF(*node.picture)
        current = node.id == self.current
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("paper"))
        painter.drawRoundedRect(picture, 3, 3)
        self._picture(painter, node, node.picture, 1.0)
        edge = "slate" if current and self.hasFocus() else "ink" if current else "hairline"
        painter.setPen(QPen(theme.color(edge), 2 if current else 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(picture.adjusted(-1, -1, 1, 1), 4, 4)
        if self._part is not None and self._part[0] is node:
            painter.setPen(QPen(theme.color("clay"), 1.5))
            painter.drawRect(self._part[2])
        self._words(painter, node)

    def _words(self, painter: QPainter, node: MapNode) -> None:
        theme, plain = self.theme, painter.font()
        plain.setPixelSize(min(round(13 / self.zoom), 16))
        name = QRectF(node.picture.x, node.picture.bottom + 2, node.picture.width, NAME - 2)
        painter.setFont(bold(plain))
        painter.setPen(theme.color("ink"))
        title = f"▸ {node.title}" if node.is_start else node.title
        draw_line(painter, name, title)
        painter.setFont(plain)
        painter.setPen(theme.color("muted"))
        tag = QRectF(name.x(), name.bottom(), name.width(), TAG)
        document = self._workspace.document
        names = [document.components[c].short_name for c in node.shared]
        said = f"on {len(node.holders)} screens" if node.holders else ", ".join(names)
        if said:
            text = said if node.holders else f"with {said}"
            draw_line(painter, tag, text)

    def _picture(self, painter: QPainter, node: MapNode, place: Rect, opacity: float) -> None:
        """A screen as it is, from its top, as wide as a place; a component in the middle of it."""
        view = self._view(node.id)
        ratio = self.devicePixelRatioF()
        zoom = place.width / max(view.placed.width, 1.0)
        x, y = place.x, place.y
        if not node.is_screen:
            zoom = min(zoom, 1.0, place.height / max(view.placed.height, 1.0))
            x += (place.width - view.placed.width * zoom) / 2
            y += (place.height - view.placed.height * zoom) / 2
        painter.save()
        painter.setOpacity(opacity)
        painter.setClipRect(QRectF(*place))
        corner = painter.transform().map(QPointF(x, y))
        painter.resetTransform()
        painter.scale(1 / ratio, 1 / ratio)
        painter.translate(corner.x() * ratio, corner.y() * ratio)
        QtPainter(painter, self._rasters, zoom * self.zoom * ratio).draw(draw(*view), 0.0, 0.0)
        painter.restore()

    # --- a way's motion -------------------------------------------------------------------------

    def _preview(self, painter: QPainter) -> None:
        """The motion of the way under the pointer, again and again: the other screen comes where
        the first was, as in Live, while a dot runs along the line in its time."""
        line = self._hovered
        if line is None or self._pull is not None:
            return
        document = self._workspace.document
        motion = settled(line.way.cue.motion or document.motion, document.token)
        whole = max(length(motion) / 1000, 0.001)
        passed = (time.perf_counter() - self._began) % (whole + 2 * _REST_S)
        share = 1.0 - Begun(motion, 0.0).at_time(passed * 1000).rest
        source, target = self.map.node(line.way.screen), self.map.node(line.end)
        if source is not None and target is not None:
            self._picture(painter, target, source.picture, min(max(share, 0.0), 1.0))
        curve = self._curves[self.map.lines.index(line)]
        at = curve.pointAtPercent(min(max(share, 0.0), 1.0))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.color("clay"))
        painter.drawEllipse(at, 5.0, 5.0)

    def _draw_pull(self, painter: QPainter) -> None:
        pull = self._pull
        if pull is None or not pull.active or pull.at is None:
            return
        at = self._on_map(pull.at)
        if pull.line is not None:
            fixed = pull.line.points[-1] if pull.end == "start" else pull.line.points[0]
            start = QPointF(*fixed)
        else:
            assert pull.part is not None
            start = pull.part[2].center()
        painter.setPen(QPen(self.theme.color("clay"), 2, Qt.PenStyle.DashLine))
        painter.drawLine(start, at)
        node = self.node_at(pull.at)
        if node is not None and node.is_screen:
            painter.setPen(QPen(self.theme.color("clay"), 3))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(*node.picture).adjusted(-3, -3, 3, 3), 5, 5)


_PLAIN = (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.KeypadModifier)


def _key(line: MapLine) -> tuple[str, str, str]:
    return line.start, line.way.owner, line.way.cue.id


def _curve(line: MapLine) -> QPainterPath:
    """A smooth line through a way's points, level where it leaves and where it ends."""
    points = [QPointF(*point) for point in line.points]
    path = QPainterPath(points[0])
    if len(points) == 3 and points[0].x() < points[1].x() > points[2].x():
        # From one screen to another of its column: around, at its side.
        path.cubicTo(
            QPointF(points[1].x() + 14, points[0].y()),
            QPointF(points[1].x() + 14, points[2].y()),
            points[2],
        )
        return path
    for a, b in pairwise(points):
        half = (b.x() - a.x()) / 2
        path.cubicTo(a + QPointF(half, 0), b - QPointF(half, 0), b)
    return path


def _close(path: QPainterPath, point: QPointF, near: float) -> bool:
    """Whether a point lies on a line, or within so many px of it."""
    bounds = path.boundingRect().adjusted(-near, -near, near, near)
    if not bounds.contains(point):
        return False
    steps = max(int(path.length() / near), 8)
    return any(
        (path.pointAtPercent(n / steps) - point).manhattanLength() <= 1.6 * near
        for n in range(steps + 1)
    )
