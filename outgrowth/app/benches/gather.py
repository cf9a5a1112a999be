"""The bench of gathering: parts that were drawn separately, and what they would become.

Everything is shown before anything is changed: which drawings, which axes and values their
names give, the variants as the rules would draw them, and the proof that each drawing comes
out again. The work is done beside the window, which stays awake and can stop it.
"""

from __future__ import annotations

from PyQt6.QtCore import QObject, Qt, QThread, pyqtSignal
from PyQt6.QtWidgets import (
    QGridLayout,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.benches.grid_bench import GridBench
from outgrowth.app.benches.pen import Pen
from outgrowth.app.fields.choice import DropDown
from outgrowth.app.fields.words import WordsField
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.document.records import Axis, Driver
from outgrowth.core.edits.gather import GatheredDrawing, Report, gather
from outgrowth.core.edits.tree.components import add_component
from outgrowth.workspace import Engine, Workspace
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.gathering import (
    GatherRequest,
    Stopped,
    apply,
    drawing_families,
    proof_lines,
    renamed,
)

_ABOUT = (
    "Parts drawn separately and named by path, like Button/Primary/Large, become one component."
)
_DRIVERS: tuple[tuple[Driver, str], ...] = (
    ("none", "chosen"),
    ("pointer", "pointer"),
    ("focus", "focus"),
    ("room", "room"),
)


class Work(QThread):
    """Gathers beside the window. `progressed` carries a share, `found` a Report."""

    progressed = pyqtSignal(float)
    found = pyqtSignal(object)

    def __init__(self, requested: GatherRequest, parent: QObject) -> None:
        super().__init__(parent)
        self._request = requested

    def run(self) -> None:
        """Gathers; ends early where it was asked to stop."""
        document, drawings, names, drivers = self._request
        try:
            new_id = fresh_id("component")
            report = gather(document, drawings, new_id, names, drivers, self._watch)
        except Stopped:
            return
        self.found.emit(report)

    def _watch(self, share: float) -> None:
        if self.isInterruptionRequested():
            raise Stopped
        self.progressed.emit(share)


class GatherBench(AsideBench):
    """Pick drawings; name axes; see the variants; read the proof; gather."""

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__("Gather", _ABOUT)
        self._workspace = workspace
        self._rasters = rasters
        self._theme = theme
        self._families: dict[str, list[GatheredDrawing]] = {}
        self._work: Work | None = None
        self._ending: list[Work] = []
        self._names: list[WordsField] = []
        self._drivers: list[DropDown] = []
        self.report: Report | None = None
        self.stopped.connect(self.halt)
        across = builders.row()
        across.addWidget(self._picking())
        across.addWidget(self._showing(), 1)
        self.page.addLayout(across, 1)

    # --- building -------------------------------------------------------------------------

    def _picking(self) -> QWidget:
        side = QWidget()
        dress(side, "panel", "right")
        side.setFixedWidth(226)
        column = builders.column(side, (14, 12, 10, 12), 8)
        self._family_at = QVBoxLayout()
        self.drawings = QListWidget()
        self.drawings.setAccessibleName("Drawings to gather")
        self.drawings.setTextElideMode(Qt.TextElideMode.ElideLeft)
        self.drawings.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.drawings.itemChanged.connect(lambda _: self.look())
        column.addLayout(self._family_at)
        column.addWidget(self.drawings, 1)
        self.family = DropDown((), "Which parts")
        self._family_at.addWidget(self.family)
        return side

    def _showing(self) -> QWidget:
        main = QWidget()
        column = builders.column(main)
        self.axes = QWidget()
        self._axis_rows = QGridLayout(self.axes)
        self._axis_rows.setContentsMargins(14, 12, 14, 8)
        self._axis_rows.setColumnStretch(2, 1)
        column.addWidget(self.axes)
        self._preview_at = QVBoxLayout()
        column.addLayout(self._preview_at, 1)
        foot = QWidget()
        dress(foot, "panel", "top")
        line = builders.row(foot, (14, 10, 14, 12), 12)
        self.proof = builders.label(wrap=True, name="What was found")
        self.apply = builders.push_button("Gather them", self._apply, look="firm")
        line.addWidget(self.proof, 1)
        line.addWidget(self.apply, 0, Qt.AlignmentFlag.AlignBottom)
        column.addWidget(foot)
        return main

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        if self.report is not None:
            self._show(self.report)

    # --- picking --------------------------------------------------------------------------

    def begin(self) -> None:
        """Looks for families in the file, those on the bench first."""
        workspace = self._workspace
        self._families = drawing_families(workspace.document, workspace.selection.owner)
        old = self.family
        names = list(self._families)
        self.family = DropDown([(n, n) for n in names], "Which parts")
        self.family.edited.connect(self.pick)
        self._family_at.replaceWidget(old, self.family)
        old.hide()
        old.deleteLater()
        if names:
            self.pick(names[0])
            return
        self.report = None
        self.drawings.clear()
        self._clear()
        self.proof.setText(
            "Nothing in this file is named by path. Rename drawn parts like "
            "Button/Primary/Large first (F2 in Layers)."
        )
        self.apply.setEnabled(False)
        self._working(False)

    def pick(self, family: str) -> None:
        """Lists the drawings of a family, all of them ticked."""
        self.family.show_value(family)
        blocked = self.drawings.blockSignals(True)
        self.drawings.clear()
        for drawing in self._families[family]:
            item = QListWidgetItem(drawing.name)
            item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked)
            item.setToolTip(drawing.name)
            self.drawings.addItem(item)
        self.drawings.blockSignals(blocked)
        self._names, self._drivers = [], []
        self.look()

    def picked(self) -> list[GatheredDrawing]:
        """The drawings that are ticked."""
        results = []
        for n, drawing in enumerate(self._families.get(self.family.value, ())):
            item = self.drawings.item(n)
            if item is not None and item.checkState() == Qt.CheckState.Checked:
                results.append(drawing)
        return results

    # --- working it out -------------------------------------------------------------------

    def look(self) -> None:
        """Begins to work out what the ticked drawings would become; nothing is changed."""
        self.halt()
        names = tuple(field.text() for field in self._names)
        drivers: tuple[Driver | None, ...] = tuple(
            driver.value  # type: ignore[misc]  # one of _DRIVERS
            for driver in self._drivers
        )
        requested = GatherRequest(self._workspace.document, self.picked(), names, drivers)
        self.report = None
        self.apply.setEnabled(False)
        self._working(True)
        self._work = Work(requested, self)
        self._work.progressed.connect(lambda share: self.show_share(min(share, 0.99)))
        self._work.found.connect(self._report_came)
        self._work.start()

    def halt(self) -> None:
        """Stops the work, if any is going on."""
        work, self._work = self._work, None
        if work is not None:
            work.found.disconnect()
            work.progressed.disconnect()
            work.requestInterruption()
            self._ending.append(work)  # it ends by itself, soon; the window does not wait
            work.finished.connect(lambda: self._ended(work))
            self.proof.setText("Stopped; nothing was changed. Tick or untick to look again.")
        self._working(False)

    def _ended(self, work: Work) -> None:
        if work in self._ending:
            self._ending.remove(work)
            work.deleteLater()

    def close_down(self) -> None:
        """Waits for whatever still works: the window is about to go."""
        self.halt()
        for work in self._ending:
            work.wait()
            work.finished.disconnect()  # what it would tell comes after the window has gone
        self._ending.clear()

    def _report_came(self, report: Report) -> None:
        self._working(False)
        if self._work is not None:
            self._work.wait()
            self._work.deleteLater()
            self._work = None
        self.report = report
        self._show(report)

    def _working(self, on: bool) -> None:
        self.show_share(0.0 if on else 1.0)
        if on:
            self.proof.setText("Working out axes and rules …")

    # --- showing --------------------------------------------------------------------------

    def _show(self, report: Report) -> None:
        self._clear()
        component = report.component
        if component is None:
            self.proof.setText(self._proof_text(report))
            self.apply.setEnabled(False)
            return
        for n, axis in enumerate(component.axes):
            self._axis(axis, n)
        trial = add_component(self._workspace.document, component)
        looked_at = Workspace(
            Engine(self._workspace.engine.fonts), trial, notices=WorkspaceSignals()
        )
        looked_at.open(component.id)
        looked_at.select(None)
        self.preview = GridBench(looked_at, self._rasters, self._theme, Pen(), only_shown=True)
        self._preview_at.addWidget(self.preview)
        self.preview.show()
        layout = self.layout()
        if layout is not None:
            layout.activate()
        self.preview.fit()
        self.proof.setText(self._proof_text(report))
        self.apply.setEnabled(not report.differences)

    def _axis(self, axis: Axis, n: int) -> None:
        name = WordsField(f"Name of axis {n + 1}")
        name.setFixedWidth(120)
        name.show_value(axis.name)
        name.edited.connect(lambda _: self._rename())
        driver = DropDown(_DRIVERS, f"What sets {axis.name}")
        driver.show_value(axis.driver)
        driver.edited.connect(lambda _: self._rename())
        names = ", ".join(value.name for value in axis.values)
        values = builders.label(names, tone="muted", wrap=True)
        for place, widget in enumerate((name, driver, values)):
            self._axis_rows.addWidget(widget, n, place)
        self._names.append(name)
        self._drivers.append(driver)

    def _rename(self) -> None:
        """Takes names and drivers over; the rules stay as they were found."""
        report = self.report
        if report is None or report.component is None:
            return
        axes = [
            (name.text(), driver.value)
            for name, driver in zip(self._names, self._drivers, strict=True)
        ]
        by_room = [axis.driver == "room" for axis in report.component.axes]
        if by_room != [driver == "room" for _, driver in axes]:
            self.look()  # the widths that they were drawn in mean something else then
            return
        self.report = renamed(report, axes)  # type: ignore[arg-type]  # one of _DRIVERS
        self._show(self.report)

    def _proof_text(self, report: Report) -> str:
        return "<br>".join(proof_lines(report, (self._theme.good, self._theme.problem)))

    def _clear(self) -> None:
        self._names, self._drivers = [], []
        for layout in (self._axis_rows, self._preview_at):
            while (item := layout.takeAt(0)) is not None:
                widget = item.widget()
                if widget is not None:
                    widget.hide()
                    widget.deleteLater()

    # --- the end --------------------------------------------------------------------------

    def leave_bench(self) -> None:
        """Leaves the bench as if nothing had been asked."""
        self.halt()
        self._clear()
        self.left.emit()

    def _apply(self) -> None:
        if self.report is not None and apply(self._workspace, self.report):
            self.leave_bench()
