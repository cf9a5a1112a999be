"""The bench of a component: all its faces in one grid, each drawn for real.

Clicking a part in a face selects it there; the cells that the present reach would change
wear an edge of ticks before anything is changed.
"""

from __future__ import annotations

import math
import time
from collections.abc import Iterable
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import (
    QFontMetricsF,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import (
    QSizePolicy,
)

from outgrowth.app.benches import marks
from outgrowth.app.benches.bench import ARROWS, Bench
from outgrowth.app.benches.pen import Pen
from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Component, Document, Path
from outgrowth.core.document.variants import Variant, offered
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw
from outgrowth.core.runtime.hit import hit
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import variant_commands
from outgrowth.workspace.views.variant_cells import Faces, faces_of

_PAD = 18.0
_GAP = 6.0
_MARGIN = 16.0
_HEAD = 26.0
_LEAST_CELL = (96.0, 64.0)
_LEAST_FIT = 0.5
_AT_ONCE = 48
"""Faces that are measured before the next frame even if they are out of sight."""
_SLICE = 0.006
"""Seconds at a time for measuring those out of sight, between events."""


class Cell(NamedTuple):
    """One face: its variant, where its cell lies in the widget, and whether it is offered."""

    variant: Variant
    rect: QRectF
    offered: bool


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
        self._cells: list[Cell] = []
        self._columns: list[tuple[tuple[str, ...], float, float]] = []
        self._rows: list[tuple[tuple[str, ...], float, float]] = []
        self._sizes: dict[Variant, tuple[float, float]] = {}
        self._stale: dict[Variant, None] = {}
        self._resized = False
        self._measured: tuple[str, Document | None] = "", None
        self._faces: tuple[object, Faces] | None = None
        self._arranged: object = None
        self._every: list[Variant] = []
        self._pointed: tuple[Variant, Path] | None = None
        self._within: frozenset[Variant] = frozenset()
        self._names: tuple[str, ...] = ()
        self._labels = 0.0
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

    def _mark_reach(self) -> None:
        self._within = frozenset(self._workspace.reached_variants(self._names))
        self.update()

    def set_zoom(self, zoom: float) -> None:
        self.zoom = zoom
        self.refresh()

    def fit(self, room: float) -> None:
        """The zoom at which the columns fit into `room` px; life size at most, half at least."""
        self.set_zoom(1.0)
        if self._cells and self.sizeHint().width() > room:
            inside = sum(width for _, _, width in self._columns)
            parts = inside - 2 * _PAD * len(self._columns)
            rest = self.sizeHint().width() - parts
            self.set_zoom(min(max((room - rest) / max(parts, 1.0), _LEAST_FIT), 1.0))

    # --- what is where ------------------------------------------------------------------

    @property
    def cells(self) -> tuple[Cell, ...]:
        return tuple(self._cells)

    def view(self, variant: Variant) -> View:
        """One face as it is drawn."""
        workspace = self._workspace
        if self._frame is not None and self._frame[0] == variant:
            return self._frame[1]
        return workspace.engine.view(workspace.document, workspace.selection.owner, variant)

    def here(self) -> View | None:
        cell = self.selected_cell()
        return self.view(cell.variant) if cell is not None else None

    def mapped(self, rect: Rect) -> QRectF:
        cell = self.selected_cell()
        return self._mapped(cell, rect) if cell is not None else QRectF()

    def spot(self, point: QPointF) -> QPointF:
        cell = self.selected_cell()
        return (point - self.spot_of(cell)) / self.zoom if cell is not None else QPointF()

    def aim(self, point: QPointF) -> None:
        """A drag works at the face that it is over."""
        cell = self._cell_at(point)
        if cell is not None and cell.offered:
            self._workspace.select(self._workspace.selection.path, cell.variant)

    def show_frame(self, variant: Variant, frame: View | None) -> None:
        """Shows a face in the middle of a movement; None at rest."""
        self._frame = None if frame is None else (variant, frame)
        self.update()

    def refresh(self) -> None:
        """Lays the cells out anew. Only faces in sight are measured before the next frame;
        those out of sight keep their size until there is time for them."""
        component = self._workspace.component
        if component is None:
            self._idle.stop()
            return
        faces = self._laid_out(component)
        every = self._every
        if component.id != self._measured[0]:
            self._sizes = {}
        if component.id != self._measured[0] or self._workspace.document is not self._measured[1]:
            self._stale = dict.fromkeys(every)
            self._measured = component.id, self._workspace.document
        changed = self._measure(self._first(every))
        arranged = faces, component.not_offered, self.zoom
        if changed or arranged != self._arranged:
            self._arrange(component, faces)
            self._arranged = arranged
        self.update()
        if self._stale:
            self._idle.start()

    def _laid_out(self, component: Component) -> Faces:
        """The faces, worked out anew only where their axes are others."""
        held = self._workspace.selection.variant
        chips = tuple((axis, held.get(axis)) for axis in component.chips)
        made_for = component.id, component.axes, component.columns, chips
        if self._faces is None or made_for != self._faces[0]:
            faces = faces_of(component, held)
            self._faces = made_for, faces
            self._every = [variant for line in faces.lines for variant in line]
            self._stale.update(dict.fromkeys(v for v in self._every if v not in self._sizes))
        return self._faces[1]

    def _first(self, every: list[Variant]) -> list[Variant]:
        """The faces to be measured at once: all if they are few, else those in sight."""
        if len(every) <= _AT_ONCE:
            return every
        shown = set(every)
        area = QRectF(self.visibleRegion().boundingRect())
        seen = [c.variant for c in self._cells if c.rect.intersects(area) and c.variant in shown]
        return [self._workspace.selection.variant, *(seen or every[:_AT_ONCE])]

    def _measure(self, variants: list[Variant]) -> bool:
        """Whether any of these faces has another size than before."""
        changed = False
        for variant in variants:
            if variant in self._stale:
                bounds = draw(*self.view(variant)).bounds
                size = bounds.width, bounds.height
                changed = changed or self._sizes.get(variant) != size
                self._sizes[variant] = size
                del self._stale[variant]
        return changed

    def _measure_some(self) -> None:
        """Measures faces out of sight, for a moment."""
        component = self._workspace.component
        until = time.perf_counter() + _SLICE
        while component is not None and self._stale and time.perf_counter() < until:
            self._resized |= self._measure([next(iter(self._stale))])
        if component is None or not self._stale:
            self._idle.stop()
        if component is not None and not self._stale and self._resized:
            self._resized = False
            self._arrange(component, self._laid_out(component))

    def _arrange(self, component: Component, faces: Faces) -> None:
        usual = next(iter(self._sizes.values()), (0.0, 0.0))
        sizes = [[self._sizes.get(variant, usual) for variant in line] for line in faces.lines]
        widths = [
            max([_LEAST_CELL[0], *(line[n][0] * self.zoom + 2 * _PAD for line in sizes)])
            for n in range(len(faces.columns))
        ]
        heights = [
            max([_LEAST_CELL[1], *(h * self.zoom + 2 * _PAD for _, h in line)]) for line in sizes
        ]
        self._place(component, faces, widths, heights)
        self.setMinimumSize(self.sizeHint())
        self.update()

    def _place(
        self, component: Component, faces: Faces, widths: list[float], heights: list[float]
    ) -> None:
        self._labels = self._label_width(faces.rows)
        left = _MARGIN + self._labels
        y = _MARGIN + _HEAD * max((len(names) > 0 for names in faces.columns), default=0)
        self._cells, self._columns, self._rows = [], [], []
        for names, line, height in zip(faces.rows, faces.lines, heights, strict=True):
            x = left
            self._rows.append((names, y, height))
            for variant, width in zip(line, widths, strict=True):
                cell = Cell(variant, QRectF(x, y, width, height), offered(component, variant))
                self._cells.append(cell)
                x += width + _GAP
            y += height + _GAP
        x = left
        for names, width in zip(faces.columns, widths, strict=True):
            self._columns.append((names, x, width))
            x += width + _GAP

    def spot_of(self, cell: Cell) -> QPointF:
        """Where the part's own corner lies in the widget."""
        placed = self.view(cell.variant).placed
        return QPointF(
            round(cell.rect.center().x() - placed.width * self.zoom / 2),
            round(cell.rect.center().y() - placed.height * self.zoom / 2),
        )

    def _label_width(self, rows: list[tuple[str, ...]]) -> float:
        metrics = QFontMetricsF(self.font())
        words = {name for names in rows for name in names}
        return max((metrics.horizontalAdvance(n) + 18 for n in words), default=0.0)

    def sizeHint(self) -> QSize:
        if not self._cells:
            return QSize(200, 120)
        right = max(cell.rect.right() for cell in self._cells) + _MARGIN
        bottom = max(cell.rect.bottom() for cell in self._cells) + _MARGIN
        return QSize(math.ceil(right), math.ceil(bottom))

    def rect_of(self, variant: Variant, path: Path) -> QRectF | None:
        """Where a node of a face lies in the widget."""
        return self.rects_of(variant, (path,)).get(path)

    def rects_of(self, variant: Variant, paths: Iterable[Path]) -> dict[Path, QRectF]:
        """Where nodes of a face lie in the widget, those that are shown."""
        cell = next((c for c in self._cells if c.variant == variant), None)
        if cell is None:
            return {}
        wanted = set(paths)
        placed = locate(*self.view(variant), "")
        return {at.path: self._mapped(cell, at.rect) for at in placed if at.path in wanted}

    def _mapped(self, cell: Cell, r: Rect) -> QRectF:
        z, spot = self.zoom, self.spot_of(cell)
        return QRectF(spot.x() + r.x * z, spot.y() + r.y * z, r.width * z, r.height * z)

    # --- drawing ------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        area = QRectF(event.rect()) if event is not None else QRectF(self.rect())
        painter.fillRect(area, self._theme.color("bed"))
        self._draw_labels(painter, area)
        for cell in self._cells:
            if cell.rect.intersects(area):
                self._draw_cell(painter, cell)
        self._draw_selection(painter)
        painter.end()

    def _draw_labels(self, painter: QPainter, area: QRectF) -> None:
        font = painter.font()
        painter.setPen(self._theme.color("muted"))
        font.setBold(True)
        painter.setFont(font)
        for names, x, width in self._columns:
            name = painter.fontMetrics().elidedText(
                " · ".join(names), Qt.TextElideMode.ElideRight, int(width)
            )
            where = QRectF(x + 2, _MARGIN - 4, width, _HEAD)
            painter.drawText(
                where, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, name
            )
        for names, y, height in self._rows:
            if y > area.bottom() or y + height < area.top():
                continue
            where = QRectF(_MARGIN, y, self._labels, height)
            painter.drawText(where, Qt.AlignmentFlag.AlignVCenter, "\n".join(names))

    def _draw_cell(self, painter: QPainter, cell: Cell) -> None:
        theme = self._theme
        if not cell.offered:
            painter.setPen(QPen(theme.color("muted"), 1, Qt.PenStyle.DashLine))
            painter.drawRect(cell.rect.adjusted(0.5, 0.5, -0.5, -0.5))
            said = "never drawn" if self._only_shown else "not offered\nclick to offer"
            painter.drawText(cell.rect, Qt.AlignmentFlag.AlignCenter, said)
            return
        painter.fillRect(cell.rect, theme.color("paper"))
        scene, placed = self.view(cell.variant)
        ratio = self.devicePixelRatioF()
        painter.save()
        painter.setClipRect(cell.rect)
        painter.scale(1 / ratio, 1 / ratio)
        scale = self.zoom * ratio
        spot = self.spot_of(cell)
        x, y = spot.x() / self.zoom, spot.y() / self.zoom
        QtPainter(painter, self._rasters, scale).draw(draw(scene, placed), x, y)
        painter.restore()
        if cell.variant in self._within and not self._only_shown:
            marks.within_reach(painter, cell.rect, theme)

    def _draw_selection(self, painter: QPainter) -> None:
        selection = self._workspace.selection
        variant = selection.variant
        if self._pointed is not None and self._pointed != (variant, selection.path):
            rect = self.rect_of(*self._pointed)
            if rect is not None:
                marks.hovered(painter, rect, self._theme)
        if self._only_shown:
            for rect in self.rects_of_paths(selection.paths).values():
                marks.selected(painter, rect, self._theme)
        else:
            self.draw_hand(painter)

    def selected_cell(self) -> Cell | None:
        """The face that is worked at."""
        variant = self._workspace.selection.variant
        return next((c for c in self._cells if c.variant == variant), None)

    # --- the hand -----------------------------------------------------------------------

    def _under(self, point: QPointF) -> tuple[Variant, Path] | None:
        """The face under a point, and the full path of the topmost part of it."""
        cell = self._cell_at(point)
        if cell is None or not cell.offered:
            return None
        scene, placed = self.view(cell.variant)
        at = (point - self.spot_of(cell)) / self.zoom
        found = hit(scene, placed, at.x(), at.y())
        return cell.variant, (found.path if found is not None else ())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self.hand.at = event.position()
        if self.hand.busy:
            self.hand.go_on(event.position())
            return
        self.show_cursor(event.position())
        found = self._under(event.position())
        pointed = (found[0], found[1][: self.depth()]) if found is not None else None
        if pointed != self._pointed:
            self._pointed = pointed
            self.update()

    def leaveEvent(self, event: QEvent | None) -> None:
        self._pointed = None
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        point = event.position()
        found = self._under(point)
        if self.pen.thing is not None and found is not None:
            self._workspace.select(self._workspace.selection.path, found[0])
        if self.begin_drawing(point) or self.begin_pulling(point):
            return
        if found is not None:
            variant, under = found
            if event.modifiers() & Qt.KeyboardModifier.AltModifier:
                self._workspace.select(under, variant)
                return
            if marks.adding(event) and variant == self._workspace.selection.variant:
                self._workspace.toggle(under[: self.depth()])
                return
            self._pick(variant, under)
            self.begin_moving(point)
            return
        empty = self._cell_at(point)
        if empty is not None:
            variant_commands.offer(self._workspace, empty.variant, True)

    def _pick(self, variant: Variant, under: Path) -> None:
        """Selects at the depth of the present selection if that is beside it; several that
        are selected stay so, to be moved."""
        now, face = self._workspace.selection.path or (), self._workspace.selection.variant
        shared = len(now) > 1 and under[: len(now) - 1] == now[:-1]
        path = under[: len(now)] if shared else under[:1]
        several = len(self._workspace.selection.paths) > 1 and variant == face
        if not (several and path in self._workspace.selection.paths):
            self._workspace.select(path, variant)

    def _cell_at(self, point: QPointF) -> Cell | None:
        return next((c for c in self._cells if c.rect.contains(point)), None)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self.hand.go_on(None)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Goes in, to the words of a text at last."""
        found = self._under(event.position()) if event is not None else None
        self.hand.let_go()
        if found is None:
            return
        depth = len(self._workspace.selection.path or ())
        if len(found[1]) > depth and found[1][:depth] == (self._workspace.selection.path or ()):
            self._workspace.select(found[1][: depth + 1])
        else:
            self.edit_words()

    def pick_deepest(self) -> None:
        """Selects the innermost part under the pointer."""
        found = self._under(self.hand.at)
        if found is not None:
            self._workspace.select(found[1], found[0])

    def key(self, key: Qt.Key, held: Qt.KeyboardModifier) -> bool:
        """Arrow keys go from face to face where there is nothing to nudge; with Ctrl, always
        (the part that is selected stays so)."""
        if super().key(key, held):
            return True
        return key in ARROWS and self._face_beside(*ARROWS[key])

    def step_out(self) -> bool:
        """Outermost, a component stays selected: there is always a face."""
        return bool(self._workspace.selection.path) and super().step_out()

    def _face_beside(self, across: int, down: int) -> bool:
        _, variant, path, _ = self._workspace.selection
        index = next((n for n, c in enumerate(self._cells) if c.variant == variant), None)
        if index is None:
            return False
        columns = max(len(self._columns), 1)
        row, column = divmod(index, columns)
        row, column = row + down, column + across
        if 0 <= row < len(self._rows) and 0 <= column < columns:
            target = self._cells[row * columns + column]
            if target.offered:
                self._workspace.select(path, target.variant)
        return True
