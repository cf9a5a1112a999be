"""What a hand does on a bench: the gesture under way, the handles it can take, the number beside
it, and where a part that is moved would land. Both benches, of screens and of components, have
one.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter

from outgrowth.app.benches import marks
from outgrowth.app.benches.gestures import Gesture
from outgrowth.app.benches.handles import (
    Handle,
    draw_handles,
    draw_number,
    draw_tracks,
    handles,
    track_handles,
)
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Path
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.snapping import Guide
from outgrowth.core.resolve.ladder import Inspection, inspect
from outgrowth.workspace import Workspace, measures
from outgrowth.workspace.views.landing import Landing


class GestureController:
    """`repaint` is called when what is drawn of it changes."""

    def __init__(self, workspace: Workspace, repaint: Callable[[], object]) -> None:
        self._workspace = workspace
        self._repaint = repaint
        self._gesture: Gesture | None = None
        self.handles: list[Handle] = []
        self.beside = ""
        self.pointer = QPointF()
        self.landing: tuple[Landing, Rect] | None = None
        self.frame: QRectF | None = None
        self.guides: tuple[Guide, ...] = ()

    @property
    def busy(self) -> bool:
        """Whether a gesture is under way."""
        return self._gesture is not None

    def begin(self, gesture: Gesture) -> None:
        """Takes up a gesture, up to its first move."""
        self._gesture = gesture
        next(gesture)

    def go_on(self, point: QPointF | None) -> None:
        """Sends the gesture where the pointer is, or that the button went up."""
        gesture = self._gesture
        if gesture is None:
            return
        try:
            gesture.send(point)
        except StopIteration:
            self._gesture = None
        if point is None:
            self._gesture = None

    def let_go(self) -> bool:
        """Ends a gesture as if it had not been; whether there was one."""
        gesture, self._gesture = self._gesture, None
        if gesture is None:
            return False
        gesture.close()
        return True

    def show_hint(self, text: str) -> None:
        """Shows a number or a word beside the pointer."""
        self.beside = text
        self._repaint()

    def show_landing(self, landing: tuple[Landing, Rect] | None) -> Landing | None:
        """Shows where a part would land, and gives it back."""
        self.landing = landing
        self._repaint()
        return None if landing is None else landing[0]

    def show_frame_of(self, frame: QRectF | None) -> None:
        """Shows a frame that is being pulled open."""
        self.frame = frame
        self._repaint()

    def show_guides(self, guides: tuple[Guide, ...]) -> None:
        """Shows the lines that a moved part has caught on."""
        self.guides = guides
        self._repaint()

    def handle_at(self, point: QPointF) -> Handle | None:
        """The handle under a point, those drawn last first."""
        return next((h for h in reversed(self.handles) if h.zone.contains(point)), None)

    def cursor_at(self, point: QPointF) -> Qt.CursorShape:
        """How the pointer looks at a point, by the handle there."""
        handle = self.handle_at(point)
        return handle.cursor if handle is not None else Qt.CursorShape.ArrowCursor

    def pulled(self) -> tuple[Inspection | None, list[Path]]:
        """The one part that is selected, and its children, for its handles."""
        place = self._workspace.place
        root_of_screen = place is not None and not place.path and self._workspace.component is None
        if place is None or root_of_screen or len(self._workspace.selection.paths) != 1:
            return None, []
        inspection = inspect(self._workspace.document, place)
        if inspection is None:
            return None, []
        inside = place.path if inspection.instance is not None else place.path[:-1]
        return inspection, [(*inside, child.id) for child in inspection.node.children]

    def draw(
        self,
        painter: QPainter,
        theme: Theme,
        inspection: Inspection | None,
        rects: list[QRectF],
        zoom: float,
    ) -> None:
        """The handles of the part that lies at the first of `rects`, its children at the
        others, and the number beside the pointer."""
        self.handles = (
            handles(inspection, rects[0], rects[1:], zoom) if inspection and rects else []
        )
        is_grid = inspection is not None and rects and inspection.value("flow") == "grid"
        lines = measures.grid_lines(self._workspace) if is_grid else None
        if lines is not None and inspection is not None:
            draw_tracks(painter, rects[0], lines, zoom, theme)
            self.handles += track_handles(inspection, rects[0], lines, zoom)
        draw_handles(painter, self.handles, theme)
        self.draw_gesture(painter, theme)

    def draw_gesture(self, painter: QPainter, theme: Theme) -> None:
        """What the gesture under way shows besides: its frame, and the number."""
        if self.frame is not None:
            marks.framed(painter, self.frame, theme)
        if self.beside:
            draw_number(painter, self.pointer, self.beside, theme)
