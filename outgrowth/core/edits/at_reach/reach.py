"""Where an edit holds, and rules that decide there."""

from __future__ import annotations

from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.records import Component, Document, Path, Rule
from outgrowth.core.document.variants import Variant, holds, in_cascade_order, offered, variants
from outgrowth.core.edits.style.styles import with_rules
from outgrowth.core.resolve.cascade import LiveValues, Source
from outgrowth.core.resolve.ladder import Place


class Reach(NamedTuple):
    """Where an edit holds.

    owner    the component or screen that is edited
    when     axis → value: the conditions of what is written; none for all variants, and on a
             screen
    variant  the variant that is looked at, which agrees with the conditions or not
    rooms    what their rooms make of the parts in it, as it is looked at
    """

    owner: str
    when: Map[str, str] = Map()
    variant: Variant = Map()
    rooms: LiveValues = ()

    def place(self, path: Path) -> Place:
        """The node at a path of the owner, in the variant that is looked at."""
        return Place(self.owner, path, self.variant, self.rooms)


def is_narrowed(document: Document, reach: Reach) -> bool:
    """Whether some offered variant lies outside."""
    component = document.components.get(reach.owner)
    if component is None or not reach.when:
        return False
    return any(
        offered(component, variant) and not holds(reach.when, variant)
        for variant in variants(component)
    )


def is_within(document: Document, reach: Reach, source: Source) -> bool:
    """Whether a step of a ladder that the owner says holds nowhere outside."""
    if not is_narrowed(document, reach):
        return True
    return holds(reach.when, source.when)


def with_deciding(component: Component, rule: Rule) -> Component:
    """The component with a rule that decides wherever its conditions hold, and nothing else
    anywhere else: narrower rules of the same property go, and rules that would outrank it are
    answered by one with the conditions of both."""
    others = tuple(r for r in component.rules if not (_alike(r, rule) and holds(rule.when, r.when)))
    changed = msgspec.structs.replace(component, rules=(*others, rule))
    outranking = [r for r in _after(changed, rule) if _alike(r, rule) and meet(r.when, rule.when)]
    answers = [
        Rule(r.when.update(rule.when), rule.node, rule.property, rule.value) for r in outranking
    ]
    return with_rules(changed, answers)


def _after(component: Component, rule: Rule) -> tuple[Rule, ...]:
    ordered = in_cascade_order(component)
    return ordered[next(n for n, other in enumerate(ordered) if other is rule) + 1 :]


def _alike(a: Rule, b: Rule) -> bool:
    return (a.node, a.property) == (b.node, b.property)


def meet(a: Map[str, str], b: Map[str, str]) -> bool:
    """Whether a variant can agree with both conditions."""
    return all(b.get(axis, value) == value for axis, value in a.items())
