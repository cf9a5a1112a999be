"""The bench of trials: the part with real content in all its rooms, what breaks edged and named."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QScrollArea,
    QSizePolicy,
    QWidget,
)

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.fields.choice import Segments
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.trial_sheet import LaidSheet, SheetPainter, Tile, plan_of
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.trials.sheet import TrialCell
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands.review_commands import drop_trial, keep_trial, take_content
from outgrowth.workspace.trying import Trying
from outgrowth.workspace.views.trial_rows import (
    blocks,
    cell_title,
    is_kept,
    only_broken,
    progress_text,
)

_DETAIL = 138
_LARGEST = 168.0
_ABOUT = "The part with real contents in the rooms it may get: what breaks, and where."
_FACES = (("this", "This variant"), ("all", "All variants"), ("kept", "Kept"))
_STEPS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class TrialSheetView(QWidget):
    """The sheet itself.

    chosen_changed()  another cell is looked at
    stepped()         by the keys
    """

    chosen_changed = pyqtSignal()
    stepped = pyqtSignal()

    def __init__(self, rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self.painter_of = SheetPainter(theme, rasters)
        self.plan = LaidSheet(0, 0, (), ())
        self.chosen: Tile | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Sheet of trials")
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def show_plan(self, plan: LaidSheet) -> None:
        """Shows a sheet; the cell that was looked at stays so."""
        before = self.chosen.cell.trial if self.chosen is not None else None
        self.plan = plan
        self.setFixedSize(self.sizeHint())
        same = (tile for tile in plan.tiles if tile.cell.trial == before)
        self.chosen = next(same, None)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(int(self.plan.width) + 12, int(self.plan.height) + 12)

    def choose(self, tile: Tile | None) -> None:
        """Looks at a cell."""
        if tile is not self.chosen:
            self.chosen = tile
            self.update()
            self.chosen_changed.emit()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            point = event.position()
            self.choose(self.plan.tile_at(point.x(), point.y()))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = _STEPS.get(Qt.Key(event.key())) if event is not None else None
        if step is None or not self.plan.tiles:
            super().keyPressEvent(event)
            return
        self.choose(self._beside(*step))
        self.stepped.emit()

    def _beside(self, across: int, down: int) -> Tile:
        """The nearest cell on one side of the one that is looked at."""
        if self.chosen is None:
            return self.plan.tiles[0]
        x, y = self.chosen.rect.topLeft().x(), self.chosen.rect.topLeft().y()

        def ahead(tile: Tile) -> float:
            return (tile.rect.x() - x) * across + (tile.rect.y() - y) * down

        def aside(tile: Tile) -> float:
            return abs(tile.rect.x() - x) * abs(down) + abs(tile.rect.y() - y) * abs(across)

        candidates = [tile for tile in self.plan.tiles if ahead(tile) > 1]
        if not candidates:
            return self.chosen
        return min(candidates, key=lambda tile: ahead(tile) + 8 * aside(tile))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        sight = QRectF(self.visibleRegion().boundingRect())
        ratio = self.devicePixelRatioF()
        self.painter_of.paint(painter, self.plan, sight, ratio, self.chosen)
        painter.end()


class TrialsBench(AsideBench):
    """rows_asked()   contents of the designer's own are to be brought
    begun()           another sheet is wanted
    played(object)    a content is to be put into Live
    saved()           the sheet is to be saved as a picture
    """

    rows_asked = pyqtSignal()
    begun = pyqtSignal()
    played = pyqtSignal(object)
    saved = pyqtSignal()

    def __init__(
        self, workspace: Workspace, trying: Trying, rasters: Rasters, theme: Theme
    ) -> None:
        super().__init__("Trials", _ABOUT)
        self._workspace = workspace
        self.trying = trying
        # After the frame: on a large screen it takes longer than that.
        self._narrowing = QTimer(self)
        self._narrowing.setSingleShot(True)
        self._narrowing.setInterval(30)
        self._narrowing.timeout.connect(self._show_narrowest)
        self._fill_strip()
        self.sheet = TrialSheetView(rasters, theme)
        self.sheet.chosen_changed.connect(self._show)
        self.sheet.stepped.connect(self._follow)
        self.sheet_area = QScrollArea()
        self.sheet_area.setWidget(self.sheet)
        bar = self.sheet_area.horizontalScrollBar()
        if bar is not None:
            bar.valueChanged.connect(lambda _: self.sheet.update())
        self.page.addWidget(self.sheet_area, 1)
        self.page.addWidget(self._foot())

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self.sheet.painter_of.theme = theme
        self.sheet.update()

    # --- building ---------------------------------------------------------------------------

    def _fill_strip(self) -> None:
        row = self.add_strip()
        self.faces = Segments(_FACES, "What is tried")
        self.faces.show_value("this")
        self.faces.edited.connect(self._choose_faces)
        row.addWidget(self.faces)
        self.only_broken = QCheckBox("Only what breaks")
        self.only_broken.toggled.connect(lambda _: self.refresh())
        row.addWidget(self.only_broken)
        self.bring = builders.push_button("Bring rows of your own …", self.rows_asked, look="firm")
        self.save = builders.push_button("Save as a picture …", self.saved, look="firm")
        row.addWidget(self.bring)
        row.addWidget(self.save)

    def _foot(self) -> QWidget:
        foot = QWidget()
        dress(foot, "panel", "top")
        foot.setFixedHeight(_DETAIL)
        page = builders.column(foot, (14, 10, 14, 10), 6)
        words_area = QWidget()
        column = builders.column(words_area, spacing=3)
        self.title = builders.label(weight="bold", wrap=True, plain=True)
        self.breaks = builders.label(wrap=True, plain=True)
        self.narrow = builders.label(tone="muted", wrap=True, plain=True)
        for label in (self.title, self.breaks, self.narrow):
            column.addWidget(label)
        column.addStretch(1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(words_area)
        dress(words_area, "panel")
        page.addWidget(area, 1)
        page.addLayout(self._buttons())
        return foot

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(8)
        self.keep = builders.push_button(act=self._keep, look="firm")
        self.play = builders.push_button("Put it into Live", self._play, look="firm")
        self.take = builders.push_button("Put it into the part", self._take, look="firm")
        for button in (self.keep, self.play, self.take):
            row.addWidget(button)
        row.addStretch(1)
        self.keep.setToolTip("Every later edit is tried against it, and told of in Look again.")
        self.take.setToolTip("Its words and pictures become these; undo brings them back.")
        return row

    # --- the sheet --------------------------------------------------------------------------

    def begin(self) -> None:
        """Takes the keys, with a new sheet."""
        self.begun.emit()
        self.sheet.setFocus()

    def _choose_faces(self, which: str) -> None:
        self.trying.variant_only, self.trying.kept_only = which == "this", which == "kept"
        self.begun.emit()

    def refresh(self) -> None:
        """Shows the sheet as far as it is."""
        trying = self.trying
        owner = trying.owner
        done, total = len(trying.cells), len(trying.trials)
        self.show_share(1.0 if trying.done else 0.99 * done / max(total, 1))
        if owner is None:
            self.summary.setText("Nothing is on the bench.")
            self.sheet.show_plan(LaidSheet(0, 0, (), ()))
            return
        name = owner.short_name
        text = progress_text(done, total, trying.broken)
        if trying.kept_only and not total:
            text = "no trial is kept of it yet"
        self.summary.setText(f"{name}: {text}")
        laid = blocks(owner, trying.trials, trying.cells)
        if self.only_broken.isChecked():
            laid = [only_broken(block) for block in laid]
        self.sheet.show_plan(plan_of(laid, _LARGEST))
        self._show()

    def _follow(self) -> None:
        """Scrolls to the cell that the keys went to."""
        if self.sheet.chosen is not None:
            middle = self.sheet.chosen.rect.center()
            self.sheet_area.ensureVisible(int(middle.x()), int(middle.y()), 240, 120)

    # --- one cell ---------------------------------------------------------------------------

    @property
    def cell(self) -> TrialCell | None:
        """The cell that is looked at."""
        return self.sheet.chosen.cell if self.sheet.chosen is not None else None

    def _show(self) -> None:
        cell, owner = self.cell, self.trying.owner
        for button in (self.keep, self.play, self.take):
            button.setVisible(cell is not None)
        if cell is None or owner is None:
            self.title.setText("What is tried" if owner is not None else "")
            hint = "Choose a cell to see what breaks in it, and what can be done with it."
            self.breaks.setText(hint if owner is not None else "")
            self.narrow.setText(self._narrowest_text())
            return
        self.title.setText(cell_title(owner, cell))
        lines = [item.text for item in cell.new]
        lines += [f"As before: {item.text}" for item in cell.breaks if item.before]
        self.breaks.setText("\n".join(lines) or "It holds.")
        self._narrowing.start()
        is_held = is_kept(owner, self._workspace.document.keeping.checks, cell.trial)
        self.keep.setText("No longer keep it" if is_held else "Keep it as a check")
        self.take.setVisible(cell.trial.content.id != "as-is")
        self.play.setVisible(cell.trial.content.id != "as-is")

    def _show_narrowest(self) -> None:
        cell = self.cell
        if cell is None:
            return
        narrowest = self.trying.narrowest_of(cell.trial)
        verdict = f"works from {narrowest:.4g} px on" if narrowest else "breaks at any width"
        text = " and text" if cell.trial.room.restyle is not None else ""
        text = " and such edges" if any(cell.trial.room.insets) else text
        self.narrow.setText(f"With this content{text} it {verdict}.")

    def _narrowest_text(self) -> str:
        narrowest = self.trying.narrowest
        if not narrowest:
            return ""
        return f"As it is, it works from {narrowest:.4g} px on."

    def _keep(self) -> None:
        cell, owner = self.cell, self.trying.owner
        if cell is None or owner is None:
            return
        is_held = is_kept(owner, self._workspace.document.keeping.checks, cell.trial)
        (drop_trial if is_held else keep_trial)(self._workspace, owner, cell.trial)
        self._show()

    def _play(self) -> None:
        cell = self.cell
        if cell is not None:
            self.played.emit(cell.trial.content)

    def _take(self) -> None:
        cell, owner = self.cell, self.trying.owner
        if cell is not None and owner is not None:
            take_content(self._workspace, owner, cell.trial.content)
