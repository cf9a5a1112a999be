"""Handing over from the window: the bench, the Code sheet, pictures of the selection."""

import io

import pytest
from immutables import Map
from PIL import Image
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.dialogs.picture import PictureDialog
from outgrowth.core.color import parse
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace.commands.picture_commands import PictureFile

from .user import User


def settled(window):
    """Waits for what is being made beside the window."""
    controller = window.handing_over
    QTest.qWait(1)
    while controller._jobs.busy or controller._timer.isActive():
        QTest.qWait(20)


@pytest.fixture
def bench(window):
    window.run_action("hand-over")
    settled(window)
    return window.hand_over


def row_of(bench, component):
    """Puts a component of the list in sight."""
    for n in range(bench.list.count()):
        if bench.list.item(n).data(Qt.ItemDataRole.UserRole) == component:
            bench.list.setCurrentRow(n)
            return bench.list.item(n)
    raise AssertionError(component)


def test_the_bench_shows_what_would_go_out_and_writes_it(window, bench, tmp_path):
    assert window.bench_stack.currentWidget() is bench
    row_of(bench, "button")
    assert "<hs-button>" in bench.title.text()
    assert 'define("hs-button"' in bench.code.toPlainText()
    assert not bench.open_page.isEnabled()
    window.handing_over.hand_over_into(tmp_path)
    assert "files new" in bench.plan.text()
    assert not list(tmp_path.iterdir()), "nothing is written before it is asked for"
    bench.write.click()
    assert (tmp_path / "components" / "hs-button.js").is_file()
    assert bench.open_page.isEnabled()
    assert "as it would be written" in bench.plan.text()


def test_an_edit_is_followed_and_only_what_it_touches_is_written_again(window, bench, tmp_path):
    window.handing_over.hand_over_into(tmp_path)
    bench.write.click()
    before = {p: p.stat().st_mtime_ns for p in tmp_path.rglob("*") if p.is_file()}
    red = {"fill": parse("#AA3311")}
    window.workspace.edit("red", lambda d: set_properties(d, Place("chip", ()), red))
    window.workspace.refresh_panels()
    settled(window)
    assert row_of(bench, "chip").text().endswith("changed")
    bench.write.click()
    changed = {p.name for p in before if p.stat().st_mtime_ns != before[p]}
    assert "hs-chip.js" in changed and "hs-button.js" not in changed


def test_what_somebody_edited_by_hand_is_named_and_kept(window, bench, tmp_path):
    window.handing_over.hand_over_into(tmp_path)
    bench.write.click()
    file = tmp_path / "tokens.css"
    file.write_text("/* ours */")
    window.handing_over._look_again()
    assert "edited by hand" in bench.plan.text() and bench.over.isVisible()
    bench.write.click()
    assert file.read_text() == "/* ours */"
    bench.over.setChecked(True)
    bench.write.click()
    assert "--hs-color-sea" in file.read_text()


def test_what_is_missing_leads_to_where_it_is(window, bench):
    row_of(bench, "toggle")
    window.hand_over.visited.emit("toggle", ())
    assert window.workspace.selection.owner == "toggle"
    assert window.bench_stack.currentWidget() is window.grid_bench


def test_a_part_that_is_not_ticked_stays_here(window, bench, tmp_path):
    window.handing_over.hand_over_into(tmp_path)
    row_of(bench, "fare-card").setCheckState(Qt.CheckState.Unchecked)
    settled(window)
    assert bench.all.checkState() == Qt.CheckState.PartiallyChecked
    bench.write.click()
    assert not (tmp_path / "components" / "hs-fare-card.js").exists()


def test_names_that_cannot_begin_an_element_are_refused_in_a_sentence(window, bench):
    said = []
    window.workspace.failed.connect(said.append)
    bench.prefix.setText("9 Ferries")
    bench.prefix.editingFinished.emit()
    settled(window)
    assert said and said[0].startswith("Elements cannot begin with")


def test_escape_leads_back(window, bench):
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    assert window.bench_stack.currentWidget() is window.grid_bench


def test_the_code_sheet_shows_the_selected_part_with_its_conditions(window, workspace):
    User(window)
    workspace.open("button")
    window.sheet_tabs.choose("Code")
    workspace.refresh_panels()
    texts = [field.toPlainText() for field in window.code.fields]
    assert texts[0].startswith(":host {")
    assert any(":host(:state(hover))" in text for text in texts)
    window.code.copy()
    assert QApplication.clipboard().text() == window.code.code.text
    workspace.select(("label",))
    workspace.refresh_panels()
    assert window.code.fields[0].toPlainText().startswith("#label {")


@pytest.mark.parametrize("form, scale", [("png", 1.0), ("png", 3.0), ("svg", 1.0)])
def test_the_selection_becomes_a_picture(window, workspace, tmp_path, form, scale):
    workspace.open("button")
    workspace.select(("label",), Map(kind="quiet", state="rest"))
    file = tmp_path / f"label.{form}"
    window.handing_over.write_pictures(PictureFile("selection", form, scale), file)
    if form == "svg":
        assert file.read_text().startswith("<svg")
    else:
        width = Image.open(io.BytesIO(file.read_bytes())).width
        assert 60 * scale < width < 110 * scale, "the letters, and room for their ink"


def test_all_variants_become_one_sheet_or_a_file_each(window, workspace, tmp_path):
    workspace.open("button")
    dialog = PictureDialog(window, workspace)
    assert [button.text() for button in dialog.buttons][-1] == "every variant, a file each"
    dialog.buttons[-1].setChecked(True)
    dialog.form.button("svg").click()
    assert dialog.wanted == PictureFile("each", "svg")
    window.handing_over.write_pictures(dialog.wanted, tmp_path)
    assert len(list(tmp_path.glob("*.svg"))) == 8
    window.handing_over.write_pictures(PictureFile("sheet", "png", 2.0), tmp_path / "all.png")
    with Image.open(tmp_path / "all.png") as sheet:
        assert sheet.width > 400


def test_a_window_that_stays_after_all_goes_on_making_and_looking(window, workspace, monkeypatch):
    monkeypatch.setattr(window.files, "ask_unsaved", lambda: False)
    window.close()
    assert window.connector._timer.isActive(), "news of libraries are looked for"
    begun = []
    window.handing_over._jobs.start(lambda _: None, begun.append)
    for _ in range(100):
        QTest.qWait(10)
        if begun:
            break
    assert begun == [None]
    monkeypatch.undo()
