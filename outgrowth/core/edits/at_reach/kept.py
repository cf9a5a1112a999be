"""What an instance keeps that its component says otherwise: its words, its choices, its looks, in
the parts inside of it too; each can be put back by itself."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Literal, NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, TABLE
from outgrowth.core.document.records import (
    Axis,
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    find,
)
from outgrowth.core.document.sentences import component_of
from outgrowth.core.document.values import FromProperty, Shift, Token, Value
from outgrowth.core.document.variants import holds
from outgrowth.core.edits.at_reach.reach import Reach, is_narrowed
from outgrowth.core.edits.style.styles import KEPT_OUTSIDE
from outgrowth.core.edits.tree.trees import owner_of, with_node, with_owner
from outgrowth.core.resolve.cascade import value_given

KeptKind = Literal["words", "choice", "look"]
_WORDS = ("content", "label", "picture")
_TABLE_ORDER = {name: n for n, name in enumerate(TABLE)}
_KINDS: dict[str, KeptKind] = {
    "text": "words",
    "slot": "words",
    "switch": "choice",
    "color": "look",
    "number": "look",
}
"""By the kind of a component property: what an instance's value of it counts as. What fills a slot
is content as words are."""


class KeptValue(NamedTuple):
    """One value that an instance keeps.

    path      the part inside the instance, () for its outermost part
    property  what is said of it
    value     what it is
    when      in which variants of the instance (an override), or of what holds it (a rule)
    by_rule   whether a rule of what holds it says so
    kind      whether it is words (or what else fills the part), a choice, or a look
    """

    path: Path
    property: str
    value: Value
    when: Map[str, str]
    by_rule: bool
    kind: KeptKind


def kept_values(document: Document, reach: Reach, path: Path) -> list[KeptValue]:
    """What the instance at a path of the owner on the bench keeps, and can be put back within the
    reach; its place and size in the layout are its own, and what its component says too is no
    difference. The outermost part's first, as its properties, its axes and the table have them."""
    owner = document.owner(reach.owner)
    node = find(owner.root, path[0]) if owner is not None and path else None
    if owner is None or node is None or node.kind != "instance":
        return []
    values = [
        KeptValue(at, name, value, when, by_rule, _kind(document, owner, (*path, *at), name))
        for at, name, value, when, by_rule in _said(document, reach, owner, node, path)
        if at or not _is_place(name)
    ]
    differing = [v for v in values if not _is_default(document, owner, (*path, *v.path), v)]
    order = {v: n for n, v in enumerate(differing)}
    return sorted(order, key=lambda v: (v.path, _place_of(document, owner, path, v), order[v]))


def _subject(
    document: Document, owner: Owner, path: Path, name: str
) -> Axis | ComponentProperty | None:
    """The axis or property that a choice is about; None for anything else."""
    key = name.removeprefix(CHOICE)
    component = component_of(document, owner, path) if key != name else None
    return (component.axis(key) or component.property(key)) if component is not None else None


def _is_default(document: Document, owner: Owner, path: Path, kept: KeptValue) -> bool:
    subject = _subject(document, owner, path, kept.property)
    if subject is None or kept.when or isinstance(kept.value, Token | Shift | FromProperty):
        return False
    if isinstance(subject, ComponentProperty):
        return value_given(subject, kept.value) == subject.default
    return kept.value == subject.default


def _place_of(document: Document, owner: Owner, path: Path, kept: KeptValue) -> int:
    component = component_of(document, owner, (*path, *kept.path))
    if kept.property.startswith(CHOICE) and component is not None:
        keys = [*(p.id for p in component.properties), *(a.id for a in component.axes)]
        key = kept.property.removeprefix(CHOICE)
        return keys.index(key) - len(keys) if key in keys else 0
    return _TABLE_ORDER.get(kept.property, len(_TABLE_ORDER))


def _said(
    document: Document, reach: Reach, owner: Owner, node: Node, path: Path
) -> Iterator[tuple[Path, str, Value, Map[str, str], bool]]:
    """Everything that is said of an instance, and may be put back within the reach."""
    inside, narrowed = path[1:], is_narrowed(document, reach)
    if not narrowed:
        for name, value in node.style.items() if not inside else ():
            yield (), name, value, Map(), False
        for rule in node.overrides:
            if rule.node[: len(inside)] == inside and len(rule.node) >= len(inside):
                yield rule.node[len(inside) :], rule.property, rule.value, rule.when, False
    for rule in owner.rules if isinstance(owner, Component) else ():
        if rule.node[: len(path)] == path and (not narrowed or holds(reach.when, rule.when)):
            yield rule.node[len(path) :], rule.property, rule.value, rule.when, True


def _is_place(name: str) -> bool:
    return name in KEPT_OUTSIDE


def _kind(document: Document, owner: Owner, path: Path, name: str) -> KeptKind:
    if not name.startswith(CHOICE):
        return "words" if name in _WORDS else "look"
    subject = _subject(document, owner, path, name)
    return _KINDS[subject.kind] if isinstance(subject, ComponentProperty) else "choice"


def put_kept_back(
    document: Document, reach: Reach, path: Path, kept: Iterable[KeptValue]
) -> Document:
    """The document in which an instance no longer keeps these values."""
    gone = list(kept)
    own = {(*path[1:], *k.path): set[tuple[str, Map[str, str]]]() for k in gone if not k.by_rule}
    for k in gone:
        if not k.by_rule:
            own[*path[1:], *k.path].add((k.property, k.when))
    ruled = {((*path, *k.path), k.property, k.when) for k in gone if k.by_rule}

    def change(node: Node) -> Node:
        style = node.style
        for name, when in own.get((), ()):
            style = style.delete(name) if name in style and not when else style
        overrides = tuple(
            rule
            for rule in node.overrides
            if (rule.property, rule.when) not in own.get(rule.node, set())
        )
        return msgspec.structs.replace(node, style=style, overrides=overrides)

    owner = owner_of(document, reach.owner)
    changed = with_node(owner, path[0], change) if own else owner
    if isinstance(changed, Component) and ruled:
        rules = tuple(r for r in changed.rules if not _is_among(r, ruled))
        changed = msgspec.structs.replace(changed, rules=rules)
    return document if changed is owner else with_owner(document, changed)


def _is_among(rule: Rule, ruled: set[tuple[Path, str, Map[str, str]]]) -> bool:
    return (rule.node, rule.property, rule.when) in ruled
