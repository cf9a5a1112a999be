"""The bench of handing over: what goes out, what it is called, what it lacks, what changed."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.records import Document
from outgrowth.core.exchange.output import OutputPlan
from outgrowth.core.exchange.web.files import HandOver
from outgrowth.core.review.finding import Finding
from outgrowth.core.review.lacking import lacking
from outgrowth.core.review.report import standing
from outgrowth.workspace.views.status_text import count_text


class PartRow(NamedTuple):
    """A component that can go out.

    state  "new", "changed", "edited by hand", "as it was" since the last time; "" where it is not
           known, since no folder is chosen or it does not go out
    """

    component: str
    name: str
    element: str
    goes: bool
    state: str
    findings: tuple[Finding, ...]


def part_rows(document: Document, product: HandOver, plan: OutputPlan | None) -> list[PartRow]:
    """All components in the order of the Library; those that go out have code. What was waived
    is not told of again. One that came after the hand-over was made waits for the next."""
    rows = []
    for component in document.in_order():
        names = product.names.owners.get(component.id)
        if names is None:
            continue
        goes = component.id in product.codes
        state = _state(f"components/{names.element}.js", plan) if goes else ""
        findings = tuple(standing(document, lacking(component, product.names)))
        rows.append(PartRow(component.id, component.name, names.element, goes, state, findings))
    return rows


def _state(path: str, plan: OutputPlan | None) -> str:
    if plan is None:
        return ""
    for state, paths in (
        ("new", plan.new),
        ("changed", plan.changed),
        ("edited by hand", plan.edited),
    ):
        if path in paths:
            return state
    return "as it was"


def summary_text(rows: list[PartRow]) -> str:
    """How much goes out, and how much of it could be better."""
    out = [row for row in rows if row.goes]
    lacking = sum(1 for row in out if row.findings)
    text = count_text(len(out), "element")
    return f"{text}, {lacking} could be better" if lacking else text


def written_text(done: OutputPlan) -> str:
    """What handing over did, in a sentence."""
    count = len(done.new) + len(done.changed)
    return f"Handed over: {count:,} files written, {len(done.same):,} were as they are."


def plan_text(plan: OutputPlan | None) -> str:
    """What handing over would do, in a sentence."""
    if plan is None:
        return "Choose a folder to hand over into."
    parts = [
        _count(len(plan.new), "new"),
        _count(len(plan.changed), "changed"),
        _count(len(plan.gone), "no longer needed"),
    ]
    texts = ", ".join(part for part in parts if part)
    if not texts and not plan.edited:
        return "Everything there is as it would be written."
    files = f"{texts}." if texts else "Nothing else changed."
    kept = len(plan.edited) - len(plan.torn)
    if kept:
        files += f" {_count(kept, 'edited by hand')} will be kept."
    if plan.torn:
        files += (
            f" {_count(len(plan.torn), 'edited by hand')} would have to change with the rest: "
            "nothing is written unless you write over it."
        )
    return files


def _count(number: int, what: str) -> str:
    return f"{number:,} {'file' if number == 1 else 'files'} {what}" if number else ""


def files_of(product: HandOver, component: str) -> list[tuple[str, str]]:
    """The files of one component, as what they are called and their text."""
    code = product.codes.get(component)
    if code is None:
        return []
    return [("Module", code.javascript), ("Style sheet", code.css), ("Types", code.types)]
