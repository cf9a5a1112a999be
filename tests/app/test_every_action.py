"""Every action on every kind of selection: none ends in an exception, and what is offered does
something, or says what is missing before it is chosen."""

import pytest
from immutables import Map
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication, QFileDialog, QMenu, QMessageBox

from outgrowth.app.theme import LIGHT
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.document.records import Component, Document, Node, Screen
from outgrowth.core.document.values import fixed, words
from outgrowth.core.edits.components import add_component, add_screen
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.workspace import Workspace
from outgrowth.workspace.engine import Engine

APART = {"close", "tour", "guide", "same-again", "new", "open", "live-window", "theme"}
"""Actions that end the window, or open another: the tests of these stand elsewhere."""


def part(kind, node_id, **style):
    said = {name.replace("_", "-"): value for name, value in style.items()}
    if kind == "text":
        said["content"] = words("Holm")
    if kind == "instance":
        said["component"] = "inner"
    return Node(node_id, node_id, kind, Map(said))


def everything():
    """A component for each kind of root, and a screen that holds a part of each kind."""
    document = add_component(Document("All"), Component("inner", "Inner", part("shape", "dot")))
    for kind in ("box", "shape", "text", "image", "instance"):
        document = add_component(document, Component(kind, kind, part(kind, f"{kind}-root")))
    kinds = [part(k, f"one-{k}") for k in ("box", "shape", "text", "image", "instance")]
    hidden = part("shape", "hidden", shown=False)
    free = Node(
        "free", "free", "box", Map({"flow": "free", "width": fixed(99.0)}), (part("text", "in"),)
    )
    root = Node("root", "root", "box", Map({"flow": "column"}), (*kinds, hidden, free))
    return add_screen(document, Screen("screen", "Screen", root))


SELECTIONS = {
    **{f"a root that is a {kind}": (kind, ((),)) for kind in ("box", "shape", "text", "image")},
    "a root that is an instance": ("instance", ((),)),
    **{f"a {kind}": ("screen", ((f"one-{kind}",),)) for kind in ("box", "shape", "text", "image")},
    "an instance": ("screen", (("one-instance",),)),
    "inside an instance": ("screen", (("one-instance", "dot"),)),
    "nothing": ("screen", ()),
    "a hidden part": ("screen", (("hidden",),)),
    "several, one hidden": ("screen", (("hidden",), ("one-text",), ("one-shape",))),
    "one twice": ("screen", (("one-text",), ("one-text",))),
    "a part that is gone": ("screen", (("long-gone",),)),
    "in a free box": ("screen", (("in",),)),
    "no owner": ("", ()),
}


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
            window.do("copy")
        said.clear()
        window.do(action.id)
        workspace.refresh_panels()
        QApplication.processEvents()
        for sentence in said:
            assert sentence.endswith((".", "!")) and sentence.isprintable(), (action.id, sentence)
        if workspace.document is not document:
            assert loads(dumps(workspace.document).encode(), "a") == workspace.document, action.id
        workspace.cancel_drag()
