"""What every command ends with, and how it tells why.

| code | meaning |
|---|---|
| 0 | done, and nothing to point at |
| 1 | something was found (a fault, a newer version, a disagreement), or would change |
| 2 | refused: a file, a folder or a library does not allow it; nothing was changed |
| 3 | wrong use: what was typed can't be understood, or names what is not there |
"""

from __future__ import annotations

import argparse
import sys
from enum import IntEnum
from typing import NoReturn, Protocol

from outgrowth.core.refusal import Refusal, quoted, sentence
from outgrowth.core.team.store import PickNeeded


class ExitCode(IntEnum):
    """The table above."""

    DONE = 0
    FOUND = 1
    REFUSED = 2
    WRONG_USE = 3


class WrongUse(Refusal):
    """What was typed can't be done; the message says what can be typed instead."""


# A longer line in a terminal is no message any more.
_LONGEST_LINE = 2_000


class Parser(argparse.ArgumentParser):
    """argparse's, ending with the code of the table."""

    def error(self, message: str) -> NoReturn:
        """Wrong use, told as argparse tells it."""
        self.print_usage(sys.stderr)
        self.exit(ExitCode.WRONG_USE, f"{self.prog}: {message}\n")


class Subcommands(Protocol):
    """What a family of commands adds itself to."""

    def add_parser(self, name: str, *, help: str) -> argparse.ArgumentParser: ...  # argparse's word


def reported(problem: Refusal) -> ExitCode:
    """Tells on standard error why nothing was done."""
    print(sentence(str(problem), _LONGEST_LINE), file=sys.stderr)
    match problem:
        case WrongUse():
            return ExitCode.WRONG_USE
        case PickNeeded():
            return ExitCode.FOUND
        case _:
            return ExitCode.REFUSED


def remark(text: str) -> None:
    """Tells something beside the result, on standard error."""
    print(line(text), file=sys.stderr)


def line(text: str) -> str:
    """Text from a file as one line of a terminal: printable, and not endless."""
    return quoted(text, _LONGEST_LINE)
