"""Changing one node of a frozen tree: only the way to it is copied."""

from __future__ import annotations

from collections.abc import Callable

import msgspec
from immutables import Map

from outgrowth.core.document.extent import extent, filling, held_by, refuse_endless
from outgrowth.core.document.records import (
    Component,
    Document,
    Node,
    Owner,
    Path,
    Screen,
    Style,
    find,
    lineage,
    place_among,
    walk,
)
from outgrowth.core.document.refusal import Refusal
from outgrowth.core.document.uses import assets_in_use, pictures_of, way_into
from outgrowth.core.edits.errors import EditError


def owner_of(document: Document, owner_id: str) -> Owner:
    """The component or screen with this id, or EditError."""
    owner = document.owner(owner_id)
    if owner is None:
        raise EditError("What should be edited is no longer in the file.")
    return owner


def node_of(owner: Owner, node_id: str) -> Node:
    """The node with this id in the owner's own tree, or EditError."""
    node = find(owner.root, node_id)
    if node is None:
        raise EditError(f"That part is no longer in “{owner.name}”.")
    return node


def refuse_cycle(document: Document, owner_id: str, held_id: object) -> None:
    """Raises EditError, with the way, if an owner that holds this component would come to
    contain itself."""
    way = way_into(document, held_id, owner_id) if isinstance(held_id, str) else ()
    if way:
        names = " › ".join(document.components[i].name for i in (owner_id, *way))
        raise EditError(f"A component cannot contain itself: {names}.")


def with_owner(document: Document, owner: Owner) -> Document:
    """The document with its component or screen of that id replaced by `owner`. Every edit of
    one comes by here, so what no edit may do is refused here: EditError for a tree that would
    be too deep, stand for too much, or contain itself.
    """
    before = document.owner(owner.id)
    after = _replaced(document, owner)
    refuse_unsound(after, before, owner)
    lost = before is not None and pictures_lost(document, before, owner)
    return without_unseen(after) if lost else after


def refuse_unsound(document: Document, before: Owner | None, owner: Owner) -> None:
    """Raises EditError where an owner, as it is now in a document, could not be shown."""
    same_rules = (
        isinstance(owner, Component)
        and isinstance(before, Component)
        and (owner.rules is before.rules and owner.properties is before.properties)
    )
    if (
        before is not None
        and owner.root is before.root
        and (same_rules or isinstance(owner, Screen))
    ):
        return
    try:
        held = held_by(owner), filling(document, owner), extent(owner.root)
        if before is not None:
            was = held_by(before), filling(document, before), extent(before.root)
            if held == was:
                return
        _refuse_shared_ids(owner)
        # What holds the owner grows with it.
        refuse_endless(document, document.owners())
    except Refusal as problem:
        raise EditError(str(problem)) from problem


def _refuse_shared_ids(owner: Owner) -> None:
    ids = [node.id for node in walk(owner.root)]
    if len(set(ids)) != len(ids):
        raise EditError(f"Two parts of “{owner.name}” would have the same id.")


def pictures_lost(document: Document, before: Owner, owner: Owner) -> bool:
    """Whether an owner showed a picture that it no longer shows."""
    if not document.assets:
        return False
    return bool(pictures_of(before) - pictures_of(owner))


def without_unseen(document: Document) -> Document:
    """The document without pictures that nothing shows any more: a file would not keep them,
    and undo has the document that does."""
    kept = assets_in_use(document)
    if len(kept) == len(document.assets):
        return document
    return msgspec.structs.replace(document, assets=Map(kept))


def _replaced(document: Document, owner: Owner) -> Document:
    if isinstance(owner, Screen):
        return msgspec.structs.replace(document, screens=document.screens.set(owner.id, owner))
    components = document.components.set(owner.id, owner)
    return msgspec.structs.replace(document, components=components)


def with_root(owner: Owner, root: Node) -> Owner:
    return msgspec.structs.replace(owner, root=root)


def with_node(owner: Owner, node_id: str, change: Callable[[Node], Node]) -> Owner:
    """The owner with one node of its tree changed, or EditError."""
    line = lineage(owner.root, node_id)
    if not line:
        raise EditError(f"That part is no longer in “{owner.name}”.")
    return with_root(owner, rebuilt(line, change(line[-1])))


def rebuilt(line: tuple[Node, ...], last: Node) -> Node:
    """The root of a lineage whose last node became `last`."""
    for parent, was in zip(reversed(line[:-1]), reversed(line[1:]), strict=True):
        at = place_among(parent.children, was.id)
        assert at is not None  # it is a lineage
        children = (*parent.children[:at], last, *parent.children[at + 1 :])
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


NO_CONDITIONS: Map[str, str] = Map()
