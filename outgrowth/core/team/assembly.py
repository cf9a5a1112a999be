"""Facts put together again: the component, screen or tokens that they tell of."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, cast

import msgspec
from immutables import Map

from outgrowth.core.document.cues import (
    Behaviour,
    Cue,
    Motion,
    PartMotion,
    Silence,
)
from outgrowth.core.document.keeping import Check, Keeping, Waiver
from outgrowth.core.document.properties import Kind
from outgrowth.core.document.records import (
    Aside,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
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
from outgrowth.core.team.facts import (
    AXIS_FIELDS,
    AXIS_VALUE_FIELDS,
    COMPONENT_FIELDS,
    CUE_FIELDS,
    NODE_FIELDS,
    PROPERTY_FIELDS,
    ROOT,
    RULE_FIELDS,
    SCREEN_FIELDS,
    TOKEN_FIELDS,
    Facts,
    Key,
)

_Pattern = tuple[tuple[str, str], ...]
_Point = tuple[float, float]
_Valued = tuple[TokenKind, Value]
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

    def fields(self, names: tuple[str, ...], *place: object) -> dict[str, Any]:
        """What a record says of itself: each field is of the type that was taken apart."""
        return {name: self.values[(*place, name)] for name in names}

    def rules(self, *place: object) -> tuple[Rule, ...]:
        rules = []
        for member in self.members(*place):
            (when, path, name), _ = cast(_RuleMember, member)
            said = cast(tuple[object, ...], self.values[(*place, member)])
            rest = dict(zip(RULE_FIELDS, said, strict=True))
            rules.append(Rule(Map(when), path, name, **rest))  # type: ignore[arg-type]  # as taken
        return tuple(rules)


def owner_from(facts: Facts, key: Key) -> Owner:
    """The component or screen that facts tell of: what `facts_of` took apart. Raises
    ValueRefusal where they tell of none that can be."""
    under = _Under(facts, key)
    if key[0] == "component":
        return _component(under, str(key[1]))
    return Screen(
        id=str(key[1]),
        root=_tree(under),
        behaviour=_behaviour(under),
        extras=under.extras(),
        **under.fields(SCREEN_FIELDS),
    )


def _component(under: _Under, component_id: str) -> Component:
    return Component(
        id=component_id,
        root=_tree(under),
        axes=tuple(_axis(under, axis) for axis in under.members("axis")),
        rules=under.rules("rule"),
        properties=tuple(_property(under, prop) for prop in under.members("property")),
        not_offered=_not_offered(under),
        behaviour=_behaviour(under),
        extras=under.extras(),
        **under.fields(COMPONENT_FIELDS),
    )


def _not_offered(under: _Under) -> tuple[Map[str, str], ...]:
    patterns = cast(Sequence[tuple[_Pattern, int]], under.members("not-offered"))
    return tuple(Map(pattern) for pattern, _ in patterns)


def _tree(under: _Under) -> Node:
    """The tree, from the leaves up: a deep one must not follow itself down."""
    root = next(k[1] for k, v in under.values.items() if k[2:] == ("parent",) and v == ROOT)
    order = [root]
    for node_id in order:
        order += under.members("node", node_id, "child")
    nodes: dict[object, Node] = {}
    for node_id in reversed(order):
        children = under.members("node", node_id, "child")
        nodes[node_id] = _node(under, node_id, tuple(nodes.pop(child) for child in children))
    return nodes[root]


def _node(under: _Under, node_id: object, children: tuple[Node, ...]) -> Node:
    place = "node", node_id
    set_aside = (under.values[(*place, "aside", m)] for m in under.members(*place, "aside"))
    return Node(
        id=str(node_id),
        kind=cast(Kind, under.values[place]),
        style=under.style(node_id),
        children=children,
        overrides=under.rules(*place, "override"),
        extras=under.extras(*place),
        aside=tuple(cast(Aside, record) for record in set_aside),
        **under.fields(NODE_FIELDS, *place),
    )


def _axis(under: _Under, axis_id: object) -> Axis:
    place = "axis", axis_id
    return Axis(
        id=str(axis_id),
        values=tuple(_axis_value(under, axis_id, v) for v in under.members(*place, "value")),
        extras=under.extras(*place),
        **under.fields(AXIS_FIELDS, *place),
    )


def _axis_value(under: _Under, axis_id: object, value_id: object) -> AxisValue:
    place = "axis", axis_id, "value", value_id
    fields = under.fields(AXIS_VALUE_FIELDS, *place)
    return AxisValue(id=str(value_id), extras=under.extras(*place), **fields)


def _property(under: _Under, property_id: object) -> ComponentProperty:
    place = "property", property_id
    kind, default = cast(tuple[PropertyKind, Literals], under.values[(*place, "default")])
    return ComponentProperty(
        id=str(property_id),
        kind=kind,
        default=default,
        extras=under.extras(*place),
        **under.fields(PROPERTY_FIELDS, *place),
    )


def _behaviour(under: _Under) -> Behaviour:
    silences = cast(Sequence[tuple[tuple[Path, str], int]], under.members("silence"))
    moved = cast(Sequence[tuple[tuple[Path, str], int]], under.members("motion-of"))
    return Behaviour(
        tuple(_cue(under, key) for key in under.members("cue")),
        tuple(Silence(path, cue) for (path, cue), _ in silences),
        tuple(
            PartMotion(*member[0], cast(Motion, under.values["motion-of", member]))
            for member in moved
        ),
        Map({str(k[1]): cast(_Point, v) for k, v in under.values.items() if k[0:1] == ("place",)}),
    )


def _cue(under: _Under, key: object) -> Cue:
    return Cue(id=cast(tuple[str, int], key)[0], **under.fields(CUE_FIELDS, "cue", key))


def tokens_from(facts: Facts) -> Map[str, DesignToken]:
    """The tokens that facts tell of. Raises TokenProblem for one of several kinds."""
    modes: dict[object, dict[str, _Valued]] = {}
    for key, value in facts.values.items():
        if key[0] == "token" and len(key) == 4:
            modes.setdefault(key[1], {})[str(key[3])] = cast(_Valued, value)
    paths = [key[1] for key in facts.values if key[0] == "token" and len(key) == 2]
    return Map({str(path): _token(facts, path, modes.get(path, {})) for path in paths})


def _token(facts: Facts, path: object, modes: Mapping[str, _Valued]) -> DesignToken:
    key = "token", path
    kind, value = cast(_Valued, facts.values[(*key, "value")])
    if any(other != kind for other, _ in modes.values()):
        raise TokenProblem(key)
    fields: dict[str, Any] = {name: facts.values[(*key, name)] for name in TOKEN_FIELDS}
    in_modes = Map({mode: in_mode for mode, (_, in_mode) in modes.items()})
    return DesignToken(kind=kind, value=value, modes=in_modes, **fields)


class TokenProblem(Exception):
    """A token would have values of several kinds; `key` stands for it."""

    def __init__(self, key: Key) -> None:
        super().__init__(key)
        self.key = key[:2]


def keeping_from(facts: Facts, before: Keeping) -> Keeping:
    """What facts tell of waivers and kept trials."""
    of_kind: dict[object, list[object]] = {"waiver": [], "check": []}
    for key, value in facts.values.items():
        if key[0] in of_kind:
            of_kind[key[0]].append(value)
    return msgspec.structs.replace(
        before,
        waivers=cast(tuple[Waiver, ...], tuple(of_kind["waiver"])),
        checks=cast(tuple[Check, ...], tuple(of_kind["check"])),
    )


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
