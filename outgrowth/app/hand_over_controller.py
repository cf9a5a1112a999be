"""Handing over from a window: the code is made beside it, shown, and written when it is asked."""

from __future__ import annotations

from functools import partial
from pathlib import Path as FilePath

from PyQt6.QtCore import QObject, QTimer, QUrl, pyqtSignal
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QFileDialog

from outgrowth.app.dialogs.picture import PictureDialog
from outgrowth.app.job import JobRunner
from outgrowth.app.panels.notice import NoticeButton
from outgrowth.app.shot import rasterizer
from outgrowth.app.window_frame import WindowFrame
from outgrowth.core.exchange.native.disk import save_file
from outgrowth.core.exchange.output import PICTURES, Files, OutputPlan, plan, write
from outgrowth.core.exchange.web.files import HandOver, Wanted
from outgrowth.core.exchange.web.names import prefix_from
from outgrowth.core.layout import Layout
from outgrowth.core.refusal import Refusal
from outgrowth.core.text import Typesetter
from outgrowth.workspace.commands.picture_commands import (
    PictureFile,
    picture_files,
    picture_name,
)
from outgrowth.workspace.handing_over import made
from outgrowth.workspace.views.hand_over_rows import part_rows, plan_text, written_text

_KEPT = "hand over into"
# After an edit: typing is not followed letter by letter.
_WAIT_MS = 250
_GOOD: NoticeButton = ("Good", lambda: None)


class HandOverController(QObject):
    """One hand-over at a time, of what the window shows.

    shown  the bench is to be put in the middle
    left   it is done with
    """

    shown = pyqtSignal()
    left = pyqtSignal()
    progressed = pyqtSignal(float)

    def __init__(self, frame: WindowFrame, jobs: JobRunner) -> None:
        super().__init__(frame)
        self._frame = frame
        self._workspace = frame.workspace
        self._jobs = jobs
        self._made: HandOver | None = None
        self._plan: OutputPlan | None = None
        self._made_for: object = None
        self.bench = frame.hand_over
        self._connect()
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_WAIT_MS)
        self._timer.timeout.connect(self._begin)
        self._workspace.panels_due.connect(self._follow)

    def _connect(self) -> None:
        bench = self.bench
        bench.left.connect(self.left)
        bench.chosen_changed.connect(self._begin)
        bench.folder_asked.connect(self.ask_folder)
        bench.written.connect(self.write)
        bench.page_asked.connect(self.open_page)
        bench.visited.connect(self._visit)
        bench.stopped.connect(self._stop)
        self.progressed.connect(bench.show_busy)

    def close_down(self) -> None:
        """The window is about to go: nothing may run on."""
        self._timer.stop()
        self._jobs.close_down()

    # --- making -----------------------------------------------------------------------------

    def show_bench(self) -> None:
        """The bench of handing over, with what would go out now."""
        self.shown.emit()
        self.bench.setFocus()
        self._show_plan()
        self._begin()

    def _follow(self) -> None:
        if self.bench.isVisible() and self._workspace.document is not self._made_for:
            self._timer.start()

    def _begin(self) -> None:
        """Makes the code of what is asked for, beside the window."""
        document, bench = self._workspace.document, self.bench
        bench.prefix.setPlaceholderText(prefix_from(document.name))
        chosen = bench.chosen if self._made is not None else None
        screens = None if chosen is None else ()
        wanted = Wanted(chosen, screens, bench.prefix.text().strip())
        pictures, fonts = bench.pictures, self._workspace.engine.fonts
        self._made_for = document
        self._jobs.stop()
        self.bench.show_busy(0.0)
        folder = self.folder

        def job(report: object) -> tuple[HandOver, OutputPlan | None]:
            # A layout of its own: the window's is not for two threads.
            layout = Layout(Typesetter(fonts))

            def watch(share: float) -> None:
                report("Making the code …")  # type: ignore[operator]  # stops where it is asked to
                self.progressed.emit(share)

            rasterize = rasterizer(document) if pictures.scales else None
            handed = made(document, layout, wanted, pictures, rasterize, watch)
            return handed, plan(folder, handed.files) if folder is not None else None

        self._jobs.start(job, self._took, self._failed)

    def _took(self, result: tuple[HandOver, OutputPlan | None]) -> None:
        self._made, self._plan = result
        rows = part_rows(self._workspace.document, self._made, self._plan)
        self.bench.show_made(self._made, rows)
        self.bench.show_busy(None)
        self._show_plan()

    def _failed(self, sentence: str) -> None:
        self.bench.show_busy(None)
        self._workspace.failed.emit(sentence)

    def _stop(self) -> None:
        self._jobs.stop()
        self.bench.show_busy(None)

    # --- where it goes --------------------------------------------------------------------------

    @property
    def folder(self) -> FilePath | None:
        """The folder of this file's last hand-over."""
        kept = self._frame.user_state.get(_KEPT)
        path = kept.get(str(self._workspace.path)) if isinstance(kept, dict) else None
        return FilePath(path) if isinstance(path, str) else None

    def hand_over_into(self, folder: FilePath) -> None:
        """Chooses a folder; nothing is written yet."""
        kept = self._frame.user_state.get(_KEPT)
        folders = dict(kept) if isinstance(kept, dict) else {}
        folders[str(self._workspace.path)] = str(folder)
        self._frame.user_state.put(_KEPT, folders)
        self._look_again()

    def ask_folder(self) -> None:
        """Asks for the folder to hand over into."""
        start = str(self.folder or (self._workspace.path or FilePath.home()).parent)
        path = QFileDialog.getExistingDirectory(self._frame, "Hand over into", start)
        if path:
            self.hand_over_into(FilePath(path))

    def write(self) -> None:
        """Writes what is shown."""
        if self._made is not None and self.folder is None:
            self.ask_folder()
        if self._made is None or self.folder is None:
            return
        try:
            done = write(self.folder, self._made.files, self.bench.over.isChecked())
        except Refusal as problem:
            self._workspace.failed.emit(str(problem))
            return
        self._look_again()
        self._frame.notice.show_message(
            written_text(done),
            ("Open the page", self.open_page),
            _GOOD,
        )

    def _look_again(self) -> None:
        if self._made is not None and self.folder is not None:
            try:
                self._plan = plan(self.folder, self._made.files)
            except Refusal as problem:
                self._workspace.failed.emit(str(problem))
                return
            rows = part_rows(self._workspace.document, self._made, self._plan)
            self.bench.show_made(self._made, rows)
        self._show_plan()

    def _show_plan(self) -> None:
        folder, planned = self.folder, self._plan
        has_page = folder is not None and (folder / "index.html").is_file()
        edited = planned is not None and bool(planned.edited)
        self.bench.show_plan(str(folder or ""), plan_text(planned), edited, has_page)

    def open_page(self) -> None:
        """Opens the hand-over page in the browser of this machine."""
        if self.folder is not None:
            page = self.folder / "index.html"
            if not QDesktopServices.openUrl(QUrl.fromLocalFile(str(page))):
                self._workspace.failed.emit(f"No browser opened; the page is “{page}”.")

    def _visit(self, component: str, node: tuple[str, ...]) -> None:
        self.left.emit()
        self._workspace.open(component)
        self._workspace.select(node or None)

    # --- pictures ---------------------------------------------------------------------------------

    def ask_picture(self) -> None:
        """Asks what of the selection becomes a picture, of which form, and where it goes."""
        dialog = PictureDialog(self._frame, self._workspace)
        dialog.accepted.connect(lambda: self._ask_place(dialog.wanted))
        dialog.open()

    def _ask_place(self, wanted: PictureFile) -> None:
        start = str((self._workspace.path or FilePath.home() / "x").parent)
        if wanted.many:
            path = QFileDialog.getExistingDirectory(self._frame, "Pictures go into", start)
        else:
            name = picture_name(self._workspace, wanted)
            path, _ = QFileDialog.getSaveFileName(self._frame, "Save as", f"{start}/{name}")
        if path:
            self.write_pictures(wanted, FilePath(path))

    def write_pictures(self, wanted: PictureFile, path: FilePath) -> None:
        """Writes pictures of the selection: to one file, or into a folder."""
        rasterize = rasterizer(self._workspace.document)
        try:
            files = picture_files(self._workspace, wanted, rasterize)
            if wanted.many:
                self._write_into(path, files)
            else:
                save_file(path, next(iter(files.values())))
                self._frame.notice.show_message(f"“{path.name}” is written.", _GOOD)
        except Refusal as problem:
            self._workspace.failed.emit(str(problem))

    def _write_into(self, folder: FilePath, files: Files, over: bool = False) -> None:
        """Writes pictures into a folder; what somebody else put there stays unless `over`."""
        try:
            done = write(folder, files, over, PICTURES)
        except Refusal as problem:
            self._workspace.failed.emit(str(problem))
            return
        kept = 0 if over else len(done.edited)
        told = f"{len(files) - kept:,} pictures are in “{folder.name}”."
        if not kept:
            self._frame.notice.show_message(told, _GOOD)
            return
        self._frame.notice.show_message(
            f"{told} {kept:,} of these names were there already, by another hand, and are kept.",
            _GOOD,
            ("Write over them", partial(self._write_into, folder, files, True)),
        )
