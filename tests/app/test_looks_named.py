"""Held states in the ledger, sheets of states, and looks that get a name, by hand."""

from PyQt6.QtWidgets import QApplication, QWidget

from outgrowth.core.document.variants import default_variant
from outgrowth.core.edits.tokens import token_uses
from outgrowth.core.layout.rectangles import locate
from outgrowth.workspace.commands.instance_commands import sheet_of_states


def test_an_instance_is_held_in_hover_and_press(window, workspace):
    workspace.open("boarding")
    workspace.select(("board",))
    workspace.refresh_panels()
    QApplication.processEvents()
    row = window.ledger.rows["choice:state"]
    fill = fill_of(workspace, ("board",))
    field = next(f for f in row.findChildren(QWidget) if f.accessibleName() == "State")
    field.edited.emit("hover")
    held = fill_of(workspace, ("board",))
    button = workspace.document.components["button"]
    hover = default_variant(button).set("state", "hover")
    assert held != fill
    assert held == workspace.engine.view(workspace.document, "button", hover).scene.paint.fill
    workspace.undo()
    assert fill_of(workspace, ("board",)) == fill


def fill_of(workspace, path):
    """What a part of the screen on the bench is filled with."""
    view = workspace.engine.view(workspace.document, workspace.selection.owner)
    return next(at for at in locate(*view, "") if at.path == path).scene.paint.fill


def test_a_sheet_of_states_comes_on_the_bench(window, workspace):
    workspace.open("button")
    window.run_action("sheet-of-states")
    assert workspace.screen is not None and workspace.screen.name == "Button states"
    assert window.bench_stack.currentWidget() is window.canvas
    workspace.undo()
    assert all(s.name != "Button states" for s in workspace.document.screens_in_order())
    workspace.open("boarding")
    assert not sheet_of_states(workspace)


def test_what_looks_the_same_is_offered_and_follows_by_a_press(window, workspace):
    workspace.open("fare-card")
    workspace.select(("about",))
    window.run_action("name-type")
    assert "look" in window.status.message.text() and window.status.offered.isVisible()
    names = [p for p in workspace.document.tokens if p.startswith("type.about")]
    assert {"type.about.size", "type.about.weight"} <= set(names)
    before = workspace.document
    window.status.offered.click()
    assert workspace.document is not before and "follow type.about" in workspace.undo_name
    uses = token_uses(workspace.document, "type.about.size")
    assert len(uses) > len(token_uses(before, "type.about.size")) == 1


def test_what_has_no_such_look_says_what_it_waits_for(window, workspace):
    workspace.open("fare-card")
    workspace.select(("about",))
    window.run_action("name-border")
    assert "select a box that has lines" in window.status.message.text()
