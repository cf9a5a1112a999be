"""Setting and putting back style properties: on a tree, by a rule, or for one instance."""

from __future__ import annotations

from collections.abc import Mapping

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, TABLE, applies, checked, row_of, rows_of
from outgrowth.core.document.records import Component, Document, Node, Owner, Path, Rule, find
from outgrowth.core.document.rooms import fits, room_askers
from outgrowth.core.document.values import Shift, Value
from outgrowth.core.edits.tree.naming import check_value
from outgrowth.core.edits.tree.trees import (
    NO_CONDITIONS,
    node_of,
    own_path,
    owner_of,
    refuse_cycle,
    restyled,
    with_node,
    with_owner,
)
from outgrowth.core.refusal import Refusal, ValueRefusal
from outgrowth.core.resolve.cascade import Source
from outgrowth.core.resolve.ladder import Place, inspect, node_at


def set_properties(
    document: Document,
    place: Place,
    values: Mapping[str, Value],
    reach: Map[str, str] = NO_CONDITIONS,
) -> Document:
    """The document with properties of the node at `place` set.

    In a component, `reach` are the conditions of the rule that is written; none writes to
    the component's tree. On a screen, `reach` are conditions on the axes of the instance,
    and the value becomes an override of that one instance.

    Raises Refusal if the place is gone, or a value does not fit its property.
    """
    owner = owner_of(document, place.owner)
    place = _as_spoken_of(document, place)
    checked = _checked(document, place, values)
    if isinstance(owner, Component):
        _refuse_cycles(document, place, checked)
    path = own_path(owner, place.path)
    _refuse_fitting_room(document, owner, path, checked)
    if isinstance(owner, Component) and reach:
        for axis, value_id in reach.items():
            check_value(owner, axis, [value_id])
        rules = [Rule(reach, path, name, value) for name, value in checked.items()]
        return with_owner(document, with_rules(owner, rules))
    if len(path) == 1 and not reach:
        _refuse_bottomless(node_of(owner, path[0]), checked)
        return with_owner(document, with_node(owner, path[0], lambda n: restyled(n, Map(checked))))
    rules = [Rule(reach, path[1:], name, value) for name, value in checked.items()]
    return with_owner(document, with_node(owner, path[0], lambda n: _overridden(n, rules)))


def _refuse_fitting_room(
    document: Document, owner: Owner, path: Path, values: Mapping[str, Value]
) -> None:
    """Refuses that an instance fits what is in it, where its room decides what that is."""
    sides = [name for name in ("width", "height") if name in values and fits(values[name])]
    if not sides:
        return
    node = find(owner.root, path[0]) if len(path) == 1 else None
    followed = node.style.get("component") if node is not None else None
    component = document.components.get(followed) if isinstance(followed, str) else None
    for asker in room_askers(component) if component is not None else ():
        for side in sides:
            if side in asker.sides:
                raise Refusal(
                    f"The {side} of “{node.name if node else ''}” decides what is in it "
                    f"({asker.name}), so it can't fit that. Let it grow, or give it a {side}."
                )


def _as_spoken_of(document: Document, place: Place) -> Place:
    """The place as who holds it says it: the root of a component is meant by its instance."""
    while len(place.path) > 1:
        outer = place._replace(path=place.path[:-1])
        if _is_plainly_inside(document, place):
            return place
        inspection = inspect(document, outer)
        followed = inspection.value("component") if inspection is not None else None
        component = document.components.get(followed) if isinstance(followed, str) else None
        if component is None or component.root.id != place.path[-1]:
            return place
        place = outer
    return place


def _is_plainly_inside(document: Document, place: Place) -> bool:
    """Whether a path leads by the components that its instances simply follow to a part that is
    no root: told without the cascade."""
    owner = document.owner(place.owner)
    for node_id in place.path[:-1]:
        node = find(owner.root, node_id) if owner is not None else None
        component_id = node.style.get("component") if node is not None else None
        owner = document.components.get(component_id) if isinstance(component_id, str) else None
    if owner is None or owner.root.id == place.path[-1]:
        return False
    return find(owner.root, place.path[-1]) is not None


def _refuse_bottomless(node: Node, values: Mapping[str, Value]) -> None:
    """Refuses a relative value where nothing lies below it."""
    if node.kind != "instance" and any(isinstance(value, Shift) for value in values.values()):
        raise Refusal(
            "A relative change needs a value below it: choose a reach for it, like State: hover."
        )


def _refuse_cycles(document: Document, place: Place, values: Mapping[str, Value]) -> None:
    """Refuses a component, or what fills a slot, that would hold the one it is put into."""
    inspection = inspect(document, place)
    followed = inspection.scope.owner if inspection is not None else None
    for name, value in values.items():
        prop = None
        if name.startswith(CHOICE) and isinstance(followed, Component):
            prop = followed.property(name.removeprefix(CHOICE))
        if name == "component" or (prop is not None and prop.kind == "slot"):
            refuse_cycle(document, place.owner, value)


def _checked(document: Document, place: Place, values: Mapping[str, Value]) -> dict[str, Value]:
    """The values as they are stored, in the order of the property table."""
    node = node_at(document, place)
    if node is None:
        raise Refusal("That part is not there any more, so nothing was changed.")
    found: dict[str, Value] = {}
    for name, value in values.items():
        try:
            found[name] = checked(name, value)
        except ValueRefusal as problem:
            raise Refusal(str(problem)) from problem
        if not applies(name, node.kind) and not applies(name, "instance"):
            raise Refusal(f"A {node.kind} has no {row_of(name).label.lower()}.")
    return {name: found[name] for name in sorted(found, key=_rank)}


def _rank(name: str) -> tuple[int, str]:
    return (_ORDER[name] if name in _ORDER else len(_ORDER)), name


def with_rules(component: Component, rules: list[Rule]) -> Component:
    """The component with rules written: one of the same reach, node and property is
    replaced where it stands, others come last."""
    return msgspec.structs.replace(component, rules=_merged(component.rules, rules))


def _overridden(node: Node, rules: list[Rule]) -> Node:
    if node.kind != "instance":
        raise Refusal(f"“{node.name}” is not an instance, so it cannot hold an override.")
    return msgspec.structs.replace(node, overrides=_merged(node.overrides, rules))


def _merged(old: tuple[Rule, ...], new: list[Rule]) -> tuple[Rule, ...]:
    written = {_key(rule): rule for rule in new}
    results: list[Rule] = []
    # Of what a file says twice, only that which is written anew becomes one.
    for rule in old:
        key = _key(rule)
        if key not in written:
            results.append(rule)
        elif written[key] not in results:
            results.append(written[key])
    results += [rule for rule in written.values() if rule not in results]
    return tuple(results)


def _key(rule: Rule) -> tuple[object, ...]:
    return rule.when, rule.node, rule.property


def put_back(document: Document, name: str, source: Source) -> Document:
    """The document without what `source` says about the property: a step of a ladder is
    taken out, and the one below it shows.

    Raises Refusal for the table's default, which nobody wrote.
    """
    owner = owner_of(document, source.owner) if source.owner else None
    if owner is None:
        raise Refusal("This is where every value starts; there is nothing to put back.")
    if source.kind == "rule" and isinstance(owner, Component):
        rules = _without(owner.rules, source.when, source.node, name)
        return with_owner(document, msgspec.structs.replace(owner, rules=rules))
    if source.kind == "instance":
        return with_owner(document, _without_override(owner, source, name))
    return with_owner(document, _without_style(owner, source, name))


def _without_override(owner: Owner, source: Source, name: str) -> Owner:
    def change(node: Node) -> Node:
        rules = _without(node.overrides, source.when, source.node[1:], name)
        return msgspec.structs.replace(node, overrides=rules)

    return with_node(owner, source.node[0], change)


def _without_style(owner: Owner, source: Source, name: str) -> Owner:
    def change(node: Node) -> Node:
        if name not in node.style:
            raise Refusal("That value has been put back already.")
        return msgspec.structs.replace(node, style=node.style.delete(name))

    return with_node(owner, source.node[0], change)


def _without(
    rules: tuple[Rule, ...], when: Map[str, str], node: tuple[str, ...], name: str
) -> tuple[Rule, ...]:
    return tuple(rule for rule in rules if _key(rule) != (when, node, name))


def put_back_instance(document: Document, owner_id: str, node_id: str) -> Document:
    """The document with everything that one instance overrides put back; its component and
    choices, its place and its size in the layout stay."""
    owner = owner_of(document, owner_id)
    if node_of(owner, node_id).kind != "instance":
        raise Refusal("Only an instance can be put back as a whole.")

    def change(node: Node) -> Node:
        remaining = {
            k: v for k, v in node.style.items() if k.startswith(CHOICE) or k in KEPT_OUTSIDE
        }
        return msgspec.structs.replace(node, style=Map(remaining), overrides=())

    return with_owner(document, with_node(owner, node_id, change))


_ORDER = {name: n for n, name in enumerate(TABLE)}
KEPT_OUTSIDE = rows_of("structure", "placement", "size")
"""What an instance says about its place among its neighbours rather than about its inside."""
