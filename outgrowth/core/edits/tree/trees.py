"""Changing one node of a frozen tree: only the way to it is copied."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.extent import refuse_endless
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Component,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    Screen,
    Style,
    find,
    lineage,
    place_among,
    walk,
)
from outgrowth.core.document.rooms import circle_in, refuse_circle
from outgrowth.core.document.uses import assets_in_use, way_into
from outgrowth.core.document.values import Picture, Value
from outgrowth.core.memo import differing
from outgrowth.core.refusal import Refusal


def owner_of(document: Document, owner_id: str) -> Owner:
    """The component or screen with this id, or Refusal."""
    owner = document.owner(owner_id)
    if owner is None:
        raise Refusal("What should be edited is no longer in the file.")
    return owner


def node_of(owner: Owner, node_id: str) -> Node:
    """The node with this id in the owner's own tree, or Refusal."""
    node = find(owner.root, node_id)
    if node is None:
        raise Refusal(f"That part is no longer in “{owner.name}”.")
    return node


def refuse_cycle(document: Document, owner_id: str, held_id: object) -> None:
    """Raises Refusal, with the way, if an owner that holds this component would come to
    contain itself."""
    route = way_into(document, held_id, owner_id) if isinstance(held_id, str) else ()
    if route:
        names = " › ".join(document.components[i].name for i in (owner_id, *route))
        raise Refusal(f"A component cannot contain itself: {names}.")


def with_owner(document: Document, owner: Owner) -> Document:
    """The document with its component or screen of that id replaced by `owner`. Every edit of
    one comes by here, so what no edit may do is refused here: Refusal for a tree that would
    be too deep, stand for too much, or contain itself, and for a part whose room would depend on
    what the room decides.
    """
    before = document.owner(owner.id)
    # A file that has a circle already can be worked on all the same.
    if before is not None and not circle_in(before):
        refuse_circle(owner)
    after = _replaced(document, owner)
    if before is None:
        refuse_unsound(after, owner)
        return after
    changed = _changes(before, owner)
    if changed.holding:
        refuse_unsound(after, owner, isinstance(owner, Component))
    return without_unseen(after) if changed.pictures and document.assets else after


def refuse_unsound(document: Document, owner: Owner, may_be_held: bool = False) -> None:
    """Raises Refusal where an owner, as it is now in a document, could not be shown. Where
    others may hold it (`may_be_held`), they grow with it and are looked at too."""
    ids = [node.id for node in walk(owner.root)]
    if len(set(ids)) != len(ids):
        raise Refusal(f"Two parts of “{owner.name}” would have the same id.")
    refuse_endless(document, document.owners() if may_be_held else (owner,))


class _Changes(NamedTuple):
    """What an edit changed of an owner: what holds what, and which pictures it shows."""

    holding: bool
    pictures: bool


def _changes(before: Owner, after: Owner) -> _Changes:
    """Looks only at what is another object: most edits change one value of one part among
    thousands, and a drag makes sixty of them a second."""
    holding, pictures = _between(before.root, after.root)
    if isinstance(before, Component) and isinstance(after, Component):
        if before.rules is not after.rules:
            holding |= _said_of_holding(before.rules) != _said_of_holding(after.rules)
            pictures |= _pictures_in(before.rules) != _pictures_in(after.rules)
        holding |= before.properties is not after.properties
    return _Changes(holding, pictures)


def _between(before: Node, after: Node) -> tuple[bool, bool]:
    holding = pictures = False
    waiting = [(before, after)]
    while waiting:
        a, b = waiting.pop()
        if a is b:
            continue
        if (a.id, a.kind) != (b.id, b.kind) or len(a.children) != len(b.children):
            return True, True
        if a.kind == "instance":
            holding |= _said_of_holding(_sayings(a)) != _said_of_holding(_sayings(b))
        if a.kind in ("image", "instance"):
            pictures |= _pictures_in(_sayings(a)) != _pictures_in(_sayings(b))
        changed = differing(a.children, b.children)
        waiting += [(a.children[n], b.children[n]) for n in changed]
    return holding, pictures


def _sayings(node: Node) -> list[Rule]:
    """All that a node says, as rules."""
    own = [Rule(NO_CONDITIONS, (), name, node.style[name]) for name in sorted(node.style)]
    aside = [rule for put_aside in node.aside for rule in (*put_aside.own, *put_aside.held)]
    return [*own, *node.overrides, *aside]


def _said_of_holding(rules: Iterable[Rule]) -> list[tuple[Path, str, Value]]:
    """What rules say of components and choices: slots are among these."""
    return [
        (rule.node, rule.property, rule.value)
        for rule in rules
        if rule.property == "component" or rule.property.startswith(CHOICE)
    ]


def _pictures_in(rules: Iterable[Rule]) -> set[str]:
    return {rule.value.asset for rule in rules if isinstance(rule.value, Picture)}


NO_CONDITIONS: Map[str, str] = Map()


def without_unseen(document: Document) -> Document:
    """The document without pictures that nothing shows any more: a file would not keep them,
    and undo has the document that does."""
    remaining = assets_in_use(document)
    if len(remaining) == len(document.assets):
        return document
    return msgspec.structs.replace(document, assets=Map(remaining))


def _replaced(document: Document, owner: Owner) -> Document:
    if isinstance(owner, Screen):
        return msgspec.structs.replace(document, screens=document.screens.set(owner.id, owner))
    components = document.components.set(owner.id, owner)
    return msgspec.structs.replace(document, components=components)


def with_root(owner: Owner, root: Node) -> Owner:
    """The owner with another tree."""
    return msgspec.structs.replace(owner, root=root)


def with_node(owner: Owner, node_id: str, change: Callable[[Node], Node]) -> Owner:
    """The owner with one node of its tree changed, or Refusal."""
    line = lineage(owner.root, node_id)
    if not line:
        raise Refusal(f"That part is no longer in “{owner.name}”.")
    return with_root(owner, rebuilt(line, change(line[-1])))


def rebuilt(line: tuple[Node, ...], last: Node) -> Node:
    """The root of a lineage whose last node became `last`."""
    for parent, before in zip(reversed(line[:-1]), reversed(line[1:]), strict=True):
        index = place_among(parent.children, before.id)
        assert index is not None  # it is a lineage
        children = (*parent.children[:index], last, *parent.children[index + 1 :])
        last = msgspec.structs.replace(parent, children=children)
    return last


def rebuilt_tree(node: Node, change: Callable[[Node], Node]) -> Node:
    """The tree with `change` done to every node, the deepest first; what it leaves alone
    stays the same object."""
    children = tuple(rebuilt_tree(child, change) for child in node.children)
    if any(a is not b for a, b in zip(children, node.children, strict=True)):
        node = msgspec.structs.replace(node, children=children)
    return change(node)


def restyled(node: Node, values: Style) -> Node:
    """The node with these style values set."""
    return msgspec.structs.replace(node, style=node.style.update(values))


def own_path(owner: Owner, path: Path) -> Path:
    """The path as rules write it: the root by its id rather than by nothing."""
    return path or (owner.root.id,)
