"""The records a document is made of. Everything is frozen; an edit builds new ones.

Ids never change and are never shown; names are for people and may repeat. A *path* is
the ids of the instances to go through and then of the node itself: `(button, label)` is
the node `label` inside the instance `button`. An instance's own id stands for the root
node of its component, so `()` read from inside an instance is that root.

`extras` keeps what a file held and this version does not know, so that it is written back.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from typing import Literal

import msgspec
from immutables import Map

from outgrowth.core.document.cues import STILL, Behaviour
from outgrowth.core.document.cues import Motion as Motion
from outgrowth.core.document.cues import Path as Path
from outgrowth.core.document.properties import Kind
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import Literals, Value
from outgrowth.core.memo import ByIdentity

Style = Map[str, Value]
Extras = Map[str, Json]
Driver = Literal["none", "pointer", "focus"]
Meaning = Literal["none", "enabled", "checked", "expanded", "selected"]
PropertyKind = Literal["text", "switch", "slot", "color", "number"]

NO_STYLE: Style = Map()
NO_EXTRAS: Extras = Map()
POINTER_VALUES = ("rest", "hover", "press")


class Rule(msgspec.Struct, frozen=True):
    """When these axis values hold, this property of the node at `node` is `value`.

    On a component, `when` names its axes by id. In an instance's overrides, it names the
    axes of the component that the instance follows.
    """

    when: Map[str, str]
    node: Path
    property: str
    value: Value


class Aside(msgspec.Struct, frozen=True):
    """What an instance differed in while it followed another component, and what meant
    nothing for the one it follows now: kept for the way back.

    own   overrides of the instance, its own style's with an empty path
    held  rules of the component that holds the instance, about the instance's inside
    """

    component: str
    own: tuple[Rule, ...] = ()
    held: tuple[Rule, ...] = ()


class Node(msgspec.Struct, frozen=True, weakref=True):
    """One element of a tree.

    `style` of an instance holds its component, its choices (`choice:<id>`) and what it
    overrides on the component's root; `overrides` holds the rest: deeper nodes, and
    values that only hold in some variants; `aside` what it would differ in as an instance
    of another component.
    """

    id: str
    name: str
    kind: Kind
    style: Style = NO_STYLE
    children: tuple[Node, ...] = ()
    overrides: tuple[Rule, ...] = ()
    extras: Extras = NO_EXTRAS
    aside: tuple[Aside, ...] = ()


class AxisValue(msgspec.Struct, frozen=True):
    """One choice of an axis, and how entering it moves if that differs from the axis."""

    id: str
    name: str
    motion: Motion | None = None
    extras: Extras = NO_EXTRAS


class Axis(msgspec.Struct, frozen=True):
    """One way in which a component varies; `default` is the id of one of its values."""

    id: str
    name: str
    values: tuple[AxisValue, ...]
    default: str
    driver: Driver = "none"
    meaning: Meaning = "none"
    motion: Motion | None = None
    extras: Extras = NO_EXTRAS

    def value(self, value_id: str) -> AxisValue | None:
        return next((v for v in self.values if v.id == value_id), None)

    def named(self, name: str) -> AxisValue | None:
        return next((v for v in self.values if v.name == name), None)


class ComponentProperty(msgspec.Struct, frozen=True):
    """What an instance may set besides the axes. A slot's default is a component's id, or
    "" for an empty one; `shortlist` names the components offered first for it."""

    id: str
    name: str
    kind: PropertyKind
    default: Literals
    description: str = ""
    shortlist: tuple[str, ...] = ()
    extras: Extras = NO_EXTRAS


class Component(msgspec.Struct, frozen=True, weakref=True):
    """One node tree, ordered axes, ordered rules, and what an instance may set.

    `not_offered` are patterns: a variant that agrees with all pairs of one is not offered.
    `columns` and `chips` are the axes that its grid lays along the columns, and those of
    which it shows one value at a time; the others lie along the rows. `columns` None is the
    usual arrangement.
    """

    id: str
    name: str
    root: Node
    axes: tuple[Axis, ...] = ()
    rules: tuple[Rule, ...] = ()
    properties: tuple[ComponentProperty, ...] = ()
    not_offered: tuple[Map[str, str], ...] = ()
    motion: Motion | None = None
    description: str = ""
    columns: tuple[str, ...] | None = None
    chips: tuple[str, ...] = ()
    behaviour: Behaviour = STILL
    extras: Extras = NO_EXTRAS

    def axis(self, axis_id: str) -> Axis | None:
        return next((a for a in self.axes if a.id == axis_id), None)

    def property(self, property_id: str) -> ComponentProperty | None:
        return next((p for p in self.properties if p.id == property_id), None)


class Screen(msgspec.Struct, frozen=True, weakref=True):
    """A place where instances live as in the product; its size is its root's."""

    id: str
    name: str
    root: Node
    behaviour: Behaviour = STILL
    extras: Extras = NO_EXTRAS


Owner = Component | Screen


TokenKind = Literal["color", "dimension", "number", "duration", "easing", "family", "shadow"]


class DesignToken(msgspec.Struct, frozen=True, weakref=True):
    """A named value; `value` may be a reference to another token. `modes` are what it is
    instead in some modes of the document (as “dark”)."""

    kind: TokenKind
    value: Value
    description: str = ""
    modes: Map[str, Value] = Map()


class Asset(msgspec.Struct, frozen=True, weakref=True):
    """Data that came from outside: a picture or a font, as the bytes of its file."""

    name: str
    media: str
    data: bytes

    @property
    def digest(self) -> str:
        """What the data is called in a document: equal data is kept once."""
        return hashlib.sha256(self.data).hexdigest()[:24]


class Document(msgspec.Struct, frozen=True, weakref=True):
    """Everything in a file. `order` maps keep no order: the ids are listed beside them.
    `assets` are by their digest; `modes` are what tokens can differ in besides their usual
    values, `mode` the one that is shown ("" for the usual)."""

    name: str
    components: Map[str, Component] = Map()
    screens: Map[str, Screen] = Map()
    component_order: tuple[str, ...] = ()
    screen_order: tuple[str, ...] = ()
    tokens: Map[str, DesignToken] = Map()
    motion: Motion = Motion(160.0)
    assets: Map[str, Asset] = Map()
    modes: tuple[str, ...] = ()
    mode: str = ""
    extras: Extras = NO_EXTRAS

    def token(self, path: str) -> DesignToken | None:
        """A token as it is in the mode that is shown: the same object each time."""
        found = self.tokens.get(path)
        if found is None or self.mode not in found.modes:
            return found
        return _in_modes(found)[self.mode]

    def in_order(self) -> Iterator[Component]:
        return (self.components[i] for i in self.component_order)

    def screens_in_order(self) -> Iterator[Screen]:
        return (self.screens[i] for i in self.screen_order)

    def owners(self) -> Iterator[Owner]:
        """Components, then screens."""
        yield from self.in_order()
        yield from self.screens_in_order()

    def owner(self, owner_id: str) -> Owner | None:
        return self.components.get(owner_id) or self.screens.get(owner_id)


def _moded(token: DesignToken) -> dict[str, DesignToken]:
    return {
        mode: msgspec.structs.replace(token, value=value, modes=Map())
        for mode, value in token.modes.items()
    }


_in_modes = ByIdentity(_moded, 1024)


def walk(node: Node) -> Iterator[Node]:
    """The node and all beneath it, in tree order (not into instances)."""
    stack = [node]
    while stack:
        current = stack.pop()
        yield current
        stack.extend(reversed(current.children))


_LONG = 64
"""Children from which on their places are remembered by id."""


def _by_id(children: tuple[Node, ...]) -> dict[str, int]:
    return {child.id: n for n, child in enumerate(children)}


_numbered = ByIdentity(_by_id, 64)


def place_among(children: tuple[Node, ...], node_id: str) -> int | None:
    """Which of these nodes has the id; None if none has."""
    if len(children) >= _LONG:
        return _numbered(children).get(node_id)
    return next((n for n, child in enumerate(children) if child.id == node_id), None)


def find(root: Node, node_id: str) -> Node | None:
    """The node with this id in the tree, not looking into instances."""
    line = lineage(root, node_id)
    return line[-1] if line else None


def lineage(root: Node, node_id: str) -> tuple[Node, ...]:
    """The nodes from the root down to the one with this id; empty if it is not there. Looks
    at all children of a node before it looks into any of them: lists are long, not deep."""
    if root.id == node_id:
        return (root,)
    at = place_among(root.children, node_id)
    if at is not None:
        return root, root.children[at]
    for child in root.children:
        if child.children:
            below = lineage(child, node_id)
            if below:
                return (root, *below)
    return ()
