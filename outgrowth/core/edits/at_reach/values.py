"""Values of parts at a reach, set where they are decided.

What a property of a component decides, deep inside of an instance, is set as that property: a
slot is filled, words are given. An override beneath it would leave the property's row saying
something that is not shown.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

import msgspec

from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    find,
)
from outgrowth.core.document.values import FromProperty, Shift, Token, Value, is_content
from outgrowth.core.document.variants import holds
from outgrowth.core.edits.at_reach.deciding import decider, deciding_source, own_default, raw_value
from outgrowth.core.edits.at_reach.reach import Reach, is_narrowed
from outgrowth.core.edits.instances import properties
from outgrowth.core.edits.style.styles import (
    KEPT_OUTSIDE,
    put_back_instance,
    set_properties,
)
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.given_names import is_called_by_words, name_of_words
from outgrowth.core.edits.tree.nodes import rename_node
from outgrowth.core.edits.tree.trees import own_path, owner_of, with_node, with_owner
from outgrowth.core.refusal import Refusal, ValueRefusal
from outgrowth.core.resolve.ladder import inspect


def set_values(
    document: Document, reach: Reach, path: Path, values: Mapping[str, Value]
) -> Document:
    """The document with properties of a part set within the reach, each where it is decided.

    Raises Refusal where the part is gone or a value does not fit.
    """
    plain: dict[str, Value] = {}
    for name, value in values.items():
        found = decider(document, reach.place(path), name)
        if isinstance(value, Shift | FromProperty):
            plain[name] = value
        elif found.opened is not None:
            _refuse_unfit(found.opened, value)
            document = set_properties(
                document, reach.place(found.path), {found.property: value}, reach.when
            )
            document = _without_said(document, reach, path, name)
        else:
            own = own_default(document, reach, path, name)
            if own is not None and (
                not isinstance(value, Token) or own.kind in ("color", "number")
            ):
                document = _with_default(document, reach, own, value)
            else:
                plain[name] = value
    if plain:
        called = _name_after(document, reach, path, plain)
        document = set_properties(document, reach.place(path), plain, reach.when)
        if called:
            document = rename_node(document, reach.owner, path[0], called)
    return document


def _name_after(document: Document, reach: Reach, path: Path, values: Mapping[str, Value]) -> str:
    """What a text is called that is called by its words, once it says others; empty where its
    name is somebody's, or stays."""
    content = values.get("content")
    node = find(owner_of(document, reach.owner).root, path[0]) if len(path) == 1 else None
    if node is None or not is_content(content) or not is_called_by_words(node):
        return ""
    return "" if is_narrowed(document, reach) else name_of_words(content)


def _refuse_unfit(opened: ComponentProperty, value: Value) -> None:
    if isinstance(value, Token):
        return
    try:
        PROPERTY_TYPES[opened.kind].check(value)
    except ValueRefusal as problem:
        raise Refusal(f"The property “{opened.name}” decides this here: {problem}") from problem


def _with_default(
    document: Document, reach: Reach, opened: ComponentProperty, value: Value
) -> Document:
    assert not isinstance(value, FromProperty)
    return properties.set_default(document, reach.owner, opened.id, value)


def _without_said(document: Document, reach: Reach, path: Path, name: str) -> Document:
    """The document without what the owner on the bench said of a deeper value: within the reach
    it would hide what its property says now."""
    owner = owner_of(document, reach.owner)
    full = own_path(owner, path)

    changed: Owner = owner
    if isinstance(changed, Component):
        rules = tuple(
            r
            for r in changed.rules
            if not (r.node == full and r.property == name and holds(reach.when, r.when))
        )
        if len(rules) < len(changed.rules):
            changed = msgspec.structs.replace(changed, rules=rules)
    if not reach.when:
        changed = with_node(changed, full[0], _bare(full[1:], name))
    return document if changed is owner else with_owner(document, changed)


def _bare(inside: Path, name: str) -> Callable[[Node], Node]:
    def change(node: Node) -> Node:
        if not inside:
            if name in node.style:
                return msgspec.structs.replace(node, style=node.style.delete(name))
            return node
        left = tuple(r for r in node.overrides if r.when or (r.node, r.property) != (inside, name))
        if len(left) == len(node.overrides):
            return node
        return msgspec.structs.replace(node, overrides=left)

    return change


def put_instances_back(document: Document, reach: Reach, node_ids: Iterable[str]) -> Document:
    """The document with what instances of the owner's own tree differ in put back within the
    reach: everywhere, all that they override; elsewhere, the rules of that reach, and of
    narrower ones, about what they show. Their component, choices, place and size stay."""
    if not is_narrowed(document, reach):
        for node_id in node_ids:
            document = put_back_instance(document, reach.owner, node_id)
        return document
    component, ids = component_of(document, reach.owner), frozenset(node_ids)

    def differs(rule: Rule) -> bool:
        within = holds(reach.when, rule.when)
        kept = rule.property in KEPT_OUTSIDE or rule.property.startswith(CHOICE)
        return within and rule.node[0] in ids and not (kept and len(rule.node) == 1)

    rules = tuple(rule for rule in component.rules if not differs(rule))
    if len(rules) == len(component.rules):
        return document
    return with_owner(document, msgspec.structs.replace(component, rules=rules))


def set_where_seen(
    document: Document, reach: Reach, path: Path, name: str, value: Value
) -> Document:
    """The document with a property of a part set within the reach, and so that it shows at least
    in the variant that is looked at."""
    return seen(set_values(document, reach, path, {name: value}), reach, path, name, value)


def seen(document: Document, reach: Reach, path: Path, name: str, value: Value) -> Document:
    """The document with a value that was set within the reach decided in the variant that is
    looked at, where a stronger rule of the same component says otherwise."""
    component = document.components.get(reach.owner)
    inspection = inspect(document, reach.place(path))
    if component is None or inspection is None or not holds(reach.when, reach.variant):
        return document
    source = deciding_source(inspection, name)
    stronger = source.kind == "rule" and source.owner == component.id
    if not stronger or raw_value(document, source, name) == value:
        return document
    when = source.when.update(reach.when)
    if when == reach.when:
        return document
    return set_properties(document, reach.place(path), {name: value}, when)
