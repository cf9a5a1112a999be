"""The window's frame: where am I, what is saved, other files, both looks, what is said."""

import pytest
from immutables import Map
from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import QFileDialog, QLabel, QMessageBox, QScrollArea

from outgrowth.app.dialogs.shortcuts import Shortcuts
from outgrowth.app.main import WindowManager, owner_named
from outgrowth.app.theme import LIGHT
from outgrowth.core.color import parse
from outgrowth.core.document.values import (
    FIT,
    FromProperty,
    Shadow,
    Shift,
    Size,
    Token,
    fixed,
    words,
)
from outgrowth.core.exchange.native import load, save
from outgrowth.core.resolve.ladder import Place, ladder
from outgrowth.workspace import measures
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.commands.instance_commands import place
from outgrowth.workspace.commands.library_commands import new_component
from outgrowth.workspace.gathering import drawing_families
from outgrowth.workspace.history import History
from outgrowth.workspace.views.search_results import Candidate, ranked
from outgrowth.workspace.views.status_text import location_text
from outgrowth.workspace.views.value_format import shift_text, source_text, tag_text, value_text


def test_the_strip_says_where_one_is(window, workspace, hand):
    hand.part("label", kind="quiet", state="rest")
    assert location_text(workspace) == "Controls / Button › <b>label</b>"
    workspace.open("fares")
    workspace.select(("fare-0", "buy"))
    assert location_text(workspace) == "Fares › Foot passenger fare › <b>buy</b>"
    assert window.strip.file.text().startswith("Holm && Skerry")


def test_the_status_line_measures_the_selection(window, workspace, hand, qtbot):
    workspace.open("boarding")
    hand.part("back")
    assert window.status.selected.text() == "Back button · 44 × 44 at 16, 20"
    workspace.open("search-form")
    qtbot.waitUntil(lambda: window.status.used.text() == "1 instance")
    workspace.open("icon-button")
    qtbot.waitUntil(lambda: window.status.used.text().endswith(" instances"))


def test_how_often_a_component_is_seen_is_one_number_everywhere(window, workspace, qtbot):
    """In the Library, in the bar, in the status line and in the sheet of its uses."""
    for component in workspace.document.in_order():
        workspace.open(component.id)
        count = measures.instances_of(workspace)[component.id]
        window.sheet_tabs.choose("Uses")
        said = f"{count} instance{'' if count == 1 else 's'}"
        if count:
            qtbot.waitUntil(lambda w=said: window.status.used.text() == w)
            qtbot.waitUntil(lambda w=said: f" {w} ·" in window.reach_bar.reach_label.text())
            labels = [label.text() for label in window.uses.findChildren(QLabel)]
            assert any(text.endswith(f"seen as {said}") for text in labels), labels
        qtbot.waitUntil(lambda: bool(window.library._delegate.counts))
        assert window.library._delegate.counts.get(component.id, 0) == count


def test_what_no_screen_shows_says_where_it_lies(window, workspace, qtbot):
    workspace.open("fare-card")
    new_component(workspace, "Stack")
    place(workspace, "fare-card")
    stack = workspace.selection.owner
    new_component(workspace, "Pile")
    place(workspace, stack)
    workspace.open(stack)
    qtbot.waitUntil(lambda: window.status.used.text() == "in 1 place, on no screen")


def test_unsaved_work_is_seen_and_asked_about(window, workspace, hand, monkeypatch):
    hand.part()
    hand.type(hand.row("gap"), "9")
    assert window.strip.saved.text() == "Not saved"
    answers = iter([QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Save])
    monkeypatch.setattr(window.files, "question", lambda: next(answers))
    event = QCloseEvent()
    window.closeEvent(event)
    assert not event.isAccepted(), "cancel keeps the window"
    event = QCloseEvent()
    window.closeEvent(event)
    assert event.isAccepted()
    assert load(workspace.path) == workspace.document


def test_saving_under_another_name(window, workspace, tmp_path, monkeypatch):
    target = tmp_path / "copy"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(target), ""))
    window.run_action("save-as")
    assert workspace.path.name == "copy.outgrowth.json"
    assert load(workspace.path) == workspace.document
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: ("", ""))
    assert window.files.save_as() is False


def test_saving_where_nothing_can_be_written_is_said(window, workspace, tmp_path):
    assert workspace.save(tmp_path / "no-such-folder" / "a.outgrowth.json") is False
    assert "could not be saved" in window.status.message.text()


def test_another_file_opens_in_a_window_of_its_own(qtbot, look, ferry, tmp_path):
    path = tmp_path / "other.outgrowth.json"
    save(ferry, path)
    desk = WindowManager(LIGHT)
    first = desk.open(path)
    qtbot.addWidget(first)
    first.files.open(path)
    assert len(desk._windows) == 2
    qtbot.addWidget(desk._windows[1])
    assert desk._windows[1].workspace.document == ferry
    assert owner_named(ferry, "Harbour desk") == "desk"
    with pytest.raises(KeyError):
        owner_named(ferry, "nowhere")


def test_both_looks_and_back(window, workspace):
    window.run_action("theme")
    assert window.theme.name == "dark"
    window.repaint()
    window.run_action("theme")
    assert window.theme.name == "light"


def test_all_keys_are_listed(window, qtbot):
    dialog = Shortcuts(window.actions_list, window)
    qtbot.addWidget(dialog)
    shown = {label.text() for label in dialog.findChildren(type(window.status.selected))}
    assert {action.title for action in window.actions_list} <= shown
    assert "Pick the innermost part" in shown
    dialog.search.setText("away panels")
    frame = dialog.findChild(QScrollArea).widget()
    assert [label.text() for label in frame.findChildren(QLabel)] == [
        "View",
        "All panels away, or back",
        "F12",
    ]
    dialog.search.setText("no such thing")
    assert "Nothing is called so" in dialog.findChild(QScrollArea).widget().findChild(QLabel).text()


def test_what_is_found_first_begins_with_what_was_typed():
    candidates = [
        Candidate("Place Button here", "place", list),
        Candidate("Button", "component", list),
        Candidate("Save", "Ctrl+S", list),
    ]
    assert [c.title for c in ranked(candidates, "but")] == ["Button", "Place Button here"]
    assert [c.title for c in ranked(candidates, "here but")] == ["Place Button here"]
    assert ranked(candidates, "tide") == []


def test_quiet_rows_show_when_set_or_asked_for(window, workspace, hand):
    hand.part()
    row = window.ledger.rows["min-width"]
    assert row.isHidden()
    more, _ = window.ledger._set.groups["Size"]
    hand.click(more)
    assert not row.isHidden()
    hand.click(more)
    style_commands.set_style(workspace, {"min-width": 40.0})
    workspace.refresh_panels()
    assert not row.isHidden(), "somebody set it"


def test_families_to_gather_are_found_by_path(ferry):
    found = drawing_families(ferry, "before-gathering")
    assert len(found["Button, on Before gathering"]) == 84
    assert "Icon, components" in found
    assert next(iter(found)) == "Button, on Before gathering", "the bench's own first"


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (parse("#17495A"), "#17495A"),
        (parse("#0000"), "none"),
        (Token("color.sea"), "color.sea"),
        (Shift("darken", 0.14), "14 % darker"),
        (FIT, "fit"),
        (fixed(12.5), "12.5"),
        (Size("grow", 1.0), "grow"),
        (FromProperty("label"), "the instance's own"),
        (True, "yes"),
        (8.0, "8"),
        (words("Board now"), "“Board now”"),
        ((Shadow(parse("#000")),), "a shadow"),
        ((), "none"),
        ("icon-bell", "Icon/Bell"),
        ("", "empty"),
        ("row", "row"),
    ],
)
def test_values_in_words(ferry, value, text):
    assert value_text(ferry, value) == text


def test_shifts_in_words():
    assert shift_text(Shift("darken", -0.1)) == "10 % lighter"
    assert shift_text(Shift("fade", 0.3)) == "30 % more transparent"
    assert shift_text(Shift("add", 2.0)) == "+2"
    assert shift_text(Shift("multiply", 1.04)) == "×1.04"


def test_sources_in_words(ferry):
    variant = Map(kind="quiet", state="hover")
    rungs = ladder(ferry, Place("button", (), variant), "fill")
    said = [source_text(ferry, rung.source) for rung in rungs]
    assert said == [
        "start value",
        "Button",
        "Kind: Quiet",
        "State: hover",
        "Kind: Quiet, State: hover",
    ]
    tags = [tag_text(ferry, rung, "button", False) for rung in rungs]
    assert tags == ["start", "token", "token", "rule", "rule"]
    (last,) = ladder(ferry, Place("desk", ("call-10-15",)), "fill")[-1:]
    assert source_text(ferry, last.source) == "on Harbour desk"
    assert tag_text(ferry, last, "desk", True) == "only here"


def test_history_merges_forgets_and_names():
    history = History()
    history.add("gap", 0, 1)
    assert history.merge("gap", 2)
    assert not history.merge("fill", 3)
    assert history.undo() == 0
    assert (history.undo_name, history.redo_name) == ("", "gap")
    assert not history.merge("gap", 9), "what was undone is not added to"
    assert history.redo() == 2
    for n in range(1200):
        history.add(str(n), n, n + 1)
    steps = 0
    while history.undo() is not None:
        steps += 1
    assert steps == 1000
    assert history.redo_name == "200"
