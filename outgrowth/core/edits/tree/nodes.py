"""Adding, removing, renaming and moving nodes of a component's or screen's own tree."""

from __future__ import annotations

from collections.abc import Mapping

import msgspec
from immutables import Map

from outgrowth.core.document.properties import NodeKind
from outgrowth.core.document.records import Component, Document, Node, Owner, find, lineage, walk
from outgrowth.core.document.values import Value
from outgrowth.core.edits.tree.trees import node_of, owner_of, refuse_cycle, with_node, with_owner
from outgrowth.core.refusal import Refusal


def new_node(
    node_id: str,
    name: str,
    kind: NodeKind,
    style: Mapping[str, Value] | None = None,
    children: tuple[Node, ...] = (),
) -> Node:
    """A node with a style given as any mapping. Raises ValueRefusal, as every node does."""
    return Node(node_id, name, kind, Map(style or {}), children)


def add_node(
    document: Document, owner_id: str, parent_id: str, node: Node, index: int | None = None
) -> Document:
    """The document with `node` put into a box, at `index` or last.

    Raises Refusal if the parent cannot hold it, an id is taken, or a component would
    contain itself.
    """
    owner = owner_of(document, owner_id)
    _box_of(owner, parent_id)
    used = {n.id for n in walk(owner.root)} & {n.id for n in walk(node)}
    if used:
        raise Refusal(f"“{node.name}” is already in “{owner.name}”.")
    _refuse_cycles(document, owner_id, node)
    changed = with_node(owner, parent_id, lambda parent: _with_child(parent, node, index))
    return with_owner(document, changed)


def _refuse_cycles(document: Document, owner_id: str, node: Node) -> None:
    for inner in walk(node):
        if inner.kind == "instance":
            refuse_cycle(document, owner_id, inner.style.get("component"))


def remove_node(document: Document, owner_id: str, node_id: str) -> Document:
    """The document without a node and all beneath it; rules about them go too.

    Raises Refusal for the root.
    """
    owner = owner_of(document, owner_id)
    node_of(owner, node_id)
    line = lineage(owner.root, node_id)
    if len(line) < 2:
        raise Refusal(f"The outermost box of “{owner.name}” cannot be removed.")
    removed = {n.id for n in walk(line[-1])}
    changed = with_node(owner, line[-2].id, lambda parent: _without_child(parent, node_id))
    if isinstance(changed, Component):
        rules = tuple(r for r in changed.rules if r.node[0] not in removed)
        changed = msgspec.structs.replace(changed, rules=rules)
    behaviour = changed.behaviour.without(removed)
    return with_owner(document, msgspec.structs.replace(changed, behaviour=behaviour))


def rename_node(document: Document, owner_id: str, node_id: str, name: str) -> Document:
    """The document with a node called `name`. Raises Refusal for an empty name."""
    new_name = name.strip()
    if not new_name:
        raise Refusal("A part needs a name.")
    owner = owner_of(document, owner_id)
    renamed = with_node(owner, node_id, lambda n: msgspec.structs.replace(n, name=new_name))
    return with_owner(document, renamed)


def move_node(
    document: Document, owner_id: str, node_id: str, parent_id: str, index: int
) -> Document:
    """The document with a node taken out and put into a box of the same owner, before the
    child that then stands at `index`. Its rules follow, since its id stays.

    Raises Refusal if it would be put into itself.
    """
    owner = owner_of(document, owner_id)
    line = lineage(owner.root, node_id)
    if len(line) < 2:
        node_of(owner, node_id)
        raise Refusal(f"The outermost box of “{owner.name}” cannot be moved.")
    node = line[-1]
    if find(node, parent_id) is not None:
        raise Refusal(f"“{node.name}” cannot be put into itself.")
    _box_of(owner, parent_id)
    bare = with_node(owner, line[-2].id, lambda holder: _without_child(holder, node_id))
    return with_owner(document, with_node(bare, parent_id, lambda b: _with_child(b, node, index)))


def _box_of(owner: Owner, parent_id: str) -> Node:
    """The box that should hold something. Raises Refusal for what is none."""
    parent = node_of(owner, parent_id)
    if parent.kind != "box":
        raise Refusal(f"“{parent.name}” is a {parent.kind}; only a box holds other parts.")
    return parent


def _with_child(parent: Node, child: Node, index: int | None) -> Node:
    place = len(parent.children) if index is None else min(max(index, 0), len(parent.children))
    children = (*parent.children[:place], child, *parent.children[place:])
    return msgspec.structs.replace(parent, children=children)


def _without_child(parent: Node, node_id: str) -> Node:
    children = tuple(c for c in parent.children if c.id != node_id)
    return msgspec.structs.replace(parent, children=children)
