"""The bench of a component: all its faces in one grid, each drawn for real.

Clicking a part in a face selects it there; the cells that the present reach would change
wear an edge of ticks before anything is changed.
"""

from __future__ import annotations

import math
from itertools import product
from typing import NamedTuple

from immutables import Map
from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import QScrollArea, QSizePolicy, QWidget

from outgrowth.app.benches import marks
from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.session import Session, deeds
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Axis, AxisValue, Component, Path
from outgrowth.core.document.variants import Variant, is_switch, offered
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.tween import View
from outgrowth.core.paint import draw
from outgrowth.core.runtime.hit import hit

_PAD = 18.0
_GAP = 6.0
_MARGIN = 16.0
_HEAD = 26.0
_LEAST_CELL = (96.0, 64.0)
_LEAST_FIT = 0.5


class Cell(NamedTuple):
    """One face: its variant, where its cell lies, and where the part lies in the widget."""

    variant: Variant
    rect: QRectF
    spot: QPointF
    offered: bool


class VariantGrid(QWidget):
    """The grid itself; put it into a scroll area."""

    def __init__(self, session: Session, rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self._session = session
        self._rasters = rasters
        self._theme = theme
        self._cells: list[Cell] = []
        self._columns: list[tuple[str, float, float]] = []
        self._rows: list[tuple[tuple[str, ...], float, float]] = []
        self._pointed: tuple[Variant, Path] | None = None
        self._within: frozenset[Variant] = frozenset()
        self._names: tuple[str, ...] = ()
        self._labels = 0.0
        self.zoom = 1.0
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Variants")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        session.document_changed.connect(self.refresh)
        session.selection_changed.connect(self.refresh)
        self.refresh()

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def attend(self, names: tuple[str, ...]) -> None:
        """Which properties are being looked at: cells wear the edge for an edit of them."""
        self._names = names
        self._within = frozenset(self._session.reached_variants(names))
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
        session = self._session
        return session.engine.view(session.document, session.selection.owner, variant)

    def refresh(self) -> None:
        """Lays the cells out anew; only faces that changed cost anything."""
        component = self._session.component
        if component is None:
            return
        self._arrange(component)
        self._within = frozenset(self._session.reached_variants(self._names))
        self.setMinimumSize(self.sizeHint())
        self.update()

    def _arrange(self, component: Component) -> None:
        row_axes, column_axis = arranged(component)
        columns = (
            [{}]
            if column_axis is None
            else [{column_axis.id: value.id} for value in column_axis.values]
        )
        rows = [
            {axis.id: value.id for axis, value in zip(row_axes, values, strict=True)}
            for values in product(*(axis.values for axis in row_axes))
        ]
        faces = [[Map(row | column) for column in columns] for row in rows]
        bounds = {v: draw(*self.view(v)).bounds for line in faces for v in line}
        widths = [
            max([_LEAST_CELL[0], *(bounds[line[n]].width * self.zoom + 2 * _PAD for line in faces)])
            for n in range(len(columns))
        ]
        heights = [
            max([_LEAST_CELL[1], *(bounds[v].height * self.zoom + 2 * _PAD for v in line)])
            for line in faces
        ]
        self._place(component, (faces, widths, heights), (row_axes, column_axis))

    def _place(
        self,
        component: Component,
        grid: tuple[list[list[Variant]], list[float], list[float]],
        axes: tuple[list[Axis], Axis | None],
    ) -> None:
        faces, widths, heights = grid
        row_axes, column_axis = axes
        self._labels = self._label_width(row_axes)
        left = _MARGIN + self._labels
        top = _MARGIN + (_HEAD if column_axis is not None else 0.0)
        self._cells, self._columns, self._rows = [], [], []
        y = top
        for line, height in zip(faces, heights, strict=True):
            x = left
            names = tuple(
                face_text(a, value)
                for a in row_axes
                if (value := a.value(line[0][a.id])) is not None
            )
            self._rows.append((names, y, height))
            for variant, width in zip(line, widths, strict=True):
                self._cells.append(self._cell(component, variant, QRectF(x, y, width, height)))
                x += width + _GAP
            y += height + _GAP
        x = left
        for n, width in enumerate(widths):
            name = ""
            if column_axis is not None:
                name = face_text(column_axis, column_axis.values[n])
            self._columns.append((name, x, width))
            x += width + _GAP

    def _cell(self, component: Component, variant: Variant, rect: QRectF) -> Cell:
        placed = self.view(variant).placed
        spot = QPointF(
            round(rect.center().x() - placed.width * self.zoom / 2),
            round(rect.center().y() - placed.height * self.zoom / 2),
        )
        return Cell(variant, rect, spot, offered(component, variant))

    def _label_width(self, axes: list[Axis]) -> float:
        metrics = QFontMetricsF(self.font())
        names = [face_text(axis, value) for axis in axes for value in axis.values]
        return max((metrics.horizontalAdvance(n) + 18 for n in names), default=0.0)

    def sizeHint(self) -> QSize:
        if not self._cells:
            return QSize(200, 120)
        right = max(cell.rect.right() for cell in self._cells) + _MARGIN
        bottom = max(cell.rect.bottom() for cell in self._cells) + _MARGIN
        return QSize(math.ceil(right), math.ceil(bottom))

    def rect_of(self, variant: Variant, path: Path) -> QRectF | None:
        """Where a node of a face lies in the widget."""
        cell = next((c for c in self._cells if c.variant == variant), None)
        if cell is None:
            return None
        scene, placed = self.view(variant)
        for at in locate(scene, placed, ""):
            if at.path == path or (not path and not at.path):
                return self._mapped(cell, at.rect)
        return None

    def _mapped(self, cell: Cell, r: Rect) -> QRectF:
        z = self.zoom
        return QRectF(cell.spot.x() + r.x * z, cell.spot.y() + r.y * z, r.width * z, r.height * z)

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
        for name, x, width in self._columns:
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
            painter.drawText(cell.rect, Qt.AlignmentFlag.AlignCenter, "not offered\nclick to offer")
            return
        painter.fillRect(cell.rect, theme.color("paper"))
        scene, placed = self.view(cell.variant)
        ratio = self.devicePixelRatioF()
        painter.save()
        painter.setClipRect(cell.rect)
        painter.scale(1 / ratio, 1 / ratio)
        scale = self.zoom * ratio
        x, y = cell.spot.x() / self.zoom, cell.spot.y() / self.zoom
        QtPainter(painter, self._rasters, scale).draw(draw(scene, placed), x, y)
        painter.restore()
        if cell.variant in self._within:
            marks.within_reach(painter, cell.rect, theme)

    def _draw_selection(self, painter: QPainter) -> None:
        _, variant, path = self._session.selection
        if self._pointed is not None and self._pointed != (variant, path):
            rect = self.rect_of(*self._pointed)
            if rect is not None:
                marks.hovered(painter, rect, self._theme)
        rect = None if path is None else self.rect_of(variant, path)
        if rect is not None:
            marks.selected(painter, rect, self._theme)

    # --- the hand -----------------------------------------------------------------------

    def _under(self, point: QPointF) -> tuple[Variant, Path] | None:
        """The face under a point and the part of it: a node of the component's own tree."""
        cell = next((c for c in self._cells if c.rect.contains(point)), None)
        if cell is None or not cell.offered:
            return None
        scene, placed = self.view(cell.variant)
        x = (point.x() - cell.spot.x()) / self.zoom
        y = (point.y() - cell.spot.y()) / self.zoom
        found = hit(scene, placed, x, y)
        return cell.variant, (found.path[:1] if found is not None else ())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        pointed = self._under(event.position())
        if pointed != self._pointed:
            self._pointed = pointed
            self.update()

    def leaveEvent(self, event: QEvent | None) -> None:
        self._pointed = None
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        found = self._under(event.position())
        if found is not None:
            self._session.select(found[1], found[0])
            return
        empty = next((c for c in self._cells if c.rect.contains(event.position())), None)
        if empty is not None:
            deeds.offer(self._session, empty.variant, True)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or not self._moved(event.key()):
            super().keyPressEvent(event)

    def _moved(self, key: int) -> bool:
        """Arrow keys go from face to face."""
        step = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, -1),
            Qt.Key.Key_Down: (0, 1),
        }.get(Qt.Key(key))
        _, variant, path = self._session.selection
        index = next((n for n, c in enumerate(self._cells) if c.variant == variant), None)
        if step is None or index is None:
            return False
        columns = max(len(self._columns), 1)
        row, column = divmod(index, columns)
        row, column = row + step[1], column + step[0]
        if 0 <= row < len(self._rows) and 0 <= column < columns:
            target = self._cells[row * columns + column]
            if target.offered:
                self._session.select(path, target.variant)
        return True


def face_text(axis: Axis, value: AxisValue) -> str:
    """What a row or column is called: yes and no need their axis, other values do not."""
    return f"{axis.name}: {value.name}" if is_switch(axis) else value.name


def arranged(component: Component) -> tuple[list[Axis], Axis | None]:
    """Which axes lie along the rows, and which along the columns: the one that is driven,
    else the last."""
    if not component.axes:
        return [], None
    driven = [axis for axis in component.axes if axis.driver != "none"]
    column = (driven or list(component.axes))[-1]
    return [axis for axis in component.axes if axis is not column], column


class GridBench(QScrollArea):
    """The scrolling frame around a variant grid."""

    zoomed = pyqtSignal()

    def __init__(self, session: Session, rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self.grid = VariantGrid(session, rasters, theme)
        self.setWidget(self.grid)
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._session = session
        self._shown = ""
        session.selection_changed.connect(self._opened)

    def _opened(self) -> None:
        """Another component begins at a zoom at which its faces are in sight."""
        owner = self._session.selection.owner
        if owner != self._shown and self._session.component is not None:
            self._shown = owner
            self.fit()

    def fit(self) -> None:
        viewport = self.viewport()
        if viewport is not None and viewport.width() > 200:
            self.grid.fit(viewport.width())
            self.zoomed.emit()
