"""Starts the application: fonts, theme, windows."""

from __future__ import annotations

import gc
import sys
from functools import partial
from pathlib import Path as FilePath

import msgspec
import platformdirs
from PyQt6.QtCore import QEvent, Qt, QTimer
from PyQt6.QtGui import QStyleHints
from PyQt6.QtWidgets import QApplication

from outgrowth.app.collecting import Collecting
from outgrowth.app.display import refuse_without_display
from outgrowth.app.shot import encoded
from outgrowth.app.system_fonts import SystemFonts
from outgrowth.app.theme import DARK, LIGHT, Theme
from outgrowth.app.theme.sheet import install, load_fonts
from outgrowth.app.uncaught_errors import UncaughtErrors
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.document.records import UNTITLED, Document
from outgrowth.core.exchange.native import DiskState, load, load_with_state
from outgrowth.core.exchange.native.disk import save_file
from outgrowth.core.memo import forget_all
from outgrowth.core.text.fonts import FontSource
from outgrowth.resources import DEMO
from outgrowth.workspace import Workspace
from outgrowth.workspace.engine import shipped_engine
from outgrowth.workspace.recovery import left_work
from outgrowth.workspace.team import Colleagues
from outgrowth.workspace.user_state import UserState

# What a window is given to fill its panels before its picture is taken.
_SHOT_MS = 400


class WindowManager:
    """The windows that are open.

    folder      where what is kept between runs stands; None keeps nothing
    colleagues  who publish when they are asked to: those of a demonstration
    """

    def __init__(
        self,
        theme: Theme,
        folder: FilePath | None = None,
        colleagues: Colleagues | None = None,
    ) -> None:
        self._colleagues = colleagues
        self.user_state = UserState(folder)
        self.theme = theme
        self._windows: list[MainWindow] = []
        self.uncaught_errors = UncaughtErrors(self._worked_in)
        self.system_fonts = SystemFonts()
        self.system_fonts.fonts_found.connect(self._install)

    @property
    def windows(self) -> list[MainWindow]:
        """The windows that can be seen."""
        return [window for window in self._windows if window.isVisible()]

    def _worked_in(self) -> MainWindow | None:
        """The window that has the focus, else the last one that was opened."""
        windows = self.windows
        return next((w for w in windows if w.isActiveWindow()), windows[-1] if windows else None)

    def open(self, path: FilePath) -> MainWindow:
        """Shows a file in a new window. Raises FileRefusal."""
        document, disk_state = load_with_state(path)
        window = self.show(document, path, disk_state=disk_state)
        window.files.tell_unmerged()
        self.user_state.opened(path)
        return window

    def new(self) -> MainWindow:
        """An empty file in a new window."""
        return self.show(Document(UNTITLED), None)

    def reopen(self, path: FilePath, by: MainWindow) -> None:
        """A file that a window asks for; one that is still empty gives way to it."""
        self.open(path)
        workspace = by.workspace
        if (
            workspace.path is None
            and not workspace.unsaved
            and not list(workspace.document.owners())
        ):
            by.close()

    def tour(self) -> MainWindow:
        """The tour, on a copy of the demo that belongs to no file."""
        self.user_state.put("tour", "taken")
        document = msgspec.structs.replace(load(DEMO), name="Tour of the ferry line")
        window = self.show(document, None)
        window.tour.begin()
        return window

    def offer_tour(self, window: MainWindow) -> None:
        """Offers the tour to somebody who has not taken it and did not say no; what the window
        has to say already comes first."""
        if self.user_state.get("tour") in ("taken", "no") or not window.notice.isHidden():
            return
        window.notice.show_message(
            "New here? Ten steps show all of it, on a copy of the demo.",
            ("Take the tour", self.tour),
            ("Another time", lambda: None),
            ("No, thanks", lambda: self.user_state.put("tour", "no")),
        )
        window.view.take_focus()

    def show(
        self,
        document: Document,
        path: FilePath | None,
        saved: Document | None = None,
        disk_state: DiskState | None = None,
    ) -> MainWindow:
        """A window over a document, and its file if it has one; `saved` is what that holds."""
        workspace = Workspace(
            shipped_engine(), document, path, saved, disk_state, notices=WorkspaceSignals()
        )
        window = MainWindow(workspace, self.theme, self, self.user_state, self._colleagues)
        window.closed.connect(partial(self._forget, window))
        window.restore_layout()
        self._windows = [*self.windows, window]
        window.show()
        self.system_fonts.look_later()
        return window

    def _forget(self, window: MainWindow) -> None:
        """A window that was closed goes, with all that it remembers."""
        self._windows = [other for other in self._windows if other is not window]
        window.live.stage.stop()
        window.deleteLater()
        forget_all()

    def close_down(self) -> None:
        """The program ends: nothing goes on beside it, and windows that are still open go while
        all of Qt is there."""
        self.system_fonts.stop()
        for window in self._windows:
            window.close_down()
            self._forget(window)
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)

    def recover(self) -> list[MainWindow]:
        """A window for each work that a crash left unsaved."""
        windows = []
        for work in left_work(self.user_state.journals):
            window = self.show(work.recovered.document, work.file, work.saved, work.disk_state)
            window.files.tell_recovered(work.journal, work.recovered)
            windows.append(window)
        return windows

    def follow(self, theme: Theme) -> None:
        """The desktop changed its look: so do the windows, unless one was chosen."""
        if self.user_state.get("theme") is None:
            self.set_theme(theme)

    def set_theme(self, theme: Theme) -> None:
        """All windows in one look, and those that come."""
        self.theme = theme
        for window in self.windows:
            window.set_theme(theme)

    def _install(self, sources: list[FontSource]) -> None:
        for window in self._windows:
            window.workspace.install_fonts(sources)


# Whatever is left of Qt's when a command ends must not outlive it.
_kept: list[QApplication] = []


def application(theme: Theme) -> QApplication:
    """The application with fonts and theme, made once."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(sys.argv[:1])
        app.setApplicationName("Outgrowth")
        _kept.append(app)
    load_fonts()
    install(app, theme)
    # Documents and scenes are trees without circles: counting references frees them, and a
    # sweep for circles in the middle of an edit would only be a pause (a third of the time
    # of an edit that makes 10,000 nodes anew).
    gc.set_threshold(100_000, 20, 50)
    return app


def run(
    path: FilePath | None,
    dark: bool | None = None,
    shot: FilePath | None = None,
    owner: str = "",
    colleagues: Colleagues | None = None,
) -> int:
    """Opens a file (None: what was left by a crash, or an empty file) and stays until the
    last window is closed. Raises FileRefusal, Refusal where no window can be shown.

    dark    the look to begin with; None is what was chosen last, or the desktop's
    shot    saves a picture of the window there, and ends
    owner   the name of the component or screen to begin with
    colleagues  who publish when they are asked to: those of a demonstration
    """
    refuse_without_display()
    app = application(LIGHT)
    collecting = Collecting(app)
    try:
        return _run(app, path, dark, shot, owner, colleagues)
    finally:
        collecting.end()


def _run(
    app: QApplication,
    path: FilePath | None,
    dark: bool | None,
    shot: FilePath | None,
    owner: str,
    colleagues: Colleagues | None,
) -> int:
    folder = None if shot is not None else FilePath(platformdirs.user_state_dir("outgrowth"))
    hints = app.styleHints()
    theme = _theme(dark, UserState(folder).get("theme"), hints)
    windows = WindowManager(theme, folder, colleagues)
    windows.uncaught_errors.watch()
    install(app, windows.theme)
    app.setAttribute(Qt.ApplicationAttribute.AA_DontShowIconsInMenus, False)
    if hints is not None and dark is None:
        hints.colorSchemeChanged.connect(lambda _: windows.follow(_theme(None, None, hints)))
    recovered = windows.recover()
    again = [w for w in recovered if path is not None and w.workspace.path == path.resolve()]
    if again:
        window = again[0]
    elif path is not None:
        window = windows.open(path)
    elif recovered:
        window = recovered[-1]
    else:
        window = windows.new()
    if owner:
        window.workspace.open(owner_named(window.workspace.document, owner))
    if shot is None:
        windows.offer_tour(window)
    else:
        QTimer.singleShot(_SHOT_MS, lambda: QApplication.exit(0))
    try:
        code = app.exec()
        if shot is not None:
            save_file(shot, encoded(window.grab().toImage()))
    finally:
        windows.close_down()
    return code


def _theme(dark: bool | None, stored: object, hints: QStyleHints | None) -> Theme:
    """What was asked for, else what was chosen before, else the desktop's."""
    if dark is None and stored in ("light", "dark"):
        dark = stored == "dark"
    if dark is None:
        dark = hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark
    return DARK if dark else LIGHT


def owner_named(document: Document, name: str) -> str:
    """The id of the component or screen with this name (the last part of it is enough).

    Raises KeyError.
    """
    for owner in document.owners():
        if owner.is_called(name):
            return owner.id
    raise KeyError(name)
