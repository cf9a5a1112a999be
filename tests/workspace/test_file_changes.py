"""What other programs do to the file in hand, and what a crash left of it."""

import os
import shutil

import pytest

from outgrowth.core.edits.tree.owners import new_component
from outgrowth.core.exchange.native import load, load_with_state, save
from outgrowth.workspace import Workspace
from outgrowth.workspace.autosave import Autosave
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.file_changes import FileChange, FileChanges
from outgrowth.workspace.recovery import give_up, left_work, recovered_text

REMOVED = {
    "a component": lambda folder: (folder / "components" / "button.json").unlink(),
    "all components": lambda folder: shutil.rmtree(folder / "components"),
    "a screen and the pictures": lambda folder: (
        shutil.rmtree(folder / "screens"),
        shutil.rmtree(folder / "assets"),
    ),
    "the list": lambda folder: (folder / "document.json").unlink(),
    "all of it": lambda folder: shutil.rmtree(folder),
}

DAMAGED = {
    "the list": lambda folder: (folder / "document.json").write_text("{"),
    "what the list says": lambda folder: (folder / "document.json").write_text('{"screens": 5}'),
    "a component": lambda folder: (folder / "components" / "button.json").write_text("["),
}

IN_THE_WAY = {
    "a folder": lambda part: part.mkdir(),
    "a link": lambda part: part.symlink_to("/etc/hostname"),
    "a pipe": lambda part: os.mkfifo(part),
}


@pytest.fixture
def apart(fonts, ferry, tmp_path):
    """The ferry line, open from a folder."""
    path = tmp_path / "ferry.outgrowth"
    save(ferry, path)
    document, seen = load_with_state(path)
    workspace = Workspace(Engine(fonts), document, path, disk_state=seen)
    workspace.edit("begin", lambda d: begun(d, "mine"))
    return workspace


@pytest.mark.parametrize("what", REMOVED)
def test_saving_mends_a_folder_from_which_parts_were_removed(apart, what):
    REMOVED[what](apart.path)
    told = []
    apart.failed.connect(told.append)
    assert FileChanges(apart).look() is FileChange.NONE
    assert what == "all of it" or "saving writes it again" in told[0]
    assert apart.save() and load(apart.path) == apart.document
    assert (apart.path / "components" / "button.json").exists()


def test_what_another_wrote_is_not_written_over_where_something_was_removed_too(apart):
    REMOVED["a component"](apart.path)
    (apart.path / "screens" / "booking.json").write_text("{}")
    overtaken = []
    apart.overtaken.connect(lambda: overtaken.append(True))
    assert not apart.save() and overtaken


@pytest.mark.parametrize("what", DAMAGED)
def test_a_damaged_folder_is_written_over_when_it_is_asked_for(apart, what):
    DAMAGED[what](apart.path)
    assert not apart.save()
    assert apart.save(over=True) and load(apart.path) == apart.document
    assert not list((apart.path / "components").glob("part-*"))


@pytest.mark.parametrize("what", IN_THE_WAY)
def test_what_stands_in_the_way_of_a_part_is_told_and_the_folder_stays_readable(apart, what):
    part = apart.path / "components" / "button.json"
    kept = part.read_bytes()
    part.unlink()
    IN_THE_WAY[what](part)
    told = []
    apart.failed.connect(told.append)
    assert not apart.save() and not apart.save(over=True)
    assert "button.json" in told[-1]
    part.rmdir() if part.is_dir() else part.unlink()
    part.write_bytes(kept)
    assert load(apart.path) == apart.saved


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
