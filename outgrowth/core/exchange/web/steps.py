"""What is said about a node, with its conditions: the cascade before it is known which hold.

A *place* is a path of node ids from an owner, as everywhere. Conditions may be about the owner's
axes, or about those of an instance on the way; so a key names the instance by its path.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import product
from typing import NamedTuple

from outgrowth.core.color import Color
from outgrowth.core.document.properties import CHOICE, TABLE, fitting, row_of
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Path,
    find,
)
from outgrowth.core.document.referring import DEEPEST_ALIAS, colored
from outgrowth.core.document.values import FromProperty, Literals, Shift, Token, Value
from outgrowth.core.document.variants import in_cascade_order

Key = tuple[Path, str]
"""An axis (or a switch property): the path of the instance whose it is, and its id."""
When = frozenset[tuple[Key, str]]
"""Conditions: each an axis and the id of its value; a switch's values are YES and NO."""
Cell = Mapping[Key, str]

YES, NO = "yes", "no"
ALWAYS: When = frozenset()


class Said(NamedTuple):
    """One step of a node's cascade.

    depth  0 for what the owner itself says, 1 for what the component of an instance says of its
           own node, and so on inwards
    scope  the path of the instance whose component says it: its properties are meant
    """

    property: str
    value: Value
    when: When
    depth: int
    scope: Path


class Steps:
    """The steps of the nodes of one owner, through its instances."""

    def __init__(
        self, document: Document, owner: Owner, siblings: dict[str, Steps] | None = None
    ) -> None:
        self.document = document
        self.owner = owner
        self._kept: dict[Path, tuple[Said, ...]] = {}
        # By component, for all owners of one document.
        self._others = {} if siblings is None else siblings

    def other(self, component: Component) -> Steps:
        """The steps of a component of the same document."""
        results = self._others.get(component.id)
        if results is None:
            results = Steps(self.document, component, self._others)
            self._others[component.id] = results
        return results

    def component_at(self, instance: Path) -> Component | None:
        """The component that stands at an instance's path as it is drawn; () is the owner."""
        if not instance:
            return self.owner if isinstance(self.owner, Component) else None
        for entry in reversed(self.of(instance)):
            if entry.property == "component" and not entry.when:
                value = (
                    self._slot_default(entry)
                    if isinstance(entry.value, FromProperty)
                    else entry.value
                )
                return self.document.components.get(value) if isinstance(value, str) else None
        return None

    def owner_at(self, instance: Path) -> Owner | None:
        """The same, the owner itself for ()."""
        return self.component_at(instance) if instance else self.owner

    def node_at(self, path: Path) -> Node | None:
        """The node at a path: of an instance, the instance itself."""
        if not path:
            return self.owner.root
        owner = self.owner_at(path[:-1])
        return find(owner.root, path[-1]) if owner is not None else None

    def of(self, path: Path) -> tuple[Said, ...]:
        """All that is said about a node, what wins later. An instance's path stands for the root
        of its component too: what that says comes first."""
        cached = self._kept.get(path)
        if cached is None:
            cached = self._kept[path] = tuple(self._inner(path)) + tuple(self._own(path))
        return cached

    def _inner(self, path: Path) -> Iterator[Said]:
        """What the component of the outermost instance on the way says: of its own node."""
        node = find(self.owner.root, path[0]) if path else None
        if node is None or node.kind != "instance":
            return
        component = self._component_of(node)
        if component is None:
            return
        inner = self.other(component)
        remainder = path[1:] if len(path) > 1 else ()
        for entry in inner.of(remainder):
            when = frozenset((((node.id, *key[0]), key[1]), value) for key, value in entry.when)
            yield Said(entry.property, entry.value, when, entry.depth + 1, (node.id, *entry.scope))

    def _own(self, path: Path) -> Iterator[Said]:
        node = find(self.owner.root, path[0]) if path else self.owner.root
        if node is None:
            return
        # As the cascade has it: of an instance itself what its node says, its holder's rules,
        # then its overrides; of what is in it, the overrides before the rules.
        if len(path) <= 1:
            for name, value in sorted(node.style.items(), key=lambda item: item[0]):
                yield Said(name, value, ALWAYS, 0, ())
            yield from self._rules(path or (self.owner.root.id,))
        for rule in sorted(node.overrides, key=lambda rule: len(rule.when)) if path else ():
            if rule.node == path[1:]:
                when = frozenset((((node.id,), axis), value) for axis, value in rule.when.items())
                yield Said(rule.property, rule.value, when, 0, ())
        if len(path) > 1:
            yield from self._rules(path)

    def _rules(self, spoken: Path) -> Iterator[Said]:
        if isinstance(self.owner, Component):
            for rule in in_cascade_order(self.owner):
                if rule.node == spoken:
                    when = frozenset((((), axis), value) for axis, value in rule.when.items())
                    yield Said(rule.property, rule.value, when, 0, ())

    def _component_of(self, node: Node) -> Component | None:
        value = node.style.get("component")
        if isinstance(value, FromProperty) and isinstance(self.owner, Component):
            prop = self.owner.property(value.property)
            value = prop.default if prop is not None else None
        return self.document.components.get(value) if isinstance(value, str) else None

    def _slot_default(self, entry: Said) -> Literals:
        prop = self.property_at(entry.scope, entry.value)
        return prop.default if prop is not None else ""

    def property_at(self, scope: Path, value: Value) -> ComponentProperty | None:
        """The component property that a value means."""
        owner = self.component_at(scope) if isinstance(value, FromProperty) else None
        return owner.property(value.property) if owner is not None else None  # type: ignore[union-attr]  # it is one

    # --- cells ------------------------------------------------------------------------------

    def keys_of(self, steps: tuple[Said, ...]) -> list[Key]:
        """The axes and switches that any of the steps depends on, in a settled order."""
        keys = {key for entry in steps for key, _ in entry.when}
        for entry in steps:
            prop = self.property_at(entry.scope, entry.value)
            if prop is not None and prop.kind == "switch":
                keys.add((entry.scope, prop.id))
        return sorted(keys)

    def values_of(self, key: Key) -> tuple[str, ...]:
        """The ids of an axis's values, the default first; YES and NO of a switch."""
        component = self.component_at(key[0])
        axis = component.axis(key[1]) if component is not None else None
        if axis is not None:
            siblings = tuple(v.id for v in axis.values if v.id != axis.default)
            return (axis.default, *siblings)
        prop = component.property(key[1]) if component is not None else None
        return (YES, NO) if prop is not None and prop.default is True else (NO, YES)

    def cells(self, keys: list[Key]) -> Iterator[dict[Key, str]]:
        """All combinations of the values of some axes."""
        for values in product(*(self.values_of(key) for key in keys)):
            yield dict(zip(keys, values, strict=True))


def holding(steps: tuple[Said, ...], cell: Cell) -> tuple[Said, ...]:
    """The steps whose conditions are among a cell's values."""
    return tuple(
        entry for entry in steps if all(cell.get(key) == value for key, value in entry.when)
    )


def last_plain(steps: tuple[Said, ...], name: str) -> Said | None:
    """The step that gives a property its plain value."""
    results = None
    for entry in steps:
        if entry.property == name and not isinstance(entry.value, Shift):
            results = entry
    return results


def literal_at(document: Document, entry: Said | None, name: str, owner: Steps) -> Literals:
    """The plain literal that a step comes to: of a component's property, its default."""
    value: Value = row_of(name).default if entry is None else entry.value
    if entry is not None and isinstance(value, FromProperty):
        prop = owner.property_at(entry.scope, value)
        value = prop.default if prop is not None else row_of(name).default
    depth = 0
    while isinstance(value, Token):
        token = document.token(value.path)
        value = token.value if token is not None and depth < DEEPEST_ALIAS else row_of(name).default
        depth += 1
    if isinstance(value, FromProperty | Shift):
        return row_of(name).default
    if name.startswith(CHOICE):
        return value
    shown = fitting(name, value)
    return colored(shown, document.token) if name == "shadow" else shown  # type: ignore[arg-type]  # the row says shadows


def is_color_row(name: str) -> bool:
    """Whether a property holds one colour."""
    return name in TABLE and isinstance(TABLE[name].default, Color)
