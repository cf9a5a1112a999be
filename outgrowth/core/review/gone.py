"""Cues and rules that name a part, an axis, a value or a screen that is not there.

Source: common practice, none else. Edits refuse to make them; a file from elsewhere may hold them.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

import msgspec

from outgrowth.core.document.cues import Cue
from outgrowth.core.document.records import Component, Document, Owner, Rule
from outgrowth.core.edits import cues
from outgrowth.core.edits.tree.trees import owner_of, with_owner
from outgrowth.core.edits.variants import rules
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding


def gone_cues(document: Document, owner: Owner) -> Iterator[Finding]:
    """Cues that name what is not there, and cues that share an id."""
    before: set[str] = set()
    for n, cue in enumerate(owner.behaviour.cues):
        why = cues.what_is_gone(document, owner, cue)
        if why:
            mend = Mend("remove the cue", partial(_without_cue, owner.id, n))
            yield finding("cue-names-gone", owner.id, cue.node, why, mend, f"{cue.id} {n}")
        if cue.id in before:
            text = f"Two cues of “{owner.name}” share the id “{cue.id}”: only one can be told."
            mend = Mend("give it an id of its own", partial(_with_own_id, owner.id, n))
            yield finding("cues-one-id", owner.id, cue.node, text, mend, f"{cue.id} {n}")
        before.add(cue.id)


def gone_rules(document: Document, owner: Owner) -> Iterator[Finding]:
    """Rules of a component that name what is not there."""
    if not isinstance(owner, Component):
        return
    for rule in owner.rules:
        why = rules.what_is_gone(document, owner, rule)
        if why:
            mend = Mend("remove the rule", partial(_without_rule, owner.id, rule))
            about = " ".join([rule.property, *(f"{a}={v}" for a, v in sorted(rule.when.items()))])
            yield finding("rule-names-gone", owner.id, rule.node, why, mend, about)


def gone_text(document: Document) -> str:
    """How many cues and rules of a file name what is not there, with the first of them, as a
    sentence; nothing where all do."""
    first, count = "", 0
    for owner in document.owners():
        for found in (*gone_cues(document, owner), *gone_rules(document, owner)):
            first = first or found.text
            count += 1
    if not count:
        return ""
    noun = "One cue or rule does" if count == 1 else f"{count} cues and rules do"
    return f"{noun} not act as written: {first}"


def _without_cue(owner_id: str, number: int, document: Document) -> Document:
    owner = owner_of(document, owner_id)
    left = tuple(cue for n, cue in enumerate(owner.behaviour.cues) if n != number)
    return _with_cues(document, owner, left)


def _with_own_id(owner_id: str, number: int, document: Document) -> Document:
    owner = owner_of(document, owner_id)
    used = {cue.id for cue in owner.behaviour.cues}
    stem = owner.behaviour.cues[number].id
    own_id = next(f"{stem}-{n}" for n in range(2, len(used) + 3) if f"{stem}-{n}" not in used)
    changed = tuple(
        msgspec.structs.replace(cue, id=own_id) if n == number else cue
        for n, cue in enumerate(owner.behaviour.cues)
    )
    return _with_cues(document, owner, changed)


def _with_cues(document: Document, owner: Owner, changed: tuple[Cue, ...]) -> Document:
    behaviour = msgspec.structs.replace(owner.behaviour, cues=changed)
    return with_owner(document, msgspec.structs.replace(owner, behaviour=behaviour))


def _without_rule(owner_id: str, rule: Rule, document: Document) -> Document:
    return rules.remove_rule(document, owner_id, rule)
