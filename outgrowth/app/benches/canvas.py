"""The bench of a screen: a canvas on which the screen lies as it will be in the product."""

from __future__ import annotations

from collections.abc import Iterable
from functools import partial
from pathlib import Path as FilePath

from PyQt6.QtCore import QEvent, QMimeData, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QDragEnterEvent,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QWidget

from outgrowth.app.benches import marks
from outgrowth.app.benches.gestures import Landing, moving, pulling
from outgrowth.app.benches.hand import Hand, landing_in
from outgrowth.app.benches.inplace import InPlace
from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.session import Session, deeds, outside
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Node, Path, lineage
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.view import View
from outgrowth.core.paint import Fragment, draw
from outgrowth.core.resolve.ladder import inspect
from outgrowth.core.runtime.hit import hit

COMPONENT_MIME = "application/x-outgrowth-component"
"""What a drag from the Library carries: a component's id."""

_MARGIN = 36.0
_LEAST_ZOOM, _MOST_ZOOM = 0.05, 16.0
_WHEEL = 1.0015


class Canvas(QWidget):
    """Shows one screen. Wheel scrolls, Ctrl+wheel zooms about the pointer, the middle
    button or Space drags the view. A click selects a part of the screen's own tree, a
    double click goes into an instance."""

    zoomed = pyqtSignal()

    def __init__(self, session: Session, rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self._session = session
        self._rasters = rasters
        self._theme = theme
        self._owner = ""
        self._offset = QPointF()
        self._fitted = True
        self._pan: QPointF | None = None
        self._pointed: Path | None = None
        self.zoom = 1.0
        self.setMouseTracking(True)
        self.hand = Hand(session, self.update)
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Screen")
        session.document_changed.connect(self.update)
        session.selection_changed.connect(self._reselected)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    # --- what is where ------------------------------------------------------------------

    def view(self) -> View:
        session = self._session
        return session.engine.view(session.document, session.selection.owner)

    def display_list(self) -> Fragment:
        """What the canvas draws."""
        return draw(*self.view())

    def fit(self) -> None:
        """The whole screen, as large as it fits but not larger than life."""
        if self._session.screen is None or self.width() <= 2 * _MARGIN:
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
        self.zoom, self._offset = zoom, offset
        self.update()
        self.zoomed.emit()

    def _zoom_about(self, point: QPointF, zoom: float) -> None:
        zoom = min(max(zoom, _LEAST_ZOOM), _MOST_ZOOM)
        self._fitted = False
        self._look(zoom, point - (point - self._offset) * (zoom / self.zoom))

    def _reselected(self) -> None:
        if self._session.selection.owner != self._owner:
            self._owner = self._session.selection.owner
            self._pointed = None
            self.fit()
        self.update()

    def rect_of(self, path: Path) -> QRectF | None:
        """Where a node lies in the widget."""
        return self.rects_of((path,)).get(path)

    def rects_of(self, paths: Iterable[Path]) -> dict[Path, QRectF]:
        """Where nodes lie in the widget, those that are shown."""
        wanted = set(paths)
        scene, placed = self.view()
        return {
            at.path: self.mapped(at.rect) for at in locate(scene, placed, "") if at.path in wanted
        }

    def mapped(self, r: Rect) -> QRectF:
        """A rectangle of the screen in the widget."""
        z, o = self.zoom, self._offset
        return QRectF(o.x() + r.x * z, o.y() + r.y * z, r.width * z, r.height * z)

    def _under(self, point: QPointF) -> Path | None:
        """The full path of the topmost node under a point."""
        scene, placed = self.view()
        spot = (point - self._offset) / self.zoom
        found = hit(scene, placed, spot.x(), spot.y())
        return None if found is None else found.path

    # --- drawing ------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.color("bed"))
        screen = self._session.screen
        if screen is not None:
            self._draw_screen(painter)
            painter.setPen(self._theme.color("muted"))
            size = self.view().placed
            title = f"{screen.name}  {size.width:g} × {size.height:g}"
            painter.drawText(QPointF(self._offset.x(), self._offset.y() - 10), title)
            self._draw_marks(painter)
        painter.end()

    def _draw_screen(self, painter: QPainter) -> None:
        ratio = self.devicePixelRatioF()
        z, o = self.zoom, self._offset
        seen = Rect(-o.x() / z, -o.y() / z, self.width() / z, self.height() / z)
        painter.save()
        painter.translate(o)
        painter.scale(1 / ratio, 1 / ratio)
        QtPainter(painter, self._rasters, z * ratio, seen).draw(self.display_list(), 0.0, 0.0)
        painter.restore()

    def _draw_marks(self, painter: QPainter) -> None:
        if self.hand.landing is not None:
            line = self.mapped(self.hand.landing[1])
            painter.fillRect(line.adjusted(-1, -1, 1, 1), self._theme.color("clay"))
        paths = self._session.selection.paths
        pointed = () if self._pointed is None else (self._pointed,)
        if not paths and not pointed:
            return
        found, children = self.hand.pulled()
        rects = self.rects_of((*paths, *pointed, *children))
        if self._pointed in rects and self._pointed not in paths:
            marks.hovered(painter, rects[self._pointed], self._theme)
        for path in paths:
            if path in rects:
                marks.selected(painter, rects[path], self._theme)
        drawn = [rects[path] for path in (*paths[:1], *children) if path in rects]
        self.hand.draw(painter, self._theme, found if paths[0] in rects else None, drawn, self.zoom)

    # --- what gestures ask for ------------------------------------------------------------

    def say(self, text: str) -> None:
        self.hand.say(text)

    def landing_at(self, point: QPointF, moving: Node) -> Landing | None:
        return self.hand.show_landing(self._landing_for(point, moving))

    def forget_landing(self) -> None:
        self.hand.show_landing(None)

    def reveal(self, path: Path) -> None:
        """Brings a part into sight, if it lies out of it."""
        rect, sight = self.rect_of(path), QRectF(self.rect())
        if rect is None:
            return
        fits = rect.width() <= sight.width() and rect.height() <= sight.height()
        if not (sight.contains(rect) if fits else sight.contains(rect.center())):
            self._fitted = False
            self._look(self.zoom, self._offset + QPointF(self.rect().center()) - rect.center())

    def edit_words(self) -> None:
        """Lays an editor over the selected text."""
        place = self._session.place
        found = inspect(self._session.document, place) if place is not None else None
        if place is None or found is None or found.node.kind != "text":
            return
        self.reveal(place.path)
        rect = self.rect_of(place.path)
        if rect is None:
            return
        self.words = InPlace(self, self._session, self._theme, found)
        self.words.finished.connect(self.setFocus)
        self.words.show_at(rect, self.zoom)

    # --- dropping a component ------------------------------------------------------------

    def landing(self, point: QPointF) -> Landing | None:
        """Where a component dropped at a point of the widget would go."""
        found = self._landing_for(point, None)
        return None if found is None else found[0]

    def _landing_for(self, point: QPointF, moving: Node | None) -> tuple[Landing, Rect] | None:
        """The landing at a point, and the line that shows it; what is being moved itself is
        not in the way."""
        screen = self._session.screen
        under = self._under(point)
        if screen is None or under is None:
            return None
        spot = (point - self._offset) / self.zoom
        return landing_in(self.view(), screen.root, under, spot, moving)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and (dragged(event.mimeData()) or brought(event.mimeData())):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        if event is not None:
            self.hand.show_landing(self._landing_for(event.position(), None))
            event.acceptProposedAction()

    def dragLeaveEvent(self, event: QDragLeaveEvent | None) -> None:
        self.hand.show_landing(None)

    def dropEvent(self, event: QDropEvent | None) -> None:
        if event is None:
            return
        landing = self.landing(event.position())
        self.hand.show_landing(None)
        component = dragged(event.mimeData())
        if landing is not None and component in self._session.document.components:
            deeds.place_into(self._session, component, landing.parent, landing.before)
            event.acceptProposedAction()
        for path in brought(event.mimeData()):
            into = None if landing is None else (landing.parent, landing.before)
            outside.bring(self._session, path, into)
            event.acceptProposedAction()
        self.update()

    # --- the hand -----------------------------------------------------------------------

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self.hand.at = event.position()
        if self._pan is not None:
            self._look(self.zoom, self._offset + event.position() - self._pan)
            self._pan = event.position()
            return
        if self.hand.busy:
            self.hand.go_on(event.position())
            return
        self.setCursor(self.hand.cursor_at(event.position()))
        under = self._under(event.position())
        pointed = under[: max(self._depth(), 1)] if under else under
        if pointed != self._pointed:
            self._pointed = pointed
            self.update()

    def _depth(self) -> int:
        """How deep a click goes: as deep as what is selected."""
        path = self._session.selection.path
        return len(path) if path else 1

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if event.button() == Qt.MouseButton.MiddleButton:
            self._pan, self._fitted = event.position(), False
            return
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed(event)

    def _pressed(self, event: QMouseEvent) -> None:
        """Takes a handle; else picks what is under the pointer, and may go on to move it."""
        handle = self.hand.handle_at(event.position())
        if handle is not None:
            self.hand.begin(pulling(self._session, self, handle, event.position()))
            return
        under = self._under(event.position())
        if under is not None and marks.adding(event):
            self._session.toggle(under[: max(self._depth(), 1)])
            return
        now = deeds.own_part(self._session)
        rect = self.rect_of((now.id,)) if now is not None else None
        if now is not None and rect is not None and rect.contains(event.position()):
            # What is selected is what is moved; a click picks what lies under the pointer.
            pick = partial(self._pick, under)
            self.hand.begin(moving(self._session, self, now, event.position(), pick))
            return
        self._pick(under)
        node = deeds.own_part(self._session)
        if node is not None:
            self.hand.begin(moving(self._session, self, node, event.position()))

    def _pick(self, under: Path | None) -> None:
        """Selects at the depth of the present selection if that is beside it, else the part
        of the screen's own tree."""
        now = self._session.selection.path or ()
        if under is None:
            self._session.select(None)
            return
        shared = len(now) > 1 and under[: len(now) - 1] == now[:-1]
        self._session.select(under[: len(now)] if shared else under[:1])

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        under = self._under(event.position())
        if under:
            self.hand.let_go()
            depth = len(self._session.selection.path or ())
            if under[:depth] == self._session.selection.path and depth == len(under):
                self.edit_words()
                return
            self._session.select(under[: depth + 1])

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._pan = None
        self.hand.go_on(None)

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
            self._fitted = False
            self._look(self.zoom, self._offset + QPointF(turn.x() / 2, turn.y() / 2))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or not self._stepped(Qt.Key(event.key())):
            super().keyPressEvent(event)

    def _stepped(self, key: Qt.Key) -> bool:
        """Esc goes out, from a node to what holds it."""
        path = self._session.selection.path
        if key == Qt.Key.Key_Escape and self.hand.let_go():
            return True
        if key != Qt.Key.Key_Escape or path is None:
            return False
        if len(path) > 1:
            self._session.select(path[:-1])
        elif path and self._session.screen is not None:
            line = lineage(self._session.screen.root, path[0])
            self._session.select((line[-2].id,) if len(line) > 2 else ())
        else:
            self._session.select(None)
        return True

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        if self._fitted:
            self.fit()


def brought(data: QMimeData | None) -> list[FilePath]:
    """The files that a drag or the clipboard carries."""
    urls = data.urls() if data is not None else []
    return [FilePath(url.toLocalFile()) for url in urls if url.isLocalFile()]


def dragged(data: QMimeData | None) -> str:
    """The id of the component that a drag carries; empty if it carries none."""
    if data is None or not data.hasFormat(COMPONENT_MIME):
        return ""
    return bytes(data.data(COMPONENT_MIME).data()).decode()
