"""Components in full, by mouse and key, in the real window."""

import msgspec
import pytest
from immutables import Map
from PyQt6.QtCore import QMimeData, QPointF, Qt
from PyQt6.QtGui import QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit, QPushButton, QToolButton

from outgrowth.app.benches.drops import COMPONENT_MIME
from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.ordered import Grip, OrderedRows
from outgrowth.app.fields.relative import RelativeField
from outgrowth.app.fields.words import WordsField
from outgrowth.core.color import parse
from outgrowth.core.document.records import Node, find, walk
from outgrowth.core.document.values import Run, Shift, fixed
from outgrowth.core.document.variants import offered, variants
from outgrowth.core.edits.tree.nodes import rename_node
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace import measures

NONE = Qt.KeyboardModifier.NoModifier


def entry(menu, text):
    """The line of a menu with this text."""
    return next(action for action in menu.actions() if action.text() == text)


def pressed(widget, text):
    """The button with this text inside a widget."""
    QApplication.processEvents()
    return next(b for b in widget.findChildren(QPushButton) if b.text() == text and b.isVisible())


def found(window, hand, text):
    """Does something by its name."""
    window.run_action("find")
    hand.type(window.finder.field, text)


@pytest.fixture
def sheet(window, workspace):
    def show(name):
        window.sheet_tabs.choose(name)
        workspace.refresh_panels()
        return window.sheet_stack.currentWidget()

    return show


def test_rules_that_say_the_same_become_one(window, workspace, hand, sheet):
    for state in ("rest", "hover", "press", "disabled"):
        hand.part(kind="quiet", state=state)
        workspace.set_reach(Map(kind="quiet", state=state))
        hand.type(hand.row("gap"), "3")
    count = len(workspace.component.rules)
    hand.click(pressed(sheet("Rules"), "make one"))
    assert len(workspace.component.rules) == count - 3


def test_axes_are_renamed_added_and_removed(window, workspace, hand, sheet):
    axes = sheet("Axes")
    field = next(f for f in axes.findChildren(WordsField) if f.text() == "Kind")
    hand.type(field, "Weight")
    assert workspace.component.axes[0].name == "Weight"
    window.axes.line.field.setText("Size: medium, large")
    QTest.keyClick(window.axes.line.field, Qt.Key.Key_Return)
    assert len(workspace.component.axes) == 3
    assert len(window.grid.cells) == 16
    workspace.refresh_panels()
    menu = window.axes._axis_menu(workspace.component, workspace.component.axes[0])
    assert [a.text() for a in menu.actions()] == ["Remove, 23 change"]
    menu.actions()[0].trigger()
    workspace.refresh_panels()
    rows = axes.findChild(OrderedRows)
    rows.moved.emit(0, 1)
    assert [a.name for a in workspace.component.axes] == ["Size", "State"]
    while workspace.undo_name:
        window.run_action("undo")
    assert workspace.component.axes[0].name == "Kind"


def test_a_variant_is_no_longer_offered_and_offered_again_by_a_click(window, workspace, hand):
    hand.part(kind="quiet", state="press")
    window.run_action("not-offered")
    gone = Map(kind="quiet", state="press")
    button = workspace.component
    assert [v for v in variants(button) if not offered(button, v)] == [gone]
    cell = next(c for c in window.grid.cells if c.variant == gone)
    hand.click(window.grid, QPointF(*cell.rect.center))
    assert all(offered(workspace.component, v) for v in variants(workspace.component))
    hand.part(kind="primary", state="rest")
    action = next(a for a in window.actions_list if a.id == "not-offered")
    assert not action.enabled(), "an instance that chose nothing shows this variant"


def test_no_variant_of_a_whole_reach_is_offered(window, workspace, hand):
    hand.part(kind="quiet", state="press")
    workspace.set_reach(Map(kind="quiet"))
    window.run_action("offer-none")
    assert workspace.component.not_offered == (Map(kind="quiet"),)
    cell = next(c for c in window.grid.cells if c.variant == Map(kind="quiet", state="hover"))
    hand.click(window.grid, QPointF(*cell.rect.center))
    button = workspace.component
    assert sum(not offered(button, v) for v in variants(button)) == 3, "one is offered again"


def test_a_component_is_placed_by_name_and_removed_by_key(window, workspace, hand, ferry):
    workspace.open("boarding")
    hand.part("board")
    found(window, hand, "place icon button")
    assert value_at(workspace.document, workspace.place, "component") == "icon-button"
    actions = find(workspace.screen.root, "actions")
    assert [n.style["component"] for n in actions.children] == ["button", "icon-button", "button"]
    hand.key(window.canvas, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    assert len(find(workspace.screen.root, "actions").children) == 4
    hand.key(window.canvas, Qt.Key.Key_Delete)
    hand.key(window.canvas, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    hand.key(window.canvas, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    hand.key(window.canvas, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert workspace.document == ferry


def test_a_component_is_dropped_where_the_line_is(window, workspace):
    workspace.open("boarding")
    canvas = window.canvas
    target = canvas.rect_of(("wait",))
    point = QPointF(target.left() + 2, target.center().y())
    # The pointer is on an instance of the row: it lands before that one.
    assert canvas.drops.landing(point).parent == "actions"
    assert canvas.drops.landing(point).before == 1
    data = QMimeData()
    data.setData(COMPONENT_MIME, b"icon-button")
    canvas.dropEvent(
        QDropEvent(point, Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, NONE)
    )
    actions = find(workspace.screen.root, "actions")
    assert [n.style["component"] for n in actions.children] == ["button", "icon-button", "button"]


def test_an_instance_is_exchanged_and_what_is_dropped_is_said(window, workspace, hand):
    workspace.open("boarding")
    hand.part("wait")
    found(window, hand, "exchange for icon button")
    assert find(workspace.screen.root, "wait").style["component"] == "icon-button"
    assert "Label" in window.status.message.text()
    assert "dropped: " in workspace.undo_name


def test_an_instance_is_detached_and_a_part_made_a_component(window, workspace, hand):
    workspace.open("boarding")
    hand.part("wait")
    hand.key(window.canvas, Qt.Key.Key_F7, Qt.KeyboardModifier.ShiftModifier)
    assert find(workspace.screen.root, "wait").kind == "box"
    count = len(workspace.document.components)
    hand.key(window.canvas, Qt.Key.Key_F7)
    assert len(workspace.document.components) == count + 1
    assert find(workspace.screen.root, "wait").kind == "instance"
    window.library.tabs.choose("Parts")
    entries = [entry.name for entry in window.library.model.entries]
    assert "Later button" in entries


def test_the_component_is_made_like_one_instance(window, workspace, hand):
    workspace.open("desk")
    hand.part("call-10-15")
    found(window, hand, "make the component like this instance, in all")
    assert value_at(workspace.document, Place("button"), "fill") == parse("#B8452B")
    assert "fill" not in find(workspace.screen.root, "call-10-15").style


def test_to_the_component_and_back_to_the_very_place(window, workspace, hand):
    workspace.open("desk")
    hand.part("add")
    before = workspace.selection
    hand.key(window.canvas, Qt.Key.Key_F9)
    assert workspace.component.id == "button"
    hand.key(window.grid, Qt.Key.Key_F9, Qt.KeyboardModifier.ShiftModifier)
    assert workspace.selection == before


def test_a_variant_is_taken_out(window, workspace, hand):
    hand.part(kind="quiet", state="hover")
    window.run_action("take-out")
    assert workspace.component.name == "Controls/Button Quiet"
    assert len(window.grid.cells) == 4


def test_84_drawings_are_gathered_in_the_window(window, workspace, hand, ferry, qtbot):
    workspace.open("before-gathering")
    window.run_action("gather")
    bench = window.gathering
    assert bench.stop.isVisible(), "long work can be stopped"
    qtbot.waitUntil(lambda: bench.report is not None, timeout=120_000)
    assert "84</b> drawings" in bench.proof.text()
    assert "0 differences" in bench.proof.text()
    assert len(bench.report.missing) == 12
    assert len(bench.preview.grid.cells) == 96
    hand.type(bench._names[1], "Reach")
    assert bench.report.component.axes[1].name == "Reach"
    hand.click(bench.apply)
    assert window.bench_stack.currentWidget() is window.grid_bench
    assert len(workspace.component.axes) == 4
    assert workspace.undo_name == "gather 84 parts"
    assert measures.places_of(workspace, workspace.component.id) == 84
    window.run_action("undo")
    assert workspace.document == ferry


def test_drawings_of_several_widths_are_gathered_by_room(window, workspace, hand, qtbot):
    root = workspace.document.screens["fares"].root

    def card(name, wide):
        return Node(name, f"Card/{name}", "box", Map({"width": fixed(wide), "height": fixed(40.0)}))

    inside = (*root.children, card("first", 240.0), card("second", 480.0))
    screen = msgspec.structs.replace(
        workspace.document.screens["fares"], root=msgspec.structs.replace(root, children=inside)
    )
    workspace.edit("draw", lambda document: with_owner(document, screen))
    workspace.open("fares")
    window.run_action("gather")
    bench = window.gathering
    bench.pick("Card, on Fares" if "Card, on Fares" in bench._families else "Card, on fares")
    qtbot.waitUntil(lambda: bench.report is not None, timeout=60_000)
    assert bench._drivers[0].value == "none"
    bench._drivers[0].show_value("room")
    bench._drivers[0].edited.emit("room")
    qtbot.waitUntil(lambda: bench.report is not None, timeout=60_000)
    assert bench._drivers[0].value == "room"
    hand.click(bench.apply)
    (axis,) = workspace.component.axes
    assert [(v.name, v.least) for v in axis.values] == [("first", 0.0), ("second", 480.0)]


def test_a_component_that_nobody_uses_stays_in_the_library(window, workspace, hand):
    for owner, node in (("boarding", "back"), ("boarding", "bell")):
        workspace.open(owner)
        hand.part(node)
        hand.key(window.canvas, Qt.Key.Key_Delete)
    workspace.open("button")
    assert "Icon button" in [entry.name for entry in window.library.model.entries]


def test_a_value_is_opened_to_instances_in_one_click(window, workspace, hand):
    hand.part("label", kind="primary", state="rest")
    row = window.ledger.row("font-size")
    hand.click(row.tag)
    hand.click(pressed(row, "let instances set it"))
    prop = workspace.component.properties[-1]
    assert (prop.name, prop.kind, prop.default) == ("Label size", "number", 15.0)
    workspace.open("boarding")
    hand.part("board")
    hand.type(hand.row(f"choice:{prop.id}"), "22")
    label = Place("boarding", ("board", "label"))
    assert value_at(workspace.document, label, "font-size") == 22.0
    other = Place("boarding", ("wait", "label"))
    assert value_at(workspace.document, other, "font-size") == 15.0


def test_gathering_is_stopped_and_left_and_changes_nothing(window, workspace, hand, ferry):
    workspace.open("before-gathering")
    window.run_action("gather")
    bench = window.gathering
    hand.click(bench.stop)
    assert "Stopped" in bench.proof.text()
    assert bench.report is None
    hand.click(bench.leave)
    assert window.bench_stack.currentWidget() is window.canvas
    assert workspace.document == ferry


def test_esc_leaves_gathering_while_it_works_and_it_begins_anew(
    window, workspace, hand, qtbot, ferry
):
    workspace.open("before-gathering")
    for _ in range(3):
        window.run_action("gather")
        bench = window.gathering
        hand.key(bench, Qt.Key.Key_Escape)
        assert window.bench_stack.currentWidget() is window.canvas
        assert bench.report is None
    window.run_action("gather")
    qtbot.waitUntil(lambda: bench.report is not None, timeout=120_000)
    assert window.bench_stack.currentWidget() is bench
    assert workspace.document == ferry


def test_drawings_left_out_and_conflicts_are_seen_before_anything_is_done(
    window, workspace, hand, qtbot
):
    workspace.open("before-gathering")
    root = workspace.screen.root
    (first, second) = [n for n in walk(root) if "/" in n.name][:2]
    workspace.edit("rename", lambda d: rename_node(d, "before-gathering", second.id, first.name))
    window.run_action("gather")
    bench = window.gathering
    qtbot.waitUntil(lambda: bench.report is not None, timeout=120_000)
    assert "2 drawings are called" in bench.proof.text()
    assert not bench.apply.isEnabled()
    for n in range(bench.drawings.count()):
        bench.drawings.blockSignals(True)
        if n > 6:
            bench.drawings.item(n).setCheckState(Qt.CheckState.Unchecked)
        bench.drawings.blockSignals(False)
    bench.drawings.item(1).setCheckState(Qt.CheckState.Unchecked)
    qtbot.waitUntil(lambda: bench.report is not None, timeout=120_000)
    assert "6</b> drawings" in bench.proof.text()
    assert bench.apply.isEnabled()
    hand.click(bench.leave)


# --- several at once ------------------------------------------------------------------------


def test_several_parts_show_what_they_share_and_are_edited_as_one(window, workspace, hand):
    workspace.open("desk")
    hand.part("call-10-15")
    hand.part("add", held=Qt.KeyboardModifier.ControlModifier)
    assert workspace.selection.paths == (("add",), ("call-10-15",))
    assert hand.row("fill").text.text() == "", "they differ"
    hand.type(hand.row("opacity"), "50")
    for node in ("add", "call-10-15"):
        assert value_at(workspace.document, Place("desk", (node,)), "opacity") == 0.5
    assert workspace.undo_name == "opacity of 2 parts"
    row = window.ledger.row("opacity")
    hand.click(row.tag)
    hand.click(pressed(row, "put back what these 2 parts say"))
    assert value_at(workspace.document, Place("desk", ("add",)), "opacity") == 1.0


def test_several_are_chosen_by_key_and_exchanged_duplicated_removed_as_one(window, workspace, hand):
    workspace.open("boarding")
    hand.part("board")
    hand.key(window.canvas, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    assert set(workspace.selection.paths) == {("board",), ("wait",)}
    found(window, hand, "exchange for icon button")
    parts = find(workspace.screen.root, "actions").children
    assert [n.style["component"] for n in parts] == ["icon-button", "icon-button"]
    hand.key(window.canvas, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    assert len(find(workspace.screen.root, "actions").children) == 4
    hand.key(window.canvas, Qt.Key.Key_Delete)
    assert len(find(workspace.screen.root, "actions").children) == 2


def test_each_of_several_becomes_a_component(window, workspace, hand):
    workspace.open("boarding")
    hand.part("board")
    hand.part("wait", held=Qt.KeyboardModifier.ShiftModifier)
    hand.key(window.canvas, Qt.Key.Key_F7, Qt.KeyboardModifier.ShiftModifier)
    count = len(workspace.document.components)
    hand.key(window.canvas, Qt.Key.Key_F7)
    assert len(workspace.document.components) == count + 2
    assert workspace.undo_name == "make components of 2 parts"


def test_lines_of_layers_are_added_by_mouse_and_key(window, workspace, hand):
    rows = window.layers.list
    workspace.select(("label",))
    hand.key(rows, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert len(workspace.selection.paths) == 2
    center = rows.visualRect(window.layers.model.index(0)).center()
    hand.click(rows.viewport(), center, held=Qt.KeyboardModifier.ControlModifier)
    assert len(workspace.selection.paths) == 3


def test_every_instance_in_the_file_is_exchanged(window, workspace, hand):
    workspace.open("boarding")
    hand.part("back")
    count = measures.places_of(workspace, "icon-button")
    assert count > 1
    found(window, hand, "exchange every icon button for chip")
    assert measures.places_of(workspace, "icon-button") == 0
    assert workspace.undo_name.startswith("exchange every Icon button for Chip")


# --- properties, relative values, words -----------------------------------------------------


def test_opened_values_are_listed_renamed_ordered_and_removed(window, workspace, hand, sheet):
    workspace.open("fare-card")
    opened = sheet("Properties")
    names = [p.name for p in workspace.component.properties]
    field = next(f for f in opened.findChildren(WordsField) if f.text() == names[0])
    hand.type(field, "Title")
    assert workspace.component.properties[0].name == "Title"
    prop = workspace.component.properties[0]
    window.workspace.refresh_panels()
    entry(opened.property_menu(workspace.component, prop), "Say what it is for").trigger()
    about = next(
        f for f in opened.findChildren(WordsField) if f.placeholderText() and f.isVisible()
    )
    hand.type(about, "What the fare is called.")
    assert workspace.component.properties[0].description == "What the fare is called."
    grip = next(
        g for g in opened.findChildren(Grip) if names[1] in g.accessibleName() and g.isVisible()
    )
    hand.key(grip, Qt.Key.Key_Up)
    assert [p.name for p in workspace.component.properties[:2]] == [names[1], "Title"]
    title = next(p for p in workspace.component.properties if p.name == "Title")
    entry(opened.property_menu(workspace.component, title), "Remove; 2 set it").trigger()
    assert len(workspace.component.properties) == len(names) - 1


def test_a_slots_shortlist_is_ticked(window, workspace, sheet):
    workspace.open("fare-card")
    opened = sheet("Properties")
    slot = next(p for p in workspace.component.properties if p.kind == "slot")
    menu = opened.shortlist_menu(workspace.component, slot)
    names = [a.text() for a in menu.actions()]
    assert "Travel/Fare card" not in names, "it cannot hold itself"
    chip = next(a for a in menu.actions() if a.text() == "Controls/Chip")
    assert not chip.isChecked()
    chip.trigger()
    workspace.refresh_panels()
    assert workspace.component.property(slot.id).shortlist[-1] == "chip"


def test_a_relative_value_is_set_at_a_reach_and_shows_on_an_override(window, workspace, hand):
    hand.part("label", kind="primary", state="hover")
    row = window.ledger.row("opacity")
    hand.click(row.tag)
    (relative,) = row.findChildren(RelativeField)
    relative.direction.edited.emit("times")
    hand.type(relative.amount, "0.5")
    hand.click(relative.set)
    (rule,) = [
        r for r in workspace.component.rules if r.property == "opacity" and r.node[-1] == "label"
    ]
    assert (rule.value, rule.when) == (Shift("multiply", 0.5), Map(state="hover"))
    workspace.set_reach(Map())
    relative = window.ledger.row("opacity").findChildren(RelativeField)[0]
    hand.click(relative.set)
    assert "choose a reach" in window.status.message.text()


def test_words_become_bold_by_key_and_italic_by_button(window, workspace, hand):
    texts = [
        (owner.id, node.id)
        for owner in workspace.document.screens_in_order()
        for node in walk(owner.root)
        if node.kind == "text"
    ]
    owner, node = texts[0]
    workspace.open(owner)
    path = (node,)
    hand.part(*path)
    field = hand.row("content")
    hand.type(field, "Two words")
    field.words.setFocus()
    field.words.selectAll()
    hand.key(field.words, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    hand.key(field.words, Qt.Key.Key_Return)
    place = Place(owner, path)
    assert value_at(workspace.document, place, "content") == (Run("Two words", bold=True),)
    italic = next(b for b in field.findChildren(QToolButton) if b.text() == "italic")
    hand.click(italic)
    hand.key(field.words, Qt.Key.Key_Return)
    assert value_at(workspace.document, place, "content") == (Run("Two words", True, True),)


# --- axes and the grid ----------------------------------------------------------------------


def test_axes_are_laid_along_rows_columns_and_chips(window, workspace, hand, sheet):
    axes = sheet("Axes")
    first = next(s for s in axes.findChildren(Segments) if "Kind" in s.accessibleName())
    hand.click(first.button("chips"))
    assert len(window.grid.cells) == 4
    chips = window.grid_bench.chips["kind"]
    assert chips.isVisible()
    hand.click(chips.button("quiet"))
    assert {c.variant["kind"] for c in window.grid.cells} == {"quiet"}
    window.run_action("undo")
    assert len(window.grid.cells) == 8
    assert not window.grid_bench.strip.isVisible()


def test_a_new_variant_starts_as_the_one_that_is_picked(window, workspace, hand):
    hand.part(kind="quiet", state="rest")
    found(window, hand, "new kind that starts as this variant")
    names = [v.name for v in workspace.component.axes[0].values]
    assert names == ["Primary", "Quiet", "Quiet copy"]
    view, quiet = window.grid.view, workspace.selection.variant.set("kind", "quiet")
    assert view(workspace.selection.variant).scene.paint is view(quiet).scene.paint
    assert len({c.variant for c in window.grid.cells}) == len(window.grid.cells) == 12


# --- the Library ----------------------------------------------------------------------------


def test_a_component_is_renamed_and_moved_by_its_path(window, workspace, hand):
    library = window.library
    row = next(n for n, e in enumerate(library.model.entries) if e.name == "Chip")
    index = library.model.index(row)
    library.list.setCurrentIndex(index)
    library.list.setFocus()
    hand.key(library.list, Qt.Key.Key_F2)
    editor = library.list.findChild(QLineEdit)
    assert editor.text() == "Controls/Chip"
    hand.type(editor, "Small/Tag")
    QApplication.processEvents()
    workspace.refresh_panels()
    assert workspace.document.components["chip"].name == "Small/Tag"
    assert "Small" in [e.name for e in library.model.entries if e.folder]


def test_folders_are_renamed_and_filled_by_dragging(window, workspace):
    model = window.library.model
    icons = next(n for n, e in enumerate(model.entries) if e.folder and e.name == "Icon")
    data = QMimeData()
    data.setData(COMPONENT_MIME, b"chip")
    copy = Qt.DropAction.CopyAction
    model.dropMimeData(data, copy, -1, -1, model.index(icons))
    assert workspace.document.components["chip"].name == "Icon/Chip"
    model.setData(model.index(icons), "Signs", Qt.ItemDataRole.EditRole)
    names = [c.name for c in workspace.document.in_order()]
    assert "Signs/Chip" in names
    assert not any(name.startswith("Icon/") for name in names)


def test_uses_lead_to_the_very_instance(window, workspace, hand, sheet):
    uses_sheet = sheet("Uses")
    goes = [b for b in uses_sheet.findChildren(QPushButton) if b.text() == "go there"]
    hand.click(goes[1])
    owner, path = workspace.selection.owner, workspace.selection.path
    assert value_at(workspace.document, Place(owner, path), "component") == "button"
    hand.key(window.canvas, Qt.Key.Key_F9, Qt.KeyboardModifier.ShiftModifier)
    assert workspace.component.id == "button"


def test_a_step_further_down_says_how_many_it_touches(window, workspace, hand):
    workspace.open("boarding")
    hand.part("board")
    row = window.ledger.row("fill")
    hand.click(row.tag)
    texts = [b.text() for b in row.findChildren(QPushButton)]
    count = workspace.engine.census.instances(workspace.document)["button"]
    assert f"put back in {count}" in texts
