"""What an instance follows, and what a slot holds, chosen by picture and tried on the bench; what
it differs in, put back from the ledger."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QPushButton

from outgrowth.core.color import parse
from outgrowth.core.document.records import Component, ComponentProperty, find, walk
from outgrowth.core.document.values import FromProperty
from outgrowth.core.edits.instances import properties
from outgrowth.core.edits.tree.components import add_component
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace.commands import style_commands
from tests.app.user import User

KEY = Qt.Key


@pytest.fixture
def user(window):
    QApplication.processEvents()
    return User(window)


@pytest.fixture
def card(user, workspace):
    """The first fare card on its screen, selected."""
    workspace.open("fares")
    chosen = next(n for n in walk(workspace.screen.root) if n.style.get("component") == "fare-card")
    workspace.select((chosen.id,))
    user.wait()
    return chosen.id


def followed(workspace, node_id):
    return find(workspace.screen.root, node_id).style["component"]


def test_stepping_shows_each_on_the_bench_and_esc_leaves_all_as_it_was(
    user, window, workspace, card
):
    before, steps = workspace.document, workspace.undo_name
    window.exchange()
    assert window.gallery.current == "fare-card", "it begins at what is followed now"
    user.key(KEY.Key_Right)
    tried = window.gallery.current
    assert followed(workspace, card) == tried != "fare-card"
    user.key(KEY.Key_Escape)
    assert workspace.document is before and workspace.undo_name == steps


def test_what_is_taken_is_one_step(user, window, workspace, card):
    before = workspace.document
    window.exchange()
    user.type("notice", enter=False)
    user.key(KEY.Key_Return)
    assert followed(workspace, card) == "notice"
    window.run_action("undo")
    assert workspace.document == before


def test_a_slot_offers_its_shortlist_first_and_the_whole_file_by_folder(
    user, window, workspace, card
):
    window.ledger.row("choice:icon").editor.widget.click()
    rows = window.gallery._fillings.rows
    listed = workspace.document.components["fare-card"].property("icon").shortlist
    assert [r.component for r in rows[1 : len(listed) + 1]] == list(listed)
    folders = [r.folder for r in rows[len(listed) + 1 :]]
    assert folders == sorted(folders, key=folders.index), "each folder whole"
    assert any(r.component == "toggle" for r in rows), "what is not listed can be chosen"


def test_the_shortlist_is_ticked_without_leaving(user, window, workspace, card):
    window.ledger.row("choice:icon").editor.widget.click()
    user.type("toggle", enter=False)
    window.gallery.listed.click()
    user.wait()
    assert window.gallery.isVisible()
    assert "toggle" in workspace.document.components["fare-card"].property("icon").shortlist
    assert window.gallery.current == "toggle" and window.gallery.listed.isChecked()
    user.key(KEY.Key_Return)
    icon = Place(workspace.screen.id, (card, "icon"))
    assert value_at(workspace.document, icon, "component") == "toggle"


def test_a_fresh_slot_is_filled_from_a_folder_of_sixty(user, window, workspace, card):
    document = workspace.document
    for n in range(60):
        root = document.components["icon-clock"].root
        document = add_component(document, Component(f"new{n}", f"Icons/New/Mark {n:02}", root))
    document = properties.set_shortlist(document, "fare-card", "icon", ())
    workspace.edit("sixty", lambda _: document)
    user.wait()
    window.ledger.row("choice:icon").editor.widget.click()
    user.type("icons new", enter=False)
    assert window.gallery.list.count() == 60
    user.key(KEY.Key_Down)
    user.key(KEY.Key_Return)
    icon = Place(workspace.screen.id, (card, "icon"))
    assert value_at(workspace.document, icon, "component") == "new4", "a row further"


def test_a_card_is_put_back_in_its_looks_and_its_words_stay(user, window, workspace, card):
    workspace.select((card,))
    style_commands.set_style(workspace, {"fill": parse("#ffeecc")})
    workspace.select((card, "name"))
    style_commands.set_style(workspace, {"color": parse("#aa0000")})
    workspace.select((card,))
    user.wait()
    kept = window.ledger.kept
    count = len(kept._shown)
    assert kept.head.text() == f"▸ differs in {count}"
    user.press(kept.head)
    rows = [b.accessibleName() for b in kept.findChildren(QPushButton) if b.text() == "put back"]
    assert "Put Fill back" in rows and "Put name › Colour back" in rows
    user.press(kept.looks)
    user.wait()
    assert workspace.undo_name == "put the looks back"
    node = find(workspace.screen.root, card)
    assert "fill" not in node.style and not node.overrides
    assert any(name.startswith("choice:") for name in node.style), "its words stay"
    user.press(kept.words)
    user.wait()
    assert "choice:about" not in find(workspace.screen.root, card).style


def test_one_value_is_put_back_by_itself(user, window, workspace, card):
    style_commands.set_style(workspace, {"opacity": 0.5, "fill": parse("#ffeecc")})
    user.wait()
    kept = window.ledger.kept
    user.press(kept.head)
    back = next(
        b for b in kept.findChildren(QPushButton) if b.accessibleName() == "Put Opacity back"
    )
    user.press(back)
    user.wait()
    assert workspace.undo_name == "put Opacity back"
    node = find(workspace.screen.root, card)
    assert "opacity" not in node.style and "fill" in node.style


def test_a_slot_of_what_is_on_the_bench_never_offers_what_holds_it(window, workspace):
    workspace.open("fare-card")
    workspace.select(("icon",))
    window.exchange()
    offered = {row.component for row in window.gallery._fillings.rows}
    assert "fare-card" not in offered
    prop = workspace.component.property("icon")
    assert isinstance(prop, ComponentProperty)
    assert isinstance(find(workspace.component.root, "icon").style["component"], FromProperty)
    window.gallery.hide()
