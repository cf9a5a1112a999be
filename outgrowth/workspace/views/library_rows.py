"""The rows of the Library: components by folder, screens by page."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple

from outgrowth.core.document.records import Document
from outgrowth.core.team.library import LibraryState
from outgrowth.core.team.taking import news
from outgrowth.workspace.team import LibraryView
from outgrowth.workspace.text_search import has_words

NO_FOLDER = "This file"
"""The heading over what lies in no folder."""


class LibraryRow(NamedTuple):
    """One row: a folder's heading (no owner), a component or a screen.

    library  the library whose part it is; "" for this file's own
    note     what stands under the name, in small letters
    newer    that the library has a newer version than this file
    offline  of a library's heading: that it is not seen as it is now
    """

    owner: str
    name: str
    folder: bool = False
    screen: bool = False
    library: str = ""
    note: str = ""
    newer: bool = False
    offline: bool = False


def library_rows(document: Document, screens: bool, search: str = "") -> list[LibraryRow]:
    """The rows of one tab; with a search, the owners whose names have it, without headings."""
    rows = screen_rows(document) if screens else component_rows(document)
    if not search.strip():
        return rows
    return [row for row in rows if row.owner and has_words(row.name, search)]


def component_rows(document: Document) -> list[LibraryRow]:
    """Components under their folders (what stands before the last `/` of a name)."""
    rows = _foldered([(c.id, c.name) for c in document.in_order()], screen=False)
    return [row._replace(note=_origin_text(document, row.owner)) for row in rows]


def _origin_text(document: Document, component_id: str) -> str:
    """That a part was taken in, and at which version."""
    origin = document.sharing.origins.get(component_id)
    return f"{origin.version} · team" if origin is not None and not origin.own else ""


def team_rows(
    document: Document, libraries: Iterable[LibraryView], search: str = ""
) -> list[LibraryRow]:
    """The parts of the file's libraries, each under its library and its folder."""
    rows = [row for view in libraries for row in _rows_of_library(document, view)]
    if search.strip():
        return [row for row in rows if row.owner and has_words(row.name, search)]
    return rows


def _rows_of_library(document: Document, view: LibraryView) -> Iterator[LibraryRow]:
    library = view.library
    # What is not connected is told above the list, with the way to connect it.
    offline = bool(view.problem) and view.connected
    yield LibraryRow(
        "", library.name, folder=True, library=library.id, note=view.problem, offline=offline
    )
    if view.state is None:
        return
    newer = {part.component for part in news(document, view.state)}
    source = view.state.document
    for row in _foldered([(c.id, c.name) for c in source.in_order()], screen=False):
        if row.owner:
            note = _version_text(document, view.state, row.owner)
            row = row._replace(library=library.id, note=note, newer=row.owner in newer)
        yield row


def _version_text(document: Document, state: LibraryState, component_id: str) -> str:
    origin = document.sharing.origins.get(component_id)
    version = state.version(component_id)
    if origin is None or component_id not in document.components:
        return version
    if version != origin.version:
        return f"{version} · {origin.version} here"
    return f"{version} · {'ours' if origin.own else 'in use'}"


def screen_rows(document: Document) -> list[LibraryRow]:
    """Screens under their pages, which are folders too; none is named where there are none."""
    rows = _foldered([(s.id, s.name) for s in document.screens_in_order()], screen=True)
    folders = [row for row in rows if row.folder]
    return rows if len(folders) > 1 else [row for row in rows if not row.folder]


def folder_at(rows: Sequence[LibraryRow], number: int) -> str:
    """The folder that a row lies in; "" for none."""
    heads = [row.name for row in rows[: number + 1] if row.folder]
    return heads[-1] if heads and heads[-1] != NO_FOLDER else ""


def _foldered(owners: list[tuple[str, str]], screen: bool) -> list[LibraryRow]:
    folders: dict[str, list[LibraryRow]] = {}
    for owner, path in owners:
        folder, _, name = path.rpartition("/")
        folders.setdefault(folder or NO_FOLDER, []).append(LibraryRow(owner, name, screen=screen))
    rows = []
    for folder in sorted(folders):
        rows += [LibraryRow("", folder, folder=True), *folders[folder]]
    return rows
