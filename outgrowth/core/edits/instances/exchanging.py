"""Instances follow another component and keep what still means something there."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, applies, row_of
from outgrowth.core.document.records import (
    Aside,
    Component,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    find,
    walk,
)
from outgrowth.core.document.uses import Use, uses, way_into
from outgrowth.core.document.values import Value
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.given_names import name_of_instance
from outgrowth.core.edits.tree.trees import (
    node_of,
    owner_of,
    rebuilt_tree,
    refuse_cycle,
    restyled,
    with_node,
    with_owner,
    with_root,
)
from outgrowth.core.refusal import Refusal


class Exchanged(NamedTuple):
    """A document with instances following another component, and what meant nothing there."""

    document: Document
    dropped: tuple[str, ...]


def exchange(document: Document, owner_id: str, node_id: str, component_id: str) -> Exchanged:
    """One instance follows another component. Choices are kept by the names of axis and
    value or property, overrides by the names and kinds of the nodes on their way; so are the
    holder's rules about the inside. What means nothing there is set aside: it comes back
    when the instance follows its old component again. One that is called by its component is
    called by the new one.

    Raises Refusal if a component would come to contain itself.
    """
    owner = owner_of(document, owner_id)
    node = node_of(owner, node_id)
    old, new = _followed(document, node), component_of(document, component_id)
    if old.id == new.id:
        return Exchanged(document, ())
    refuse_cycle(document, owner_id, component_id)
    mover = Mover(document, old, new)
    rules: list[Rule] = []
    if isinstance(owner, Component):
        owner, rules = mover.holding(owner, node)
    moved = mover.moved(node, tuple(rules))
    if node.name == name_of_instance(old):
        moved = msgspec.structs.replace(moved, name=name_of_instance(new))
    changed = with_owner(document, with_node(owner, node_id, lambda _: moved))
    return Exchanged(changed, tuple(dict.fromkeys(mover.dropped)))


def exchange_many(document: Document, those: Iterable[Use], component_id: str) -> Exchanged:
    """Several instances follow another component, as one step; see `exchange`."""
    dropped: dict[str, None] = {}
    for use in those:
        document, lost = exchange(document, use.owner, use.node, component_id)
        dropped |= dict.fromkeys(lost)
    return Exchanged(document, tuple(dropped))


def exchange_everywhere(document: Document, old_id: str, component_id: str) -> Exchanged:
    """Every instance of a component in the file follows another, and slots that were filled
    with the old one are filled with the new. Instances inside the new component itself
    stay: it cannot hold itself."""
    holders = {i for i in document.components if way_into(document, component_id, i)}
    replaced = [use for use in uses(document, old_id) if use.owner not in holders]
    if not replaced:
        raise Refusal("There is no instance that could be exchanged.")
    document, dropped = exchange_many(document, replaced, component_id)
    for owner in list(document.owners()):
        if owner.id not in holders:
            changed = _refilled(document, owner, old_id, component_id)
            document = document if changed is owner else with_owner(document, changed)
    return Exchanged(document, dropped)


def _refilled(document: Document, owner: Owner, old_id: str, new_id: str) -> Owner:
    """The owner with slots of its instances holding another component."""

    def slot(node: Node, name: str) -> bool:
        followed = document.components.get(str(node.style.get("component")))
        prop = followed.property(name.removeprefix(CHOICE)) if followed else None
        return name.startswith(CHOICE) and prop is not None and prop.kind == "slot"

    def change(node: Node) -> Node:
        filled = {k: new_id for k, v in node.style.items() if v == old_id and slot(node, k)}
        return restyled(node, Map(filled)) if filled else node

    root = rebuilt_tree(owner.root, change)
    return owner if root is owner.root else with_root(owner, root)


def _followed(document: Document, node: Node) -> Component:
    component_id = node.style.get("component")
    if node.kind != "instance" or not isinstance(component_id, str):
        raise Refusal(f"“{node.name}” is not an instance of one component.")
    return component_of(document, component_id)


class Mover:
    """Takes an instance's differences from one component to another, by names."""

    def __init__(self, document: Document, old: Component, new: Component) -> None:
        self._document = document
        self._old = old
        self._new = new
        self.dropped: list[str] = []

    def moved(self, node: Node, rules: tuple[Rule, ...]) -> Node:
        """The instance as one of the new component; `rules` are the holder's rules that go
        aside with what the instance loses itself."""
        style: dict[str, Value] = {}
        style["component"] = self._new.id
        overrides: list[Rule] = []
        lost: list[Rule] = []
        for rule in [*_styled(node), *node.overrides]:
            carried_rule = self.carried(rule)
            if carried_rule is None:
                lost.append(rule)
            # Without path and conditions it is what the instance itself says.
            elif carried_rule.node or carried_rule.when:
                overrides.append(carried_rule)
            else:
                style[carried_rule.property] = carried_rule.value
        remaining = []
        for aside in node.aside:
            back, _, still = self._returning(aside)
            for rule in back:
                if rule.node or rule.when:
                    overrides.append(rule)
                else:
                    # What was said since then counts.
                    style.setdefault(rule.property, rule.value)
            if still is not None:
                remaining.append(still)
        if lost or rules:
            remaining.append(Aside(self._old.id, tuple(lost), rules))
        return msgspec.structs.replace(
            node, style=Map(style), overrides=_distinct(overrides), aside=tuple(remaining)
        )

    def _returning(self, aside: Aside) -> tuple[list[Rule], list[Rule], Aside | None]:
        """Of what was set aside with an earlier component: the overrides and the holder's
        rules that mean something in the new one, and what stays aside."""
        earlier = self._document.components.get(aside.component)
        # Its component was taken out of the file: nobody can say what it means.
        if earlier is None:
            return [], [], aside
        if earlier is self._new:
            return list(aside.own), list(aside.held), None
        mover = Mover(self._document, earlier, self._new)
        own = [(rule, mover.carried(rule)) for rule in aside.own]
        aside_rules = [(rule, mover.carried_held(rule)) for rule in aside.held]
        still = Aside(
            aside.component,
            tuple(rule for rule, result in own if result is None),
            tuple(rule for rule, result in aside_rules if result is None),
        )
        return (
            [result for _, result in own if result is not None],
            [result for _, result in aside_rules if result is not None],
            still if still.own or still.held else None,
        )

    def holding(self, owner: Component, node: Node) -> tuple[Component, list[Rule]]:
        """The component that holds the instance with its rules about it carried over, and
        those that mean nothing any more."""
        rules: list[Rule] = []
        lost: list[Rule] = []
        for rule in owner.rules:
            # Rules about other parts, and which component it is, are not about its inside.
            if rule.node[0] != node.id or rule.property == "component":
                rules.append(rule)
                continue
            carried_rule = self.carried_held(rule)
            if carried_rule is None:
                lost.append(rule)
            else:
                rules.append(carried_rule)
        for aside in node.aside:
            rules += self._returning(aside)[1]
        return msgspec.structs.replace(owner, rules=_distinct(rules)), lost

    def carried(self, rule: Rule) -> Rule | None:
        """What a difference becomes in the new component; None (and noted) if nothing."""
        path = _same_way(self._document, (self._old, self._new), rule.node)
        when: dict[str, str] = {}
        for axis, said in rule.when.items():
            for choice, same in self._choice(axis, said).items():
                when[choice.removeprefix(CHOICE)] = str(same)
        # A rule with fewer conditions would hold where it did not.
        if path is None or len(when) < len(rule.when):
            self.dropped.append(f"{_label(rule.property)} of a part inside")
            return None
        name, value = rule.property, rule.value
        if not path and name.startswith(CHOICE):
            chosen = self._choice(name.removeprefix(CHOICE), value)
            if not chosen:
                self.dropped.append(self._called(name.removeprefix(CHOICE)))
                return None
            ((name, value),) = chosen.items()
        elif not path and not self._means(name):
            self.dropped.append(row_of(name).label)
            return None
        return Rule(Map(when), path, name, value)

    def carried_held(self, rule: Rule) -> Rule | None:
        """The same for a rule of the holder: its conditions are the holder's own, and its
        path begins with the instance."""
        inner = msgspec.structs.replace(rule, node=rule.node[1:], when=Map())
        carried_inner = self.carried(inner)
        if carried_inner is None:
            return None
        return msgspec.structs.replace(
            carried_inner, node=(rule.node[0], *carried_inner.node), when=rule.when
        )

    def _means(self, name: str) -> bool:
        root = self._new.root
        return root.kind == "instance" or applies(name, root.kind)

    def _called(self, key: str) -> str:
        of = self._old.axis(key) or self._old.property(key)
        return of.name if of is not None else "a choice"

    def _choice(self, key: str, value: Value) -> dict[str, Value]:
        """The same choice in the new component, by names; empty if there is none."""
        axis, prop = self._old.axis(key), self._old.property(key)
        if axis is not None:
            chosen = axis.value(value) if isinstance(value, str) else None
            other = next((a for a in self._new.axes if a.name == axis.name), None)
            same_value = other.named(chosen.name) if other and chosen else None
            return {CHOICE + other.id: same_value.id} if other and same_value else {}
        same = [
            p for p in self._new.properties if prop and (p.name, p.kind) == (prop.name, prop.kind)
        ]
        return {CHOICE + same[0].id: value} if same else {}


def _styled(node: Node) -> Iterator[Rule]:
    """An instance's own style as overrides with an empty path."""
    for name, value in node.style.items():
        if name != "component":
            yield Rule(Map(), (), name, value)


def _label(name: str) -> str:
    return "Choice" if name.startswith(CHOICE) else row_of(name).label


def _distinct(rules: Iterable[Rule]) -> tuple[Rule, ...]:
    """The rules, the first of those that speak of the same."""
    distinct: dict[object, Rule] = {}
    for rule in rules:
        distinct.setdefault((rule.when, rule.node, rule.property), rule)
    return tuple(distinct.values())


def _same_way(
    document: Document, components: tuple[Component, Component], path: Path
) -> Path | None:
    """The path in the second component to the node that is called and made the same."""
    old, new = components
    if not path:
        return ()
    before = find(old.root, path[0])
    if before is None:
        return None
    same = [n for n in walk(new.root) if (n.name, n.kind) == (before.name, before.kind)]
    if not same:
        return None
    if len(path) == 1:
        return (same[0].id,)
    inner = [document.components.get(str(n.style.get("component"))) for n in (before, same[0])]
    if inner[0] is None or inner[1] is None:
        return None
    rest = _same_way(document, (inner[0], inner[1]), path[1:])
    return None if rest is None else (same[0].id, *rest)
