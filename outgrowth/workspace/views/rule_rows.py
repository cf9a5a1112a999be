"""The rules of a component as rows: under the part they speak about, their property or reach."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import Component, Document, Rule
from outgrowth.core.document.variants import condition_text, in_cascade_order
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace.views.value_format import value_text

ORDERS = ("part", "property", "reach")
"""What rules can be sorted by."""


class RuleRow(NamedTuple):
    """One rule: what its heading leaves to be said, and its value, in words."""

    rule: Rule
    texts: tuple[str, str]
    value: str


def rule_rows(document: Document, component: Component, order: str) -> dict[str, list[RuleRow]]:
    """The rules by heading, strongest last under each."""
    grouped: dict[str, list[RuleRow]] = {}
    for rule in in_cascade_order(component):
        texts = {
            "reach": condition_text(component, rule.when),
            "part": _part_text(document, component, rule.node),
            "property": row_of(rule.property).label,
        }
        first, second = (text for key, text in texts.items() if key != order)
        row = RuleRow(rule, (first, second), value_text(document, rule.value))
        grouped.setdefault(texts[order], []).append(row)
    return grouped


def _part_text(document: Document, component: Component, node: tuple[str, ...]) -> str:
    path = () if node == (component.root.id,) else node
    inspection = inspect(document, Place(component.id, path))
    if inspection is None:
        return "a part that is hidden or gone"
    return (inspection.instance or inspection.node).name
