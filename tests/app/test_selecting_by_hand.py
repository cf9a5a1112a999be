"""Selecting in Layers by the mouse: one alone, one besides, all up to there."""

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

CONTROL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


def click(window, row, held=Qt.KeyboardModifier.NoModifier):
    layers = window.layers.list
    point = layers.visualRect(layers.model().index(row, 0)).center()
    QTest.mouseClick(layers.viewport(), Qt.MouseButton.LeftButton, held, point)
    window.workspace.refresh_panels()


def paths(window, *rows):
    return {window.layers.model.lines[row].path for row in rows}


def test_a_plain_click_selects_one_alone_also_the_current_line(window, workspace):
    workspace.open("fares")
    workspace.refresh_panels()
    click(window, 2)
    click(window, 3, CONTROL)
    click(window, 4, CONTROL)
    assert set(workspace.selection.paths) == paths(window, 2, 3, 4)
    current = window.layers.list.currentIndex().row()
    click(window, current)
    assert set(workspace.selection.paths) == paths(window, current)
    click(window, 5, CONTROL)
    click(window, 5, CONTROL)
    assert set(workspace.selection.paths) == paths(window, current), "besides, and no longer"


def test_shift_and_a_click_select_all_up_to_there(window, workspace):
    workspace.open("fares")
    workspace.refresh_panels()
    click(window, 2)
    click(window, 5, SHIFT)
    assert set(workspace.selection.paths) == paths(window, 2, 3, 4, 5)
    click(window, 3, SHIFT)
    assert set(workspace.selection.paths) == paths(window, 2, 3), "from the same line on"
    click(window, 1, SHIFT)
    assert set(workspace.selection.paths) == paths(window, 1, 2)
    click(window, 0, SHIFT)
    assert set(workspace.selection.paths) == paths(window, 1, 2), "all of it is no part"
