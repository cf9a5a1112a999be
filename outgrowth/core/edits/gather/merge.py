"""Several drawn trees laid over each other: which node of one is which of another.

Nodes are matched by name and kind among the children of matched parents; equal ones by
their order. A node that only some drawings have keeps its place behind the one before it.
"""

from __future__ import annotations

from collections import Counter

from outgrowth.core.document.properties import Kind
from outgrowth.core.document.records import Node
from outgrowth.core.edits.gather.fewest import Combination

_Key = tuple[str, str, int]


class Merged:
    """One node of the gathered component, with the drawn node for each combination."""

    def __init__(self, node_id: str, name: str, kind: Kind) -> None:
        self.id = node_id
        self.name = name
        self.kind = kind
        self.drawn: dict[Combination, Node] = {}
        self.children: list[Merged] = []


def merge(drawings: dict[Combination, Node]) -> Merged:
    """The merged tree. Roots are matched whatever they are called."""
    first = next(iter(drawings.values()))
    taken: Counter[str] = Counter()
    root = Merged(_fresh(first.id, taken), first.name, first.kind)
    root.drawn = dict(drawings)
    _merge_children(root, taken)
    return root


def _merge_children(parent: Merged, taken: Counter[str]) -> None:
    known: dict[_Key, Merged] = {}
    order: list[_Key] = []
    for combination, node in parent.drawn.items():
        at = 0
        for key, child in _keyed(node):
            if key not in known:
                known[key] = Merged(_fresh(child.id, taken), child.name, child.kind)
                order.insert(at, key)
            at = order.index(key) + 1
            known[key].drawn[combination] = child
    parent.children = [known[key] for key in order]
    for merged in parent.children:
        _merge_children(merged, taken)


def _keyed(node: Node) -> list[tuple[_Key, Node]]:
    seen: Counter[tuple[str, str]] = Counter()
    found: list[tuple[_Key, Node]] = []
    for child in node.children:
        found.append(((child.name, child.kind, seen[child.name, child.kind]), child))
        seen[child.name, child.kind] += 1
    return found


def _fresh(node_id: str, taken: Counter[str]) -> str:
    """An id that no other merged node has."""
    taken[node_id] += 1
    return node_id if taken[node_id] == 1 else _fresh(f"{node_id}.{taken[node_id]}", taken)
