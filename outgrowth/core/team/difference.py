"""What differs between two states of a component or screen, and which version that asks for."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, NamedTuple, cast

from outgrowth.core.document.records import Owner
from outgrowth.core.team.facts import Facts, Key, facts_of, owner_key
from outgrowth.core.team.needs import entity_of
from outgrowth.core.team.sequences import woven
from outgrowth.core.team.versions import LEVELS, Level

Kind = Literal["added", "removed", "changed", "moved"]


class Difference(NamedTuple):
    """One thing that differs.

    key     what it is about, as in facts: a thing that came or went, or what is said of one
    before, after   the values; None where it isn't said
    """

    kind: Kind
    key: Key
    before: object = None
    after: object = None


_NOTHING = Facts({}, {})
# How one reads a component: what it offers, then what it does, then how it looks.
_READING_ORDER = ("name", "axis", "property", "not-offered", "cue", "rule", "node")
# Neither seen nor done by anything: how a grid is laid out, where a state stands on a board.
_ARRANGEMENT = ("columns", "chips", "place")


def differences(before: Owner | None, after: Owner | None) -> tuple[Difference, ...]:
    """What differs, things that came or went told once for all that is in them."""
    if before == after:
        return ()
    owner = after or before
    assert owner is not None  # they differ
    key = owner_key(owner)
    if before is None or after is None:
        return (Difference("removed" if after is None else "added", key, before, after),)
    old, new = facts_of(before), facts_of(after)
    unsorted = [*_facts(old, new), *_orders(old, new)]
    return tuple(sorted(unsorted, key=_reading))


def _reading(difference: Difference) -> tuple[int, int]:
    word = difference.key[2] if len(difference.key) > 2 else ""
    place = _READING_ORDER.index(word) if word in _READING_ORDER else len(_READING_ORDER)
    return place, ("added", "removed", "changed", "moved").index(difference.kind)


def _facts(old: Facts, new: Facts) -> Iterator[Difference]:
    for key in dict.fromkeys((*old.values, *new.values)):
        if len(key) > 2 and key[2] in _ARRANGEMENT:
            continue
        before, after = old.values.get(key), new.values.get(key)
        if key in old.values and key in new.values:
            if before != after:
                yield Difference("changed", key, before, after)
        elif not _is_told_with_another(key, old, new):
            yield Difference("added" if key in new.values else "removed", key, before, after)


def _is_told_with_another(key: Key, old: Facts, new: Facts) -> bool:
    """Whether a fact came or went with a thing that is told: what is said of it, a value of its
    axis, a node inside a box."""
    entity = entity_of(key)
    if key != entity and entity is not None and _came_or_went(entity, old, new):
        return True
    if len(key) > 4 and key == entity and _came_or_went(key[:4], old, new):
        return True
    here, there = (new, old) if key in new.values else (old, new)
    return _came_with_its_box(key, here, there)


def _came_or_went(entity: Key, old: Facts, new: Facts) -> bool:
    return (entity in new.values) != (entity in old.values)


def _came_with_its_box(key: Key, facts: Facts, other_facts: Facts) -> bool:
    """Whether a node came or went inside another one that did."""
    if key[2:3] != ("node",) or len(key) != 4:
        return False
    parent = (*key[:3], facts.values.get((*key, "parent")))
    return parent in facts.values and parent not in other_facts.values


def _orders(old: Facts, new: Facts) -> Iterator[Difference]:
    for key, order in new.orders.items():
        before = old.orders.get(key)
        if before is None or before == order or key[-1] in ("aside", "silence", "motion-of"):
            continue
        common = set(before) & set(order)
        if [m for m in before if m in common] != [m for m in order if m in common]:
            yield Difference(
                "moved", key, before, woven(before, order, before, common, "ours").order
            )


def level(unsorted: tuple[Difference, ...]) -> Level:
    """Which part of a version the differences raise: what instances set that went or is called
    otherwise, the first; what is new to set or to happen, the second; looks, the third."""
    return max((level_of(difference) for difference in unsorted), key=LEVELS.index, default="patch")


def level_of(difference: Difference) -> Level:
    """The same for one of them."""
    kind, place = difference.kind, difference.key[2:]
    if not place:
        return "minor" if kind == "added" else "major"
    word, field = place[0], place[-1]
    if word in ("axis", "property"):
        if kind == "removed" and _is_thing(place):
            return "major"
        if kind == "changed" and field in ("name", "driver"):
            return "major"
        if kind == "changed" and word == "property" and field == "default":
            before = cast(tuple[str, object], difference.before)[0]
            return "major" if before != cast(tuple[str, object], difference.after)[0] else "patch"
        return "minor" if kind == "added" and _is_thing(place) else "patch"
    if word == "not-offered":
        return "major" if kind == "added" else "minor"
    if word == "cue" or (word == "name" and kind == "changed"):
        return "minor"
    return "patch"


def _is_thing(place: Key) -> bool:
    """Whether a key stands for an axis, a value or a property itself."""
    return len(place) == 2 or (len(place) == 4 and place[2] == "value")
