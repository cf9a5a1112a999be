"""What other programs do to the file in hand, and what a crash left of it."""

import pytest

from outgrowth.core.edits.tree.owners import new_component
from outgrowth.core.exchange.native import load_with_state, save
from outgrowth.workspace import Workspace
from outgrowth.workspace.autosave import Autosave
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.file_changes import FileChange, FileChanges
from outgrowth.workspace.recovery import give_up, left_work, recovered_text


def begun(document, name):
    return new_component(document, f"c-{name}", name, f"r-{name}")


@pytest.fixture(params=["file.outgrowth.json", "folder.outgrowth"])
def opened(request, fonts, ferry, tmp_path):
    path = tmp_path / request.param
    save(ferry, path)
    document, seen = load_with_state(path)
    return Workspace(Engine(fonts), document, path, disk_state=seen)


def test_what_others_wrote_is_taken_in_where_nothing_is_at_stake(opened):
    changes = FileChanges(opened)
    assert opened.path in changes.paths() and opened.path.parent in changes.paths()
    assert changes.look() is FileChange.NONE
    theirs = begun(opened.document, "theirs")
    save(theirs, opened.path)
    assert changes.look() is FileChange.TAKEN_IN
    assert opened.document == theirs and not opened.unsaved
    assert changes.look() is FileChange.NONE
    opened.undo()
    assert "c-theirs" not in opened.document.components


def test_with_work_at_stake_it_is_a_clash_until_somebody_decides(opened):
    changes = FileChanges(opened)
    opened.edit("begin", lambda d: begun(d, "mine"))
    theirs = begun(opened.saved, "theirs")
    save(theirs, opened.path)
    assert changes.look() is FileChange.CLASH
    assert "c-mine" in opened.document.components
    overtaken = []
    opened.overtaken.connect(lambda: overtaken.append(1))
    assert not opened.save() and overtaken
    changes.take_in()
    assert opened.document == theirs
    opened.undo()
    assert "c-mine" in opened.document.components
    assert opened.save(over=True)


def test_what_is_damaged_is_told_and_nothing_is_lost(opened):
    said = []
    opened.failed.connect(said.append)
    changes = FileChanges(opened)
    document = opened.document
    collect_lines = opened.path if opened.path.is_file() else next(opened.path.glob("*.json"))
    collect_lines.write_text("{")
    assert changes.look(asked_by_save=True) is FileChange.DAMAGED
    assert said and opened.document is document


def test_work_that_was_not_saved_comes_back_with_its_file(opened, tmp_path):
    journals = tmp_path / "journals"
    autosave = Autosave(opened, journals)
    opened.edit("begin", lambda d: begun(d, "mine"))
    autosave.write()
    assert autosave.is_current
    autosave._file.close()  # as the system does when a program ends
    (work,) = left_work(journals)
    assert work.file == opened.path and work.recovered.steps == 1
    assert work.recovered.document == opened.document and work.saved == opened.saved
    opened.path.rename(opened.path.with_name("moved"))
    (again,) = left_work(journals)
    assert again.recovered.document == opened.document, "the journal stands for itself"
    give_up(opened, work.saved)
    assert opened.document == work.saved
    assert "One step that was" in recovered_text("a", 1) and "2 steps" in recovered_text("a", 2)
