"""What a fact is about, and what has to be there for it to mean anything."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import cast

from immutables import Map

from outgrowth.core.document.cues import ACT_ROWS, HOLDER, Change, Condition
from outgrowth.core.document.records import Motion, Path
from outgrowth.core.document.referring import token_paths
from outgrowth.core.document.values import FromProperty
from outgrowth.core.team.facts import (
    ROOT,
    FactKey,
    Kinded,
    Member,
    PathAbout,
    RuleAbout,
    rule_value,
)


def entity_of(key: FactKey) -> FactKey | None:
    """The nearest thing that a key is said about, or stands for itself; None for what is said
    of the whole document."""
    match key:
        case ("token" | "mode" | "library" as kind, name, *_):
            return kind, name
        case ("component" | "screen" as kind, owner, "axis", axis, "value", value, *_):
            return kind, owner, "axis", axis, "value", value
        case (
            "component" | "screen" as kind,
            owner,
            "node" | "axis" | "property" | "cue" as part,
            name,
            *_,
        ):
            return kind, owner, part, name
        case ("component" | "screen" as kind, owner, *_):
            return kind, owner
        case _:
            return None


def holders_of(entity: FactKey) -> Iterator[FactKey]:
    """The things around a thing, the nearest first: a value's axis, and their owner."""
    match entity:
        case (kind, owner, part, name, _, *_):
            yield kind, owner, part, name
            yield kind, owner
        case (kind, owner, _, *_):
            yield kind, owner


def needs(key: FactKey, value: object) -> Iterator[FactKey]:
    """The things that have to be there for a fact to mean anything."""
    entity = entity_of(key)
    if entity is not None:
        yield entity
        yield from holders_of(entity)
    match key:
        case ("component" | "screen" as kind, owner, *place):
            yield from _needs_inside((kind, owner), tuple(place), value)
            if place[:1] == ["property"] and place[2:] == ["default"]:
                yield from _referred(_NOBODY, cast(Kinded, value).value)
        case ("token", _, "mode", mode):
            yield ("mode", mode)
            yield from _referred(_NOBODY, cast(Kinded, value).value)
        case ("token", _, "value"):
            yield from _referred(_NOBODY, cast(Kinded, value).value)
        case ("document", "mode") if value:
            yield ("mode", value)
    if isinstance(value, Motion):
        yield from _referred(_NOBODY, value)


# Tokens refer to other tokens only: whose property it would be does not matter.
_NOBODY: FactKey = ("", "")


def _needs_inside(owner: FactKey, place: FactKey, value: object) -> Iterator[FactKey]:
    match place:
        case ("node", _, "parent") if value != ROOT:
            yield (*owner, "node", value)
        case ("node", _, "style", name):
            yield from _referred(owner, value)
            if name == "component" and isinstance(value, str):
                yield ("component", value)
        case ("node", _, "override", _):
            yield from _referred(owner, rule_value(value))
        case ("rule", Member(RuleAbout(when, path, _), _)):
            yield from _conditions(owner, when)
            yield from _outermost(owner, path)
            yield from _referred(owner, rule_value(value))
        case ("not-offered", Member(pattern, _)):
            yield from _conditions(owner, cast(Iterable[tuple[str, str]], pattern))
        case ("axis", axis, "default"):
            yield (*owner, "axis", axis, "value", value)
        case ("cue", _, field):
            yield from _cue_needs(owner, str(field), value)
        case ("silence" | "motion-of" | "led", Member(PathAbout(path, _), _)):
            yield from _outermost(owner, path)


def _outermost(owner: FactKey, path: Path) -> Iterator[FactKey]:
    """The node of the owner's own tree that a path begins at; none for () and for the holder."""
    if path and path != (HOLDER,):
        yield (*owner, "node", path[0])


def _conditions(owner: FactKey, when: Iterable[tuple[str, str]]) -> Iterator[FactKey]:
    for axis, value in when:
        yield (*owner, "axis", axis)
        yield (*owner, "axis", axis, "value", value)


def _cue_needs(owner: FactKey, name: str, value: object) -> Iterator[FactKey]:
    if name == "node":
        yield from _outermost(owner, cast(Path, value))
    elif name == "when":
        yield from _conditions(owner, cast(Map[str, str], value).items())
    elif name == "trigger":
        yield from (("token", path) for path in token_paths(value))
    elif name == "conditions":
        for condition in cast(tuple[Condition, ...], value):
            yield from _outermost(owner, condition.at)
            if not condition.at:
                yield from _conditions(owner, ((condition.axis, v) for v in condition.values))
    elif name == "changes":
        for change in cast(tuple[Change, ...], value):
            yield from _change_needs(owner, change)


def _change_needs(owner: FactKey, change: Change) -> Iterator[FactKey]:
    means = ACT_ROWS[change.act].means
    if means == "screen":
        yield ("screen", change.name)
    if change.at:
        yield from _outermost(owner, change.at)
    elif means == "axis":
        yield (*owner, "axis", change.name)
        if change.act == "set":
            yield (*owner, "axis", change.name, "value", change.value)
    elif means == "property":
        yield (*owner, "property", change.name)


def _referred(owner: FactKey, value: object) -> Iterator[FactKey]:
    yield from (("token", path) for path in token_paths(value))
    if isinstance(value, FromProperty):
        yield (*owner, "property", value.property)
