"""The ladder: every step that gives a property its value at one place, in cascade order.

It walks down with the cascade's own functions and reads their record.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.properties import CHOICE, applies, row_of
from outgrowth.core.document.records import (
    Component,
    DesignToken,
    Document,
    Node,
    Owner,
    Path,
    find,
    lineage,
)
from outgrowth.core.document.rooms import known_values
from outgrowth.core.document.values import Literals, Shift, Token, Value
from outgrowth.core.document.variants import Variant
from outgrowth.core.resolve.cascade import (
    DEFAULT,
    CascadeStep,
    InstanceInput,
    LiveValues,
    Scope,
    Source,
    about_instance,
    cascaded_values,
    component_scope,
    computed_value,
    input_of,
    literal,
    scope_inside,
    screen_scope,
    with_live,
)


class Place(NamedTuple):
    """Where a node is looked at: in a screen, or in a component's variant.

    `path` leads from the owner through instances to the node; `()` is the owner's root. `rooms`
    are the values that their rooms set of the parts in it, as far as that is known (`rooms_shown`).
    """

    owner: str
    path: Path = ()
    variant: Variant = Map()
    rooms: LiveValues = ()


class Rung(NamedTuple):
    """One step of a ladder: its value, who says it, and whether it shows in the result."""

    value: object
    source: Source
    wins: bool


class PlainLookup:
    """Looks things up in a document, tokens in a mode (None: in the one that is shown),
    recording nothing."""

    def __init__(self, document: Document, mode: str | None = None) -> None:
        self._document = document
        self._mode = mode

    def component(self, component_id: str) -> Component | None:
        """The component with an id, None if there is none."""
        return self._document.components.get(component_id)

    def token(self, path: str) -> DesignToken | None:
        """The token at a path, None if there is none."""
        return self._document.token(path, self._mode)

    def mode_inside(self, said: object, around: str | None) -> str | None:
        """The mode inside a part that says one."""
        return self._document.mode_inside(said, around)


class Inspection:
    """Everything that is said about one node, read from the cascade's own record.

    node       the drawn node: for an instance, the root node of its component
    instance   the instance node that was led to, None for a plain node
    scope      the scope in which the drawn node is resolved
    """

    def __init__(
        self,
        document: Document,
        scope: Scope,
        node: Node,
        instance: Node | None,
        holder: Scope | None,
    ) -> None:
        self.node = node
        self.instance = instance
        self.scope = scope
        self._lookup = PlainLookup(document, scope.mode)
        self._steps = cascaded_values(scope, node)
        # An instance's choices are said in its holder's scope, its looks in its component's.
        outer = (
            cascaded_values(holder, instance) if holder is not None and instance is not None else {}
        )
        self._choices = {name: steps for name, steps in outer.items() if about_instance(name)}

    def value(self, name: str) -> Literals | None:
        """The property's settled value."""
        if name.startswith(CHOICE):
            key = name.removeprefix(CHOICE)
            if key in self.scope.variant:
                return self.scope.variant[key]
            given = self.scope.values.get(key, "")
            if isinstance(given, Token):
                return literal(name, given, self._lookup)
            # A relative change has no value of its own.
            return None if isinstance(given, Shift) else given
        return computed_value(name, self._stated(name), self._lookup)

    def has(self, name: str) -> bool:
        """Whether the property means something for the node."""
        about = self.instance is not None and about_instance(name)
        return about or applies(name, self.node.kind)

    def ladder(self, name: str) -> tuple[Rung, ...]:
        """Every step from the table's default up to the last word. Shifts win beside the
        plain value that they change."""
        default = CascadeStep(self._start(name), DEFAULT)
        steps = [default, *self._stated(name)]
        # Below the last plain value nothing shows, and above it only shifts are left. Of a
        # property whose default is one, there may be nothing else.
        values = (n for n, step in enumerate(steps) if not isinstance(step.value, Shift))
        plain = max(values, default=0)
        return tuple(
            Rung(step.value, step.source, n == plain or isinstance(step.value, Shift))
            for n, step in enumerate(steps)
        )

    def _start(self, name: str) -> Value:
        """What holds when nobody says anything: the table's default, or for a choice the
        default of the component's axis or property."""
        owner = self.scope.owner
        if name.startswith(CHOICE) and isinstance(owner, Component):
            key = name.removeprefix(CHOICE)
            axis, prop = owner.axis(key), owner.property(key)
            if axis is not None:
                return axis.default
            return prop.default if prop is not None else ""
        return row_of(name).default

    def _stated(self, name: str) -> list[CascadeStep]:
        if about_instance(name):
            return self._choices.get(name, [])
        return self._steps.get(name, [])


class Together(Inspection):
    """Several nodes looked at as one: values that differ are None, ladders and all else are
    those of the first."""

    def __init__(self, several: Sequence[Inspection]) -> None:
        self._several = tuple(several)
        first = self._several[0]
        self.node, self.instance, self.scope = first.node, first.instance, first.scope

    def value(self, name: str) -> Literals | None:
        """The value that all have in common, None where they differ."""
        values = {results.value(name) for results in self._several if results.has(name)}
        return values.pop() if len(values) == 1 else None

    def ladder(self, name: str) -> tuple[Rung, ...]:
        """The ladder of the first that has the property."""
        holders = [results for results in self._several if results.has(name)]
        return (holders or self._several)[0].ladder(name)

    def has(self, name: str) -> bool:
        """Whether it means something for any of them."""
        return any(result.has(name) for result in self._several)


def inspect(document: Document, place: Place, live: LiveValues = ()) -> Inspection | None:
    """What is said about the node at a place; None if nothing is there."""
    owner = document.owner(place.owner)
    if owner is None:
        return None
    scope = _first_scope(owner, place.variant, (*place.rooms, *live))
    node: Node | None = owner.root
    for n, node_id in enumerate(place.path):
        node = find(scope.owner.root, node_id)
        if node is None:
            return None
        # The path leads through instances; each opens the scope of its component.
        if n < len(place.path) - 1:
            inner = _inner_scope(document, scope, node)
            if inner is None:
                return None
            scope = inner
    return None if node is None else _inspected(document, scope, node)


def _inspected(document: Document, scope: Scope, node: Node) -> Inspection | None:
    """Follows instances to the node that is drawn; the first one is what was pointed at."""
    instance = holder = None
    # A component may be nothing but an instance of another: what is drawn is the innermost.
    while node.kind == "instance":
        if instance is None:
            instance, holder = node, scope
        inner = _inner_scope(document, scope, node)
        if inner is None:
            return None
        scope, node = inner, inner.owner.root
    return Inspection(document, _at(document, scope, node), node, instance, holder)


def _at(document: Document, scope: Scope, node: Node) -> Scope:
    """The scope in the mode that holds at a node: what the nodes around it say, and itself."""
    for each in lineage(scope.owner.root, node.id):
        steps = cascaded_values(scope, each)
        scope = scope_inside(scope, steps, PlainLookup(document, scope.mode))
    return scope


def ladder(document: Document, place: Place, name: str, live: LiveValues = ()) -> tuple[Rung, ...]:
    """The ladder of one property at a place; empty if nothing is there."""
    inspection = inspect(document, place, live)
    return () if inspection is None else inspection.ladder(name)


def value_at(document: Document, place: Place, name: str) -> Literals:
    """The property's settled value at a place; the table's default if nothing is there."""
    inspection = inspect(document, place)
    value = None if inspection is None else inspection.value(name)
    return row_of(name).default if value is None else value


def node_at(document: Document, place: Place) -> Node | None:
    """The drawn node at a place: for an instance, the root node of its component."""
    inspection = inspect(document, place)
    return None if inspection is None else inspection.node


def _first_scope(owner: Owner, variant: Variant, live: LiveValues) -> Scope:
    if isinstance(owner, Component):
        inputs = InstanceInput(owner.id, tuple(sorted(variant.items())), live=live)
        return component_scope(owner, with_live(inputs, known_values(owner, variant)))
    return screen_scope(owner, live, running=False)


def _inner_scope(document: Document, scope: Scope, node: Node) -> Scope | None:
    if node.kind != "instance":
        return None
    scope = _at(document, scope, node)
    lookup = PlainLookup(document, scope.mode)
    inputs = input_of(scope, node, cascaded_values(scope, node), lookup)
    component = document.components.get(inputs.component)
    return None if component is None else component_scope(component, inputs)
