"""A component's rules as a list: deleting, re-aiming, and making one of several that say the
same."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Component, Document, Owner, Path, Rule
from outgrowth.core.document.values import Shift, Value
from outgrowth.core.document.variants import (
    Variant,
    condition_text,
    holds,
    in_cascade_order,
    offered,
    variants,
)
from outgrowth.core.edits.style.styles import with_rules
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.naming import check_value, stands_at
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.refusal import Refusal

_MOST_LOOKED_AT = 600


class EqualRules(NamedTuple):
    """Rules that together say what one would: the same value for every value of an axis."""

    rules: tuple[Rule, ...]
    one: Rule


def remove_rule(document: Document, component_id: str, rule: Rule) -> Document:
    """The document without a rule. Raises Refusal if it is gone already."""
    component = _holding(document, component_id, rule)
    rules = tuple(r for r in component.rules if r != rule)
    return with_owner(document, msgspec.structs.replace(component, rules=rules))


def aim_rule(document: Document, component_id: str, rule: Rule, when: Map[str, str]) -> Document:
    """The document with a rule under other conditions. Raises Refusal for none at all
    (that is a value of the tree), or if another rule already says it there."""
    component = _holding(document, component_id, rule)
    if not when:
        raise Refusal("A rule needs a condition; without one, set the value on the component.")
    aimed = msgspec.structs.replace(rule, when=when)
    if any(
        (r.when, r.node, r.property) == (when, rule.node, rule.property) for r in component.rules
    ):
        raise Refusal(f"There is already a rule for that at {condition_text(component, when)}.")
    rules = tuple(aimed if r == rule else r for r in component.rules)
    return with_owner(document, msgspec.structs.replace(component, rules=rules))


def equal_rules(component: Component) -> tuple[EqualRules, ...]:
    """Groups of rules that one rule could replace: they name every value of one axis, agree
    in all else, and say the same value."""
    results = []
    for axis in component.axes:
        groups: dict[tuple[object, ...], list[Rule]] = {}
        for rule in component.rules:
            if axis.id in rule.when and len(rule.when) > 1:
                rest = rule.when.delete(axis.id)
                key = rest, rule.node, rule.property, rule.value
                groups.setdefault(key, []).append(rule)
        for rules in groups.values():
            if len(rules) == len(axis.values):
                merged_rule = msgspec.structs.replace(rules[0], when=rules[0].when.delete(axis.id))
                results.append(EqualRules(tuple(rules), merged_rule))
    return tuple(results)


def make_one(document: Document, component_id: str, group: EqualRules) -> Document:
    """The document with one rule in the place of several that say the same."""
    component = component_of(document, component_id)
    if any(rule not in component.rules for rule in group.rules):
        raise Refusal("Those rules have changed since.")
    left = tuple(r for r in component.rules if r not in group.rules)
    smaller = msgspec.structs.replace(component, rules=left)
    return with_owner(document, with_rules(smaller, [group.one]))


def never_winning(document: Document, component: Component) -> list[Rule]:
    """The rules that no offered variant shows, since stronger ones speak of the same wherever they
    hold; rules that name what is gone apart. None are told of a component with more variants
    than can be looked at."""
    views = [v for v in variants(component) if offered(component, v)]
    if len(views) > _MOST_LOOKED_AT:
        return []
    ordered = in_cascade_order(component)
    about_same: dict[tuple[Path, str], list[Rule]] = {}
    for rule in ordered:
        about_same.setdefault((rule.node, rule.property), []).append(rule)
    shown = {id(rule) for rules in about_same.values() for rule in _shown(rules, views)}
    return [
        rule
        for rule in ordered
        if id(rule) not in shown and not what_is_gone(document, component, rule)
    ]


def _shown(rules: Sequence[Rule], views: Sequence[Variant]) -> Iterator[Rule]:
    """Those of some rules about the same, the weakest first, that any of the variants shows."""
    left = list(rules)
    for view in views:
        for rule in reversed(rules):
            if holds(rule.when, view):
                if rule in left:
                    left.remove(rule)
                    yield rule
                if not isinstance(rule.value, Shift):
                    break
        if not left:
            return


def what_is_gone(document: Document, owner: Owner, rule: Rule) -> str:
    """What a rule of a component names that is not there, as a sentence; nothing for a whole
    one."""
    try:
        standing = stands_at(document, owner, rule.node, "that a rule is about")
        if isinstance(owner, Component):
            for axis, value in rule.when.items():
                check_value(owner, axis, [value])
        key = rule.property.removeprefix(CHOICE)
        component = standing.component
        if key != rule.property and standing.known and component is not None:
            _refuse_choice(component, key, rule.value)
    except Refusal as problem:
        return str(problem)
    return ""


def _refuse_choice(component: Component, key: str, value: Value) -> None:
    if component.property(key) is not None:
        return
    check_value(component, key, [value] if isinstance(value, str) else [])


def _holding(document: Document, component_id: str, rule: Rule) -> Component:
    component = component_of(document, component_id)
    if rule not in component.rules:
        raise Refusal("That rule is no longer there.")
    return component
