"""What differs between two states of a component or screen, and which version that asks for."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, NamedTuple, cast

from outgrowth.core.document.records import Owner
from outgrowth.core.team.facts import (
    FactKey,
    Facts,
    Kinded,
    facts_of,
    owner_key,
    place_in_owner,
)
from outgrowth.core.team.needs import entity_of, holders_of
from outgrowth.core.team.removals import box_of
from outgrowth.core.team.sequences import woven
from outgrowth.core.team.versions import LEVELS, Level

DifferenceKind = Literal["added", "removed", "changed", "moved"]


class Difference(NamedTuple):
    """One thing that differs.

    key     what it is about, as in facts: a thing that came or went, or what is said of one
    before, after   the values; None where it isn't said
    """

    kind: DifferenceKind
    key: FactKey
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
    word = next(iter(place_in_owner(difference.key)), "")
    place = _READING_ORDER.index(word) if word in _READING_ORDER else len(_READING_ORDER)
    return place, ("added", "removed", "changed", "moved").index(difference.kind)


def _facts(old: Facts, new: Facts) -> Iterator[Difference]:
    for key in dict.fromkeys((*old.values, *new.values)):
        if next(iter(place_in_owner(key)), "") in _ARRANGEMENT:
            continue
        before, after = old.values.get(key), new.values.get(key)
        if key in old.values and key in new.values:
            if before != after:
                yield Difference("changed", key, before, after)
        elif not _is_told_with_another(key, old, new):
            yield Difference("added" if key in new.values else "removed", key, before, after)


def _is_told_with_another(key: FactKey, old: Facts, new: Facts) -> bool:
    """Whether a fact came or went with a thing that is told: what is said of it, a value of its
    axis, a node inside a box."""
    entity = entity_of(key)
    if key != entity and entity is not None and _came_or_went(entity, old, new):
        return True
    # A thing's own holder: the axis of a value. What an owner holds is told by itself.
    axis = [holder for holder in holders_of(key) if place_in_owner(holder)] if key == entity else []
    if any(_came_or_went(holder, old, new) for holder in axis):
        return True
    here, there = (new, old) if key in new.values else (old, new)
    return _came_with_its_box(key, here, there)


def _came_or_went(entity: FactKey, old: Facts, new: Facts) -> bool:
    return (entity in new.values) != (entity in old.values)


def _came_with_its_box(key: FactKey, facts: Facts, other_facts: Facts) -> bool:
    """Whether a node came or went inside another one that did."""
    box = box_of(key, facts)
    return box is not None and box in facts.values and box not in other_facts.values


def _orders(old: Facts, new: Facts) -> Iterator[Difference]:
    for key, order in new.orders.items():
        before = old.orders.get(key)
        if before is None or before == order or key[-1] in ("aside", "silence", "motion-of", "led"):
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
    came, went = difference.kind == "added", difference.kind == "removed"
    changed = difference.kind == "changed"
    match place_in_owner(difference.key):
        case ():
            return "minor" if came else "major"
        # What instances set: an axis, one of its values, a property.
        case ("axis" | "property", _) | ("axis", _, "value", _) if came or went:
            return "major" if went else "minor"
        case ("axis" | "property", *_, "name") | ("axis", *_, "driver") if changed:
            return "major"
        case ("property", _, "default") if changed:
            before, after = cast(Kinded, difference.before), cast(Kinded, difference.after)
            return "major" if before.kind != after.kind else "patch"
        case ("not-offered", *_):
            return "major" if came else "minor"
        case ("cue", *_):
            return "minor"
        case ("name", *_) if changed:
            return "minor"
        case _:
            return "patch"
