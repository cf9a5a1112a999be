"""The table of a component's rules: read across reaches, edited in its cells, and moved between
reaches by drag."""

from __future__ import annotations

from bisect import bisect_right
from functools import partial
from itertools import accumulate
from math import ceil
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QContextMenuEvent,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QApplication, QMenu, QToolTip

from outgrowth.app.fields.name_line import NameLine
from outgrowth.app.paint.painted_view import ARROWS, PaintedView
from outgrowth.app.paint.words import bold, draw_line
from outgrowth.app.theme import Theme, builders
from outgrowth.workspace.views.rule_table import AT_FIRST, Reach, RuleCell, RuleRow, RuleTable

_LABEL, _LABEL_SIDES = (72, 136), 22
_CELL = (56, 73, 168)
"""A column with little in it, one with much where there is not enough room, and the widest."""
_CELL_SIDES, _HEAD_SIDES = 14, 12
_ROW, _LINE, _HEAD_PAD = 26, 15, 8
_SWATCH = 12
_ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2)
NOTHING = RuleCell((), "")


class CellPlace(NamedTuple):
    """A cell: its row, and its column (0 for what the component says at first)."""

    row: int
    column: int


class RuleGrid(PaintedView):
    """typed(RuleRow, Reach, str)  words were typed for a row at a reach
    moved(RuleRow, Reach, Reach)  a row's rules were taken from one reach to another
    removed(RuleRow, Reach)  a row's rules at a reach are to go
    visited(RuleRow, Reach)  the part is to be gone to, where the rule holds
    picked(Reach)  the heading of a reach was pressed
    """

    own_keys = (Qt.Key.Key_Delete, Qt.Key.Key_F2)
    typed = pyqtSignal(object, object, str)
    moved = pyqtSignal(object, object, object)
    removed = pyqtSignal(object, object)
    visited = pyqtSignal(object, object)
    picked = pyqtSignal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "Rules: a row a property, a column a reach")
        self.table = RuleTable((), ())
        self.reach: Reach = AT_FIRST
        # Each line of the table: a part's name, or one of its rows.
        self._lines: list[tuple[str, RuleRow | None]] = []
        self._label_width = _LABEL[1]
        self._wanted: list[int] = [0]
        self._edges: list[int] = [0, 0]
        self.current = CellPlace(0, 0)
        self._pressed: QPointF | None = None
        self._carried: CellPlace | None = None
        self._target: CellPlace | None = None

    # --- what is shown --------------------------------------------------------------------------

    def show_table(self, table: RuleTable, reach: Reach) -> None:
        """Shows these rules; the columns of a reach are marked as the present one."""
        if table is not self.table:
            strong = QFontMetrics(bold(self.font()))
            self._wanted = _wanted_widths(table, self.fontMetrics(), strong)
        self.table, self.reach = table, reach
        self._label_width = self._wanted_label()
        self._lines = []
        for part in table.parts:
            self._lines.append((part.name, None))
            self._lines += [("", row) for row in part.rows]
        at = min(self.current.row, len(self._lines) - 1)
        if at < 0 or self._lines[at][1] is None:
            at = min(at + 1, len(self._lines) - 1)
        self.current = CellPlace(max(at, 0), min(self.current.column, len(table.columns)))
        self._range()
        self.sight.update()

    @property
    def reaches(self) -> list[Reach]:
        """Those of the columns, that of the first one included."""
        return [AT_FIRST, *(column.reach for column in self.table.columns)]

    def row_at(self, place: CellPlace) -> RuleRow | None:
        """The row of a cell; None where a part's name stands, or nothing."""
        inside = 0 <= place.row < len(self._lines)
        return self._lines[place.row][1] if inside else None

    def cell_at(self, place: CellPlace) -> RuleCell:
        """What a cell says."""
        row = self.row_at(place)
        return row.cells.get(self.reaches[place.column], NOTHING) if row is not None else NOTHING

    # --- where things are -----------------------------------------------------------------------

    def _wanted_label(self) -> int:
        labels = (row.label for part in self.table.parts for row in part.rows)
        wanted = max(map(self.fontMetrics().horizontalAdvance, labels), default=0) + _LABEL_SIDES
        return min(max(wanted, _LABEL[0]), _LABEL[1])

    @property
    def _head_height(self) -> int:
        lines = max((len(column.lines) for column in self.table.columns), default=1)
        return lines * _LINE + 2 * _HEAD_PAD

    def _range(self) -> None:
        widths = _given_widths(self._wanted, self.sight.width() - self._label_width)
        self._edges = list(accumulate(widths, initial=self._label_width))
        self.show_range(self._edges[-1], self._head_height + _ROW * len(self._lines) + 8)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._range()

    def sizeHint(self) -> QSize:
        return QSize(320, self._head_height + _ROW * len(self._lines) + 8)

    def rect_of(self, place: CellPlace) -> QRectF:
        """Where a cell lies in the view."""
        x, end = self._edges[place.column : place.column + 2]
        y = self._head_height + place.row * _ROW
        return QRectF(x, y, end - x, _ROW).translated(-self.scrolled)

    def place_at(self, point: QPointF) -> CellPlace | None:
        """The cell under a point of the view; None for headings and names."""
        if point.x() < self._label_width or point.y() < self._head_height:
            return None
        first = self.rect_of(CellPlace(0, 0))
        row = int((point.y() - first.y()) // _ROW)
        column = self._column_of(point)
        if column is None:
            return None
        place = CellPlace(row, column)
        return place if self.row_at(place) is not None else None

    def _column_of(self, point: QPointF) -> int | None:
        """The column over or under which a point lies."""
        column = bisect_right(self._edges, point.x() + self.scrolled.x()) - 1
        return column if 0 <= column <= len(self.table.columns) else None

    def _column_at(self, point: QPointF) -> int | None:
        """The column whose heading is under a point."""
        if point.y() >= self._head_height or point.x() < self._label_width:
            return None
        return self._column_of(point)

    # --- gestures -------------------------------------------------------------------------------

    def look_at(self, place: CellPlace) -> None:
        """Goes to a cell, and brings it into sight."""
        self.current = place
        rect, across, down = self.rect_of(place), self.across, self.down
        if rect.x() < self._label_width:
            across.setValue(round(across.value() + rect.x() - self._label_width))
        elif rect.right() > self.sight.width():
            across.setValue(round(across.value() + rect.right() - self.sight.width()))
        if rect.y() < self._head_height:
            down.setValue(round(down.value() + rect.y() - self._head_height))
        elif rect.bottom() > self.sight.height():
            down.setValue(round(down.value() + rect.bottom() - self.sight.height()))
        row = self.row_at(place)
        if row is not None:
            said = self.cell_at(place).text or "nothing"
            where = ", ".join(self._column_lines(place.column))
            self.setAccessibleDescription(f"{row.label}, {where}: {said}")
        self.sight.update()

    def _column_lines(self, column: int) -> tuple[str, ...]:
        return self.table.columns[column - 1].lines if column else ("at first",)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        point = event.position()
        column = self._column_at(point)
        if column is not None:
            self.picked.emit(self.reaches[column])
            return
        place = self.place_at(point)
        if place is not None:
            self.look_at(place)
            self._pressed = point
            self._carried = place if self.cell_at(place).rules else None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        point = event.position()
        held = event.buttons() & Qt.MouseButton.LeftButton
        if held and self._carried is not None and self._pressed is not None:
            far = (point - self._pressed).manhattanLength() >= QApplication.startDragDistance()
            if far or self._target is not None:
                self._target = self._target_at(point)
            self.sight.update()
        elif not held:
            self._tell(point)

    def _target_at(self, point: QPointF) -> CellPlace | None:
        """The cell of the carried row in the column under a point."""
        assert self._carried is not None
        column = self._column_of(point)
        if column is None:
            column = 0 if point.x() < self._label_width else len(self.table.columns)
        return CellPlace(self._carried.row, column)

    def _tell(self, point: QPointF) -> None:
        """What a cell says in full, and why it does nothing."""
        place, column = self.place_at(point), self._column_at(point)
        cell = self.cell_at(place) if place is not None else NOTHING
        text = f"{cell.text}\n{cell.idle}" if cell.idle else cell.text
        if column:
            text = f"{self.table.columns[column - 1].text}: press to edit at this reach"
        self.setToolTip(text)
        if not text:
            QToolTip.hideText()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        carried, target = self._carried, self._target
        self._pressed = self._carried = self._target = None
        self.sight.update()
        if carried is None or target is None or target.column in (carried.column, 0):
            return
        row = self.row_at(carried)
        if row is not None:
            self.moved.emit(row, self.reaches[carried.column], self.reaches[target.column])

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        place = self.place_at(event.position()) if event is not None else None
        if place is not None:
            self.look_at(place)
            self.edit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key, row = Qt.Key(event.key()), self.row_at(self.current)
        alt = event.modifiers() & Qt.KeyboardModifier.AltModifier
        if key == Qt.Key.Key_Escape and self._carried is not None:
            self._pressed = self._carried = self._target = None
            self.sight.update()
        elif alt and key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and row is not None:
            self._carry(1 if key == Qt.Key.Key_Right else -1, row)
        elif key in ARROWS:
            self._step(*ARROWS[key])
        elif key in _ENTER and row is not None:
            self.edit()
        elif key == Qt.Key.Key_Delete and row is not None:
            self.removed.emit(row, self.reaches[self.current.column])
        elif row is not None and event.text().isprintable() and event.text() and not alt:
            self.edit(event.text())
        else:
            event.ignore()

    def _carry(self, by: int, row: RuleRow) -> None:
        to = self.current.column + by
        if 1 <= to <= len(self.table.columns) and self.cell_at(self.current).rules:
            reach = self.reaches[self.current.column]
            self.current = self.current._replace(column=to)
            self.moved.emit(row, reach, self.reaches[to])

    def _step(self, across: int, down: int) -> None:
        column = min(max(self.current.column + across, 0), len(self.table.columns))
        row = self.current.row + down
        while 0 <= row < len(self._lines) and self._lines[row][1] is None:
            row += down
        inside = 0 <= row < len(self._lines)
        self.look_at(CellPlace(row if inside else self.current.row, column))

    def edit(self, begun: str = "") -> None:
        """A field over the current cell, with what it says or what was begun to be typed."""
        row = self.row_at(self.current)
        if row is None:
            return
        reach, cell = self.reaches[self.current.column], self.cell_at(self.current)
        self.field = NameLine(
            self.sight,
            f"{row.label}, {', '.join(self._column_lines(self.current.column))}",
            cell.text,
            lambda text: self.typed.emit(row, reach, text),
        )
        self.field.finished.connect(self.setFocus)
        rect = self.rect_of(self.current).toRect()
        self.field.show_at(QRect(rect.x() - 1, rect.y() - 1, max(rect.width(), 110) + 2, 28))
        if begun:
            self.field.insert(begun)

    def menu(self) -> QMenu:
        """What can be done with the current cell."""
        menu = QMenu(self)
        row, cell = self.row_at(self.current), self.cell_at(self.current)
        reach = self.reaches[self.current.column]
        if row is None:
            return menu
        builders.menu_entry(menu, "Edit", self.edit)
        builders.menu_entry(menu, "Go to the part", lambda: self.visited.emit(row, reach))
        if not cell.rules:
            return menu
        moves = menu.addMenu("Move to")
        ends = [(column.text, column.reach) for column in self.table.columns]
        if self.reach and self.reach not in self.reaches:
            ends.append(("The present reach", self.reach))
        for title, end in ends:
            if end != reach:
                builders.menu_entry(moves, title, partial(self.moved.emit, row, reach, end))
        builders.menu_entry(menu, "Delete", lambda: self.removed.emit(row, reach))
        return menu

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        if event is None:
            return
        place = self.place_at(QPointF(event.pos()))
        if place is not None:
            self.look_at(place)
            builders.show_menu(self.menu(), event.globalPos())

    # --- painting -------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.sight)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        sight = QRectF(self.sight.rect())
        painter.fillRect(sight, self.theme.color("panel"))
        columns = range(len(self.table.columns) + 1)
        for n, (_, row) in enumerate(self._lines):
            if row is not None:
                for column in columns:
                    self._cell(painter, CellPlace(n, column))
        self._labels(painter)
        self._headings(painter)
        if self._target is not None:
            painter.setPen(QPen(self.theme.color("clay"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(self.rect_of(self._target).adjusted(2, 2, -2, -2), 3, 3)
        painter.end()

    def _cell(self, painter: QPainter, place: CellPlace) -> None:
        rect, cell, theme = self.rect_of(place), self.cell_at(place), self.theme
        if rect.right() < self._label_width or rect.bottom() < 0:
            return
        if self.reaches[place.column] == self.reach and place.column:
            painter.fillRect(rect, theme.color("lit"))
        self._hairline(painter, rect)
        inner = rect.adjusted(8, 0, -4, 0)
        if cell.color is not None:
            self._swatch(painter, inner, QColor(cell.color.hex))
            inner.setLeft(inner.x() + _SWATCH + 6)
        font = painter.font()
        font.setStrikeOut(bool(cell.idle))
        font.setBold(bool(cell.rules) and not cell.idle)
        painter.setFont(font)
        painter.setPen(theme.color("ink" if cell.rules and not cell.idle else "muted"))
        draw_line(painter, inner, _short(painter, cell, inner.width()))
        font.setStrikeOut(False)
        font.setBold(False)
        painter.setFont(font)
        if place == self.current and self.hasFocus():
            painter.setPen(QPen(theme.color("slate"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(rect.adjusted(1, 1, -1, -1), 3, 3)

    def _hairline(self, painter: QPainter, rect: QRectF) -> None:
        """One device pixel below a rectangle, on whole px."""
        bottom = round(rect.bottom()) - 1
        line = QRectF(rect.x(), bottom, rect.width(), 1)
        painter.fillRect(line, self.theme.color("hairline"))

    def _swatch(self, painter: QPainter, rect: QRectF, color: QColor) -> None:
        box = QRectF(rect.x(), rect.center().y() - _SWATCH / 2, _SWATCH, _SWATCH)
        painter.setPen(QPen(self.theme.color("hairline"), 1))
        painter.setBrush(color)
        painter.drawRoundedRect(box, 2, 2)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _labels(self, painter: QPainter) -> None:
        """The names of parts and rows, which stay in sight at the left."""
        theme = self.theme
        side = QRectF(0, 0, self._label_width, self.sight.height())
        painter.fillRect(side, theme.color("panel"))
        plain = painter.font()
        for n, (name, row) in enumerate(self._lines):
            y = self.rect_of(CellPlace(n, 0)).y()
            if row is None:
                line = QRectF(0, y, self.sight.width(), _ROW)
                painter.fillRect(line, theme.color("panel"))
                painter.setFont(bold(plain))
                painter.setPen(theme.color("ink"))
                room = line.adjusted(12, 4, -8, 0)
                draw_line(painter, room, name)
                painter.setFont(plain)
            else:
                line = QRectF(0, y, self._label_width, _ROW)
                self._hairline(painter, line.adjusted(12, 0, 0, 0))
                painter.setPen(theme.color("ink"))
                room = line.adjusted(12, 0, -4, 0)
                draw_line(painter, room, row.label)

    def _headings(self, painter: QPainter) -> None:
        """The reaches, which stay in sight at the top."""
        theme, high = self.theme, self._head_height
        painter.fillRect(QRectF(0, 0, self.sight.width(), high), theme.color("panel"))
        self._hairline(painter, QRectF(0, 0, self.sight.width(), high))
        painter.setClipRect(QRectF(self._label_width, 0, self.sight.width(), high + 1))
        for column, reach in enumerate(self.reaches):
            rect = self.rect_of(CellPlace(0, column))
            present = reach == self.reach and bool(column)
            painter.setPen(theme.color("ink" if column else "muted"))
            for n, line in enumerate(self._column_lines(column)):
                room = QRectF(rect.x() + 8, _HEAD_PAD + n * _LINE, rect.width() - 10, _LINE)
                draw_line(painter, room, line)
            if present:
                painter.fillRect(QRectF(rect.x(), high - 3, rect.width(), 3), theme.color("clay"))
        painter.setClipping(False)


def _wanted_widths(table: RuleTable, plain: QFontMetrics, strong: QFontMetrics) -> list[int]:
    """What each column needs to show its heading and its cells whole, in px."""
    heads = [("at first",), *(column.lines for column in table.columns)]
    wanted = [max(plain.horizontalAdvance(line) for line in lines) + _HEAD_SIDES for lines in heads]
    columns = {AT_FIRST: 0} | {column.reach: n for n, column in enumerate(table.columns, 1)}
    for part in table.parts:
        for row in part.rows:
            for reach, cell in row.cells.items():
                swatch = _SWATCH + 6 if cell.color is not None else 0
                metrics = strong if cell.rules else plain
                text = cell.text.rpartition(".")[2] if cell.color is not None else cell.text
                width = metrics.horizontalAdvance(text) + swatch + _CELL_SIDES
                wanted[columns[reach]] = max(wanted[columns[reach]], width)
    return wanted


def _given_widths(wanted: list[int], room: int) -> list[int]:
    """The widths of columns in so much room, within bounds: as wide as what is in them and an equal
    share of what is left; where that is too much, those with much in them give way."""
    least, narrow, most = _CELL
    widths = [min(max(n, least), most) for n in wanted]
    over = room - sum(widths)
    if over >= 0:
        return [min(n + over // len(widths), most) for n in widths]
    spare = sum(max(n - narrow, 0) for n in widths)
    share = min(-over / spare, 1.0) if spare else 0.0
    return [n - ceil(max(n - narrow, 0) * share) for n in widths]


def _short(painter: QPainter, cell: RuleCell, width: float) -> str:
    """A token by the last part of its name where all of it has no room."""
    wide = painter.fontMetrics().horizontalAdvance(cell.text)
    return cell.text.rpartition(".")[2] if cell.color is not None and wide > width else cell.text
