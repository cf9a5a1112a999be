"""A moment of every generator, with fixed seeds; `bin/fuzz` runs them for longer."""

import pytest

from tests.fuzz.behaviour import Behaviour
from tests.fuzz.edits import World, begin
from tests.fuzz.files import KINDS, Files
from tests.fuzz.painting import painter


@pytest.mark.parametrize("seed", [1, 2, 3])
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


@pytest.mark.parametrize("seed", range(30))
def test_random_behaviour(seed):
    """Nothing jumps or parts, all comes to rest where a fresh layout puts it, and time in pieces,
    a second run and no motion make no difference."""
    assert [failure.line for failure in Behaviour(seed).run()] == []
