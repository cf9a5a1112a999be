"""The journal of a day's work: whole on a disk that fills up, and short after many steps."""

from __future__ import annotations

import errno
import random
import resource
import shutil
import time
from contextlib import contextmanager

import pytest

from demo import ferry_line
from outgrowth.core.document.records import Document
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.native import load_with_state, save
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace import Workspace, autosave
from outgrowth.workspace.autosave import Autosave, left_behind
from outgrowth.workspace.engine import Engine


@contextmanager
def room_for(bytes_of_a_file):
    """No file may grow beyond this: what still fits is written, and nothing is said, as on a disk
    that is full. Source: setrlimit(2), write(2)."""
    soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (bytes_of_a_file, hard))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, (soft, hard))


@pytest.fixture(params=["file", "no file yet"])
def work(request, fonts, tmp_path):
    """A workspace, its journal, and what somebody would find after a crash now."""
    path, state, document = None, None, ferry_line()
    if request.param == "file":
        path = tmp_path / "ferry.outgrowth.json"
        save(document, path)
        document, state = load_with_state(path)
    nothing = Document("nothing")
    workspace = Workspace(Engine(fonts), document, path, document if path else nothing, state)
    journal = Autosave(workspace, tmp_path / "journals")

    def found():
        copy = tmp_path / f"copy-{time.monotonic_ns()}"
        shutil.copytree(tmp_path / "journals", copy)
        ((_, recovered),) = left_behind(copy)
        return recovered

    yield workspace, journal, found
    journal.drop()


def step(workspace, number):
    place = Place("button", ())
    workspace.edit(f"step {number}", lambda d: set_properties(d, place, {"gap": float(number)}))


@pytest.mark.parametrize("seed", range(12))
def test_a_full_disk_costs_the_steps_made_meanwhile_and_no_other(work, seed):
    workspace, journal, found = work
    told = []
    workspace.failed.connect(told.append)
    chance = random.Random(seed)
    for n in range(3):
        step(workspace, n + 1)
        journal.write()
    assert found().steps == 3
    with room_for(journal._length + chance.randrange(200)):
        for n in range(4):
            step(workspace, n + 11)
            journal.write()
    assert found().document.components["button"].root.style["gap"] == 3.0
    assert len(told) == 1 and "Save your work" in told[0] and not journal.is_current
    for n in range(2):
        step(workspace, n + 21)
        journal.write()
        assert found().document.components == workspace.document.components
    assert found().steps == 5 and journal.is_current


def settle(journal):
    while journal._folding is not None and journal._folding.busy:
        time.sleep(0.001)


def test_many_steps_are_folded_into_one_and_all_of_them_come_back(work, monkeypatch):
    monkeypatch.setattr(autosave, "FOLD_AT", 20_000)
    workspace, journal, found = work
    most = 0
    for n in range(300):
        step(workspace, n + 1)
        journal.write()
        most = max(most, journal._length)
        if n % 7 == 0:
            settle(journal)
        if n % 60 == 59:
            recovered = found()
            assert recovered.document.components == workspace.document.components
            assert recovered.steps == n + 1
    settle(journal)
    step(workspace, 1_000)
    journal.write()
    assert journal._length < most and found().steps == 301
    parts = list(journal._path.parent.iterdir())
    assert len(parts) <= 3  # the journal, its base, one that is being folded


def test_what_cannot_be_folded_goes_on_as_it_is(work, monkeypatch):
    monkeypatch.setattr(autosave, "FOLD_AT", 1_000)

    def full(*_):
        raise OSError(errno.ENOSPC, "No space left on device")

    workspace, journal, found = work
    real = autosave._write_whole
    monkeypatch.setattr(
        autosave,
        "_write_whole",
        lambda file, data: full() if str(file.name).endswith(".folding") else real(file, data),
    )
    for n in range(20):
        step(workspace, n + 1)
        journal.write()
        settle(journal)
    assert found().document.components == workspace.document.components and found().steps == 20
    assert not list(journal._path.parent.glob("*.folding"))


def test_saving_while_it_is_folded_leaves_nothing(work, monkeypatch, tmp_path):
    monkeypatch.setattr(autosave, "FOLD_AT", 1_000)
    workspace, journal, _ = work
    for n in range(20):
        step(workspace, n + 1)
        journal.write()
        if n % 5 == 4:
            assert workspace.save(tmp_path / "other.outgrowth.json")
            folding = journal._folding
            journal.write()
            while folding is not None and folding.busy:
                time.sleep(0.001)
            assert not list((tmp_path / "journals").iterdir())
