"""The arrangement of a box set on its drawing, by mouse and keys."""

import pytest
from hypothesis import given
from hypothesis import strategies as some
from PyQt6 import sip
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace.engine import shipped_engine
from outgrowth.workspace.views.arrangement_sample import (
    HEIGHT,
    WIDTH,
    arranged_box,
    place_at,
    place_beside,
)

ENGINE = shipped_engine()
PADDINGS = FAMILY_MEMBERS["padding"]
NO, LEFT = Qt.MouseButton.NoButton, Qt.MouseButton.LeftButton
NONE = Qt.KeyboardModifier.NoModifier


@given(
    some.sampled_from(("row", "column")),
    some.sampled_from(("start", "center", "end", "space-between", "space-evenly")),
    some.sampled_from(("start", "center", "end", "stretch", "baseline")),
    some.floats(0, 30),
    some.lists(some.floats(0, 500), min_size=4, max_size=4),
    some.floats(0, WIDTH),
    some.floats(0, HEIGHT),
)
def test_children_stand_where_they_are_put(flow, justify, align, gap, padding, x, y):
    values = {"flow": flow, "justify": justify, "align": align, "gap": gap}
    values |= dict(zip(PADDINGS, padding, strict=True))
    box = arranged_box(ENGINE, values)
    assert len(box.children) == 3
    assert 0 < box.inside.width <= WIDTH and 0 < box.inside.height <= HEIGHT
    put = place_at(box, x, y)
    after = arranged_box(ENGINE, values | put)
    middle = sum(c.x + c.width / 2 for c in after.children) / 3
    start = arranged_box(ENGINE, values | {"justify": "start", "align": "start"})
    end = arranged_box(ENGINE, values | {"justify": "end", "align": "end"})
    low = sum(c.x + c.width / 2 for c in start.children) / 3
    high = sum(c.x + c.width / 2 for c in end.children) / 3
    third = min(max(int(3 * (x - box.inside.x) / box.inside.width), 0), 2)
    assert abs(middle - (low + (high - low) * third / 2)) < 0.01
    further = values | put | place_beside(values | put, 1, 0)
    moved = sum(c.x + c.width / 2 for c in arranged_box(ENGINE, further).children) / 3
    assert moved >= middle - 1e-6 or high < low


@pytest.fixture
def pad(window, workspace):
    workspace.open("fare-card")
    workspace.select(())
    workspace.refresh_panels()
    QApplication.processEvents()
    window.ledger.open_pad()
    QApplication.processEvents()
    yield window.ledger.pad
    if not sip.isdeleted(window.ledger.pad):
        window.ledger.pad.close()


def send(drawing, kind, at, button, held, keys=NONE):
    spot = QPointF(at)
    event = QMouseEvent(kind, spot, drawing.mapToGlobal(spot), button, held, keys)
    QApplication.sendEvent(drawing, event)


def pull(drawing, start, by, keys=NONE):
    send(drawing, QEvent.Type.MouseButtonPress, start, LEFT, LEFT, keys)
    send(drawing, QEvent.Type.MouseMove, start + by / 2, NO, LEFT, keys)
    send(drawing, QEvent.Type.MouseMove, start + by, NO, LEFT, keys)
    send(drawing, QEvent.Type.MouseButtonRelease, start + by, LEFT, NO, keys)


def said(workspace, name):
    return value_at(workspace.document, Place("fare-card"), name)


def test_a_press_puts_the_children_where_it_is(pad, workspace):
    drawing = pad.drawing
    at = drawing.box.inside
    spot = QPointF(8 + at.x + at.width * 0.85, 8 + at.y + at.height * 0.95)
    QTest.mouseClick(drawing, LEFT, pos=spot.toPoint())
    assert (said(workspace, "justify"), said(workspace, "align")) == ("end", "end")
    assert said(workspace, "flow") == "column"
    drawing.grab()


def test_padding_and_gap_are_pulled_as_one_step(pad, workspace):
    drawing, before = pad.drawing, said(workspace, "padding-left")
    pull(drawing, QPointF(10, 80), QPointF(12, 0))
    assert said(workspace, "padding-left") == before + 12
    assert said(workspace, "padding-right") == before
    workspace.undo()
    assert said(workspace, "padding-left") == before
    drawing.follow()
    pull(drawing, QPointF(10, 80), QPointF(5, 0), Qt.KeyboardModifier.ShiftModifier)
    assert {said(workspace, name) for name in PADDINGS} == {before + 5}
    drawing.follow()
    gap, (a, b, _) = said(workspace, "gap"), drawing.box.children
    between = QPointF(8 + a.x + 4, 8 + (a.bottom + b.y) / 2)
    assert drawing.part_at(between) == "gap"
    pull(drawing, between, QPointF(0, 7))
    assert said(workspace, "gap") == gap + 7
    assert workspace.undo_name == "gap"


def test_keys_move_the_children_and_the_gap(pad, workspace):
    gap = said(workspace, "gap")
    QTest.keyClick(pad.drawing, Qt.Key.Key_Down)
    QTest.keyClick(pad.drawing, Qt.Key.Key_Right)
    assert (said(workspace, "justify"), said(workspace, "align")) == ("center", "center")
    QTest.keyClick(pad.drawing, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    assert said(workspace, "gap") == gap + 1


def test_direction_and_spread_are_pressed(pad, workspace):
    pad.flow.button("row").click()
    assert said(workspace, "flow") == "row" and pad.drawing.box.flow == "row"
    pad.spread.button("space-between").click()
    assert said(workspace, "justify") == "space-between"
    pad.flow.button("free").click()
    assert not pad.spread.isEnabled() and pad.drawing.part_at(QPointF(10, 80)) == ""


def test_esc_closes_it_and_nothing_is_left(window, pad, workspace):
    QTest.keyClick(pad.drawing, Qt.Key.Key_Escape)
    QApplication.processEvents()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    assert sip.isdeleted(pad)
