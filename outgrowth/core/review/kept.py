"""Trials that a file keeps: what breaks in them now."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from outgrowth.core.document.records import Document, Owner
from outgrowth.core.edits.keeping import drop_check
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.views import ReviewContext, part_called
from outgrowth.core.trials.sheet import Trials, trial_of


def kept_findings(context: ReviewContext, owner: Owner, trials: Trials) -> Iterator[Finding]:
    """What breaks of an owner in the trials that the file keeps of it."""
    for check in context.document.keeping.checks:
        if check.owner != owner.id:
            continue
        pair = trial_of(context.document, check)
        about = f"{check.content} {check.room} {check.width:g} {sorted(check.variant.items())}"
        if pair is None:
            text = f"A kept trial of “{owner.name}” tries a content or a room that is not known."
            mend = Mend("no longer keep it", partial(_dropped, check.key))
            yield finding("trial-gone", owner.id, (), text, mend, about)
            continue
        _, trial = pair
        cell = trials.cell(context.document, owner, trial)
        for item in cell.new if cell is not None else ():
            part = part_called(context.document, owner, item.node)
            text = (
                f"{part} of “{owner.name}” breaks with {trial.content.title.lower()} in "
                f"{trial.room.title.lower()}: {item.text}"
            )
            yield finding(f"trial-{item.kind}", owner.id, item.node, text, about=about)


def _dropped(key: object, document: Document) -> Document:
    return drop_check(document, key)
