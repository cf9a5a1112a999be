"""The records a document is made of. Everything is frozen; an edit builds new ones.

**No record can hold what a file could not**: each checks what it is given when it is made, by
the property table and the types behind it, and takes it in the form that reading gives back
(numbers as floats, colours in 8 bits, letters that can be written). It raises ValueRefusal.

Ids never change and are never shown; names are for people and may repeat. A *path* is
the ids of the instances to go through and then of the node itself: `(button, label)` is
the node `label` inside the instance `button`. An instance's own id stands for the root
node of its component, so `()` read from inside an instance is that root.

`extras` keeps what a file held and this version does not know, so that it is written back;
`more` does so as JSON text, in records that are compared and looked up by value.
"""

from __future__ import annotations

import hashlib
import math
import re
from collections.abc import Iterator, Sequence
from typing import Literal, get_args

import msgspec
from immutables import Map

from outgrowth.core.document.cues import STILL, Behaviour, checked_conditions, checked_path
from outgrowth.core.document.cues import Motion as Motion
from outgrowth.core.document.cues import Path as Path
from outgrowth.core.document.design_token import DesignToken as DesignToken
from outgrowth.core.document.design_token import TokenKind as TokenKind
from outgrowth.core.document.keeping import NOTHING, Keeping
from outgrowth.core.document.properties import (
    ANY,
    PROPERTY_TYPES,
    NodeKind,
    checked,
    checked_style,
)
from outgrowth.core.document.sharing import ALONE, Sharing
from outgrowth.core.document.types import Json, NumberType, checked_name, checked_text
from outgrowth.core.document.values import USUAL, Default, Shift, Token, Value
from outgrowth.core.memo import ByIdentity
from outgrowth.core.refusal import ValueRefusal, clean, quoted, shown_value

Style = Map[str, Value]
Extras = Map[str, Json]
Driver = Literal["none", "pointer", "focus", "room"]
RoomSide = Literal["width", "height"]
RoomUnit = Literal["px", "ch"]
Meaning = Literal[
    "none",
    "enabled",
    "checked",
    "expanded",
    "selected",
    "current",
    "pressed",
    "invalid",
    "required",
    "busy",
    "read-only",
    "filled",
]
MEANINGS: tuple[Meaning, ...] = get_args(Meaning)
ValuePart = Literal["", "rest", "hover", "press", "focus", "disabled", "cued", "yes", "no", "mixed"]
PropertyKind = Literal["text", "switch", "slot", "color", "number"]

NO_STYLE: Style = Map()
NO_EXTRAS: Extras = Map()
MOST_ROOM = 100_000.0
"""Px, or widths of a "0", that a value of an axis can begin at."""
MOST_VARIANTS = 5000
"""Combinations of axis values that one component may have, offered or not."""
POINTER_VALUES: tuple[Literal["rest", "hover", "press"], ...] = ("rest", "hover", "press")


class Rule(msgspec.Struct, frozen=True):
    """When these axis values hold, this property of the node at `node` is `value`.

    On a component, `when` names its axes by id. In an instance's overrides, it names the
    axes of the component that the instance follows.
    """

    when: Map[str, str]
    node: Path
    property: str
    value: Value
    more: str = ""

    def __post_init__(self) -> None:
        _set(self, "when", checked_conditions(self.when))
        _set(self, "node", checked_path(self.node))
        _set(self, "value", checked(self.property, self.value))


class Aside(msgspec.Struct, frozen=True):
    """What an instance differed in while it followed another component, and what meant
    nothing for the one it follows now: kept for the way back.

    own   overrides of the instance, its own style's with an empty path
    held  rules of the component that holds the instance, about the instance's inside
    """

    component: str
    own: tuple[Rule, ...] = ()
    held: tuple[Rule, ...] = ()

    def __post_init__(self) -> None:
        _set(self, "component", checked_name(self.component, "id"))
        _refuse_unplaced(self.held)


class Node(msgspec.Struct, frozen=True, weakref=True):
    """One element of a tree.

    `style` of an instance holds its component, its choices (`choice:<id>`) and what it
    overrides on the component's root; `overrides` holds the rest: deeper nodes, and
    values that only hold in some variants; `aside` what it would differ in as an instance
    of another component.
    """

    id: str
    name: str
    kind: NodeKind
    style: Style = NO_STYLE
    children: tuple[Node, ...] = ()
    overrides: tuple[Rule, ...] = ()
    extras: Extras = NO_EXTRAS
    aside: tuple[Aside, ...] = ()

    def __post_init__(self) -> None:
        if self.kind not in ANY:
            raise ValueRefusal(f"{shown_value(self.kind)} is no kind of part.")
        if self.children and self.kind != "box":
            raise ValueRefusal(f"A {self.kind} holds no other parts; only a box does.")
        _named(self)
        _set(self, "style", checked_style(self.style))


class AxisValue(msgspec.Struct, frozen=True):
    """One choice of an axis, and how entering it moves if that differs from the axis. `part` is
    what it stands for in what sets its axis, or in what that means; "" goes by its id or name
    (axis_parts.py). `least` is the room from which on it holds, where the room sets its axis
    (rooms.py)."""

    id: str
    name: str
    motion: Motion | None = None
    part: ValuePart = ""
    extras: Extras = NO_EXTRAS
    least: float = 0.0

    def __post_init__(self) -> None:
        _named(self)
        least = NumberType(0.0, MOST_ROOM).check(self.least)
        _set(self, "least", least)
        if self.part not in get_args(ValuePart):
            raise ValueRefusal(f"{shown_value(self.part)} is nothing that a value stands for.")


class Axis(msgspec.Struct, frozen=True):
    """One way in which a component varies; `default` is the id of one of its values. `side` and
    `unit` are of what the room sets: which side of it, and what `least` counts."""

    id: str
    name: str
    values: tuple[AxisValue, ...]
    default: str
    driver: Driver = "none"
    meaning: Meaning = "none"
    motion: Motion | None = None
    extras: Extras = NO_EXTRAS
    side: RoomSide = "width"
    unit: RoomUnit = "px"

    def __post_init__(self) -> None:
        _named(self)
        ids = [value.id for value in self.values]
        _refuse_twice(ids, "Two values share the id")
        if self.default not in ids:
            name = quoted(self.name)
            raise ValueRefusal(f"the axis “{name}” has no value that is its default.")
        if self.driver not in get_args(Driver) or self.meaning not in MEANINGS:
            raise ValueRefusal(
                f"{shown_value(self.driver)} or {shown_value(self.meaning)} is not known."
            )
        if self.side not in get_args(RoomSide) or self.unit not in get_args(RoomUnit):
            raise ValueRefusal(
                f"{shown_value(self.side)} in {shown_value(self.unit)} is no room to ask for."
            )

    def value(self, value_id: str) -> AxisValue | None:
        """The value with an id, None if there is none."""
        return next((v for v in self.values if v.id == value_id), None)

    def named(self, name: str) -> AxisValue | None:
        """The value with a name, None if there is none."""
        return next((v for v in self.values if v.name == name), None)


class ComponentProperty(msgspec.Struct, frozen=True):
    """What an instance may set besides the axes. A slot's default is a component's id, or
    "" for an empty one; that of a colour or number may be a token, or a relative change of what
    lies below; `shortlist` names the components offered first for it."""

    id: str
    name: str
    kind: PropertyKind
    default: Default
    description: str = ""
    shortlist: tuple[str, ...] = ()
    extras: Extras = NO_EXTRAS

    def __post_init__(self) -> None:
        if self.kind not in PROPERTY_TYPES:
            raise ValueRefusal(f"{shown_value(self.kind)} is no kind of property.")
        _named(self)
        relative = isinstance(self.default, Token | Shift)
        if relative and self.kind not in ("color", "number"):
            raise ValueRefusal(f"A {self.kind} has to be said by itself.")
        if not relative:
            _set(self, "default", PROPERTY_TYPES[self.kind].check(self.default))
        _set(self, "description", checked_text(self.description))
        _set(self, "shortlist", checked_path(self.shortlist))


def short_name(name: str) -> str:
    """A name without its folders: “Button” of “Controls/Button”."""
    return name.rpartition("/")[2]


class Component(msgspec.Struct, frozen=True, weakref=True):
    """One node tree, ordered axes, ordered rules, and what an instance may set.

    `not_offered` are patterns: a variant that agrees with all pairs of one is not offered.
    `columns` and `chips` are the axes that its grid lays along the columns, and those of
    which it shows one value at a time; the others lie along the rows. `columns` None is the
    usual arrangement. `description` says what it is for, `dos` and `donts` how to use it and
    how not to, a sentence each.
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
    dos: tuple[str, ...] = ()
    donts: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        _named(self)
        _refuse_twice([axis.id for axis in self.axes], "Two axes share the id")
        _refuse_twice([prop.id for prop in self.properties], "Two properties share the id")
        count = math.prod(len(axis.values) for axis in self.axes)
        if count > MOST_VARIANTS:
            raise ValueRefusal(
                f"“{quoted(self.name)}” would have {count:,} variants; {MOST_VARIANTS:,} is the "
                "most. Split it, or nest parts."
            )
        _refuse_unplaced(self.rules)
        _set(self, "not_offered", tuple(checked_conditions(p) for p in self.not_offered))
        _set(self, "description", checked_text(self.description))
        _set(self, "chips", checked_path(self.chips))
        _set(self, "dos", tuple(checked_text(line) for line in self.dos))
        _set(self, "donts", tuple(checked_text(line) for line in self.donts))
        if self.columns is not None:
            _set(self, "columns", checked_path(self.columns))

    @property
    def short_name(self) -> str:
        """Its name without the folders."""
        return short_name(self.name)

    def is_called(self, name: str) -> bool:
        """Whether somebody who says this name means it: the whole one, the short one or the id."""
        return name in (self.name, self.short_name, self.id)

    def axis(self, axis_id: str) -> Axis | None:
        """The axis with an id, None if there is none."""
        return next((a for a in self.axes if a.id == axis_id), None)

    def property(self, property_id: str) -> ComponentProperty | None:
        """The property with an id, None if there is none."""
        return next((p for p in self.properties if p.id == property_id), None)


class Screen(msgspec.Struct, frozen=True, weakref=True):
    """A place where instances live as in the product; its size is its root's."""

    id: str
    name: str
    root: Node
    behaviour: Behaviour = STILL
    extras: Extras = NO_EXTRAS

    def __post_init__(self) -> None:
        _named(self)

    @property
    def short_name(self) -> str:
        """Its name without the folders."""
        return short_name(self.name)

    def is_called(self, name: str) -> bool:
        """Whether somebody who says this name means it: the whole one, the short one or the id."""
        return name in (self.name, self.short_name, self.id)


Owner = Component | Screen


# Source: RFC 6838, section 4.2 (names of media types), lower case.
_MEDIA = re.compile(r"[a-z]{1,20}/[A-Za-z0-9.+-]{1,60}")


class Asset(msgspec.Struct, frozen=True, weakref=True):
    """Data that came from outside: a picture or a font, as the bytes of its file."""

    name: str
    media: str
    data: bytes

    def __post_init__(self) -> None:
        _set(self, "name", checked_name(self.name))
        if not isinstance(self.media, str) or not _MEDIA.fullmatch(self.media):
            raise ValueRefusal(f"{shown_value(self.media)} is no kind of data.")

    @property
    def digest(self) -> str:
        """What the data is called in a document: equal data is kept once."""
        return hashlib.sha256(self.data).hexdigest()[:24]


UNTITLED = "Untitled"
"""What a file is called that nobody named."""


class Document(msgspec.Struct, frozen=True, weakref=True):
    """Everything in a file. `order` maps keep no order: the ids are listed beside them.
    `assets` are by their digest; `modes` are what tokens can differ in besides their usual
    values, `mode` the one that is shown ("" for the usual); `sharing` is what comes from
    libraries, `keeping` what was waived and what is tried at every edit."""

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
    sharing: Sharing = ALONE
    keeping: Keeping = NOTHING

    def __post_init__(self) -> None:
        _set(self, "name", checked_name(self.name))
        for owners, order in (
            (self.components, self.component_order),
            (self.screens, self.screen_order),
        ):
            if len(owners) != len(order) or not all(i in owners for i in order):
                raise ValueRefusal("The list of parts and their order differ.")
            _refuse_twice(order, "Two components or screens share the id")
        _set(self, "modes", checked_path(self.modes))
        _refuse_twice(self.modes, "Two modes share the name")
        _set(self, "tokens", _cleanly_named(self.tokens))
        if self.mode and self.mode not in self.modes:
            raise ValueRefusal(f"There is no mode called {shown_value(self.mode)}.")

    def token(self, path: str, mode: str | None = None) -> DesignToken | None:
        """A token as it is in a mode, None for the one that is shown: the same object each
        time."""
        token = self.tokens.get(path)
        shown = self.mode if mode is None else mode
        if token is None or shown not in token.modes:
            return token
        return _in_modes(token)[shown]

    def mode_inside(self, said: object, around: str | None) -> str | None:
        """The mode inside a part that says one; a mode that is not there says nothing."""
        if isinstance(said, str) and said in self.modes and said:
            return said
        return "" if said == USUAL else around

    def in_order(self) -> Iterator[Component]:
        """The components in the order of the Library."""
        return (self.components[i] for i in self.component_order)

    def screens_in_order(self) -> Iterator[Screen]:
        """The screens in the order of the Library."""
        return (self.screens[i] for i in self.screen_order)

    def owners(self) -> Iterator[Owner]:
        """Components, then screens."""
        yield from self.in_order()
        yield from self.screens_in_order()

    def owner(self, owner_id: str) -> Owner | None:
        """The component or screen with an id, None if there is none."""
        return self.components.get(owner_id) or self.screens.get(owner_id)


def _moded(token: DesignToken) -> dict[str, DesignToken]:
    return {
        mode: msgspec.structs.replace(token, value=value, modes=Map())
        for mode, value in token.modes.items()
    }


# By map of tokens and its mode; a lookup of a token is two dictionary accesses.
_in_modes = ByIdentity(_moded, 1024)


# --- what every record asks when it is made -------------------------------------------------


def _set(record: msgspec.Struct, name: str, value: object) -> None:
    """Puts the checked form of a field into a record that is being made."""
    if getattr(record, name) is not value:
        msgspec.structs.force_setattr(record, name, value)


def _named(record: Node | AxisValue | Axis | ComponentProperty | Component | Screen) -> None:
    usual = type(record.id) is str and type(record.name) is str
    if usual and len(record.id) < 100 > len(record.name) and (record.id + record.name).isascii():
        return
    _set(record, "id", checked_name(record.id, "id"))
    _set(record, "name", checked_name(record.name))


def _cleanly_named(tokens: Map[str, DesignToken]) -> Map[str, DesignToken]:
    if clean("".join(tokens)) != "".join(tokens):
        return Map({checked_name(path): token for path, token in tokens.items()})
    return tokens


def _refuse_twice(ids: Sequence[str], complaint: str) -> None:
    if len(set(ids)) != len(ids):
        twice = next(name for n, name in enumerate(ids) if name in ids[:n])
        raise ValueRefusal(f"{complaint} {shown_value(twice)}.")


def _refuse_unplaced(rules: tuple[Rule, ...]) -> None:
    """A rule of a component names the part it is about; only an override may name none, for
    the instance that it stands on."""
    for rule in rules:
        if not rule.node:
            raise ValueRefusal(f"A rule about {shown_value(rule.property)} names no part.")


def walk(node: Node) -> Iterator[Node]:
    """The node and all beneath it, in tree order (not into instances)."""
    stack = [node]
    while stack:
        current = stack.pop()
        yield current
        stack.extend(reversed(current.children))


# Children from which on their places are remembered by id.
_LONG = 64


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
    index = place_among(root.children, node_id)
    if index is not None:
        return root, root.children[index]
    for child in root.children:
        if child.children:
            below = lineage(child, node_id)
            if below:
                return (root, *below)
    return ()
