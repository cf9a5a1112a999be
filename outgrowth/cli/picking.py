"""Which side counts where two disagree, said on the command line: ours, theirs, or what a file
picks for each.

The file is a JSON object: what is disagreed about, in the words that the command uses, and “ours”
or “theirs”. Where there is no such file, it is written with nothing picked, to be filled in.
"""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterable
from pathlib import Path
from typing import cast

from outgrowth.cli.exit_codes import WrongUse, line, remark
from outgrowth.core.exchange.native.disk import called, read_chosen, save_file
from outgrowth.core.refusal import quoted
from outgrowth.core.team.facts import FactKey
from outgrowth.core.team.merge import Disagreement, OneSide, Picks, Side
from outgrowth.workspace.views.difference_text import DifferenceWords

_LARGEST = 4 * 1024 * 1024


def add_picks(parser: argparse.ArgumentParser, ours: str, theirs: str) -> None:
    """Lets a command be told which side counts; `ours` and `theirs` say what these are."""
    how = parser.add_mutually_exclusive_group()
    for side, which in (("ours", ours), ("theirs", theirs)):
        about = f"{which} counts where both disagree"
        how.add_argument(f"--{side}", dest="side", action="store_const", const=side, help=about)
    how.add_argument(
        "--pick",
        type=Path,
        metavar="FILE",
        help="a file that says which counts in each; written, to be filled in, if it isn't there",
    )


def picks_for(
    arguments: argparse.Namespace, disagreements: Iterable[Disagreement], words: DifferenceWords
) -> Picks:
    """What was picked in each disagreement; those that are left open are not in it.

    Raises WrongUse for a file that is no list of picks, or picks what nobody disagrees about;
    FileRefusal.
    """
    if arguments.side is not None:
        return OneSide(arguments.side)
    named = _named(disagreements, words)
    if arguments.pick is None or not named:
        return {}
    if not arguments.pick.exists():
        _write(arguments.pick, named)
        return {}
    picked = _read(arguments.pick)
    unknown = [name for name in picked if name not in named]
    if unknown:
        raise WrongUse(
            f"“{called(arguments.pick)}” picks what nobody disagrees about: "
            f"“{quoted(unknown[0], 120)}”. Nothing was changed."
        )
    return {named[name]: side for name, side in picked.items()}


def tell_open(
    disagreements: Iterable[Disagreement], words: DifferenceWords, picks: Picks
) -> list[str]:
    """Says what is left to pick, a line each, on standard error; the lines."""
    named = _named(disagreements, words)
    left = [name for name, key in named.items() if key not in picks]
    for name in left:
        remark(f"to pick: {line(name)}")
    return left


def _named(disagreements: Iterable[Disagreement], words: DifferenceWords) -> dict[str, FactKey]:
    """Disagreements by the words for them; those that read alike are numbered."""
    named: dict[str, FactKey] = {}
    for disagreement in disagreements:
        text, number = words.disagreement(disagreement), 1
        name = text
        while name in named:
            number += 1
            name = f"{text} ({number})"
        named[name] = disagreement.key
    return named


def _write(path: Path, named: Iterable[str]) -> None:
    text = json.dumps(dict.fromkeys(named, ""), indent=1, ensure_ascii=False)
    save_file(path, text.encode("utf-8", "surrogatepass"))
    remark(f"“{called(path)}” lists what is to be picked: say “ours” or “theirs” for each.")


def _read(path: Path) -> dict[str, Side]:
    data = read_chosen(path, _LARGEST)
    try:
        record = json.loads(data)
    except (ValueError, RecursionError) as problem:
        raise WrongUse(f"“{called(path)}” cannot be read: it is no JSON.") from problem
    sides = ("ours", "theirs", "")
    if not isinstance(record, dict) or any(side not in sides for side in record.values()):
        raise WrongUse(
            f"“{called(path)}” is no list of picks: for each disagreement it says “ours” or "
            "“theirs”."
        )
    return {name: cast(Side, side) for name, side in record.items() if side}
