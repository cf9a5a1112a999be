"""Every action on every kind of selection: none ends in an exception, and what is offered does
something, or says what is missing before it is chosen."""

import pytest
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication, QFileDialog, QMenu, QMessageBox

from outgrowth.app.theme import LIGHT
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.workspace import Workspace
from outgrowth.workspace.engine import Engine
from tests.workspace.everything import SELECTIONS, everything

APART = {"close", "tour", "guide", "same-again", "new", "open", "live-window", "theme"}
"""Actions that end the window, or open another: the tests of these stand elsewhere."""


def _closed():
    popup = QApplication.activePopupWidget()
    if isinstance(popup, QMenu):
        popup.close()


@pytest.fixture
def bench(qtbot, look, fonts, monkeypatch):
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_, **__: ("", ""))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, **__: ("", ""))
    discard = QMessageBox.StandardButton.Discard
    monkeypatch.setattr(QMessageBox, "question", lambda *_, **__: discard)
    document = everything()
    window = MainWindow(Workspace(Engine(fonts), document, notices=WorkspaceSignals()), LIGHT)
    qtbot.addWidget(window)
    window.show()
    closer = QTimer()
    closer.timeout.connect(_closed)
    closer.start(30)
    yield window, document
    closer.stop()
    window.live.stage.stop()


@pytest.mark.parametrize("chosen", SELECTIONS)
def test_every_action_does_its_work_or_says_a_sentence(bench, chosen):
    window, document = bench
    workspace = window.workspace
    said = []
    workspace.failed.connect(said.append)
    owner, paths = SELECTIONS[chosen]
    for action in window.actions_list:
        if action.id in APART:
            continue
        if workspace.document is not document:
            workspace.edit("begin again", lambda _: document)
        if workspace.selection.owner != owner:
            workspace.open(owner)
        workspace.select_all(paths)
        if action.id in ("paste", "paste-look"):
            window.run_action("copy")
        said.clear()
        window.run_action(action.id)
        workspace.refresh_panels()
        QApplication.processEvents()
        for sentence in said:
            assert sentence.endswith((".", "!")) and sentence.isprintable(), (action.id, sentence)
        if workspace.document is not document:
            assert loads(dumps(workspace.document).encode(), "a") == workspace.document, action.id
        workspace.cancel_drag()
