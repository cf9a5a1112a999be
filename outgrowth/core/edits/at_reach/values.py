"""Values of parts at a reach, set where they are decided.

What a property of a component decides, deep inside of an instance, is set as that property: a
slot is filled, words are given. An override beneath it would leave the property's row saying
something that is not shown.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    find,
    walk,
)
from outgrowth.core.document.values import FromProperty, Shift, Token, Value
from outgrowth.core.document.variants import holds
from outgrowth.core.edits.all_values import stated_values
from outgrowth.core.edits.at_reach.reach import Reach, is_narrowed
from outgrowth.core.edits.instances import properties
from outgrowth.core.edits.style.styles import (
    KEPT_OUTSIDE,
    put_back_instance,
    set_properties,
)
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.trees import own_path, owner_of, with_node, with_owner
from outgrowth.core.memo import ByIdentity
from outgrowth.core.refusal import Refusal, ValueRefusal
from outgrowth.core.resolve.cascade import Source
from outgrowth.core.resolve.ladder import Place, inspect


class Decider(NamedTuple):
    """What decides a value: a property of a part, and the property of a component that it
    follows there, if it follows one.

    path, property   where it is set, from the owner on the bench
    opened           the property of a component that decides; its owner's default where `path`
                     is the owner's own part
    """

    path: Path
    property: str
    opened: ComponentProperty | None = None


def decider(document: Document, place: Place, name: str) -> Decider:
    """Where a value would have to be set so that it is said once: at the instance whose property
    decides it, or (`opened` without a choice) as the default of the owner's own property."""
    found = Decider(place.path, name)
    if not _may_be_opened(document, place, name):
        return found
    while True:
        outer = _one_out(document, place, found)
        if outer is None:
            return found
        found = outer


def _may_be_opened(document: Document, place: Place, name: str) -> bool:
    """Whether any component on the way to a part opens such values at all: asked first, since it
    costs little and is mostly not so."""
    owner = bench = document.owner(place.owner)
    if bench is not None and "component" in _ruled_names(bench):
        return True
    for node_id in place.path if owner is not None else ():
        node = find(owner.root, node_id) if owner is not None else None
        if node is None or node.kind != "instance":
            return False
        if any(rule.property == "component" for rule in node.overrides):
            return True
        component_id = node.style.get("component")
        if isinstance(component_id, FromProperty) and owner is bench:
            opened = bench.property(component_id.property) if isinstance(bench, Component) else None
            component_id = opened.default if opened is not None else None
        owner = document.components.get(component_id) if isinstance(component_id, str) else None
        # What fills a slot, or follows another component by a rule, is looked at itself.
        if owner is None or name in _opened_names(owner):
            return True
        if owner.root.kind == "instance" or "component" in _ruled_names(owner):
            return True
    return False


def _names_opened(owner: Owner) -> frozenset[str]:
    return frozenset(
        name for _, name, value in stated_values(owner) if isinstance(value, FromProperty)
    )


def _names_ruled(owner: Owner) -> frozenset[str]:
    rules = owner.rules if isinstance(owner, Component) else ()
    return frozenset(rule.property for rule in rules)


_opened_names = ByIdentity(_names_opened, 1024)
_ruled_names = ByIdentity(_names_ruled, 1024)


def _one_out(document: Document, place: Place, found: Decider) -> Decider | None:
    inspection = inspect(document, place._replace(path=found.path))
    if inspection is None:
        return None
    below = [
        rung
        for rung in inspection.ladder(found.property)
        if rung.source.owner not in ("", place.owner) and not isinstance(rung.value, Shift)
    ]
    if not below:
        return None
    source = below[-1].source
    raw = raw_value(document, source, found.property)
    component = document.components.get(source.owner)
    if component is None or not isinstance(raw, FromProperty):
        return None
    opened = component.property(raw.property)
    depth = _depth_of(document, place, found.path, component.id)
    if opened is None or depth is None:
        return None
    return Decider(found.path[:depth], CHOICE + opened.id, opened)


def _depth_of(document: Document, place: Place, path: Path, component_id: str) -> int | None:
    """How many ids of a path lead to the instance that follows a component."""
    for depth in range(1, len(path) + 1):
        inspection = inspect(document, place._replace(path=path[:depth]))
        if inspection is None:
            return None
        if inspection.value("component") == component_id and inspection.instance is not None:
            return depth
    return None


def raw_value(document: Document, source: Source, name: str) -> Value | None:
    """What a step of a ladder says as it is written: a reference stays one."""
    owner = document.owner(source.owner)
    if owner is None:
        return None
    if source.kind == "rule" and isinstance(owner, Component):
        rules = owner.rules
        node = source.node
    else:
        holder = find(owner.root, source.node[0]) if source.node else owner.root
        if holder is None:
            return None
        if source.kind == "tree":
            return holder.style.get(name)
        rules, node = holder.overrides, source.node[1:]
    keys = source.when, node, name
    return next((r.value for r in rules if (r.when, r.node, r.property) == keys), None)


def set_values(
    document: Document, reach: Reach, path: Path, values: Mapping[str, Value]
) -> Document:
    """The document with properties of a part set within the reach, each where it is decided.

    Raises Refusal where the part is gone or a value does not fit.
    """
    plain: dict[str, Value] = {}
    for name, value in values.items():
        found = decider(document, reach.place(path), name)
        if isinstance(value, Shift | FromProperty):
            plain[name] = value
        elif found.opened is not None:
            _refuse_unfit(found.opened, value)
            document = set_properties(
                document, reach.place(found.path), {found.property: value}, reach.when
            )
            document = _without_said(document, reach, path, name)
        else:
            own = own_default(document, reach, path, name)
            if own is not None and (
                not isinstance(value, Token) or own.kind in ("color", "number")
            ):
                document = _with_default(document, reach, own, value)
            else:
                plain[name] = value
    if plain:
        document = set_properties(document, reach.place(path), plain, reach.when)
    return document


def _refuse_unfit(opened: ComponentProperty, value: Value) -> None:
    if isinstance(value, Token):
        return
    try:
        PROPERTY_TYPES[opened.kind].check(value)
    except ValueRefusal as problem:
        raise Refusal(f"The property “{opened.name}” decides this here: {problem}") from problem


def own_default(
    document: Document, reach: Reach, path: Path, name: str
) -> ComponentProperty | None:
    """The property of the component on the bench whose default is what a value of its own part
    says at this very reach, and nowhere outside of it; None if none is."""
    component = document.components.get(reach.owner)
    if component is None:
        return None
    raw = stated_at(component, own_path(component, path), name, reach.when)
    opened = component.property(raw.property) if isinstance(raw, FromProperty) else None
    if opened is None:
        return None
    if is_narrowed(document, reach) and _referred_outside(component, opened, reach.when):
        return None
    return opened


def stated_at(component: Component, path: Path, name: str, when: Map[str, str]) -> Value | None:
    """What a component itself says of a value at these very conditions, as it is written."""
    if when:
        keys = when, path, name
        return next(
            (r.value for r in component.rules if (r.when, r.node, r.property) == keys), None
        )
    node = find(component.root, path[0])
    if node is None:
        return None
    if len(path) == 1:
        return node.style.get(name)
    keys = Map(), path[1:], name
    return next((r.value for r in node.overrides if (r.when, r.node, r.property) == keys), None)


def _referred_outside(component: Component, opened: ComponentProperty, when: Map[str, str]) -> bool:
    """Whether a property is referred to by anything that holds elsewhere too."""
    reference = FromProperty(opened.id)
    said = [v for n in walk(component.root) for v in n.style.values()]
    said += [rule.value for n in walk(component.root) for rule in n.overrides]
    said += [
        rule.value
        for rule in component.rules
        if any(rule.when.get(axis) != value for axis, value in when.items())
    ]
    return reference in said


def _with_default(
    document: Document, reach: Reach, opened: ComponentProperty, value: Value
) -> Document:
    assert not isinstance(value, FromProperty)
    return properties.set_default(document, reach.owner, opened.id, value)


def _without_said(document: Document, reach: Reach, path: Path, name: str) -> Document:
    """The document without what the owner on the bench said of a deeper value: within the reach
    it would hide what its property says now."""
    owner = owner_of(document, reach.owner)
    full = own_path(owner, path)

    def hides(when: Map[str, str]) -> bool:
        return all(when.get(axis) == value for axis, value in reach.when.items())

    changed: Owner = owner
    if isinstance(changed, Component):
        rules = tuple(
            r
            for r in changed.rules
            if not (r.node == full and r.property == name and hides(r.when))
        )
        if len(rules) < len(changed.rules):
            changed = msgspec.structs.replace(changed, rules=rules)
    if not reach.when:
        changed = with_node(changed, full[0], _bare(full[1:], name))
    return document if changed is owner else with_owner(document, changed)


def _bare(inside: Path, name: str) -> Callable[[Node], Node]:
    def change(node: Node) -> Node:
        if not inside:
            if name in node.style:
                return msgspec.structs.replace(node, style=node.style.delete(name))
            return node
        left = tuple(r for r in node.overrides if r.when or (r.node, r.property) != (inside, name))
        if len(left) == len(node.overrides):
            return node
        return msgspec.structs.replace(node, overrides=left)

    return change


def put_instances_back(document: Document, reach: Reach, node_ids: Iterable[str]) -> Document:
    """The document with what instances of the owner's own tree differ in put back within the
    reach: everywhere, all that they override; elsewhere, the rules of that reach, and of
    narrower ones, about what they show. Their component, choices, place and size stay."""
    if not is_narrowed(document, reach):
        for node_id in node_ids:
            document = put_back_instance(document, reach.owner, node_id)
        return document
    component, ids = component_of(document, reach.owner), frozenset(node_ids)

    def differs(rule: Rule) -> bool:
        within = all(rule.when.get(axis) == value for axis, value in reach.when.items())
        kept = rule.property in KEPT_OUTSIDE or rule.property.startswith(CHOICE)
        return within and rule.node[0] in ids and not (kept and len(rule.node) == 1)

    rules = tuple(rule for rule in component.rules if not differs(rule))
    if len(rules) == len(component.rules):
        return document
    return with_owner(document, msgspec.structs.replace(component, rules=rules))


def set_where_seen(
    document: Document, reach: Reach, path: Path, name: str, value: Value
) -> Document:
    """The document with a property of a part set within the reach, and so that it shows at least
    in the variant that is looked at."""
    return seen(set_values(document, reach, path, {name: value}), reach, path, name, value)


def seen(document: Document, reach: Reach, path: Path, name: str, value: Value) -> Document:
    """The document with a value that was set within the reach decided in the variant that is
    looked at, where a stronger rule of the same component says otherwise."""
    component = document.components.get(reach.owner)
    inspection = inspect(document, reach.place(path))
    if component is None or inspection is None or not holds(reach.when, reach.variant):
        return document
    deciding = [
        rung for rung in inspection.ladder(name) if rung.wins and not isinstance(rung.value, Shift)
    ]
    source = deciding[-1].source
    stronger = source.kind == "rule" and source.owner == component.id
    if not stronger or raw_value(document, source, name) == value:
        return document
    when = source.when.update(reach.when)
    if when == reach.when:
        return document
    return set_properties(document, reach.place(path), {name: value}, when)
