"""The focal point pulled on its picture, and letters that grow with the room, in the ledger."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from outgrowth.core.document.records import find
from outgrowth.core.document.values import FIT, fixed
from outgrowth.workspace.commands import style_commands


def said(workspace, node, *names):
    style = find(workspace.component.root, node).style
    return tuple(style.get(name) for name in names)


@pytest.fixture
def view(window, workspace, hand):
    """The demo's picture, cut to a strip, with the drawing of its focal point."""
    hand.entry("Island panel")
    hand.part("view")
    style_commands.set_style(workspace, {"height": fixed(110.0)})
    workspace.refresh_panels()
    row = hand.row("focal-x")
    row.show()
    return row


def test_the_point_is_pulled_on_the_picture_and_is_one_step(window, workspace, hand, view):
    pad = view.pad
    frame = pad.frame()
    start, end = frame.center().toPoint(), frame.topLeft().toPoint() + QPoint(0, 6)
    before = workspace.document
    QTest.mousePress(pad, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(pad, end)
    assert said(workspace, "view", "focal-y") < (0.2,)
    QTest.mouseRelease(pad, Qt.MouseButton.LeftButton, pos=end)
    x, y = said(workspace, "view", "focal-x", "focal-y")
    assert x < 0.05 and y < 0.2
    workspace.undo()
    assert workspace.document is before


def test_arrows_move_the_point_and_numbers_are_typed(window, workspace, hand, view):
    hand.key(view.pad, Qt.Key.Key_Down)
    assert said(workspace, "view", "focal-y") == (0.55,)
    hand.key(view.pad, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    assert said(workspace, "view", "focal-x") == (0.49,)
    hand.type(view.numbers["focal-x"], "20")
    assert said(workspace, "view", "focal-x") == (0.2,)
    assert view.pad.accessibleDescription() == "20% across, 55% down"


def test_what_is_seen_is_drawn_where_the_point_puts_it(window, workspace, hand, view):
    style_commands.set_style(workspace, {"focal-y": 1.0})
    workspace.refresh_panels()
    frame, seen = view.pad.frame(), view.pad.seen()
    assert seen.bottom() == pytest.approx(frame.bottom())
    assert seen.height() < frame.height() * 0.7


def test_letters_grow_to_a_size_by_the_room(window, workspace, hand):
    hand.entry("Island panel")
    hand.part("title")
    row = hand.row("fluid-size")
    assert not row.numbers["fluid-until"].isEnabled()
    hand.type(row.numbers["fluid-size"], "44")
    hand.type(row.numbers["fluid-until"], "480")
    assert said(workspace, "title", "fluid-size", "fluid-until") == (44.0, 480.0)
    scene = workspace.engine.view(workspace.document, "island-panel").scene
    title = scene.children[scene.names.index("title")]
    assert 24.0 < title.layout.style.font_size < 44.0


def test_letters_of_what_fits_cannot_grow_and_the_reason_is_told(window, workspace, hand):
    hand.entry("Island panel")
    workspace.select(())
    style_commands.set_style(workspace, {"width": FIT})
    hand.part("title")
    told = []
    workspace.failed.connect(told.append)
    hand.type(hand.row("fluid-size").numbers["fluid-size"], "44")
    assert said(workspace, "title", "fluid-size") == (None,)
    assert "as wide as what is in it" in told[0]
