"""A scrolled view that paints itself: what such views have in common."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QScrollBar, QWidget

from outgrowth.app.theme import Theme

ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}
"""Steps across and down of the arrow keys."""
_STEP = 40


class PaintedView(QAbstractScrollArea):
    """Takes the keys, and is painted anew when it gets or loses them and when it is scrolled.

    sight     what is painted on
    own_keys  keys that mean something here, and so nothing to the window meanwhile
    """

    own_keys: tuple[Qt.Key, ...] = ()

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self.theme = theme
        self.sight: QWidget = self.viewport()  # type: ignore[assignment]  # it has one
        self.sight.setMouseTracking(True)
        self.across: QScrollBar = self.horizontalScrollBar()  # type: ignore[assignment]  # the same
        self.down: QScrollBar = self.verticalScrollBar()  # type: ignore[assignment]  # the same
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)
        for bar in (self.across, self.down):
            bar.setSingleStep(_STEP)
            bar.valueChanged.connect(self.sight.update)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self.theme = theme
        self.sight.update()

    def show_range(self, width: float, height: float) -> None:
        """How large all of it is, in px: what does not fit is scrolled to."""
        for bar, whole, room in (
            (self.across, width, self.sight.width()),
            (self.down, height, self.sight.height()),
        ):
            bar.setPageStep(room)
            bar.setRange(0, max(round(whole) - room, 0))

    @property
    def scrolled(self) -> QPointF:
        """How far it is scrolled, in px."""
        return QPointF(self.across.value(), self.down.value())

    def event(self, event: QEvent | None) -> bool:
        is_override = event is not None and event.type() == QEvent.Type.ShortcutOverride
        if is_override and isinstance(event, QKeyEvent) and event.key() in self.own_keys:
            event.accept()
            return True
        return super().event(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.sight.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.sight.update()
