"""What comes from outside is read for the work in hand: the small at once, the large beside the
window."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol, TypeVar

from PyQt6.QtCore import QObject

from outgrowth.app.job import JobRunner
from outgrowth.workspace import Workspace
from outgrowth.workspace.reading import AtOnce

_Read = TypeVar("_Read")
# So many bytes are read within a frame or two.
_LARGE_BYTES = 50_000


class ReadingNotice(Protocol):
    """What tells that something is being read, and lets it be stopped."""

    def show_message(self, sentence: str, *choices: tuple[str, Callable[[], object]]) -> object: ...
    def withdraw(self, sentence: str) -> object: ...


class FileReading(QObject):
    """Reads one after another, in the order in which it was asked."""

    def __init__(self, parent: QObject, workspace: Workspace, notice: ReadingNotice) -> None:
        super().__init__(parent)
        self._failed = workspace.failed.emit
        self._notice = notice
        self._shown = ""
        self._jobs = JobRunner(self)
        self._jobs.progressed.connect(self._show)

    @property
    def busy(self) -> bool:
        """Whether something is being read, or waits to be."""
        return self._jobs.busy

    def close_down(self) -> None:
        """The window is about to go."""
        self._jobs.close_down()

    def read(
        self, name: str, size: int, read: Callable[[], _Read], took: Callable[[_Read], object]
    ) -> None:
        """As `workspace.reading.Reading` has it."""
        if size <= _LARGE_BYTES and not self._jobs.busy:
            AtOnce(self._failed).read(name, size, read, took)
            return

        def told(report: Callable[[str], None]) -> _Read:
            report(f"Reading “{name}” …")
            return read()

        self._jobs.start(told, took, self._failed)

    def _show(self, sentence: str) -> None:
        """Says what is being read; "" when nothing is any more."""
        if sentence:
            self._notice.show_message(sentence, ("Stop", self._jobs.stop))
        else:
            self._notice.withdraw(self._shown)
        self._shown = sentence
