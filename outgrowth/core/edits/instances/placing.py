"""Instances are placed in boxes."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.document.records import (
    Document,
    Node,
)
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.given_names import name_of_instance
from outgrowth.core.edits.tree.nodes import add_node


def place_instance(
    document: Document,
    owner_id: str,
    parent_id: str,
    component_id: str,
    node_id: str,
    index: int | None = None,
) -> Document:
    """The document with a new instance in a box. Raises Refusal where it cannot be."""
    component = component_of(document, component_id)
    name = name_of_instance(component)
    node = Node(node_id, name, "instance", Map({"component": component_id}))
    return add_node(document, owner_id, parent_id, node, index)
