"""What one side took away while the other worked on it: found, and settled either way."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import cast

from outgrowth.core.team.facts import Facts, Key
from outgrowth.core.team.needs import entity_of, needs


def removed_but_worked_on(base: Facts, remover: Facts, worker: Facts) -> list[Key]:
    """The things that one side took away, while the other said something new about them."""
    removed = {
        key
        for key in base.values
        if entity_of(key) == key and key not in remover.values and key in worker.values
    }
    worked: dict[Key, None] = {}
    for key, value in worker.values.items() if removed else ():
        if key not in base.values or base.values[key] != value:
            for need in needs(key, value):
                if need in removed:
                    worked[_topmost(need, removed, worker)] = None
    return list(worked)


def _topmost(key: Key, removed: set[Key], facts: Facts) -> Key:
    """The outermost thing that went with this one: what is decided is that."""
    if len(key) > 4 and key[:4] in removed:
        key = key[:4]
    if len(key) > 2 and key[:2] in removed:
        return key[:2]
    while key[2:3] == ("node",):
        above = (*key[:3], facts.values.get((*key, "parent")))
        if above not in removed:
            break
        key = above
    return key


def _inside(key: Key, facts: Facts) -> set[Key]:
    """A thing, and of a node all beneath it."""
    inside = {key}
    waiting = [key] if key[2:3] == ("node",) else []
    while waiting:
        node = waiting.pop()
        for child in facts.orders.get((*node, "child"), ()):
            below = (*key[:3], child)
            if below not in inside:
                inside.add(below)
                waiting.append(below)
    return inside


def _about(key: Key, facts: Facts) -> Callable[[Key, object], bool]:
    """Whether a fact is about a thing, or about what stands in it."""
    inside = _inside(key, facts)

    def about(fact: Key, value: object) -> bool:
        return any(need in inside for need in needs(fact, value))

    return about


def take_away(key: Key, base: Facts, worker: Facts) -> None:
    """Lets a side say nothing about a thing any more; what else it says that speaks of it, it
    says as before."""
    inside, about = _inside(key, worker), _about(key, worker)
    for fact in [fact for fact, value in worker.values.items() if about(fact, value)]:
        if entity_of(fact) in inside or _is_in(fact, key):
            del worker.values[fact]
        elif fact in base.values:
            worker.values[fact] = base.values[fact]
        else:
            drop(fact, worker.values)


def _is_in(fact: Key, key: Key) -> bool:
    return fact[: len(key)] == key


def drop(fact: Key, values: dict[Key, object]) -> None:
    """Takes a fact out; a cue or a token goes whole, since each of its parts is needed."""
    whole_side = fact[:4] if fact[2:3] == ("cue",) else fact[:2]
    if fact[2:3] == ("cue",) or (fact[0] == "token" and fact[2:] == ("value",)):
        for part in [part for part in values if part[: len(whole_side)] == whole_side]:
            del values[part]
    else:
        values.pop(fact, None)


def give_back(key: Key, base: Facts, remover: Facts) -> None:
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
            if entity_of(order) in inside or _is_in(order, key):
                remover.orders[order] = members
            continue
        lost = {m for m in members if (*order, m) in returned or _is_child(order, m, returned)}
        if lost - set(remover.orders[order]):
            remover.orders[order] = _as_before(members, remover.orders[order], lost)


def _as_before(
    members: tuple[object, ...], present: tuple[object, ...], lost: set[object]
) -> tuple[object, ...]:
    """A list with what it lost, in its old order; what came since stands behind what it does."""
    result = [member for member in members if member in lost or member in present]
    before: object = None
    for member in present:
        if member not in members:
            result.insert(result.index(before) + 1 if before in result else 0, member)
        before = member
    return tuple(result)


def _is_child(order: Key, member: object, returned: Mapping[Key, object]) -> bool:
    return order[-1] == "child" and (*order[:3], member) in returned


def _place_of(fact: Key) -> Key | None:
    """What a rule or a part's own style sets, whatever its conditions; None for all else."""
    if fact[2:3] == ("node",) and fact[4:5] == ("style",):
        return (*fact[:2], (fact[3],), fact[5])
    if fact[2:3] != ("rule",):
        return None
    (_, path, name), _ = cast(tuple[tuple[object, object, object], int], fact[3])
    return (*fact[:2], path, name)
