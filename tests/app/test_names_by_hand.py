"""Names are given where they are seen, and everything that shows one follows."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit


def renamed(window, workspace, text):
    """Presses F2, types and confirms."""
    window.run_action("rename")
    field = window.layers.list.findChild(QLineEdit)
    field.selectAll()
    QTest.keyClicks(field, text)
    QTest.keyClick(field, Qt.Key.Key_Return)
    QApplication.processEvents()
    workspace.refresh_panels()


@pytest.mark.parametrize(
    ("owner", "typed", "name"),
    [
        ("button", "Press", "Controls/Press"),
        ("button", "Keys/Press", "Keys/Press"),
        ("fares", "Prices", "Prices"),
    ],
)
def test_f2_on_the_outermost_part_renames_what_it_is(window, workspace, hand, owner, typed, name):
    window.activateWindow()
    workspace.open(owner)
    workspace.select(())
    renamed(window, workspace, typed)
    assert workspace.owner.name == name
    short = name.rpartition("/")[2]
    assert window.layers.model.lines[0].name == short
    assert any(row.name == short for row in window.library.model.entries) or owner == "fares"
    assert workspace.undo_name.startswith("rename ")
    workspace.undo()
    workspace.refresh_panels()
    assert window.layers.model.lines[0].name != short


def test_f2_on_another_part_renames_that(window, workspace, hand):
    window.activateWindow()
    workspace.open("button")
    before = workspace.owner.name
    hand.part("label")
    renamed(window, workspace, "Words")
    assert workspace.owner.name == before
    assert "Words" in [row.name for row in window.layers.model.lines]
    renamed(window, workspace, "   ")
    assert "Words" in [row.name for row in window.layers.model.lines], "no name is none"
