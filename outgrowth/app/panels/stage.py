"""The stage of Live: where the running thing is drawn, touched, and typed at."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QElapsedTimer, QEvent, QPointF, QRectF, Qt, QTimer
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
from outgrowth.app.theme.builders import tool_button
from outgrowth.core.document.rooms import room_axes, room_steps
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint import draw
from outgrowth.core.runtime.script import ScriptAct
from outgrowth.workspace import Workspace
from outgrowth.workspace.playback import Playback

# Half a frame of 60 a second: Qt's timers come late rather than early.
_FRAME_MS = 8
# How often the clock is looked at while only timers run.
_WAIT_MS = 40
# Px around the subject: its grips stand in them.
_MARGIN = 20.0
_GRIP = 7.0
# Px: a subject of less room shows nothing of how it gives way.
_LEAST_ROOM = 24.0

# Source: UI Events KeyboardEvent key Values (W3C).
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
_CURSORS = {
    "pointer": Qt.CursorShape.PointingHandCursor,
    "text": Qt.CursorShape.IBeamCursor,
    "move": Qt.CursorShape.SizeAllCursor,
    "not-allowed": Qt.CursorShape.ForbiddenCursor,
}


class Stage(QWidget):
    """Where the running thing is drawn and touched. Time comes from `clock` (ms)."""

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
        self.playback = Playback(workspace, clock or (lambda: timer.nsecsElapsed() / 1e6))
        self.outlined = False
        self._pulled = ""
        self._pointer = QPointF()
        self._scrolled = 0.0
        # The screens that are seen at their working size; a tall one is seen whole at first.
        self._large: set[str] = set()
        self.size_button = tool_button(
            self.switch_size, look="firm", tip="The whole screen, or as large as its width fits"
        )
        self.size_button.setParent(self)
        self.size_button.hide()
        self._sized_for: object = None
        self._ticking = QTimer(self)
        self._ticking.setTimerType(Qt.TimerType.PreciseTimer)
        self._ticking.timeout.connect(self.playback.tick)
        self.playback.advanced.connect(self._follow_time)
        self.setMouseTracking(True)
        self.setMinimumHeight(160)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Live")
        workspace.panels_due.connect(self._follow)
        workspace.selection_changed.connect(self._follow)
        self.playback.follow()

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.update()

    def _follow(self) -> None:
        # A method of the widget, not the playback's own: Qt forgets it when the widget goes.
        self.playback.follow()
        self._offer_size()

    # --- time -----------------------------------------------------------------------------

    def stop(self) -> None:
        """Lets no more time pass by itself."""
        self._ticking.stop()

    def _follow_time(self) -> None:
        """Repaints, and looks at the clock as long as something moves or waits."""
        playback = self.playback
        if (playback.moving or playback.waiting) and not playback.paused:
            if not self._ticking.isActive():
                playback.begin_time()
            interval = _FRAME_MS if playback.moving else _WAIT_MS
            if not self._ticking.isActive() or self._ticking.interval() != interval:
                self._ticking.start(interval)
        else:
            self._ticking.stop()
        self._offer_size()
        self.update()

    def _perform(self, verb: ScriptAct, x: float = 0.0, y: float = 0.0) -> None:
        """Does one thing at a point of the subject; the pointer looks as what is under it asks."""
        self.playback.perform(verb, x, y)
        if self.playback.runtime is not None:
            cursor = self.playback.runtime.cursor
            self.setCursor(_CURSORS.get(cursor, Qt.CursorShape.ArrowCursor))

    # --- drawing --------------------------------------------------------------------------

    def frame_of(self) -> tuple[float, QPointF]:
        """The scale at which the subject is shown, and its corner in the widget. It fits the
        width; what is higher than the room is scrolled, a screen at its working size only."""
        if self.playback.runtime is None:
            return 1.0, QPointF()
        placed = self.playback.runtime.target_placed
        room_y = self.height() - 2 * _MARGIN
        zoom = self._working_size()
        if self._is_tall() and self.playback.runtime.shown_owner not in self._large:
            zoom = max(room_y / placed.height, 0.02)
        left = round((self.width() - placed.width * zoom) / 2)
        spare = room_y - placed.height * zoom
        self._scrolled = min(max(self._scrolled, 0.0), max(-spare, 0.0))
        top = _MARGIN + spare / 2 if spare >= 0 else _MARGIN - self._scrolled
        return zoom, QPointF(left, round(top))

    def _working_size(self) -> float:
        """The scale at which the subject is as wide as the room, or as it is."""
        runtime = self.playback.runtime
        wide = runtime.target_placed.width if runtime is not None else 1.0
        return max(min((self.width() - 2 * _MARGIN) / max(wide, 1.0), 1.0), 0.02)

    def _is_tall(self) -> bool:
        """Whether a screen runs that is higher than the room at its working size."""
        runtime = self.playback.runtime
        if runtime is None or runtime.shown_owner not in self._workspace.document.screens:
            return False
        height = runtime.target_placed.height * self._working_size()
        return height > self.height() - 2 * _MARGIN + 1

    def switch_size(self) -> None:
        """A tall screen at its working size, or whole again."""
        if self.playback.runtime is not None:
            self._large ^= {self.playback.runtime.shown_owner}
            self._offer_size()
            self.update()

    def _offer_size(self) -> None:
        """The button stands in a corner where there are two sizes to choose from."""
        runtime = self.playback.runtime
        is_tall = self._is_tall()
        owner = runtime.shown_owner if runtime is not None else ""
        sized_for = owner, owner in self._large, is_tall, self._working_size(), self.height()
        if sized_for == self._sized_for:
            return
        self._sized_for = sized_for
        if is_tall and runtime is not None:
            is_large = runtime.shown_owner in self._large
            self.size_button.setText("whole" if is_large else f"{self._working_size() * 100:.0f} %")
            about = "Live: the whole screen" if is_large else "Live: the screen at its working size"
            self.size_button.setAccessibleName(about)
            self.size_button.adjustSize()
            self.size_button.move(8, self.height() - self.size_button.height() - 8)
        self.size_button.setVisible(is_tall)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Scrolls the box under the pointer; where none goes further, the whole."""
        if event is None or self.playback.runtime is None:
            return
        x, y = self._to_subject(event.position())
        turn = event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier and not turn.x():
            turn = turn.transposed()
        dx, dy = -turn.x() / 2, -turn.y() / 2
        if self.playback.scroll(x, y, dx, dy):
            return
        self._scrolled += dy
        self._perform("move", *self._to_subject(event.position()))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        paper = self._theme.color("paper")
        if self.playback.runtime is None:
            painter.fillRect(self.rect(), paper)
        else:
            zoom, corner = self.frame_of()
            ratio = self.devicePixelRatioF()
            shot = Shot(zoom * ratio, (corner * ratio).toPoint(), self.size() * ratio)
            painter.save()
            painter.scale(1 / ratio, 1 / ratio)
            self._backing.paint(painter, draw(*self.playback.runtime.view()), shot, paper)
            painter.restore()
            self._marks(painter, zoom, corner)
        painter.end()

    def _marks(self, painter: QPainter, zoom: float, corner: QPointF) -> None:
        """A screen's edge, outlines if they are asked for, the keyboard's focus, the grips."""
        runtime = self.playback.runtime
        if runtime is None:
            return
        size = runtime.target_placed
        bounds = QRectF(corner.x(), corner.y(), size.width * zoom, size.height * zoom)
        if runtime.shown_owner in self._workspace.document.screens or self.playback.room != (
            None,
            None,
        ):
            painter.setPen(QPen(self._theme.color("hairline"), 1))
            painter.drawRect(bounds.adjusted(-0.5, -0.5, 0.5, 0.5))
        focused = runtime.focus if self.hasFocus() else None
        if self.outlined or focused is not None:
            for located in locate(*runtime.view(), ""):
                r = located.rect
                point = QPointF(r.x, r.y) * zoom + corner
                rect = QRectF(point.x(), point.y(), r.width * zoom, r.height * zoom)
                if self.outlined:
                    painter.setPen(QPen(self._theme.color("slate"), 1, Qt.PenStyle.DotLine))
                    painter.drawRect(rect)
                if located.path == focused:
                    painter.setPen(QPen(self._theme.color("slate"), 2))
                    painter.drawRoundedRect(rect.adjusted(-3, -3, 3, 3), 4, 4)
        self._grips(painter, bounds)
        self._scroll_mark(painter, bounds)
        self._scroll_bars(painter, zoom, corner)

    def _scroll_mark(self, painter: QPainter, rect: QRectF) -> None:
        """How far one has scrolled, where what runs is higher than the room."""
        room = self.height() - 2 * _MARGIN
        if rect.height() <= room + 1:
            return
        share = room / rect.height()
        top = _MARGIN + self._scrolled * share
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("hairline"))
        painter.drawRoundedRect(QRectF(self.width() - 8, top, 4, room * share), 2, 2)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _scroll_bars(self, painter: QPainter, zoom: float, corner: QPointF) -> None:
        """How far boxes in it are scrolled."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("hairline"))
        for bar in self.playback.runtime.scroll_bars() if self.playback.runtime is not None else ():
            point = QPointF(corner.x() + bar.x * zoom, corner.y() + bar.y * zoom)
            painter.drawRoundedRect(
                QRectF(point.x(), point.y(), bar.width * zoom, bar.height * zoom), 2, 2
            )
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _grips(self, painter: QPainter, rect: QRectF) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("muted"))
        if not self.playback.place:
            across, down = self._grip_rects(rect)
            painter.drawRoundedRect(across, 1.5, 1.5)
            painter.drawRoundedRect(down, 1.5, 1.5)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        runtime = self.playback.runtime
        if self._pulled and runtime is not None:
            size = runtime.target_placed
            told = [f"{size.width:.0f} × {size.height:.0f}", *self._thresholds(painter, rect)]
            draw_number(painter, self._pointer, " · ".join(told), self._theme)

    def _thresholds(self, painter: QPainter, rect: QRectF) -> list[str]:
        """Lines where the edge that is pulled changes what its room sets; and what that is now."""
        runtime = self.playback.runtime
        owner = runtime.shown_owner if runtime is not None else ""
        component = self._workspace.document.components.get(owner)
        if runtime is None or component is None:
            return []
        told, variant, zoom = [], runtime.target.scene.variant, self.frame_of()[0]
        for axis in room_axes(component):
            value = axis.value(variant[axis.id]) if variant is not None else None
            told.append(value.name if value is not None else "")
            if axis.side != self._pulled:
                continue
            unit = self._workspace.engine.layout.unit_of_room(axis.unit)
            for step in room_steps(axis)[1:]:
                begun = axis.value(step.value)
                self._threshold(
                    painter, rect, step.least * unit * zoom, begun.name if begun else ""
                )
        return told

    def _threshold(self, painter: QPainter, rect: QRectF, far: float, name: str) -> None:
        """A line as far from the subject's other edge as a value begins; what runs stays in the
        middle while its width is pulled."""
        color = self._theme.color("clay")
        painter.setPen(QPen(color, 1, Qt.PenStyle.DashLine))
        if self._pulled == "width":
            x = rect.center().x() + far / 2
            painter.drawLine(QPointF(x, rect.top() - 12), QPointF(x, rect.bottom() + 12))
            place = QRectF(x + 4, rect.top() - 20, 90, 16)
        else:
            y = rect.top() + far
            painter.drawLine(QPointF(rect.left() - 12, y), QPointF(rect.right() + 12, y))
            place = QRectF(rect.left() - 8, y + 2, 90, 16)
        painter.setPen(color)
        painter.drawText(place, Qt.AlignmentFlag.AlignLeft, name)

    @staticmethod
    def _grip_rects(rect: QRectF) -> tuple[QRectF, QRectF]:
        middle = rect.center()
        across = QRectF(rect.right() + 5, middle.y() - 12, 3, 24)
        return across, QRectF(middle.x() - 12, rect.bottom() + 5, 24, 3)

    # --- the pointer ----------------------------------------------------------------------

    def _to_subject(self, point: QPointF) -> tuple[float, float]:
        zoom, corner = self.frame_of()
        return (point.x() - corner.x()) / zoom, (point.y() - corner.y()) / zoom

    def _grip_at(self, point: QPointF) -> str:
        if self.playback.runtime is None or self.playback.place:
            return ""
        zoom, corner = self.frame_of()
        size = self.playback.runtime.target_placed
        bounds = QRectF(corner.x(), corner.y(), size.width * zoom, size.height * zoom)
        for name, rect in zip(("width", "height"), self._grip_rects(bounds), strict=True):
            if rect.adjusted(-_GRIP, -_GRIP, _GRIP, _GRIP).contains(point):
                return name
        return ""

    def _pull(self, point: QPointF) -> None:
        """Gives the subject the room that the pointer asks for, about its middle."""
        zoom, _ = self.frame_of()
        width, height = self.playback.room
        if self._pulled == "width":
            width = max(round(2 * (point.x() - self.width() / 2 - 6) / zoom), _LEAST_ROOM)
        else:
            _, corner = self.frame_of()
            height = max(round((point.y() - corner.y() - 6) / zoom), _LEAST_ROOM)
        self.playback.set_room(width, height)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self._pointer = event.position()
        if self._pulled:
            self._pull(event.position())
            return
        grip = self._grip_at(event.position())
        if grip:
            shape = Qt.CursorShape
            self.setCursor(shape.SizeHorCursor if grip == "width" else shape.SizeVerCursor)
            return
        self._perform("move", *self._to_subject(event.position()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self._pulled = self._grip_at(event.position())
        if not self._pulled:
            self._perform("press", *self._to_subject(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        if self._pulled:
            self._pulled = ""
            self.update()
            return
        self._perform("release", *self._to_subject(event.position()))

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """The second press of a double click; on a grip, its own size again."""
        if event is None:
            return
        grip = self._grip_at(event.position())
        if grip:
            width, height = self.playback.room
            self.playback.set_room(
                None if grip == "width" else width, None if grip == "height" else height
            )
        else:
            self.mousePressEvent(event)

    def leaveEvent(self, event: QEvent | None) -> None:
        if not self._pulled:
            self._perform("leave")

    # --- the keys -------------------------------------------------------------------------

    def focusNextPrevChild(self, next_one: bool) -> bool:
        """Tab goes through what runs, and on to the next panel after the last."""
        runtime = self.playback.runtime
        if runtime is None or runtime.tab_leaves(not next_one):
            if runtime is not None:
                runtime.drop_focus()
            self._follow_time()
            return super().focusNextPrevChild(next_one)
        self.playback.press_key("Tab", not next_one)
        return True

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        name = _KEYS.get(Qt.Key(event.key()), event.text())
        with_control = event.modifiers() & Qt.KeyboardModifier.ControlModifier
        if not name or with_control:
            super().keyPressEvent(event)
            return
        self.playback.press_key(name, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._offer_size()
        self.update()
