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
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.cues import (
    Behaviour,
)
from outgrowth.core.document.records import (
    Axis,
    Component,
    Document,
    Node,
    Owner,
    Rule,
)
from outgrowth.core.document.sharing import Sharing
from outgrowth.core.document.types import Json

Key = tuple[object, ...]
"""Strings, paths and conditions; the owner's kind and id stand first."""

ROOT = "root"
"""The parent of a tree's first node."""


class Facts(NamedTuple):
    """What some documents or owners say.

    values  every fact by its key
    orders  what lists hold: the last parts of the keys of their members, by the list's key
    """

    values: dict[Key, object]
    orders: dict[Key, tuple[object, ...]]


def owner_key(owner: Owner) -> Key:
    """The key that stands for a component or a screen."""
    return ("component" if isinstance(owner, Component) else "screen", owner.id)


def facts_of(owner: Owner) -> Facts:
    """All that a component or a screen says."""
    facts = Facts({}, {})
    _Taking(owner, facts).collect()
    return facts


CUE_FIELDS = ("node", "trigger", "changes", "when", "motion", "conditions", "more")
"""What a cue says, each a fact of its own."""


class _Taking:
    """Takes one owner apart."""

    def __init__(self, owner: Owner, facts: Facts) -> None:
        self._owner = owner
        self._key = owner_key(owner)
        self._values, self._orders = facts

    def _state(self, *place: object, value: object) -> None:
        self._values[(*self._key, *place)] = value

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
            members.append((about, count))
            self._state(*place, (about, count), value=value)
        self._orders[(*self._key, *place)] = tuple(members)

    def _rules(self, rules: Iterable[Rule], *place: object) -> None:
        """Rules or overrides: two values of one thing meet."""
        self._list(
            (
                ((tuple(sorted(r.when.items())), r.node, r.property), (r.value, r.more))
                for r in rules
            ),
            *place,
        )

    def collect(self) -> None:
        owner = self._owner
        self._state(value=True)
        self._state("name", value=owner.name)
        self._extras(owner.extras)
        self._node(owner.root, ROOT)
        self._behaviour(owner.behaviour)
        if isinstance(owner, Component):
            self._component(owner)

    def _component(self, component: Component) -> None:
        for name in ("motion", "description", "dos", "donts", "columns", "chips"):
            self._state(name, value=getattr(component, name))
        self._rules(component.rules, "rule")
        self._orders[(*self._key, "axis")] = tuple(axis.id for axis in component.axes)
        for axis in component.axes:
            self._axis(axis)
        self._orders[(*self._key, "property")] = tuple(p.id for p in component.properties)
        for prop in component.properties:
            self._state("property", prop.id, value=True)
            self._state("property", prop.id, "default", value=(prop.kind, prop.default))
            for name in ("name", "description", "shortlist"):
                self._state("property", prop.id, name, value=getattr(prop, name))
            self._extras(prop.extras, "property", prop.id)
        patterns = (tuple(sorted(pattern.items())) for pattern in component.not_offered)
        self._list(((pattern, True) for pattern in patterns), "not-offered")

    def _axis(self, axis: Axis) -> None:
        place = "axis", axis.id
        self._state(*place, value=True)
        for name in ("name", "default", "driver", "meaning", "motion"):
            self._state(*place, name, value=getattr(axis, name))
        self._extras(axis.extras, *place)
        self._orders[(*self._key, *place, "value")] = tuple(value.id for value in axis.values)
        for value in axis.values:
            self._state(*place, "value", value.id, value=True)
            self._state(*place, "value", value.id, "name", value=value.name)
            self._state(*place, "value", value.id, "motion", value=value.motion)
            self._extras(value.extras, *place, "value", value.id)

    def _node(self, root: Node, parent: str) -> None:
        waiting = [(root, parent)]
        while waiting:
            node, parent = waiting.pop()
            place = "node", node.id
            self._state(*place, value=node.kind)
            self._state(*place, "name", value=node.name)
            self._state(*place, "parent", value=parent)
            for name, value in node.style.items():
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
            for name in CUE_FIELDS:
                self._state("cue", key, name, value=getattr(cue, name))
        self._list((((s.path, s.cue), True) for s in behaviour.silenced), "silence")
        self._list((((m.node, m.property), m.motion) for m in behaviour.motions), "motion-of")
        for state, place in behaviour.places.items():
            self._state("place", state, value=place)


def document_facts(document: Document) -> Facts:
    """What a document says besides its components and screens: name, order, tokens, sharing."""
    facts = Facts({}, {})
    values, orders = facts
    for name in ("name", "motion", "mode"):
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


def _token_facts(document: Document, values: dict[Key, object]) -> None:
    """Tokens: a value stands with its kind, since one means nothing without the other."""
    for path, token in document.tokens.items():
        values["token", path] = True
        values["token", path, "value"] = token.kind, token.value
        values["token", path, "description"] = token.description
        values["token", path, "more"] = token.more
        for mode, value in token.modes.items():
            values["token", path, "mode", mode] = token.kind, value


def _sharing_facts(sharing: Sharing, facts: Facts) -> None:
    values, orders = facts
    orders[("library",)] = tuple(library.id for library in sharing.libraries)
    for library in sharing.libraries:
        values["library", library.id] = library
    for component, origin in sharing.origins.items():
        values["origin", component] = origin
    for path, token_origin in sharing.tokens.items():
        values["token-origin", path] = token_origin
