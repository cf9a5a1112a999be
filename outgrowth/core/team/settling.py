"""What instances differ in, after the component that they follow became another one.

What still means something stays as it is. What is called the same, though it was made anew, is
carried over. The rest is set aside, as when an instance is exchanged: it is kept, listed, and
comes back once it means something again.
"""

from __future__ import annotations

from collections.abc import Collection
from operator import itemgetter
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, row_of
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
from outgrowth.core.document.values import Value
from outgrowth.core.edits.instances.exchanging import Mover
from outgrowth.core.edits.tree.trees import rebuilt_tree, with_root


class SetAside(NamedTuple):
    """What an instance loses for now: where it stands, and what it was about."""

    owner: str
    node: str
    description: str


class Settled(NamedTuple):
    """A document whose instances say nothing that means nothing, and what they said."""

    document: Document
    set_aside: tuple[SetAside, ...]


def settled(before: Document, after: Document, changed: Collection[str]) -> Settled:
    """The document after some components became other ones: `before` says what the instances'
    differences meant."""
    settling = _Settling(before, after, changed)
    components, screens = after.components, after.screens
    for owner in after.owners():
        changed_owner = settling.owner(owner)
        if changed_owner is not owner and isinstance(changed_owner, Component):
            components = components.set(changed_owner.id, changed_owner)
        elif changed_owner is not owner:
            screens = screens.set(changed_owner.id, changed_owner)  # type: ignore[arg-type]  # what is no component
    if components is not after.components or screens is not after.screens:
        after = msgspec.structs.replace(after, components=components, screens=screens)
    return Settled(after, tuple(settling.aside))


class _Settling:
    def __init__(self, before: Document, after: Document, changed: Collection[str]) -> None:
        self._before = before
        self._after = after
        self._changed = changed
        self.aside: list[SetAside] = []

    def owner(self, owner: Owner) -> Owner:
        if self._after.sharing.read_only(owner.id):
            return owner  # its makers saw to it
        lost: dict[str, list[Rule]] = {}
        holder_rules = owner.rules if isinstance(owner, Component) else ()
        kept_rules = []
        touched = {node.id: node for node in walk(owner.root) if self._follows(node)}
        if not touched:
            return owner
        for rule in holder_rules:
            node = touched.get(rule.node[0])
            inner = msgspec.structs.replace(rule, node=rule.node[1:], when=Map())
            if node is None or rule.property == "component" or self._means(node, inner):
                kept_rules.append(rule)
                continue
            carried = self._mover(node).carried_held(rule)
            if carried is not None and self._means(node, _inside(carried)):
                kept_rules.append(carried)
            else:
                lost.setdefault(node.id, []).append(rule)
                self._note(owner, node, rule)
        back: list[Rule] = []

        def settled_copy(node: Node) -> Node:
            if node.id not in touched:
                return node
            settled_node, returned = self._node(owner, node, tuple(lost.get(node.id, ())))
            back.extend(returned)
            return settled_node

        root = rebuilt_tree(owner.root, settled_copy)
        if root is owner.root and not lost and not back:
            return owner
        changed_owner = with_root(owner, root)
        if isinstance(changed_owner, Component) and (lost or back):
            changed_owner = msgspec.structs.replace(changed_owner, rules=(*kept_rules, *back))
        return changed_owner

    def _follows(self, node: Node) -> bool:
        return node.kind == "instance" and node.style.get("component") in self._changed

    def _mover(self, node: Node) -> Mover:
        component_id = str(node.style.get("component"))
        new = self._after.components[component_id]
        return Mover(self._before, self._before.components.get(component_id, new), new)

    def _node(
        self, owner: Owner, node: Node, held_rules: tuple[Rule, ...]
    ) -> tuple[Node, list[Rule]]:
        """An instance with what means something, and rules of its holder that do so again."""
        component_id = str(node.style.get("component"))
        lost: list[Rule] = []
        style = node.style
        overrides = []
        for name, value in sorted(node.style.items(), key=itemgetter(0)):
            rule = Rule(Map(), (), name, value)
            if name != "component" and not self._means(node, rule):
                style = style.delete(name)
                carried = self._carried(node, rule)
                if carried is not None:
                    style = style.set(carried.property, carried.value)
                else:
                    lost.append(rule)
        for rule in node.overrides:
            carried_rule = rule if self._means(node, rule) else self._carried(node, rule)
            if carried_rule is None:
                lost.append(rule)
            else:
                overrides.append(carried_rule)
        for rule in lost:
            self._note(owner, node, rule)
        set_aside, back = [], []
        for old in node.aside:
            if old.component != component_id:
                set_aside.append(old)
                continue
            for rule in old.own:
                if not self._means(node, rule):
                    lost.append(rule)
                elif rule.node or rule.when:
                    overrides.append(rule)
                elif rule.property not in style:
                    style = style.set(rule.property, rule.value)
            again = [rule for rule in old.held if self._means(node, _inside(rule))]
            back += again
            held_rules = (*held_rules, *(rule for rule in old.held if rule not in again))
        if lost or held_rules:
            set_aside.append(Aside(component_id, tuple(lost), held_rules))
        settled_node = msgspec.structs.replace(
            node, style=style, overrides=tuple(overrides), aside=tuple(set_aside)
        )
        return (node if settled_node == node else settled_node), back

    def _carried(self, node: Node, rule: Rule) -> Rule | None:
        """A difference by names, where the ids it was by are gone."""
        carried = self._mover(node).carried(rule)
        return carried if carried is not None and self._means(node, carried) else None

    def _note(self, owner: Owner, node: Node, rule: Rule) -> None:
        self.aside.append(SetAside(owner.id, node.id, self._described(node, rule)))

    def _described(self, node: Node, rule: Rule) -> str:
        """“Size” of an axis that is gone, “Fill of label” of a node that is."""
        component = self._before.components.get(str(node.style.get("component")))
        if rule.property.startswith(CHOICE):
            key = rule.property.removeprefix(CHOICE)
            subject = (component.axis(key) or component.property(key)) if component else None
            label = subject.name if subject is not None else "a choice"
        else:
            label = row_of(rule.property).label
        path = rule.node[1:] if rule.node[:1] == (node.id,) else rule.node
        inner = find(component.root, path[0]) if component is not None and path else None
        return f"{label} of {inner.name}" if inner is not None else label

    # --- what still means something ---------------------------------------------------------

    def _means(self, node: Node, rule: Rule) -> bool:
        component = self._after.components.get(str(node.style.get("component")))
        if component is None:
            return True  # nobody can say
        for axis_id, value in rule.when.items():
            axis = component.axis(axis_id)
            if axis is None or axis.value(value) is None:
                return False
        return self._means_at(component, rule.node, rule.property, rule.value)

    def _means_at(self, component: Component, path: Path, name: str, value: Value) -> bool:
        if not path:
            return _can_set(component, name, value)
        node = find(component.root, path[0])
        if node is None:
            return False
        inner_component = node.style.get("component")
        if node.kind != "instance" or not isinstance(inner_component, str):
            # What stands in a slot isn't known here.
            return len(path) == 1 or node.kind == "instance"
        inner = self._after.components.get(inner_component)
        if inner is None or (len(path) == 1 and not name.startswith(CHOICE)):
            return True
        return self._means_at(inner, path[1:], name, value)


def _can_set(component: Component, name: str, value: Value) -> bool:
    """Whether an instance of a component can say this of itself."""
    if not name.startswith(CHOICE):
        return True
    key = name.removeprefix(CHOICE)
    axis = component.axis(key)
    if axis is not None:
        return not isinstance(value, str) or axis.value(value) is not None
    return component.property(key) is not None


def _inside(rule: Rule) -> Rule:
    """A holder's rule as one about the inside of its instance."""
    return msgspec.structs.replace(rule, node=rule.node[1:], when=Map())
