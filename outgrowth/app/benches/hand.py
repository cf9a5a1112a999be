"""The hand on a bench: the gesture under way, the handles it can take, the number beside it,
and where a part that is moved would land. Both benches, of screens and of components, have one.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter

from outgrowth.app.benches import marks
from outgrowth.app.benches.gestures import Around, Gesture, Landing
from outgrowth.app.benches.handles import (
    Handle,
    draw_handles,
    draw_number,
    draw_tracks,
    handles,
    track_handles,
)
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Node, Path, lineage
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.rect import union
from outgrowth.core.geometry.snapping import Guide
from outgrowth.core.layout.rectangles import Located, locate_some
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.ladder import Inspection, inspect
from outgrowth.workspace import Workspace

_NEIGHBOURS = 32
"""How many parts a moved one may catch on."""


class Hand:
    """`repaint` is called when what is drawn of it changes."""

    def __init__(self, workspace: Workspace, repaint: Callable[[], object]) -> None:
        self._workspace = workspace
        self._repaint = repaint
        self._gesture: Gesture | None = None
        self.handles: list[Handle] = []
        self.beside = ""
        self.at = QPointF()
        self.landing: tuple[Landing, Rect] | None = None
        self.frame: QRectF | None = None
        self.guides: tuple[Guide, ...] = ()

    @property
    def busy(self) -> bool:
        return self._gesture is not None

    def begin(self, gesture: Gesture) -> None:
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

    def say(self, text: str) -> None:
        self.beside = text
        self._repaint()

    def show_landing(self, landing: tuple[Landing, Rect] | None) -> Landing | None:
        self.landing = landing
        self._repaint()
        return None if landing is None else landing[0]

    def show_frame_of(self, frame: QRectF | None) -> None:
        self.frame = frame
        self._repaint()

    def show_guides(self, guides: tuple[Guide, ...]) -> None:
        self.guides = guides
        self._repaint()

    def handle_at(self, point: QPointF) -> Handle | None:
        """The handle under a point, those drawn last first."""
        return next((h for h in reversed(self.handles) if h.zone.contains(point)), None)

    def cursor_at(self, point: QPointF) -> Qt.CursorShape:
        handle = self.handle_at(point)
        return handle.cursor if handle is not None else Qt.CursorShape.ArrowCursor

    def pulled(self) -> tuple[Inspection | None, list[Path]]:
        """The one part that is selected, and its children, for its handles."""
        place = self._workspace.place
        root_of_screen = place is not None and not place.path and self._workspace.component is None
        if place is None or root_of_screen or len(self._workspace.selection.paths) != 1:
            return None, []
        found = inspect(self._workspace.document, place)
        if found is None:
            return None, []
        inside = place.path if found.instance is not None else place.path[:-1]
        return found, [(*inside, child.id) for child in found.node.children]

    def draw(
        self,
        painter: QPainter,
        theme: Theme,
        found: Inspection | None,
        rects: list[QRectF],
        zoom: float,
    ) -> None:
        """The handles of the part that lies at the first of `rects`, its children at the
        others, and the number beside the pointer."""
        self.handles = handles(found, rects[0], rects[1:], zoom) if found and rects else []
        is_grid = found is not None and rects and found.value("flow") == "grid"
        lines = self._workspace.grid_lines() if is_grid else None
        if lines is not None and found is not None:
            draw_tracks(painter, rects[0], lines, zoom, theme)
            self.handles += track_handles(found, rects[0], lines, zoom)
        draw_handles(painter, self.handles, theme)
        self.draw_gesture(painter, theme)

    def draw_gesture(self, painter: QPainter, theme: Theme) -> None:
        """What the gesture under way shows besides: its frame, and the number."""
        if self.frame is not None:
            marks.framed(painter, self.frame, theme)
        if self.beside:
            draw_number(painter, self.at, self.beside, theme)


def landing_in(
    view: View, root: Node, under: Path, spot: QPointF, moving: Node | None
) -> tuple[Landing, Rect] | None:
    """Where a part would land in an owner's tree: in the innermost box of its own at what is
    `under` the spot (px of the owner), and the line that shows it. What is being moved itself
    is not in the way."""
    line = lineage(root, under[0] if under else root.id)
    if moving is not None and moving in line:
        line = line[: line.index(moving)]
    boxes = [node for node in line if node.kind == "box"]
    return _among(view, root, boxes[-1], spot, moving) if boxes else None


def _among(
    view: View, root: Node, parent: Node, spot: QPointF, moving: Node | None
) -> tuple[Landing, Rect] | None:
    here = _located(view, root, parent)
    if here is None:
        return None
    style, last = here.scene.layout.style, len(parent.children)
    if style.flow == "free":
        # On top of the others, with its corner where the pointer is.
        return Landing(parent.id, last), Rect(spot.x(), spot.y(), 0.0, 0.0)
    row = style.flow == "row"
    rects = _inside(here)
    back = row and style.mirrored
    edge = here.rect.right - 2 if back else (here.rect.x if row else here.rect.y) + 2
    index = 0
    for n, child in enumerate(c for c in parent.children if c is not moving):
        rect = rects.get(child.id)
        if rect is None:
            continue
        middle = rect.center[0] if row else rect.center[1]
        at = spot.x() if row else spot.y()
        if (at > middle) if back else (at < middle):
            break
        index = n + 1
        edge = rect.x - 2 if back else (rect.right if row else rect.bottom) + 2
    at_rect = here.rect
    across = Rect(edge, at_rect.y, 1, at_rect.height)
    return Landing(parent.id, index), across if row else Rect(at_rect.x, edge, at_rect.width, 1)


def _located(view: View, root: Node, box: Node) -> Located | None:
    """A box of the owner's own tree, in its layout."""
    return next(locate_some(*view, "", (() if box is root else (box.id,),)), None)


def _inside(here: Located) -> dict[str, Rect]:
    """Where a box's own children stand, in px of the owner."""
    x, y, placed = here.rect.x, here.rect.y, here.placed
    spots = zip(here.scene.ids, placed.xs, placed.ys, placed.children, strict=True)
    return {i: Rect(x + dx, y + dy, at.width, at.height) for i, dx, dy, at in spots}


def around_of(view: View, root: Node, ids: tuple[str, ...], sight: Rect) -> Around | None:
    """What parts of one box can catch on when they are moved together: their box, and those
    of their neighbours that are in sight, the nearest."""
    line = lineage(root, ids[0]) if ids else ()
    here = _located(view, root, line[-2]) if len(line) > 1 else None
    if here is None:
        return None
    rects = _inside(here)
    mine = [rects[i] for i in ids if i in rects]
    if not mine:
        return None
    whole = union(mine)
    others = [rect for i, rect in rects.items() if i not in ids and rect.meets(sight)]
    x, y = whole.center
    others.sort(key=lambda r: abs(r.center[0] - x) + abs(r.center[1] - y))
    return Around(whole, tuple(others[:_NEIGHBOURS]), here.rect)
