"""Instances: placing, exchanging their component, detaching, and pushing a difference up."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, applies, row_of
from outgrowth.core.document.records import Component, Document, Node, Path, Rule, find, walk
from outgrowth.core.document.uses import way_into
from outgrowth.core.document.values import Shift, Value
from outgrowth.core.edits.components import component_of
from outgrowth.core.edits.errors import EditError
from outgrowth.core.edits.nodes import add_node
from outgrowth.core.edits.styles import set_properties
from outgrowth.core.edits.trees import node_of, owner_of, with_node, with_owner
from outgrowth.core.resolve.cascade import Scope, Step, input_of, settle, steps_of
from outgrowth.core.resolve.ladder import Place, PlainLookup, inspect


def place_instance(
    document: Document,
    owner_id: str,
    parent_id: str,
    component_id: str,
    node_id: str,
    index: int | None = None,
) -> Document:
    """The document with a new instance in a box. Raises EditError where it cannot be."""
    component = component_of(document, component_id)
    name = component.name.rpartition("/")[2].lower()
    node = Node(node_id, name, "instance", Map({"component": component_id}))
    return add_node(document, owner_id, parent_id, node, index)


# --- exchanging -----------------------------------------------------------------------------


class Exchanged(NamedTuple):
    """A document with instances following another component, and what meant nothing there."""

    document: Document
    dropped: tuple[str, ...]


def exchange(document: Document, owner_id: str, node_id: str, component_id: str) -> Exchanged:
    """One instance follows another component. Choices are kept by the names of axis and
    value or property, overrides by the names and kinds of the nodes on their way.

    Raises EditError if a component would come to contain itself.
    """
    owner = owner_of(document, owner_id)
    node = node_of(owner, node_id)
    old, new = _followed(document, node), component_of(document, component_id)
    way = way_into(document, component_id, owner_id)
    if way:
        names = " › ".join(document.components[i].name for i in (owner_id, *way))
        raise EditError(f"A component cannot contain itself: {names}.")
    mover = _Mover(document, old, new)
    moved = mover.moved(node)
    changed = with_owner(document, with_node(owner, node_id, lambda _: moved))
    return Exchanged(changed, tuple(mover.dropped))


def _followed(document: Document, node: Node) -> Component:
    held = node.style.get("component")
    if node.kind != "instance" or not isinstance(held, str):
        raise EditError(f"“{node.name}” is not an instance of one component.")
    return component_of(document, held)


class _Mover:
    """Takes an instance's differences from one component to another, by names."""

    def __init__(self, document: Document, old: Component, new: Component) -> None:
        self._document = document
        self._old = old
        self._new = new
        self.dropped: list[str] = []

    def moved(self, node: Node) -> Node:
        style: dict[str, Value] = {}
        for name, value in node.style.items():
            if name == "component":
                style[name] = self._new.id
            elif name.startswith(CHOICE):
                style |= self._choice(name.removeprefix(CHOICE), value)
            elif self._means(self._new.root, name):
                style[name] = value
            else:
                self.dropped.append(row_of(name).label)
        overrides = [r for rule in node.overrides for r in self._override(rule)]
        return msgspec.structs.replace(node, style=Map(style), overrides=tuple(overrides))

    def _means(self, root: Node, name: str) -> bool:
        return root.kind == "instance" or applies(name, root.kind)

    def _choice(self, key: str, value: Value) -> dict[str, Value]:
        axis, prop = self._old.axis(key), self._old.property(key)
        if axis is not None:
            chosen = axis.value(value) if isinstance(value, str) else None
            other = next((a for a in self._new.axes if a.name == axis.name), None)
            found = other.named(chosen.name) if other and chosen else None
            if other is not None and found is not None:
                return {CHOICE + other.id: found.id}
            self.dropped.append(axis.name)
        elif prop is not None:
            same = [p for p in self._new.properties if (p.name, p.kind) == (prop.name, prop.kind)]
            if same:
                return {CHOICE + same[0].id: value}
            self.dropped.append(prop.name)
        return {}

    def _override(self, rule: Rule) -> Iterator[Rule]:
        path = _same_way(self._document, (self._old, self._new), rule.node)
        when: dict[str, str] = {}
        for axis, value in rule.when.items():
            for name, said in self._choice(axis, value).items():
                when[name.removeprefix(CHOICE)] = str(said)
        if path is None or len(when) < len(rule.when):
            self.dropped.append(f"{row_of(rule.property).label} of a part inside")
            return
        yield Rule(Map(when), path, rule.property, rule.value)


def _same_way(
    document: Document, components: tuple[Component, Component], path: Path
) -> Path | None:
    """The path in the second component to the node that is called and made the same."""
    old, new = components
    if not path:
        return ()
    was = find(old.root, path[0])
    if was is None:
        return None
    same = [n for n in walk(new.root) if (n.name, n.kind) == (was.name, was.kind)]
    if not same:
        return None
    if len(path) == 1:
        return (same[0].id,)
    inner = [document.components.get(str(n.style.get("component"))) for n in (was, same[0])]
    if inner[0] is None or inner[1] is None:
        return None
    rest = _same_way(document, (inner[0], inner[1]), path[1:])
    return None if rest is None else (same[0].id, *rest)


# --- detaching ------------------------------------------------------------------------------


def detach(document: Document, owner_id: str, node_id: str) -> Document:
    """The document with an instance turned into plain nodes that look as it does now; what
    is nested in it stays an instance. Ids inside are the instance's with the old ones behind.
    """
    owner = owner_of(document, owner_id)
    node = node_of(owner, node_id)
    found = inspect(document, Place(owner_id, (node_id,)))
    if node.kind != "instance" or found is None:
        raise EditError(f"“{node.name}” is not an instance.")
    plain = _Detacher(document, found.scope, node_id).plain(found.node)
    named = msgspec.structs.replace(plain, name=node.name, id=node_id)
    return with_owner(document, with_node(owner, node_id, lambda _: named))


class _Detacher:
    def __init__(self, document: Document, scope: Scope, prefix: str) -> None:
        self._lookup = PlainLookup(document)
        self._scope = scope
        self._prefix = prefix

    def plain(self, node: Node) -> Node:
        steps = steps_of(self._scope, node)
        node_id = f"{self._prefix}.{node.id}"
        if node.kind == "instance":
            return self._nested(node, node_id, steps)
        style = {name: self._today(name, said) for name, said in steps.items()}
        children = tuple(self.plain(child) for child in node.children)
        return Node(node_id, node.name, node.kind, Map(style), children, extras=node.extras)

    def _today(self, name: str, steps: list[Step]) -> Value:
        """The last plain value as it was said (a token stays one); settled under shifts."""
        if any(isinstance(step.value, Shift) for step in steps):
            return settle(name, steps, self._lookup)
        return steps[-1].value

    def _nested(self, node: Node, node_id: str, steps: dict[str, list[Step]]) -> Node:
        given = input_of(self._scope, node, steps, self._lookup)
        style: dict[str, Value] = {"component": given.component}
        style |= {CHOICE + key: value for key, value in given.choices}
        deeper: dict[tuple[object, ...], Rule] = {}
        for entry in given.entries:
            if entry.path or entry.when or isinstance(entry.value, Shift):
                key = entry.path, entry.property, entry.when, isinstance(entry.value, Shift)
                deeper[key] = Rule(entry.when, entry.path, entry.property, entry.value)
            else:
                style[entry.property] = entry.value
        return Node(node_id, node.name, "instance", Map(style), (), tuple(deeper.values()))


# --- pushing up -----------------------------------------------------------------------------


def push_up(document: Document, owner_id: str, node_id: str, reach: Map[str, str]) -> Document:
    """The document with the component made like one of its instances: what the instance
    overrides is written to the component at this reach, and taken from the instance. Its
    choices, its place and its size among its neighbours stay its own."""
    owner = owner_of(document, owner_id)
    node = node_of(owner, node_id)
    component = _followed(document, node)
    pushed = {k: v for k, v in node.style.items() if not _own(k)}
    if not pushed and not node.overrides:
        raise EditError(f"“{node.name}” differs in nothing from its component.")
    if pushed:
        document = set_properties(document, Place(component.id), pushed, reach)
    for rule in node.overrides:
        place = Place(component.id, rule.node)
        when = reach.update(rule.when)
        document = set_properties(document, place, {rule.property: rule.value}, when)
    kept = Map({k: v for k, v in node.style.items() if _own(k)})
    bare = msgspec.structs.replace(node, style=kept, overrides=())
    owner = owner_of(document, owner_id)
    return with_owner(document, with_node(owner, node_id, lambda _: bare))


def _own(name: str) -> bool:
    """Whether a value is about the instance's place rather than about what it shows."""
    row = row_of(name)
    return row.affects in ("structure", "presence") or row.group in ("Size", "Position")
