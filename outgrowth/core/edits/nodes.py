"""Adding, removing, renaming and moving nodes of a component's or screen's own tree."""

from __future__ import annotations

from collections.abc import Mapping

import msgspec
from immutables import Map

from outgrowth.core.document.properties import Kind, row_of
from outgrowth.core.document.records import Component, Document, Node, Rule, find, lineage, walk
from outgrowth.core.document.types import check_value
from outgrowth.core.document.values import Value
from outgrowth.core.edits.errors import EditError
from outgrowth.core.edits.trees import node_of, owner_of, refuse_cycle, with_node, with_owner

DEEPEST = 200
"""Levels of nesting that a tree may have."""


def new_node(
    node_id: str,
    name: str,
    kind: Kind,
    style: Mapping[str, Value] | None = None,
    children: tuple[Node, ...] = (),
) -> Node:
    """A node whose values fit the property table. Raises ValueProblem or KeyError."""
    checked = {k: check_value(row_of(k).type, v) for k, v in (style or {}).items()}
    return Node(node_id, name, kind, Map(checked), children)


def add_node(
    document: Document, owner_id: str, parent_id: str, node: Node, index: int | None = None
) -> Document:
    """The document with `node` put into a box, at `index` or last.

    Raises EditError if the parent cannot hold it, an id is taken, or a component would
    contain itself.
    """
    owner = owner_of(document, owner_id)
    parent = node_of(owner, parent_id)
    if parent.kind != "box":
        raise EditError(f"“{parent.name}” is a {parent.kind}; only a box holds other parts.")
    if len(lineage(owner.root, parent_id)) >= DEEPEST:
        raise EditError(f"Parts can be nested {DEEPEST} levels deep, and this would be deeper.")
    taken = {n.id for n in walk(owner.root)} & {n.id for n in walk(node)}
    if taken:
        raise EditError(f"“{node.name}” is already in “{owner.name}”.")
    _refuse_cycles(document, owner_id, node)
    at = len(parent.children) if index is None else index
    children = (*parent.children[:at], node, *parent.children[at:])
    changed = with_node(owner, parent_id, lambda n: msgspec.structs.replace(n, children=children))
    return with_owner(document, changed)


def _refuse_cycles(document: Document, owner_id: str, node: Node) -> None:
    for inner in walk(node):
        if inner.kind == "instance":
            refuse_cycle(document, owner_id, inner.style.get("component"))


def remove_node(document: Document, owner_id: str, node_id: str) -> Document:
    """The document without a node and all beneath it; rules about them go too.

    Raises EditError for the root.
    """
    owner = owner_of(document, owner_id)
    line = lineage(owner.root, node_id)
    if len(line) < 2:
        raise EditError(f"The outermost box of “{owner.name}” cannot be removed.")
    gone = {n.id for n in walk(line[-1])}

    def change(parent: Node) -> Node:
        children = tuple(c for c in parent.children if c.id != node_id)
        return msgspec.structs.replace(parent, children=children)

    changed = with_node(owner, line[-2].id, change)
    if isinstance(changed, Component):
        rules = tuple(r for r in changed.rules if r.node[0] not in gone)
        changed = msgspec.structs.replace(changed, rules=rules)
    behaviour = changed.behaviour.without(gone)
    return with_owner(document, msgspec.structs.replace(changed, behaviour=behaviour))


def rename_node(document: Document, owner_id: str, node_id: str, name: str) -> Document:
    """The document with a node called `name`. Raises EditError for an empty name."""
    said = name.strip()
    if not said:
        raise EditError("A part needs a name.")
    owner = owner_of(document, owner_id)
    change = with_node(owner, node_id, lambda n: msgspec.structs.replace(n, name=said))
    return with_owner(document, change)


def move_node(
    document: Document, owner_id: str, node_id: str, parent_id: str, index: int
) -> Document:
    """The document with a node taken out and put into a box of the same owner, before the
    child that then stands at `index`. Its rules follow, since its id stays.

    Raises EditError if it would be put into itself.
    """
    owner = owner_of(document, owner_id)
    node = node_of(owner, node_id)
    if find(node, parent_id) is not None:
        raise EditError(f"“{node.name}” cannot be put into itself.")
    rules: tuple[Rule, ...] = owner.rules if isinstance(owner, Component) else ()
    moved = add_node(remove_node(document, owner_id, node_id), owner_id, parent_id, node, index)
    changed = moved.owner(owner_id)
    assert changed is not None
    changed = msgspec.structs.replace(changed, behaviour=owner.behaviour)
    if isinstance(changed, Component):
        changed = msgspec.structs.replace(changed, rules=rules)
    return with_owner(moved, changed)
