"""The bench of looking again: what a careful colleague would point at, where, why, and what would
mend it. Nothing is changed before it has been seen."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import QModelIndex, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPen
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QScrollArea,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.benches.place_picture import PlacePicture
from outgrowth.app.fields.choice import DropDown, Segments
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.records import Document
from outgrowth.core.motion.view import View
from outgrowth.core.review.finding import SUBJECTS, Finding
from outgrowth.core.review.kinds import ROWS
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands.review_commands import (
    let_stand,
    mend,
    mended,
    waive_findings,
)
from outgrowth.workspace.looking import Looking
from outgrowth.workspace.views.finding_rows import (
    SURE,
    TITLES,
    FindingRow,
    after_mend,
    finding_rows,
    mend_lines,
    shown_owner,
    shown_variant,
    subject_counts,
    summary_text,
)

_ABOUT = "What a careful colleague would point at, and what would mend it: seen before it is done."
_ROW = Qt.ItemDataRole.UserRole
_DETAIL = 344
_HEIGHT, _HEAD = 42, 30
_ROLES = {"error": "problem", "likely": "saffron", "maybe": "muted"}
_SHOWN = (("see-to", "To see to"), ("all", "All"), ("waived", "Waived"))
_MOST_ROWS = 2_000


class LookBench(AsideBench):
    """visited(str, tuple, object)  an owner, the path of a part in it, and its variant, to go to
    asked()                      it is to be looked at now
    """

    visited = pyqtSignal(str, tuple, object)
    asked = pyqtSignal()

    def __init__(
        self, workspace: Workspace, looking: Looking, rasters: Rasters, theme: Theme
    ) -> None:
        super().__init__("Look again", _ABOUT)
        self._workspace = workspace
        self.looking = looking
        self._rows: list[FindingRow] = []
        self._theme = theme
        self.again = builders.push_button("Look at it now", self.asked, look="firm")
        self.tools.addWidget(self.again)
        self._fill_strip()
        across = QHBoxLayout()
        across.setSpacing(0)
        across.addWidget(self._middle(theme), 1)
        across.addWidget(self._aside(rasters, theme))
        self.page.addLayout(across, 1)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = self._delegate.theme = theme
        for picture in (self.now, self.then):
            picture.set_theme(theme)
        self.list.viewport().update()  # type: ignore[union-attr]  # a list has one

    # --- building ---------------------------------------------------------------------------

    def _fill_strip(self) -> None:
        row = self.add_strip()
        self.filter = Segments(_SHOWN, "Which findings")
        self.filter.show_value("see-to")
        self._which = "see-to"
        self.filter.edited.connect(self.choose)
        row.addWidget(self.filter)
        self.subjects = DropDown((("", "All subjects"),), "Subject")
        self.subjects.setFixedWidth(184)
        self.subjects.show_value("")
        self.subjects.edited.connect(lambda _: self._list())
        row.addWidget(self.subjects)

    def _middle(self, theme: Theme) -> QWidget:
        self.list = QListWidget()
        self.list.setAccessibleName("What was found")
        self._delegate = _FindingDelegate(theme)
        self.list.setItemDelegate(self._delegate)
        self.list.currentItemChanged.connect(lambda *_: self._show())
        self.list.itemActivated.connect(lambda _: self._go())
        return self.list

    def _aside(self, rasters: Rasters, theme: Theme) -> QWidget:
        side = QWidget()
        dress(side, "panel", "left")
        side.setFixedWidth(_DETAIL)
        page = builders.column(side, (0, 0, 0, 12), 8)
        told = QWidget()
        dress(told, "panel")
        column = builders.column(told, (14, 12, 14, 0), 8)
        page.addWidget(builders.scroll_area(told), 1)
        self.text = builders.label(wrap=True, plain=True)
        self.source = builders.label(tone="muted", wrap=True, plain=True)
        column.addWidget(self.text)
        column.addWidget(self.source)
        self.now = PlacePicture(rasters, theme, "As it is now")
        self.then = PlacePicture(rasters, theme, "As the mend would leave it")
        column.addWidget(self.now, 1)
        self.then_title = builders.label(tone="muted", wrap=True)
        column.addWidget(self.then_title)
        column.addWidget(self.then, 1)
        column.addWidget(self._change_list())
        ends = builders.column(margins=(14, 0, 14, 0), spacing=8)
        ends.addLayout(self._ends())
        ends.addLayout(self._waiving())
        page.addLayout(ends)
        return side

    def _change_list(self) -> QWidget:
        self.changes = builders.label(tone="muted", wrap=True, plain=True)
        self.changes.setAlignment(Qt.AlignmentFlag.AlignTop)
        scroll = self._changes_scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.changes)
        scroll.setMaximumHeight(112)
        return scroll

    def _ends(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.mend_button = builders.push_button(act=self.mend, look="firm")
        self.there = builders.push_button("Go there", self._go, look="firm")
        self.otherwise = builders.push_button("Or …", self._offer_others, look="firm")
        self.otherwise.setAccessibleName("Other mends")
        row.addWidget(self.mend_button, 1)
        row.addWidget(self.otherwise)
        row.addWidget(self.there)
        return row

    def _waiving(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.reason = builders.line_edit("Why it may stay as it is")
        self.reason.returnPressed.connect(self.waive)
        self.waiver = builders.push_button("Waive", self.waive, look="firm")
        row.addWidget(self.reason, 1)
        row.addWidget(self.waiver)
        return row

    # --- what was found ---------------------------------------------------------------------

    def begin(self) -> None:
        """Takes the keys, with what was found the last time."""
        self.refresh()
        self.list.setFocus()

    def refresh(self) -> None:
        """Lists what was found, as far as is known."""
        looking = self.looking
        self._rows = finding_rows(self._workspace.document, looking.findings)
        self.summary.setText(summary_text(self._rows) if looking.about is not None else "")
        self.show_share(looking.share)
        self.again.setVisible(looking.due and looking.share >= 1.0)
        self._list_subjects()
        self._list()

    def choose(self, filter_name: str) -> None:
        """Lists what is to be seen to, all, or what was waived."""
        self._which = filter_name
        self.filter.show_value(filter_name)
        self._list()

    def _list_subjects(self) -> None:
        counts = subject_counts(self._rows)
        named = [("", f"All subjects ({sum(counts.values()):,})")]
        named += [(s, f"{TITLES[s]} ({counts[s]:,})" if counts[s] else TITLES[s]) for s in SUBJECTS]
        self.subjects.set_options(named)

    def _shown_rows(self) -> list[FindingRow]:
        subject = self.subjects.value
        rows = [r for r in self._rows if not subject or r.finding.subject == subject]
        if self._which == "waived":
            return [row for row in rows if row.reason]
        rows = [row for row in rows if not row.reason]
        return rows if self._which == "all" else [r for r in rows if r.finding.sure != "maybe"]

    def _list(self) -> None:
        chosen = self.chosen
        before = {finding.key for finding in chosen}
        groups: dict[str, list[FindingRow]] = {}
        for row in self._shown_rows():
            groups.setdefault(row.finding.kind, []).append(row)
        self.list.blockSignals(True)
        self.list.clear()
        current, left = -1, _MOST_ROWS
        for kind, rows in groups.items():
            self.list.addItem(_heading(kind, rows))
            for row in rows[: max(left, 0)]:
                self.list.addItem(_item(row))
                if len(before) == 1 and row.finding.key in before:
                    current = self.list.count() - 1
            left -= len(rows)
        if self.list.count() and current < 0:
            current = min(1, self.list.count() - 1)
        self.list.setCurrentRow(current)
        self.list.blockSignals(False)
        self._show()

    # --- one of them ------------------------------------------------------------------------

    @property
    def chosen(self) -> list[Finding]:
        """The finding that is looked at; at a heading all of its kind."""
        item = self.list.currentItem()
        rows = item.data(_ROW) if item is not None else []
        return [row.finding for row in rows]

    @property
    def _reason(self) -> str:
        item = self.list.currentItem()
        rows = item.data(_ROW) if item is not None else []
        return rows[0].reason if rows else ""

    def _show(self) -> None:
        chosen = self.chosen
        waived = bool(self._reason)
        for widget in (self.there, self.waiver, self.source, self.reason):
            widget.setVisible(bool(chosen))
        self.reason.setVisible(bool(chosen) and not waived)
        self.waiver.setText("Let it stand again" if waived else "Waive")
        if not chosen:
            self._show_nothing()
            return
        finding = chosen[0]
        title = f"{ROWS[finding.kind].title}: {len(chosen):,} places."
        self.text.setText(title if len(chosen) > 1 else finding.text)
        sources = f"{finding.source} · {SURE[finding.sure]}"
        self.source.setText(f"{sources}\nWaived: {self._reason}" if waived else sources)
        self._show_mend(chosen)

    def _show_nothing(self) -> None:
        sentences_by_filter = {"see-to": "Nothing to see to.", "all": "Nothing to point at."}
        told = sentences_by_filter.get(self._which, "Nothing was waived.")
        is_looking = self.looking.share < 1.0 and self._which != "waived"
        self.text.setText("Nothing yet; it is being looked at." if is_looking else told)
        for picture in (self.now, self.then):
            picture.hide()
        for widget in (self.then_title, self._changes_scroll, self.mend_button, self.otherwise):
            widget.hide()

    def _show_mend(self, chosen: Sequence[Finding]) -> None:
        document, finding = self._workspace.document, chosen[0]
        mendable = [f for f in chosen if f.mend is not None]
        after: Document | None
        if len(chosen) > 1:
            after = mended(document, mendable) if mendable else None
        else:
            after = after_mend(document, finding)
        view = self._view(document, finding)
        self.now.setVisible(view is not None)
        self.now.show_place(view, finding.node)
        then = self._view(after, finding) if after is not None else None
        differs = then is not None and view is not None and then.scene is not view.scene
        self.then.setVisible(differs)
        if differs:
            self.then.show_place(then, finding.node)
        lines = mend_lines(document, after) if after is not None else []
        self._changes_scroll.setVisible(bool(lines))
        self.changes.setText("\n".join(lines))
        title = finding.mend.title if finding.mend is not None else ""
        is_group = len(mendable) > 1
        self.then_title.setVisible(bool(mendable))
        self.then_title.setText(f"The mend: {title}" if title else "")
        label = f"Mend {len(mendable):,}" if is_group else f"{title[:1].upper()}{title[1:]}"
        metrics = self.mend_button.fontMetrics()
        short = metrics.elidedText(label, Qt.TextElideMode.ElideRight, _DETAIL - 140)
        self.mend_button.setText(short)
        self.mend_button.setToolTip(label)
        self.mend_button.setVisible(bool(mendable))
        self.otherwise.setVisible(len(chosen) == 1 and bool(finding.others))

    def _view(self, document: Document | None, finding: Finding) -> View | None:
        if document is None:
            return None
        owner = shown_owner(document, finding)
        if not owner:
            return None
        return self._workspace.engine.view(document, owner, shown_variant(document, finding))

    # --- what is done -----------------------------------------------------------------------

    def mend(self) -> None:
        """Mends what is looked at, as one step."""
        findings = [finding for finding in self.chosen if finding.mend is not None]
        if findings:
            mend(self._workspace, findings)

    def other_mends(self) -> QMenu:
        """The other mends of what is looked at, each done as one step."""
        menu = QMenu(self)
        for mend_of in self.chosen[0].others if len(self.chosen) == 1 else ():
            title = f"{mend_of.title[:1].upper()}{mend_of.title[1:]}"
            run = partial(self._workspace.edit, mend_of.title, mend_of.change)
            builders.menu_entry(menu, title, run)
        return menu

    def _offer_others(self) -> None:
        button = self.otherwise
        builders.show_menu(self.other_mends(), button)

    def waive(self) -> None:
        """Waives what is looked at, or lets it stand again."""
        findings = self.chosen
        if not findings:
            return
        if self._reason:
            let_stand(self._workspace, findings)
        elif waive_findings(self._workspace, findings, self.reason.text(), self.looking.standing):
            self.reason.clear()
        self.refresh()

    def _go(self) -> None:
        findings = self.chosen
        if findings and findings[0].owner:
            self.left.emit()
            self.visited.emit(findings[0].owner, findings[0].node, findings[0].variant)


def _heading(kind: str, rows: list[FindingRow]) -> QListWidgetItem:
    item = QListWidgetItem(f"{ROWS[kind].title}, {len(rows):,}")
    item.setData(_ROW, rows)
    item.setData(_ROW + 1, "heading")
    return item


def _item(row: FindingRow) -> QListWidgetItem:
    """Named as it is read: a screen reader gets the whole of it."""
    finding = row.finding
    item = QListWidgetItem(f"{SURE[finding.sure]}: {row.place}: {finding.text}")
    item.setData(_ROW, [row])
    item.setToolTip(finding.text)
    return item


class _FindingDelegate(QStyledItemDelegate):
    """Draws a finding: where it is, how sure, and what it says; or what a kind is called."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(100, _HEAD if index.data(_ROW + 1) else _HEIGHT)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        rows = index.data(_ROW)
        rect = QRectF(option.rect)
        painter.save()
        state = option.state
        if state & (QStyle.StateFlag.State_Selected | QStyle.StateFlag.State_MouseOver):
            painter.fillRect(rect, self.theme.color("lit"))
        if state & QStyle.StateFlag.State_Selected:
            bar = QRectF(rect.x(), rect.y(), 3, rect.height())
            painter.fillRect(bar, self.theme.color("slate"))
        if index.data(_ROW + 1):
            self._title(painter, rect, rows)
        else:
            self._finding(painter, rect, rows[0])
        painter.restore()

    def _title(self, painter: QPainter, rect: QRectF, rows: list[FindingRow]) -> None:
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        painter.setPen(self.theme.color("ink"))
        room = rect.adjusted(14, 4, -14, 0)
        title = ROWS[rows[0].finding.kind].title
        short = QFontMetricsF(font).elidedText(
            title, Qt.TextElideMode.ElideRight, room.width() - 44
        )
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, short)
        font.setBold(False)
        painter.setFont(font)
        painter.setPen(self.theme.color("muted"))
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.drawText(room, flags, f"{len(rows):,}")

    def _finding(self, painter: QPainter, rect: QRectF, row: FindingRow) -> None:
        finding = row.finding
        color = self.theme.color(_ROLES[finding.sure])
        _mark(painter, QRectF(rect.x() + 16, rect.y() + 9, 8, 8), color, finding.sure)
        metrics = QFontMetricsF(painter.font())
        upper = QRectF(rect.x() + 34, rect.y() + 3, rect.width() - 48, 19)
        lower = upper.translated(0, 18)
        painter.setPen(self.theme.color("ink"))
        place = metrics.elidedText(row.place, Qt.TextElideMode.ElideMiddle, upper.width())
        painter.drawText(upper, Qt.AlignmentFlag.AlignVCenter, place)
        painter.setPen(self.theme.color("muted"))
        text = f"Waived: {row.reason}" if row.reason else finding.text
        short = metrics.elidedText(text, Qt.TextElideMode.ElideRight, lower.width())
        painter.drawText(lower, Qt.AlignmentFlag.AlignVCenter, short)


def _mark(painter: QPainter, rect: QRectF, color: QColor, sure: str) -> None:
    """How sure: a full square, a hollow one, a dash."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(color, 1.5))
    painter.setBrush(color if sure == "error" else QColor(0, 0, 0, 0))
    if sure == "maybe":
        y = rect.center().y()
        painter.drawLine(int(rect.left()), int(y), int(rect.right()), int(y))
    else:
        painter.drawRect(rect)
