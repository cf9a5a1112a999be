"""Keeps a journal beside the work: after every step a line, so that a crash takes at most the
step under way. A journal is locked as long as its program runs; one that is not locked was
left by a crash."""

from __future__ import annotations

import contextlib
import fcntl
import os
import time
from pathlib import Path as FilePath
from typing import IO
from uuid import uuid4

from PyQt6.QtCore import QObject, QTimer

from outgrowth.app.session.session import Session
from outgrowth.core.exchange.journal import About, Journal, Recovered, recovered
from outgrowth.core.exchange.native import load
from outgrowth.core.exchange.native_read import FileProblem

SUFFIX = ".journal"


class Keeper(QObject):
    """Writes after the frame that shows the step: journals never delay what is seen."""

    def __init__(self, session: Session, folder: FilePath | None) -> None:
        """`folder` None writes nothing."""
        super().__init__()
        self._session = session
        self._folder = folder
        self._journal: Journal | None = None
        self._path: FilePath | None = None
        self._file: IO[bytes] | None = None
        self._written: object = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self.write)
        session.history_changed.connect(self._soon.start)

    def write(self) -> None:
        """Brings the journal to the document as it is; without unsaved work there is none."""
        self._soon.stop()
        session = self._session
        if not session.unsaved:
            self.drop()
            return
        if session.document is self._written or self._folder is None:
            return
        with contextlib.suppress(OSError):  # a full disk must not stop the work
            file, journal = self._opened(self._folder)
            file.write(journal.line(session.document))
            file.flush()
            self._written = session.document

    def _opened(self, folder: FilePath) -> tuple[IO[bytes], Journal]:
        if self._file is None or self._journal is None:
            session = self._session
            path = str(session.path.resolve()) if session.path is not None else ""
            about = About(path, session.document.name, os.getpid(), time.time())
            self._journal = Journal(about, session.saved if path else None)
            self._path = folder / f"{uuid4().hex}{SUFFIX}"
            self._file = self._path.open("wb")
            fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        return self._file, self._journal

    def drop(self) -> None:
        """The work is saved, or given up: its journal goes."""
        self._soon.stop()
        if self._file is not None and self._path is not None:
            with contextlib.suppress(OSError):
                self._path.unlink()
            self._file.close()
        self._file = self._journal = self._path = None
        self._written = None


def left_behind(folder: FilePath | None) -> list[tuple[FilePath, Recovered]]:
    """The journals that a crash left, and what they lead to. Those that hold nothing are
    cleared away."""
    found = []
    for path in sorted(folder.glob(f"*{SUFFIX}")) if folder is not None else ():
        if _in_use(path):
            continue
        try:
            held = recovered(path.read_bytes(), path.name, lambda name: load(FilePath(name)))
        except (FileProblem, OSError):
            with contextlib.suppress(OSError):
                path.unlink()
            continue
        found.append((path, held))
    return found


def _in_use(path: FilePath) -> bool:
    try:
        with path.open("rb") as file:
            fcntl.flock(file, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except OSError:
        return True
    return False
