"""Instances at any depth follow another component within a reach.

As the value of a slot where one decides, as a rule or an override elsewhere. What was said of
the old one's inside, and means something in the new one by its names, is said of that too; the
rest stays where it is and means nothing as long as the new one is followed.
"""

from __future__ import annotations

from collections.abc import Iterator

from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Component, Document, Node, Path, Rule, find
from outgrowth.core.document.values import FromProperty
from outgrowth.core.edits.at_reach.deciding import decider, own_default
from outgrowth.core.edits.at_reach.reach import Reach, is_narrowed, meet
from outgrowth.core.edits.at_reach.values import seen, set_where_seen
from outgrowth.core.edits.instances.exchanging import Exchanged, Mover, exchange
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.trees import owner_of, refuse_cycle
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import inspect


def exchange_at(document: Document, reach: Reach, path: Path, component_id: str) -> Exchanged:
    """The instance at a path follows another component within the reach; what meant nothing
    there is listed.

    Raises Refusal for what is no instance, and if a component would come to contain itself.
    """
    inspection = inspect(document, reach.place(path))
    if inspection is None or inspection.instance is None:
        raise Refusal("Only an instance can follow another component.")
    followed = inspection.value("component")
    old = document.components.get(followed) if isinstance(followed, str) else None
    new = component_of(document, component_id)
    if old is not None and old.id == new.id:
        return Exchanged(document, ())
    refuse_cycle(document, reach.owner, component_id)
    opened = decider(document, reach.place(path), "component").opened is not None
    opened = opened or own_default(document, reach, path, "component") is not None
    if not opened and len(path) == 1 and not is_narrowed(document, reach):
        node = find(owner_of(document, reach.owner).root, path[0])
        if node is not None and isinstance(node.style.get("component"), str):
            exchanged = exchange(document, reach.owner, path[0], component_id)
            return exchanged._replace(
                document=seen(exchanged.document, reach, path, "component", component_id)
            )
    carried, dropped = ((), ()) if old is None else _carried(document, reach, path, (old, new))
    document = set_where_seen(document, reach, path, "component", component_id)
    for rule in carried:
        # What is said of the new one already counts.
        document = set_properties(
            document, reach.place(rule.node), {rule.property: rule.value}, rule.when
        )
    return Exchanged(document, dropped)


def _carried(
    document: Document, reach: Reach, path: Path, components: tuple[Component, Component]
) -> tuple[tuple[Rule, ...], tuple[str, ...]]:
    """What the owner on the bench says of the old one's inside as rules of the new one's, and
    what has no place there."""
    mover = Mover(document, *components)
    said = list(_said_inside(document, reach, path))
    subjects = {(rule.when, rule.node, rule.property) for rule in said}
    carried: dict[tuple[object, ...], Rule] = {}
    for rule in said:
        inner = mover.carried(Rule(Map(), rule.node[len(path) :], rule.property, rule.value))
        if inner is None:
            continue
        when = rule.when.update(reach.when)
        full = Rule(when, (*path, *inner.node), inner.property, inner.value)
        key = full.when, full.node, full.property
        same = full.node == rule.node and full.property == rule.property
        if not same and key not in subjects:
            carried[key] = full
    return tuple(carried.values()), tuple(dict.fromkeys(mover.dropped))


def _said_inside(document: Document, reach: Reach, path: Path) -> Iterator[Rule]:
    """What the owner on the bench says of the inside of an instance, its choices among it, as
    rules about paths of the owner, as far as it can hold within the reach."""
    owner = owner_of(document, reach.owner)
    outer = find(owner.root, path[0])
    if outer is not None:
        for rule in _of_instance(outer):
            if _is_inside(rule, path):
                yield rule
    if isinstance(owner, Component):
        for rule in owner.rules:
            if _is_inside(rule, path) and meet(rule.when, reach.when):
                yield rule


def _of_instance(node: Node) -> Iterator[Rule]:
    for name, value in node.style.items():
        yield Rule(Map(), (node.id,), name, value)
    for rule in node.overrides:
        # Conditions on the old one's axes cannot be told of the new one's from here.
        if not rule.when:
            yield Rule(Map(), (node.id, *rule.node), rule.property, rule.value)


def _is_inside(rule: Rule, path: Path) -> bool:
    if rule.node[: len(path)] != path or isinstance(rule.value, FromProperty):
        return False
    return len(rule.node) > len(path) or rule.property.startswith(CHOICE)
