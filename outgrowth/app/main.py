"""Starts the application: fonts, theme, windows."""

from __future__ import annotations

import gc
import sys
from pathlib import Path as FilePath

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QApplication

from outgrowth.app.session import Session
from outgrowth.app.session.engine import shipped_engine
from outgrowth.app.session.typefaces import Typefaces
from outgrowth.app.theme import DARK, LIGHT, Theme
from outgrowth.app.theme.sheet import install, load_fonts
from outgrowth.app.window import MainWindow
from outgrowth.core.document.records import Document
from outgrowth.core.exchange.native import load
from outgrowth.core.text.fonts import FontSource


class Desk:
    """The windows that are open."""

    def __init__(self, theme: Theme) -> None:
        self._theme = theme
        self._windows: list[MainWindow] = []
        self.typefaces = Typefaces()
        self.typefaces.found.connect(self._install)

    def open(self, path: FilePath) -> MainWindow:
        """Shows a file in a new window. Raises FileProblem."""
        return self.show(load(path), path)

    def show(self, document: Document, path: FilePath | None) -> MainWindow:
        session = Session(shipped_engine(), document, path)
        window = MainWindow(session, self._theme, lambda other: self._reopened(other))
        self._windows = [w for w in self._windows if w.isVisible()] + [window]
        window.show()
        self.typefaces.look_later()
        return window

    def _install(self, sources: list[FontSource]) -> None:
        for window in self._windows:
            window.session.install_fonts(sources)

    def _reopened(self, path: FilePath) -> None:
        self.open(path)


def application(theme: Theme) -> QApplication:
    """The application with fonts and theme, made once."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(sys.argv[:1])
        app.setApplicationName("Outgrowth")
    load_fonts()
    install(app, theme)
    # Documents and scenes are trees without circles: counting references frees them, and a
    # sweep for circles in the middle of an edit would only be a pause (a third of the time
    # of an edit that makes 10,000 nodes anew).
    gc.set_threshold(100_000, 20, 50)
    return app


def run(path: FilePath, dark: bool = False, shot: FilePath | None = None, owner: str = "") -> int:
    """Opens a file and stays until the last window is closed. Raises FileProblem.

    shot    saves a picture of the window there, and ends
    owner   the name of the component or screen to begin with
    """
    theme = DARK if dark else LIGHT
    app = application(theme)
    app.setAttribute(Qt.ApplicationAttribute.AA_DontShowIconsInMenus, False)
    desk = Desk(theme)
    window = desk.open(path)
    if owner:
        window.session.open(owner_named(window.session.document, owner))
    if shot is not None:
        QTimer.singleShot(400, lambda: _shoot(window, shot))
    try:
        return app.exec()
    finally:
        desk.typefaces.stop()


def owner_named(document: Document, name: str) -> str:
    """The id of the component or screen with this name (the last part of it is enough).

    Raises KeyError.
    """
    for owner in document.owners():
        if name in (owner.name, owner.name.rpartition("/")[2], owner.id):
            return owner.id
    raise KeyError(name)


def _shoot(window: MainWindow, path: FilePath) -> None:
    window.grab().save(str(path))
    QApplication.exit(0)
