"""Several drawn trees laid over each other: which node of one is which of another.

Nodes are matched by name and kind among the children of matched parents; equal ones by
their order. A node that only some drawings have keeps its place behind the one before it.
"""

from __future__ import annotations

from collections import Counter

from outgrowth.core.document.properties import NodeKind
from outgrowth.core.document.records import Node
from outgrowth.core.edits.gather.fewest import Combination

_Key = tuple[str, str, int]


class MergedNode:
    """One node of the gathered component, with the drawn node for each combination."""

    def __init__(self, node_id: str, name: str, kind: NodeKind) -> None:
        self.id = node_id
        self.name = name
        self.kind = kind
        self.drawn: dict[Combination, Node] = {}
        self.children: list[MergedNode] = []


def merge(drawings: dict[Combination, Node]) -> MergedNode:
    """The merged tree. Roots are matched whatever they are called."""
    first = next(iter(drawings.values()))
    used: Counter[str] = Counter()
    root = MergedNode(_fresh(first.id, used), first.name, first.kind)
    root.drawn = dict(drawings)
    _merge_children(root, used)
    return root


def _merge_children(parent: MergedNode, used: Counter[str]) -> None:
    merged_by_key: dict[_Key, MergedNode] = {}
    order: list[_Key] = []
    for combination, node in parent.drawn.items():
        index = 0
        for key, child in _keyed(node):
            if key not in merged_by_key:
                merged_by_key[key] = MergedNode(_fresh(child.id, used), child.name, child.kind)
                order.insert(index, key)
            index = order.index(key) + 1
            merged_by_key[key].drawn[combination] = child
    parent.children = [merged_by_key[key] for key in order]
    for merged in parent.children:
        _merge_children(merged, used)


def _keyed(node: Node) -> list[tuple[_Key, Node]]:
    visited: Counter[tuple[str, str]] = Counter()
    keyed: list[tuple[_Key, Node]] = []
    for child in node.children:
        keyed.append(((child.name, child.kind, visited[child.name, child.kind]), child))
        visited[child.name, child.kind] += 1
    return keyed


def _fresh(node_id: str, used: Counter[str]) -> str:
    """An id that no other merged node has."""
    used[node_id] += 1
    return node_id if used[node_id] == 1 else _fresh(f"{node_id}.{used[node_id]}", used)
