"""What the benches of screens and of components share: gestures and the pen, what gestures
ask for, what is dropped from the Library or from outside, and keys that go in, out, beside
and about."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial

from PyQt6.QtCore import QEvent, QPointF, QRect, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QDragEnterEvent,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QGuiApplication,
    QKeyEvent,
    QMouseEvent,
    QPainter,
)
from PyQt6.QtWidgets import QWidget

from outgrowth.app.benches import marks
from outgrowth.app.benches.drops import DropController
from outgrowth.app.benches.gesture_controller import GestureController
from outgrowth.app.benches.gestures import catching, drawing, moving, pulling
from outgrowth.app.benches.inplace import InPlace
from outgrowth.app.benches.pen import Pen
from outgrowth.app.fields.name_line import NameLine
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Node, Path, lineage
from outgrowth.core.document.variants import Variant
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.rect import union
from outgrowth.core.geometry.snapping import Guide, distances
from outgrowth.core.layout.rectangles import locate_some
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.ladder import Inspection, Place, inspect
from outgrowth.core.runtime.hit import hit
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import (
    arrange_commands,
    naming_commands,
    navigate_commands,
    selection_commands,
    text_commands,
)
from outgrowth.workspace.views.landing import Landing, SnapContext, landing_in, snap_context

_STEP, _LEAP = 1.0, 8.0
# Px by which dimension lines stand off.
_BESIDE = 12.0
# Selected parts of which the distances are shown: more of them would hide the parts.
_MEASURED = 30
# With one of these, an arrow turns the eye or goes to another variant.
_HELD = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class Bench(QWidget):
    """The owner on the bench, as it lies in the widget. Subclasses say where that is.

    cue_dropped(end, path)  an end of the cue that is looked at is to go to the part there
    """

    cue_dropped = pyqtSignal(str, object)
    zoom = 1.0

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme, pen: Pen) -> None:
        super().__init__()
        self._workspace = workspace
        self._rasters = rasters
        self._theme = theme
        self.pen = pen
        self.gestures = GestureController(workspace, self.update)
        self.drops = DropController(workspace, self)
        self._remembered: tuple[tuple[object, object, frozenset[Path]], dict[Path, Rect]] | None = (
            None
        )
        self.setMouseTracking(True)
        self._held_with_pointer = Qt.KeyboardModifier.NoModifier
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        pen.changed.connect(self._pen_changed)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.update()

    # --- what a bench has to say ------------------------------------------------------------

    def current_view(self) -> View | None:
        """What is being worked at: the screen, or the selected variant."""
        raise NotImplementedError

    def mapped(self, rect: Rect) -> QRectF:
        """A rectangle of the owner, in the widget."""
        raise NotImplementedError

    def to_owner(self, point: QPointF) -> QPointF:
        """A point of the widget, in the owner's px."""
        raise NotImplementedError

    def reveal(self, path: Path) -> None:
        """Brings a part into sight, if it lies out of it."""

    # --- what is where ----------------------------------------------------------------------

    def rect_of_path(self, path: Path) -> QRectF | None:
        """Where a node of what is worked at lies in the widget."""
        return self.rects_of_paths((path,)).get(path)

    def rects_of_paths(self, paths: Iterable[Path]) -> dict[Path, QRectF]:
        """Where nodes lie in the widget, those that are shown."""
        view, target = self.current_view(), frozenset(paths)
        if view is None or not target:
            return {}
        return {path: self.mapped(rect) for path, rect in self._node_rects(view, target).items()}

    def _node_rects(self, view: View, target: frozenset[Path]) -> dict[Path, Rect]:
        """The same in the owner's px; as long as only the view moves, not worked out anew."""
        made_for = view.scene, view.placed, target
        if (
            self._remembered is None
            or any(a is not b for a, b in zip(self._remembered[0][:2], made_for[:2], strict=True))
            or self._remembered[0][2] != target
        ):
            rects = {located.path: located.rect for located in locate_some(*view, "", target)}
            self._remembered = made_for, rects
        return self._remembered[1]

    def path_under(self, point: QPointF) -> Path | None:
        """The full path of the topmost node under a point of the widget."""
        view = self.current_view()
        if view is None:
            return None
        own_point = self.to_owner(point)
        under = hit(*view, own_point.x(), own_point.y())
        return None if under is None else under.path

    def depth(self) -> int:
        """How deep a click goes: as deep as what is selected."""
        path = self._workspace.selection.path
        return max(len(path), 1) if path else 1

    # --- what gestures ask for --------------------------------------------------------------

    def show_hint(self, text: str) -> None:
        """Shows a number or a word beside the pointer; "" for none."""
        self.gestures.show_hint(text)

    def landing_at(self, point: QPointF, moving: Node | None) -> Landing | None:
        """Where a part (None: a new one) would go, and shows the line there."""
        return self.gestures.show_landing(self.landing_for(point, moving))

    def forget_landing(self) -> None:
        """Shows no landing any more."""
        self.gestures.show_landing(None)

    def landing_for(self, point: QPointF, moving: Node | None) -> tuple[Landing, Rect] | None:
        """The landing at a point, and the line that shows it; what is being moved itself is
        not in the way."""
        owner, view, under = self._workspace.owner, self.current_view(), self.path_under(point)
        if owner is None or view is None or under is None:
            return None
        own_point = self.to_owner(point)
        return landing_in(view, owner.root, under, (own_point.x(), own_point.y()), moving)

    def spot_in(self, box: str, point: QPointF) -> tuple[float, float]:
        """Where a point of the widget lies in a box of the tree, in px of it."""
        owner = self._workspace.owner
        path = () if owner is None or box == owner.root.id else (box,)
        rect = self.rect_of_path(path) or QRectF()
        return (point.x() - rect.x()) / self.zoom, (point.y() - rect.y()) / self.zoom

    def snap_context(self, ids: tuple[str, ...]) -> SnapContext | None:
        """What parts of one box can catch on when they are moved together."""
        owner, view = self._workspace.owner, self.current_view()
        if owner is None or view is None:
            return None
        corner, end = (self.to_owner(QPointF(p)) for p in (QPointF(), self._far_corner()))
        sight = Rect(corner.x(), corner.y(), end.x() - corner.x(), end.y() - corner.y())
        return snap_context(view, owner.root, ids, sight)

    def _far_corner(self) -> QPointF:
        return QPointF(self.width(), self.height())

    def show_guides(self, guides: tuple[Guide, ...]) -> None:
        """Shows the lines that a moved part has caught on."""
        self.gestures.show_guides(guides)

    def show_frame_of(self, frame: QRectF | None) -> None:
        """Shows what is being drawn or caught, in the widget; None for nothing."""
        self.gestures.show_frame_of(frame)

    def within(self, frame: QRectF, box: Node) -> tuple[Path, ...]:
        """Children of a box of the owner's own tree that a frame touches."""
        paths = [(child.id,) for child in box.children]
        rects = self.rects_of_paths(paths)
        return tuple(path for path in paths if path in rects and rects[path].intersects(frame))

    def edit_words(self, text: Path | None = None) -> bool:
        """Lays an editor over a text, or over the first words in what is selected, which is
        selected again when they are said. Whether there are any."""
        workspace = self._workspace
        texts = text_commands.texts_in(workspace) if text is None else (text,)
        if not texts:
            return False
        inspection = self._inspected(texts[0])
        self.reveal(texts[0])
        rect = self.rect_of_path(texts[0])
        if rect is None or inspection is None:
            return False
        before = workspace.selection.paths
        workspace.select(texts[0])
        self.words = field = InPlace(self, workspace, self._theme, inspection)
        field.finished.connect(partial(self._words_said, texts[0], before))
        field.typed.connect(partial(self._follow_words, field, texts[0]))
        field.show_at(rect, self.zoom)
        return True

    def _follow_words(self, field: InPlace, text: Path) -> None:
        """The field goes with the words, as these take their room."""
        rect = self.rect_of_path(text)
        if rect is not None:
            field.lie_at(rect)

    def _words_said(self, text: Path, before: tuple[Path, ...]) -> None:
        self.setFocus()
        if self._workspace.selection.paths == (text,):
            self._workspace.select_all(before)

    def name_part(self, made: str = "") -> None:
        """Lays a field for its name above the selected part, or for that of the component that
        was `made` of it."""
        workspace = self._workspace
        component = workspace.document.components.get(made)
        name, path = naming_commands.name_here(workspace), workspace.selection.path
        owner, part = workspace.selection.owner, path[-1] if path else ""
        rename = partial(naming_commands.rename_at, workspace, owner, part)
        if component is not None:
            name = component.short_name
            those = naming_commands.Made(made, owner, part)
            rename = partial(naming_commands.name_made, workspace, those)
        if not name or path is None:
            self._workspace.failed.emit(naming_commands.why_unnamed(self._workspace))
            return
        self.reveal(path)
        rect = self.rect_of_path(path) or self.rect_of_path(())
        if rect is None:
            return
        line = NameLine(self, f"Name of {name}", name, rename)
        line.finished.connect(self.setFocus)
        workspace.selection_changed.connect(line.finish)
        wide = max(line.fontMetrics().horizontalAdvance(name) + 48, 120)
        left = min(max(round(rect.x()), 4), self.width() - wide - 4)
        top = min(max(round(rect.y()) - 34, 4), self.height() - 30)
        line.show_at(QRect(left, top, wide, 26))

    # --- drawing over the parts -------------------------------------------------------------

    def draw_hand(self, painter: QPainter) -> None:
        """Landing, selection, handles, guides, and what is about to be exchanged."""
        theme = self._theme
        if self.gestures.landing is not None:
            line = self.mapped(self.gestures.landing[1])
            painter.fillRect(line.adjusted(-1, -1, 1, 1), theme.color("clay"))
        paths = self._workspace.selection.paths
        result, children = self.gestures.pulled()
        exchanged = () if self.drops.exchanging is None else (self.drops.exchanging,)
        rects = self.rects_of_paths((*paths, *children, *exchanged))
        for path in exchanged or paths:
            if path in rects:
                marks.selected(painter, rects[path], theme)
        lead = paths[:1]
        drawn = [rects[path] for path in (*lead, *children) if path in rects]
        visible = bool(lead) and lead[0] in rects and not exchanged
        self.gestures.draw(painter, theme, result if visible else None, drawn, self.zoom)
        for guide in self.gestures.guides:
            ends = self.mapped(Rect(guide.x1, guide.y1, 0.0, 0.0)).topLeft()
            to = self.mapped(Rect(guide.x2, guide.y2, 0.0, 0.0)).topLeft()
            marks.guided(painter, ends, to, guide.distance, theme)
        if 1 < len(paths) <= _MEASURED and not self.gestures.busy:
            self._draw_distances(painter, [rects[path] for path in paths if path in rects])

    def _draw_distances(self, painter: QPainter, rects: list[QRectF]) -> None:
        """How far apart selected neighbours stand: beside them, to hide nothing of them."""
        plain = [Rect(r.x(), r.y(), r.width(), r.height()) for r in rects]
        around = union(plain)
        top, right = around.y - _BESIDE, around.right + _BESIDE
        for x1, y1, x2, y2, distance in distances(plain):
            ends = QPointF(x1, top), QPointF(x2, top)
            if x1 == x2:
                ends = QPointF(right, y1), QPointF(right, y2)
            marks.guided(painter, *ends, round(distance / self.zoom, 1), self._theme)

    # --- gestures ---------------------------------------------------------------------------

    def _pen_changed(self) -> None:
        drawn = self.pen.drawn_kind is not None
        self.setCursor(Qt.CursorShape.CrossCursor if drawn else Qt.CursorShape.ArrowCursor)

    def show_cursor(self, point: QPointF) -> None:
        """The cursor for what a press would do here."""
        drawn = self.pen.drawn_kind is not None
        self.setCursor(Qt.CursorShape.CrossCursor if drawn else self.gestures.cursor_at(point))

    def begin_drawing(self, point: QPointF) -> bool:
        """Starts to draw what the pen holds; whether it holds something."""
        drawn_kind = self.pen.drawn_kind
        if drawn_kind is None:
            return False
        self.pen.lay_down()
        self.gestures.begin(drawing(self._workspace, self, drawn_kind, point))
        return True

    def begin_pulling(self, point: QPointF) -> bool:
        """Takes a handle, if there is one."""
        handle = self.gestures.handle_at(point)
        if handle is not None:
            self.gestures.begin(pulling(self._workspace, self, handle, point))
        return handle is not None

    def begin_moving(self, point: QPointF) -> None:
        """Goes on to move what is selected, or to catch parts with a frame."""
        node = selection_commands.own_part(self._workspace)
        if node is not None:
            self.gestures.begin(moving(self._workspace, self, node, point))
        elif self._workspace.owner is not None:
            root = self._workspace.owner.root
            self.gestures.begin(catching(self._workspace, self, root, point))

    def begin_copying(self, point: QPointF, pick: Callable[[], object]) -> None:
        """With Alt: goes on to drag copies of what is selected; a click does `pick`, which selects
        the innermost part under the pointer."""
        node = selection_commands.own_part(self._workspace)
        if node is not None:
            self.gestures.begin(moving(self._workspace, self, node, point, pick))
        else:
            pick()

    def begin_adding(self, point: QPointF, under: Path) -> None:
        """A click adds what is under the pointer to the selection, or takes it out; a drag adds
        what it frames in the innermost box there."""
        owner = self._workspace.owner
        line = lineage(owner.root, under[0] if under else owner.root.id) if owner else []
        boxes = [node for node in line if node.kind == "box"]
        toggle = partial(self._workspace.toggle, under[: self.depth()])
        if boxes:
            self.gestures.begin(catching(self._workspace, self, boxes[-1], point, toggle))
        else:
            toggle()

    def copy_wanted(self) -> bool:
        """Whether Alt is held: what is dragged then is a copy."""
        held = self._held_with_pointer | QGuiApplication.keyboardModifiers()
        return bool(held & Qt.KeyboardModifier.AltModifier)

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QMouseEvent):
            self._held_with_pointer = event.modifiers()
        return super().event(event)

    # --- keys -------------------------------------------------------------------------------

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or not self.key(Qt.Key(event.key()), event.modifiers()):
            super().keyPressEvent(event)

    def key(self, key: Qt.Key, modifiers: Qt.KeyboardModifier) -> bool:
        """Esc lets go, lays the pen down, or goes out; Enter goes in; page keys go from
        neighbour to neighbour; arrows nudge what stands free."""
        if key == Qt.Key.Key_Escape:
            return self.pen.lay_down() or self.gestures.let_go() or self.step_out()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            return self.step_in()
        if key in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            number = 1 if key == Qt.Key.Key_PageDown else -1
            return navigate_commands.step_beside(self._workspace, number)
        if key in ARROWS and not modifiers & Qt.KeyboardModifier.ControlModifier:
            dx, dy = ARROWS[key]
            by = _LEAP if modifiers & Qt.KeyboardModifier.ShiftModifier else _STEP
            return arrange_commands.nudge(self._workspace, dx * by, dy * by)
        return False

    def offer_in_flow(self, key: Qt.Key, modifiers: Qt.KeyboardModifier) -> bool:
        """Where an arrow can't nudge, since the part stands in a row or column: says so, and
        offers what it can. Whether it did."""
        if key not in ARROWS or modifiers & _HELD:
            return False
        dx, dy = ARROWS[key]
        return arrange_commands.offer_in_flow(self._workspace, dx * _STEP, dy * _STEP)

    def step_out(self) -> bool:
        """From a node to what holds it."""
        return navigate_commands.step_out(self._workspace)

    def step_in(self) -> bool:
        """From a box to its first child, into an instance, or into words: those of a text, and of
        an instance that has no others."""
        workspace = self._workspace
        path = workspace.selection.path
        inspection = self._inspected(path) if path is not None else None
        if inspection is not None and (inspection.instance or inspection.node.kind == "text"):
            texts = text_commands.texts_in(workspace)
            if len(texts) == 1:
                return self.edit_words(texts[0])
        return navigate_commands.step_in(workspace)

    def is_text(self, path: Path, variant: Variant | None = None) -> bool:
        """Whether what lies at a path is a text, in a variant or the one at hand."""
        inspection = self._inspected(path, variant)
        return inspection is not None and inspection.node.kind == "text"

    def _inspected(self, path: Path, variant: Variant | None = None) -> Inspection | None:
        selection = self._workspace.selection
        shown = selection.variant if variant is None else variant
        place = Place(selection.owner, path, shown, self._workspace.rooms)
        return inspect(self._workspace.document, place)

    # --- dropping ---------------------------------------------------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and self.drops.takes(event.mimeData()):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        if event is not None:
            self.drops.move(event.mimeData(), event.position(), _shift(event.modifiers()))
            event.acceptProposedAction()

    def dragLeaveEvent(self, event: QDragLeaveEvent | None) -> None:
        self.drops.forget()

    def dropEvent(self, event: QDropEvent | None) -> None:
        if event is not None:
            self.drops.drop(event.mimeData(), event.position(), _shift(event.modifiers()))
            event.acceptProposedAction()

    def pick_deepest(self) -> None:
        """Selects the innermost part under the pointer."""

    def aim(self, point: QPointF) -> None:
        """Turns to what is under a drag, where several things lie side by side."""


def _shift(held: Qt.KeyboardModifier) -> bool:
    return bool(held & Qt.KeyboardModifier.ShiftModifier)
