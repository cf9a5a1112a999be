"""Making a component of a drawn part, and a component of its own of a variant."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.properties import rows_of
from outgrowth.core.document.records import Component, Document, Node, Rule, lineage, walk
from outgrowth.core.document.values import FromProperty
from outgrowth.core.document.variants import Variant
from outgrowth.core.edits.tree.components import add_component, component_of
from outgrowth.core.edits.tree.trees import owner_of, rebuilt_tree, with_node, with_owner
from outgrowth.core.edits.variants.axes import fixed_at
from outgrowth.core.refusal import Refusal


def make_component(
    document: Document, owner_id: str, node_id: str, component_id: str, name: str
) -> Document:
    """The document with a part of a tree made a component, and an instance in its place.

    What the part says about its place among its neighbours stays with the instance; so do
    references to the holder's properties, and the holder's rules reach through to the inside.
    Raises Refusal for the outermost box and for what is an instance already.
    """
    owner = owner_of(document, owner_id)
    line = lineage(owner.root, node_id)
    if len(line) < 2:
        raise Refusal("The outermost box cannot become a component; pick a part inside it.")
    node = line[-1]
    if node.kind == "instance":
        raise Refusal(f"“{node.name}” is an instance already.")
    outside = {k: v for k, v in node.style.items() if k in _PLACEMENT}
    root = msgspec.structs.replace(
        node, style=Map({k: v for k, v in node.style.items() if k not in outside})
    )
    inside, handed = _without_references(root)
    instance = Node(
        node.id,
        node.name,
        "instance",
        Map({**outside, "component": component_id}),
        overrides=tuple(handed),
    )
    document = add_component(document, Component(component_id, name, inside))
    changed = with_node(owner, node_id, lambda _: instance)
    if isinstance(changed, Component):
        changed = msgspec.structs.replace(changed, rules=_reaching(changed.rules, node))
    return with_owner(document, changed)


_PLACEMENT = rows_of("placement")


def _without_references(root: Node) -> tuple[Node, list[Rule]]:
    """The tree with references to the holder's properties taken out, and rules by which the
    holder still gives them."""
    handed: list[Rule] = []

    def change(node: Node) -> Node:
        refs = {k: v for k, v in node.style.items() if isinstance(v, FromProperty)}
        path = () if node.id == root.id else (node.id,)
        handed.extend(Rule(Map(), path, name, value) for name, value in refs.items())
        if not refs:
            return node
        plain = {k: v for k, v in node.style.items() if k not in refs}
        return msgspec.structs.replace(node, style=Map(plain))

    return rebuilt_tree(root, change), handed


def _reaching(rules: tuple[Rule, ...], node: Node) -> tuple[Rule, ...]:
    """The holder's rules with those about the part's inside going through the instance."""
    inside = {n.id for n in walk(node)} - {node.id}
    return tuple(
        msgspec.structs.replace(r, node=(node.id, *r.node)) if r.node[0] in inside else r
        for r in rules
    )


def take_out(
    document: Document, component_id: str, variant: Variant, new_id: str, name: str
) -> Document:
    """The document with one variant as a component of its own: axes that are chosen are
    fixed at its values, those that the pointer or the keyboard drives stay."""
    component = component_of(document, component_id)
    chosen = {a.id: variant[a.id] for a in component.axes if a.driver == "none"}
    alone = fixed_at(component, Map(chosen))
    return add_component(document, msgspec.structs.replace(alone, id=new_id, name=name))
