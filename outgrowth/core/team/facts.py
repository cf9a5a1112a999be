"""A document as single facts, each under a key of its own, and put together again.

Two documents differ in facts; two people's changes meet only where they touch the same one.
Keys are made of ids, so that what was moved, reordered or renamed is still the same thing:

    ("component", "button", "node", "label", "style", "fill")        → a value
    ("component", "button", "axis", "size", "value", "large", "name") → "Large"

A key that stands for a thing (a node, an axis …) rather than for something said about it is
an *entity*: it is there while the thing is. What lists hold, and in which order, stands apart
in `orders`.
"""

from __future__ import annotations

from collections.abc import Iterable
from operator import itemgetter
from typing import NamedTuple, cast

import msgspec
from immutables import Map

from outgrowth.core.document.cues import Behaviour, Cue
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    Screen,
)
from outgrowth.core.document.sharing import Sharing
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import Literals, Value

FactKey = tuple[object, ...]
"""Strings, paths and members; the kind and id of the owner stand first, then the place in it."""

ROOT = "root"
"""The parent of a tree's first node."""


class Member(NamedTuple):
    """A member of a list of things without an id: what it is about, and which of those it is."""

    about: object
    number: int


class RuleAbout(NamedTuple):
    """What a rule or an override sets; two values of one of these meet."""

    when: tuple[tuple[str, str], ...]
    node: Path
    property: str


class PathAbout(NamedTuple):
    """What a silenced cue, or a part's own motion, is about: a node, and the cue or property."""

    path: Path
    name: str


class Kinded(NamedTuple):
    """A literal with the kind that it is of: one means nothing without the other."""

    kind: str
    value: Literals | Value


def owner_of(key: FactKey) -> FactKey:
    """The component or screen that a fact is in; of tokens, libraries … the thing itself."""
    return key[:2]


def place_in_owner(key: FactKey) -> FactKey:
    """Where in its owner a fact is; () for what says that the owner is there."""
    return key[2:]


def is_inside(key: FactKey, outer: FactKey) -> bool:
    """Whether a key is another one's, or of something in it."""
    return key[: len(outer)] == outer


def rule_value(said: object) -> object:
    """What a rule sets, of all that its fact holds (RULE_FIELDS)."""
    return dict(zip(RULE_FIELDS, cast(tuple[object, ...], said), strict=True))["value"]


class Facts(NamedTuple):
    """What some documents or owners say.

    values  every fact by its key
    orders  what lists hold: the last parts of the keys of their members, by the list's key
    """

    values: dict[FactKey, object]
    orders: dict[FactKey, tuple[object, ...]]


def owner_key(owner: Owner) -> FactKey:
    """The key that stands for a component or a screen."""
    return ("component" if isinstance(owner, Component) else "screen", owner.id)


def facts_of(owner: Owner) -> Facts:
    """All that a component or a screen says."""
    facts = Facts({}, {})
    _Taking(owner, facts).collect()
    return facts


def _plain(record: type[msgspec.Struct], *others: str) -> tuple[str, ...]:
    """The fields of a record that are a fact each, as the record declares them: all but those
    that are taken apart further (`others`). A field that is added is merged by that."""
    names = [field.name for field in msgspec.structs.fields(record)]
    assert set(others) <= set(names), f"{record.__name__} has no such fields"
    return tuple(name for name in names if name not in others)


_HELD = ("id", "root", "behaviour", "extras")
COMPONENT_FIELDS = _plain(Component, *_HELD, "axes", "rules", "properties", "not_offered")
SCREEN_FIELDS = _plain(Screen, *_HELD)
AXIS_FIELDS = _plain(Axis, "id", "values", "extras")
AXIS_VALUE_FIELDS = _plain(AxisValue, "id", "extras")
# A default means nothing without its kind: the two are one fact.
PROPERTY_FIELDS = _plain(ComponentProperty, "id", "kind", "default", "extras")
NODE_FIELDS = _plain(Node, "id", "kind", "style", "children", "overrides", "extras", "aside")
CUE_FIELDS = _plain(Cue, "id")
RULE_FIELDS = _plain(Rule, "when", "node", "property")
# A token's value and those by mode stand with its kind, for the same reason.
TOKEN_FIELDS = _plain(DesignToken, "kind", "value", "modes")
_HELD_BY_DOCUMENT = ("components", "screens", "tokens", "assets", "modes", "extras")
_ORDERS = ("component_order", "screen_order")
DOCUMENT_FIELDS = _plain(Document, *_HELD_BY_DOCUMENT, *_ORDERS, "sharing", "keeping")


class _Taking:
    """Takes one owner apart."""

    def __init__(self, owner: Owner, facts: Facts) -> None:
        self._owner = owner
        self._key = owner_key(owner)
        self._values, self._orders = facts

    def _state(self, *place: object, value: object) -> None:
        self._values[(*self._key, *place)] = value

    def _fields(self, record: msgspec.Struct, names: tuple[str, ...], *place: object) -> None:
        for name in names:
            self._state(*place, name, value=getattr(record, name))

    def _extras(self, extras: Map[str, Json], *place: object) -> None:
        for name, value in extras.items():
            self._state(*place, "extras", name, value=value)

    def _list(self, items: Iterable[tuple[object, object]], *place: object) -> None:
        """Things without an id, by what they are about, with the values of all of them. A file
        may say the same twice: the second is another fact."""
        members: list[object] = []
        counts: dict[object, int] = {}
        for about, value in items:
            counts[about] = count = counts.get(about, 0) + 1
            member = Member(about, count)
            members.append(member)
            self._state(*place, member, value=value)
        self._orders[(*self._key, *place)] = tuple(members)

    def _rules(self, rules: Iterable[Rule], *place: object) -> None:
        """Rules or overrides: two values of one thing meet."""
        self._list(
            (
                (
                    RuleAbout(tuple(sorted(r.when.items())), r.node, r.property),
                    tuple(getattr(r, name) for name in RULE_FIELDS),
                )
                for r in rules
            ),
            *place,
        )

    def collect(self) -> None:
        owner = self._owner
        self._state(value=True)
        own = COMPONENT_FIELDS if isinstance(owner, Component) else SCREEN_FIELDS
        self._fields(owner, own)
        self._extras(owner.extras)
        self._node(owner.root, ROOT)
        self._behaviour(owner.behaviour)
        if isinstance(owner, Component):
            self._component(owner)

    def _component(self, component: Component) -> None:
        self._rules(component.rules, "rule")
        self._orders[(*self._key, "axis")] = tuple(axis.id for axis in component.axes)
        for axis in component.axes:
            self._axis(axis)
        self._orders[(*self._key, "property")] = tuple(p.id for p in component.properties)
        for prop in component.properties:
            self._state("property", prop.id, value=True)
            self._state("property", prop.id, "default", value=Kinded(prop.kind, prop.default))
            self._fields(prop, PROPERTY_FIELDS, "property", prop.id)
            self._extras(prop.extras, "property", prop.id)
        patterns = (tuple(sorted(pattern.items())) for pattern in component.not_offered)
        self._list(((pattern, True) for pattern in patterns), "not-offered")

    def _axis(self, axis: Axis) -> None:
        place = "axis", axis.id
        self._state(*place, value=True)
        self._fields(axis, AXIS_FIELDS, *place)
        self._extras(axis.extras, *place)
        self._orders[(*self._key, *place, "value")] = tuple(value.id for value in axis.values)
        for value in axis.values:
            self._state(*place, "value", value.id, value=True)
            self._fields(value, AXIS_VALUE_FIELDS, *place, "value", value.id)
            self._extras(value.extras, *place, "value", value.id)

    def _node(self, root: Node, parent: str) -> None:
        waiting = [(root, parent)]
        while waiting:
            node, parent = waiting.pop()
            place = "node", node.id
            self._state(*place, value=node.kind)
            self._fields(node, NODE_FIELDS, *place)
            self._state(*place, "parent", value=parent)
            for name, value in sorted(node.style.items(), key=itemgetter(0)):
                self._state(*place, "style", name, value=value)
            self._list(
                ((set_aside.component, set_aside) for set_aside in node.aside), *place, "aside"
            )
            self._extras(node.extras, *place)
            self._rules(node.overrides, *place, "override")
            self._orders[(*self._key, *place, "child")] = tuple(c.id for c in node.children)
            waiting += [(child, node.id) for child in node.children]

    def _behaviour(self, behaviour: Behaviour) -> None:
        cues = list(behaviour.cues)
        self._list(((cue.id, True) for cue in cues), "cue")
        for cue, key in zip(cues, self._orders[(*self._key, "cue")], strict=True):
            self._fields(cue, CUE_FIELDS, "cue", key)
        self._list(((PathAbout(s.path, s.cue), True) for s in behaviour.silenced), "silence")
        self._list(
            ((PathAbout(m.node, m.property), m.motion) for m in behaviour.motions), "motion-of"
        )
        for state, place in behaviour.places.items():
            self._state("place", state, value=place)
        self._list(((PathAbout(path, ""), True) for path in behaviour.leads), "led")


def document_facts(document: Document) -> Facts:
    """What a document says besides its components and screens: name, order, tokens, sharing."""
    facts = Facts({}, {})
    values, orders = facts
    for name in DOCUMENT_FIELDS:
        values["document", name] = getattr(document, name)
    for key, extra in document.extras.items():
        values["document", "extras", key] = extra
    orders[("component",)] = document.component_order
    orders[("screen",)] = document.screen_order
    orders[("mode",)] = document.modes
    for mode in document.modes:
        values["mode", mode] = True
    _token_facts(document, values)
    _sharing_facts(document.sharing, facts)
    for waiver in document.keeping.waivers:
        values["waiver", waiver.key] = waiver
    for check in document.keeping.checks:
        values["check", check.key] = check
    return facts


def _token_facts(document: Document, values: dict[FactKey, object]) -> None:
    """Tokens: a value stands with its kind, since one means nothing without the other."""
    for path, token in document.tokens.items():
        values["token", path] = True
        values["token", path, "value"] = Kinded(token.kind, token.value)
        for name in TOKEN_FIELDS:
            values["token", path, name] = getattr(token, name)
        for mode, value in token.modes.items():
            values["token", path, "mode", mode] = Kinded(token.kind, value)


def _sharing_facts(sharing: Sharing, facts: Facts) -> None:
    values, orders = facts
    orders[("library",)] = tuple(library.id for library in sharing.libraries)
    for library in sharing.libraries:
        values["library", library.id] = library
    for component, origin in sharing.origins.items():
        values["origin", component] = origin
    for path, token_origin in sharing.tokens.items():
        values["token-origin", path] = token_origin
