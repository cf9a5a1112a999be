"""Live: the component or screen on the bench, running, beside the editing.

It always starts at rest, whatever face is being edited, and goes on through edits.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QElapsedTimer, QEvent, QPointF, QRectF, Qt, QTimer
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from outgrowth.app.fields.choice import Segments
from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.session import Session
from outgrowth.app.theme import Theme
from outgrowth.app.theme.icons import icon
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.variants import Variant
from outgrowth.core.paint import draw
from outgrowth.core.runtime import Runtime, Subject

_FRAME_MS = 8
_MARGIN = 20.0
_SPEEDS = (("1", "1×"), ("0.5", "½"), ("0.25", "¼"))


class Stage(QWidget):
    """Where the running thing is drawn and touched. Time comes from `clock` (ms)."""

    def __init__(
        self,
        session: Session,
        rasters: Rasters,
        theme: Theme,
        clock: Callable[[], float] | None = None,
    ) -> None:
        super().__init__()
        self._session = session
        self._rasters = rasters
        self._theme = theme
        timer = QElapsedTimer()
        timer.start()
        self._clock = clock or (lambda: timer.nsecsElapsed() / 1e6)
        self._last = self._clock()
        self.speed = 1.0
        self.runtime: Runtime | None = None
        self._ticking = QTimer(self)
        self._ticking.setTimerType(Qt.TimerType.PreciseTimer)
        self._ticking.setInterval(_FRAME_MS)
        self._ticking.timeout.connect(self.tick)
        self.setMouseTracking(True)
        self.setMinimumHeight(160)
        self.setAccessibleName("Live")
        session.settled.connect(self.follow)
        session.selection_changed.connect(self.follow)
        self.follow()

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    # --- what runs ------------------------------------------------------------------------

    def subject(self) -> Subject | None:
        """What the bench shows; of a component, its face with every driven axis at rest."""
        session = self._session
        component = session.component
        if component is not None:
            rest = {a.id: a.default for a in component.axes if a.driver != "none"}
            face: Variant = session.selection.variant.update(rest)
            return Subject(component.id, True, face)
        return Subject(session.screen.id) if session.screen is not None else None

    def follow(self) -> None:
        """Goes on with the document as it is now; starts anew on another subject."""
        subject = self.subject()
        if subject is None:
            self.runtime = None
        elif self.runtime is None or self.runtime.layout is not self._session.engine.layout:
            self.runtime = self._session.engine.runtime(self._session.document, subject)
        else:
            self.runtime.update(self._session.document, subject)
        self._changed()

    def restart(self) -> None:
        if self.runtime is not None:
            self.runtime.restart()
        self._changed()

    def stop(self) -> None:
        """Lets no more time pass by itself."""
        self._ticking.stop()

    def tick(self) -> None:
        """Lets the time since the last tick pass."""
        now = self._clock()
        if self.runtime is not None:
            self.runtime.advance((now - self._last) * self.speed)
        self._last = now
        self._changed()

    def _changed(self) -> None:
        """Repaints, and ticks as long as something moves."""
        moving = self.runtime is not None and self.runtime.moving
        if moving and not self._ticking.isActive():
            self._last = self._clock()
            self._ticking.start()
        elif not moving:
            self._ticking.stop()
        self.update()

    # --- drawing --------------------------------------------------------------------------

    def frame_of(self) -> tuple[float, QPointF]:
        """The scale at which the subject is shown, and its corner in the widget."""
        if self.runtime is None:
            return 1.0, QPointF()
        placed = self.runtime.target_placed
        room_x, room_y = self.width() - 2 * _MARGIN, self.height() - 2 * _MARGIN
        zoom = min(room_x / max(placed.width, 1), room_y / max(placed.height, 1), 1.0)
        zoom = max(zoom, 0.02)
        corner = QPointF(
            round((self.width() - placed.width * zoom) / 2),
            round((self.height() - placed.height * zoom) / 2),
        )
        return zoom, corner

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.color("paper"))
        if self.runtime is not None:
            zoom, corner = self.frame_of()
            ratio = self.devicePixelRatioF()
            painter.save()
            painter.translate(corner)
            painter.scale(1 / ratio, 1 / ratio)
            fragment = draw(*self.runtime.view())
            QtPainter(painter, self._rasters, zoom * ratio).draw(fragment, 0.0, 0.0)
            painter.restore()
            self._frame(painter, zoom, corner)
        painter.end()

    def _frame(self, painter: QPainter, zoom: float, corner: QPointF) -> None:
        """A screen's edge, so that a light screen can be told from the paper."""
        if self.runtime is None or self._session.screen is None:
            return
        placed = self.runtime.target_placed
        rect = QRectF(corner.x(), corner.y(), placed.width * zoom, placed.height * zoom)
        painter.setPen(QPen(self._theme.color("hairline"), 1))
        painter.drawRect(rect.adjusted(-0.5, -0.5, 0.5, 0.5))

    # --- the pointer ----------------------------------------------------------------------

    def _spot(self, point: QPointF) -> tuple[float, float]:
        zoom, corner = self.frame_of()
        return (point.x() - corner.x()) / zoom, (point.y() - corner.y()) / zoom

    def _point(self, event: QMouseEvent | None, act: str) -> None:
        if event is None or self.runtime is None:
            return
        self.tick()
        getattr(self.runtime, act)(*self._spot(event.position()))
        self._changed()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        self._point(event, "pointer_move")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._point(event, "press")

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._point(event, "release")

    def leaveEvent(self, event: QEvent | None) -> None:
        if self.runtime is not None:
            self.tick()
            self.runtime.pointer_leave()
        self._changed()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self.update()


class ElidedLabel(QLabel):
    """A label that ends in … where it has no room."""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        room = self.contentsRect()
        mode = Qt.TextElideMode.ElideRight
        text = self.fontMetrics().elidedText(self.text(), mode, room.width())
        painter.setPen(self.palette().windowText().color())
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, text)
        painter.end()


class Live(QWidget):
    """The stage with its name, speeds and restart."""

    def __init__(self, session: Session, rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self._session = session
        self.stage = Stage(session, rasters, theme)
        dress(self, "panel")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._head(theme))
        layout.addWidget(self.stage, 1)
        session.selection_changed.connect(self._rename)
        session.settled.connect(self._rename)
        self._rename()

    def _head(self, theme: Theme) -> QWidget:
        strip = QWidget()
        dress(strip, edge="bottom")
        strip.setFixedHeight(40)
        row = QHBoxLayout(strip)
        row.setContentsMargins(14, 0, 8, 0)
        row.setSpacing(6)
        title = QLabel("Live")
        title.setProperty("weight", "bold")
        self._subject = ElidedLabel()
        self._subject.setProperty("tone", "muted")
        self._subject.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        row.addWidget(title)
        row.addWidget(self._subject, 1)
        self.still = QToolButton()
        self.still.setText("no motion")
        self.still.setCheckable(True)
        self.still.setProperty("look", "segment")
        self.still.setToolTip("Reduced motion: every change is a cut.")
        self.still.toggled.connect(self._reduce)
        row.addWidget(self.still)
        self.speeds = Segments(_SPEEDS, "Speed")
        self.speeds.show_value("1")
        self.speeds.edited.connect(self._speed)
        row.addWidget(self.speeds)
        self.again = QToolButton()
        self.again.setProperty("look", "icon")
        self.again.setToolTip("Start again at rest")
        self.again.setAccessibleName("Start again at rest")
        self.again.clicked.connect(self.stage.restart)
        row.addWidget(self.again)
        self._paint_icons(theme)
        return strip

    def _paint_icons(self, theme: Theme) -> None:
        self.again.setIcon(icon("arrow-counter-clockwise", theme.ink))

    def set_theme(self, theme: Theme) -> None:
        self._paint_icons(theme)
        self.stage.set_theme(theme)

    def _rename(self) -> None:
        owner = self._session.owner
        self._subject.setText(owner.name.rpartition("/")[2] if owner is not None else "nothing")

    def _speed(self, value: str) -> None:
        self.stage.tick()
        self.stage.speed = float(value)

    def _reduce(self, on: bool) -> None:
        if self.stage.runtime is not None:
            self.stage.runtime.reduced_motion = on
