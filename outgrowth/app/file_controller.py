"""The file of a window: saved, saved elsewhere, journalled, watched, put together again."""

from __future__ import annotations

import time
from pathlib import Path as FilePath
from typing import Any, Protocol

from PyQt6.QtCore import QEventLoop, QFileSystemWatcher, QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox, QWidget

from outgrowth.app.job import JobRunner
from outgrowth.app.panels.notice import NoticeStrip
from outgrowth.core.document.records import UNTITLED, Document
from outgrowth.core.exchange.native import (
    SUFFIX,
    ChangedMeanwhile,
    DiskState,
    FileRefusal,
    folder,
    load,
    save,
)
from outgrowth.core.exchange.native.disk import called
from outgrowth.core.exchange.native.journal import Recovered
from outgrowth.core.review.gone import gone_text
from outgrowth.core.team.merge_files import unmerged
from outgrowth.workspace import Workspace
from outgrowth.workspace.autosave import Autosave, remove_journal
from outgrowth.workspace.commands.naming_commands import name_file
from outgrowth.workspace.file_changes import FileChange, FileChanges
from outgrowth.workspace.recovery import give_up, recovered_text
from outgrowth.workspace.user_state import UserState

FILTER = f"Outgrowth files (*{SUFFIX} {folder.HEAD})"
# Of a file that is written beside the window.
_LARGE_BYTES = 1_000_000
_WAIT_S = 0.005
# Until a file that is being written by others is looked at.
_QUIET_MS = 150


class OtherWindows(Protocol):
    """What opens files in windows of their own."""

    def new(self) -> object: ...
    def reopen(self, path: FilePath, by: Any) -> object: ...


class FileController(QObject):
    """Asks and tells through the window and its strip; the workspace does the writing.

    windows   opens other files; None where there is only this window

    together_asked(object, object)  base, ours and theirs, which the first gives, are to be made
                                    one, which the second gets
    """

    together_asked = pyqtSignal(object, object)

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
        self._changes = FileChanges(workspace)
        self._jobs = JobRunner(self)
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(lambda _: self._later.start())
        self._watcher.directoryChanged.connect(lambda _: self._later.start())
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(_QUIET_MS)
        self._later.timeout.connect(self.look)
        workspace.overtaken.connect(lambda: self.look(asked_by_save=True))
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
        except FileRefusal as problem:
            self._workspace.failed.emit(str(problem))

    def tell_gone(self) -> None:
        """Says what in a file that was opened does not act as it is written."""
        told = gone_text(self._workspace.document) if self._workspace.path is not None else ""
        if told:
            self._workspace.failed.emit(told)

    # --- saving -----------------------------------------------------------------------------

    def save(self) -> bool:
        """Saves where the file is, or asks where. A large file is written beside the window."""
        path = self._workspace.path
        if path is not None and _is_large(path):
            self._save_beside(path)
            return True
        return self.save_now()

    def save_now(self) -> bool:
        """The same, and waits for it."""
        self.finish_saving()
        if self._workspace.path is None:
            return self.save_as()
        return self._saved(self._workspace.path)

    def _save_beside(self, path: FilePath) -> None:
        """Writes the document as it is now; what is done meanwhile is not saved yet."""
        workspace, document = self._workspace, self._workspace.document

        def job(_: object) -> DiskState | None:
            try:
                return save(document, path, workspace.disk_state)
            except ChangedMeanwhile:
                return None

        self._jobs.start(job, lambda state: self._wrote(document, path, state), self._not_written)

    def _wrote(self, document: Document, path: FilePath, state: DiskState | None) -> None:
        if state is None:
            self._workspace.overtaken.emit()
            return
        self._workspace.wrote(document, path, state)
        self._after_saving(path)

    def _not_written(self, sentence: str) -> None:
        self._workspace.failed.emit(sentence)

    def finish_saving(self) -> None:
        """Waits until what is being written is there."""
        while self._jobs.busy:
            QApplication.processEvents(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)
            time.sleep(_WAIT_S)

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
        if self._workspace.document.name == UNTITLED:
            stem = path.name.removesuffix(SUFFIX).removesuffix(folder.SUFFIX)
            name_file(self._workspace, stem[:1].upper() + stem[1:])
        if not self._workspace.save(path):
            return False
        self._after_saving(path)
        return True

    def _after_saving(self, path: FilePath) -> None:
        self._user_state.opened(path)
        self.autosave.write()
        self._watch()

    def ask_unsaved(self) -> bool:
        """Before the window closes: whether it may. What is not saved is asked about."""
        workspace = self._workspace
        self.finish_saving()
        if workspace.unsaved:
            buttons = QMessageBox.StandardButton
            answer = self.question()
            if answer == buttons.Cancel or (answer == buttons.Save and not self.save_now()):
                return False
        self._journal_due.stop()
        self.autosave.drop()
        return True

    def question(self) -> QMessageBox.StandardButton:
        """Asks whether to save what is not saved."""
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
        watched = [*self._watcher.files(), *self._watcher.directories()]
        if watched:
            self._watcher.removePaths(watched)
        paths = [str(path) for path in self._changes.paths()]
        if paths:
            self._watcher.addPaths(paths)

    def look(self, asked_by_save: bool = False) -> None:
        """Another program may have written the file: takes it in, or asks where there is work
        at stake. `asked_by_save` says that saving found it so."""
        if self._jobs.busy:
            self._later.start()  # what is seen now may be what is being written
            return
        self._watch()
        path, found_change = self._workspace.path, self._changes.look(asked_by_save)
        if path is None:
            return
        if found_change is FileChange.TAKEN_IN:
            self._notice.show_message(
                f"“{called(path)}” was changed by another program and is shown as it is "
                "now. Undo brings back what was here.",
                ("Good", lambda: None),
            )
        elif found_change is FileChange.CLASH:
            self._notice.show_message(
                f"“{called(path)}” was changed by another program, and there are changes here "
                "that are not saved.",
                ("Bring both together …", self._bring_together),
                ("Write mine over it", self.save_over),
                ("Take in the other (can be undone)", self._changes.take_in),
                ("Later", lambda: None),
            )
        elif found_change is FileChange.DAMAGED:
            self._ask_over(path)

    def _bring_together(self) -> None:
        self.together_asked.emit(lambda: self._changes.three, self._changes.bring_together)

    def tell_unmerged(self) -> None:
        """A file that git's merge left with two answers: says so, and lets one be picked."""
        workspace = self._workspace
        if unmerged(workspace.document) is None:
            return

        def three() -> tuple[Document, Document, Document] | None:
            return unmerged(workspace.document)

        def take(merged: Document) -> None:
            workspace.edit("pick what counts", lambda _: merged, from_library=True)

        self._notice.show_message(
            f"“{workspace.document.name}” was merged, and both sides say different things. Ours "
            "stands for now.",
            (
                "Pick …",
                lambda: self.together_asked.emit(three, take),
            ),
            ("Later", lambda: None),
        )

    def _ask_over(self, path: FilePath) -> None:
        self._notice.show_message(
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

    def tell_recovered(self, journal: FilePath, recovered: Recovered) -> None:
        """The window shows what a journal led to: says so, and lets it be given up. The old
        journal goes once the work is in one of this window's."""
        self.autosave.write()
        if self.autosave.is_current:
            remove_journal(journal)
        workspace = self._workspace
        saved = workspace.saved
        self._notice.show_message(
            recovered_text(workspace.document.name, recovered.steps),
            ("Keep them", lambda: None),
            (
                "Go back to what was saved (can be undone)",
                lambda: give_up(workspace, saved),
            ),
        )


def _is_large(path: FilePath) -> bool:
    """Whether what lies there would hold up the window while it is written."""
    try:
        return path.is_file() and path.stat().st_size > _LARGE_BYTES
    except OSError:
        return False
