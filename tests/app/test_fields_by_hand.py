"""Fields of the ledger by the keys: what was committed is the document's, and Esc leaves."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel

from outgrowth.core.resolve.ladder import Place, value_at

CONTROL = Qt.KeyboardModifier.ControlModifier


def padding(workspace):
    sides = ("top", "right", "bottom", "left")
    return [value_at(workspace.document, Place("button"), f"padding-{side}") for side in sides]


@pytest.fixture
def field(window, workspace, hand):
    workspace.open("button")
    hand.part()
    window.activateWindow()
    return hand.row("padding-left").fields["padding-left"]


def undo(field, redo=False):
    held = CONTROL | (Qt.KeyboardModifier.ShiftModifier if redo else Qt.KeyboardModifier.NoModifier)
    QTest.keyClick(field, Qt.Key.Key_Z, held)


def test_after_enter_undo_is_the_documents_whatever_has_the_focus(field, workspace, hand):
    hand.type(field, "33")
    assert padding(workspace)[3] == 33.0 and field.hasFocus()
    undo(field)
    workspace.refresh_panels()
    assert padding(workspace)[3] == 18.0 and field.text() == "18" and field.hasFocus()
    undo(field, redo=True)
    workspace.refresh_panels()
    assert padding(workspace)[3] == 33.0 and field.text() == "33"


def test_what_is_being_typed_is_the_fields_own_to_undo(field, workspace):
    before = workspace.document
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "4")
    undo(field)
    assert workspace.document is before and field.text() == "18"


def test_words_and_colours_do_so_too(window, workspace, hand):
    workspace.open("button")
    hand.part()
    window.activateWindow()
    text = hand.row("fill").text
    hand.type(text, "#6A2C70")
    assert workspace.undo_name == "fill of button"
    undo(text)
    assert workspace.undo_name != "fill of button"


def test_escape_leaves_a_field_for_the_bench(field, window, workspace):
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "77")
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == "18" and field.hasFocus(), "first what was typed is let go"
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert QApplication.focusWidget() is window.view.surface
    assert padding(workspace)[3] == 18.0


@pytest.mark.parametrize(
    ("typed", "sides"),
    [
        ("10 16", [10.0, 16.0, 10.0, 16.0]),
        ("1 2 3", [1.0, 2.0, 3.0, 2.0]),
        ("1 2 3 4", [1.0, 2.0, 3.0, 4.0]),
        ("10 + 4", [10.0, 18.0, 10.0, 14.0]),
        ("7", [10.0, 18.0, 10.0, 7.0]),
    ],
)
def test_four_numbers_may_be_typed_into_any_of_four(field, workspace, hand, typed, sides):
    hand.type(field, typed)
    assert padding(workspace) == sides
    workspace.undo()
    assert padding(workspace) == [10.0, 18.0, 10.0, 18.0], "one step"


def test_a_value_is_found_and_set_by_typing_it(window, workspace, hand):
    workspace.open("button")
    hand.part()
    window.find_or_do()
    QTest.keyClicks(window.finder.field, "padding 4 6")
    QTest.keyClick(window.finder.field, Qt.Key.Key_Return)
    assert padding(workspace) == [4.0, 6.0, 4.0, 6.0]
    assert not window.finder.isVisible()


def test_what_is_off_says_why_where_it_is_looked_for(window, workspace, hand):
    workspace.open("button")
    hand.part()
    window.find_or_do()
    QTest.keyClicks(window.finder.field, "detach")
    row = window.finder.list.itemWidget(window.finder.list.item(0))
    assert [label.text() for label in row.findChildren(QLabel)] == [
        "Detach the instance",
        "select an instance",
    ]
    before = workspace.document
    QTest.keyClick(window.finder.field, Qt.Key.Key_Return)
    assert not window.finder.isVisible() and workspace.document is before
    assert window.status.message.text().endswith("select an instance first.")


def test_a_key_that_can_do_nothing_says_why(window, workspace, hand):
    workspace.open("button")
    hand.part()
    window.run_action("detach")
    assert "select an instance first" in window.status.message.text()
