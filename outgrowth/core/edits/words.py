"""Words of a whole document: found, and replaced where they were chosen."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator
from typing import NamedTuple

import msgspec

from outgrowth.core.document.records import Component, Document, Owner, Path
from outgrowth.core.document.values import Content, Run, Value, is_content, plain
from outgrowth.core.edits.all_values import revalued_owner, stated_values
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.memo import ByIdentity

Span = tuple[int, int]
"""Where a match begins, and where the text after it does."""


class Search(NamedTuple):
    """What is looked for: letters as they are, in any case unless `cased`; as whole words only
    if `whole`."""

    text: str
    cased: bool = False
    whole: bool = False


class Stated(NamedTuple):
    """Where words are stated: of which owner, at which of its nodes, for which property. Those
    that a component's property has at first stand at no node, under the property's id."""

    owner: str
    node: Path
    property: str
    content: Content


def spans(search: Search, text: str) -> list[Span]:
    """Where a text has what is looked for, without overlaps, from its beginning on."""
    if not search.text:
        return []
    return [match.span() for match in _pattern(search).finditer(text)]


def _pattern(search: Search) -> re.Pattern[str]:
    pattern = re.escape(search.text)
    if search.whole:
        # Not \b: what is looked for may begin or end with a letter of no word.
        pattern = rf"(?<!\w){pattern}(?!\w)"
    return re.compile(pattern, 0 if search.cased else re.IGNORECASE)


def stated_words(document: Document) -> Iterator[Stated]:
    """All words of a document, each once, in the order of its owners and their parts."""
    for owner in document.owners():
        yield from _words_of(owner)


def _of(owner: Owner) -> Iterator[Stated]:
    for node, name, value in stated_values(owner):
        if is_content(value):
            yield Stated(owner.id, node, name, value)
    if isinstance(owner, Component):
        for prop in owner.properties:
            if is_content(prop.default):
                yield Stated(owner.id, (), prop.id, prop.default)


def _each_once(owner: Owner) -> tuple[Stated, ...]:
    return tuple(dict.fromkeys(_of(owner)))


_words_of = ByIdentity(_each_once, 4096)
"""An owner's words, each once: every letter that is typed to look for something asks."""


def found(document: Document, search: Search) -> tuple[Stated, ...]:
    """Everywhere that a document has what is looked for."""
    return tuple(s for s in stated_words(document) if spans(search, plain(s.content)))


def replaced(content: Content, search: Search, replacement: str) -> Content:
    """Words with something else in place of what is looked for; it looks as the first letter
    of what was there."""
    pieces: list[Run] = []
    end_before = 0
    for begin, end in spans(search, plain(content)):
        pieces += _part(content, end_before, begin)
        first = _part(content, begin, end)[0]
        pieces.append(msgspec.structs.replace(first, text=replacement))
        end_before = end
    pieces += _part(content, end_before, len(plain(content)))
    return _joined(pieces)


def _part(content: Content, begin: int, end: int) -> list[Run]:
    """The runs between two places in the text."""
    results, start = [], 0
    for run in content:
        text = run.text[max(begin - start, 0) : max(end - start, 0)]
        if text:
            results.append(msgspec.structs.replace(run, text=text))
        start += len(run.text)
    return results


def _joined(pieces: list[Run]) -> Content:
    """Runs without empty ones, and with neighbours that look the same as one."""
    results: list[Run] = []
    for run in pieces:
        last = results[-1] if results else None
        if last is not None and (last.bold, last.italic) == (run.bold, run.italic):
            results[-1] = msgspec.structs.replace(last, text=last.text + run.text)
        elif run.text:
            results.append(run)
    return tuple(results)


def replace_words(
    document: Document, search: Search, replacement: str, chosen: Collection[Stated]
) -> Document:
    """The document with something else in place of what is looked for, at the chosen places.
    What stands elsewhere, and what is no longer as it was when it was found, stays."""
    places = frozenset(chosen)
    for owner_id in dict.fromkeys(place.owner for place in chosen):
        owner = document.owner(owner_id)
        if owner is not None:
            after = _replaced_in(owner, search, replacement, places)
            document = document if after is owner else with_owner(document, after)
    return document


def _replaced_in(
    owner: Owner, search: Search, replacement: str, places: frozenset[Stated]
) -> Owner:
    def change(node: Path, name: str, value: Value) -> Value:
        if not is_content(value) or Stated(owner.id, node, name, value) not in places:
            return value
        return replaced(value, search, replacement)

    after = revalued_owner(owner, change)
    if not isinstance(after, Component):
        return after
    properties = tuple(
        msgspec.structs.replace(prop, default=change((), prop.id, prop.default))
        for prop in after.properties
    )
    same = properties == after.properties
    return after if same else msgspec.structs.replace(after, properties=properties)
