"""A moment of every generator, with fixed seeds; `bin/fuzz` runs them for longer."""

import importlib
import inspect
import pkgutil

import pytest

import outgrowth.core
from tests.fuzz import team
from tests.fuzz.axes import Axes
from tests.fuzz.behaviour import Behaviour
from tests.fuzz.edits import World, begin
from tests.fuzz.files import KINDS, Files
from tests.fuzz.painting import painter
from tests.fuzz.reach import Reached
from tests.fuzz.readers import READERS, case
from tests.fuzz.review import Looked
from tests.fuzz.rounds import Rounds


@pytest.mark.parametrize("seed", [1, 3, 4])
def test_random_edits(seed):
    """Each document can be saved and is read as it was; with memory it is drawn as from nothing."""
    world = World(seed, begin(seed))
    found = [failure.line for n in range(250) for failure in world.step(n)]
    assert not found
    assert world.done > 60, "most edits did nothing, so nothing was tried"


@pytest.mark.qt_log_ignore("JPEG", "png")  # what a library says of a damaged picture
@pytest.mark.parametrize("kind", dict(KINDS), ids=lambda kind: kind)
def test_damaged_files(kind, tmp_path, qapp):
    case, files = dict(KINDS)[kind], Files(7, tmp_path, painter())
    found = [f.line for n in range(12) for f in files.case(kind, case, 7_000 + n)]
    assert not found


@pytest.mark.parametrize("seed", [3, 17, 105])
def test_random_documents_looked_at_again_and_tried(seed):
    """Nothing fails, nothing that is remembered is old, mends do what they say and no more."""
    assert [failure.line for failure in Looked(seed).run()] == []


@pytest.mark.parametrize("seed", range(30))
def test_random_behaviour(seed):
    """Nothing jumps or parts, all comes to rest where a fresh layout puts it, and time in pieces,
    a second run and no motion make no difference."""
    assert [failure.line for failure in Behaviour(seed).run()] == []


@pytest.mark.parametrize("seed", range(40, 60))
def test_random_acts_at_random_reaches(seed):
    """What lies outside is drawn as before, or it was told; undo is exact; rows say what is drawn."""
    reached = Reached(seed)
    assert [failure.line for failure in reached.acts(30)] == []
    assert reached.done > 5, "most acts did nothing, so nothing was tried"


@pytest.mark.parametrize("seed", range(0, 300, 10))
def test_two_sides_of_any_document(seed):
    """What is merged is a document, and the same whoever is called ours."""
    assert [wrong for n in range(10) if (wrong := team.pair(seed + n))] == []


@pytest.mark.parametrize("kind", READERS)
def test_inputs_that_grow(kind):
    """What grows is read to begin with; four times the input takes no more than a little over four
    times the steps and memory."""
    READERS[kind].read(READERS[kind].example())
    assert [wrong for seed in (1, 2, 3) if (wrong := case(kind, seed))] == []


def test_every_reader_of_bytes_is_tried_with_inputs_that_grow():
    """What takes the bytes of a file, and what messages call it, reads what strangers made."""
    covered = {function for reader in READERS.values() for function in reader.covers}
    readers = {
        function
        for module in pkgutil.walk_packages(outgrowth.core.__path__, "outgrowth.core.")
        for name, function in vars(importlib.import_module(module.name)).items()
        if inspect.isfunction(function)
        and not name.startswith("_")
        and {"data", "name"} <= set(inspect.signature(function).parameters)
        and inspect.signature(function).parameters["data"].annotation == "bytes"
    }
    inner = {"from_text", "read"}  # the text and the markup that readers of the table begin with
    assert {f.__qualname__ for f in readers - covered} <= inner and len(readers) > 6


@pytest.mark.parametrize("seed", [2, 5])
def test_two_publishers_a_taker_and_git_at_one_library(seed, tmp_path):
    """Nothing that was told published is lost or changed by another, whatever histories cross."""
    ran = Rounds(seed, tmp_path)
    assert list(ran.run(100)) == []
    assert min(ran.done[what] for what in ("published", "clash", "cross", "kill")) > 1


@pytest.mark.parametrize("seed", range(12))
def test_damaged_libraries(seed, tmp_path):
    """Read or refused in a sentence; nothing is written outside."""
    wrong = [team.broken(seed * 5 + n, tmp_path / f"{n}") for n in range(5)]
    assert wrong == [None] * 5


def test_many_who_publish_at_once(tmp_path):
    """No publication is lost, and git finds the library whole."""
    assert team.together(tmp_path, 4, 4) == []


def test_publishing_that_is_killed():
    """What was told of is there, and the next one is not held up."""
    assert [failure.line for _, failure in team.kills(5, 3) if failure] == []


@pytest.mark.parametrize("seed", range(10, 22))
def test_random_acts_on_axes(seed):
    """Nothing is drawn, run, saved or handed over otherwise that has nothing to do with it."""
    assert [failure.line for failure in Axes(seed).run()] == []
