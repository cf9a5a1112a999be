"""A real window over the demo, on whatever display the tests run on."""

from __future__ import annotations

import time

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.main import WindowManager
from outgrowth.app.theme import LIGHT
from outgrowth.app.theme.sheet import install, load_fonts
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.workspace import Workspace
from outgrowth.workspace.engine import Engine


@pytest.fixture(scope="session")
def look(qapp):
    load_fonts()
    install(qapp, LIGHT)
    return qapp


@pytest.fixture(autouse=True)
def nothing_left():
    """What was to be deleted later is deleted before the next test: windows that stay make
    every change of the look slower for those that come."""
    yield
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def stays(qtbot):
    """For what must not happen: says that something holds all the while, in ms."""

    def held(condition, ms):
        end = time.monotonic() + ms / 1000
        while time.monotonic() < end:
            assert condition()
            qtbot.wait(10)

    return held


class Hand:
    """A user's hand: clicks, keys and moves on the window's real widgets."""

    def __init__(self, window, qtbot):
        self.window = window
        self.qtbot = qtbot

    def click(self, widget, point=None, double=False, held=Qt.KeyboardModifier.NoModifier):
        spot = _point(point) if point is not None else QPoint()
        press = QTest.mouseDClick if double else QTest.mouseClick
        press(widget, Qt.MouseButton.LeftButton, held, spot)
        self.window.workspace.refresh_panels()

    def hover(self, widget, point):
        """Moves the mouse there."""
        spot = QPointF(point)
        none = Qt.MouseButton.NoButton
        moved = QMouseEvent(
            QEvent.Type.MouseMove,
            spot,
            widget.mapToGlobal(spot),
            none,
            none,
            Qt.KeyboardModifier.NoModifier,
        )
        QApplication.sendEvent(widget, moved)

    def type(self, field, text):
        field.setFocus()
        field.selectAll()
        written = field.focusProxy() or field
        QTest.keyClicks(written, text)
        QTest.keyClick(written, Qt.Key.Key_Return)
        self.window.workspace.refresh_panels()

    def key(self, widget, key, modifier=Qt.KeyboardModifier.NoModifier):
        QTest.keyClick(widget, key, modifier)
        self.window.workspace.refresh_panels()

    def entry(self, name):
        """Clicks an entry of the Library."""
        library = self.window.library
        row = next(n for n, e in enumerate(library.model.entries) if e.name == name)
        index = library.model.index(row)
        library.list.scrollTo(index)
        self.click(library.list.viewport(), library.list.visualRect(index).center())

    def part(self, *path, held=Qt.KeyboardModifier.NoModifier, **variant):
        """Clicks a part of a variant in the grid, or of the screen on the canvas."""
        window = self.window
        if window.workspace.screen is not None:
            self.click(window.canvas, window.canvas.rect_of(path).center(), held=held)
            return
        variant = window.workspace.selection.variant.update(variant)
        rect = window.grid.rect_of(variant, path)
        edge = QPointF(rect.left() + 5, rect.center().y())
        self.click(window.grid, rect.center() if path else edge)

    def row(self, name):
        return self.window.ledger.row(name).editor.widget


def _point(point):
    return point.toPoint() if isinstance(point, QPointF) else point


def _forget(window):
    """Closing asks about unsaved work; a test has none that matters."""
    window.workspace._saved = window.workspace.document


@pytest.fixture
def window(qtbot, look, ferry, fonts, tmp_path):
    workspace = Workspace(
        Engine(fonts), ferry, tmp_path / "ferry.outgrowth.json", notices=WorkspaceSignals()
    )
    made = MainWindow(workspace, LIGHT)
    qtbot.addWidget(made, before_close_func=_forget)
    with qtbot.waitActive(made):
        made.show()
        made.activateWindow()
    yield made
    made.live.stage.stop()


@pytest.fixture
def workspace(window):
    return window.workspace


@pytest.fixture
def colleagues():
    """Who publishes when asked to: usually nobody."""


@pytest.fixture
def desk(look, tmp_path, colleagues):
    """The program's windows, over a folder of their own for what is kept between runs."""
    windows = WindowManager(LIGHT, tmp_path / "state", colleagues)
    yield windows
    windows.system_fonts.stop()
    for window in windows.windows:
        window.workspace._saved = window.workspace.document
        window.live.stage.stop()
        window.close()


@pytest.fixture
def hand(window, qtbot):
    return Hand(window, qtbot)
