"""What is said about a node, with its conditions: the cascade before it is known which hold.

A *place* is a path of node ids from an owner, as everywhere. Conditions may be about the owner's
axes, or about those of an instance on the way; so a key names the instance by its path.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from itertools import product
from typing import NamedTuple

import msgspec

from outgrowth.core.color import Color
from outgrowth.core.document.properties import TABLE, row_of
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Path,
    find,
)
from outgrowth.core.document.rooms import GIVEN_BY_HOLDER, room_axes
from outgrowth.core.document.values import FromProperty, Literals, Shift, Value
from outgrowth.core.resolve.cascade import (
    declarations,
    declared_rules,
    literal,
    plain_and_shifts,
)


class AxisKey(NamedTuple):
    """An axis (or a switch property) of an instance on the way.

    instance  the path of the instance whose axis it is; () for the owner's own
    id        the axis's id, or the property's
    """

    instance: Path
    id: str

    def seen_from(self, holder: Path) -> AxisKey:
        """The same axis for who holds the owner as an instance at a path."""
        return AxisKey((*holder, *self.instance), self.id)


Conditions = frozenset[tuple[AxisKey, str]]
"""Conditions: each an axis and the id of its value; a switch's values are YES and NO."""
AxisValues = Mapping[AxisKey, str]
"""One combination of the values of some axes."""

YES, NO = "yes", "no"
ALWAYS: Conditions = frozenset()


class ScopedStep(NamedTuple):
    """One step of a node's cascade, as an owner around its component sees it.

    when   each condition names the instance whose axis it is about
    depth  0 for what the owner itself says, 1 for what the component of an instance says of its
           own node, and so on inwards
    scope  the path of the instance whose component says it: its properties are meant
    """

    property: str
    value: Value
    when: Conditions
    depth: int
    scope: Path


class Steps:
    """The steps of the nodes of one owner, through its instances."""

    def __init__(
        self, document: Document, owner: Owner, siblings: dict[str, Steps] | None = None
    ) -> None:
        self.document = document
        self.owner = owner
        self._kept: dict[Path, tuple[ScopedStep, ...]] = {}
        # By component, for all owners of one document.
        self._others = {} if siblings is None else siblings

    def other(self, component: Component) -> Steps:
        """The steps of a component of the same document."""
        inner = self._others.get(component.id)
        if inner is None:
            inner = self._others[component.id] = Steps(self.document, component, self._others)
        return inner

    def component_at(self, instance: Path) -> Component | None:
        """The component that stands at an instance's path as it is drawn; () is the owner."""
        if not instance:
            return self.owner if isinstance(self.owner, Component) else None
        return self._shown_by(self.of(instance))

    def _shown_by(self, steps: tuple[ScopedStep, ...]) -> Component | None:
        for step in reversed(steps):
            if step.property == "component" and not step.when:
                value = (
                    self._default_of(step) if isinstance(step.value, FromProperty) else step.value
                )
                return self.document.components.get(value) if isinstance(value, str) else None
        return None

    def slot_at(self, path: Path) -> ComponentProperty | None:
        """The property by which a node of the owner's own tree is a slot."""
        node = find(self.owner.root, path[0]) if len(path) == 1 else None
        value = node.style.get("component") if node is not None else None
        if not isinstance(value, FromProperty) or not isinstance(self.owner, Component):
            return None
        return self.owner.property(value.property)

    def filled(self, slot: ComponentProperty, component: Component) -> Steps:
        """The steps of the owner with something else in a slot."""
        owner = self.owner
        assert isinstance(owner, Component)
        other = msgspec.structs.replace(slot, default=component.id)
        properties = tuple(other if p is slot else p for p in owner.properties)
        filled = msgspec.structs.replace(owner, properties=properties)
        return Steps(self.document, filled, self._others)

    def owner_at(self, instance: Path) -> Owner | None:
        """The same, the owner itself for ()."""
        return self.component_at(instance) if instance else self.owner

    def node_at(self, path: Path) -> Node | None:
        """The node at a path: of an instance, the instance itself."""
        if not path:
            return self.owner.root
        owner = self.owner_at(path[:-1])
        return find(owner.root, path[-1]) if owner is not None else None

    def of(self, path: Path) -> tuple[ScopedStep, ...]:
        """All that is said about a node, what wins later. An instance's path stands for the root
        of its component too: what that says comes first."""
        cached = self._kept.get(path)
        if cached is None:
            every = tuple(self._inner(path)) + tuple(self._own(path))
            if path and any(s.property == "sides" for s in every):
                every = self._by_its_own_sides(path, every)
            cached = self._kept[path] = self._known_before_room(path, every)
        return cached

    def _by_its_own_sides(
        self, path: Path, steps: tuple[ScopedStep, ...]
    ) -> tuple[ScopedStep, ...]:
        """The steps without what holders say of the meaning of left and right: whose tree the node
        stands in says that."""
        node = self.node_at(path)
        own = len(path) - (node is None or node.kind != "instance")
        return tuple(s for s in steps if s.property != "sides" or s.depth == own)

    def _known_before_room(
        self, path: Path, steps: tuple[ScopedStep, ...]
    ) -> tuple[ScopedStep, ...]:
        """The steps without those that would make a root's place in its holder depend on its own
        room: they mean nothing (rooms.py)."""
        if not any(s.when and s.property in GIVEN_BY_HOLDER for s in steps):
            return steps
        node = self.node_at(path)
        if node is None or (path and node.kind != "instance"):
            return steps
        component = self._shown_by(steps) if path else self.component_at(())
        by_room = {AxisKey(path, axis.id) for axis in room_axes(component)} if component else set()
        return tuple(
            s
            for s in steps
            if s.property not in GIVEN_BY_HOLDER or by_room.isdisjoint(key for key, _ in s.when)
        )

    def _inner(self, path: Path) -> Iterator[ScopedStep]:
        """What the component of the outermost instance on the way says: of its own node."""
        node = find(self.owner.root, path[0]) if path else None
        if node is None or node.kind != "instance":
            return
        component = self._component_of(node)
        if component is None:
            return
        inner = self.other(component)
        remainder = path[1:] if len(path) > 1 else ()
        for step in inner.of(remainder):
            when = frozenset((key.seen_from((node.id,)), value) for key, value in step.when)
            yield ScopedStep(
                step.property, step.value, when, step.depth + 1, (node.id, *step.scope)
            )

    def _own(self, path: Path) -> Iterator[ScopedStep]:
        node = find(self.owner.root, path[0]) if path else self.owner.root
        if node is None:
            return
        rules = declared_rules(self.owner).get(node.id, ())
        for declared in declarations(self.owner, node, rules):
            # As the root of its component an instance is spoken of by `path`, as a node by ().
            if declared.path == (path or (node.id,)) and not (declared.subject and not path):
                when = frozenset(
                    (AxisKey(declared.subject, a), v) for a, v in declared.when.items()
                )
                yield ScopedStep(declared.property, declared.value, when, 0, ())

    def _component_of(self, node: Node) -> Component | None:
        value = node.style.get("component")
        if isinstance(value, FromProperty) and isinstance(self.owner, Component):
            prop = self.owner.property(value.property)
            value = prop.default if prop is not None else None
        return self.document.components.get(value) if isinstance(value, str) else None

    def _default_of(self, step: ScopedStep) -> Value:
        prop = self.property_at(step.scope, step.value)
        return prop.default if prop is not None else ""

    def relative_default(self, step: ScopedStep) -> Shift | None:
        """The relative change that a step is where no instance gives its property; None for a
        step of any other kind."""
        prop = self.property_at(step.scope, step.value)
        return prop.default if prop is not None and isinstance(prop.default, Shift) else None

    def property_at(self, scope: Path, value: Value) -> ComponentProperty | None:
        """The component property that a value means."""
        owner = self.component_at(scope) if isinstance(value, FromProperty) else None
        return owner.property(value.property) if owner is not None else None  # type: ignore[union-attr]  # it is one

    # --- cells ------------------------------------------------------------------------------

    def keys_of(self, steps: tuple[ScopedStep, ...]) -> list[AxisKey]:
        """The axes and switches that any of the steps depends on, in a settled order."""
        keys = {key for step in steps for key, _ in step.when}
        for step in steps:
            prop = self.property_at(step.scope, step.value)
            if prop is not None and prop.kind == "switch":
                keys.add(AxisKey(step.scope, prop.id))
        return sorted(keys)

    def values_of(self, key: AxisKey) -> tuple[str, ...]:
        """The ids of an axis's values, the default first; YES and NO of a switch."""
        component = self.component_at(key.instance)
        axis = component.axis(key.id) if component is not None else None
        if axis is not None:
            siblings = tuple(v.id for v in axis.values if v.id != axis.default)
            return (axis.default, *siblings)
        prop = component.property(key.id) if component is not None else None
        return (YES, NO) if prop is not None and prop.default is True else (NO, YES)

    def cells(self, keys: list[AxisKey]) -> Iterator[dict[AxisKey, str]]:
        """All combinations of the values of some axes."""
        for values in product(*(self.values_of(key) for key in keys)):
            yield dict(zip(keys, values, strict=True))


def holding(steps: tuple[ScopedStep, ...], cell: AxisValues) -> tuple[ScopedStep, ...]:
    """The steps whose conditions are among a cell's values."""
    return tuple(step for step in steps if all(cell.get(key) == value for key, value in step.when))


def last_plain(steps: Iterable[ScopedStep], name: str) -> ScopedStep | None:
    """The step that gives a property its plain value."""
    return plain_and_shifts(step for step in steps if step.property == name)[0]


def literal_at(document: Document, step: ScopedStep | None, name: str, owner: Steps) -> Literals:
    """The plain literal that a step comes to: of a component's property, its default."""
    value: Value = row_of(name).default if step is None else step.value
    if step is not None and isinstance(value, FromProperty):
        prop = owner.property_at(step.scope, value)
        value = prop.default if prop is not None else row_of(name).default
        # What is relative to what lies below is told where that is known.
        value = row_of(name).default if isinstance(value, Shift) else value
    return literal(name, value, document)


def is_color_row(name: str) -> bool:
    """Whether a property holds one colour."""
    return name in TABLE and isinstance(TABLE[name].default, Color)
