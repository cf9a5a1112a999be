"""Facts put together again: the component, screen or tokens that they tell of."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, TypeVar, cast

import msgspec
from immutables import Map

from outgrowth.core.document.cues import (
    Behaviour,
    Cue,
    Motion,
    PartMotion,
    Silence,
)
from outgrowth.core.document.keeping import Keeping, KeptTrial, Waiver
from outgrowth.core.document.properties import NodeKind
from outgrowth.core.document.records import (
    Aside,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Node,
    Owner,
    PropertyKind,
    Rule,
    Screen,
    TokenKind,
)
from outgrowth.core.document.sharing import Library, Origin, Sharing, TokenOrigin
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import Default, Value
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
    FactKey,
    Facts,
    Kinded,
    Member,
    PathAbout,
    RuleAbout,
    owner_of,
    place_in_owner,
)

_Pattern = tuple[tuple[str, str], ...]
_Point = tuple[float, float]
Fact = TypeVar("Fact")


class _Under:
    """The facts of one owner, by the first steps behind its key."""

    def __init__(self, facts: Facts, owner: FactKey) -> None:
        self.values: dict[FactKey, object] = _of_owner(facts.values, owner)
        self.orders = _of_owner(facts.orders, owner)
        self._extras: dict[FactKey, dict[str, Json]] = {}
        self._styles: dict[object, dict[str, Value]] = {}
        for place, value in self.values.items():
            match place:
                case ("node", node, "style", name):
                    self._styles.setdefault(node, {})[str(name)] = cast(Value, value)
                case (*about, "extras", name):
                    self._extras.setdefault(tuple(about), {})[str(name)] = cast(Json, value)

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
            when, path, name = cast(RuleAbout, cast(Member, member).about)
            said = cast(tuple[object, ...], self.values[(*place, member)])
            rest = dict(zip(RULE_FIELDS, said, strict=True))
            rules.append(Rule(Map(when), path, name, **rest))  # type: ignore[arg-type]  # as taken
        return tuple(rules)


def _of_owner(by_key: Mapping[FactKey, Fact], owner: FactKey) -> dict[FactKey, Fact]:
    """What is of one owner, by its place in it."""
    return {place_in_owner(key): f for key, f in by_key.items() if owner_of(key) == owner}


def owner_from(facts: Facts, key: FactKey) -> Owner:
    """The component or screen that facts tell of: what `facts_of` took apart. Raises
    ValueRefusal where they tell of none that can be."""
    under = _Under(facts, key)
    kind, owner_id = key
    if kind == "component":
        return _component(under, str(owner_id))
    return Screen(
        id=str(owner_id),
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
    members = cast(Sequence[Member], under.members("not-offered"))
    return tuple(Map(cast(_Pattern, member.about)) for member in members)


def _with_a_place(values: Mapping[FactKey, object]) -> Iterator[tuple[FactKey, object]]:
    """What is said of something in the owner, not of itself."""
    return ((place, value) for place, value in values.items() if len(place) > 1)


def _tree(under: _Under) -> Node:
    """The tree, from the leaves up: a deep one must not follow itself down."""
    parents = {
        node: value
        for (part, node, *field), value in _with_a_place(under.values)
        if part == "node" and field == ["parent"]
    }
    root = next(node for node, parent in parents.items() if parent == ROOT)
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
        kind=cast(NodeKind, under.values[place]),
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
    said = cast(Kinded, under.values[(*place, "default")])
    return ComponentProperty(
        id=str(property_id),
        kind=cast(PropertyKind, said.kind),
        default=cast(Default, said.value),
        extras=under.extras(*place),
        **under.fields(PROPERTY_FIELDS, *place),
    )


def _behaviour(under: _Under) -> Behaviour:
    silenced = [cast(PathAbout, cast(Member, m).about) for m in under.members("silence")]
    return Behaviour(
        tuple(_cue(under, cast(Member, member)) for member in under.members("cue")),
        tuple(Silence(about.path, about.name) for about in silenced),
        tuple(_part_motion(under, cast(Member, m)) for m in under.members("motion-of")),
        Map(
            {
                str(state): cast(_Point, value)
                for (word, state, *_), value in _with_a_place(under.values)
                if word == "place"
            }
        ),
        tuple(cast(PathAbout, cast(Member, m).about).path for m in under.members("led")),
    )


def _part_motion(under: _Under, member: Member) -> PartMotion:
    about = cast(PathAbout, member.about)
    return PartMotion(about.path, about.name, cast(Motion, under.values["motion-of", member]))


def _cue(under: _Under, member: Member) -> Cue:
    return Cue(id=str(member.about), **under.fields(CUE_FIELDS, "cue", member))


def tokens_from(facts: Facts) -> Map[str, DesignToken]:
    """The tokens that facts tell of. Raises SeveralKinds for one that has values of several."""
    modes: dict[object, dict[str, Kinded]] = {}
    paths: list[object] = []
    for key, value in facts.values.items():
        match key:
            case ("token", path):
                paths.append(path)
            case ("token", path, "mode", mode):
                modes.setdefault(path, {})[str(mode)] = cast(Kinded, value)
    return Map({str(path): _token(facts, path, modes.get(path, {})) for path in paths})


def _token(facts: Facts, path: object, modes: Mapping[str, Kinded]) -> DesignToken:
    key: FactKey = ("token", path)
    said = cast(Kinded, facts.values[(*key, "value")])
    if any(in_mode.kind != said.kind for in_mode in modes.values()):
        raise SeveralKinds(key)
    fields: dict[str, Any] = {name: facts.values[(*key, name)] for name in TOKEN_FIELDS}
    values = Map({mode: in_mode.value for mode, in_mode in modes.items()})
    kind = cast(TokenKind, said.kind)
    return DesignToken(kind=kind, value=said.value, modes=values, **fields)


class SeveralKinds(Exception):  # not an error: the merge catches and answers it
    """A token would have values of several kinds; `key` stands for it."""

    def __init__(self, key: FactKey) -> None:
        super().__init__(key)
        self.key = key


def keeping_from(facts: Facts, before: Keeping) -> Keeping:
    """What facts tell of waivers and kept trials."""
    waivers = [value for value in facts.values.values() if isinstance(value, Waiver)]
    checks = [value for value in facts.values.values() if isinstance(value, KeptTrial)]
    return msgspec.structs.replace(before, waivers=tuple(waivers), checks=tuple(checks))


def sharing_from(facts: Facts, before: Sharing) -> Sharing:
    """What facts tell of libraries and origins."""
    origins: dict[str, Origin] = {}
    tokens: dict[str, TokenOrigin] = {}
    for key, value in facts.values.items():
        match key:
            case ("origin", component):
                origins[str(component)] = cast(Origin, value)
            case ("token-origin", path):
                tokens[str(path)] = cast(TokenOrigin, value)
    libraries = tuple(
        cast(Library, facts.values["library", member]) for member in facts.orders[("library",)]
    )
    return msgspec.structs.replace(
        before, libraries=libraries, origins=Map(origins), tokens=Map(tokens)
    )
