"""The ladder: every step that gives a property its value at one place, in cascade order.

It walks down with the cascade's own functions and reads their record.
"""

from __future__ import annotations

from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.properties import CHOICE, row_of
from outgrowth.core.document.records import (
    Component,
    DesignToken,
    Document,
    Node,
    Owner,
    Path,
    find,
)
from outgrowth.core.document.values import Literals, Shift
from outgrowth.core.document.variants import Variant
from outgrowth.core.resolve.cascade import (
    DEFAULT,
    InstanceInput,
    Live,
    Scope,
    Source,
    Step,
    component_scope,
    input_of,
    screen_scope,
    settle,
    steps_of,
)


class Place(NamedTuple):
    """Where a node is looked at: in a screen, or in a component's variant.

    `path` leads from the owner through instances to the node; `()` is the owner's root.
    """

    owner: str
    path: Path = ()
    variant: Variant = Map()


class Rung(NamedTuple):
    """One step of a ladder: its value, who says it, and whether it shows in the result."""

    value: object
    source: Source
    wins: bool


class _Found(NamedTuple):
    scope: Scope
    node: Node
    steps: dict[str, list[Step]]


class _Plain:
    """Looks things up in a document, recording nothing."""

    def __init__(self, document: Document) -> None:
        self._document = document

    def component(self, component_id: str) -> Component | None:
        return self._document.components.get(component_id)

    def token(self, path: str) -> DesignToken | None:
        return self._document.tokens.get(path)


def ladder(document: Document, place: Place, name: str, live: Live = ()) -> tuple[Rung, ...]:
    """Every step of the property at the place, from the table's default up to the last
    word. Shifts win beside the plain value that they change. Empty if nothing is there."""
    found = _descend(document, place, live)
    if found is None:
        return ()
    default = Step(row_of(name).default, DEFAULT)
    steps = [default, *found.steps.get(name, ())]
    plain = max(n for n, step in enumerate(steps) if not isinstance(step.value, Shift))
    return tuple(
        Rung(step.value, step.source, n == plain or isinstance(step.value, Shift))
        for n, step in enumerate(steps)
    )


def value_at(document: Document, place: Place, name: str) -> Literals:
    """The property's settled value at the place; the table's default if nothing is there."""
    found = _descend(document, place, ())
    if found is None:
        return row_of(name).default
    if found.node.kind == "instance" and name.startswith(CHOICE):
        return found.scope.variant.get(name.removeprefix(CHOICE), "")
    return settle(name, found.steps.get(name, ()), _Plain(document))


def node_at(document: Document, place: Place) -> Node | None:
    """The drawn node at the place: for an instance, the root node of its component."""
    found = _descend(document, place, ())
    return None if found is None else found.node


def scope_at(document: Document, place: Place) -> Scope | None:
    """The scope in which the node at the place is resolved."""
    found = _descend(document, place, ())
    return None if found is None else found.scope


def _descend(document: Document, place: Place, live: Live) -> _Found | None:
    owner = document.owner(place.owner)
    if owner is None:
        return None
    scope = _first_scope(owner, place.variant, live)
    for node_id in place.path:
        node = find(scope.owner.root, node_id)
        if node is None:
            return None
        steps = steps_of(scope, node)
        if node.kind != "instance":
            return _Found(scope, node, steps) if node_id == place.path[-1] else None
        inner = _inner_scope(document, scope, node, steps)
        if inner is None:
            return None
        scope = inner
    return _root_of(document, scope)


def _root_of(document: Document, scope: Scope) -> _Found | None:
    """The scope's root; where that is an instance itself, the root of its component."""
    root = scope.owner.root
    steps = steps_of(scope, root)
    if root.kind != "instance":
        return _Found(scope, root, steps)
    inner = _inner_scope(document, scope, root, steps)
    return None if inner is None else _root_of(document, inner)


def _first_scope(owner: Owner, variant: Variant, live: Live) -> Scope:
    if isinstance(owner, Component):
        given = InstanceInput(owner.id, tuple(sorted(variant.items())), live=live)
        return component_scope(owner, given)
    return screen_scope(owner, live, running=False)


def _inner_scope(
    document: Document, scope: Scope, node: Node, steps: dict[str, list[Step]]
) -> Scope | None:
    given = input_of(scope, node, steps, _Plain(document))
    component = document.components.get(given.component)
    return None if component is None else component_scope(component, given)
