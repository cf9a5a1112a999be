"""What a file keeps of Review and Trials: findings waived with a reason, trials that are tried
at every edit. What is about parts that are gone goes with the next of these edits."""

from __future__ import annotations

from collections.abc import Iterable

import msgspec

from outgrowth.core.document.keeping import Keeping, KeptTrial, Waiver
from outgrowth.core.document.records import Document


def waive(document: Document, waivers: Iterable[Waiver]) -> Document:
    """The document with findings waived; one that was waived before has the new reason."""
    new = {waiver.key: waiver for waiver in waivers}
    before = [waiver for waiver in document.keeping.waivers if waiver.key not in new]
    return _with(document, waivers=(*before, *new.values()))


def stand_again(document: Document, keys: Iterable[object]) -> Document:
    """The document in which findings that were waived stand again."""
    again = set(keys)
    left = tuple(w for w in document.keeping.waivers if w.key not in again)
    return _with(document, waivers=left)


def keep_check(document: Document, check: KeptTrial) -> Document:
    """The document with a trial kept."""
    left = (c for c in document.keeping.checks if c.key != check.key)
    return _with(document, checks=(*left, check))


def drop_check(document: Document, key: object) -> Document:
    """The document without a kept trial."""
    return _with(document, checks=tuple(c for c in document.keeping.checks if c.key != key))


def _with(
    document: Document,
    waivers: tuple[Waiver, ...] | None = None,
    checks: tuple[KeptTrial, ...] | None = None,
) -> Document:
    keeping = document.keeping
    waivers = keeping.waivers if waivers is None else waivers
    checks = keeping.checks if checks is None else checks
    after = Keeping(
        tuple(w for w in waivers if not w.owner or document.owner(w.owner) is not None),
        tuple(c for c in checks if document.owner(c.owner) is not None),
        keeping.more,
    )
    return document if after == keeping else msgspec.structs.replace(document, keeping=after)
