"""How much memory a step of the work keeps: what a document has that the one before it has not.

Documents share all that did not change, so the differences are found by identity, along the ways
that an edit copied. The numbers are estimates, measured on CPython 3.11: what counts is that they
grow with what is kept.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeVar

from outgrowth.core.document.records import Document, Node, Owner

_Kept = TypeVar("_Kept")

STEP_BYTES = 2_000
"""Of a step that changes next to nothing."""
_NODE_BYTES = 700
_CHILD_BYTES = 8
_RULE_BYTES = 400


def kept_bytes(before: Document, after: Document) -> int:
    """Bytes that are held since both documents are, and would not be for one of them alone."""
    kinds: tuple[tuple[Mapping[str, Owner], Mapping[str, Owner]], ...] = (
        (before.components, after.components),
        (before.screens, after.screens),
    )
    owners = (
        _owner_bytes(one.get(owner_id), owner)
        for mine, theirs in kinds
        for one, other in ((mine, theirs), (theirs, mine))
        for owner_id, owner in _differing(one, other)
    )
    assets = sum(
        len(asset.data)
        for one, other in ((before.assets, after.assets), (after.assets, before.assets))
        for digest, asset in _differing(one, other)
        if digest not in one
    )
    return STEP_BYTES + sum(owners) + assets


def _differing(one: Mapping[str, _Kept], other: Mapping[str, _Kept]) -> list[tuple[str, _Kept]]:
    """What the other has, and the one has not as the same object."""
    if one is other:
        return []
    return [(key, value) for key, value in other.items() if one.get(key) is not value]


def _owner_bytes(before: Owner | None, after: Owner) -> int:
    rules = len(getattr(after, "rules", ()))
    own = rules * _CHILD_BYTES + _RULE_BYTES
    return own + _node_bytes(before.root if before is not None else None, after.root)


def _node_bytes(before: Node | None, after: Node) -> int:
    """What a tree has that the one before has not: along the way to a change, a node and the
    list of its children."""
    total, waiting = 0, [(before, after)]
    while waiting:
        old, new = waiting.pop()
        if old is new:
            continue
        total += _NODE_BYTES + len(new.children) * _CHILD_BYTES + len(new.overrides) * _RULE_BYTES
        known = {id(child) for child in old.children} if old is not None else set()
        same = {child.id: child for child in old.children} if old is not None else {}
        waiting += [(same.get(c.id), c) for c in new.children if id(c) not in known]
    return total
