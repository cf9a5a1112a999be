"""What a fact is about, and what has to be there for it to mean anything."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import cast

from immutables import Map

from outgrowth.core.document.cues import ACT_ROWS, Change, Condition
from outgrowth.core.document.records import Motion, Path
from outgrowth.core.document.referring import token_paths
from outgrowth.core.document.values import FromProperty
from outgrowth.core.team.facts import ROOT, Key

_ENTITIES = ("node", "axis", "property", "cue")


def entity_of(key: Key) -> Key | None:
    """The nearest thing that a key is said about, or stands for itself; None for what is said
    of the whole document."""
    if key[0] in ("token", "mode", "library"):
        return key[:2]
    if key[0] not in ("component", "screen"):
        return None
    if len(key) >= 6 and key[2] == "axis" and key[4] == "value":
        return key[:6]
    return key[:4] if len(key) >= 4 and key[2] in _ENTITIES else key[:2]


def needs(key: Key, value: object) -> Iterator[Key]:
    """The things that have to be there for a fact to mean anything."""
    entity = entity_of(key)
    if entity is not None:
        yield entity
        if len(entity) > 4:
            yield entity[:4]
        if len(entity) > 2:
            yield entity[:2]
    if key[0] in ("component", "screen"):
        yield from _needs_inside(key[:2], key[2:], value)
    elif key[0] == "token":
        if len(key) == 4:
            yield ("mode", key[3])
        if len(key) == 4 or key[2:] == ("value",):
            yield from _referred(("", ""), cast(tuple[str, object], value)[1])
    elif key == ("document", "mode") and value:
        yield ("mode", value)
    if isinstance(value, Motion):
        yield from _referred(("", ""), value)


def _needs_inside(owner: Key, place: Key, value: object) -> Iterator[Key]:
    name = place[0] if place else ""
    if name == "node" and len(place) == 3 and place[2] == "parent" and value != ROOT:
        yield (*owner, "node", value)
    elif name == "node" and len(place) == 4 and place[2] == "style":
        yield from _referred(owner, value)
        if place[3] == "component" and isinstance(value, str):
            yield ("component", value)
    elif name == "node" and len(place) == 4 and place[2] == "override":
        yield from _referred(owner, cast(tuple[object, str], value)[0])
    elif name == "rule":
        (when, path, _), _ = cast(tuple[tuple[Key, Path, str], int], place[1])
        yield from _conditions(owner, cast(Iterable[tuple[str, str]], when))
        yield (*owner, "node", path[0])
        yield from _referred(owner, cast(tuple[object, str], value)[0])
    elif name == "not-offered":
        pattern, _ = cast(tuple[Iterable[tuple[str, str]], int], place[1])
        yield from _conditions(owner, pattern)
    elif name == "axis" and len(place) == 3 and place[2] == "default":
        yield (*owner, "axis", place[1], "value", value)
    elif name == "cue" and len(place) == 3:
        yield from _cue_needs(owner, str(place[2]), value)
    elif name in ("silence", "motion-of"):
        (path, _), _ = cast(tuple[tuple[Path, str], int], place[1])
        yield from ((*owner, "node", step) for step in path[:1])


def _conditions(owner: Key, when: Iterable[tuple[str, str]]) -> Iterator[Key]:
    for axis, value in when:
        yield (*owner, "axis", axis)
        yield (*owner, "axis", axis, "value", value)


def _cue_needs(owner: Key, name: str, value: object) -> Iterator[Key]:
    if name == "node":
        yield from ((*owner, "node", step) for step in cast(Path, value)[:1])
    elif name == "when":
        yield from _conditions(owner, cast(Map[str, str], value).items())
    elif name == "conditions":
        for condition in cast(tuple[Condition, ...], value):
            yield from ((*owner, "node", s) for s in condition.at[:1] if s != "..")
            if not condition.at:
                yield from _conditions(owner, ((condition.axis, v) for v in condition.values))
    elif name == "changes":
        for change in cast(tuple[Change, ...], value):
            yield from _change_needs(owner, change)


def _change_needs(owner: Key, change: Change) -> Iterator[Key]:
    means = ACT_ROWS[change.act].means
    if means == "screen":
        yield ("screen", change.name)
    if change.at:
        yield from ((*owner, "node", step) for step in change.at[:1] if step != "..")
    elif means == "axis":
        yield (*owner, "axis", change.name)
        if change.act == "set":
            yield (*owner, "axis", change.name, "value", change.value)
    elif means == "property":
        yield (*owner, "property", change.name)


def _referred(owner: Key, value: object) -> Iterator[Key]:
    yield from (("token", path) for path in token_paths(value))
    if isinstance(value, FromProperty):
        yield (*owner, "property", value.property)
