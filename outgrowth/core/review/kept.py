"""Trials that a file keeps: what breaks in them now."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from outgrowth.core.document.records import Document, Owner
from outgrowth.core.edits.keeping import drop_check
from outgrowth.core.review.finding import PRACTICE, Finding, Mend
from outgrowth.core.review.sight import Sight, part_called
from outgrowth.core.trials.sheet import Trials, trial_of


def kept_findings(sight: Sight, owner: Owner, trials: Trials) -> Iterator[Finding]:
    """What breaks of an owner in the trials that the file keeps of it."""
    for check in sight.document.keeping.checks:
        if check.owner != owner.id:
            continue
        wanted = trial_of(sight.document, check)
        about = f"{check.content} {check.room} {check.width:g} {sorted(check.variant.items())}"
        if wanted is None:
            yield Finding(
                "trials",
                "trial-gone",
                owner.id,
                (),
                f"A kept trial of “{owner.name}” tries a content or a room that is not known.",
                PRACTICE,
                "likely",
                Mend("no longer keep it", partial(_dropped, check.key)),
                about,
            )
            continue
        _, trial = wanted
        cell = trials.cell(sight.document, owner, trial)
        for one in cell.new if cell is not None else ():
            part = part_called(sight.document, owner, one.node)
            yield Finding(
                "trials",
                f"trial-{one.kind}",
                owner.id,
                one.node,
                f"{part} of “{owner.name}” breaks with {trial.content.title.lower()} in "
                f"{trial.room.title.lower()}: {one.text}",
                trial.room.source or PRACTICE,
                "error",
                None,
                about,
            )


def _dropped(key: object, document: Document) -> Document:
    return drop_check(document, key)
