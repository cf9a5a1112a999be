"""Fields of the ledger by the keys: what was committed is the document's, and Esc leaves."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel

from outgrowth.core.document.values import Size, Token, fixed
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace.commands.style_commands import set_style
from outgrowth.workspace.commands.token_commands import make
from outgrowth.workspace.measures import zero_width

GAP = Token("space.button-gap")
CONTROL = Qt.KeyboardModifier.ControlModifier


def padding(workspace):
    sides = ("top", "right", "bottom", "left")
    return [value_at(workspace.document, Place("button"), f"padding-{side}") for side in sides]


@pytest.fixture
def field(window, workspace, hand):
    workspace.open("button")
    hand.part()
    window.activateWindow()
    four = hand.row("padding-left")
    four.more.click()
    return four.fields["padding-left"]


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
        ("10 + 4", [14.0] * 4),
        ("+4", [14.0, 22.0, 14.0, 22.0]),
        ("*2", [20.0, 36.0, 20.0, 36.0]),
        ("7", [7.0] * 4),
        ("8px 1,5", [8.0, 1.5, 8.0, 1.5]),
        (f"10 {GAP.path}", [10.0, GAP, 10.0, GAP]),
        (GAP.path, [GAP] * 4),
        ("1 2 3 4 5", [10.0, 18.0, 10.0, 18.0]),
        ("10 wide", [10.0, 18.0, 10.0, 18.0]),
    ],
)
def test_one_line_takes_four(window, workspace, hand, typed, sides):
    workspace.open("button")
    hand.part()
    make(workspace, "gap")
    line = hand.row("padding-left").line
    assert line.text() == "10 18"
    before = workspace.document
    hand.type(line, typed)
    style = workspace.document.components["button"].root.style
    assert [style[f"padding-{side}"] for side in ("top", "right", "bottom", "left")] == sides
    if workspace.document is before:
        assert line.text() == "10 18" and typed in window.status.message.text()
    else:
        workspace.undo()
        assert workspace.document is before, "one step"


def test_each_side_is_shown_by_a_press_and_stays_so(window, workspace, hand):
    workspace.open("button")
    hand.part()
    four = hand.row("padding-left")
    assert not four.sides.isVisible()
    hand.click(four.more)
    assert four.sides.isVisible() and four.fields["padding-top"].hasFocus()
    hand.type(four.fields["padding-top"], "6")
    assert padding(workspace) == [6.0, 18.0, 10.0, 18.0] and four.line.text() == "6 18 10"
    workspace.select(("label",))
    workspace.select(())
    assert hand.row("padding-left").sides.isVisible()


def test_pulling_the_label_moves_each_by_as_much(window, workspace, hand):
    workspace.open("button")
    hand.part()
    label = window.ledger.row("padding-left").editor.label
    assert label.cursor().shape() == Qt.CursorShape.SizeHorCursor
    QTest.mousePress(label, Qt.MouseButton.LeftButton, pos=QPoint(5, 5))
    QTest.mouseMove(label, QPoint(15, 5))
    QTest.mouseRelease(label, Qt.MouseButton.LeftButton, pos=QPoint(15, 5))
    assert padding(workspace) == [15.0, 23.0, 15.0, 23.0]


def test_tab_goes_to_the_next_value_and_what_it_comes_from_is_reached_after(
    window, workspace, hand
):
    workspace.open("button")
    hand.part()
    field = hand.row("gap")
    field.setFocus()
    QTest.keyClick(field, Qt.Key.Key_Tab)
    assert hand.row("padding-left").line.hasFocus()
    tags = 0
    for _ in range(200):
        now = QApplication.focusWidget()
        tags += now.property("look") == "tag" and window.ledger.isAncestorOf(now)
        QTest.keyClick(now, Qt.Key.Key_Tab)
    assert tags > 20


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ({"width": fixed(16)}, "is 36: its padding"),
        ({"width": fixed(16), "min-width": 90.0}, "is 90: its least width"),
        ({"width": fixed(300), "max-width": 120.0}, "is 120: its most width"),
        ({"width": fixed(160)}, ""),
        ({"height": fixed(8)}, "is 20: its padding"),
    ],
)
def test_what_holds_a_typed_size_is_said_beside_it(workspace, window, hand, values, said):
    workspace.open("button")
    hand.part()
    set_style(workspace, values)
    workspace.refresh_panels()
    name = next(iter(values))
    field = hand.row(name)
    assert (field.held.text(), field.held.isVisible()) == (said, bool(said))
    assert field.number.text() == f"{values[name].amount:g}", "what was typed stays"


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


def test_what_was_typed_for_one_part_lands_on_no_other(window, workspace, hand):
    """Another kind of part is selected while a value is typed, and not yet confirmed."""
    workspace.open("button")
    hand.part()
    gap = hand.row("gap")
    gap.setFocus()
    gap.selectAll()
    QTest.keyClicks(gap, "77")
    before = workspace.document
    workspace.select(("label",))
    workspace.refresh_panels()
    workspace.select(())
    workspace.refresh_panels()
    assert workspace.document is before and hand.row("gap").text() == "8"


def test_what_changes_nothing_says_so(window, workspace):
    workspace.open("fares")
    days = next(n for n in workspace.owner.root.children if n.name == "days")
    workspace.select((days.children[0].id,))
    before = workspace.document
    window.run_action("earlier")
    assert workspace.document is before
    assert window.status.message.text().endswith(
        "Move earlier in its box: nothing was changed, it is so already."
    )
    window.run_action("later")
    assert workspace.document is not before and not window.status.message.text()


def test_a_formula_that_is_begun_in_the_number_goes_on_in_its_own_line(workspace, window, hand):
    workspace.open("button")
    hand.part()
    window.activateWindow()
    workspace.refresh_panels()
    field = hand.row("width")
    field.number.setFocus()
    field.number.selectAll()
    QTest.keyClicks(field.number, "min(")
    line = field.formula
    assert line.isVisible() and line.hasFocus() and line.text() == "min("
    assert "something is missing" in field.held.text()
    QTest.keyClicks(line, "300, 10ch + 8)")
    zero = zero_width(workspace)
    assert field.held.text() == f"is {min(300, 10 * zero + 8):.4g} px here"
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert value_at(workspace.document, Place("button"), "width") == Size(
        "formula", 0.0, "min(300px, 10ch + 8px)"
    )
    workspace.refresh_panels()
    assert line.text() == "min(300px, 10ch + 8px)" and field.number.text() != ""
    hand.type(line, "180")
    assert value_at(workspace.document, Place("button"), "width") == fixed(180)
    workspace.refresh_panels()
    assert not line.isVisible()


def test_escape_leaves_nothing_of_a_formula(workspace, window, hand):
    workspace.open("button")
    hand.part()
    window.activateWindow()
    workspace.refresh_panels()
    before, field = workspace.document, hand.row("width")
    field.number.setFocus()
    field.number.selectAll()
    QTest.keyClicks(field.number, "100% - 4")
    QTest.keyClick(field.formula, Qt.Key.Key_Escape)
    assert not field.formula.isVisible() and workspace.document is before


def test_a_bound_by_a_formula_is_explained_while_it_is_typed(workspace, window, hand):
    workspace.open("button")
    hand.part()
    window.activateWindow()
    workspace.refresh_panels()
    hand.click(window.ledger._set.groups["Size"][0])
    field = hand.row("max-width")
    field.number.setFocus()
    field.number.selectAll()
    QTest.keyClicks(field.number, "min(200, 40ch)")
    assert field.note.text().endswith("px here") and field.note.isVisible()
    QTest.keyClick(field.number, Qt.Key.Key_Return)
    said = value_at(workspace.document, Place("button"), "max-width")
    assert said == Size("formula", 0.0, "min(200px, 40ch)")
    assert not field.note.isVisible()
