"""The bench of the team: what taking in, publishing or bringing together would change.

Everything is shown before anything is changed: in words, each variant before and after, the
screens with the places that differ, and what has to be picked where both sides say otherwise.
It only shows; what is asked of it goes to the controller.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import partial

from immutables import Map
from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QScrollArea,
    QWidget,
)

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.benches.pairs import PairsView, draw_picture
from outgrowth.app.fields.choice import DropDown
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.team.merge import Side
from outgrowth.core.team.pictures import SizedFragment
from outgrowth.core.team.report import Chapter, bounds_of
from outgrowth.core.team.versions import LEVELS
from outgrowth.workspace.team_modes import Asking
from outgrowth.workspace.views.team_sheet import PickRow, SheetRow, TeamSheet, variants_text

_PART = Qt.ItemDataRole.UserRole
# Lines of differences that are read; more are counted.
_MOST_LINES = 40
_PICTURE = QSize(190, 110)


class PictureChoice(QAbstractButton):
    """One side of a disagreement, as a picture that can be picked."""

    def __init__(
        self, name: str, picture: SizedFragment | None, rasters: Rasters, theme: Theme
    ) -> None:
        super().__init__()
        self.setText(name)
        self.setCheckable(True)
        self.setAccessibleName(name)
        self._picture = picture
        self._rasters = rasters
        self._theme = theme
        self.setFixedSize(_PICTURE.width(), _PICTURE.height() + 24)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        frame = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        room = QRectF(frame.x(), frame.y(), frame.width(), frame.height() - 24)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("bed"))
        painter.drawRoundedRect(room, 3, 3)
        if self._picture is not None:
            bounds = bounds_of(self._picture)
            inner = room.adjusted(8, 8, -8, -8)
            zoom = min(
                1.0,
                inner.width() / max(bounds.width, 1.0),
                inner.height() / max(bounds.height, 1.0),
            )
            ratio = self.devicePixelRatioF()
            draw_picture(painter, self._picture, room, zoom, self._rasters, ratio)
        else:
            painter.setPen(theme.color("muted"))
            painter.drawText(room, Qt.AlignmentFlag.AlignCenter, "not there")
        checked = self.isChecked()
        painter.setPen(theme.color("ink" if checked else "muted"))
        font = painter.font()
        font.setBold(checked)
        painter.setFont(font)
        words = QRectF(frame.x(), room.bottom(), frame.width(), 24)
        mark = "✓ " if checked else ""
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, f"{mark}{self.text()}")
        if checked or self.hasFocus():
            edge = theme.color("slate" if self.hasFocus() else "ink")
            painter.setPen(QPen(edge, 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(frame, 3, 3)
        painter.end()


class TeamBench(AsideBench):
    """Parts at the left, what changes in the one that is looked at, and what is done below.

    ticked()            other parts are to be taken in or published
    looked_at(str)      a part is looked at
    picked(object, str) a side counts for a disagreement, by its key
    raised(str, str)    a part gets a version of another level
    confirmed(str)      it shall be done, with a message
    """

    ticked = pyqtSignal()
    looked_at = pyqtSignal(str)
    picked = pyqtSignal(object, str)
    raised = pyqtSignal(str, str)
    confirmed = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._asking = Asking("", "", "")
        self.sheet: TeamSheet | None = None
        self._rasters = Rasters(Map)
        self._shown_part = ""
        self._tickable: frozenset[str] = frozenset()
        # What was picked last: the keys stay there when the pictures are made anew.
        self._last_pick: tuple[object, Side] | None = None
        across = builders.row()
        across.addWidget(self._side())
        across.addWidget(self._main(), 1)
        self.page.addLayout(across, 1)

    # --- building -------------------------------------------------------------------------

    def _side(self) -> QWidget:
        side = QWidget()
        dress(side, "panel", "right")
        side.setFixedWidth(226)
        column = builders.column(side, (14, 12, 10, 12), 8)
        self.parts = QListWidget()
        self.parts.setAccessibleName("Parts")
        self.parts.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.parts.setWordWrap(True)
        self.parts.itemChanged.connect(lambda _: self.ticked.emit())
        self.parts.currentRowChanged.connect(self._turn)
        column.addWidget(self.parts, 1)
        return side

    def _main(self) -> QWidget:
        main = QWidget()
        column = builders.column(main)
        self._content = QWidget()
        dress(self._content, "panel")
        self._rows = builders.column(self._content, (16, 12, 16, 16), 8)
        self.sight = QScrollArea()
        self.sight.setWidgetResizable(True)
        self.sight.setFrameShape(QFrame.Shape.NoFrame)
        self.sight.setWidget(self._content)
        column.addWidget(self.sight, 1)
        column.addWidget(self._foot())
        return main

    def _foot(self) -> QWidget:
        foot = QWidget()
        dress(foot, "panel", "top")
        rows = builders.column(foot, (14, 10, 14, 12), 8)
        self.outcome = builders.label(wrap=True, name="What would happen")
        rows.addWidget(self.outcome)
        line = QHBoxLayout()
        self.message = builders.line_edit("What is it for?", "What it is for")
        self.message.returnPressed.connect(self._confirm)
        self.confirm = builders.push_button("Take in", self._confirm, look="firm")
        line.addWidget(self.message, 2)
        line.addStretch(1)
        line.addWidget(self.confirm)
        rows.addLayout(line)
        return foot

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        if self.sheet is not None:
            self._fill()

    # --- beginning ------------------------------------------------------------------------

    def begin(self, asking: Asking, candidates: Iterable[SheetRow], chosen: Iterable[str]) -> None:
        """Turns to something else: the parts that it can be about, and those that are ticked."""
        candidates = tuple(candidates)
        self._asking = asking
        self._tickable = frozenset(row.part for row in candidates)
        self._last_pick = None
        self.sheet = None
        self._shown_part = ""
        self.call(asking.title, asking.about)
        self.confirm.setText(asking.verb)
        self.confirm.setVisible(bool(asking.verb))
        self.message.setVisible(bool(asking.message))
        self.message.setPlaceholderText(asking.message)
        self.message.clear()
        self.outcome.setText("")
        self._list(candidates, set(chosen))
        self._clear()
        self.confirm.setEnabled(False)
        self.parts.setFocus()

    def _list(self, rows: Iterable[SheetRow], chosen: set[str]) -> None:
        blocked = self.parts.blockSignals(True)
        current = self._shown_part
        self.parts.clear()
        for row in rows:
            item = self._item(row, chosen)
            self.parts.addItem(item)
            if row.part == current:
                self.parts.setCurrentItem(item)
        if self.parts.currentRow() < 0 and self.parts.count():
            first = next(iter(self.chosen()), "")
            parts = [str(item.data(_PART)) for item in self._items()]
            self.parts.setCurrentRow(parts.index(first) if first else 0)
        self.parts.blockSignals(blocked)
        self._shown_part = self.current

    def _item(self, row: SheetRow, chosen: set[str]) -> QListWidgetItem:
        item = QListWidgetItem(f"{row.name.rpartition('/')[2]}\n{row.detail}")
        item.setToolTip(row.name)
        item.setData(_PART, row.part)
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        if self._asking.ticks and row.part in chosen | self._tickable:
            flags |= Qt.ItemFlag.ItemIsUserCheckable
            state = Qt.CheckState.Checked if row.part in chosen else Qt.CheckState.Unchecked
            item.setCheckState(state)
        item.setFlags(flags)
        return item

    @property
    def current(self) -> str:
        """The part that is looked at; "" for none."""
        item = self.parts.currentItem()
        return str(item.data(_PART)) if item is not None else ""

    def chosen(self) -> tuple[str, ...]:
        """The parts that are ticked."""
        return tuple(
            str(item.data(_PART))
            for item in self._items()
            if item.checkState() == Qt.CheckState.Checked
            and item.flags() & Qt.ItemFlag.ItemIsUserCheckable
        )

    def _items(self) -> list[QListWidgetItem]:
        items = (self.parts.item(n) for n in range(self.parts.count()))
        return [item for item in items if item is not None]

    # --- working --------------------------------------------------------------------------

    def show_progress(self, text: str) -> None:
        """What is going on; "" when it has ended."""
        self.show_share(None if text else 1.0)
        if text:
            self.outcome.setText(text)
            self.confirm.setEnabled(False)

    def show_problem(self, sentence: str) -> None:
        """Says why it could not be done; what was shown stays."""
        self.outcome.setText(f"!  {sentence}")

    def show_sheet(
        self, sheet: TeamSheet, rows: Iterable[SheetRow], summary: str, can_confirm: bool = True
    ) -> None:
        """Shows what was worked out; `can_confirm` says whether there is something to do."""
        self.sheet = sheet
        assets = sheet.before.assets.update(sheet.after.assets)
        self._rasters = Rasters(lambda: assets)
        self._list(rows, set(self.chosen()))
        self.outcome.setText(summary)
        self.confirm.setEnabled(can_confirm)
        self._fill()

    # --- showing --------------------------------------------------------------------------

    def _turn(self, _: int) -> None:
        self._shown_part = self.current
        self.looked_at.emit(self._shown_part)
        if self.sheet is not None:
            self._fill()
            bar = self.sight.verticalScrollBar()
            if bar is not None:
                bar.setValue(0)

    def _clear(self) -> None:
        while (item := self._rows.takeAt(0)) is not None:
            widget, layout = item.widget(), item.layout()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
            if layout is not None:
                while (inner := layout.takeAt(0)) is not None:
                    inner_widget = inner.widget()
                    if inner_widget is not None:
                        inner_widget.hide()
                        inner_widget.deleteLater()

    def _fill(self) -> None:
        sheet = self.sheet
        assert sheet is not None  # whoever fills has one
        self._clear()
        if sheet.picks:
            self._heading("Both say something else: pick")
            for pick in sheet.picks:
                self._pick(pick)
        chapter = sheet.chapters.get(self._shown_part)
        row = next((row for row in sheet.rows if row.part == self._shown_part), None)
        if chapter is not None or row is not None:
            self._part(chapter, row)
        tokens = sheet.chapters.get("")
        if tokens is not None:
            self._heading("Tokens")
            self._lines(tokens.lines)
        if sheet.screens:
            self._heading("Screens that look different")
            self._pairs(sheet.screens)
        if sheet.set_aside:
            self._heading("Set aside, until it means something again")
            self._lines(sheet.set_aside)
        affected = [
            c.name
            for owner, c in sheet.chapters.items()
            if owner in sheet.after.components and not any(r.part == owner for r in sheet.rows)
        ]
        if affected:
            self._heading("Looks different by that")
            self._lines(affected)
        self._rows.addStretch()

    def _part(self, chapter: Chapter | None, row: SheetRow | None) -> None:
        self._part_heading(chapter, row)
        if row is not None and row.level and self._asking.message:
            self._level(row)
        if chapter is None:
            self._lines(("Nothing of it is different here.",))
            return
        self._lines(chapter.lines)
        if chapter.pairs and chapter.owner in self._components():
            self._muted(variants_text(chapter.pairs))
            self._pairs(chapter.pairs)

    def _part_heading(self, chapter: Chapter | None, row: SheetRow | None) -> None:
        name = chapter.name if chapter is not None else row.name if row is not None else ""
        if row is not None and not self._asking.ticks and row.name != name:
            self._heading(f"{name}   {row.name}")  # a version of it
            self._muted(row.detail)
        else:
            detail = row.detail if row is not None else ""
            self._heading(f"{name}   {detail}" if detail else name)

    def _components(self) -> set[str]:
        sheet = self.sheet
        return {*sheet.before.components, *sheet.after.components} if sheet is not None else set()

    def _level(self, row: SheetRow) -> None:
        line = QWidget()
        across = QHBoxLayout(line)
        across.setContentsMargins(0, 0, 0, 0)
        across.addWidget(QLabel("Version raised by"))
        choice = DropDown([(level, level) for level in LEVELS], f"Version of {row.name}")
        choice.show_value(row.level)
        choice.edited.connect(lambda level: self.raised.emit(row.part, level))
        across.addWidget(choice)
        across.addStretch()
        self._rows.addWidget(line)
        if row.reason:
            self._muted(f"{row.level} is proposed: {row.reason}")

    def _heading(self, text: str) -> None:
        self._rows.addWidget(builders.label(text, weight="bold", wrap=True, plain=True))

    def _muted(self, text: str) -> None:
        self._rows.addWidget(builders.label(text, tone="muted", wrap=True, plain=True))

    def _lines(self, lines: Iterable[str]) -> None:
        sentences = list(lines)
        visible_lines = sentences[:_MOST_LINES]
        if len(sentences) > len(visible_lines):
            visible_lines.append(f"and {len(sentences) - len(visible_lines)} more")
        label = QLabel("\n".join(f"·  {line}" for line in visible_lines))
        label.setTextFormat(Qt.TextFormat.PlainText)
        label.setWordWrap(True)
        self._rows.addWidget(label)

    def _pairs(self, pairs: Iterable[object]) -> None:
        view = PairsView(self._theme, self._rasters)
        view.show_pairs(tuple(pairs), self._rasters)  # type: ignore[arg-type]  # pairs they are
        self._rows.addWidget(view)

    def _pick(self, pick: PickRow) -> None:
        label = QLabel(pick.text)
        label.setTextFormat(Qt.TextFormat.PlainText)
        label.setWordWrap(True)
        self._rows.addWidget(label)
        line = QWidget()
        across = builders.row(line, (0, 0, 0, 4), 12)
        group = QButtonGroup(line)
        sides: tuple[tuple[Side, SizedFragment | None], ...] = (
            ("ours", pick.ours),
            ("theirs", pick.theirs),
        )
        choices = {}
        for side, picture in sides:
            choice = choices[side] = self._choice(pick, side, picture)
            group.addButton(choice)
            across.addWidget(choice)
        across.addStretch()
        self._rows.addWidget(line)
        if self._last_pick is not None and self._last_pick[0] == pick.key:
            line.show()
            choices[self._last_pick[1]].setFocus()

    def _choice(self, pick: PickRow, side: Side, picture: SizedFragment | None) -> PictureChoice:
        choice = PictureChoice(side.capitalize(), picture, self._rasters, self._theme)
        choice.setAccessibleName(f"{side.capitalize()}: {pick.text}")
        choice.setChecked(pick.side == side)
        choice.clicked.connect(partial(self._picked, pick.key, side))
        return choice

    def _picked(self, key: object, side: Side, _: bool = False) -> None:
        self._last_pick = key, side
        self.picked.emit(key, side)

    # --- the end --------------------------------------------------------------------------

    def _confirm(self) -> None:
        if self.confirm.isEnabled():
            self.confirmed.emit(self.message.text())
