"""bin/fuzz: runs the generators and prints a line for everything they broke.

bin/fuzz [files|readers|edits|axes|reach|layout|grids|lines|texts|cards|behaviour|window|review|team|rounds|kills|web|rooms|sides|whole|pages|all] [--count N | --seconds S] [--seed N] [--keep FOLDER]
"""

from __future__ import annotations

import argparse
import os
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from tests.fuzz.report import Failure

ROOMS = (
    "files", "readers", "edits", "axes", "reach", "layout", "grids", "lines", "texts", "cards", "behaviour", "window", "review", "team", "rounds", "kills", "web", "rooms", "sides", "whole", "pages",
)  # fmt: skip
_EDITS_A_RUN = 500


def main(argv: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="bin/fuzz", description=__doc__)
    parser.add_argument("what", nargs="?", default="all", choices=(*ROOMS, "all"))
    parser.add_argument("--count", type=int, help="cases of each kind (1,000)")
    parser.add_argument("--seconds", type=float, help="how long each kind may take instead")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--keep", type=Path, default=Path(".fuzz"), help="where examples are kept")
    given = parser.parse_args(argv)
    wanted = ROOMS if given.what == "all" else (given.what,)
    count = given.count or (1_000 if given.seconds is None else 10**9)
    found: dict[str, int] = {}
    for room in wanted:
        began, done = time.monotonic(), 0
        for cases, failure in _RUNS[room](given.seed, count):
            done = cases
            if failure is not None:
                if failure.what not in found:
                    print(failure.line, "·", failure.keep(given.keep), flush=True)
                found[failure.what] = found.get(failure.what, 0) + 1
            if given.seconds is not None and time.monotonic() - began > given.seconds:
                break
        took = time.monotonic() - began
        print(f"{room}: {done:,} cases in {took:.0f} s, seed {given.seed}", file=sys.stderr)
    print(f"{sum(found.values())} failures, {len(found)} distinct", file=sys.stderr)
    return 1 if found else 0


Run = Iterator[tuple[int, Failure | None]]
"""How many cases were done, and one that failed."""


def _edits(seed: int, count: int) -> Run:
    from tests.fuzz.edits import World, begin

    done = 0
    while done < count:
        world = World(seed, begin(seed))
        for n in range(_EDITS_A_RUN):
            for failure in world.step(n):
                yield done, failure
            done += 1
            yield done, None
        seed += 1


def _files(seed: int, count: int) -> Run:
    from tests.fuzz.files import Files
    from tests.fuzz.painting import painter

    with tempfile.TemporaryDirectory() as room:
        done = 0
        while done < count:
            for failure in Files(seed, Path(room), painter()).run(10):
                yield done, failure
            done += 10
            seed += 1
            yield done, None


def _behaviour(seed: int, count: int) -> Run:
    from tests.fuzz.behaviour import Behaviour

    for done in range(1, count + 1):
        for failure in Behaviour(seed).run():
            yield done, failure
        yield done, None
        seed += 1


def _review(seed: int, count: int) -> Run:
    from tests.fuzz.review import Looked

    for done in range(1, count + 1):
        for failure in Looked(seed).run():
            yield done, failure
        yield done, None
        seed += 1


def _reach(seed: int, count: int) -> Run:
    from tests.fuzz.reach import run

    yield from run(seed, count)


def _axes(seed: int, count: int) -> Run:
    from tests.fuzz.axes import run

    yield from run(seed, count)


def _layout(seed: int, count: int) -> Run:
    from tests.fuzz.layout import run

    yield from run(seed, count)


def _grids(seed: int, count: int) -> Run:
    from tests.fuzz.layout import run

    yield from run(seed, count, rich="grids")


def _lines(seed: int, count: int) -> Run:
    from tests.fuzz.layout import run

    yield from run(seed, count, rich="lines")


def _texts(seed: int, count: int) -> Run:
    from tests.fuzz.texts import run

    yield from run(seed, count)


def _cards(seed: int, count: int) -> Run:
    from tests.fuzz.cards import run

    yield from run(seed, count)


def _readers(seed: int, count: int) -> Run:
    from tests.fuzz.readers import readers

    return readers(seed, count)


def _rounds(seed: int, count: int) -> Run:
    from tests.fuzz.rounds import rounds

    return rounds(seed, count)


def _window(seed: int, count: int) -> Run:
    from tests.fuzz.window import presses

    yield from presses(seed, count)


def _kills(seed: int, count: int) -> Run:
    from tests.fuzz import team
    from tests.fuzz.kills import kills

    for (done, failure), (_, other) in zip(
        kills(seed, count), team.kills(seed, count), strict=False
    ):
        yield done, failure or other


def _team(seed: int, count: int) -> Run:
    from tests.fuzz.team import run

    yield from run(seed, count)


def _web(seed: int, count: int) -> Run:
    from tests.fuzz.web import run

    yield from run(seed, count)


def _rooms(seed: int, count: int) -> Run:
    from tests.fuzz.rooms import run

    yield from run(seed, count)


def _sides(seed: int, count: int) -> Run:
    from tests.fuzz.sides import run

    yield from run(seed, count)


def _whole(seed: int, count: int) -> Run:
    from tests.fuzz.whole import run

    yield from run(seed, count)


def _pages(seed: int, count: int) -> Run:
    from tests.fuzz.pages import run

    yield from run(seed, count)


_RUNS = {
    "axes": _axes,
    "kills": _kills,
    "rooms": _rooms,
    "sides": _sides,
    "edits": _edits,
    "files": _files,
    "reach": _reach,
    "layout": _layout,
    "grids": _grids,
    "lines": _lines,
    "texts": _texts,
    "cards": _cards,
    "behaviour": _behaviour,
    "window": _window,
    "readers": _readers,
    "rounds": _rounds,
    "review": _review,
    "team": _team,
    "web": _web,
    "whole": _whole,
    "pages": _pages,
}

if __name__ == "__main__":
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    sys.exit(main())
