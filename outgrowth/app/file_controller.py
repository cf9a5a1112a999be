"""The file of a window: saved, saved elsewhere, journalled, watched, put together again."""

from __future__ import annotations

import contextlib
from pathlib import Path as FilePath
from typing import Any, Protocol

from PyQt6.QtCore import QFileSystemWatcher, QObject, QTimer
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from outgrowth.app.panels.notice import NoticeStrip
from outgrowth.core.exchange.native import SUFFIX, FileProblem, folder, load, load_seen, seen
from outgrowth.core.exchange.native.disk import called
from outgrowth.core.exchange.native.journal import Recovered
from outgrowth.workspace import Workspace
from outgrowth.workspace.autosave import Autosave, remove_journal
from outgrowth.workspace.user_state import UserState

FILTER = f"Outgrowth files (*{SUFFIX} {folder.HEAD})"
_QUIET_MS = 150
"""Until a file that is being written by others is looked at."""


class OtherWindows(Protocol):
    """What opens files in windows of their own."""

    def new(self) -> object: ...
    def reopen(self, path: FilePath, by: Any) -> object: ...


class FileController(QObject):
    """Asks and tells through the window and its strip; the workspace does the writing.

    windows   opens other files; None where there is only this window
    """

    def __init__(
        self,
        workspace: Workspace,
        window: QWidget,
        notice: NoticeStrip,
        user_state: UserState,
        windows: OtherWindows | None = None,
    ) -> None:
        super().__init__(window)
        self._windows = windows
        self._workspace = workspace
        self._window = window
        self._notice = notice
        self._user_state = user_state
        self.autosave = Autosave(workspace, user_state.journals)
        self._journal_due = QTimer(self)  # of no length: after the frame that shows the step
        self._journal_due.setSingleShot(True)
        self._journal_due.timeout.connect(self.autosave.write)
        workspace.history_changed.connect(self._journal_due.start)
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(lambda _: self._later.start())
        self._watcher.directoryChanged.connect(lambda _: self._later.start())
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(_QUIET_MS)
        self._later.timeout.connect(self.look)
        self._stamps: list[tuple[int, int, int]] = []
        workspace.overtaken.connect(lambda: self.look(asked=True))
        self._watch()

    # --- opening ----------------------------------------------------------------------------

    def new(self) -> None:
        """An empty file in a window of its own; in this one, if it is empty too."""
        if self._windows is not None:
            self._windows.new()

    def open_again(self) -> None:
        """The saved file once more, in another window."""
        if self._workspace.path is not None:
            self.open(self._workspace.path)
        else:
            self._workspace.failed.emit("Save the file first; then it can be opened once more.")

    def ask_open(self) -> None:
        """Asks for a file and shows it in a window of its own."""
        name, _ = QFileDialog.getOpenFileName(self._window, "Open", "", FILTER)
        if name:
            path = FilePath(name)
            self.open(path.parent if path.name == folder.HEAD else path)

    def open(self, path: FilePath) -> None:
        """Shows a file in a window of its own; says why if it cannot be read, and leaves
        the work in hand as it is."""
        try:
            if self._windows is not None:
                self._windows.reopen(path, self._window)
            else:
                load(path)
        except FileProblem as problem:
            self._workspace.failed.emit(str(problem))

    # --- saving -----------------------------------------------------------------------------

    def save(self) -> bool:
        """Saves where the file is, or asks where."""
        if self._workspace.path is None:
            return self.save_as()
        return self._saved(self._workspace.path)

    def save_as(self) -> bool:
        """Asks for a name; False if none was given or saving failed."""
        start = str(self._workspace.path or f"{self._workspace.document.name}{SUFFIX}")
        name, _ = QFileDialog.getSaveFileName(self._window, "Save", start, FILTER)
        if not name:
            return False
        return self._saved(FilePath(name if name.endswith(SUFFIX) else name + SUFFIX))

    def save_folder(self) -> bool:
        """Asks for a name for the folder form, and saves there from now on."""
        start = f"{self._workspace.document.name}{folder.SUFFIX}"
        if self._workspace.path is not None:
            stem = self._workspace.path.name.removesuffix(SUFFIX).removesuffix(folder.SUFFIX)
            start = str(self._workspace.path.with_name(stem + folder.SUFFIX))
        name, _ = QFileDialog.getSaveFileName(self._window, "Save as a folder", start)
        if not name:
            return False
        bare = name.removesuffix(folder.SUFFIX)
        return self._saved(FilePath(bare + folder.SUFFIX))

    def _saved(self, path: FilePath) -> bool:
        if not self._workspace.save(path):
            return False
        self._user_state.opened(path)
        self.autosave.write()
        self._watch()
        return True

    def ask_unsaved(self) -> bool:
        """Before the window closes: whether it may. What is not saved is asked about."""
        workspace = self._workspace
        if workspace.unsaved:
            buttons = QMessageBox.StandardButton
            answer = self.question()
            if answer == buttons.Cancel or (answer == buttons.Save and not self.save()):
                return False
        self._journal_due.stop()
        self.autosave.drop()
        return True

    def question(self) -> QMessageBox.StandardButton:
        buttons = QMessageBox.StandardButton
        return QMessageBox.question(
            self._window,
            "Not saved",
            f"“{self._workspace.document.name}” has changes that are not saved.",
            buttons.Save | buttons.Discard | buttons.Cancel,
            buttons.Save,
        )

    # --- changed by others ------------------------------------------------------------------

    def _watch(self) -> None:
        path = self._workspace.path
        held = [*self._watcher.files(), *self._watcher.directories()]
        if held:
            self._watcher.removePaths(held)
        if path is None:
            return
        # The folder around it too: a file that is removed and made anew has no watch of its own.
        watched = {path, path.parent, *self._parts(path)}
        there = [str(one) for one in watched if one.exists()]
        if there:
            self._watcher.addPaths(there)

    def _stamped(self, path: FilePath) -> list[tuple[int, int, int]]:
        """What tells at a glance that nothing was written: reading takes longer."""
        found = []
        for one in (path, *self._parts(path)):
            with contextlib.suppress(OSError):
                about = one.stat()
                found.append((about.st_ino, about.st_size, about.st_mtime_ns))
        return found

    def _parts(self, path: FilePath) -> list[FilePath]:
        """The files of the folder form, and the folders that they stand in."""
        if not path.is_dir():
            return []
        with contextlib.suppress(FileProblem, OSError):
            files = [path / name for name in folder.own_files(path)]
            return [*files, *{file.parent for file in files}]
        return []

    def look(self, asked: bool = False) -> None:
        """Another program may have written the file: takes it in, or asks where there is work
        at stake. `asked` says that saving found it so."""
        workspace = self._workspace
        self._watch()
        if workspace.path is None or not workspace.path.exists():
            return  # what is gone is written anew by saving
        stamps = self._stamped(workspace.path)
        if stamps == self._stamps and not asked:
            return  # something else in the folder around it
        self._stamps = stamps
        try:
            if seen(workspace.path) == workspace.seen:
                return
            found, now = load_seen(workspace.path)
        except FileProblem as problem:
            workspace.failed.emit(f"The file was changed by another program. {problem}")
            if asked:
                self._ask_over(workspace.path)
            return
        if found == workspace.saved and not asked:
            workspace.seen = now
            return
        step = "take in what another program saved"
        if not workspace.unsaved:
            workspace.take_in(found, step, now)
            self._notice.say(
                f"“{called(workspace.path)}” was changed by another program and is shown as it is "
                "now. Undo brings back what was here.",
                ("Good", lambda: None),
            )
            return
        self._notice.say(
            f"“{called(workspace.path)}” was changed by another program, and there are changes "
            "here that are not saved.",
            ("Write mine over it", self.save_over),
            ("Take in the other (can be undone)", lambda: workspace.take_in(found, step, now)),
            ("Later", lambda: None),
        )

    def _ask_over(self, path: FilePath) -> None:
        self._notice.say(
            f"“{called(path)}” was damaged by another program, so it was not written over unasked.",
            ("Write mine over it", self.save_over),
            ("Later", lambda: None),
        )

    def save_over(self) -> None:
        """Saves where the file is, whatever another program wrote there."""
        if self._workspace.save(over=True):
            self.autosave.write()
            self._watch()

    # --- after a crash ----------------------------------------------------------------------

    def tell_recovered(self, journal: FilePath, held: Recovered) -> None:
        """The window shows what a journal led to: says so, and lets it be given up. The old
        journal goes once the work is in one of this window's."""
        self.autosave.write()
        if self.autosave.keeps:
            remove_journal(journal)
        workspace = self._workspace
        saved = workspace.saved
        many = held.steps != 1
        count = f"{held.steps} steps" if many else "One step"
        self._notice.say(
            f"Outgrowth ended without saving “{workspace.document.name}”. {count} that "
            f"{'were' if many else 'was'} not saved {'are' if many else 'is'} here again.",
            ("Keep them", lambda: None),
            (
                "Go back to what was saved (can be undone)",
                lambda: workspace.take_in(saved, "go back to what was saved"),
            ),
        )
