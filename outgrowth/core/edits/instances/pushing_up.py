"""The component becomes like one of its instances."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Document,
)
from outgrowth.core.edits.instances.exchanging import _followed
from outgrowth.core.edits.style.styles import KEPT_OUTSIDE, set_properties
from outgrowth.core.edits.tree.trees import (
    node_of,
    owner_of,
    with_node,
    with_owner,
)
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place


def push_up(document: Document, owner_id: str, node_id: str, reach: Map[str, str]) -> Document:
    """The document with the component made like one of its instances: what the instance
    overrides is written to the component at this reach, and taken from the instance. Its
    choices, its place and its size among its neighbours stay its own."""
    owner = owner_of(document, owner_id)
    node = node_of(owner, node_id)
    component = _followed(document, node)
    pushed = {k: v for k, v in node.style.items() if not _own(k)}
    if not pushed and not node.overrides:
        raise Refusal(f"“{node.name}” differs in nothing from its component.")
    if pushed:
        document = set_properties(document, Place(component.id), pushed, reach)
    for rule in node.overrides:
        place = Place(component.id, rule.node)
        when = reach.update(rule.when)
        document = set_properties(document, place, {rule.property: rule.value}, when)
    own_style = Map({k: v for k, v in node.style.items() if _own(k)})
    bare = msgspec.structs.replace(node, style=own_style, overrides=())
    owner = owner_of(document, owner_id)
    return with_owner(document, with_node(owner, node_id, lambda _: bare))


def _own(name: str) -> bool:
    """Whether a value is about the instance's place rather than about what it shows."""
    return name.startswith(CHOICE) or name in KEPT_OUTSIDE
