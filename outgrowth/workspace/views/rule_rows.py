"""The rules of a component as rows: under the part they speak about, their property or reach."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.properties import FAMILY_MEMBERS, FAMILY_OF, family_label, row_of
from outgrowth.core.document.records import Component, Document, Rule
from outgrowth.core.document.variants import condition_text, in_cascade_order
from outgrowth.core.edits.variants.rules import never_winning, what_is_gone
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace.views.length_format import in_short
from outgrowth.workspace.views.value_format import value_text

ORDERS = ("part", "property", "reach")
"""What rules can be sorted by."""
_NEVER_WINS = "No variant that is offered shows it: others say otherwise wherever it holds."


class RuleRow(NamedTuple):
    """One rule, or those of four sides or corners that hold together: what its heading leaves to
    be said, and its value, in words; and why it does nothing, empty where it does."""

    rules: tuple[Rule, ...]
    texts: tuple[str, str]
    value: str
    idle: str = ""

    @property
    def rule(self) -> Rule:
        """The first of them."""
        return self.rules[0]


def rule_rows(document: Document, component: Component, order: str) -> dict[str, list[RuleRow]]:
    """The rules by heading, strongest last under each."""
    idle = never_winning(document, component)
    grouped: dict[str, list[RuleRow]] = {}
    for those in _together(component):
        rule = those[0]
        is_family = len(those) > 1
        texts = {
            "reach": condition_text(component, rule.when),
            "part": _part_text(document, component, rule.node),
            "property": family_label(FAMILY_OF[rule.property])
            if is_family
            else row_of(rule.property).label,
        }
        first, second = (text for key, text in texts.items() if key != order)
        values = [value_text(document, each.value) for each in those]
        value = " ".join(in_short(values)) if is_family else values[0]
        gone = what_is_gone(document, component, rule)
        why = gone or (_NEVER_WINS if all(each in idle for each in those) else "")
        row = RuleRow(those, (first, second), value, why)
        grouped.setdefault(texts[order], []).append(row)
    return grouped


def _together(component: Component) -> list[tuple[Rule, ...]]:
    """The rules in the cascade's order, those of all four sides or corners of a part at one reach
    together, in CSS's order."""
    ordered = in_cascade_order(component)
    fours: dict[object, dict[str, Rule]] = {}
    for rule in ordered:
        family = FAMILY_OF.get(rule.property)
        if family is not None and len(FAMILY_MEMBERS[family]) == 4:
            fours.setdefault((rule.when, rule.node, family), {})[rule.property] = rule
    lines: list[tuple[Rule, ...]] = []
    told: set[object] = set()
    for rule in ordered:
        family = FAMILY_OF.get(rule.property, "")
        key = rule.when, rule.node, family
        members = fours.get(key, {})
        if len(members) < 4:
            lines.append((rule,))
        elif key not in told:
            told.add(key)
            lines.append(tuple(members[name] for name in FAMILY_MEMBERS[family]))
    return lines


def _part_text(document: Document, component: Component, node: tuple[str, ...]) -> str:
    path = () if node == (component.root.id,) else node
    inspection = inspect(document, Place(component.id, path))
    if inspection is None:
        return "a part that is hidden or gone"
    return (inspection.instance or inspection.node).name
