"""The team's library on the command line: for scripts, build servers and git itself.

outgrowth new-library ADDRESS --name NAME                             makes a library
outgrowth publish FILE --library ADDRESS --component NAME --message TEXT [--dry-run]
outgrowth connect FILE [--library ADDRESS]   lets this machine ask a file's libraries
outgrowth outdated FILE                      finds (1) parts that have newer versions
outgrowth take-in FILE [--component NAME]    takes newer versions, or first ones
outgrowth diff A B [--json | --html DIR]     finds (1) what differs, in words and pictures
outgrowth merge BASE OURS THEIRS             a merge driver; finds (1) where both disagree

Where two disagree, publish, take-in and merge are told what counts by --ours, --theirs or
--pick FILE.
"""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterable, Iterator, Sequence
from contextlib import ExitStack, closing, contextmanager
from pathlib import Path

from outgrowth.cli.exit_codes import ExitCode, Subcommands, WrongUse, line, remark
from outgrowth.cli.owners import owner_named
from outgrowth.cli.picking import add_picks, picks_for, tell_open
from outgrowth.cli.writing import written
from outgrowth.core.document.records import Document
from outgrowth.core.exchange import native
from outgrowth.core.exchange.native.disk import read_chosen, save_file
from outgrowth.core.exchange.output import DIFFERENCES
from outgrowth.core.refusal import quoted
from outgrowth.core.team.address import shown_address
from outgrowth.core.team.connection import Connection, connect, make_library
from outgrowth.core.team.merge import Disagreement, Picks
from outgrowth.core.team.merge_files import merge_documents, merge_files
from outgrowth.core.team.publishing import PublishingPlan, Request, plan, publish, published
from outgrowth.core.team.report import page
from outgrowth.core.team.store import NotConnected, NothingNew, PickNeeded, untold
from outgrowth.core.team.taking import TakenIn, news, take_in
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS
from outgrowth.workspace.connected_libraries import not_connected_text
from outgrowth.workspace.libraries import connected_libraries, copies_folder, signature
from outgrowth.workspace.views.comparison import compared
from outgrowth.workspace.views.difference_text import DifferenceWords, plan_wording


def add_commands(commands: Subcommands) -> None:
    """Adds the commands of this file to those of the program."""
    new_library = commands.add_parser("new-library", help="make a library for a team")
    new_library.add_argument("address", help="a new folder, or the address of an empty repository")
    new_library.add_argument("--name", required=True)
    new_library.set_defaults(act=_new_library)
    out = commands.add_parser("publish", help="put components of a file into a library")
    out.add_argument("file", type=Path)
    out.add_argument("--library", required=True, metavar="ADDRESS")
    out.add_argument("--component", action="append", required=True, metavar="NAME")
    out.add_argument("--message", required=True, help="what it is for")
    out.add_argument("--level", choices=("patch", "minor", "major"), help="other than proposed")
    out.add_argument("--dry-run", action="store_true", help="say what it would do (1), no more")
    add_picks(out, "the file", "the library")
    out.set_defaults(act=_publish)
    connection = commands.add_parser(
        "connect", help="let this machine ask the libraries that a file names"
    )
    connection.add_argument("file", type=Path)
    connection.add_argument("--library", metavar="ADDRESS", help="only the one at this address")
    connection.set_defaults(act=_connect)
    old = commands.add_parser("outdated", help="list parts that have newer versions")
    old.add_argument("file", type=Path)
    old.add_argument("--json", action="store_true")
    old.set_defaults(act=_outdated)
    take_in_parser = commands.add_parser("take-in", help="take newer versions of parts into a file")
    take_in_parser.add_argument("file", type=Path)
    take_in_parser.add_argument("--library", metavar="ADDRESS", help="where to take new parts from")
    take_in_parser.add_argument("--component", action="append", default=[], metavar="NAME")
    add_picks(take_in_parser, "the file", "the library")
    take_in_parser.set_defaults(act=_take_in)
    diff = commands.add_parser("diff", help="what differs between two files")
    diff.add_argument("before", type=Path, metavar="A")
    diff.add_argument("after", type=Path, metavar="B")
    how = diff.add_mutually_exclusive_group()
    how.add_argument("--json", action="store_true")
    how.add_argument("--html", type=Path, metavar="DIR", help="a page with pictures")
    diff.add_argument("--overwrite", action="store_true", help="a page edited by hand, too")
    diff.set_defaults(act=_diff)
    merged = commands.add_parser("merge", help="merge two files that began as one")
    for name in ("base", "ours", "theirs"):
        merged.add_argument(name, type=Path, metavar=name.upper())
    merged.add_argument("--path", default="", help="its name in the repository (%%P)")
    merged.add_argument("-o", "--out", type=Path, help="where to write; usually over OURS")
    add_picks(merged, "OURS", "THEIRS")
    merged.set_defaults(act=_merge)


def _new_library(arguments: argparse.Namespace) -> ExitCode:
    name = arguments.name
    with closing(make_library(arguments.address, name, signature(), copies_folder())) as connection:
        print(f"Made “{name}” at {connection.address}")
    return ExitCode.DONE


# --- publishing and taking in ----------------------------------------------------------------


def _publish(arguments: argparse.Namespace) -> ExitCode:
    document, disk_state = native.load_with_state(arguments.file)
    names = arguments.component
    ids = tuple(owner_named(document.in_order(), name, "component").id for name in names)
    levels = dict.fromkeys(ids, arguments.level) if arguments.level else {}
    with _opened([arguments.library]) as (connection,):
        state = connection.refreshed(untold)
        request = Request(document, ids, connection.bases(document, state), levels)
        going = plan(request, state)
        words = DifferenceWords(document, state.document)
        request = request._replace(picks=picks_for(arguments, going.disagreements, words))
        left = tell_open(going.disagreements, words, request.picks)
        if arguments.dry_run:
            return _would_publish(plan(request, state) if request.picks else going, left)
        try:
            publication = publish(
                request, connection.reader, arguments.message, signature(), plan_wording, untold
            )
        except NothingNew as nothing_new:
            remark(str(nothing_new))
            return ExitCode.DONE
    native.save(published(document, publication, request), arguments.file, disk_state)
    connected_libraries().add(arguments.file, connection.address)
    for part in publication.parts:
        print(f"{quoted(part.name)} {part.version}" + (f" (was {part.old})" if part.old else ""))
    return ExitCode.DONE


def _would_publish(going: PublishingPlan, left: list[str]) -> ExitCode:
    """Says what publishing would do."""
    for part in going.parts:
        was = f" (was {part.old})" if part.old else ""
        why = ", which goes along" if part.along else ""
        print(f"would publish {quoted(part.name)} {part.version}{was}{why}")
        for difference in part.changes if part.old else ():
            print(f"  {line(plan_wording(going, difference))}")
    for path in going.tokens:
        what = "change" if path in going.state.document.tokens else "add"
        print(f"would {what} the token {line(path)}")
    if left:
        remark("Nothing is published before that is picked: --ours, --theirs or --pick.")
    if not going.parts and not going.tokens:
        remark("The library has all of this already; there is nothing to publish.")
    return ExitCode.FOUND if going.parts or going.tokens or left else ExitCode.DONE


def _connect(arguments: argparse.Namespace) -> ExitCode:
    libraries = native.load(arguments.file).sharing.libraries
    if arguments.library is not None:
        libraries = tuple(one for one in libraries if one.address == arguments.library)
        if not libraries:
            raise WrongUse(
                f"The file names no library at {quoted(arguments.library, 120)}. Nothing was "
                "connected."
            )
    for library in libraries:
        connected_libraries().add(arguments.file, library.address)
        print(f"{line(library.name)}: connected to {shown_address(library.address)}")
    if not libraries:
        remark("The file names no library.")
    return ExitCode.DONE


@contextmanager
def _opened(addresses: Iterable[str]) -> Iterator[list[Connection]]:
    """Libraries at these addresses, let go of at the end."""
    with ExitStack() as stack:
        yield [
            stack.enter_context(closing(connect(address, copies_folder()))) for address in addresses
        ]


def _connected_addresses(document: Document, file: Path) -> list[str]:
    """Where the file's libraries are. Raises NotConnected where nobody on this machine connected
    the file to one of them."""
    known = connected_libraries()
    for library in document.sharing.libraries:
        if not known.has(file, library.address):
            raise NotConnected(
                f"{not_connected_text(library)} If you know that place: outgrowth connect FILE."
            )
    return [library.address for library in document.sharing.libraries]


def _outdated(arguments: argparse.Namespace) -> ExitCode:
    document = native.load(arguments.file)
    outdated_parts = []
    with _opened(_connected_addresses(document, arguments.file)) as connections:
        for connection in connections:
            state = connection.refreshed(untold)
            for part in news(document, state):
                outdated_parts.append(
                    {
                        "component": part.name,
                        "here": part.old,
                        "there": part.new,
                        "in": state.library.name,
                    }
                )
    if arguments.json:
        print(json.dumps(outdated_parts, indent=1, ensure_ascii=False))
    else:
        for outdated_part in outdated_parts:
            print("{component} {here} → {there}, in {in}".format(**outdated_part))
    return ExitCode.FOUND if outdated_parts else ExitCode.DONE


def _take_in(arguments: argparse.Namespace) -> ExitCode:
    before, disk_state = native.load_with_state(arguments.file)
    names = list(arguments.component)
    document = before
    addresses = [arguments.library] if arguments.library else None
    addresses = addresses or _connected_addresses(before, arguments.file)
    with _opened(addresses) as libraries:
        for connection in libraries:
            document = _taken_from(connection, document, arguments)
    components = list(document.in_order())
    missing = [name for name in names if not any(c.is_called(name) for c in components)]
    if missing:
        raise WrongUse(f"No library of this file has “{missing[0]}”. Nothing was taken in.")
    if document is not before:
        native.save(document, arguments.file, disk_state)
    for connection in libraries:  # somebody named the address, or had connected it
        connected_libraries().add(arguments.file, connection.address)
    return ExitCode.DONE


def _taken_from(
    connection: Connection, document: Document, arguments: argparse.Namespace
) -> Document:
    """The document with parts of one library: those called so, else all that are newer."""
    state = connection.refreshed(untold)
    names = arguments.component
    if names:
        ids = [c.id for c in state.document.in_order() if any(map(c.is_called, names))]
    else:
        ids = [part.component for part in news(document, state)]
    if not ids:
        return document
    bases = connection.bases(document, state)
    taken_in = take_in(document, state, ids, bases)
    if taken_in.disagreements:
        words = DifferenceWords(document, state.document)
        picks = picks_for(arguments, taken_in.disagreements, words)
        if tell_open(taken_in.disagreements, words, picks):
            raise PickNeeded(
                "Open the file and pick, or say --ours, --theirs or --pick; nothing was taken in."
            )
        taken_in = take_in(document, state, ids, bases, picks)
    _print_taken(taken_in)
    return taken_in.document


def _print_taken(taken_in: TakenIn) -> None:
    for part in taken_in.parts:
        print(f"{quoted(part.name)} {part.old or 'new'} → {part.new}")
    for lost in taken_in.set_aside:
        owner = taken_in.document.owner(lost.owner)
        print(f"set aside on {owner.name if owner else lost.owner}: {lost.description}")


# --- comparing and merging -------------------------------------------------------------------


def _diff(arguments: argparse.Namespace) -> ExitCode:
    before, after = native.load(arguments.before), native.load(arguments.after)
    chapters = compared(before, after, shipped(FONTS))
    differ = ExitCode.FOUND if chapters else ExitCode.DONE
    if arguments.html:
        title = f"{arguments.before.name} → {arguments.after.name}"
        files = {"index.html": page(title, chapters, before, after).encode()}
        written(arguments.html, files, arguments.overwrite, DIFFERENCES)
        print(arguments.html / "index.html")
        return differ
    if arguments.json:
        record = [
            {
                "name": chapter.name,
                "level": chapter.level,
                "differs": chapter.lines,
                "looks_different": [pair.name for pair in chapter.pairs],
            }
            for chapter in chapters
        ]
        print(json.dumps(record, indent=1, ensure_ascii=False))
        return differ
    for chapter in chapters:
        print(chapter.name + (f" ({chapter.level})" if chapter.level else ""))
        for difference in chapter.lines:
            print(f"  {difference}")
        names = [pair.name for pair in chapter.pairs if pair.name]
        if names:
            print(f"  looks different: {'; '.join(names)}")
    return differ


def _merge(arguments: argparse.Namespace) -> ExitCode:
    out = arguments.out or arguments.ours
    if any(path.is_dir() for path in (arguments.base, arguments.ours, arguments.theirs)):
        return _merge_folders(arguments, out)
    name = arguments.path or arguments.ours.name
    base, ours, theirs = (
        read_chosen(path) for path in (arguments.base, arguments.ours, arguments.theirs)
    )
    merged = merge_files(base, ours, theirs, name)
    words = DifferenceWords(merged.ours, merged.theirs)
    picks, left = _picked(arguments, merged.disagreements, words)
    if picks:
        merged = merge_files(base, ours, theirs, name, picks)
    save_file(out, merged.data)
    return _picks_left(left, name)


def _merge_folders(arguments: argparse.Namespace, out: Path) -> ExitCode:
    base, ours, theirs = (
        native.load(path) for path in (arguments.base, arguments.ours, arguments.theirs)
    )
    merged = merge_documents(base, ours, theirs)
    words = DifferenceWords(ours, theirs)
    picks, left = _picked(arguments, merged.disagreements, words)
    if picks:
        merged = merge_documents(base, ours, theirs, picks)
    native.save(merged.document, out)
    return _picks_left(left, out.name)


def _picked(
    arguments: argparse.Namespace, disagreements: Sequence[Disagreement], words: DifferenceWords
) -> tuple[Picks, int]:
    """What was picked, and how many disagreements are left open: told where some are picked."""
    picks = picks_for(arguments, disagreements, words)
    return picks, len(tell_open(disagreements, words, picks) if picks else disagreements)


def _picks_left(count: int, name: str) -> ExitCode:
    if not count:
        return ExitCode.DONE
    count_text = "one thing" if count == 1 else f"{count} things"
    print(f"“{quoted(name)}”: {count_text} to pick. Open it in Outgrowth; ours stands for now.")
    return ExitCode.FOUND
