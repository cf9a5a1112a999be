"""Axes and their values: renaming, reordering, removing, and variants not offered.

None of these but removal changes how any variant looks. Where the cascade's order would
(conditions drop out, or equal counts go by another order of axes), rules on single variants
are added until every variant comes out as before.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.axis_parts import with_parts_said, with_rest
from outgrowth.core.document.cues import HOLDER, Change
from outgrowth.core.document.everyday_words import pointer_part_of_word
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    walk,
)
from outgrowth.core.document.uses import Use, holds_directly
from outgrowth.core.document.values import Shift, Value
from outgrowth.core.document.variants import (
    Variant,
    default_variant,
    holds,
    in_cascade_order,
    variants,
)
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.trees import rebuilt_tree, with_owner, with_root
from outgrowth.core.refusal import Refusal


class Fallback(NamedTuple):
    """An instance that chose what is to be removed, and what it then shows."""

    use: Use
    becomes: str


def rename_axis(document: Document, component_id: str, axis_id: str, name: str) -> Document:
    """The document with an axis called `name`. Raises Refusal for an empty or taken one."""
    component, axis = axis_of(document, component_id, axis_id)
    new_name = _name(name, [a.name for a in component.axes if a is not axis], "axis")
    document = _told_by_id(document, axis, None)
    return with_axis(document, component, msgspec.structs.replace(axis, name=new_name))


def rename_value(
    document: Document, component_id: str, axis_id: str, value_id: str, name: str
) -> Document:
    """The document with a value of an axis called `name`."""
    component, axis = axis_of(document, component_id, axis_id)
    value = value_of(axis, value_id)
    new_name = _name(name, [v.name for v in axis.values if v is not value], "value")
    document = _told_by_id(document, axis, value)
    # What a value stands for is said before its name goes that told it; a name that tells more
    # than was known is believed.
    said = with_parts_said(axis)
    parts = {each.part for each in said.values}
    told = pointer_part_of_word(new_name) if axis.driver == "pointer" else ""
    values = []
    for each in said.values:
        if each.id == value.id:
            each = msgspec.structs.replace(each, name=new_name)
            if each.part == "cued" and told and told not in parts:
                each = msgspec.structs.replace(each, part=told)
        values.append(each)
    return with_axis(document, component, msgspec.structs.replace(said, values=tuple(values)))


def _told_by_id(document: Document, axis: Axis, value: AxisValue | None) -> Document:
    """The document in which what inner parts say of this axis of their holder (where its cue
    stands the holder is not known, so it is said in words) is said by ids besides, so that it
    is still meant once the axis, or one of its values, is called otherwise."""

    def meant(change: Change) -> bool:
        same = change.at == (HOLDER,) and change.name in (axis.name, axis.id)
        return same and (value is None or change.value in (value.name, value.id))

    for owner in list(document.in_order()):
        cues = []
        for cue in owner.behaviour.cues:
            # Each at once behind the other: which of two changes comes first counts.
            changes: dict[Change, None] = {}
            for change in cue.changes:
                changes[change] = None
                if meant(change) and _by_id(change, axis) not in cue.changes:
                    changes[_by_id(change, axis)] = None
            added = len(changes) > len(set(cue.changes))
            cues.append(msgspec.structs.replace(cue, changes=tuple(changes)) if added else cue)
        if any(a is not b for a, b in zip(cues, owner.behaviour.cues, strict=True)):
            behaviour = msgspec.structs.replace(owner.behaviour, cues=tuple(cues))
            document = with_owner(document, msgspec.structs.replace(owner, behaviour=behaviour))
    return document


def _by_id(change: Change, axis: Axis) -> Change:
    value = axis.named(str(change.value))
    return msgspec.structs.replace(
        change, name=axis.id, value=value.id if value is not None else change.value
    )


def move_axis(document: Document, component_id: str, axis_id: str, index: int) -> Document:
    """The document with an axis at another place in the order; no variant changes."""
    component, axis = axis_of(document, component_id, axis_id)
    others = [a for a in component.axes if a is not axis]
    others.insert(index, axis)
    moved = msgspec.structs.replace(component, axes=tuple(others))
    return with_owner(document, _repaired(moved, component, lambda variant: variant))


def move_value(
    document: Document, component_id: str, axis_id: str, value_id: str, index: int
) -> Document:
    """The document with a value at another place on its axis."""
    component, axis = axis_of(document, component_id, axis_id)
    value = value_of(axis, value_id)
    said = with_parts_said(axis)
    others = [v for v in said.values if v.id != value.id]
    others.insert(index, next(v for v in said.values if v.id == value.id))
    return with_axis(document, component, msgspec.structs.replace(said, values=tuple(others)))


def fallbacks(
    document: Document, component_id: str, axis_id: str, value_id: str = ""
) -> tuple[Fallback, ...]:
    """The instances that removing an axis (or one of its values) changes, and what each
    falls back to."""
    _, axis = axis_of(document, component_id, axis_id)
    remaining = [v for v in axis.values if v.id != value_id]
    default = axis.default if axis.default != value_id else remaining[0].id if remaining else ""
    name = (axis.value(default) or axis.values[0]).name
    results = []
    for owner in document.owners():
        for node, held in holds_directly(owner):
            chosen = node.style.get(CHOICE + axis_id)
            changes = chosen == value_id if value_id else chosen not in (None, axis.default)
            if held == component_id and changes:
                results.append(Fallback(Use(owner.id, node.id), name))
    return tuple(results)


def remove_axis(document: Document, component_id: str, axis_id: str) -> Document:
    """The document without an axis: the variants with its default stay as they are, the
    others go, and instances that chose another value fall back."""
    component, axis = axis_of(document, component_id, axis_id)
    smaller = fixed_at(component, Map({axis_id: axis.default}))
    return _forget_choice(with_owner(document, smaller), component_id, axis_id, None)


def remove_value(document: Document, component_id: str, axis_id: str, value_id: str) -> Document:
    """The document without one value of an axis; rules that name it go, and instances that
    chose it fall back to the default. Raises Refusal for the last value."""
    component, axis = axis_of(document, component_id, axis_id)
    value = value_of(axis, value_id)
    values = tuple(v for v in with_parts_said(axis).values if v.id != value.id)
    if not values:
        raise Refusal(f"“{axis.name}” needs a value; remove the axis instead.")
    default = values[0].id if axis.default == value_id else axis.default
    changed = with_rest(msgspec.structs.replace(axis, values=values, default=default))
    smaller = msgspec.structs.replace(
        component,
        axes=tuple(changed if a is axis else a for a in component.axes),
        rules=tuple(r for r in component.rules if r.when.get(axis_id) != value_id),
        not_offered=tuple(p for p in component.not_offered if p.get(axis_id) != value_id),
    )
    return _forget_choice(with_owner(document, smaller), component_id, axis_id, value_id)


def set_offered(document: Document, component_id: str, variant: Variant, offered: bool) -> Document:
    """The document with one variant offered or not. Raises Refusal for the default one,
    which an instance that chose nothing shows."""
    component = component_of(document, component_id)
    if not offered and variant == default_variant(component):
        raise Refusal("The default variant has to be offered; make another the default first.")
    patterns = [p for p in component.not_offered if not holds(p, variant)]
    for pattern in component.not_offered:
        if holds(pattern, variant):
            patterns += [v for v in variants(component) if holds(pattern, v) and v != variant]
    if not offered:
        patterns.append(variant)
    distinct = tuple(dict.fromkeys(patterns))
    return with_owner(document, msgspec.structs.replace(component, not_offered=distinct))


def offer_none(document: Document, component_id: str, pattern: Map[str, str]) -> Document:
    """The document with no variant offered that agrees with the pattern. Raises Refusal
    where that takes the default variant away, or all of them."""
    component = component_of(document, component_id)
    if holds(pattern, default_variant(component)):
        raise Refusal("The default variant has to be offered; choose a reach without it.")
    remaining = [p for p in component.not_offered if not holds(pattern, p)]
    changed = msgspec.structs.replace(component, not_offered=(*remaining, pattern))
    return with_owner(document, changed)


# --- a component with some axes fixed -------------------------------------------------------


def fixed_at(component: Component, fixed: Map[str, str]) -> Component:
    """The component with axes fixed at one value each and taken away; the variants that are
    left look as they did."""
    rules = []
    for rule in component.rules:
        if all(fixed.get(axis, value) == value for axis, value in rule.when.items()):
            remaining = {axis: value for axis, value in rule.when.items() if axis not in fixed}
            rules.append(msgspec.structs.replace(rule, when=Map(remaining)))
    patterns = []
    for pattern in component.not_offered:
        if all(fixed.get(axis, value) == value for axis, value in pattern.items()):
            patterns.append(Map({a: v for a, v in pattern.items() if a not in fixed}))
    smaller = msgspec.structs.replace(
        component,
        axes=tuple(axis for axis in component.axes if axis.id not in fixed),
        rules=_last_of_each(rules, component, fixed),
        not_offered=tuple(p for p in dict.fromkeys(patterns) if p),
    )
    return _repaired(_into_tree(smaller), component, lambda variant: variant.update(fixed))


def _last_of_each(
    rules: list[Rule], component: Component, fixed: Map[str, str]
) -> tuple[Rule, ...]:
    """Where two rules now say the same place, the one that won before is kept."""
    order = {id(r): n for n, r in enumerate(in_cascade_order(component))}
    before = [r for r in component.rules if _agrees(r, fixed)]
    ranked = sorted(zip(before, rules, strict=True), key=lambda pair: order[id(pair[0])])
    best = {(r.when, r.node, r.property): r for _, r in ranked if not isinstance(r.value, Shift)}
    shifts = [r for _, r in ranked if isinstance(r.value, Shift)]
    return (*best.values(), *shifts)


def _agrees(rule: Rule, fixed: Map[str, str]) -> bool:
    return all(fixed.get(axis, value) == value for axis, value in rule.when.items())


def _into_tree(component: Component) -> Component:
    """Rules without conditions become values of the tree, where they mean the same."""
    owner: Owner = component
    left = []
    for rule in component.rules:
        if rule.when or isinstance(rule.value, Shift) or len(rule.node) != 1:
            left.append(rule)
        else:
            owner = with_root(owner, rebuilt_tree(owner.root, _setter(rule)))
    assert isinstance(owner, Component)
    return msgspec.structs.replace(owner, rules=tuple(left))


def _setter(rule: Rule) -> Callable[[Node], Node]:
    def change(node: Node) -> Node:
        if node.id != rule.node[0]:
            return node
        return msgspec.structs.replace(node, style=node.style.set(rule.property, rule.value))

    return change


def _repaired(
    component: Component, before: Component, previous: Callable[[Variant], Variant]
) -> Component:
    """The component with rules on single variants for whatever would look different."""
    mended = []
    for variant in variants(component):
        after, following = _winners(component, variant), _winners(before, previous(variant))
        for (node, name), value in following.items():
            if after.get((node, name)) != value and value is not None:
                mended.append(Rule(variant, node, name, value))
    if not mended:
        return component
    keys = {(r.when, r.node, r.property) for r in mended}
    remaining = [r for r in component.rules if (r.when, r.node, r.property) not in keys]
    return msgspec.structs.replace(component, rules=(*remaining, *mended))


def _winners(component: Component, variant: Variant) -> dict[tuple[Path, str], Value | None]:
    """For each place that a rule or the tree speaks of: the plain value that wins."""
    winners: dict[tuple[Path, str], Value | None] = {}
    for node in walk(component.root):
        for name, value in node.style.items():
            winners[(node.id,), name] = value
    for rule in in_cascade_order(component):
        if holds(rule.when, variant) and not isinstance(rule.value, Shift):
            winners[rule.node, rule.property] = rule.value
    return winners


# --- small steps ----------------------------------------------------------------------------


def axis_of(document: Document, component_id: str, axis_id: str) -> tuple[Component, Axis]:
    """A component and one of its axes. Raises Refusal for one that is gone."""
    component = component_of(document, component_id)
    axis = component.axis(axis_id)
    if axis is None:
        raise Refusal("That axis is no longer there.")
    return component, axis


def value_of(axis: Axis, value_id: str) -> AxisValue:
    """A value of an axis. Raises Refusal for one that is gone."""
    value = axis.value(value_id)
    if value is None:
        raise Refusal(f"“{axis.name}” no longer has that value.")
    return value


def _name(name: str, used: list[str], noun: str) -> str:
    new_name = name.strip()
    if not new_name:
        raise Refusal(f"Every {noun} needs a name.")
    if new_name in used:
        raise Refusal(f"There is already another {noun} called “{new_name}”.")
    return new_name


def with_axis(document: Document, component: Component, axis: Axis) -> Document:
    """The document with an axis of a component in the place of the one with its id."""
    axes = tuple(axis if a.id == axis.id else a for a in component.axes)
    return with_owner(document, msgspec.structs.replace(component, axes=axes))


def _forget_choice(
    document: Document, component_id: str, axis_id: str, value_id: str | None
) -> Document:
    """Takes a choice, and conditions on it, from all instances of a component."""

    def change(node: Node) -> Node:
        if node.kind != "instance" or node.style.get("component") != component_id:
            return node
        return _without_choice(node, axis_id, value_id)

    for owner in list(document.owners()):
        root = rebuilt_tree(owner.root, change)
        if root is not owner.root:
            document = with_owner(document, with_root(owner, root))
    return document


def _without_choice(node: Node, axis_id: str, value_id: str | None) -> Node:
    name = CHOICE + axis_id
    is_removed = name in node.style and value_id in (None, node.style[name])
    overrides = tuple(
        r
        for r in node.overrides
        if axis_id not in r.when or value_id not in (None, r.when[axis_id])
    )
    if not is_removed and len(overrides) == len(node.overrides):
        return node
    style = node.style.delete(name) if is_removed else node.style
    return msgspec.structs.replace(node, style=style, overrides=overrides)
