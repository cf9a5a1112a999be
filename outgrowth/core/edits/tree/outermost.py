"""A component put into a box as a whole: the box is its new outermost part.

What the component is for what holds it (its size, its place, what it does) is said of the box
from then on, its looks of the part inside, where instances say them too.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, rows_of
from outgrowth.core.document.records import Component, Document, Node, Owner, Path, Rule
from outgrowth.core.document.sentences import node_in
from outgrowth.core.document.values import FIT, GROW, Value
from outgrowth.core.edits.tree.arrange import Where, is_still
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.trees import rebuilt_tree, with_owner, with_root
from outgrowth.core.refusal import Refusal

_OF_THE_WHOLE = rows_of("placement", "size", "behaviour")
_OF_THE_INSTANCE = _OF_THE_WHOLE | rows_of("structure")


def wrap_around(
    document: Document, component_id: str, box_id: str, layouts: Sequence[Where]
) -> Document:
    """The document with a component's outermost part put into a new one; nothing moves in any
    of the variants that `layouts` look at.

    Raises Refusal where something would.
    """
    component = component_of(document, component_id)
    before = [where(document) for where in layouts]
    for style in _inner_styles(component.root):
        changed = _wrapped(document, component, box_id, style)
        if all(is_still(was, where(changed)) for was, where in zip(before, layouts, strict=True)):
            return changed
    raise Refusal(f"“{component.short_name}” cannot be put into a box without moving something.")


def _inner_styles(root: Node) -> tuple[dict[str, Value], ...]:
    """What the part inside says of its size, so that it fills the box: tried in turn."""
    sides = {"width": root.style.get("width", FIT), "height": root.style.get("height", FIT)}
    return (
        {"width": GROW, "height": FIT},
        {"width": GROW, "height": GROW},
        {"width": FIT, "height": FIT},
        sides,
    )


def _wrapped(
    document: Document, component: Component, box_id: str, size: dict[str, Value]
) -> Document:
    root = component.root
    outside = {k: v for k, v in root.style.items() if k in _OF_THE_WHOLE}
    inside = {k: v for k, v in root.style.items() if k not in outside}
    inner = msgspec.structs.replace(root, style=Map(inside | size))
    box = Node(box_id, "box", "box", Map({"flow": "row", "align": "stretch"} | outside), (inner,))
    rules = tuple(
        msgspec.structs.replace(rule, node=(box_id,))
        if rule.node == (root.id,) and rule.property in _OF_THE_WHOLE
        else rule
        for rule in component.rules
    )
    document = with_owner(document, msgspec.structs.replace(component, root=box, rules=rules))
    for owner in tuple(document.owners()):
        changed = _followed(document, owner, component.id, root.id)
        document = document if changed is owner else with_owner(document, changed)
    return document


def _followed(document: Document, owner: Owner, component_id: str, root_id: str) -> Owner:
    """The owner with what it says of the looks of such instances said of the part inside."""

    def is_instance(path: Path) -> bool:
        node = node_in(document, owner, path)
        return node is not None and node.style.get("component") == component_id

    def moved(rule: Rule, path: Path) -> Rule:
        kept = rule.property in _OF_THE_INSTANCE or rule.property.startswith(CHOICE)
        if kept or not is_instance(path):
            return rule
        return msgspec.structs.replace(rule, node=(*rule.node, root_id))

    root = rebuilt_tree(owner.root, partial(_moved_inside, component_id, root_id))

    def nested(node: Node) -> Node:
        overrides = tuple(
            moved(rule, (node.id, *rule.node)) if rule.node else rule for rule in node.overrides
        )
        same = all(a is b for a, b in zip(overrides, node.overrides, strict=True))
        return node if same else msgspec.structs.replace(node, overrides=overrides)

    root = rebuilt_tree(root, nested)
    changed = owner if root is owner.root else with_root(owner, root)
    if not isinstance(changed, Component):
        return changed
    rules = tuple(moved(rule, rule.node) for rule in changed.rules)
    if all(a is b for a, b in zip(rules, changed.rules, strict=True)):
        return changed
    return msgspec.structs.replace(changed, rules=rules)


def _moved_inside(component_id: str, root_id: str, node: Node) -> Node:
    """An instance with its looks as overrides of the part inside."""
    if node.kind != "instance" or node.style.get("component") != component_id:
        return node
    looks = {
        k: v
        for k, v in node.style.items()
        if k not in _OF_THE_INSTANCE and not k.startswith(CHOICE)
    }
    said = [Rule(Map(), (root_id,), name, value) for name, value in looks.items()]
    about_root = [r for r in node.overrides if not r.node and r.property not in _OF_THE_INSTANCE]
    if not looks and not about_root:
        return node
    said += [msgspec.structs.replace(rule, node=(root_id,)) for rule in about_root]
    others = [rule for rule in node.overrides if rule not in about_root]
    style = Map({k: v for k, v in node.style.items() if k not in looks})
    return msgspec.structs.replace(node, style=style, overrides=(*said, *others))
