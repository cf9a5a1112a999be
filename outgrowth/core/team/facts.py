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

from collections.abc import Iterable, Sequence
from typing import NamedTuple, cast

import msgspec
from immutables import Map

from outgrowth.core.document.cues import (
    Behaviour,
    Change,
    Condition,
    Cue,
    Motion,
    PartMotion,
    Silence,
    Trigger,
)
from outgrowth.core.document.properties import Kind
from outgrowth.core.document.records import (
    Aside,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Driver,
    Meaning,
    Node,
    Owner,
    Path,
    PropertyKind,
    Rule,
    Screen,
    TokenKind,
)
from outgrowth.core.document.sharing import Library, Origin, Sharing, TokenOrigin
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import Literals, Value

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


_CUE_FIELDS = ("node", "trigger", "changes", "when", "motion", "conditions", "more")


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
        for name in ("motion", "description", "columns", "chips"):
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
            for name in _CUE_FIELDS:
                self._state("cue", key, name, value=getattr(cue, name))
        self._list((((s.path, s.cue), True) for s in behaviour.silenced), "silence")
        self._list((((m.node, m.property), m.motion) for m in behaviour.motions), "motion-of")
        for state, place in behaviour.places.items():
            self._state("place", state, value=place)


def document_facts(document: Document) -> Facts:
    """What a document says besides its components and screens: name, order, tokens, sharing."""
    values: dict[Key, object] = {}
    orders: dict[Key, tuple[object, ...]] = {}
    for name in ("name", "motion", "mode"):
        values["document", name] = getattr(document, name)
    for key, extra in document.extras.items():
        values["document", "extras", key] = extra
    orders[("component",)] = document.component_order
    orders[("screen",)] = document.screen_order
    orders[("mode",)] = document.modes
    for mode in document.modes:
        values["mode", mode] = True
    for path, token in document.tokens.items():
        values["token", path] = True
        values["token", path, "value"] = token.kind, token.value
        values["token", path, "description"] = token.description
        values["token", path, "more"] = token.more
        for mode, value in token.modes.items():
            values["token", path, "mode", mode] = token.kind, value
    sharing = document.sharing
    orders[("library",)] = tuple(library.id for library in sharing.libraries)
    for library in sharing.libraries:
        values["library", library.id] = library
    for component, origin in sharing.origins.items():
        values["origin", component] = origin
    for path, token_origin in sharing.tokens.items():
        values["token-origin", path] = token_origin
    return Facts(values, orders)


# --- putting together -----------------------------------------------------------------------


_Pattern = tuple[tuple[str, str], ...]
_RuleMember = tuple[tuple[_Pattern, Path, str], int]


class _Under:
    """The facts of one owner, by the first steps behind its key."""

    def __init__(self, facts: Facts, key: Key) -> None:
        self.values: dict[Key, object] = {k[2:]: v for k, v in facts.values.items() if k[:2] == key}
        self.orders = {k[2:]: v for k, v in facts.orders.items() if k[:2] == key}
        self._extras: dict[Key, dict[str, Json]] = {}
        self._styles: dict[object, dict[str, Value]] = {}
        for k, value in self.values.items():
            if "extras" in k and k[-2] == "extras":
                self._extras.setdefault(k[:-2], {})[str(k[-1])] = cast(Json, value)
            elif len(k) == 4 and k[0] == "node" and k[2] == "style":
                self._styles.setdefault(k[1], {})[str(k[3])] = cast(Value, value)

    def extras(self, *place: object) -> Map[str, Json]:
        return Map(self._extras.get(place, {}))

    def style(self, node_id: object) -> Map[str, Value]:
        return Map(self._styles.get(node_id, {}))

    def members(self, *place: object) -> Sequence[object]:
        return self.orders.get(place, ())

    def rules(self, *place: object) -> tuple[Rule, ...]:
        rules = []
        for member in self.members(*place):
            (when, path, name), _ = cast(_RuleMember, member)
            value, more = cast(tuple[Value, str], self.values[(*place, member)])
            rules.append(Rule(Map(when), path, name, value, more))
        return tuple(rules)


def owner_from(facts: Facts, key: Key) -> Owner:
    """The component or screen that facts tell of: what `facts_of` took apart. Raises
    ValueProblem where they tell of none that can be."""
    under = _Under(facts, key)
    owner_id, name = str(key[1]), cast(str, under.values[("name",)])
    root = _tree(under)
    if key[0] == "screen":
        return Screen(owner_id, name, root, _behaviour(under), under.extras())
    return Component(
        owner_id,
        name,
        root,
        tuple(_axis(under, axis) for axis in under.members("axis")),
        under.rules("rule"),
        tuple(_property(under, prop) for prop in under.members("property")),
        tuple(
            Map(cast(tuple[_Pattern, int], pattern)[0]) for pattern in under.members("not-offered")
        ),
        cast(Motion | None, under.values[("motion",)]),
        cast(str, under.values[("description",)]),
        cast(tuple[str, ...] | None, under.values[("columns",)]),
        cast(tuple[str, ...], under.values[("chips",)]),
        _behaviour(under),
        under.extras(),
    )


def _tree(under: _Under) -> Node:
    """The tree, from the leaves up: a deep one must not follow itself down."""
    root = next(k[1] for k, v in under.values.items() if k[2:] == ("parent",) and v == ROOT)
    order = [root]
    for node_id in order:
        order += under.members("node", node_id, "child")
    nodes: dict[object, Node] = {}
    for node_id in reversed(order):
        place = "node", node_id
        nodes[node_id] = Node(
            str(node_id),
            cast(str, under.values[(*place, "name")]),
            cast(Kind, under.values[place]),
            under.style(node_id),
            tuple(nodes.pop(child) for child in under.members(*place, "child")),
            under.rules(*place, "override"),
            under.extras(*place),
            tuple(
                cast(Aside, under.values[(*place, "aside", member)])
                for member in under.members(*place, "aside")
            ),
        )
    return nodes[root]


def _axis(under: _Under, axis_id: object) -> Axis:
    place = "axis", axis_id
    values = tuple(
        AxisValue(
            str(value),
            cast(str, under.values[(*place, "value", value, "name")]),
            cast(Motion | None, under.values[(*place, "value", value, "motion")]),
            under.extras(*place, "value", value),
        )
        for value in under.members(*place, "value")
    )
    return Axis(
        str(axis_id),
        cast(str, under.values[(*place, "name")]),
        values,
        cast(str, under.values[(*place, "default")]),
        cast(Driver, under.values[(*place, "driver")]),
        cast(Meaning, under.values[(*place, "meaning")]),
        cast(Motion | None, under.values[(*place, "motion")]),
        under.extras(*place),
    )


def _property(under: _Under, property_id: object) -> ComponentProperty:
    place = "property", property_id
    kind, default = cast(tuple[PropertyKind, Literals], under.values[(*place, "default")])
    return ComponentProperty(
        str(property_id),
        cast(str, under.values[(*place, "name")]),
        kind,
        default,
        cast(str, under.values[(*place, "description")]),
        cast(tuple[str, ...], under.values[(*place, "shortlist")]),
        under.extras(*place),
    )


def _behaviour(under: _Under) -> Behaviour:
    cues = []
    for key in under.members("cue"):
        fields = {name: under.values["cue", key, name] for name in _CUE_FIELDS}
        cues.append(
            Cue(
                cast(tuple[str, int], key)[0],
                cast(Path, fields["node"]),
                cast(Trigger, fields["trigger"]),
                cast(tuple[Change, ...], fields["changes"]),
                cast(Map[str, str], fields["when"]),
                cast(Motion | None, fields["motion"]),
                cast(tuple[Condition, ...], fields["conditions"]),
                cast(str, fields["more"]),
            )
        )
    silenced = tuple(
        Silence(*cast(tuple[tuple[Path, str], int], member)[0])
        for member in under.members("silence")
    )
    motions = []
    for member in under.members("motion-of"):
        (node, name), _ = cast(tuple[tuple[Path, str], int], member)
        motions.append(PartMotion(node, name, cast(Motion, under.values["motion-of", member])))
    places = {
        str(k[1]): cast(tuple[float, float], v)
        for k, v in under.values.items()
        if k[0:1] == ("place",)
    }
    return Behaviour(tuple(cues), silenced, tuple(motions), Map(places))


def tokens_from(facts: Facts) -> Map[str, DesignToken]:
    """The tokens that facts tell of. Raises TokenProblem for one of several kinds."""
    modes: dict[object, dict[str, Value]] = {}
    for key, value in facts.values.items():
        if key[0] == "token" and len(key) == 4:
            kind, token_value = cast(tuple[TokenKind, Value], value)
            if kind != cast(tuple[TokenKind, Value], facts.values["token", key[1], "value"])[0]:
                raise TokenProblem(key)
            modes.setdefault(key[1], {})[str(key[3])] = token_value
    tokens = {}
    for key in facts.values:
        if key[0] == "token" and len(key) == 2:
            kind, token_value = cast(tuple[TokenKind, Value], facts.values[(*key, "value")])
            description = cast(str, facts.values[(*key, "description")])
            more = cast(str, facts.values[(*key, "more")])
            tokens[str(key[1])] = DesignToken(
                kind, token_value, description, Map(modes.get(key[1], {})), more
            )
    return Map(tokens)


class TokenProblem(Exception):
    """A token would have values of several kinds; `key` stands for it."""

    def __init__(self, key: Key) -> None:
        super().__init__(key)
        self.key = key[:2]


def sharing_from(facts: Facts, before: Sharing) -> Sharing:
    """What facts tell of libraries and origins."""
    origins: dict[str, Origin] = {}
    tokens: dict[str, TokenOrigin] = {}
    for key, value in facts.values.items():
        if key[0] == "origin":
            origins[str(key[1])] = cast(Origin, value)
        elif key[0] == "token-origin":
            tokens[str(key[1])] = cast(TokenOrigin, value)
    libraries = tuple(
        cast(Library, facts.values["library", member]) for member in facts.orders[("library",)]
    )
    return msgspec.structs.replace(
        before, libraries=libraries, origins=Map(origins), tokens=Map(tokens)
    )
