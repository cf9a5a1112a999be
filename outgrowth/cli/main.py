"""Finds the command that is asked for, and ends with the code of `exit_codes`."""

from __future__ import annotations

import argparse
import sys

from outgrowth.cli import drawing, export, review, team, window
from outgrowth.cli.exit_codes import Parser, reported
from outgrowth.cli.streams import standard_streams
from outgrowth.core.refusal import Refusal, quoted

_FAMILIES = (window, drawing, export, review, team)


def main(argv: list[str] | None = None) -> int:
    """Runs one command. Returns its exit code; wrong options raise SystemExit with theirs."""
    given = sys.argv[1:] if argv is None else argv
    try:
        with standard_streams():
            return _run(given)
    except Refusal as problem:  # what it said is lost
        return reported(problem)


def _run(given: list[str]) -> int:
    parser, names = _parser()
    given = given or ["open"]
    # A file alone is opened.
    if given[0] not in names and not given[0].startswith("-"):
        given = ["open", *given]
    arguments = parser.parse_args(given)
    try:
        return int(arguments.act(arguments))
    except Refusal as problem:
        return reported(problem)
    # What a machine does not have is not for each command to expect.
    except MemoryError:
        return reported(Refusal("There is not enough memory for this. Nothing was changed."))
    except (ImportError, OSError) as problem:
        return reported(Refusal(f"The machine does not allow it: {_reason(problem)}."))


def _reason(problem: ImportError | OSError) -> str:
    reason = getattr(problem, "strerror", None) or str(problem).partition("\n")[0]
    name = getattr(problem, "filename", None)
    return f"{reason} (“{quoted(str(name), 120)}”)" if name else reason


def _parser() -> tuple[argparse.ArgumentParser, frozenset[str]]:
    """The parser of all commands, and their names."""
    parser = Parser(prog="outgrowth", description="Reusable interface parts.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND or FILE")
    for family in _FAMILIES:
        family.add_commands(commands)
    return parser, frozenset(commands.choices)
