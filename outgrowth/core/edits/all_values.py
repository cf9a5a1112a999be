"""All values of a document: seen one after the other, or each made another."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Aside,
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    walk,
)
from outgrowth.core.document.values import FromProperty, Token, Value
from outgrowth.core.edits.tree.trees import rebuilt_tree, with_owner

ValueEdit = Callable[[Path, str, Value], Value]
"""What becomes of a value, by its node and the name of its property; a token's has neither."""


def stated_values(owner: Owner) -> Iterator[tuple[Path, str, Value]]:
    """All values that an owner's nodes and rules state: of which node, of which property."""
    for node in walk(owner.root):
        # In an order: what is listed of them reads the same each time.
        for name in sorted(node.style):
            yield (node.id,), name, node.style[name]
        for rule in node.overrides:
            yield (node.id, *rule.node), rule.property, rule.value
    if isinstance(owner, Component):
        for rule in owner.rules:
            yield rule.node, rule.property, rule.value
        for prop in owner.properties:
            if isinstance(prop.default, Token):
                yield (owner.root.id,), CHOICE + prop.id, prop.default


def referring(document: Document, change: ValueEdit) -> Document:
    """The document with a change done to all values, those of tokens too."""
    tokens = document.tokens
    for path, token in document.tokens.items():
        modes = {mode: change((), "", value) for mode, value in token.modes.items()}
        value = change((), "", token.value)
        if value != token.value or modes != dict(token.modes):
            after = msgspec.structs.replace(token, value=value, modes=Map(modes))
            tokens = tokens.set(path, after)
    return revalued(msgspec.structs.replace(document, tokens=tokens), change)


def revalued(document: Document, change: ValueEdit) -> Document:
    """The document with a change done to all values of its owners."""
    for owner in tuple(document.owners()):
        after = revalued_owner(owner, change)
        if after is not owner:
            document = with_owner(document, after)
    return document


def revalued_owner(owner: Owner, change: ValueEdit) -> Owner:
    """The same of one owner; the very same where nothing changes."""
    root = rebuilt_tree(owner.root, lambda node: _node(node, change))
    if not isinstance(owner, Component):
        return owner if root is owner.root else msgspec.structs.replace(owner, root=root)
    rules = _rules(owner.rules, change)
    properties = tuple(_property(prop, change) for prop in owner.properties)
    if root is owner.root and rules is owner.rules and properties == owner.properties:
        return owner
    return msgspec.structs.replace(owner, root=root, rules=rules, properties=properties)


def _property(prop: ComponentProperty, change: ValueEdit) -> ComponentProperty:
    """A property whose default is a token, which has neither node nor property."""
    if not isinstance(prop.default, Token):
        return prop
    default = change((), "", prop.default)
    if default == prop.default or isinstance(default, FromProperty):
        return prop
    return msgspec.structs.replace(prop, default=default)


def _node(node: Node, change: ValueEdit) -> Node:
    style = node.style
    for name, value in node.style.items():
        after = change((node.id,), name, value)
        if after != value:
            style = style.set(name, after)
    overrides = _rules(node.overrides, change, (node.id,))
    aside = tuple(
        Aside(a.component, _rules(a.own, change, (node.id,)), _rules(a.held, change))
        for a in node.aside
    )
    if style is node.style and overrides is node.overrides and aside == node.aside:
        return node
    return msgspec.structs.replace(node, style=style, overrides=overrides, aside=aside)


def _rules(rules: tuple[Rule, ...], change: ValueEdit, inside: Path = ()) -> tuple[Rule, ...]:
    after = tuple(_rule(rule, change, inside) for rule in rules)
    return rules if all(a is b for a, b in zip(after, rules, strict=True)) else after


def _rule(rule: Rule, change: ValueEdit, inside: Path) -> Rule:
    value = change((*inside, *rule.node), rule.property, rule.value)
    return rule if value == rule.value else msgspec.structs.replace(rule, value=value)
