"""Turning what an owner says of left and right into the start and end of lines, and back: nothing
that reads from left to right looks otherwise."""

from __future__ import annotations

from collections.abc import Iterable

import msgspec

from outgrowth.core.document.records import Document, Node, Owner, walk
from outgrowth.core.edits.tree.trees import owner_of, with_owner

BY_LINES, AS_SAID = "start-end", "left-right"


def goes_by_lines(owner: Owner) -> bool:
    """Whether the sides of all parts of an owner's own are the start and end of lines."""
    return all(_says_lines(node) for node in walk(owner.root) if node.kind != "instance")


def _says_lines(node: Node) -> bool:
    return node.style.get("sides") == BY_LINES


def turned_to_lines(document: Document, owners: Iterable[str]) -> Document:
    """The document in which left and right of all parts of these owners are start and end.
    Raises Refusal for an owner that is gone."""
    return _saying(document, owners, BY_LINES)


def turned_to_sides(document: Document, owners: Iterable[str]) -> Document:
    """The document in which they are left and right again, in whatever direction one reads."""
    return _saying(document, owners, AS_SAID)


def _saying(document: Document, owners: Iterable[str], sides: str) -> Document:
    for owner_id in owners:
        owner = owner_of(document, owner_id)
        root = _said(owner.root, sides)
        if root is not owner.root:
            document = with_owner(document, msgspec.structs.replace(owner, root=root))
    return document


def _said(node: Node, sides: str) -> Node:
    children = tuple(_said(child, sides) for child in node.children)
    same = all(a is b for a, b in zip(children, node.children, strict=True))
    style = node.style
    if node.kind != "instance" and style.get("sides", AS_SAID) != sides:
        style = style.set("sides", sides) if sides == BY_LINES else style.delete("sides")
    if same and style is node.style:
        return node
    return msgspec.structs.replace(node, style=style, children=children)


def like_its_box(document: Document, owner_id: str, box_id: str, node: Node) -> Node:
    """A new part as it is put into a box: by lines where the box is."""
    owner = owner_of(document, owner_id)
    box = next((each for each in walk(owner.root) if each.id == box_id), None)
    return _said(node, BY_LINES) if box is not None and _says_lines(box) else node
