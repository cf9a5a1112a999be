"""Where a value is decided: at the part itself, or by a property of a component, which is set at
the instance that follows it, or as its default."""

from __future__ import annotations

from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Owner,
    Path,
    find,
    walk,
)
from outgrowth.core.document.values import FromProperty, Shift, Value
from outgrowth.core.document.variants import holds
from outgrowth.core.edits.all_values import stated_values
from outgrowth.core.edits.at_reach.reach import Reach, is_narrowed
from outgrowth.core.edits.tree.trees import own_path
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.cascade import Source
from outgrowth.core.resolve.ladder import Inspection, Place, inspect


class Decider(NamedTuple):
    """Where a value is said, from the owner on the bench: `property` of the part at `path`, which
    is the choice of an instance where `opened`, a property of its component, decides the value.
    """

    path: Path
    property: str
    opened: ComponentProperty | None = None


def decider(document: Document, place: Place, name: str) -> Decider:
    """Where a value has to be set so that it is said once: at the outermost instance whose
    property decides it, or where it was asked for. What the owner's own properties decide is told
    by `own_default`."""
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


def deciding_source(inspection: Inspection, name: str) -> Source:
    """Who says the plain value that counts, relative changes on top of it apart."""
    winning = [rung for rung in inspection.ladder(name) if rung.wins]
    return [rung.source for rung in winning if not isinstance(rung.value, Shift)][-1]


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
    said += [rule.value for rule in component.rules if not holds(when, rule.when)]
    return reference in said
