"""Components in full, by mouse and key, in the real window."""

import pytest
from immutables import Map
from PyQt6.QtCore import QMimeData, QPointF, Qt
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QApplication, QPushButton

from outgrowth.app.benches.canvas import COMPONENT_MIME
from outgrowth.app.dialogs.gather import Gathering
from outgrowth.app.fields.words import WordsField
from outgrowth.core.color import parse
from outgrowth.core.document.records import find
from outgrowth.core.document.variants import offered, variants
from outgrowth.core.resolve.ladder import Place, value_at

NONE = Qt.KeyboardModifier.NoModifier


def pressed(widget, text):
    """The button with this text inside a widget."""
    QApplication.processEvents()
    return next(b for b in widget.findChildren(QPushButton) if b.text() == text and b.isVisible())


def found(window, hand, text):
    """Does something by its name."""
    window.do("find")
    hand.type(window.finder.field, text)


@pytest.fixture
def sheet(window, session):
    def show(name):
        window.sheet_tabs.choose(name)
        session.settle()
        return window.sheet_stack.currentWidget()

    return show


def test_a_rule_is_deleted_and_aimed_at_the_reach(window, session, hand, sheet):
    rules = sheet("Rules")
    first = session.component.rules[0]
    hand.part(kind="quiet", state="press")
    hand.click(pressed(rules, "to this reach"))
    aimed = session.component.rules[0]
    assert (aimed.when, aimed.value) == (Map(kind="quiet", state="press"), first.value)
    count = len(session.component.rules)
    hand.click(pressed(rules, "delete"))
    assert len(session.component.rules) == count - 1
    assert session.undo_name.startswith("delete the rule")


def test_rules_that_say_the_same_become_one(window, session, hand, sheet):
    for state in ("rest", "hover", "press", "disabled"):
        hand.part(kind="quiet", state=state)
        session.set_reach(Map(kind="quiet", state=state))
        hand.type(hand.row("gap"), "3")
    count = len(session.component.rules)
    hand.click(pressed(sheet("Rules"), "make one"))
    assert len(session.component.rules) == count - 3


def test_axes_are_renamed_added_and_removed(window, session, hand, sheet):
    axes = sheet("Axes")
    field = next(f for f in axes.findChildren(WordsField) if f.text() == "Kind")
    hand.type(field, "Weight")
    assert session.component.axes[0].name == "Weight"
    hand.click(pressed(axes, "add an axis"))
    assert len(session.component.axes) == 3
    assert len(window.grid.cells) == 16
    hand.click(pressed(axes, "remove, 9 change"))
    assert [a.name for a in session.component.axes] == ["State", "Axis 1"]
    while session.undo_name:
        window.do("undo")
    assert session.component.axes[0].name == "Kind"


def test_a_face_is_no_longer_offered_and_offered_again_by_a_click(window, session, hand):
    hand.part(kind="quiet", state="press")
    window.do("not-offered")
    gone = Map(kind="quiet", state="press")
    button = session.component
    assert [v for v in variants(button) if not offered(button, v)] == [gone]
    cell = next(c for c in window.grid.cells if c.variant == gone)
    hand.click(window.grid, cell.rect.center())
    assert all(offered(session.component, v) for v in variants(session.component))
    hand.part(kind="primary", state="rest")
    window.do("not-offered")
    assert "default variant" in window.status.message.text()


def test_a_component_is_placed_by_name_and_removed_by_key(window, session, hand, ferry):
    session.open("boarding")
    hand.part("board")
    found(window, hand, "place icon button")
    assert value_at(session.document, session.place, "component") == "icon-button"
    actions = find(session.screen.root, "actions")
    assert [n.style["component"] for n in actions.children] == ["button", "icon-button", "button"]
    hand.key(window.canvas, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    assert len(find(session.screen.root, "actions").children) == 4
    hand.key(window.canvas, Qt.Key.Key_Delete)
    hand.key(window.canvas, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    hand.key(window.canvas, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    hand.key(window.canvas, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert session.document == ferry


def test_a_component_is_dropped_where_the_line_is(window, session):
    session.open("boarding")
    canvas = window.canvas
    target = canvas.rect_of(("wait",))
    point = QPointF(target.left() + 2, target.center().y())
    # The pointer is on an instance of the row: it lands before that one.
    assert canvas.landing(point).parent == "actions"
    assert canvas.landing(point).before == 1
    data = QMimeData()
    data.setData(COMPONENT_MIME, b"icon-button")
    canvas.dropEvent(
        QDropEvent(point, Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, NONE)
    )
    actions = find(session.screen.root, "actions")
    assert [n.style["component"] for n in actions.children] == ["button", "icon-button", "button"]


def test_an_instance_is_exchanged_and_what_is_dropped_is_said(window, session, hand):
    session.open("boarding")
    hand.part("wait")
    found(window, hand, "exchange for icon button")
    assert find(session.screen.root, "wait").style["component"] == "icon-button"
    assert "Label" in window.status.message.text()
    assert "dropped: " in session.undo_name


def test_an_instance_is_detached_and_a_part_made_a_component(window, session, hand):
    session.open("boarding")
    hand.part("wait")
    hand.key(window.canvas, Qt.Key.Key_F7, Qt.KeyboardModifier.ShiftModifier)
    assert find(session.screen.root, "wait").kind == "box"
    count = len(session.document.components)
    hand.key(window.canvas, Qt.Key.Key_F7)
    assert len(session.document.components) == count + 1
    assert find(session.screen.root, "wait").kind == "instance"
    window.library.tabs.choose("Parts")
    entries = [entry.name for entry in window.library.model.entries]
    assert "Later button" in entries


def test_the_component_is_made_like_one_instance(window, session, hand):
    session.open("desk")
    hand.part("call-10-15")
    found(window, hand, "make the component like this instance, in all")
    assert value_at(session.document, Place("button"), "fill") == parse("#B8452B")
    assert "fill" not in find(session.screen.root, "call-10-15").style


def test_to_the_component_and_back_to_the_very_place(window, session, hand):
    session.open("desk")
    hand.part("add")
    before = session.selection
    hand.key(window.canvas, Qt.Key.Key_F9)
    assert session.component.id == "button"
    hand.key(window.grid, Qt.Key.Key_F9, Qt.KeyboardModifier.ShiftModifier)
    assert session.selection == before


def test_a_face_is_taken_out(window, session, hand):
    hand.part(kind="quiet", state="hover")
    window.do("take-out")
    assert session.component.name == "Controls/Button Quiet"
    assert len(window.grid.cells) == 4


def test_84_drawings_are_gathered_in_the_window(window, session, hand, ferry):
    session.open("before-gathering")
    window.do("gather")
    (dialog,) = window.findChildren(Gathering)
    assert "84</b> drawings" in dialog.said.text()
    assert "0 differences" in dialog.said.text()
    assert len(dialog.report.missing) == 12
    hand.click(dialog.apply)
    assert len(session.component.axes) == 4
    assert session.undo_name == "gather 84 parts"
    assert session.uses_of(session.component.id) == 84
    window.do("undo")
    assert session.document == ferry


def test_a_component_that_nobody_uses_stays_in_the_library(window, session, hand):
    for owner, node in (("boarding", "back"), ("boarding", "bell")):
        session.open(owner)
        hand.part(node)
        hand.key(window.canvas, Qt.Key.Key_Delete)
    session.open("button")
    assert "Icon button" in [entry.name for entry in window.library.model.entries]


def test_a_value_is_opened_to_instances_in_one_click(window, session, hand):
    hand.part("label", kind="primary", state="rest")
    row = window.ledger.row("font-size")
    hand.click(row.tag)
    hand.click(pressed(row, "let instances set it"))
    prop = session.component.properties[-1]
    assert (prop.name, prop.kind, prop.default) == ("Label size", "number", 15.0)
    session.open("boarding")
    hand.part("board")
    hand.type(hand.row(f"choice:{prop.id}"), "22")
    label = Place("boarding", ("board", "label"))
    assert value_at(session.document, label, "font-size") == 22.0
    other = Place("boarding", ("wait", "label"))
    assert value_at(session.document, other, "font-size") == 15.0
