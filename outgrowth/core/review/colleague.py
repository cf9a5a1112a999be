"""The whole review of a document, subject by subject."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator

from outgrowth.core.document.records import Document
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.review.contrast import contrast_findings
from outgrowth.core.review.finding import SUBJECTS, Finding, Subject
from outgrowth.core.review.rules import rule_findings
from outgrowth.core.review.system import system_findings
from outgrowth.core.review.targets import name_findings, target_findings

Progress = Callable[[Subject], object]
"""Told which subject is looked at next; what it raises ends the review."""


def review(
    document: Document,
    layout: Layout,
    only: Collection[Subject] = SUBJECTS,
    progress: Progress = lambda _: None,
) -> tuple[Finding, ...]:
    """All that a careful colleague would point at, of these subjects, in their order."""
    resolver = Resolver()
    checks: dict[Subject, Callable[[], Iterator[Finding]]] = {
        "contrast": lambda: contrast_findings(document, resolver, layout),
        "targets": lambda: target_findings(document, resolver, layout),
        "names": lambda: name_findings(document),
        "rules": lambda: rule_findings(document),
        "system": lambda: system_findings(document),
    }
    results: list[Finding] = []
    for subject in SUBJECTS:
        if subject in only:
            progress(subject)
            results += checks[subject]()
    return tuple(results)
