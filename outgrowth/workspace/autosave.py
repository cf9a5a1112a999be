"""Keeps a journal beside the work: after every step a line, so that a crash takes at most the
step under way. A journal belongs to one process and one file; it is locked as long as its
program runs, and one that is not locked was left by a crash.

Lines are laid over a copy of the file as it was opened, which stands beside the journal: the
file itself may be changed, moved or removed by others before anything is taken back.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import shutil
import threading
import time
from functools import partial
from pathlib import Path as FilePath
from typing import IO
from uuid import uuid4

from outgrowth.core.document.records import Document
from outgrowth.core.exchange.native import FileRefusal, disk_state, folder, load
from outgrowth.core.exchange.native.disk import LARGEST_FILE, read_file
from outgrowth.core.exchange.native.journal import About, Journal, Recovered, recovered
from outgrowth.core.refusal import clean
from outgrowth.workspace.workspace import Workspace

SUFFIX = ".journal"
_BASE = ".base"
_DAMAGED = ".damaged"
_FOLDING = ".folding"
FOLD_AT = 4_000_000
"""Bytes of a journal that is folded together."""
# Bytes of a journal that is read: the largest file twice over, as its lines stand apart.
_LARGEST_JOURNAL = 2 * LARGEST_FILE


class Autosave:
    """The journal of one workspace. Whoever owns it asks for `write` after the frame that shows
    a step, so that journals never delay what is seen."""

    def __init__(self, workspace: Workspace, folder: FilePath | None) -> None:
        """`folder` None writes nothing."""
        self._workspace = workspace
        self._folder = folder
        self._journal: Journal | None = None
        self._path: FilePath | None = None
        self._file: IO[bytes] | None = None
        self._length = 0
        self._folded_length = self._steps = 0
        self._about: About | None = None
        self._saved: Document | None = None
        self._folding: _Folding | None = None
        self._written: object = None
        self._warned = False

    def write(self) -> None:
        """Brings the journal to the document as it is; without unsaved work there is none."""
        workspace = self._workspace
        if not workspace.unsaved:
            self.drop()
            return
        if workspace.document is self._written or self._folder is None:
            return
        try:
            if self._path is not None and not self._path.exists():
                self._close()  # its folder went: a new one is begun
            self._append(self._folder)
        except OSError as problem:  # a full disk must not stop the work
            self._warn(problem)

    @property
    def is_current(self) -> bool:
        """Whether the document as it is stands in the journal."""
        return self._written is self._workspace.document

    def _append(self, folder: FilePath) -> None:
        """Writes a line; one that did not reach the disk whole is taken off again."""
        file, journal = self._opened(folder)
        document = self._workspace.document
        line = journal.line(document, self._steps + 1)
        try:
            file.seek(self._length)  # behind what counts, whatever went wrong before
            _write_whole(file, line)
        except OSError:
            with contextlib.suppress(OSError):
                os.ftruncate(file.fileno(), self._length)
            raise
        journal.wrote()
        self._length += len(line)
        self._steps += 1
        self._written = document
        self._warned = False
        self._fold(document)

    # --- folding --------------------------------------------------------------------------

    def _fold(self, document: Document) -> None:
        """A journal that has grown becomes one line again, written beside the work: until that is
        done, the lines as they are count."""
        folding = self._folding
        if folding is None:
            grown = self._length > max(FOLD_AT, 2 * self._folded_length)
            if grown and self._path is not None and self._about is not None:
                journal = Journal(self._about, self._saved)
                self._folding = _Folding(self._path, journal, document, self._steps)
        elif not folding.busy:
            self._folding = None
            self._take_folded(folding, document)

    def _take_folded(self, folding: _Folding, document: Document) -> None:
        """The one line, and what was done meanwhile, take the place of the many."""
        self._folded_length = self._length  # where there is no room, not before it is twice as long
        file = folding.file
        if file is None or self._path is None:
            return
        try:
            line = folding.journal.line(document, self._steps)
            _write_whole(file, line)
            folding.part.replace(self._path)
        except OSError:
            folding.give_up()
            return
        folding.journal.wrote()
        if self._file is not None:
            self._file.close()
        self._file, self._journal = file, folding.journal
        self._length = self._folded_length = file.tell()

    def _warn(self, problem: OSError) -> None:
        """Says once that steps are not kept; they are as soon as it is possible again."""
        if not self._warned:
            self._warned = True
            why = problem.strerror or str(problem)
            self._workspace.failed.emit(
                f"Your steps cannot be kept for the case of a crash: {why}. Save your work."
            )

    def _opened(self, folder: FilePath) -> tuple[IO[bytes], Journal]:
        if self._file is None or self._journal is None:
            folder.mkdir(parents=True, exist_ok=True)
            workspace = self._workspace
            path = str(workspace.path.resolve()) if workspace.path is not None else ""
            self._path = folder / f"{uuid4().hex}{SUFFIX}"
            path = path if clean(path) == path else ""  # no text, so no journal can say it
            base = self._base(base_of(self._path)) if path else ""
            self._about = About(path, workspace.document.name, os.getpid(), time.time(), base)
            self._saved = workspace.saved if base else None
            self._journal = Journal(self._about, self._saved)
            # Unbuffered: what could not be written is not tried again at some other moment.
            self._file = self._path.open("wb", buffering=0)
            self._length = self._folded_length = self._steps = 0
            fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        return self._file, self._journal

    def _base(self, copy: FilePath) -> str:
        """Copies the file as it was opened; the copy's name, "" where there is none to be had:
        the journal then holds the whole document."""
        path, expected = self._workspace.path, self._workspace.disk_state
        if path is None or expected is None:
            return ""
        try:
            if path.is_dir():
                for name in folder.own_files(path):
                    (copy / name).parent.mkdir(parents=True, exist_ok=True)
                    shutil.copyfile(path / name, copy / name)
            else:
                shutil.copyfile(path, copy)
            if disk_state(copy) == expected:
                return copy.name
        except (OSError, FileRefusal):
            pass
        _remove(copy)
        return ""

    def drop(self) -> None:
        """The work is saved, or given up: its journal goes."""
        if self._path is not None:
            remove_journal(self._path)
        self._close()

    def _close(self) -> None:
        if self._folding is not None:
            self._folding.give_up()
            self._folding = None
        if self._file is not None:
            self._file.close()
        self._file = self._journal = self._path = self._about = self._saved = None
        self._written = None
        self._length = self._folded_length = self._steps = 0


class _Folding:
    """One line for all of a journal, written by a thread of its own into a file beside it.

    file  where it was written, locked as a journal is; None while it is not, or where there was
          no room
    """

    def __init__(self, path: FilePath, journal: Journal, document: Document, steps: int) -> None:
        self.part = path.with_suffix(_FOLDING)
        self.journal = journal
        self.file: IO[bytes] | None = None
        self._ending = threading.Lock()
        self._is_wanted = True
        self._thread = threading.Thread(target=self._write, args=(document, steps), daemon=True)
        self._thread.start()

    @property
    def busy(self) -> bool:
        """Whether it is still being written."""
        return self._thread.is_alive()

    def _write(self, document: Document, steps: int) -> None:
        try:
            file = self.part.open("wb", buffering=0)
        except OSError:
            return
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
            _write_whole(file, self.journal.line(document, steps))
        except OSError:
            self._is_wanted = False
        with self._ending:
            self.file = file
            if self._is_wanted:
                self.journal.wrote()
            else:
                self._clear()

    def give_up(self) -> None:
        """Ends it; nothing of it stays. Nobody waits for what is being written."""
        with self._ending:
            self._is_wanted = False
            self._clear()

    def _clear(self) -> None:
        if self.file is not None:
            self.file.close()
            self.file = None
            _remove(self.part)


def _write_whole(file: IO[bytes], data: bytes) -> None:
    """Writes all of it. What is not buffered may be taken in part only: on a full disk what still
    fits is written, and nothing is said. Raises OSError."""
    rest = memoryview(data)
    while rest:
        rest = rest[file.write(rest) :]


def remove_journal(path: FilePath) -> None:
    """Removes a journal, and the copy that its lines are laid over."""
    _remove(path)
    _remove(base_of(path))
    _remove(path.with_suffix(_FOLDING))


def _remove(path: FilePath) -> None:
    with contextlib.suppress(OSError):
        if path.is_dir() and not path.is_symlink():
            shutil.rmtree(path)
        else:
            path.unlink()


def left_behind(folder: FilePath | None) -> list[tuple[FilePath, Recovered]]:
    """The journals that a crash left, and what they lead to. One that cannot be read is put
    aside, not removed: what is in it may still be of use to somebody."""
    results = []
    for part in folder.glob(f"*{_FOLDING}") if folder is not None else ():
        if not part.with_suffix(SUFFIX).exists() and not _in_use(part):
            _remove(part)
    for path in sorted(folder.glob(f"*{SUFFIX}")) if folder is not None else ():
        if _in_use(path):
            continue
        try:
            data = read_file(path, _LARGEST_JOURNAL)
            if not data:
                remove_journal(path)
                continue
            base = partial(_base_document, path)
            results.append((path, recovered(data, path.name, base)))
        except (FileRefusal, OSError):
            with contextlib.suppress(OSError):
                path.rename(path.with_suffix(_DAMAGED))
    return results


def base_of(journal: FilePath) -> FilePath:
    """The copy of the file as it was opened, where there was one."""
    return journal.with_suffix(_BASE)


def _base_document(journal: FilePath, about: About) -> Document | None:
    """What the base of a journal's lines holds."""
    if about.base != base_of(journal).name:
        return None
    try:
        return load(journal.with_name(about.base))
    except FileRefusal:
        return None


def _in_use(path: FilePath) -> bool:
    try:
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)  # no pipe holds us up
        try:
            fcntl.flock(handle, fcntl.LOCK_SH | fcntl.LOCK_NB)
        finally:
            os.close(handle)
    except OSError:
        return True
    return False
