"""Parts that are there in some variants only: taken away, put in, and twins of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable

import msgspec
from immutables import Map

from outgrowth.core.document.records import (
    Component,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    lineage,
    walk,
)
from outgrowth.core.document.values import FromProperty, Value
from outgrowth.core.edits.at_reach.reach import Reach, is_narrowed, meet, with_deciding
from outgrowth.core.edits.at_reach.values import set_values
from outgrowth.core.edits.clipping import clipping, put_down
from outgrowth.core.edits.style.styles import with_rules
from outgrowth.core.edits.tree import nodes
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.trees import node_of, owner_of, restyled, with_node, with_owner
from outgrowth.core.refusal import Refusal


def remove_parts(document: Document, reach: Reach, paths: Iterable[Path]) -> Document:
    """The document without parts within the reach. Where that is everywhere, nodes of the
    owner's own tree go; elsewhere, and inside of instances, they are not shown. A part that
    nothing shows any more goes too.

    Raises Refusal for the outermost part.
    """
    narrowed = is_narrowed(document, reach)
    for path in paths:
        if not path:
            owner = owner_of(document, reach.owner)
            raise Refusal(f"The outermost part of “{owner.name}” cannot be removed.")
        if len(path) > 1:
            document = set_values(document, reach, path, {"shown": False})
        elif narrowed:
            document = _hidden(document, reach, path[0])
        else:
            document = nodes.remove_node(document, reach.owner, path[0])
    return document


def _hidden(document: Document, reach: Reach, node_id: str) -> Document:
    component = component_of(document, reach.owner)
    if node_of(component, node_id) is component.root:
        raise Refusal(f"The outermost part of “{component.name}” cannot be removed.")
    changed = with_deciding(component, Rule(reach.when, (node_id,), "shown", False))
    document = with_owner(document, changed)
    if _can_show(document, changed, node_id):
        return document
    return nodes.remove_node(document, reach.owner, node_id)


def _can_show(document: Document, component: Component, node_id: str) -> bool:
    """Whether anything in the file can show a part."""
    said: list[Value] = [node_of(component, node_id).style.get("shown", True)]
    said += [r.value for r in component.rules if (r.node, r.property) == ((node_id,), "shown")]
    return any(value is not False for value in said) or any(
        (rule.node[-1:], rule.property) == ((node_id,), "shown")
        for owner in document.owners()
        for rule in _about_insides(owner)
    )


def _about_insides(owner: Owner) -> Iterable[Rule]:
    """What an owner says of the insides of its instances."""
    for node in walk(owner.root):
        yield from node.overrides
    if isinstance(owner, Component):
        yield from (rule for rule in owner.rules if len(rule.node) > 1)


def keep_to_reach(document: Document, reach: Reach, node_ids: Iterable[str]) -> Document:
    """The document with parts of the owner's own tree, which are new in it, shown within the
    reach only. What shows or hides them there besides goes on doing so."""
    if not is_narrowed(document, reach):
        return document
    for node_id in node_ids:
        component = component_of(document, reach.owner)
        subject = (node_id,), "shown"
        about = [r for r in component.rules if (r.node, r.property) == subject]
        others = tuple(r for r in component.rules if r not in about)
        stated = node_of(component, node_id).style.get("shown", True)
        there = stated if about or isinstance(stated, FromProperty) else True
        rules = [
            Rule(reach.when, *subject, there),
            *(
                Rule(r.when.update(reach.when), *subject, r.value)
                for r in about
                if meet(r.when, reach.when)
            ),
        ]
        bare = msgspec.structs.replace(component, rules=others)
        changed = with_rules(bare, rules)
        hidden = with_node(changed, node_id, _not_shown)
        document = with_owner(document, hidden)
    return document


def show_everywhere(document: Document, owner_id: str, node_id: str) -> Document:
    """The document with a part that was kept to a reach shown in all variants."""
    component = component_of(document, owner_id)
    subject = (node_id,), "shown"
    rules = tuple(r for r in component.rules if (r.node, r.property) != subject)
    changed = msgspec.structs.replace(component, rules=rules)
    return with_owner(document, with_node(changed, node_id, _shown))


def _shown(node: Node) -> Node:
    return msgspec.structs.replace(node, style=node.style.delete("shown"))


def _not_shown(node: Node) -> Node:
    return restyled(node, Map({"shown": False}))


def twins(
    document: Document, reach: Reach, node_ids: Iterable[str], new_id: Callable[[str], str]
) -> tuple[Document, tuple[str, ...]]:
    """The document with copies of parts right behind them, which are shown in their place
    within the reach, and the ids of the copies. They are shown elsewhere too until
    `keep_to_reach` is asked for what was made of them."""
    copies: list[str] = []
    for node_id in node_ids:
        copied = clipping(document, reach.owner, (node_id,), reach.variant)
        line = lineage(owner_of(document, reach.owner).root, node_id)
        if len(line) < 2:
            raise Refusal("The outermost part has no twin: pick a part inside of it.")
        into = reach.owner, line[-2].id, line[-2].children.index(line[-1]) + 1
        document, ids = put_down(document, copied, into, new_id)
        copies += ids
        document = with_owner(
            document,
            with_deciding(
                component_of(document, reach.owner),
                Rule(reach.when, (node_id,), "shown", False),
            ),
        )
    return document, tuple(copies)
