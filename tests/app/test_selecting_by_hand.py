"""Selecting, editing words, copying and nudging by the mouse and the keys, and the menu."""

import pytest
from immutables import Map
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.core.document.records import find, walk
from outgrowth.core.document.values import fixed, words
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace.commands.create_commands import draw
from outgrowth.workspace.commands.drag_commands import land_parts
from outgrowth.workspace.commands.part_menu import _PARTS
from outgrowth.workspace.commands.style_commands import set_style
from outgrowth.workspace.commands.text_commands import texts_in

ALT = Qt.KeyboardModifier.AltModifier
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


def lines_of(menu):
    return [action.text() for action in menu.actions() if action.text()]


def test_the_menu_of_a_part_shows_what_fits_it_in_one_column(window, workspace, hand):
    workspace.open("fares")
    seen = {}
    for node in walk(workspace.owner.root):
        path = () if node is workspace.owner.root else (node.id,)
        workspace.select(path)
        menu = window.part_menu()
        seen[node.kind if path else "screen"] = lines_of(menu)
        menu.ensurePolished()
        assert menu.sizeHint().height() < 660, "fits a screen of 720 px"
        assert all(entry.isEnabled() for entry in menu.actions() if entry.text())
        menu.deleteLater()
    instance = seen["instance"]
    assert instance[:3] == [
        "Edit the words in their place",
        "Exchange the instance for another component",
        "Go to the component",
    ]
    assert {"Hide the part, or show it again", "Rotate by a quarter", "Put back"} <= set(instance)
    assert "Detach the instance" not in seen["box"]
    assert "Cut" not in seen["screen"]


def test_every_line_of_the_menu_is_an_action(window):
    ids = {action.id for action in window.actions_list}
    for part in _PARTS:
        for line in part:
            assert {line} <= ids if isinstance(line, str) else set(line[1]) <= ids


def test_hide_and_rotate(window, workspace, hand):
    workspace.open("fares")
    (node_id,) = (n.id for n in workspace.owner.root.children if n.name == "days")
    workspace.select((node_id,))
    window.run_action("rotate")
    window.run_action("rotate")
    window.run_action("hide")
    style = find(workspace.owner.root, node_id).style
    assert (style["rotate"], style["shown"]) == (180.0, False)
    window.run_action("hide")
    assert find(workspace.owner.root, node_id).style.get("shown", True) is True


# --- words ----------------------------------------------------------------------------------


def first_text(workspace, name):
    """An instance of that component in the screen, and the path of its words."""
    node = next(n for n in walk(workspace.owner.root) if n.style.get("component") == name)
    workspace.select((node.id,))
    return (node.id,), texts_in(workspace)[0]


def test_words_of_an_instance_are_edited_by_one_double_click(window, workspace, hand):
    window.activateWindow()
    workspace.open("fares")
    chip, text = first_text(workspace, "chip")
    workspace.select(())
    middle = window.canvas.rect_of_path(text).center()
    hand.click(window.canvas, middle, double=True)
    QTest.keyClicks(QApplication.focusWidget(), "Tonight")
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    workspace.select(chip)
    assert value_at(workspace.document, Place("fares", text), "content") == words("Tonight")
    assert find(workspace.owner.root, chip[0]).overrides == (), "its property is set"


@pytest.mark.parametrize("key", [Qt.Key.Key_F3, Qt.Key.Key_Return])
def test_f3_and_enter_edit_the_words_of_an_instance_and_leave_it_selected(
    window, workspace, hand, key
):
    window.activateWindow()
    workspace.open("fares")
    chip, text = first_text(workspace, "chip")
    window.canvas.setFocus()
    QTest.keyClick(window.canvas, key)
    field = QApplication.focusWidget()
    before = field.geometry()
    QTest.keyClicks(field, "The whole week, also on Sundays")
    assert field.width() > before.width() * 1.5, "it grows with the words"
    rect = window.canvas.rect_of_path(text)
    assert field.geometry().contains(rect.toRect()), (field.geometry(), rect)
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert workspace.selection.paths == (chip,) and window.canvas.hasFocus()


def test_the_field_follows_words_that_break(window, workspace, hand):
    window.activateWindow()
    workspace.open("fares")
    draw(workspace, "text")
    set_style(workspace, {"width": fixed(120)})
    text = workspace.selection.path
    window.run_action("words")
    field = QApplication.focusWidget()
    QTest.keyClicks(field, "One crossing with a bicycle and a dog, any day this season")
    rect = window.canvas.rect_of_path(text)
    assert rect.height() > 60 * window.canvas.zoom
    assert field.height() >= rect.height() and abs(field.width() - rect.width()) < 40


def test_what_has_no_words_says_so(window, workspace):
    workspace.open("fares")
    draw(workspace, "ellipse")
    window.run_action("words")
    assert "select words, or a part that has some" in window.status.message.text()


# --- copying and nudging ----------------------------------------------------------------------


def alt_pull(canvas, start, by):
    """Drags with Alt held."""
    kinds = QEvent.Type
    shares = ((kinds.MouseButtonPress, 0.0), (kinds.MouseMove, 0.3), (kinds.MouseMove, 0.7),
              (kinds.MouseMove, 1.0), (kinds.MouseButtonRelease, 1.0))  # fmt: skip
    for kind, share in shares:
        at = start + by * share
        left = Qt.MouseButton.LeftButton
        button = Qt.MouseButton.NoButton if kind == kinds.MouseMove else left
        down = Qt.MouseButton.NoButton if kind == kinds.MouseButtonRelease else left
        event = QMouseEvent(kind, at, canvas.mapToGlobal(at), button, down, ALT)
        QApplication.sendEvent(canvas, event)
        QApplication.processEvents()


def test_alt_and_a_drag_copy_in_a_row_with_its_gap(window, workspace, hand):
    workspace.open("fares")
    days = next(n for n in workspace.owner.root.children if n.name == "days")
    chip = days.children[0]
    workspace.select((chip.id,))
    start = window.canvas.rect_of_path((chip.id,)).center()
    last = window.canvas.rect_of_path((days.children[-1].id,))
    before = workspace.document
    alt_pull(window.canvas, start, QPointF(last.right() - 4, start.y()) - start)
    children = find(workspace.owner.root, days.id).children
    assert len(children) == len(days.children) + 1 and children[:3] == days.children
    copy = children[-1]
    assert (copy.style, copy.name) == (chip.style, chip.name)
    assert workspace.selection.paths == ((copy.id,),)
    rects = window.canvas.rects_of_paths([(children[2].id,), (copy.id,)])
    gap = rects[(copy.id,)].x() - rects[(children[2].id,)].right()
    assert abs(gap / window.canvas.zoom - 8.0) < 0.6
    workspace.undo()
    assert workspace.document is before


def test_alt_and_a_drag_copy_what_stands_free_and_catch_on_the_original(window, workspace):
    workspace.open("fares")
    draw(workspace, "ellipse", (workspace.owner.root.id, None))
    set_style(workspace, {"floating": True})
    set_style(workspace, {"x": 100.0, "y": 500.0})
    (dot,) = workspace.selection.path
    start = window.canvas.rect_of_path((dot,)).center()
    alt_pull(window.canvas, start, QPointF(80 * window.canvas.zoom, 2))
    (copy,) = workspace.selection.path
    styles = [find(workspace.owner.root, i).style for i in (dot, copy)]
    assert copy != dot and (styles[0]["x"], styles[0]["y"]) == (100.0, 500.0)
    assert abs(styles[1]["x"] - 180.0) <= 8 and styles[1]["y"] == 500.0, "on one line with it"


def test_a_copy_at_a_reach_is_shown_there_only(window, workspace):
    workspace.open("button")
    workspace.set_reach(Map({workspace.component.axes[0].id: "quiet"}))
    label = next(n for n in workspace.owner.root.children if n.kind == "text")
    land_parts(workspace, [label.id], workspace.owner.root.id, 2, copied=True)
    (copy,) = workspace.selection.path
    told = [rule for rule in workspace.component.rules if rule.node == (copy,)]
    assert find(workspace.owner.root, copy).style["shown"] is False
    assert [(rule.property, rule.value) for rule in told if rule.property == "shown"] == [
        ("shown", True)
    ]


@pytest.mark.parametrize(
    ("key", "title"),
    [
        (Qt.Key.Key_Right, "Move it later (Ctrl+Down)"),
        (Qt.Key.Key_Left, "Move it earlier (Ctrl+Up)"),
        (Qt.Key.Key_Down, "Set it off by 1 px"),
    ],
)
def test_nudging_in_a_row_says_why_not_and_offers_what_can_be(window, workspace, key, title):
    workspace.open("fares")
    days = next(n for n in workspace.owner.root.children if n.name == "days")
    middle = days.children[1]
    workspace.select((middle.id,))
    before = workspace.document
    QTest.keyClick(window.canvas, key)
    assert workspace.document is before
    assert window.status.message.text() == (
        f"“{middle.name}” stands in a row: its place there is its turn."
    )
    assert window.status.offered.text() == title
    window.run_action("take-offer")
    after = find(workspace.owner.root, days.id).children
    if key == Qt.Key.Key_Down:
        assert find(workspace.owner.root, middle.id).style["offset-y"] == 1.0
    else:
        assert after.index(middle) == (2 if key == Qt.Key.Key_Right else 0)


def test_alt_and_a_click_pick_the_innermost_as_before(window, workspace):
    workspace.open("fares")
    _, text = first_text(workspace, "chip")
    workspace.select(())
    before = workspace.document
    alt_pull(window.canvas, window.canvas.rect_of_path(text).center(), QPointF(0, 0))
    assert workspace.selection.paths == (text,) and workspace.document is before


def test_alt_and_a_drag_copy_in_a_variant(window, workspace, hand):
    workspace.open("button")
    (label,) = (n for n in workspace.owner.root.children if n.kind == "text")
    hand.part(label.id)
    rect = window.grid.rect_of(workspace.selection.variant, (label.id,))
    alt_pull(window.grid, rect.center(), QPointF(rect.width() * 0.6, 0))
    copies = [n for n in workspace.owner.root.children if n.name == label.name]
    (copy,) = (n for n in copies if n.id != label.id)
    assert len(copies) == 2 and workspace.selection.paths == ((copy.id,),)
