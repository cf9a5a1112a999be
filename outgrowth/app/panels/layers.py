"""Layers: the tree of what is on the bench, with real names and kind marks.

A flat list of visible lines over the tree, so that thousands of nodes cost no widgets. A
node that this variant does not show is dimmed, not gone.
"""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import (
    QAbstractListModel,
    QMimeData,
    QModelIndex,
    QRectF,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import (
    QColor,
    QDragLeaveEvent,
    QDragMoveEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPen,
)
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QListView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QToolTip,
    QWidget,
)

from outgrowth.app.benches.marks import adding
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.icons import NODE_ICONS, draw_leaf, icon
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.records import Path
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands.drag_commands import land_parts
from outgrowth.workspace.views.layer_rows import LayerRow, LayerRows
from outgrowth.workspace.views.reach_text import move_text

PART_MIME = "application/x-outgrowth-part"
"""What a drag of a layer carries: the ids of parts."""

# Px: two rows more than the letters need, for marks of 14 px.
_ROW = 26
_INDENT = 14
LINE = Qt.ItemDataRole.UserRole


class LayersModel(QAbstractListModel):
    """The rows of the owner on the bench."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._workspace = workspace
        self._rows = LayerRows(workspace)
        # Whether the drag over the list asks for copies.
        self.copies_wanted = False
        self.refresh()

    @property
    def lines(self) -> list[LayerRow]:
        """The rows as they are shown."""
        return self._rows.rows

    def refresh(self) -> None:
        """Brings the rows up to the document."""
        rows = self._rows.current()
        if rows != self._rows.rows:
            self.beginResetModel()
            self._rows.rows = rows
            self.endResetModel()

    def look_for(self, text: str) -> None:
        """Keeps to the rows whose names have this in them, and to what they lie in."""
        self._rows.search(text)
        self.refresh()

    def fold(self, line: LayerRow) -> None:
        """Folds or unfolds what a row holds."""
        self._rows.fold(line)
        self.refresh()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return len(self.lines)

    def data(self, index: QModelIndex, role: int = 0) -> object:
        """A row, or its name."""
        line = self.lines[index.row()]
        if role in (
            Qt.ItemDataRole.DisplayRole,
            Qt.ItemDataRole.EditRole,
            Qt.ItemDataRole.AccessibleTextRole,
        ):
            return line.name
        return line if role == LINE else None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        """Boxes take drops, all but the root can be dragged."""
        usual = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        usual |= Qt.ItemFlag.ItemIsEditable
        if not index.isValid():
            return usual | Qt.ItemFlag.ItemIsDropEnabled
        line = self.lines[index.row()]
        if line.path:
            usual |= Qt.ItemFlag.ItemIsDragEnabled
        return usual | Qt.ItemFlag.ItemIsDropEnabled if line.kind == "box" else usual

    def move_told(self, data: QMimeData | None, before: int, onto: int | None) -> str:
        """What a drop there would touch, in words, where that is more than the reach."""
        ids, target = _carried(data), self._rows.drop_target(before, onto)
        if not ids or target is None:
            return ""
        return move_text(self._workspace, ids, target[0], self.copies_wanted)

    def supportedDropActions(self) -> Qt.DropAction:
        return Qt.DropAction.MoveAction

    def mimeTypes(self) -> list[str]:
        return [PART_MIME]

    def mimeData(self, indexes: Iterable[QModelIndex]) -> QMimeData:
        """The ids of the dragged parts: of all that are selected, where one of them is pulled."""
        data = QMimeData()
        pulled = [path for index in indexes if (path := self.lines[index.row()].path)]
        selected = self._workspace.selection.paths
        together = selected if set(pulled) & set(selected) else pulled
        ids = [path[-1] for path in together if len(path) == 1]
        data.setData(PART_MIME, " ".join(ids).encode())
        return data

    def dropMimeData(
        self,
        data: QMimeData | None,
        action: Qt.DropAction,
        row: int,
        column: int,
        parent: QModelIndex,
    ) -> bool:
        """Moves or copies parts into the box they are dropped on (last), or before the line."""
        ids = _carried(data)
        if not ids:
            return False
        target = self._rows.drop_target(row, parent.row() if parent.isValid() else None)
        if target is not None:
            land_parts(self._workspace, ids, *target, copied=self.copies_wanted)
        self.copies_wanted = False
        return False  # the rows follow the document: nothing is to be taken out here

    def setData(self, index: QModelIndex, value: object, role: int = 0) -> bool:
        return self._rows.rename(self.lines[index.row()], str(value))

    def index_of(self, path: Path) -> QModelIndex:
        """The row of a node; an invalid index where it has none."""
        row = self._rows.number_of(path)
        return QModelIndex() if row is None else self.index(row)

    def first_match(self) -> Path | None:
        """The first node whose name has what is searched for."""
        return self._rows.first_match()

    def switch(self, path: Path, mark: str) -> None:
        """Presses one of the marks of a row."""
        self._rows.switch(path, mark)


def _carried(data: QMimeData | None) -> list[str]:
    """The ids of the parts that a drag carries."""
    return bytes(data.data(PART_MIME).data()).decode().split() if data is not None else []


class LayersDelegate(QStyledItemDelegate):
    """Draws a line: fold mark, kind mark, name."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self.theme = theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(80, _ROW)

    def updateEditorGeometry(
        self, editor: QWidget | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        line: LayerRow = index.data(LINE)
        if editor is not None:
            editor.setGeometry(option.rect.adjusted(_left(line) + 16, 0, -2, 0))

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        """Draws one row."""
        assert painter is not None
        line: LayerRow = index.data(LINE)
        rect = QRectF(option.rect)
        selected = any(line.path == path[:1] for path in self._workspace.selection.paths)
        painter.save()
        ink = self.theme.color("ink" if line.shown else "muted")
        if selected:
            painter.fillRect(rect, self.theme.color("ink"))
            ink = self.theme.color("panel")
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(rect, self.theme.color("lit"))
        left = rect.x() + _left(line)
        if line.parent and line.depth:
            name = "caret-right" if line.folded else "caret-down"
            icon(name, ink.name()).paint(painter, int(left) - 14, int(rect.y()) + 8, 10, 10)
        self._mark(painter, QRectF(left, rect.y() + 6, 14, 14), line, selected)
        painter.setPen(ink)
        font = painter.font()
        font.setBold(line.depth == 0)
        font.setItalic(not line.shown)
        painter.setFont(font)
        marked = self._switches(painter, rect, line, ink, option)
        room = rect.right() - left - 24 - marked
        words = QRectF(left + 20, rect.y(), room, rect.height())
        elided = painter.fontMetrics().elidedText(
            line.name, Qt.TextElideMode.ElideRight, int(words.width())
        )
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, elided)
        if option.state & QStyle.StateFlag.State_HasFocus and not selected:
            painter.setPen(QPen(self.theme.color("slate"), 2))
            painter.drawRect(rect.adjusted(1, 1, -1, -1))
        painter.restore()

    def _switches(
        self,
        painter: QPainter,
        rect: QRectF,
        line: LayerRow,
        ink: QColor,
        option: QStyleOptionViewItem,
    ) -> int:
        """The marks at the right end, and how much room they take: under the pointer both can
        be pressed, else only what is unusual shows."""
        if not line.path:
            return 0
        pointed = bool(option.state & QStyle.StateFlag.State_MouseOver)
        if pointed or not line.shown:
            mark_rect = switch_rect(rect, "shown").toRect()
            icon("eye" if line.shown else "eye-slash", ink.name()).paint(painter, mark_rect)
        if pointed or line.through:
            mark_rect = switch_rect(rect, "through").toRect()
            name = "cursor-click" if not line.through else "cursor"
            icon(name, ink.name()).paint(painter, mark_rect)
        return 40 if pointed or line.through else 20 if not line.shown else 0

    def _mark(self, painter: QPainter, rect: QRectF, line: LayerRow, selected: bool) -> None:
        if line.depth == 0 and self._workspace.component is not None:
            color = self.theme.color("panel" if selected else "clay")
            draw_leaf(painter, rect.adjusted(1, 1, -1, -1), color, "solid")
        elif line.kind == "instance":
            color = self.theme.color("panel" if selected else "slate")
            draw_leaf(
                painter, rect.adjusted(1, 1, -1, -1), color, "broken" if line.slot else "outline"
            )
        else:
            ink = self.theme.color("panel" if selected else "ink" if line.shown else "muted")
            mark = icon(NODE_ICONS.get(line.kind, "square"), ink.name())
            mark.paint(painter, rect.toRect())


def _left(line: LayerRow) -> int:
    return 12 + _INDENT * line.depth


def switch_rect(rect: QRectF, choice: str) -> QRectF:
    """Where the mark for showing, or for click-through, lies in a line."""
    away = 20 if choice == "shown" else 38
    return QRectF(rect.right() - away, rect.y() + 6, 14, 14)


class LayersList(QListView):
    """The list; a click on the fold mark folds, F2 renames, Ctrl+click selects besides, and
    so does Shift with an arrow key; Shift+click selects all lines up to there.

    added(path)          a line that is to be selected besides, or no longer
    ranged(tuple)        the lines that are to be selected, by their paths; the current one first
    switched(path, str)  a mark was pressed: "shown" or "through"
    """

    added = pyqtSignal(tuple)
    ranged = pyqtSignal(tuple)
    _selects_more = False
    switched = pyqtSignal(tuple, str)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        if event is not None and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            model, row = self.model(), self.currentIndex().row()
            row += step.get(Qt.Key(event.key()), 0)
            if (
                model is not None
                and row != self.currentIndex().row()
                and 0 <= row < model.rowCount()
            ):
                self.added.emit(model.index(row, 0).data(LINE).path)
                return
        super().keyPressEvent(event)

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        """Says beside the pointer what a drop would touch; with Alt it means a copy."""
        super().dragMoveEvent(event)
        model = self.model()
        if event is None or not isinstance(model, LayersModel):
            return
        point = event.position().toPoint()
        index, on = self.indexAt(point), self.dropIndicatorPosition()
        inside = on == QListView.DropIndicatorPosition.OnItem
        below = on == QListView.DropIndicatorPosition.BelowItem
        row = index.row() + below if index.isValid() else model.rowCount()
        model.copies_wanted = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        told = model.move_told(event.mimeData(), row, index.row() if inside else None)
        QToolTip.showText(self.mapToGlobal(point), told, self)

    def dragLeaveEvent(self, event: QDragLeaveEvent | None) -> None:
        super().dragLeaveEvent(event)
        QToolTip.hideText()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            index = self.indexAt(event.position().toPoint())
            line = index.data(LINE) if index.isValid() else None
            if line is not None and line.parent and line.depth:
                left = _left(line)
                if left - 16 <= event.position().x() <= left - 2:
                    model = self.model()
                    assert isinstance(model, LayersModel)
                    model.fold(line)
                    return
            if line is not None and line.path and event.button() == Qt.MouseButton.LeftButton:
                rect = QRectF(self.visualRect(index))
                for choice in ("shown", "through"):
                    if switch_rect(rect, choice).adjusted(-2, -6, 2, 6).contains(event.position()):
                        self.switched.emit(line.path, choice)
                        return
            if line is not None and adding(event):
                self._selects_more = True
                if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                    self.ranged.emit(self._up_to(index.row()))
                else:
                    self.added.emit(line.path)
                return
        super().mousePressEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        # What selected more was no click on one alone.
        if self._selects_more:
            self._selects_more = False
        else:
            super().mouseReleaseEvent(event)

    def _up_to(self, row: int) -> tuple[Path, ...]:
        """The lines from the current one to another, without the outermost part, which all others
        lie in."""
        model = self.model()
        assert model is not None
        start = self.currentIndex().row() if self.currentIndex().isValid() else row
        step = 1 if row >= start else -1
        paths = [model.index(n, 0).data(LINE).path for n in range(start, row + step, step)]
        return tuple(path for path in paths if path) or tuple(paths)  # it may be the only one


class Layers(QWidget):
    """The panel beside the bench."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        dress(self, "panel")
        self.model = LayersModel(workspace)
        self._delegate = LayersDelegate(workspace, theme)
        self.list = LayersList()
        self.list.setAccessibleName("Layers")
        self.list.setModel(self.model)
        self.list.setItemDelegate(self._delegate)
        self.list.setMouseTracking(True)
        self.list.setUniformItemSizes(True)
        self.list.setEditTriggers(
            QListView.EditTrigger.EditKeyPressed | QListView.EditTrigger.DoubleClicked
        )
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setDragEnabled(True)
        self.list.setAcceptDrops(True)
        self.list.setDropIndicatorShown(True)
        self.list.setDragDropMode(QListView.DragDropMode.InternalMove)
        self.search = builders.line_edit("Find a layer", clears=True)
        self.search.textChanged.connect(self.model.look_for)
        self.search.returnPressed.connect(self._first_found)
        layout = builders.column(self, (0, 6, 0, 0), 4)
        search_row = QHBoxLayout()
        search_row.setContentsMargins(8, 0, 8, 0)
        search_row.addWidget(self.search)
        layout.addLayout(search_row)
        layout.addWidget(self.list)
        self.list.switched.connect(self.model.switch)
        self.list.clicked.connect(self._clicked)
        self.list.ranged.connect(workspace.select_all)
        self.list.added.connect(workspace.toggle)
        selection = self.list.selectionModel()
        if selection is not None:
            selection.currentChanged.connect(lambda now, before: self._picked(now))
        workspace.panels_due.connect(self.refresh)
        workspace.selection_changed.connect(self.refresh)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._delegate.theme = theme
        self.refresh()

    def rename(self) -> None:
        """Lets the selected part's name be typed where it stands."""
        path = self._workspace.selection.path
        index = self.model.index_of(path) if path is not None else QModelIndex()
        if index.isValid():
            self.list.setFocus()
            self.list.edit(index)

    def _first_found(self) -> None:
        """Selects the first line that was found, and goes on in the list."""
        match = self.model.first_match()
        if match is not None:
            self._workspace.select(match)
            self.list.setFocus()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        self.model.refresh()
        path = self._workspace.selection.path
        index = self.model.index_of(path) if path is not None else QModelIndex()
        selection = self.list.selectionModel()
        if selection is not None:
            blocked = selection.blockSignals(True)
            self.list.setCurrentIndex(index)
            selection.blockSignals(blocked)
        if index.isValid():
            self.list.scrollTo(index)
        viewport = self.list.viewport()
        if viewport is not None:
            viewport.update()

    def _clicked(self, index: QModelIndex) -> None:
        """A plain click selects one line alone, also of those that are selected."""
        path = index.data(LINE).path
        if self._workspace.selection.paths != (path,):
            self._workspace.select(path)

    def _picked(self, index: QModelIndex) -> None:
        paths = self._workspace.selection.paths
        if index.isValid() and index.data(LINE).path not in paths[1:]:
            self._workspace.select(index.data(LINE).path)
