"""Work that takes long, done beside the window: told about, stopped, and waited for at the end."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, QThread, pyqtSignal

from outgrowth.core.document.refusal import Refusal
from outgrowth.core.team.store import Cancelled


class _Thread(QThread):
    """Runs one job. `progressed` carries words; one of the others ends it."""

    progressed = pyqtSignal(str)
    gave = pyqtSignal(object)
    failed = pyqtSignal(str)
    broke = pyqtSignal(object)

    def __init__(self, job: Callable[[Callable[[str], None]], object], parent: QObject) -> None:
        super().__init__(parent)
        self._job = job

    def run(self) -> None:
        """Does the job; ends early where it was asked to stop."""
        try:
            result = self._job(self._report)
        except Cancelled:
            return
        except Refusal as problem:
            self.failed.emit(str(problem))
            return
        # Whatever it is, it belongs to the window's own way with errors, on the window's thread.
        except Exception as problem:
            self.broke.emit(problem)
            return
        self.gave.emit(result)

    def _report(self, text: str) -> None:
        if self.isInterruptionRequested():
            raise Cancelled("Stopped; nothing was changed.")
        self.progressed.emit(text)


class JobRunner(QObject):
    """Does one job at a time; a new one waits until the one before has ended.

    progressed(str)  what is going on; "" when nothing is any more
    """

    progressed = pyqtSignal(str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._current: _Thread | None = None
        self._is_wanted = False
        self._waiting: list[tuple[Callable[..., object], Callable[..., object], Any]] = []

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
        self._waiting.append((job, took, failed))
        if self._current is None:
            self._next()

    def stop(self) -> None:
        """Stops what is being done and forgets what waits. It ends by itself, soon; the window
        does not wait for it."""
        self._waiting.clear()
        self._is_wanted = False
        if self._current is not None:
            self._current.requestInterruption()
            self.progressed.emit("")

    def close_down(self) -> None:
        """Waits for whatever is still being done: the window is about to go."""
        self.stop()
        if self._current is not None:
            self._current.wait()

    def _next(self) -> None:
        job, took, failed = self._waiting.pop(0)
        thread = self._current = _Thread(job, self)
        self._is_wanted = True
        thread.progressed.connect(self._relay)
        thread.gave.connect(lambda result: took(result) if self._is_wanted else None)
        thread.failed.connect(lambda text: failed(text) if failed and self._is_wanted else None)
        thread.broke.connect(_raise)
        thread.finished.connect(self._ended)
        thread.start()

    def _relay(self, text: str) -> None:
        if self._is_wanted:
            self.progressed.emit(text)

    def _ended(self) -> None:
        thread, self._current = self._current, None
        if thread is not None:
            thread.deleteLater()
        if self._waiting:
            self._next()
        else:
            self.progressed.emit("")


def _raise(problem: Exception) -> None:
    """An error of a job becomes one of the window."""
    raise problem
