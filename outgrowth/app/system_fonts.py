"""The machine's own typefaces: fonts_found beside the window after it is open, and again when
fonts are installed or taken away."""

from __future__ import annotations

from pathlib import Path
from threading import Thread

from PyQt6.QtCore import QFileSystemWatcher, QObject, QStandardPaths, QTimer, pyqtSignal
from PyQt6.QtWidgets import QApplication, QLineEdit, QPlainTextEdit, QTextEdit

from outgrowth.core.text.fonts import FontSource, installed

# After the window has opened, and after the last of several files was installed.
_LATER_MS = 800
# Until somebody who is typing is looked at again.
_TYPING_MS = 200


def font_folders() -> list[Path]:
    """Where this desktop keeps its fonts, as far as the folders exist.
    Source: XDG Base Directory, `fonts` beneath each data folder."""
    kind = QStandardPaths.StandardLocation.GenericDataLocation
    folders = [Path(place) / "fonts" for place in QStandardPaths.standardLocations(kind)]
    return [folder for folder in [*folders, Path.home() / ".fonts"] if folder.is_dir()]


class SystemFonts(QObject):
    """fonts_found(list) carries all font sources of the machine."""

    fonts_found = pyqtSignal(list)
    _read = pyqtSignal(list)

    def __init__(self, folders: list[Path] | None = None) -> None:
        super().__init__()
        self._folders = font_folders() if folders is None else folders
        self._thread: Thread | None = None
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(_LATER_MS)
        self._later.timeout.connect(self._look)
        self._sources: list[FontSource] = []
        self._untyped = QTimer(self)
        self._untyped.setSingleShot(True)
        self._untyped.setInterval(_TYPING_MS)
        self._untyped.timeout.connect(self._tell)
        self._read.connect(self._hold)
        self._watcher = QFileSystemWatcher(self)
        self._watcher.directoryChanged.connect(self.look_later)

    def look_later(self) -> None:
        """Looks in a moment; asked again before that, it waits for the last."""
        self._later.start()

    def stop(self) -> None:
        """Looks no more, and waits for what is under way."""
        self._later.stop()
        self._untyped.stop()
        if self._thread is not None:
            self._thread.join()

    def _look(self) -> None:
        if self._thread is not None and self._thread.is_alive():
            self._later.start()
            return
        below = [str(f) for top in self._folders for f in (top, *top.rglob("*/")) if f.is_dir()]
        if below:
            self._watcher.addPaths(below)
        # Reading a thousand files takes a second; the result comes by signal, to the
        # window's thread.
        self._thread = Thread(target=lambda: self._read.emit(installed(self._folders)))
        self._thread.start()

    def _hold(self, sources: list[FontSource]) -> None:
        self._sources = sources
        self._tell()

    def _tell(self) -> None:
        """Other fonts make the panels anew, and a field with them: whoever types in one is let
        finish first."""
        if isinstance(QApplication.focusWidget(), QLineEdit | QPlainTextEdit | QTextEdit):
            self._untyped.start()
        else:
            self.fonts_found.emit(self._sources)
