"""The bench of words: what is looked for in the whole file, where it stands, and what would
stand there. Nothing is replaced before it has been seen."""

from __future__ import annotations

from PyQt6.QtCore import (
    QAbstractItemModel,
    QEvent,
    QModelIndex,
    QRectF,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import QFontMetricsF, QMouseEvent, QPainter
from PyQt6.QtWidgets import (
    QApplication,
    QCheckBox,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.edits.words import Search
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import word_commands
from outgrowth.workspace.views.word_rows import WordRow, found_text, replace_text, word_rows

_ABOUT = "Finds words in the whole file, and replaces those that are ticked as one step."
_ROW = Qt.ItemDataRole.UserRole
_HEIGHT, _HEAD = 44, 32
_WORDS_AT = 40
_MARKS = {
    Qt.CheckState.Checked: QStyle.StateFlag.State_On,
    Qt.CheckState.Unchecked: QStyle.StateFlag.State_Off,
    Qt.CheckState.PartiallyChecked: QStyle.StateFlag.State_NoChange,
}


class WordsBench(AsideBench):
    """visited(str, tuple)  an owner, and the path of a part in it, to go to"""

    visited = pyqtSignal(str, tuple)

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__("Words", _ABOUT)
        self._workspace = workspace
        self._listed_for: object = None
        self.page.addWidget(self._fields())
        self.page.addWidget(self._places(theme), 1)
        workspace.panels_due.connect(self._follow)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._delegate.theme = theme
        self.list.viewport().update()  # type: ignore[union-attr]  # a list has one

    def _places(self, theme: Theme) -> QWidget:
        self.list = QListWidget()
        self.list.setAccessibleName("Where the words stand")
        self._delegate = _PlaceDelegate(theme, self.replacement.text)
        self.list.setItemDelegate(self._delegate)
        self.list.itemChanged.connect(self._ticked)
        self.list.itemActivated.connect(self._go_to)
        return self.list

    def _fields(self) -> QWidget:
        strip = QWidget()
        dress(strip, "panel", "bottom")
        row = builders.row(strip, (12, 8, 12, 8), 8)
        self.search = builders.line_edit("Look for", clears=True)
        self.replacement = builders.line_edit("and put in its place", clears=True)
        self.cased, self.whole = QCheckBox("Same case"), QCheckBox("Whole words")
        self.button = builders.push_button(look="firm")
        for field in (self.search, self.replacement):
            row.addWidget(field, 1)
        for widget in (self.cased, self.whole, self.button):
            row.addWidget(widget)
        self._listen()
        return strip

    def _listen(self) -> None:
        self.search.textChanged.connect(self.refresh)
        self.search.returnPressed.connect(self._into_list)
        self.replacement.textChanged.connect(lambda: self._retype())
        self.replacement.returnPressed.connect(self.replace)
        for box in (self.cased, self.whole):
            box.toggled.connect(self.refresh)
        self.button.clicked.connect(self.replace)

    # --- what is looked for ---------------------------------------------------------------------

    @property
    def asked(self) -> Search:
        """What is looked for now."""
        return Search(self.search.text(), self.cased.isChecked(), self.whole.isChecked())

    @property
    def chosen(self) -> list[WordRow]:
        """The places that are ticked."""
        checked = [i for i in self._items() if i.checkState() == Qt.CheckState.Checked]
        return [row for row in (i.data(_ROW) for i in checked) if isinstance(row, WordRow)]

    def _items(self) -> list[QListWidgetItem]:
        items = (self.list.item(n) for n in range(self.list.count()))
        return [item for item in items if item is not None]

    def begin(self) -> None:
        """Takes the keys, with what was looked for the last time ready to be typed over."""
        self.refresh()
        self.search.setFocus()
        self.search.selectAll()

    def refresh(self) -> None:
        """Lists where the words stand now. What was unticked stays so."""
        out = {row.stated for row in self._unticked()}
        rows, more = word_rows(self._workspace.document, self.asked)
        self._listed_for = self._workspace.document
        self.list.blockSignals(True)
        self.list.clear()
        owner = ""
        for row in rows:
            if row.stated.owner != owner:
                owner = row.stated.owner
                self.list.addItem(_heading(row))
            self.list.addItem(_place(row, row.stated not in out))
        self.list.blockSignals(False)
        self._tick_headings()
        self.summary.setText(found_text(rows, more, bool(self.search.text())))
        self._show_button()

    def _groups(self) -> list[tuple[QListWidgetItem, list[QListWidgetItem]]]:
        """The headings, each with its places."""
        groups: list[tuple[QListWidgetItem, list[QListWidgetItem]]] = []
        for item in self._items():
            if item.data(_ROW) is None:
                groups.append((item, []))
            elif item.flags() & Qt.ItemFlag.ItemIsUserCheckable:
                groups[-1][1].append(item)
        return groups

    def _ticked(self, item: QListWidgetItem) -> None:
        """A heading ticks all its places."""
        self.list.blockSignals(True)
        for heading, places in self._groups():
            if heading is item:
                for place in places:
                    place.setCheckState(item.checkState())
        self.list.blockSignals(False)
        self._tick_headings()
        self._show_button()

    def _tick_headings(self) -> None:
        self.list.blockSignals(True)
        for heading, places in self._groups():
            states = {place.checkState() for place in places}
            partly = len(states) > 1
            if states:
                heading.setCheckState(
                    Qt.CheckState.PartiallyChecked if partly else next(iter(states))
                )
        self.list.blockSignals(False)

    def _unticked(self) -> list[WordRow]:
        items = [i for i in self._items() if i.checkState() == Qt.CheckState.Unchecked]
        rows = [item.data(_ROW) for item in items]
        return [row for row in rows if isinstance(row, WordRow) and not row.fixed]

    def _follow(self) -> None:
        if self.isVisible() and self._workspace.document is not self._listed_for:
            self.refresh()

    def _retype(self) -> None:
        self.list.viewport().update()  # type: ignore[union-attr]  # a list has one
        self._show_button()

    def _show_button(self) -> None:
        matches = sum(row.matches for row in self.chosen)
        self.button.setText(replace_text(matches, self.replacement.text()))
        self.button.setEnabled(matches > 0)

    def _into_list(self) -> None:
        places = [n for n, item in enumerate(self._items()) if item.data(_ROW) is not None]
        if places:
            self.list.setFocus()
            self.list.setCurrentRow(places[0])

    # --- what is done ---------------------------------------------------------------------------

    def replace(self) -> None:
        """Replaces what is ticked, as one step."""
        places = [row.stated for row in self.chosen]
        word_commands.replace(self._workspace, self.asked, self.replacement.text(), places)
        self.refresh()

    def _go_to(self, item: QListWidgetItem) -> None:
        row = item.data(_ROW)
        if isinstance(row, WordRow):
            self.left.emit()
            self.visited.emit(row.stated.owner, row.stated.node)


def _heading(row: WordRow) -> QListWidgetItem:
    """An owner, whose tick is that of all its places."""
    item = QListWidgetItem(row.owner)
    if row.fixed:
        item.setFlags(Qt.ItemFlag.NoItemFlags)
    else:
        item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
    return item


def _place(row: WordRow, ticked: bool) -> QListWidgetItem:
    """Named as it is read: a screen reader gets the whole of it."""
    item = QListWidgetItem(f"{row.part}: {''.join(piece.text for piece in row.pieces)}")
    item.setData(_ROW, row)
    if row.fixed:
        item.setToolTip(f"{row.owner} {row.fixed}.")
        return item
    item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
    item.setCheckState(Qt.CheckState.Checked if ticked else Qt.CheckState.Unchecked)
    return item


class _PlaceDelegate(QStyledItemDelegate):
    """Draws a place: whose words they are, the words, and what would stand there."""

    def __init__(self, theme: Theme, replacement: object) -> None:
        super().__init__()
        self.theme = theme
        self._replacement = replacement

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(100, _HEIGHT if index.data(_ROW) is not None else _HEAD)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        row = index.data(_ROW)
        rect = QRectF(option.rect)
        painter.save()
        self._ground(painter, rect, option)
        if row is None:
            painter.setPen(self.theme.color("ink"))
            _set_bold(painter, True)
            room = rect.adjusted(_WORDS_AT, 0, -12, 0)
            painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, str(index.data()))
        else:
            goes = _state(index) == Qt.CheckState.Checked
            self._words(painter, rect.adjusted(_WORDS_AT, 4, -12, -4), row, goes)
        if index.flags() & Qt.ItemFlag.ItemIsUserCheckable:
            self._box(painter, rect, index)
        painter.restore()

    def _ground(self, painter: QPainter, rect: QRectF, option: QStyleOptionViewItem) -> None:
        state = option.state
        if state & (QStyle.StateFlag.State_Selected | QStyle.StateFlag.State_MouseOver):
            painter.fillRect(rect, self.theme.color("lit"))
        if state & QStyle.StateFlag.State_HasFocus:
            painter.fillRect(
                QRectF(rect.x(), rect.y(), 3, rect.height()), self.theme.color("slate")
            )

    def _box(self, painter: QPainter, rect: QRectF, index: QModelIndex) -> None:
        option = QStyleOptionViewItem()
        option.rect = QRectF(rect.x() + 14, rect.center().y() - 8, 16, 16).toRect()
        option.state = _MARKS[_state(index)] | QStyle.StateFlag.State_Enabled
        style = QApplication.style()
        assert style is not None
        primitive = QStyle.PrimitiveElement.PE_IndicatorItemViewItemCheck
        style.drawPrimitive(primitive, option, painter, QApplication.activeWindow())

    def editorEvent(
        self,
        event: QEvent | None,
        model: QAbstractItemModel | None,
        option: QStyleOptionViewItem,
        index: QModelIndex,
    ) -> bool:
        """Ticks, and unticks, where the box is drawn."""
        if not isinstance(event, QMouseEvent):
            return super().editorEvent(event, model, option, index)
        checkable = bool(index.flags() & Qt.ItemFlag.ItemIsUserCheckable)
        over = checkable and event.position().x() < option.rect.x() + _WORDS_AT
        if over and event.type() == QEvent.Type.MouseButtonRelease and model is not None:
            checked = _state(index) == Qt.CheckState.Checked
            state = Qt.CheckState.Unchecked if checked else Qt.CheckState.Checked
            model.setData(index, state, Qt.ItemDataRole.CheckStateRole)
        return over

    def _words(self, painter: QPainter, rect: QRectF, row: WordRow, goes: bool) -> None:
        upper = QRectF(rect.x(), rect.y(), rect.width(), rect.height() / 2)
        lower = upper.translated(0, upper.height())
        painter.setPen(self.theme.color("muted"))
        part = row.part if not row.fixed else f"{row.part} · {row.fixed}"
        painter.drawText(upper, Qt.AlignmentFlag.AlignVCenter, part)
        replacement = str(self._replacement()) if goes else ""  # type: ignore[operator]
        x = lower.x()
        for text, matched in row.pieces:
            x = self._piece(painter, lower, x, text, matched, replacement)
        _set_bold(painter, False)

    def _piece(
        self, painter: QPainter, line: QRectF, x: float, text: str, matched: bool, new: str
    ) -> float:
        """Draws a stretch of words from `x` on; what will stand in its place follows it.
        Gives where it ends."""
        changes = matched and bool(new)
        parts = [(text, "clay" if matched else "ink", changes)]
        parts += [(new, "good", False)] if changes else []
        for words, role, struck in parts:
            font = painter.font()
            font.setBold(role != "ink")
            font.setStrikeOut(struck)
            painter.setFont(font)
            painter.setPen(self.theme.color(role))
            width = QFontMetricsF(font).horizontalAdvance(words)
            room = QRectF(x, line.y(), min(width + 1, line.right() - x), line.height())
            painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, words)
            x += width + (3 if struck else 0)
        return x


def _state(index: QModelIndex) -> Qt.CheckState:
    state = index.data(Qt.ItemDataRole.CheckStateRole)
    return Qt.CheckState.Unchecked if state is None else Qt.CheckState(state)


def _set_bold(painter: QPainter, bold: bool) -> None:
    font = painter.font()
    font.setBold(bold)
    painter.setFont(font)
