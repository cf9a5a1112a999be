"""What the bench of words lists: where what is looked for stands, and what would stand there."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.records import Component, Document, Owner
from outgrowth.core.document.sentences import node_named
from outgrowth.core.document.values import plain
from outgrowth.core.edits.words import Search, Stated, found, spans

# Places that are listed: more would hold up each letter that is typed, and nobody reads them.
_MOST_ROWS = 1_000
# Letters that are shown around a match; the rest of a long text is left out.
_AROUND = 28


class Piece(NamedTuple):
    """A stretch of shown text, and whether it is what was looked for."""

    text: str
    matched: bool


class WordRow(NamedTuple):
    """One place: which part's words, and the words themselves. `fixed` says why they cannot be
    replaced here, "" if they can."""

    stated: Stated
    owner: str
    part: str
    pieces: tuple[Piece, ...]
    matches: int
    fixed: str


def word_rows(document: Document, search: Search) -> tuple[list[WordRow], int]:
    """The places, by their owners in the file's order, and how many more there are than can be
    looked through."""
    places = found(document, search)
    rows = []
    for stated in places[:_MOST_ROWS]:
        owner = document.owner(stated.owner)
        if owner is not None:
            rows.append(_row(document, owner, stated, search))
    return rows, max(len(places) - _MOST_ROWS, 0)


def _row(document: Document, owner: Owner, stated: Stated, search: Search) -> WordRow:
    text = plain(stated.content)
    matches = spans(search, text)
    read_only = document.sharing.read_only(owner.id)
    fixed = "comes from a library and is read-only here" if read_only else ""
    name = owner.short_name
    part = _part_name(document, owner, stated)
    return WordRow(stated, name, part, _pieces(text, matches), len(matches), fixed)


def _part_name(document: Document, owner: Owner, stated: Stated) -> str:
    prop = owner.property(stated.property) if isinstance(owner, Component) else None
    if not stated.node and prop is not None:
        return f"{prop.name}, as it is at first"
    return node_named(document, owner, stated.node)


def _pieces(text: str, matches: list[tuple[int, int]]) -> tuple[Piece, ...]:
    """The words on one line, with what is far from every match left out."""
    pieces: list[Piece] = []
    end_before = 0
    for begin, end in matches:
        pieces += [
            Piece(_short(text[end_before:begin], end_before > 0, True), False),
            Piece(text[begin:end], True),
        ]
        end_before = end
    pieces.append(Piece(_short(text[end_before:], True, False), False))
    return tuple(Piece(p.text.replace("\n", " "), p.matched) for p in pieces if p.text)


def _short(text: str, after: bool, before: bool) -> str:
    """Text between matches, without its middle, or its far end, where it is long."""
    room = _AROUND * (after + before)
    if len(text) <= room:
        return text
    head = text[:_AROUND] if after else ""
    return f"{head}…{text[-_AROUND:] if before else ''}"


def found_text(rows: list[WordRow], more: int, searched: bool) -> str:
    """What was found, in words."""
    if not searched:
        return ""
    if not rows:
        return "No words of this file say that."
    owners = len({row.stated.owner for row in rows})
    matches = sum(row.matches for row in rows)
    places = "1 place" if matches == 1 else f"{matches:,} places"
    left = f"; {more:,} more are listed once these are done" if more else ""
    return f"{places} in {owners:,} {'part' if owners == 1 else 'parts'} and screens{left}"


def replace_text(matches: int, replacement: str) -> str:
    """What the button says that replaces so many."""
    act = "Replace" if replacement else "Take away"
    if not matches:
        return act
    return f"{act} in 1 place" if matches == 1 else f"{act} in {matches:,} places"
