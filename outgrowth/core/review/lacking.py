"""What a component lacks for code that a developer would keep: what hand-over tells of."""

from __future__ import annotations

from outgrowth.core.document.records import Component
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.review.code_names import code_findings, renamed_findings
from outgrowth.core.review.finding import Finding
from outgrowth.core.review.names import spoken_findings
from outgrowth.core.review.states import missing_findings


def lacking(component: Component, names: Names) -> tuple[Finding, ...]:
    """The findings of one component that its code would show, the weightiest first."""
    missing = (f for f in missing_findings(component) if f.kind == "no-focus")
    return (
        *spoken_findings(component),
        *missing,
        *code_findings(component),
        *renamed_findings(component, names),
    )
