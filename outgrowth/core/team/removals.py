"""What one side took away while the other worked on it: found, and settled either way."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple

from outgrowth.core.document.records import Path
from outgrowth.core.team.facts import (
    ROOT,
    FactKey,
    Facts,
    Member,
    RuleAbout,
    is_inside,
    owner_of,
)
from outgrowth.core.team.needs import entity_of, holders_of, needs


def removed_but_worked_on(base: Facts, remover: Facts, worker: Facts) -> list[FactKey]:
    """The things that one side took away, while the other said something new about them."""
    removed = {
        key
        for key in base.values
        if entity_of(key) == key and key not in remover.values and key in worker.values
    }
    worked: dict[FactKey, None] = {}
    for key, value in worker.values.items() if removed else ():
        if key not in base.values or base.values[key] != value:
            for need in needs(key, value):
                if need in removed:
                    worked[_topmost(need, removed, worker)] = None
    return list(worked)


def _topmost(key: FactKey, removed: set[FactKey], facts: Facts) -> FactKey:
    """The outermost thing that went with this one: what is decided is that."""
    for holder in holders_of(key):
        if holder in removed:
            key = holder
    above = box_of(key, facts)
    while above is not None and above in removed:
        key, above = above, box_of(above, facts)
    return key


def box_of(key: FactKey, facts: Facts) -> FactKey | None:
    """The box that a node stands in, as a side has it; None for what is no node, or a root."""
    match key:
        case (kind, owner, "node", _):
            parent = facts.values.get((*key, "parent"))
            return None if parent in (None, ROOT) else (kind, owner, "node", parent)
        case _:
            return None


def _inside(key: FactKey, facts: Facts) -> set[FactKey]:
    """A thing, and of a node all beneath it."""
    inside = {key}
    waiting = [key]
    while waiting:
        match waiting.pop():
            case (kind, owner, "node", node):
                for child in facts.orders.get((kind, owner, "node", node, "child"), ()):
                    below = kind, owner, "node", child
                    if below not in inside:
                        inside.add(below)
                        waiting.append(below)
    return inside


def _about(key: FactKey, facts: Facts) -> Callable[[FactKey, object], bool]:
    """Whether a fact is about a thing, or about what stands in it."""
    inside = _inside(key, facts)

    def about(fact: FactKey, value: object) -> bool:
        return any(need in inside for need in needs(fact, value))

    return about


def take_away(key: FactKey, base: Facts, worker: Facts) -> None:
    """Lets a side say nothing about a thing any more; what else it says that speaks of it, it
    says as before."""
    inside, about = _inside(key, worker), _about(key, worker)
    for fact in [fact for fact, value in worker.values.items() if about(fact, value)]:
        if entity_of(fact) in inside or is_inside(fact, key):
            del worker.values[fact]
        elif fact in base.values:
            worker.values[fact] = base.values[fact]
        else:
            drop(fact, worker.values)


def drop(fact: FactKey, values: dict[FactKey, object]) -> None:
    """Takes a fact out; a cue or a token goes whole, since each of its parts is needed."""
    match fact:
        case (kind, owner, "cue", cue, *_):
            thing: FactKey = (kind, owner, "cue", cue)
        case ("token", path, "value"):
            thing = ("token", path)
        case _:
            values.pop(fact, None)
            return
    for part in [part for part in values if is_inside(part, thing)]:
        del values[part]


def give_back(key: FactKey, base: Facts, remover: Facts) -> None:
    """Lets a side say about a thing what it did before it took it away."""
    inside, about = _inside(key, base), _about(key, base)
    returned = {fact: value for fact, value in base.values.items() if about(fact, value)}
    places = {_place_of(fact) for fact in returned if fact not in remover.values} - {None}
    for fact, value in tuple(remover.values.items()):
        # What took the place of rules about it: a rule without the condition that went, or what
        # the part itself says since then.
        if _place_of(fact) not in places or base.values.get(fact) == value:
            continue
        if fact in base.values:
            remover.values[fact] = base.values[fact]
        else:
            del remover.values[fact]
    for fact, value in returned.items():
        remover.values.setdefault(fact, value)
    for order, members in base.orders.items():
        if order not in remover.orders:
            if entity_of(order) in inside or is_inside(order, key):
                remover.orders[order] = members
            continue
        lost = {m for m in members if (*order, m) in returned or _is_child(order, m, returned)}
        if lost - set(remover.orders[order]):
            remover.orders[order] = _as_before(members, remover.orders[order], lost)


def _as_before(
    members: tuple[object, ...], present: tuple[object, ...], lost: set[object]
) -> tuple[object, ...]:
    """A list with what it lost, in its old order; what came since stands behind what it does, and
    what came at the very front behind what was lost from there."""
    members_now = [member for member in members if member in lost or member in present]
    front = next((n for n, m in enumerate(members_now) if m in present), len(members_now))
    before: object = None
    for member in present:
        if member not in members:
            at = members_now.index(before) + 1 if before in members_now else front
            members_now.insert(at, member)
        before = member
    return tuple(members_now)


def _is_child(order: FactKey, member: object, returned: Mapping[FactKey, object]) -> bool:
    match order:
        case (kind, owner, "node", _, "child"):
            return (kind, owner, "node", member) in returned
        case _:
            return False


class _Set(NamedTuple):
    """What a rule or a part's own style sets, whatever its conditions."""

    owner: FactKey
    path: Path
    property: str


def _place_of(fact: FactKey) -> _Set | None:
    """What a rule or a part's own style sets; None for all else."""
    match fact:
        case (_, _, "node", node, "style", name):
            return _Set(owner_of(fact), (str(node),), str(name))
        case (_, _, "rule", Member(RuleAbout(_, path, name), _), *_):
            return _Set(owner_of(fact), path, name)
        case _:
            return None
