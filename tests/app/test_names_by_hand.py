"""Names are given where they are seen, and everything that shows one follows."""

import re

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QLabel, QLineEdit

from outgrowth.core.edits.tree.components import rename_owner
from outgrowth.core.edits.tree.nodes import rename_node
from outgrowth.core.edits.variants.axes import rename_axis, rename_value


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
