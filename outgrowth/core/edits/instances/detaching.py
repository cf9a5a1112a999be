"""An instance becomes plain boxes: what it showed, its component no longer followed."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, fitting
from outgrowth.core.document.records import (
    Document,
    Node,
    Rule,
    walk,
)
from outgrowth.core.document.referring import token_paths
from outgrowth.core.document.types import LONGEST_NAME
from outgrowth.core.document.values import FromProperty, Shift, Token, Value
from outgrowth.core.edits.tree.trees import (
    node_of,
    owner_of,
    with_node,
    with_owner,
)
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.cascade import (
    CascadeStep,
    Scope,
    cascaded_values,
    computed_value,
    input_of,
    scope_inside,
)
from outgrowth.core.resolve.ladder import Place, PlainLookup, inspect


def detach(document: Document, owner_id: str, node_id: str) -> Document:
    """The document with an instance turned into plain nodes that look as it does now; what
    is nested in it stays an instance. Ids inside are the instance's with the old ones behind.
    """
    owner = owner_of(document, owner_id)
    node = node_of(owner, node_id)
    inspection = inspect(document, Place(owner_id, (node_id,)))
    if node.kind != "instance" or inspection is None:
        raise Refusal(f"“{node.name}” is not an instance.")
    used = {other.id for other in walk(owner.root)}
    plain = _Detacher(document, inspection.scope, node_id, used).plain(inspection.node)
    named = msgspec.structs.replace(plain, name=node.name, id=node_id)
    return with_owner(document, with_node(owner, node_id, lambda _: named))


class _Detacher:
    def __init__(self, document: Document, scope: Scope, prefix: str, used: set[str]) -> None:
        self._document = document
        self._scope = scope
        self._prefix = prefix
        self._used_ids = used

    @property
    def _lookup(self) -> PlainLookup:
        return PlainLookup(self._document, self._scope.mode)

    def _free_id(self, inner: str) -> str:
        """The instance's id with the inner one behind, another where that is taken."""
        usual = f"{self._prefix}.{inner}"[-LONGEST_NAME // 2 :]
        tried = (usual, *(f"{usual}.{n}" for n in range(2, len(self._used_ids) + 3)))
        first = next(candidate for candidate in tried if candidate not in self._used_ids)
        self._used_ids.add(first)
        return first

    def plain(self, node: Node) -> Node:
        steps = cascaded_values(self._scope, node)
        node_id = self._free_id(node.id)
        around = self._scope
        self._scope = scope_inside(around, steps, self._lookup)
        if node.kind == "instance":
            nested = self._nested(node, node_id, steps)
            self._scope = around
            return nested
        style = {name: self._today(name, step_values) for name, step_values in steps.items()}
        children = tuple(self.plain(child) for child in node.children)
        self._scope = around
        return Node(node_id, node.name, node.kind, Map(style), children, extras=node.extras)

    def _today(self, name: str, steps: list[CascadeStep]) -> Value:
        """The last plain value as it was said (a token stays one); settled under shifts."""
        last = steps[-1].value
        if token_paths(last) and not any(isinstance(s.value, Shift) for s in steps):
            return last
        return computed_value(name, steps, self._lookup)

    def _nested(self, node: Node, node_id: str, steps: dict[str, list[CascadeStep]]) -> Node:
        instance_input = input_of(self._scope, node, steps, self._lookup)
        style: dict[str, Value] = {"component": instance_input.component}
        style |= {CHOICE + key: fitting(CHOICE, value) for key, value in instance_input.choices}
        overrides: dict[tuple[object, ...], Rule] = {}
        for path, name, value, when, _, _ in instance_input.declarations:
            relative = isinstance(value, Shift)
            if not isinstance(value, Token | FromProperty | Shift):
                value = fitting(name, value)
            if not when and not relative:
                # It is said last, so it covers what was said before, under conditions too.
                overrides = {
                    key: rule
                    for key, rule in overrides.items()
                    if (rule.node, rule.property) != (path, name) or isinstance(rule.value, Shift)
                }
            if path or when or relative:
                overrides[path, name, when, relative] = Rule(when, path, name, value)
            else:
                style[name] = value
        return Node(node_id, node.name, "instance", Map(style), (), tuple(overrides.values()))
