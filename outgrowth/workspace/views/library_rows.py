"""The rows of the Library: components by folder, screens by page."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from outgrowth.core.document.records import Document
from outgrowth.workspace.text_search import has_words

NO_FOLDER = "This file"
"""The heading over what lies in no folder."""


class LibraryRow(NamedTuple):
    """One row: a folder's heading (no owner), a component or a screen."""

    owner: str
    name: str
    folder: bool = False
    screen: bool = False


def library_rows(document: Document, screens: bool, search: str = "") -> list[LibraryRow]:
    """The rows of one tab; with a search, the owners whose names have it, without headings."""
    rows = screen_rows(document) if screens else component_rows(document)
    if not search.strip():
        return rows
    return [row for row in rows if row.owner and has_words(row.name, search)]


def component_rows(document: Document) -> list[LibraryRow]:
    """Components under their folders (what stands before the last `/` of a name)."""
    return _foldered([(c.id, c.name) for c in document.in_order()], screen=False)


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
