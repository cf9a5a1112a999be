"""Names are given where they are seen, and everything that shows one follows."""

import re

import pytest
from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QLabel, QLineEdit

from demo.drawing import box
from outgrowth.app.dialogs.rename import RenameDialog
from outgrowth.app.fields.words import WordsField
from outgrowth.core.document.records import Component, Document, Screen, find, walk
from outgrowth.core.document.values import words
from outgrowth.core.edits.tree.components import add_component, add_screen, rename_owner
from outgrowth.core.edits.tree.nodes import rename_node
from outgrowth.core.edits.variants.axes import rename_axis, rename_value
from outgrowth.core.exchange.web.names import checked_prefix, prefix_from
from outgrowth.workspace.commands.clipboard import duplicate
from outgrowth.workspace.commands.create_commands import draw
from outgrowth.workspace.commands.instance_commands import exchange, place
from outgrowth.workspace.commands.library_commands import new_component
from outgrowth.workspace.commands.naming_commands import (
    owners_of,
    planned,
    rename_all,
    rename_at,
    selected_parts,
)
from outgrowth.workspace.commands.style_commands import set_style
from outgrowth.workspace.commands.text_commands import open_property


def renamed(window, workspace, text):
    """Presses F2, types and confirms."""
    window.activateWindow()
    window.run_action("rename")
    field = QApplication.focusWidget()
    assert isinstance(field, QLineEdit) and field.selectedText() == field.text()
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


def test_no_name_is_refused_with_a_sentence(window, workspace):
    workspace.open("button")
    workspace.select(())
    renamed(window, workspace, "   ")
    assert workspace.owner.name == "Controls/Button"
    assert "needs a name" in window.status.message.text()


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


def test_the_field_lies_above_the_part_and_layers_has_its_own(window, workspace, hand):
    window.activateWindow()
    workspace.open("fares")
    results = next(n for n in workspace.owner.root.children if n.kind != "text")
    workspace.select((results.id,))
    window.run_action("rename")
    field, rect = QApplication.focusWidget(), window.canvas.rect_of_path((results.id,))
    assert field.parent() is window.canvas
    assert field.geometry().bottom() < rect.y() + 4 and abs(field.x() - rect.x()) < 2
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert window.canvas.hasFocus()
    window.layers.list.setFocus()
    window.run_action("rename")
    assert window.layers.list.isAncestorOf(QApplication.focusWidget())


def test_what_lies_in_an_instance_is_named_in_its_component(window, workspace, hand):
    workspace.open("fares")
    button = next(n for n in walk(workspace.owner.root) if n.kind == "instance")
    inner = workspace.document.components[button.style["component"]].root
    workspace.select((button.id, inner.id))
    window.run_action("rename")
    assert "go to that one (F9)" in window.status.message.text()


@pytest.mark.parametrize("act", ["new-component", "copy-owner"])
def test_what_is_made_is_named_where_it_stands(window, workspace, hand, act):
    window.activateWindow()
    workspace.open("button")
    window.run_action(act)
    QApplication.processEvents()
    field = QApplication.focusWidget()
    assert field.parent() is window.grid and field.selectedText() == workspace.owner.short_name
    QTest.keyClicks(field, "Ticket")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert workspace.owner.short_name == "Ticket" and window.grid.hasFocus()


def test_a_component_made_of_a_part_is_named_with_its_instance(window, workspace, hand):
    window.activateWindow()
    workspace.open("fares")
    part = next(
        n
        for n in walk(workspace.owner.root)
        if n.kind == "box" and n.children and n is not workspace.owner.root
    )
    workspace.select((part.id,))
    window.run_action("make-component")
    QApplication.processEvents()
    QTest.keyClicks(QApplication.focusWidget(), "Travel/Trip list")
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    instance = find(workspace.owner.root, part.id)
    component = workspace.document.components[instance.style["component"]]
    assert (component.name, instance.name) == ("Travel/Trip list", "trip list")


def test_going_on_by_a_key_leaves_the_field_and_keeps_the_name(window, workspace, hand):
    window.activateWindow()
    window.run_action("new-component")
    QApplication.processEvents()
    QTest.keyClicks(QApplication.focusWidget(), "Pill")
    made = workspace.selection.owner
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_T, Qt.KeyboardModifier.AltModifier)
    assert workspace.document.components[made].short_name == "Pill"
    (words,) = workspace.owner.root.children
    assert (words.kind, words.name) == ("text", "text"), "and not the words"


def test_a_text_goes_by_its_words_until_it_is_named(window, workspace, hand):
    workspace.open("fares")
    draw(workspace, "text")
    (node_id,) = workspace.selection.path

    def says(words_now):
        set_style(workspace, {"content": words(words_now)})
        return find(workspace.owner.root, node_id).name

    assert says("Next ferry  to\nSkerry") == "Next ferry to Skerry"
    duplicate(workspace)
    (copy_id,) = workspace.selection.path
    set_style(workspace, {"content": words("MV Auk")})
    names = [find(workspace.owner.root, i).name for i in (node_id, copy_id)]
    assert names == ["Next ferry to Skerry", "MV Auk"]
    rename_at(workspace, "fares", copy_id, "boat")
    set_style(workspace, {"content": words("MV Tern")})
    assert find(workspace.owner.root, copy_id).name == "boat"


def test_an_exchanged_part_goes_by_what_it_follows_now_unless_it_was_named(window, workspace):
    workspace.open("fares")
    card = next(n for n in walk(workspace.owner.root) if n.kind == "instance")
    place(workspace, "toggle")
    (new,) = workspace.selection.path
    exchange(workspace, "checkbox")
    assert find(workspace.owner.root, new).name == "checkbox"
    rename_at(workspace, "fares", new, "bicycles")
    exchange(workspace, "toggle")
    assert find(workspace.owner.root, new).name == "bicycles" and card.name


def test_opened_words_are_called_by_their_part(window, workspace):
    workspace.open("button")
    root = workspace.owner.root
    draw(workspace, "text")
    set_style(workspace, {"content": words("Only today")})
    open_property(workspace, "content")
    draw(workspace, "text", (root.id, None))
    rename_at(workspace, "button", workspace.selection.path[-1], "note from MV Auk")
    open_property(workspace, "content")
    names = [prop.name for prop in workspace.component.properties]
    assert names[-2:] == ["Label 2", "Note from MV Auk"], "its own Label is there already"


def shown_texts(window):
    """All that labels, buttons and fields show now."""
    kinds = (QLabel, QAbstractButton, QLineEdit)
    return [w.text() for kind in kinds for w in window.findChildren(kind) if w.isVisible()]


@pytest.mark.parametrize("sheet", ["Ledger", "Rules", "Axes", "Properties", "Code", "Uses"])
def test_everything_that_shows_a_name_follows_at_once(window, workspace, sheet):
    workspace.open("notice")
    window.sheet_tabs.choose(sheet)
    component = workspace.component
    axis, part = component.axes[0], component.root.children[0]
    renames = (
        ("Notice", lambda d: rename_owner(d, "notice", "Travel/Zebra")),
        ("Open", lambda d: rename_axis(d, "notice", axis.id, "Zone")),
        ("yes", lambda d: rename_value(d, "notice", axis.id, axis.values[1].id, "Zoo")),
        ("head", lambda d: rename_node(d, "notice", part.id, "Zip")),
    )
    assert (axis.name, axis.values[1].name, part.name) == ("Open", "yes", "head")
    for _, rename in renames:
        workspace.edit("rename", rename)
    workspace.refresh_panels()
    QApplication.processEvents()
    old = re.compile(r"\b(Notice|Open:|Open ·|head)\b|: yes\b")
    assert [text for text in shown_texts(window) if old.search(text) and len(text) < 80] == []
    assert any("Zone" in text for text in shown_texts(window))


def dialog(window):
    return next(w for w in window.findChildren(RenameDialog) if w.isVisible())


def test_several_are_filed_by_a_pattern_and_what_comes_of_it_is_shown_first(window, workspace):
    before = workspace.document
    window.run_action("rename-several")
    asked = dialog(window)
    assert asked.windowTitle() == f"Rename {len(before.components)} components of this file"
    asked.sought.setText("button")
    asked.becomes.setText("Keys/…")
    lines = [asked.list.item(n).text() for n in range(asked.list.count())]
    assert "Controls/Icon button  →  Keys/Icon button" in lines
    assert workspace.document is before, "nothing is renamed yet"
    row = lines.index("Controls/Icon button  →  Keys/Icon button")
    asked.list.item(row).setCheckState(Qt.CheckState.Unchecked)
    assert asked.rename.text() == f"Rename {len(lines) - 1}"
    asked.rename.click()
    names = {c.name for c in workspace.document.components.values()}
    assert {"Keys/Button", "Controls/Icon button"} <= names
    workspace.undo()
    assert workspace.document is before, "one step"


def test_f2_asks_for_a_pattern_where_several_parts_are_selected(window, workspace):
    workspace.open("fares")
    ids = [n.id for n in workspace.owner.root.children][:3]
    workspace.select_all(tuple((i,) for i in ids))
    window.run_action("rename")
    asked = dialog(window)
    asked.becomes.setText("row #")
    asked.rename.click()
    assert [find(workspace.owner.root, i).name for i in ids] == ["row 1", "row 2", "row 3"]


def test_no_two_components_get_one_name_also_where_nothing_else_has_one(window, workspace):
    bare = Document("Bare")
    for key in ("a", "b"):
        bare = add_component(bare, Component(key, key.upper(), box(key)))
    workspace.edit("bare", lambda _: bare)
    assert [r.after for r in planned(owners_of(workspace), "", "Part")] == ["Part", "Part 2"]


def test_what_lies_in_no_folder_is_meant_alone(window, workspace):
    new_component(workspace, "Loose")
    meant = owners_of(workspace, folder="")
    assert [named.name for named in meant.those] == ["Loose"]
    assert meant.title == "1 component in no folder"


def test_a_part_of_the_id_of_a_component_is_renamed_and_that_is_not(window, workspace):
    page = box("page", box("button"), box("chip"))
    workspace.edit("add", lambda document: add_screen(document, Screen("s", "Page", page)))
    workspace.open("s")
    workspace.select_all((("button",), ("chip",)))
    meant = selected_parts(workspace)
    rename_all(workspace, meant, planned(meant, "", "row #"))
    assert [n.name for n in workspace.owner.root.children] == ["row 1", "row 2"]
    assert workspace.document.components["button"].name == "Controls/Button"


def test_a_folder_is_refiled_from_its_heading(window, workspace):
    row = next(r for r in window.library.model.entries if r.folder)
    title, command = window.library._commands(row)[0]
    assert title.startswith("Rename or file all")
    command()
    asked = dialog(window)
    assert asked.windowTitle().endswith(f"in {row.name}")
    asked.becomes.setText("Things/…")
    asked.rename.click()
    assert all(not c.name.startswith(f"{row.name}/") for c in workspace.document.in_order())


def test_the_file_has_a_name_and_its_elements_begin_with_its_letters(window, workspace, qtbot):
    window.activateWindow()
    window.run_action("name-file")
    QTest.keyClicks(QApplication.focusWidget(), "Skerry Night Boats")
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    workspace.refresh_panels()
    assert workspace.document.name == "Skerry Night Boats"
    assert "Skerry Night Boats" in window.windowTitle()
    assert window.strip.file.text().startswith("Skerry Night Boats")
    window.run_action("hand-over")
    made = window.handing_over
    qtbot.waitUntil(lambda: made._made is not None, timeout=30_000)
    assert made._made.names.owners["button"].element == "snb-button"
    assert window.hand_over.prefix.placeholderText() == "snb"


@pytest.mark.parametrize(
    ("name", "prefix"),
    [
        ("Holm & Skerry", "hs"),
        ("Kiosk", "kiosk"),
        ("Untitled", "ui"),
        ("Færgen Ø", "frgen"),
        ("漢字", "ui"),
        ("2 boats", "b"),
        ("Font", "fontui"),
        ("a" * 90, "a" * 12),
    ],
)
def test_what_element_names_begin_with(name, prefix):
    assert prefix_from(name) == prefix
    assert checked_prefix(prefix) == prefix


def test_components_and_screens_are_put_into_another_order_by_drag(window, workspace):
    model = window.library.model

    def order():
        return [row.owner for row in model.entries if row.owner]

    def dropped(owner, row):
        index = next(n for n, entry in enumerate(model.entries) if entry.owner == owner)
        data = model.mimeData([model.index(index)])
        assert model.flags(model.index(index)) & Qt.ItemFlag.ItemIsDragEnabled
        model.dropMimeData(data, Qt.DropAction.MoveAction, row, 0, QModelIndex())
        workspace.refresh_panels()

    first, second, third = order()[:3]
    dropped(third, 1)
    assert order()[:3] == [third, first, second], "right under the heading"
    dropped(third, 3)
    assert order()[:3] == [first, third, second]
    dropped(third, 0)
    assert workspace.document.components[third].name.count("/") == 1, "it stays in a folder"
    window.library.tabs.choose("Screens")
    screens = order()
    dropped(screens[0], len(model.entries))
    assert order() == [*screens[1:], screens[0]]
    row = next(r for r in model.entries if r.owner == screens[0])
    dict(window.library._commands(row))["Earlier"]()
    workspace.refresh_panels()
    assert order()[-2] == screens[0]


def refused(window, field, typed):
    """Types a name that can't be, and gives what the field shows then."""
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, typed)
    QTest.keyClick(field, Qt.Key.Key_Return)
    QApplication.processEvents()
    return field.text()


@pytest.mark.parametrize("sheet", ["Axes", "Properties", "tokens"])
def test_a_refused_name_leaves_its_field_and_is_said(window, workspace, sheet):
    window.activateWindow()
    workspace.open("button")
    if sheet == "tokens":
        window.show_token("color.sea")
        field, taken = window.tokens.names["color.sea"], "color.paper"
    else:
        window.sheet_tabs.choose(sheet)
        component = workspace.component
        those = component.axes if sheet == "Axes" else component.properties
        panel = window.axes if sheet == "Axes" else window.opened
        fields = panel.findChildren(WordsField)
        field = next(f for f in fields if f.text() == those[0].name)
        taken = "   "
    before, shown = workspace.document, field.text()
    assert refused(window, field, taken) == shown
    assert workspace.document is before and window.status.message.text().startswith("!")
