"""All that is opened for a moment ends with its use: menus, dialogs, Live apart, second windows."""

from __future__ import annotations

import threading
from collections import Counter

import pytest
from PyQt6 import sip
from PyQt6.QtCore import QEvent, QPoint, QTimer
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QInputDialog, QMenu, QMessageBox

from outgrowth.app.main import WindowManager
from outgrowth.app.theme import LIGHT
from outgrowth.core.exchange.native import save

from .user import User

MORE = 3
ELSEWHERE = {"close", "new", "tour", "open", "same-again", "live-window"}


def census():
    """Widgets, and those that nothing holds, by their class."""
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    QApplication.processEvents()
    widgets = Counter(type(w).__name__ for w in QApplication.allWidgets())
    tops = Counter(type(w).__name__ for w in QApplication.topLevelWidgets())
    return widgets, tops


def grown(after, before, least=1):
    return {name: n for name, n in (after - before).items() if n >= least}


@pytest.fixture
def leaving(monkeypatch):
    """Every menu and dialog is left as soon as it is there."""

    def leave():
        popup = QApplication.activePopupWidget()
        if isinstance(popup, QMenu):
            popup.close()
        dialog = QApplication.activeModalWidget()
        if isinstance(dialog, QDialog):
            dialog.reject()

    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_, **__: ("", ""))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, **__: ("", ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_, **__: "")
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("", False))
    discard = QMessageBox.StandardButton.Discard
    monkeypatch.setattr(QMessageBox, "question", lambda *_, **__: discard)
    timer = QTimer()
    timer.timeout.connect(leave)
    timer.start(20)
    yield
    timer.stop()


def test_every_action_leaves_as_many_widgets_as_there_were(window, workspace, leaving):
    """The first times make what is kept (a list of suggestions); as many more as `MORE` add less
    than one each: what is on its way at that moment may be one."""
    user, told = User(window), {}
    document, selection = workspace.document, ("button", ())

    def begin():
        while workspace.undo_name:
            workspace.undo()
        workspace.open(selection[0])
        workspace.select(selection[1])
        window.view.show_bench()
        window.sheet_tabs.choose("Ledger")
        user.wait(1)

    for action in [a for a in window.actions_list if a.id not in ELSEWHERE]:
        counts = []
        for times in (2, MORE):
            for _ in range(times):
                window.run_action(action.id)
                user.wait(1)
                while (dialog := QApplication.activeModalWidget()) is not None:
                    dialog.close()
                for other in window.findChildren(QDialog):
                    other.close()
            begin()
            counts.append(census())
        for after, before in zip(counts[1], counts[0], strict=True):
            if grown(after, before, MORE):
                told[action.id] = grown(after, before, MORE)
    assert workspace.document == document
    assert told == {}


def test_menus_end_with_their_use(window, workspace, leaving):
    user = User(window)
    window.run_action("tokens")
    user.wait()

    def open_all():
        window.context_menu(QPoint(20, 20))
        window._file_menu()
        window.library._ask_new()
        window.tokens._ask_kind()
        window.tokens._menu("color.sea", window.tokens.add)
        window.tokens._modes_menu(window.tokens.add)
        window.reach_bar._menu(next(iter(window.reach_bar.chips)))
        user.wait(1)

    open_all()
    before = census()
    for _ in range(3):
        open_all()
    assert [grown(*pair) for pair in zip(census(), before, strict=True)] == [{}, {}]


def test_live_apart_is_one_window_and_goes_when_it_is_closed(window, workspace, leaving):
    user = User(window)
    before = census()
    window.run_action("live-window")
    apart = window.live.other_window
    for _ in range(3):
        window.run_action("live-window")
        user.wait()
        assert window.live.other_window is apart and apart.isVisible()
    apart.close()
    user.wait()
    assert window.live.other_window is None
    assert [grown(*pair) for pair in zip(census(), before, strict=True)] == [{}, {}]
    window.run_action("live-window")
    assert window.live.other_window.isVisible()
    window.live.other_window.close()
    user.wait()


def test_windows_that_were_closed_are_gone(look, ferry, tmp_path, leaving):
    path = tmp_path / "ferry.outgrowth.json"
    save(ferry, path)
    desk = WindowManager(LIGHT, tmp_path / "state")

    def visit():
        window = desk.open(path)
        for name in window.benches:
            if not window.benches[name].edits:
                window.view.show(name)
                QApplication.processEvents()
        window.run_action("live-window")
        window.close()
        desk.open(path).close()

    visit()
    before = census()
    for _ in range(3):
        visit()
    after = census()
    desk.system_fonts.stop()
    assert [grown(*pair) for pair in zip(after, before, strict=True)] == [{}, {}]


def test_windows_that_are_open_when_the_program_ends_go_before_it(look, ferry, tmp_path, leaving):
    """What Qt still has when Python is taken apart goes in any order, and sometimes crashes."""
    path = tmp_path / "ferry.outgrowth.json"
    save(ferry, path)
    desk = WindowManager(LIGHT, tmp_path / "state")
    window = desk.open(path)
    window.review.show_look()
    desk.close_down()
    assert sip.isdeleted(window)
    assert not desk.windows
    others = [thread.name for thread in threading.enumerate() if not thread.daemon]
    assert others == ["MainThread"]
