"""What nobody foresaw: an exception that no code of ours caught never ends the program.

It is told in a sentence, with a report that can be copied; what was shown of an unfinished
drag is taken back, so that the document is the one before, and the journal is brought up to it.
A refusal that nobody caught is told like any other.
"""

from __future__ import annotations

import logging
import platform
import sys
import threading
import traceback
from collections.abc import Callable
from types import TracebackType
from typing import Protocol

from PyQt6.QtCore import QT_VERSION_STR, QObject, pyqtSignal
from PyQt6.QtWidgets import QApplication

from outgrowth import __version__
from outgrowth.app.file_controller import FileController
from outgrowth.app.panels.notice import NoticeStrip
from outgrowth.core.refusal import Refusal
from outgrowth.workspace import Workspace

_SENTENCE = (
    "Something went wrong inside Outgrowth, and this step was not made. Your work is as it was "
    "before it, and nothing is lost."
)


class Told(Protocol):
    """A window that can be told."""

    workspace: Workspace
    notice: NoticeStrip
    files: FileController


class UncaughtErrors(QObject):
    """Takes the place of the interpreter's own way with exceptions, which would end the
    program. `window` gives the one that is worked in, None where there is none."""

    _elsewhere = pyqtSignal(str)

    def __init__(self, window: Callable[[], Told | None]) -> None:
        super().__init__()
        self._window = window
        self._telling = False
        self._last = ""
        self._elsewhere.connect(self._report)  # from another thread: told in the window's own

    def watch(self) -> None:
        """From now on."""
        sys.excepthook = self.happened
        threading.excepthook = lambda args: self._elsewhere.emit(
            report(args.exc_value or args.exc_type())
        )

    def happened(
        self, kind: type[BaseException], problem: BaseException, trace: TracebackType | None
    ) -> None:
        """An exception came to where nobody catches it."""
        if not issubclass(kind, Exception):
            sys.__excepthook__(kind, problem, trace)
            return
        window = self._window()
        if isinstance(problem, Refusal) and window is not None:
            window.workspace.cancel_drag()
            window.workspace.failed.emit(str(problem))
            return
        self._report(report(problem))

    def _report(self, text: str) -> None:
        logging.getLogger("outgrowth").error("%s", text)
        window = self._window()
        if window is None or self._telling:
            return
        if text == self._last and window.notice.isVisible():
            return  # what fails in every frame is told once
        self._last = text
        self._telling = True  # telling could fail too
        try:
            window.workspace.cancel_drag()
            window.files.autosave.write()
            window.notice.show_message(
                _SENTENCE, ("Go on", lambda: None), ("Copy the report", lambda: _copy(text))
            )
        except Exception:
            logging.getLogger("outgrowth").exception("telling it failed too")
        finally:
            self._telling = False


def report(problem: BaseException) -> str:
    """What a developer needs to know; nothing of the document stands in it but what the
    exception's own message says."""
    lines = traceback.format_exception(type(problem), problem, problem.__traceback__)
    about = (
        f"Outgrowth {__version__}, Python {platform.python_version()}, Qt {QT_VERSION_STR}, "
        f"{platform.system()} {platform.release()}"
    )
    return f"{about}\n\n{''.join(lines)}"


def _copy(text: str) -> None:
    board = QApplication.clipboard()
    if board is not None:
        board.setText(text)
