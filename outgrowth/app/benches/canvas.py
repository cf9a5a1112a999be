"""The bench of a screen: a canvas on which the screen lies as it will be in the product."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent, QWheelEvent

from outgrowth.app.benches import marks
from outgrowth.app.benches.bench import Bench
from outgrowth.app.benches.gestures import moving
from outgrowth.app.benches.pen import Pen
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.backing import Backing, Shot
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Node, Path
from outgrowth.core.geometry import Rect
from outgrowth.core.motion.view import View
from outgrowth.core.paint import Fragment, draw
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import selection_commands
from outgrowth.workspace.selection import picked_path

# Px around a screen that is fitted: its title stands in them.
_MARGIN = 36.0
# A kiosk of 4,000 px is still in sight; a px is 16 px large.
_LEAST_ZOOM, _MOST_ZOOM = 0.05, 16.0
# A notch of a wheel is 120, hence a factor of 1.2.
_WHEEL = 1.0015


class Canvas(Bench):
    """Shows one screen. Wheel scrolls, Ctrl+wheel zooms about the pointer, the middle
    button or Space drags the view. A click selects a part of the screen's own tree, a
    double click goes into an instance."""

    zoomed = pyqtSignal()

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme, pen: Pen) -> None:
        super().__init__(workspace, rasters, theme, pen)
        self._owner = ""
        self._offset = self._exact = QPointF()
        self._fitted = True
        self._pan: QPointF | None = None
        self._grabbed = False
        self._pointed: Path | None = None
        self.setAccessibleName("Screen")
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._go_on)
        self._backing = Backing(rasters, self._soon.start)
        workspace.document_changed.connect(self.update)
        workspace.selection_changed.connect(self._reselected)

    # --- what is where ------------------------------------------------------------------

    def view(self) -> View:
        """The screen, laid out."""
        workspace = self._workspace
        return workspace.engine.view(workspace.document, workspace.selection.owner)

    def current_view(self) -> View | None:
        """The screen, None while a component is on the bench."""
        return self.view() if self._workspace.screen is not None else None

    def display_list(self) -> Fragment:
        """What the canvas draws."""
        return draw(*self.view())

    def fit(self) -> None:
        """The whole screen, as large as it fits but not larger than life."""
        if self._workspace.screen is None or self.width() <= 2 * _MARGIN:
            return
        placed = self.view().placed
        zoom = min(
            (self.width() - 2 * _MARGIN) / max(placed.width, 1),
            (self.height() - 2 * _MARGIN) / max(placed.height, 1),
            1.0,
        )
        self._look(max(zoom, _LEAST_ZOOM), None)
        self._fitted = True

    def set_zoom(self, zoom: float) -> None:
        """Zooms about the middle of the view."""
        self._zoom_about(QPointF(self.width() / 2, self.height() / 2), zoom)

    def _look(self, zoom: float, offset: QPointF | None) -> None:
        placed = self.view().placed
        if offset is None:
            offset = QPointF(
                round((self.width() - placed.width * zoom) / 2),
                round((self.height() - placed.height * zoom) / 2),
            )
        ratio = self.devicePixelRatioF()  # whole device px, so that a move of the view is one
        self.zoom, self._exact = zoom, offset
        self._offset = QPointF((offset * ratio).toPoint()) / ratio
        self.update()
        self.zoomed.emit()

    def _zoom_about(self, point: QPointF, zoom: float) -> None:
        zoom = min(max(zoom, _LEAST_ZOOM), _MOST_ZOOM)
        self._fitted = False
        self._look(zoom, point - (point - self._exact) * (zoom / self.zoom))

    def pan_by(self, by: QPointF) -> None:
        """Moves the view by px of the widget."""
        self._fitted = False
        self._look(self.zoom, self._exact + by)

    def _reselected(self) -> None:
        if self._workspace.selection.owner != self._owner:
            self._owner = self._workspace.selection.owner
            self._pointed = None
            self.fit()
        self.update()

    def rect_of(self, path: Path) -> QRectF | None:
        """Where a node lies in the widget."""
        return self.rect_of_path(path)

    def mapped(self, rect: Rect) -> QRectF:
        """A rectangle of the screen in the widget."""
        z, offset = self.zoom, self._offset
        return QRectF(
            offset.x() + rect.x * z, offset.y() + rect.y * z, rect.width * z, rect.height * z
        )

    def to_owner(self, point: QPointF) -> QPointF:
        """A point of the widget, in px of the screen."""
        return (point - self._offset) / self.zoom

    # --- drawing ------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        screen = self._workspace.screen
        if screen is None:
            painter.fillRect(self.rect(), self._theme.color("bed"))
        else:
            self._draw_screen(painter)
            painter.setPen(self._theme.color("muted"))
            size = self.view().placed
            title = f"{screen.name}  {size.width:g} × {size.height:g}"
            painter.drawText(QPointF(self._offset.x(), self._offset.y() - 10), title)
            self._draw_marks(painter)
        painter.end()

    def _draw_screen(self, painter: QPainter) -> None:
        ratio = self.devicePixelRatioF()
        corner = (self._offset * ratio).toPoint()
        shot = Shot(self.zoom * ratio, corner, self.size() * ratio)
        painter.save()
        painter.scale(1 / ratio, 1 / ratio)
        self._backing.paint(painter, self.display_list(), shot, self._theme.color("bed"))
        painter.restore()

    def _go_on(self) -> None:
        """Draws more of what a zoom left to be drawn exactly."""
        self._backing.go_on()
        self.update()

    def _draw_marks(self, painter: QPainter) -> None:
        paths = self._workspace.selection.paths
        if self._pointed is not None and self._pointed not in paths:
            rect = self.rect_of_path(self._pointed)
            if rect is not None:
                marks.hovered(painter, rect, self._theme)
        self.draw_hand(painter)

    def reveal(self, path: Path) -> None:
        """Brings a part into sight, if it lies out of it."""
        rect, sight = self.rect_of(path), QRectF(self.rect())
        if rect is None:
            return
        fits = rect.width() <= sight.width() and rect.height() <= sight.height()
        if not (sight.contains(rect) if fits else sight.contains(rect.center())):
            self._fitted = False
            self._look(self.zoom, self._offset + QPointF(self.rect().center()) - rect.center())

    # --- gestures -----------------------------------------------------------------------

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self.gestures.pointer = event.position()
        if self._pan is not None:
            self.pan_by(event.position() - self._pan)
            self._pan = event.position()
            return
        if self.gestures.busy:
            self.gestures.go_on(event.position())
            return
        if not self._grabbed:
            self.show_cursor(event.position())
        under = self.path_under(event.position())
        pointed = under[: self.depth()] if under else under
        if pointed != self._pointed:
            self._pointed = pointed
            self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        left = event.button() == Qt.MouseButton.LeftButton
        if event.button() == Qt.MouseButton.MiddleButton or (left and self._grabbed):
            self._pan, self._fitted = event.position(), False
            return
        if left:
            self._pressed(event)

    def _pressed(self, event: QMouseEvent) -> None:
        """Draws what the pen holds, or takes a handle; else picks what is under the pointer,
        and may go on to move it."""
        point = event.position()
        if self.begin_drawing(point) or self.begin_pulling(point):
            return
        under = self.path_under(point)
        if under is not None and event.modifiers() & Qt.KeyboardModifier.AltModifier:
            if self._selected_at(point) is None:
                self._pick(under)
            self.begin_copying(point, partial(self._workspace.select, under))
            return
        if under is not None and marks.adding(event):
            self.begin_adding(point, under)
            return
        part = self._selected_at(point)
        if part is not None:
            # What is selected is what is moved; a click picks what lies under the pointer.
            pick = partial(self._pick, under)
            self.gestures.begin(moving(self._workspace, self, part, point, pick))
            return
        self._pick(under)
        self.begin_moving(point)

    def _selected_at(self, point: QPointF) -> Node | None:
        """The selected part of the screen's own tree that lies at a point."""
        parts = selection_commands.own_parts(self._workspace)
        rects = self.rects_of_paths([(part.id,) for part in parts])
        at = [part for part in parts if (rect := rects.get((part.id,))) and rect.contains(point)]
        return at[-1] if at else None

    def pick_deepest(self) -> None:
        """Selects the innermost part under the pointer."""
        under = self.path_under(self.gestures.pointer)
        if under is not None:
            self._workspace.select(under)

    def _pick(self, under: Path | None) -> None:
        """Selects at the depth of the present selection if that is beside it, else the part
        of the screen's own tree."""
        path = picked_path(self._workspace.selection, under) if under is not None else None
        self._workspace.select(path)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        under = self.path_under(event.position())
        if under:
            self.gestures.let_go()
            if self.is_text(under):
                self.edit_words(under)
                return
            depth = len(self._workspace.selection.path or ())
            self._workspace.select(under[: depth + 1])

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._pan = None
        self.gestures.go_on(None)

    def leaveEvent(self, event: QEvent | None) -> None:
        self._pointed = None
        self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is None:
            return
        turn = event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self._zoom_about(event.position(), self.zoom * _WHEEL ** turn.y())
        else:
            self.pan_by(QPointF(turn.x() / 2, turn.y() / 2))

    def key(self, key: Qt.Key, modifiers: Qt.KeyboardModifier) -> bool:
        """Space holds the view, to be dragged; Shift with an arrow key looks elsewhere where
        there is nothing to nudge."""
        if key == Qt.Key.Key_Space and not modifiers:
            self._grabbed = True
            self.setCursor(Qt.CursorShape.OpenHandCursor)
            return True
        return super().key(key, modifiers) or self.offer_in_flow(key, modifiers)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._grabbed = False
            self.show_cursor(self.gestures.pointer)
        super().keyReleaseEvent(event)

    def look_at_selection(self) -> None:
        """As close as what is selected fits, but not closer than four times."""
        rects = list(self.rects_of_paths(self._workspace.selection.paths).values())
        if not rects:
            return
        bounds = rects[0]
        for rect in rects[1:]:
            bounds = bounds.united(rect)
        room = self.width() - 2 * _MARGIN, self.height() - 2 * _MARGIN
        wide, high = bounds.width() / self.zoom, bounds.height() / self.zoom
        zoom = min(room[0] / max(wide, 1.0), room[1] / max(high, 1.0), 4.0)
        middle = self.to_owner(bounds.center())
        self._fitted = False
        self._look(zoom, QPointF(self.rect().center()) - middle * zoom)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        if self._fitted:
            self.fit()
