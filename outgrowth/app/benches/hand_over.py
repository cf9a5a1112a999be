"""The bench of handing over: which components go out, what each is called and lacks, its code,
and what changed since the last time. Nothing is written before it has been seen."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStackedWidget,
    QWidget,
)

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.code import CodeField
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.exchange.web.files import HandOver
from outgrowth.core.review.finding import Finding
from outgrowth.workspace.handing_over import PictureFormats
from outgrowth.workspace.views.hand_over_rows import PartRow, files_of, summary_text

_ABOUT = "The file as code for those who build with it: nothing is written before it is seen."
_ID = Qt.ItemDataRole.UserRole
_SIDE = 268
_FINDING = 42
_SCALES = ("1", "2", "3", "4")


class HandOverBench(AsideBench):
    """Shows what it is given; the controller makes it and writes.

    chosen_changed() other components, pictures or names are to go out
    folder_asked()   another folder is to be chosen
    written()        what is shown is to be written
    page_asked()     the page that was written is to be opened
    visited(str, tuple)  a part to go to, of a component
    """

    chosen_changed = pyqtSignal()
    folder_asked = pyqtSignal()
    written = pyqtSignal()
    page_asked = pyqtSignal()
    visited = pyqtSignal(str, tuple)

    def __init__(self, theme: Theme) -> None:
        super().__init__("Hand over", _ABOUT)
        self._theme = theme
        self._made: HandOver | None = None
        self._rows: list[PartRow] = []
        self.page.addLayout(self._across(), 1)
        self.page.addWidget(self._foot())

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.code.set_theme(theme)

    # --- building ---------------------------------------------------------------------------

    def _across(self) -> QHBoxLayout:
        across = QHBoxLayout()
        across.setSpacing(0)
        across.addWidget(self._side())
        across.addWidget(self._middle(), 1)
        return across

    def _side(self) -> QWidget:
        side = QWidget()
        dress(side, "panel", "right")
        side.setFixedWidth(_SIDE)
        column = builders.column(side, (12, 10, 10, 10), 6)
        row = QHBoxLayout()
        label = builders.label("Names begin with", tone="muted")
        self.prefix = QLineEdit()
        self.prefix.setFixedWidth(64)
        self.prefix.setAccessibleName("What element names begin with")
        self.prefix.editingFinished.connect(self.chosen_changed)
        row.addWidget(label)
        row.addWidget(self.prefix)
        row.addStretch()
        column.addLayout(row)
        self.all = QCheckBox("All components")
        self.all.setTristate(True)
        self.all.clicked.connect(self._all_or_none)
        column.addWidget(self.all)
        self.list = QListWidget()
        self.list.setAccessibleName("Components that go out")
        self.list.currentItemChanged.connect(lambda: self._show_part())
        self.list.itemChanged.connect(lambda: self._ticked())
        column.addWidget(self.list, 1)
        return side

    def _middle(self) -> QWidget:
        middle = QWidget()
        column = builders.column(middle, (16, 12, 16, 12), 8)
        self.title = builders.label(weight="bold")
        self.title.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        row = QHBoxLayout()
        row.addWidget(self.title, 1)
        self.kinds = Segments(
            [("Module", "module"), ("Style sheet", "style sheet"), ("Types", "types")], "Which code"
        )
        self.kinds.show_value("Module")
        self.kinds.edited.connect(self._show_code)
        row.addWidget(self.kinds)
        column.addLayout(row)
        self.lacks = builders.scroll_area()
        column.addWidget(self.lacks)
        self.code = CodeField(self._theme, "The code of the component")
        column.addWidget(self.code, 1)
        self.middle = QStackedWidget()
        self.nothing = builders.label("Making the code …", tone="muted")
        self.nothing.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.middle.addWidget(self.nothing)
        self.middle.addWidget(middle)
        return self.middle

    def _foot(self) -> QWidget:
        foot = QWidget()
        dress(foot, "panel", "top")
        column = builders.column(foot, (12, 8, 12, 8), 6)
        first = QHBoxLayout()
        first.setSpacing(10)
        self.folder = QLabel()
        self.folder.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        choose = builders.push_button("Choose a folder …", self.folder_asked, look="firm")
        self.svg = QCheckBox("Variants as SVG")
        self.png = QCheckBox("as PNG at")
        self.scales = {text: QCheckBox(f"{text}×") for text in _SCALES}
        self.scales["1"].setChecked(True)
        first.addWidget(choose)
        first.addWidget(self.folder, 1)
        for box in (self.svg, self.png, *self.scales.values()):
            first.addWidget(box)
            box.toggled.connect(self._pictures_changed)
        column.addLayout(first)
        second = QHBoxLayout()
        second.setSpacing(10)
        self.plan = builders.label(wrap=True)
        second.addWidget(self.plan, 1)
        self.over = QCheckBox("Write over files edited by hand")
        self.over.hide()
        second.addWidget(self.over)
        self.open_page = builders.push_button("Open the page", self.page_asked, look="firm")
        second.addWidget(self.open_page)
        self.write = builders.push_button("Hand over", self.written, look="firm")
        second.addWidget(self.write)
        column.addLayout(second)
        self._enable_scales()
        return foot

    # --- what is asked for ----------------------------------------------------------------------

    @property
    def chosen(self) -> tuple[str, ...] | None:
        """The components that are ticked, by id; None for all."""
        items = [self.list.item(n) for n in range(self.list.count())]
        ticked = [i for i in items if i is not None and i.checkState() == Qt.CheckState.Checked]
        return None if len(ticked) == len(items) else tuple(i.data(_ID) for i in ticked)

    @property
    def pictures(self) -> PictureFormats:
        """The pictures that go out, too."""
        scales = [float(text) for text, box in self.scales.items() if box.isChecked()]
        return PictureFormats(self.svg.isChecked(), tuple(scales) if self.png.isChecked() else ())

    def _pictures_changed(self) -> None:
        self._enable_scales()
        self.chosen_changed.emit()

    def _enable_scales(self) -> None:
        for box in self.scales.values():
            box.setEnabled(self.png.isChecked())

    def _all_or_none(self) -> None:
        state = Qt.CheckState.Checked
        if self.all.checkState() == Qt.CheckState.Unchecked:
            state = Qt.CheckState.Unchecked
        self.all.setCheckState(state)
        self.list.blockSignals(True)
        for n in range(self.list.count()):
            item = self.list.item(n)
            if item is not None:
                item.setCheckState(state)
        self.list.blockSignals(False)
        self.chosen_changed.emit()

    def _ticked(self) -> None:
        self._show_all_state()
        self.chosen_changed.emit()

    def _show_all_state(self) -> None:
        chosen = self.chosen
        partly = Qt.CheckState.PartiallyChecked if chosen else Qt.CheckState.Unchecked
        self.all.setCheckState(Qt.CheckState.Checked if chosen is None else partly)

    # --- showing ---------------------------------------------------------------------------------

    def show_busy(self, share: float | None) -> None:
        """How far the code is (0 to 1); None when nothing is being made."""
        self.show_share(1.0 if share is None else min(share, 0.99))
        self.write.setEnabled(share is None and self._made is not None)

    def show_made(self, made: HandOver, rows: list[PartRow]) -> None:
        """What would go out now. What was looked at stays in sight."""
        current = self.list.currentItem()
        looked_at = current.data(_ID) if current is not None else ""
        self._made, self._rows = made, rows
        self.list.blockSignals(True)
        self.list.clear()
        for row in rows:
            self.list.addItem(_item(row))
            if row.component == looked_at or not self.list.currentItem():
                self.list.setCurrentRow(self.list.count() - 1)
        self.list.blockSignals(False)
        self._show_all_state()
        self.summary.setText(summary_text(rows))
        self.middle.setCurrentIndex(1)
        self._show_part()

    def show_plan(self, folder: str, text: str, edited: bool, has_page: bool) -> None:
        """Where it goes, and what would change there."""
        self.folder.setText(folder or "no folder yet")
        self.folder.setToolTip(folder)
        self.plan.setText(text)
        self.over.setVisible(edited)
        self.open_page.setEnabled(has_page)

    def _row(self) -> PartRow | None:
        item = self.list.currentItem()
        key = item.data(_ID) if item is not None else ""
        return next((row for row in self._rows if row.component == key), None)

    def _show_part(self) -> None:
        row = self._row()
        if row is None or self._made is None:
            return
        state = f" · {row.state}" if row.state else ""
        self.title.setText(f"{row.name}   <{row.element}>{state}")
        self.title.setTextFormat(Qt.TextFormat.PlainText)
        self._show_lacks(row)
        self._show_code(self.kinds.value)

    def _show_lacks(self, row: PartRow) -> None:
        body = QWidget()
        dress(body, "panel")
        column = builders.column(body, (0, 0, 8, 0), 4)
        for finding in row.findings:
            column.addLayout(self._lack(row.component, finding))
        column.addStretch()
        body.setMinimumWidth(1)
        # Two lines a finding; more than four are scrolled.
        self.lacks.setFixedHeight(min(len(row.findings), 4) * _FINDING)
        self.lacks.setWidget(body)
        self.lacks.setVisible(bool(row.findings))

    def _lack(self, component: str, finding: Finding) -> QHBoxLayout:
        across = QHBoxLayout()
        text = builders.label(finding.text, wrap=True)
        text.setTextFormat(Qt.TextFormat.PlainText)
        across.addWidget(text, 1)
        there = builders.push_button(
            "go there", partial(self.visited.emit, component, finding.node), look="tag"
        )
        across.addWidget(there, 0, Qt.AlignmentFlag.AlignTop)
        return across

    def _show_code(self, kind: str) -> None:
        row = self._row()
        files = dict(files_of(self._made, row.component)) if row and self._made else {}
        self.code.setPlainText(files.get(kind, "It does not go out."))


def _item(row: PartRow) -> QListWidgetItem:
    marks = [row.element, row.state] if row.state not in ("", "as it was") else [row.element]
    if row.findings and row.goes:
        marks.append(f"{len(row.findings)} to see to")
    item = QListWidgetItem(f"{row.name}\n{' · '.join(marks)}")
    item.setData(_ID, row.component)
    item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
    item.setCheckState(Qt.CheckState.Checked if row.goes else Qt.CheckState.Unchecked)
    return item
