"""The component becomes like one of its instances."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Document,
)
from outgrowth.core.document.values import FromProperty, Value
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
    choices, its place and its size among its neighbours stay its own, and so does what properties
    of its holder decide."""
    owner = owner_of(document, owner_id)
    node = node_of(owner, node_id)
    component = _followed(document, node)
    pushed = {k: v for k, v in node.style.items() if not _stays(k, v)}
    said = [rule for rule in node.overrides if not isinstance(rule.value, FromProperty)]
    if not pushed and not said:
        raise Refusal(f"“{node.name}” differs in nothing from its component.")
    if pushed:
        document = set_properties(document, Place(component.id), pushed, reach)
    for rule in said:
        place = Place(component.id, rule.node)
        when = reach.update(rule.when)
        document = set_properties(document, place, {rule.property: rule.value}, when)
    own_style = Map({k: v for k, v in node.style.items() if _stays(k, v)})
    kept = tuple(rule for rule in node.overrides if rule not in said)
    bare = msgspec.structs.replace(node, style=own_style, overrides=kept)
    owner = owner_of(document, owner_id)
    return with_owner(document, with_node(owner, node_id, lambda _: bare))


def _stays(name: str, value: Value) -> bool:
    """Whether a value is about the instance's place rather than about what it shows, or is a
    property of what holds it."""
    own = name.startswith(CHOICE) or name in KEPT_OUTSIDE
    return own or isinstance(value, FromProperty)
