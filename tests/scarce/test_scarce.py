"""Commands where something is scarce: a sentence and an exit code of the table, and nothing half
written. Each condition and each command comes; `python -m tests.scarce` tries all pairs."""

import subprocess
import sys

import pytest

from demo import ferry_line
from outgrowth.core.exchange.native import save
from tests.scarce.table import CONDITIONS, ROOT, Room, commands, run, wrong

NAMES = list(commands(Room(ROOT)))
PAIRS = [
    (NAMES[(n + step) % len(NAMES)], condition)
    for n, condition in enumerate(CONDITIONS)
    for step in (0, 7)
]


@pytest.fixture(scope="session")
def start(tmp_path_factory):
    return Room(tmp_path_factory.mktemp("scarce") / "start").made()


def outcomes(start, folder, command, name):
    plenty = start.copied(folder / "plenty", command)
    before = run(commands(plenty)[command], plenty)
    room = start.copied(folder / "scarce", command)
    outcome = run(commands(room)[command], room, CONDITIONS[name])
    plain = [
        one._replace(out=one.out.replace(str(place.folder), ""))
        for one, place in ((outcome, room), (before, plenty))
    ]
    return wrong(command, name, *plain, room)


@pytest.mark.parametrize(("command", "name"), PAIRS)
def test_a_command_on_a_scarce_machine(start, tmp_path, command, name):
    assert outcomes(start, tmp_path, command, name) is None


def test_what_is_listed_is_listed_in_the_same_order_each_time(tmp_path):
    """Python's hashes are others in each run: no order may come of them."""
    file = tmp_path / "ferry.outgrowth.json"
    save(ferry_line(), file)
    room = Room(tmp_path)
    for command in (("review", str(file), "--json"), ("measure", str(file), "--screen", "Booking")):
        texts = {
            subprocess.run(
                [sys.executable, "-m", "outgrowth", *command],
                env={"PYTHONHASHSEED": seed, "PYTHONPATH": str(ROOT), "HOME": str(room.folder)},
                capture_output=True,
                check=False,
            ).stdout
            for seed in "1234"
        }
        assert len(texts) == 1 and texts != {b""}
