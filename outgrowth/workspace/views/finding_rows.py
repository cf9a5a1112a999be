"""What was found, as the bench of looking again lists it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import Document
from outgrowth.core.document.sentences import node_named
from outgrowth.core.document.variants import Variant, default_variant
from outgrowth.core.refusal import Refusal
from outgrowth.core.review.finding import SUBJECTS, Finding, ReviewSubject
from outgrowth.core.review.report import waiver_of, waivers_of
from outgrowth.workspace.views.difference_text import DifferenceWords

TITLES: dict[ReviewSubject, str] = {
    "contrast": "Contrast",
    "targets": "Targets",
    "states": "States",
    "names": "Names and roles",
    "system": "System",
    "rules": "Rules",
    "layout": "Layout",
    "hand-over": "Hand-over",
    "trials": "Kept trials",
}
SURE = {"error": "wrong", "likely": "likely wrong", "maybe": "worth a look"}
"""How sure, as it is read."""
_FEW = 6


class FindingRow(NamedTuple):
    """A finding with where it is in words, and why it was waived ("" where it stands)."""

    finding: Finding
    place: str
    reason: str


def finding_rows(document: Document, findings: Iterable[Finding]) -> list[FindingRow]:
    """All findings, in their order."""
    waivers, rows = waivers_of(document), []
    for finding in findings:
        waiver = waiver_of(waivers, finding)
        rows.append(FindingRow(finding, _place(document, finding), waiver.reason if waiver else ""))
    return rows


def _place(document: Document, finding: Finding) -> str:
    owner = document.owner(finding.owner)
    if owner is None:
        return "the file"
    name = owner.short_name
    if not finding.node or finding.node == (owner.root.id,):
        return name
    return f"{name} › {node_named(document, owner, finding.node)}"


def subject_counts(rows: Iterable[FindingRow]) -> dict[ReviewSubject, int]:
    """How many stand of each subject."""
    counts = Counter(row.finding.subject for row in rows if not row.reason)
    return {subject: counts.get(subject, 0) for subject in SUBJECTS}


def summary_text(rows: Sequence[FindingRow]) -> str:
    """All in one line."""
    standing = [row.finding.sure for row in rows if not row.reason]
    counts = Counter(standing)
    waived = len(rows) - len(standing)
    parts = [
        f"{counts['error']:,} wrong" if counts["error"] else "",
        f"{counts['likely']:,} likely wrong" if counts["likely"] else "",
        f"{counts['maybe']:,} worth a look" if counts["maybe"] else "",
        f"{waived:,} waived" if waived else "",
    ]
    return ", ".join(part for part in parts if part) or "Nothing to point at."


def status_words(standing: Sequence[Finding], share: float, waits: bool) -> str:
    """What the status line says of it; nothing where nothing is to be seen to."""
    if share < 1.0:
        return "looking again"
    if waits:
        return "look again"
    count = sum(1 for finding in standing if finding.sure != "maybe")
    if not count:
        return "nothing to see to"
    return f"{count:,} to see to"


def mend_lines(document: Document, after: Document) -> list[str]:
    """What a mend would change, a line each; the first few of them."""
    words = DifferenceWords(document, after)
    lines = [f"The file: {line}" for line in words.token_lines()]
    for owner in (*document.owners(), *after.owners()):
        if document.owner(owner.id) is not after.owner(owner.id):
            name = owner.short_name
            lines += [f"{name}: {line}" for line in words.owner_lines(owner.id)]
    lines = list(dict.fromkeys(lines))
    if len(lines) > _FEW:
        lines = [*lines[:_FEW], f"and {len(lines) - _FEW:,} more"]
    return lines


def after_mend(document: Document, finding: Finding) -> Document | None:
    """The document as a mend would leave it; None where there is none, or it no longer fits."""
    if finding.mend is None:
        return None
    try:
        return finding.mend.change(document)
    except Refusal:
        return None


def shown_owner(document: Document, finding: Finding) -> str:
    """Whose picture shows a finding; "" for one of the file as a whole."""
    return finding.owner if document.owner(finding.owner) is not None else ""


def shown_variant(document: Document, finding: Finding) -> Variant:
    """The variant that the picture of a finding shows: where it is seen, else the usual one."""
    component = document.components.get(finding.owner)
    if component is None:
        return Map()
    usual = default_variant(component)
    fitting = {a: v for a, v in finding.variant.items() if a in usual}
    return usual.update(fitting)
