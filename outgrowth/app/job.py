"""Work that takes long, done beside the window: told about, stopped, and never waited for."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Callable
from typing import Any

from PyQt6 import sip
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from outgrowth.core.refusal import Refusal
from outgrowth.core.team.store import Cancelled

_LAST_S = 2.0
"""How long a window that closes waits for what is being done: most ends at once."""
_GIVEN_UP_MS = 5_000
"""When what was stopped counts as ended: a server that is silent can't be interrupted."""


class _Work(QObject):
    """Runs one job in a thread that ends with the program. `progressed` carries words; `gave`,
    `failed` or `broke` say how it went; `ended` comes last."""

    progressed = pyqtSignal(str)
    gave = pyqtSignal(object)
    failed = pyqtSignal(str)
    broke = pyqtSignal(object)
    ended = pyqtSignal()

    def __init__(self, job: Callable[[Callable[[str], None]], object], parent: QObject) -> None:
        super().__init__(parent)
        self._job = job
        self._stopped = threading.Event()
        self.thread_running = threading.Thread(target=self._run, daemon=True)

    def stop(self) -> None:
        """The job ends the next time it tells what is going on."""
        self._stopped.set()

    def _run(self) -> None:
        # The window may have gone meanwhile, and its objects with it: then nobody is told.
        with contextlib.suppress(RuntimeError):
            try:
                result = self._job(self._report)
            except Cancelled:
                pass
            except Refusal as problem:
                self.failed.emit(str(problem))
            # Whatever it is, it belongs to the window's own way with errors, on its thread.
            except Exception as problem:
                self.broke.emit(problem)
            else:
                self.gave.emit(result)
            self.ended.emit()

    def _report(self, text: str) -> None:
        if self._stopped.is_set():
            raise Cancelled("Stopped; nothing was changed.")
        self.progressed.emit(text)


class JobRunner(QObject):
    """Does one job at a time; a new one waits until the one before has ended.

    progressed(str)  what is going on; "" when nothing is any more
    """

    progressed = pyqtSignal(str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._current: _Work | None = None
        self._is_wanted = False
        self._is_closed = False
        self._waiting: list[tuple[Callable[..., object], Callable[..., object], Any]] = []
        self._giving_up = QTimer(self)
        self._giving_up.setSingleShot(True)
        self._giving_up.setInterval(_GIVEN_UP_MS)
        self._giving_up.timeout.connect(self._ended)

    @property
    def busy(self) -> bool:
        """Whether something is being done, or waits to be."""
        return self._current is not None or bool(self._waiting)

    def start(
        self,
        job: Callable[[Callable[[str], None]], Any],
        took: Callable[[Any], object],
        failed: Callable[[str], object] | None = None,
    ) -> None:
        """Does a job; `took` gets what it gave, `failed` the sentence where it couldn't."""
        if self._is_closed:  # a field that loses the focus as its window goes may ask for one
            return
        self._waiting.append((job, took, failed))
        if self._current is None:
            self._next()

    def stop(self) -> None:
        """Stops what is being done and forgets what waits. It ends by itself, soon; the window
        does not wait for it."""
        self._waiting.clear()
        self._is_wanted = False
        if self._current is not None:
            self._current.stop()
            self._giving_up.start()
            self.progressed.emit("")

    def close_down(self) -> None:
        """The window is about to go: what is being done gets a moment to end, and is left to
        itself where a server is silent."""
        self._is_closed = True
        self.stop()
        self._giving_up.stop()
        if self._current is not None:
            self._current.thread_running.join(_LAST_S)

    def _next(self) -> None:
        job, took, failed = self._waiting.pop(0)
        work = self._current = _Work(job, self)
        self._is_wanted = True
        work.progressed.connect(
            lambda text: self.progressed.emit(text) if self._counts(work) else None
        )
        work.gave.connect(lambda result: took(result) if self._counts(work) else None)
        work.failed.connect(lambda text: failed(text) if failed and self._counts(work) else None)
        work.broke.connect(_raise)
        work.ended.connect(lambda: self._took_leave(work))
        work.thread_running.start()

    def _counts(self, work: _Work) -> bool:
        """Whether what a job says is still asked for."""
        return self._is_wanted and self._current is work

    def _took_leave(self, work: _Work) -> None:
        """A job has said all that it has to say; one that was given up may do so much later."""
        if sip.isdeleted(self):
            return  # the window went meanwhile, and all of this with it
        if self._current is work:
            self._ended()
        work.thread_running.join()
        work.deleteLater()

    def _ended(self) -> None:
        self._giving_up.stop()
        self._current = None
        if self._waiting:
            self._next()
        else:
            self.progressed.emit("")


def _raise(problem: Exception) -> None:
    """An error of a job becomes one of the window."""
    raise problem
