"""Files that are read for the work in hand: small ones at once, large ones beside the window."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path as FilePath
from typing import Protocol, TypeVar

from PyQt6.QtCore import QObject

from outgrowth.app.job import JobRunner
from outgrowth.core.exchange.native.disk import called
from outgrowth.core.refusal import Refusal
from outgrowth.workspace import Workspace

_Read = TypeVar("_Read")
# A file of so many bytes is read within a frame or two.
_LARGE_BYTES = 200_000


class ReadingNotice(Protocol):
    """What tells that a file is being read, and lets it be stopped."""

    def show_message(self, sentence: str, *choices: tuple[str, Callable[[], object]]) -> object: ...
    def hide(self) -> object: ...


class FileReading(QObject):
    """Reads one file after another. A refusal is told in the window's own way."""

    def __init__(self, parent: QObject, workspace: Workspace, notice: ReadingNotice) -> None:
        super().__init__(parent)
        self._workspace = workspace
        self._notice = notice
        self._jobs = JobRunner(self)

    def close_down(self) -> None:
        """The window is about to go."""
        self._jobs.close_down()

    def read(
        self, path: FilePath, read: Callable[[FilePath], _Read], took: Callable[[_Read], object]
    ) -> None:
        """Gives `took` what `read` makes of a file; `read` raises Refusal, and knows nothing of
        the window."""
        if not _is_large(path):
            try:
                result = read(path)
            except Refusal as problem:
                self._workspace.failed.emit(str(problem))
            else:
                took(result)
            return

        def done(result: _Read) -> None:
            self._notice.hide()
            took(result)

        def failed(sentence: str) -> None:
            self._notice.hide()
            self._workspace.failed.emit(sentence)

        self._jobs.stop()
        self._notice.show_message(f"Reading “{called(path)}” …", ("Stop", self._jobs.stop))
        self._jobs.start(lambda _: read(path), done, failed)


def _is_large(path: FilePath) -> bool:
    try:
        return path.stat().st_size > _LARGE_BYTES
    except (OSError, ValueError):
        return False  # reading it says why
