"""Looking again on the command line, for people and build servers.

outgrowth review FILE [--json] [--only contrast,…]
outgrowth trials FILE [--component NAME | --screen NAME] [-o SHEET.png] [--json]
                 [--contents none,growth,…] [--rooms own,width-320,…] [--rows FILE.csv]
"""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TypeVar, cast

from outgrowth.cli.exit_codes import ExitCode, Subcommands, WrongUse, line, remark
from outgrowth.cli.owners import add_owner_arguments, layout_of, owner_asked
from outgrowth.cli.reading import read_document
from outgrowth.core.document.records import Component, Document, Owner
from outgrowth.core.document.variants import condition_text, default_variant
from outgrowth.core.exchange.native.disk import save_file
from outgrowth.core.refusal import quoted
from outgrowth.core.review.finding import SUBJECTS, ReviewSubject
from outgrowth.core.review.report import (
    is_wrong,
    review_json,
    standing,
    trials_json,
)
from outgrowth.core.review.reviewer import Reviewer
from outgrowth.core.trials.contents import AS_IS, SHIPPED, TrialContent, usual_contents
from outgrowth.core.trials.rooms import ALL_ROOMS, OWN_ROOM, Room, rooms_for, wide
from outgrowth.core.trials.sheet import (
    Trial,
    TrialCell,
    Trials,
    all_trials,
    trial_of,
    used_widths,
    widths_of_rooms,
)
from outgrowth.workspace.rows_file import formulas_text, read_rows

_Named = TypeVar("_Named", TrialContent, Room)


def add_commands(commands: Subcommands) -> None:
    """Adds the commands of this file to those of the program."""
    looked = commands.add_parser("review", help="list what a careful colleague would point at")
    looked.add_argument("file", type=Path)
    looked.add_argument("--json", action="store_true", help="as JSON instead of lines")
    looked.add_argument("--only", metavar="SUBJECTS", help=f"some of {', '.join(SUBJECTS)}")
    looked.set_defaults(act=_review)
    tried = commands.add_parser("trials", help="draw parts with real content, and what breaks")
    add_owner_arguments(tried)
    tried.add_argument("-o", "--out", type=Path, metavar="PNG", help="where the sheet is drawn")
    tried.add_argument("--json", action="store_true", help="as JSON instead of lines")
    tried.add_argument("--contents", metavar="SOME", help=_ids_of(SHIPPED))
    tried.add_argument("--rooms", metavar="SOME", help=_ids_of(ALL_ROOMS))
    tried.add_argument("--rows", type=Path, metavar="CSV", help="contents of your own, or JSON")
    tried.set_defaults(act=_trials)


def _ids_of(options: Sequence[TrialContent] | Sequence[Room]) -> str:
    return f"some of {', '.join(item.id for item in options)}".replace("%", "%%")


def _found(anything: bool) -> ExitCode:
    return ExitCode.FOUND if anything else ExitCode.DONE


# --- review -------------------------------------------------------------------------------------


def _review(arguments: argparse.Namespace) -> ExitCode:
    """Finds where something is wrong by its source and not waived."""
    document = read_document(arguments.file)
    only = _subjects(arguments.only)
    # Here and not above: a picture's colours need Qt, which takes long to import.
    from outgrowth.app.paint.pixels import pixels_of

    findings = Reviewer(layout_of(document), pixels_of(document.assets)).findings(document, only)
    if arguments.json:
        print(json.dumps(review_json(document, findings), indent=1, ensure_ascii=False))
        return _found(is_wrong(document, findings))
    stand = standing(document, findings)
    if not stand:
        print("Nothing that a colleague would point at.")
    for finding in stand:
        owner = document.owner(finding.owner)
        place = owner.name if owner is not None else "the file"
        mend = f" Mend: {finding.mend.title}." if finding.mend is not None else ""
        mend += "".join(f" Or: {other.title}." for other in finding.others)
        print(line(f"{finding.sure}: {place}: {finding.text} ({finding.source}){mend}"))
    count = len(findings) - len(stand)
    if count:
        print(f"{count} more {'is' if count == 1 else 'are'} waived, with a reason.")
    return _found(is_wrong(document, findings))


def _subjects(only: str | None) -> tuple[ReviewSubject, ...]:
    chosen = tuple(only.split(",")) if only else SUBJECTS
    for subject in chosen:
        if subject not in SUBJECTS:
            raise WrongUse(
                f"“{quoted(subject, 40)}” is no subject of a review: {', '.join(SUBJECTS)}."
            )
    return cast(tuple[ReviewSubject, ...], chosen)


# --- trials -------------------------------------------------------------------------------------


def _trials(arguments: argparse.Namespace) -> ExitCode:
    """Finds where a trial breaks that the file keeps of the part."""
    document = read_document(arguments.file)
    owner = owner_asked(document, arguments)
    layout = layout_of(document)
    trials = Trials(layout)
    contents = _chosen(SHIPPED, arguments.contents, "content")
    if not arguments.contents:
        contents = usual_contents(document, owner)
    if arguments.rows is not None:
        rows = read_rows(arguments.rows)
        contents = (*(contents if arguments.contents else (AS_IS,)), *rows)
        if formulas_text(rows):
            remark(formulas_text(rows))
    rooms = _chosen(ALL_ROOMS, arguments.rooms, "room") if arguments.rooms else rooms_for(document)
    if not arguments.rooms and isinstance(owner, Component):
        used = {*used_widths(document, owner, layout), *widths_of_rooms(owner, layout)}
        rooms = (*rooms, *(wide(width) for width in sorted(used)))
    trials_asked = all_trials(document, owner, contents, rooms)
    cells = [cell for cell in trials.cells(document, owner, trials_asked) if cell is not None]
    usual = default_variant(owner) if isinstance(owner, Component) else trials_asked[0].variant
    narrowest = trials.narrowest(document, owner, Trial(usual, AS_IS, OWN_ROOM))
    if arguments.out is not None:
        _draw(document, owner, cells, arguments.out)
    if arguments.json:
        report = trials_json(document, owner, cells, narrowest)
        print(json.dumps(report, indent=1, ensure_ascii=False))
    else:
        _print_breaks(owner, cells, narrowest)
    return _found(_kept_breaks(document, owner, trials))


def _chosen(options: tuple[_Named, ...], names: str | None, what: str) -> tuple[_Named, ...]:
    if not names:
        return options
    by_id = {item.id: item for item in options}
    chosen = names.split(",")
    for name in chosen:
        if name not in by_id:
            raise WrongUse(f"“{quoted(name, 40)}” is no {what}: {', '.join(by_id)}.")
    return tuple(by_id[name] for name in chosen)


def _print_breaks(owner: Owner, cells: list[TrialCell], narrowest: float) -> None:
    for cell in cells:
        variant, content, room = cell.trial
        name = condition_text(owner, variant) if isinstance(owner, Component) else owner.name
        for item in cell.new:
            print(line(f"{name}; {content.title}; {room.title}: {item.text}"))
    failing = sum(1 for cell in cells if cell.new)
    print(f"{len(cells):,} were tried, {failing:,} break. Narrowest that works: {narrowest:g} px.")


def _kept_breaks(document: Document, owner: Owner, trials: Trials) -> bool:
    for check in document.keeping.checks:
        trial = trial_of(document, check) if check.owner == owner.id else None
        cell = trials.cell(document, *trial) if trial is not None else None
        if cell is not None and cell.new:
            return True
    return False


def _draw(document: Document, owner: Owner, cells: list[TrialCell], out: Path) -> None:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    # Here and not above: only a picture needs Qt, which takes long to import.
    from PyQt6.QtGui import QGuiApplication

    from outgrowth.app.paint.trial_sheet import sheet_picture
    from outgrowth.app.shot import encoded

    app = QGuiApplication.instance() or QGuiApplication(sys.argv[:1])
    assert app is not None
    image = sheet_picture(document, owner, cells)
    save_file(out, encoded(image))
