"""The bench of a component: all its variants in one grid, each drawn for real.

Clicking a part in a variant selects it there. Before anything is changed, what the present
reach leaves out stands back, and the headings of what it holds carry a bar.
"""

from __future__ import annotations

import math
import time
from collections.abc import Iterable, Sequence
from functools import partial

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import (
    QFontMetricsF,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
)
from PyQt6.QtWidgets import (
    QSizePolicy,
)

from outgrowth.app.benches import marks
from outgrowth.app.benches.bench import ARROWS, Bench
from outgrowth.app.benches.headings import Headings
from outgrowth.app.benches.pen import Pen
from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.paint.paths import qrect
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Path
from outgrowth.core.document.variants import Variant
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw
from outgrowth.core.runtime.hit import hit
from outgrowth.workspace import Workspace, measures
from outgrowth.workspace.commands import variant_commands
from outgrowth.workspace.selection import picked_path
from outgrowth.workspace.views.variant_cells import HEAD, MARGIN, VariantCell, VariantCells

# How much is seen of what an edit would leave as it is.
_STANDS_BACK = 0.5
# Seconds at a time for measuring those out of sight, between events.
_SLICE = 0.006


class VariantGrid(Bench):
    """The grid itself; put it into a scroll area. `only_shown` leaves out everything that
    is for editing."""

    def __init__(
        self,
        workspace: Workspace,
        rasters: Rasters,
        theme: Theme,
        pen: Pen,
        only_shown: bool = False,
    ) -> None:
        super().__init__(workspace, rasters, theme, pen)
        self._only_shown = only_shown
        self.laid = VariantCells(
            workspace, self.view, lambda text: QFontMetricsF(self.font()).horizontalAdvance(text)
        )
        self.headings = Headings(self, workspace, self.laid)
        self._pointed: tuple[Variant, Path] | None = None
        self._within: frozenset[Variant] = frozenset()
        self._stands_back = False
        self._empty: Variant | None = None
        self._names: tuple[str, ...] = ()
        self._lit: tuple[Path, ...] = ()
        self._frame: tuple[Variant, View] | None = None
        self.setAccessibleName("Variants")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._idle = QTimer(self)
        self._idle.setInterval(0)
        self._idle.timeout.connect(self._measure_some)
        workspace.document_changed.connect(self.refresh)
        workspace.selection_changed.connect(self.refresh)
        workspace.selection_changed.connect(self._mark_reach)
        workspace.panels_due.connect(self._mark_reach)
        self.refresh()
        self._mark_reach()

    def attend(self, names: tuple[str, ...]) -> None:
        """Which properties are being looked at: cells wear the edge for an edit of them."""
        self._names = names
        self._mark_reach()

    def light(self, paths: Sequence[Path]) -> None:
        """Edges parts of the variant at hand: those that something elsewhere speaks about."""
        self._lit = tuple(paths)
        self.update()

    def _mark_reach(self) -> None:
        self._within = frozenset(measures.reached_variants(self._workspace, self._names))
        # Nothing is marked where all is reached.
        offered = [cell.variant for cell in self.laid.cells if cell.offered]
        self._stands_back = not self._within.issuperset(offered)
        self.update()

    def set_zoom(self, zoom: float) -> None:
        """One px of a variant is so many px of the bench."""
        self.zoom = self.laid.zoom = zoom
        self.refresh()
        self.center()

    def fit(self, width: float, height: float) -> None:
        """As large as all variants have room in so many px; if they have none, the columns."""
        self.refresh()
        sight = QRectF(self.visibleRegion().boundingRect())
        rect = Rect(sight.x(), sight.y(), sight.width(), sight.height())
        self.set_zoom(self.laid.fit(width, height, rect))

    def center(self) -> None:
        """What is smaller than the bench stands in its middle, and stays there while it is
        edited."""
        room = self.parentWidget() or self
        self.laid.center(room.width(), room.height())
        self.refresh()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.center()

    # --- what is where ------------------------------------------------------------------

    @property
    def cells(self) -> tuple[VariantCell, ...]:
        """All cells, row by row."""
        return tuple(self.laid.cells)

    def view(self, variant: Variant) -> View:
        """One variant as it is drawn."""
        workspace = self._workspace
        if self._frame is not None and self._frame[0] == variant:
            return self._frame[1]
        return workspace.engine.view(workspace.document, workspace.selection.owner, variant)

    def current_view(self) -> View | None:
        """The selected variant as it is drawn."""
        cell = self.selected_cell()
        return self.view(cell.variant) if cell is not None else None

    def mapped(self, rect: Rect) -> QRectF:
        """A rectangle of the selected variant, in the widget."""
        cell = self.selected_cell()
        return qrect(self.laid.mapped(cell, rect)) if cell is not None else QRectF()

    def to_owner(self, point: QPointF) -> QPointF:
        """A point of the widget, in px of the selected variant."""
        cell = self.selected_cell()
        return (point - self.corner_of(cell)) / self.zoom if cell is not None else QPointF()

    def aim(self, point: QPointF) -> None:
        """A drag works at the variant that it is over."""
        cell = self._cell_at(point)
        if cell is None or not cell.offered or cell.variant == self._workspace.selection.variant:
            return
        others = self._workspace.selection.paths
        self._workspace.select(self._workspace.selection.path, cell.variant)
        self._workspace.select_all(others)

    def show_frame(self, variant: Variant, frame: View | None) -> None:
        """Shows a variant in the middle of a movement; None at rest."""
        self._frame = None if frame is None else (variant, frame)
        self.update()

    def refresh(self) -> None:
        """Lays the cells out for the document as it is."""
        self.headings.end_naming()  # the value may be elsewhere, or gone
        if self._workspace.component is None:
            self._idle.stop()
            return
        sight = QRectF(self.visibleRegion().boundingRect())
        self.laid.refresh(Rect(sight.x(), sight.y(), sight.width(), sight.height()))
        self.setMinimumSize(self.sizeHint())
        self.update()
        if self.laid.pending:
            self._idle.start()

    def _measure_some(self) -> None:
        """Measures variants out of sight, for a moment."""
        until = time.perf_counter() + _SLICE
        if self.laid.measure_more(lambda: time.perf_counter() >= until):
            self.setMinimumSize(self.sizeHint())
            self.update()
        if not self.laid.pending:
            self._idle.stop()

    def corner_of(self, cell: VariantCell) -> QPointF:
        """Where the variant's own corner lies in the widget."""
        return QPointF(*self.laid.corner_of(cell))

    def sizeHint(self) -> QSize:
        width, height = self.laid.size
        return QSize(math.ceil(width), math.ceil(height))

    def rect_of(self, variant: Variant, path: Path) -> QRectF | None:
        """Where a node of a variant lies in the widget."""
        return self.rects_of(variant, (path,)).get(path)

    def rects_of(self, variant: Variant, paths: Iterable[Path]) -> dict[Path, QRectF]:
        """Where nodes of a variant lie in the widget, those that are shown."""
        cell = self.laid.cell_of(variant)
        if cell is None:
            return {}
        target = set(paths)
        placed = locate(*self.view(variant), "")
        return {n.path: qrect(self.laid.mapped(cell, n.rect)) for n in placed if n.path in target}

    # --- drawing ------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        area = QRectF(event.rect()) if event is not None else QRectF(self.rect())
        painter.fillRect(area, self._theme.color("bed"))
        self._draw_labels(painter, area)
        sight = Rect(area.x(), area.y(), area.width(), area.height())
        for cell in self.laid.cells:
            if cell.rect.meets(sight):
                self._draw_cell(painter, cell)
        self._draw_selection(painter)
        painter.end()

    def _draw_labels(self, painter: QPainter, area: QRectF) -> None:
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        marked = self._stands_back and not self._only_shown
        reached = [c.rect for c in self.laid.cells if marked and c.variant in self._within]
        self._draw_columns(painter, {rect.x for rect in reached})
        self._draw_rows(painter, area, {rect.y for rect in reached})
        if not self._only_shown:
            self.headings.draw_flags(painter, self._theme)

    def _draw_columns(self, painter: QPainter, reached: set[float]) -> None:
        top = self.laid.origin[1]
        for names, x, width, _ in self.laid.columns:
            if x in reached:
                marks.reached(painter, QRectF(x, top + MARGIN + HEAD - 6, width, 3), self._theme)
            painter.setPen(self._theme.color("muted"))
            name = painter.fontMetrics().elidedText(
                " · ".join(names), Qt.TextElideMode.ElideRight, int(width)
            )
            rect = QRectF(x + 2, top + MARGIN - 6, width, HEAD)
            painter.drawText(rect, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, name)

    def _draw_rows(self, painter: QPainter, area: QRectF, reached: set[float]) -> None:
        for names, y, height, _ in self.laid.rows:
            if y > area.bottom() or y + height < area.top():
                continue
            x = self.laid.origin[0] + MARGIN
            rect = QRectF(x, y, self.laid.label_width, height)
            if y in reached:
                marks.reached(painter, QRectF(x - 8, y, 3, height), self._theme)
            painter.setPen(self._theme.color("muted"))
            painter.drawText(rect, Qt.AlignmentFlag.AlignVCenter, "\n".join(names))

    def _draw_cell(self, painter: QPainter, cell: VariantCell) -> None:
        theme, rect = self._theme, qrect(cell.rect)
        if not cell.offered:
            painter.fillRect(rect, theme.between("bed", "panel"))
            if self._only_shown or cell.variant == self._empty:
                painter.setPen(theme.color("ink"))
                text = "never drawn" if self._only_shown else "not offered\nclick to offer"
                painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, text)
            return
        back = self._stands_back and cell.variant not in self._within and not self._only_shown
        painter.fillRect(rect, theme.between("bed", "paper") if back else theme.color("paper"))
        scene, placed = self.view(cell.variant)
        ratio = self.devicePixelRatioF()
        painter.save()
        painter.setClipRect(rect)
        painter.setOpacity(_STANDS_BACK if back else 1.0)
        painter.scale(1 / ratio, 1 / ratio)
        scale = self.zoom * ratio
        point = self.corner_of(cell)
        x, y = point.x() / self.zoom, point.y() / self.zoom
        QtPainter(painter, self._rasters, scale).draw(draw(scene, placed), x, y)
        painter.restore()

    def _draw_selection(self, painter: QPainter) -> None:
        selection = self._workspace.selection
        variant = selection.variant
        if self._pointed is not None and self._pointed != (variant, selection.path):
            rect = self.rect_of(*self._pointed)
            if rect is not None:
                marks.hovered(painter, rect, self._theme)
        for path in self._lit:
            rect = self.rect_of(variant, path)
            if rect is not None:
                marks.hovered(painter, rect, self._theme)
        if self._only_shown:
            for rect in self.rects_of_paths(selection.paths).values():
                marks.selected(painter, rect, self._theme)
        else:
            self.draw_hand(painter)

    def selected_cell(self) -> VariantCell | None:
        """The variant that is worked at."""
        return self.laid.cell_of(self._workspace.selection.variant)

    # --- gestures -----------------------------------------------------------------------

    def _under(self, point: QPointF) -> tuple[Variant, Path] | None:
        """The variant under a point, and the full path of the topmost part of it."""
        cell = self._cell_at(point)
        if cell is None or not cell.offered:
            return None
        scene, placed = self.view(cell.variant)
        own_point = (point - self.corner_of(cell)) / self.zoom
        under = hit(scene, placed, own_point.x(), own_point.y())
        return cell.variant, (under.path if under is not None else ())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self.gestures.pointer = event.position()
        if self.headings.busy:
            self.headings.pull(event.position())
            return
        if self.gestures.busy:
            self.gestures.go_on(event.position())
            return
        self.show_cursor(event.position())
        if self.headings.at(event.position()) is not None:
            self.setCursor(Qt.CursorShape.OpenHandCursor)
        under = self._under(event.position())
        pointed = (under[0], under[1][: self.depth()]) if under is not None else None
        cell = self._cell_at(event.position())
        empty = cell.variant if cell is not None and not cell.offered else None
        if (pointed, empty) != (self._pointed, self._empty):
            self._pointed, self._empty = pointed, empty
            self.update()

    def leaveEvent(self, event: QEvent | None) -> None:
        self._pointed = self._empty = None
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        point = event.position()
        result = self._under(point)
        if self.pen.drawn_kind is not None and result is not None:
            self._workspace.select(self._workspace.selection.path, result[0])
        if self.begin_drawing(point) or self.begin_pulling(point):
            return
        if result is not None:
            variant, under = result
            if event.modifiers() & Qt.KeyboardModifier.AltModifier:
                self._pick(variant, under)
                self.begin_copying(point, partial(self._workspace.select, under, variant))
                return
            if marks.adding(event) and variant == self._workspace.selection.variant:
                self.begin_adding(point, under)
                return
            self._pick(variant, under)
            self.begin_moving(point)
            return
        empty = self._cell_at(point)
        if empty is None and self.headings.press(point):
            return
        if empty is not None:
            variant_commands.offer(self._workspace, empty.variant, True)

    def _pick(self, variant: Variant, under: Path) -> None:
        """Selects at the depth of the present selection if that is beside it; several that
        are selected stay so, to be moved."""
        path = picked_path(self._workspace.selection, under)
        same = variant == self._workspace.selection.variant
        several = len(self._workspace.selection.paths) > 1 and same
        if not (several and path in self._workspace.selection.paths):
            self._workspace.select(path, variant)

    def _cell_at(self, point: QPointF) -> VariantCell | None:
        return self.laid.cell_at(point.x(), point.y())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self.headings.busy:
            self.headings.release()
            return
        self.gestures.go_on(None)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Edits the words that are there; else goes in."""
        if event is not None and self.headings.rename(event.position()):
            return
        under = self._under(event.position()) if event is not None else None
        self.gestures.let_go()
        if under is None:
            return
        variant, path = under
        if self.is_text(path, variant):
            self._workspace.select(self._workspace.selection.path, variant)
            self.edit_words(path)
            return
        depth = len(self._workspace.selection.path or ())
        if len(path) > depth and path[:depth] == (self._workspace.selection.path or ()):
            self._workspace.select(path[: depth + 1])

    def pick_deepest(self) -> None:
        """Selects the innermost part under the pointer."""
        under = self._under(self.gestures.pointer)
        if under is not None:
            self._workspace.select(under[1], under[0])

    def key(self, key: Qt.Key, modifiers: Qt.KeyboardModifier) -> bool:
        """Arrow keys go from variant to variant where there is nothing to nudge; with Ctrl, always
        (the part that is selected stays so)."""
        if super().key(key, modifiers):
            return True
        if key in ARROWS and self._variant_beside(*ARROWS[key]):
            return True
        return self.offer_in_flow(key, modifiers)

    def step_out(self) -> bool:
        """Outermost, a component stays selected: there is always a variant."""
        return bool(self._workspace.selection.path) and super().step_out()

    def _variant_beside(self, across: int, down: int) -> bool:
        _, variant, path, _ = self._workspace.selection
        if self.laid.cell_of(variant) is None:
            return False
        target = self.laid.cell_beside(variant, across, down)
        if target is not None and target.offered:
            self._workspace.select(path, target.variant)
        return True
