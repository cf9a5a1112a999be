"""The stage of Live: where the running thing is drawn, touched, and typed at."""

from __future__ import annotations

from collections.abc import Callable

import msgspec
from PyQt6.QtCore import QElapsedTimer, QEvent, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QWidget

from outgrowth.app.benches.handles import draw_number
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.backing import Backing, Shot
from outgrowth.app.theme import Theme
from outgrowth.core.document.graph import edges
from outgrowth.core.document.variants import Variant
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint import draw
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import PLACED, Do, Event, Script, ScriptProblem, act
from outgrowth.workspace import Workspace

_FRAME_MS = 8
_WAIT_MS = 40
"""How often the clock is looked at while only timers run."""
_STEP_MS = 1000 / 60
"""What one step lets pass: a frame of a screen that shows 60 a second."""
_MARGIN = 20.0
_GRIP = 7.0
_LEAST_ROOM = 24.0

_KEYS = {
    Qt.Key.Key_Return: "Enter",
    Qt.Key.Key_Enter: "Enter",
    Qt.Key.Key_Space: " ",
    Qt.Key.Key_Left: "ArrowLeft",
    Qt.Key.Key_Right: "ArrowRight",
    Qt.Key.Key_Up: "ArrowUp",
    Qt.Key.Key_Down: "ArrowDown",
    Qt.Key.Key_Home: "Home",
    Qt.Key.Key_End: "End",
    Qt.Key.Key_Escape: "Escape",
    Qt.Key.Key_Delete: "Delete",
    Qt.Key.Key_Backspace: "Backspace",
}
"""Source: UI Events KeyboardEvent key Values (W3C)."""
_CURSORS = {
    "pointer": Qt.CursorShape.PointingHandCursor,
    "text": Qt.CursorShape.IBeamCursor,
    "move": Qt.CursorShape.SizeAllCursor,
    "not-allowed": Qt.CursorShape.ForbiddenCursor,
}


class Stage(QWidget):
    """Where the running thing is drawn and touched. Time comes from `clock` (ms).

    changed   something that is told beside the stage may be another: a loop was cut, the room
              has another size, a recording goes on
    """

    changed = pyqtSignal()

    def __init__(
        self,
        workspace: Workspace,
        rasters: Rasters,
        theme: Theme,
        clock: Callable[[], float] | None = None,
    ) -> None:
        super().__init__()
        self._workspace = workspace
        self._backing = Backing(rasters)
        self._theme = theme
        timer = QElapsedTimer()
        timer.start()
        self._clock = clock or (lambda: timer.nsecsElapsed() / 1e6)
        self._last = self._clock()
        self.speed = 1.0
        self.held = False
        self.outlined = False
        self.place = ""
        self.room: tuple[float | None, float | None] = (None, None)
        self.runtime: Runtime | None = None
        self._recorded: list[Event] | None = None
        self._played: list[Event] = []
        self._pulled = ""
        self._at = QPointF()
        self._scrolled = 0.0
        self._ticking = QTimer(self)
        self._ticking.setTimerType(Qt.TimerType.PreciseTimer)
        self._ticking.timeout.connect(self.tick)
        self.setMouseTracking(True)
        self.setMinimumHeight(160)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Live")
        workspace.panels_due.connect(self.follow)
        workspace.selection_changed.connect(self.follow)
        self.follow()

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    # --- what runs ------------------------------------------------------------------------

    def subject(self) -> Subject | None:
        """What the bench shows (of a component its face, with every axis at rest that is driven
        or that its cues change), or the screen that it was asked to be shown in."""
        workspace = self._workspace
        width, height = self.room
        if self.place and self.place in workspace.document.screens:
            return Subject(self.place)
        component = workspace.component
        if component is not None:
            moved = {edge.axis for edge in edges(component)}
            rest = {a.id: a.default for a in component.axes if a.driver != "none" or a.id in moved}
            face: Variant = workspace.selection.variant.update(rest)
            return Subject(component.id, True, face, width, height)
        if workspace.screen is None:
            return None
        return Subject(workspace.screen.id, False, Variant(), width, height)

    def follow(self) -> None:
        """Goes on with the document as it is now; starts anew on another subject."""
        subject = self.subject()
        engine = self._workspace.engine
        if subject is None:
            self.runtime = None
        elif self.runtime is None or self.runtime.layout is not engine.layout:
            before, self.runtime = self.runtime, engine.runtime(self._workspace.document, subject)
            if before is not None:
                self.runtime.touch = before.touch
                self.runtime.reduced_motion = before.reduced_motion
        else:
            self.runtime.update(self._workspace.document, subject)
        self._changed()

    def set_room(self, width: float | None, height: float | None) -> None:
        """The room that what runs is given in px; None for its own size."""
        self.room = width, height
        self.follow()
        self.changed.emit()

    def restart(self) -> None:
        if self.runtime is not None:
            self.runtime.restart()
        self._played = []
        self._changed()
        self.changed.emit()

    def stop(self) -> None:
        """Lets no more time pass by itself."""
        self._ticking.stop()

    def tick(self) -> None:
        """Lets the time since the last tick pass; none while it is held."""
        now = self._clock()
        passed, self._last = (now - self._last) * self.speed, now
        if self.runtime is not None and not self.held:
            self._pass(self.runtime, passed)
        self._changed()

    def hold(self, held: bool) -> None:
        """Lets time stand still, or go on; what is done meanwhile is done at once."""
        self.tick()
        self.held = held
        self._changed()
        self.changed.emit()

    def step(self) -> None:
        """Holds the time, and lets one frame of it pass."""
        if not self.held:
            self.hold(True)
        if self.runtime is not None:
            self._pass(self.runtime, _STEP_MS)
        self._changed()
        self.changed.emit()

    def _pass(self, runtime: Runtime, ms: float) -> None:
        """Lets time pass, with what a played script does on the way."""
        until = runtime.now + ms
        while self._played and self._played[0].at <= until:
            event = self._played.pop(0)
            runtime.advance(event.at - runtime.now)
            try:
                act(runtime, event)
            except ScriptProblem as problem:
                self._played = []
                self._workspace.failed.emit(str(problem))
            if not self._played:
                self.changed.emit()
        runtime.advance(until - runtime.now)

    def _changed(self) -> None:
        """Repaints, and looks at the clock as long as something moves or waits."""
        runtime = self.runtime
        moving = runtime is not None and (runtime.moving or bool(self._played))
        waiting = runtime is not None and runtime.waiting
        if (moving or waiting) and not self.held:
            if not self._ticking.isActive():
                self._last = self._clock()
            wanted = _FRAME_MS if moving else _WAIT_MS
            if not self._ticking.isActive() or self._ticking.interval() != wanted:
                self._ticking.start(wanted)
        else:
            self._ticking.stop()
        self.update()

    # --- recording ------------------------------------------------------------------------

    @property
    def recording(self) -> bool:
        return self._recorded is not None

    @property
    def playing(self) -> bool:
        return bool(self._played)

    def record(self) -> None:
        """Starts again at rest and writes down what is done from now on."""
        self.restart()
        self._recorded = []
        self.changed.emit()

    def recorded(self) -> Script:
        """Ends the recording; what was done, and when to look: at every event and a second
        after the last, in quarters."""
        events, self._recorded = self._recorded or [], None
        last = events[-1].at if events else 0.0
        times = sorted({e.at for e in events} | {last + n * 250.0 for n in range(1, 5)})
        self.changed.emit()
        return Script(tuple(events), tuple(times))

    def play(self, script: Script) -> None:
        """Starts again at rest and does what a script says, at this stage's speed."""
        self.restart()
        self._last = self._clock()
        if self.runtime is not None:
            self._played = list(script.events)
            self.runtime.touch = script.touch
            self.runtime.reduced_motion = script.reduced_motion
        self._changed()
        self.changed.emit()

    def _do(self, do: Do, x: float = 0.0, y: float = 0.0) -> None:
        """Does one thing now, and writes it down."""
        placed = do in PLACED
        self._done(Event(0.0, do, *((round(x, 2), round(y, 2)) if placed else ())))

    def _type(self, key: str, shift: bool) -> None:
        self._done(Event(0.0, "key", key=key, shift=shift))

    def _done(self, event: Event) -> None:
        if self.runtime is None:
            return
        self.tick()
        before = len(self.runtime.problems)
        event = msgspec.structs.replace(event, at=round(self.runtime.now, 1))
        if self._recorded is not None and not (event.do == "move" and self._stays(event)):
            self._recorded.append(event)
        act(self.runtime, event)
        cursor = _CURSORS.get(self.runtime.cursor, Qt.CursorShape.ArrowCursor)
        self.setCursor(cursor)
        self._changed()
        if len(self.runtime.problems) != before:
            self.changed.emit()

    def _stays(self, event: Event) -> bool:
        """Whether a move adds nothing to the one before it, in the same moment."""
        last = self._recorded[-1] if self._recorded else None
        return last is not None and last.do == "move" and last.at == event.at

    def set_touch(self, touch: bool) -> None:
        self._do("touch" if touch else "mouse")

    # --- drawing --------------------------------------------------------------------------

    def frame_of(self) -> tuple[float, QPointF]:
        """The scale at which the subject is shown, and its corner in the widget. It fits the
        width; what is higher than the room is scrolled."""
        if self.runtime is None:
            return 1.0, QPointF()
        placed = self.runtime.target_placed
        room_x, room_y = self.width() - 2 * _MARGIN, self.height() - 2 * _MARGIN
        zoom = max(min(room_x / max(placed.width, 1), 1.0), 0.02)
        left = round((self.width() - placed.width * zoom) / 2)
        spare = room_y - placed.height * zoom
        self._scrolled = min(max(self._scrolled, 0.0), max(-spare, 0.0))
        top = _MARGIN + spare / 2 if spare >= 0 else _MARGIN - self._scrolled
        return zoom, QPointF(left, round(top))

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Scrolls the box under the pointer; where none goes further, the whole."""
        if event is None or self.runtime is None:
            return
        x, y = (round(n, 2) for n in self._spot(event.position()))
        turn = event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier and not turn.x():
            turn = turn.transposed()
        dx, dy = -turn.x() / 2, -turn.y() / 2
        self.tick()
        if self.runtime.scroll(x, y, dx, dy):
            at = round(self.runtime.now, 1)
            if self._recorded is not None:
                self._recorded.append(Event(at, "scroll", x, y, dx=dx, dy=dy))
            self._changed()
            return
        self._scrolled += dy
        self._do("move", *self._spot(event.position()))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        paper = self._theme.color("paper")
        if self.runtime is None:
            painter.fillRect(self.rect(), paper)
        else:
            zoom, corner = self.frame_of()
            ratio = self.devicePixelRatioF()
            shot = Shot(zoom * ratio, (corner * ratio).toPoint(), self.size() * ratio)
            painter.save()
            painter.scale(1 / ratio, 1 / ratio)
            self._backing.paint(painter, draw(*self.runtime.view()), shot, paper)
            painter.restore()
            self._marks(painter, zoom, corner)
        painter.end()

    def _marks(self, painter: QPainter, zoom: float, corner: QPointF) -> None:
        """A screen's edge, outlines if they are asked for, the keyboard's focus, the grips."""
        runtime = self.runtime
        if runtime is None:
            return
        size = runtime.target_placed
        whole = QRectF(corner.x(), corner.y(), size.width * zoom, size.height * zoom)
        if runtime.shown in self._workspace.document.screens or self.room != (None, None):
            painter.setPen(QPen(self._theme.color("hairline"), 1))
            painter.drawRect(whole.adjusted(-0.5, -0.5, 0.5, 0.5))
        wanted = runtime.focus if self.hasFocus() else None
        if self.outlined or wanted is not None:
            for at in locate(*runtime.view(), ""):
                r = at.rect
                spot = QPointF(r.x, r.y) * zoom + corner
                rect = QRectF(spot.x(), spot.y(), r.width * zoom, r.height * zoom)
                if self.outlined:
                    painter.setPen(QPen(self._theme.color("slate"), 1, Qt.PenStyle.DotLine))
                    painter.drawRect(rect)
                if at.path == wanted:
                    painter.setPen(QPen(self._theme.color("slate"), 2))
                    painter.drawRoundedRect(rect.adjusted(-3, -3, 3, 3), 4, 4)
        self._grips(painter, whole)
        self._scroll_mark(painter, whole)
        self._scroll_bars(painter, zoom, corner)

    def _scroll_mark(self, painter: QPainter, whole: QRectF) -> None:
        """How far one has scrolled, where what runs is higher than the room."""
        room = self.height() - 2 * _MARGIN
        if whole.height() <= room + 1:
            return
        share = room / whole.height()
        top = _MARGIN + self._scrolled * share
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("hairline"))
        painter.drawRoundedRect(QRectF(self.width() - 8, top, 4, room * share), 2, 2)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _scroll_bars(self, painter: QPainter, zoom: float, corner: QPointF) -> None:
        """How far boxes in it are scrolled."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("hairline"))
        for bar in self.runtime.scroll_bars() if self.runtime is not None else ():
            at = QPointF(corner.x() + bar.x * zoom, corner.y() + bar.y * zoom)
            painter.drawRoundedRect(
                QRectF(at.x(), at.y(), bar.width * zoom, bar.height * zoom), 2, 2
            )
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _grips(self, painter: QPainter, whole: QRectF) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("muted"))
        if not self.place:
            across, down = self._grip_rects(whole)
            painter.drawRoundedRect(across, 1.5, 1.5)
            painter.drawRoundedRect(down, 1.5, 1.5)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self._pulled and self.runtime is not None:
            size = self.runtime.target_placed
            draw_number(painter, self._at, f"{size.width:.0f} × {size.height:.0f}", self._theme)

    @staticmethod
    def _grip_rects(whole: QRectF) -> tuple[QRectF, QRectF]:
        middle = whole.center()
        across = QRectF(whole.right() + 5, middle.y() - 12, 3, 24)
        return across, QRectF(middle.x() - 12, whole.bottom() + 5, 24, 3)

    # --- the pointer ----------------------------------------------------------------------

    def _spot(self, point: QPointF) -> tuple[float, float]:
        zoom, corner = self.frame_of()
        return (point.x() - corner.x()) / zoom, (point.y() - corner.y()) / zoom

    def _grip_at(self, point: QPointF) -> str:
        if self.runtime is None or self.place:
            return ""
        zoom, corner = self.frame_of()
        size = self.runtime.target_placed
        whole = QRectF(corner.x(), corner.y(), size.width * zoom, size.height * zoom)
        for name, rect in zip(("width", "height"), self._grip_rects(whole), strict=True):
            if rect.adjusted(-_GRIP, -_GRIP, _GRIP, _GRIP).contains(point):
                return name
        return ""

    def _pull(self, point: QPointF) -> None:
        """Gives the subject the room that the pointer asks for, about its middle."""
        zoom, _ = self.frame_of()
        width, height = self.room
        if self._pulled == "width":
            width = max(round(2 * (point.x() - self.width() / 2 - 6) / zoom), _LEAST_ROOM)
        else:
            _, corner = self.frame_of()
            height = max(round((point.y() - corner.y() - 6) / zoom), _LEAST_ROOM)
        self.set_room(width, height)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self._at = event.position()
        if self._pulled:
            self._pull(event.position())
            return
        grip = self._grip_at(event.position())
        if grip:
            shape = Qt.CursorShape
            self.setCursor(shape.SizeHorCursor if grip == "width" else shape.SizeVerCursor)
            return
        self._do("move", *self._spot(event.position()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self._pulled = self._grip_at(event.position())
        if not self._pulled:
            self._do("press", *self._spot(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        if self._pulled:
            self._pulled = ""
            self.update()
            return
        self._do("release", *self._spot(event.position()))

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """The second press of a double click; on a grip, its own size again."""
        if event is None:
            return
        grip = self._grip_at(event.position())
        if grip:
            width, height = self.room
            self.set_room(None if grip == "width" else width, None if grip == "height" else height)
        else:
            self.mousePressEvent(event)

    def leaveEvent(self, event: QEvent | None) -> None:
        if not self._pulled:
            self._do("leave")

    # --- the keys -------------------------------------------------------------------------

    def focusNextPrevChild(self, next_one: bool) -> bool:
        """Tab goes through what runs, and on to the next panel after the last."""
        runtime = self.runtime
        if runtime is None or runtime.tab_leaves(not next_one):
            if runtime is not None:
                runtime.drop_focus()
            self._changed()
            return super().focusNextPrevChild(next_one)
        self._type("Tab", not next_one)
        return True

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        name = _KEYS.get(Qt.Key(event.key()), event.text())
        held = event.modifiers() & Qt.KeyboardModifier.ControlModifier
        if not name or held:
            super().keyPressEvent(event)
            return
        self._type(name, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self.update()
