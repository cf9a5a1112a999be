"""`outgrowth review`: what a careful colleague would point at, for people and build servers."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Protocol, cast

from outgrowth.core.document.refusal import Refusal
from outgrowth.core.exchange.native import load
from outgrowth.core.layout import Layout
from outgrowth.core.review.colleague import review
from outgrowth.core.review.finding import SUBJECTS, Finding, Subject
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS

COMMANDS = ("review",)


class _Commands(Protocol):
    """What the program's commands are added to."""

    def add_parser(self, name: str, *, help: str) -> argparse.ArgumentParser: ...  # argparse's word


class _NoSubject(Refusal):
    """A subject that is none; the message is a sentence."""


def add_commands(commands: _Commands) -> None:
    """Adds the command to those of the program."""
    looked = commands.add_parser("review", help="list what a careful colleague would point at")
    looked.add_argument("file", type=Path)
    looked.add_argument("--json", action="store_true", help="as JSON instead of lines")
    looked.add_argument("--only", metavar="SUBJECTS", help=f"some of {', '.join(SUBJECTS)}")
    looked.set_defaults(act=_review)


def _review(arguments: argparse.Namespace) -> int:
    """Exit code 1 where something is wrong by its source."""
    document = load(arguments.file)
    findings = review(document, Layout(Typesetter(shipped(FONTS))), _subjects(arguments.only))
    if arguments.json:
        print(json.dumps([_json(finding) for finding in findings], indent=1, ensure_ascii=False))
        return int(any(finding.sure == "error" for finding in findings))
    for finding in findings:
        owner = document.owner(finding.owner)
        place = owner.name if owner is not None else "the file"
        mend = f" Mend: {finding.mend.title}." if finding.mend is not None else ""
        print(f"{finding.sure}: {place}: {finding.text} ({finding.source}){mend}")
    return int(any(finding.sure == "error" for finding in findings))


def _subjects(only: str | None) -> tuple[Subject, ...]:
    chosen = tuple(only.split(",")) if only else SUBJECTS
    for subject in chosen:
        if subject not in SUBJECTS:
            raise _NoSubject(f"“{subject}” is no subject of a review: {', '.join(SUBJECTS)}.")
    return cast(tuple[Subject, ...], chosen)


def _json(finding: Finding) -> dict[str, object]:
    facts = finding._asdict() | {"node": list(finding.node)}
    facts["mend"] = finding.mend.title if finding.mend is not None else None
    return facts
