"""Looking again and trying, beside what is worked at: in slices between the window's own events,
so that nothing waits for them."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path as FilePath

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QFileDialog

from outgrowth.app.paint.trial_sheet import sheet_picture
from outgrowth.app.shot import encoded
from outgrowth.app.window_frame import WindowFrame
from outgrowth.core.color.difference import prepare
from outgrowth.core.exchange.native.disk import called, save_file
from outgrowth.core.refusal import Refusal
from outgrowth.core.trials.contents import TrialContent
from outgrowth.workspace.commands.review_commands import fill_rows
from outgrowth.workspace.reading import size_of
from outgrowth.workspace.rows_file import formulas_text, read_rows
from outgrowth.workspace.views.finding_rows import status_words

_SETTLE_MS = 600
"""How long nothing is edited before the file is looked at again by itself."""
_SLICE_S = 0.008
_REST_MS = 4
_ROWS = "Rows (*.csv *.tsv *.json)"
_PICTURES = "Pictures (*.png)"


class ReviewController(QObject):
    """shown(str)  a bench is to be put in the middle: “look” or “trials”
    left          it is done with
    """

    shown = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(self, frame: WindowFrame) -> None:
        super().__init__(frame)
        self._frame = frame
        self._workspace = frame.workspace
        self._looking, self._trying = frame.looking, frame.trying
        self._settling = _timer(self, _SETTLE_MS, self._begin_by_itself)
        self._look_timer = _timer(self, _REST_MS, self._look_on)
        self._try_timer = _timer(self, _REST_MS, self._try_on)
        self._preparing = threading.Thread(target=prepare, daemon=True)
        self._connect()
        self._settling.start()

    def _connect(self) -> None:
        look, trials = self._frame.look_bench, self._frame.trials_bench
        self._workspace.document_changed.connect(self._edited)
        look.left.connect(self.left)
        look.stopped.connect(self._stop_looking)
        look.asked.connect(self.look)
        trials.left.connect(self.left)
        trials.begun.connect(self._try)
        trials.stopped.connect(self._stop_trying)
        trials.rows_asked.connect(self.ask_rows)
        trials.played.connect(self._play)
        trials.saved.connect(self._save_sheet)

    def close_down(self) -> None:
        """The window is about to go: nothing may run on."""
        for timer in (self._settling, self._look_timer, self._try_timer):
            timer.stop()
        if self._preparing.is_alive():  # nothing may run on while Python itself is taken apart
            self._preparing.join()

    # --- looking again ----------------------------------------------------------------------

    def show_look(self) -> None:
        """The bench of looking again, with what is found now."""
        self.shown.emit("look")
        if self._looking.due:
            self.look()
        self._frame.look_bench.begin()

    def look(self) -> None:
        """Looks at the file as it is now."""
        self._settling.stop()
        self._looking.begin()
        self._look_timer.start()
        self._told()

    def _edited(self) -> None:
        """What is edited is not looked at in the middle of it."""
        self._look_timer.stop()
        self._looking.halt()
        self._settling.start()
        if self._frame.look_bench.isVisible():
            self._frame.look_bench.refresh()

    def _begin_by_itself(self) -> None:
        if not self._preparing.is_alive() and self._preparing.ident is None:
            self._preparing.start()
        if self._workspace.dragging or self._preparing.is_alive():
            self._settling.start()
        elif self._looking.due and not self._looking.is_large:
            self.look()
        else:
            self._told()
        if self._frame.trials_bench.isVisible() and self._trying.about is not (
            self._workspace.document
        ):
            self._try()

    def _look_on(self) -> None:
        if self._looking.advance(_SLICE_S):
            self._look_timer.start()
            if self._frame.look_bench.isVisible():
                self._frame.look_bench.show_share(self._looking.share)
        else:
            self._told()

    def _stop_looking(self) -> None:
        self._look_timer.stop()
        self._looking.halt()
        self._told()

    def _told(self) -> None:
        looking = self._looking
        waits = looking.about is None or (looking.due and looking.share >= 1.0)
        self._frame.status.show_findings(
            status_words(looking.standing, looking.share, waits), looking.share < 1.0
        )
        if self._frame.look_bench.isVisible():
            self._frame.look_bench.refresh()

    # --- trials -----------------------------------------------------------------------------

    def show_trials(self) -> None:
        """The bench of trials, with a sheet of what is on the bench."""
        self.shown.emit("trials")
        self._frame.trials_bench.begin()

    def _try(self) -> None:
        self._trying.begin()
        self._try_timer.start()
        self._frame.trials_bench.refresh()

    def _try_on(self) -> None:
        bench = self._frame.trials_bench
        if not bench.isVisible():
            return
        more = self._trying.advance(_SLICE_S * 4)
        bench.refresh()
        if more:
            self._try_timer.start()

    def _stop_trying(self) -> None:
        self._try_timer.stop()
        self._trying.halt()
        self._frame.trials_bench.refresh()

    def ask_rows(self) -> None:
        """Asks for a file of rows, and tries them."""
        name, _ = QFileDialog.getOpenFileName(self._frame, "Bring rows", "", _ROWS)
        if name:
            self.bring_rows(FilePath(name))

    def bring_rows(self, path: FilePath) -> None:
        """Tries the rows of a file, besides what ships."""

        def bring(rows: tuple[TrialContent, ...]) -> None:
            self._trying.rows = rows
            self._try()
            self._tell_formulas(rows)

        self._read_rows(path, bring)

    def _tell_formulas(self, rows: tuple[TrialContent, ...]) -> None:
        if formulas_text(rows):
            self._workspace.failed.emit(formulas_text(rows))

    def ask_fill(self) -> None:
        """Asks for a file of rows, and fills the list that is selected with them."""
        name, _ = QFileDialog.getOpenFileName(self._frame, "Fill with rows", "", _ROWS)
        if name:
            self.fill(FilePath(name))

    def fill(self, path: FilePath) -> None:
        """Fills the list that is selected with the rows of a file."""

        def fill(rows: tuple[TrialContent, ...]) -> None:
            try:
                fill_rows(self._workspace, rows)
            except Refusal as problem:
                self._workspace.failed.emit(str(problem))
            else:
                self._tell_formulas(rows)

        self._read_rows(path, fill)

    def _read_rows(
        self, path: FilePath, took: Callable[[tuple[TrialContent, ...]], object]
    ) -> None:
        reading = self._workspace.reading
        reading.read(called(path), size_of(path), lambda: read_rows(path), took)

    def _play(self, content: TrialContent) -> None:
        owner = self._trying.owner
        self._frame.live.playback.show_content(owner.id if owner is not None else "", content)

    def _save_sheet(self) -> None:
        owner = self._trying.owner
        cells = [cell for cell in self._trying.cells if cell is not None]
        if owner is None or not cells:
            return
        name, _ = QFileDialog.getSaveFileName(self._frame, "Save the sheet", "", _PICTURES)
        if name:
            path = FilePath(name if name.lower().endswith(".png") else f"{name}.png")
            try:
                save_file(path, encoded(sheet_picture(self._workspace.document, owner, cells)))
            except Refusal as problem:
                self._workspace.failed.emit(str(problem))


def _timer(parent: QObject, ms: int, act: object) -> QTimer:
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(ms)
    timer.timeout.connect(act)  # type: ignore[arg-type]  # a method
    return timer
