"""Two people's changes on one document, made into one: three ways, by id.

A fact that one side changed is taken from it. Where both changed the same fact to different
things, or one took away what the other worked on, they *disagree*: both stay to be chosen
from, and until then ours counts. Nothing here depends on who is called ours but that.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Literal, NamedTuple, cast

import msgspec
from immutables import Map

from outgrowth.core.document.extent import refuse_endless
from outgrowth.core.document.records import Asset, Component, Document, Motion, Owner, Screen
from outgrowth.core.document.refusal import Refusal
from outgrowth.core.document.sharing import Origin
from outgrowth.core.document.types import Json
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.team.facts import (
    ROOT,
    Facts,
    Key,
    TokenProblem,
    document_facts,
    entity_of,
    facts_of,
    needs,
    owner_from,
    owner_key,
    sharing_from,
    tokens_from,
)
from outgrowth.core.team.sequences import Side, woven
from outgrowth.core.team.token_names import with_same_names
from outgrowth.core.team.versions import version_numbers

MISSING = None
"""What a fact is on a side that does not say it."""

Picks = Mapping[Key, Side]
"""Which side counts in each disagreement; ours where nothing is picked."""


class Disagreement(NamedTuple):
    """What both sides changed, each in its own way.

    key    the fact; of a list the list's key, "order", and the member
    kind   `changed`: two values; `removed`: one side took away what the other worked on;
           `moved`: two places in a list; `whole`: together they would be no component
    base, ours, theirs   the fact on each side, None where it isn't said
    """

    key: Key
    kind: Literal["changed", "removed", "moved", "whole"]
    base: object = None
    ours: object = None
    theirs: object = None


class Merged(NamedTuple):
    """One document of both sides' changes, and where they disagree."""

    document: Document
    disagreements: tuple[Disagreement, ...] = ()


def merge(base: Document, ours: Document, theirs: Document, picks: Picks | None = None) -> Merged:
    """What two documents say that began as `base`.

    Never raises: what can be no document together is a disagreement about a whole component.
    """
    if ours == theirs or base == theirs:
        return Merged(ours)
    if base == ours:
        return Merged(theirs)
    sides = with_same_names(base, ours, theirs)
    return _Merging(sides, {} if picks is None else picks).merged()


class _Merging:
    """One merge. `sides` are base, ours and theirs, in this order."""

    def __init__(self, sides: tuple[Document, Document, Document], picks: Picks) -> None:
        self._sides = sides
        self._picks = picks
        self._found: dict[Key, Disagreement] = {}
        self._owners = [{owner_key(o): o for o in side.owners()} for side in sides]
        self._whole: dict[Key, Side] = {}
        self._facts: tuple[Facts, Facts, Facts]

    def merged(self) -> Merged:
        """Merges; components that cannot be are taken whole from one side, and tried again."""
        self._agree_on_versions()
        while True:
            try:
                return Merged(self._try(), tuple(self._found.values()))
            except (_Impossible, TokenProblem) as problem:
                if problem.key in self._whole:  # not even so: ours as it was
                    return Merged(self._sides[1], tuple(self._found.values()))
                self._take_whole(problem.key)

    def _agree_on_versions(self) -> None:
        """Of a part that both took in, the newer version is meant, not a mixture."""
        base, ours, theirs = (side.sharing.origins for side in self._sides)
        for component_id, mine in ours.items():
            other = theirs.get(component_id)
            if other is None or other == mine or base.get(component_id) in (mine, other):
                continue
            if not (mine.own or other.own):
                newer = version_numbers(other.version) > version_numbers(mine.version)
                key: Key = ("component", component_id)
                self._whole[key] = self._whole["origin", component_id] = (
                    "theirs" if newer else "ours"
                )

    def _take_whole(self, key: Key) -> None:
        held: list[object] = [owners.get(key) for owners in self._owners]
        if key[0] == "token":
            held = [side.tokens.get(str(key[1])) for side in self._sides]
        self._found = {k: d for k, d in self._found.items() if k[:2] != key}
        self._found[key] = Disagreement(key, "whole", *held)
        self._whole[key] = self._side(key)

    def _side(self, key: Key) -> Side:
        return self._picks.get(key, "ours")

    # --- facts ------------------------------------------------------------------------------

    def _try(self) -> Document:
        whole = {key: self._found[key] for key in self._whole if key in self._found}
        self._found = whole
        self._facts = self._taken_apart()
        self._settle_removed()
        said = self._said()
        said = self._without_dangling(said)
        self._mend_trees(said)
        orders = self._orders(said)
        return self._document(Facts(said, orders))

    def _taken_apart(self) -> tuple[Facts, Facts, Facts]:
        """The facts of all three; owners that nobody changed are left out."""
        results = []
        touched = [
            key
            for key in dict.fromkeys(key for owners in self._owners for key in owners)
            if not self._untouched(key)
        ]
        for side, owners in zip(self._sides, self._owners, strict=True):
            facts = document_facts(side)
            for key in owners:
                facts.said[key] = True
            for key in touched:
                held = self._owner_of(key, owners)
                if held is None:
                    facts.said.pop(key, None)
                    continue
                facts.said[key] = True
                said, orders = facts_of(held)
                facts.said.update(said)
                facts.orders.update(orders)
            for key, whole in self._whole.items():
                if key[0] in ("origin", "token"):
                    self._override(facts, key, document_facts(self._chosen(whole)))
            results.append(facts)
        return results[0], results[1], results[2]

    def _untouched(self, key: Key) -> bool:
        base, ours, theirs = (owners.get(key) for owners in self._owners)
        return base == ours == theirs

    def _owner_of(self, key: Key, owners: Mapping[Key, Owner]) -> Owner | None:
        """An owner on a side; one that is taken whole is the same on all of them."""
        side = self._whole.get(key)
        if side is None:
            return owners.get(key)
        return self._owners[1 if side == "ours" else 2].get(key)

    def _chosen(self, side: Side) -> Document:
        return self._sides[1 if side == "ours" else 2]

    def _override(self, facts: Facts, key: Key, chosen: Facts) -> None:
        for fact in [fact for fact in facts.said if fact[:2] == key]:
            del facts.said[fact]
        facts.said.update({k: value for k, value in chosen.said.items() if k[:2] == key})

    # --- what one side took away and the other worked on ------------------------------------

    def _settle_removed(self) -> None:
        base, ours, theirs = self._facts
        directions: tuple[tuple[Facts, Facts, Side], ...] = (
            (ours, theirs, "ours"),
            (theirs, ours, "theirs"),
        )
        # Both are looked at before either is settled: what follows must not depend on the order.
        worked_on = [_removed_but_worked_on(base, *two) for two in directions]
        for keys, (remover, keeper, mine) in zip(worked_on, directions, strict=True):
            for key in keys:
                parts = (base.said.get(key), ours.said.get(key), theirs.said.get(key))
                self._found[key] = Disagreement(key, "removed", *parts)
            for key in keys:
                if self._side(key) == mine:
                    _take_away(key, base, keeper)
                else:
                    _give_back(key, base, remover)

    # --- the facts of both ------------------------------------------------------------------

    def _said(self) -> dict[Key, object]:
        base, ours, theirs = (facts.said for facts in self._facts)
        said: dict[Key, object] = {}
        for key in dict.fromkeys((*theirs, *ours)):
            old, mine, other = base.get(key), ours.get(key), theirs.get(key)
            same = (key in ours) == (key in theirs) and mine == other
            unchanged = (key in ours) == (key in base) and mine == old
            if same or ((key in theirs) == (key in base) and other == old):
                value, is_said = mine, key in ours
            elif unchanged:
                value, is_said = other, key in theirs
            else:
                self._found[key] = Disagreement(key, "changed", old, mine, other)
                side = ours if self._side(key) == "ours" else theirs
                value, is_said = side.get(key), key in side
            if is_said:
                said[key] = value
        return said

    def _without_dangling(self, said: dict[Key, object]) -> dict[Key, object]:
        """Drops what speaks of something that is not there any more, where it was there for
        the side that said so."""
        sides = [facts.said for facts in self._facts[1:]]
        while True:
            dangling = []
            for key, value in said.items():
                sayers = [side for side in sides if side.get(key, self) == value]
                for need in needs(key, value):
                    if need not in said and sayers and all(need in side for side in sayers):
                        dangling.append(key)
                        break
            if not dangling:
                return said
            for key in dangling:
                value = said.get(key)
                _drop(key, said)
                if key[4:] == ("parent",) and key[2] == "node" and key[:4] in said:
                    said[key] = self._next_parent(key, value, said)
                if key[4:] == ("default",) and key[2] == "axis" and key[:4] in said:
                    said[key] = self._next_default(key, said)

    def _next_default(self, key: Key, said: Mapping[Key, object]) -> object:
        """An axis whose default is gone: one of the sides' that is there, else any value."""
        candidates = [facts.said.get(key) for facts in self._facts]
        values = [k[5] for k in said if k[:5] == (*key[:4], "value") and len(k) == 6]
        return next((value for value in candidates if value in values), min(values, key=str))

    def _next_parent(self, key: Key, gone: object, said: Mapping[Key, object]) -> object:
        """Where a node goes whose new box is gone: back to the old one, else into the root."""
        base = self._facts[0].said.get(key)
        if base is not None and base != gone and (*key[:3], base) in said:
            return base
        return next(
            cast(str, k[3])
            for k, v in said.items()
            if k[:2] == key[:2] and k[4:] == ("parent",) and v == ROOT
        )

    def _mend_trees(self, said: dict[Key, object]) -> None:
        """Two moves can put boxes into each other: then one side's places count for both."""
        parents: dict[Key, Key] = {}
        for key, value in said.items():
            if key[4:] == ("parent",) and key[2] == "node":
                parents[key[:4]] = (*key[:3], value)
        for start in sorted(parents, key=repr):
            way = [start]
            while (above := parents.get(way[-1])) is not None and above not in way:
                way.append(above)
            if above is None:
                continue
            circle = way[way.index(above) :]
            key = (*min(circle, key=repr), "parent")
            base, ours, theirs = (facts.said.get(key) for facts in self._facts)
            self._found[key] = Disagreement(key, "changed", base, ours, theirs)
            side = self._facts[1 if self._side(key) == "ours" else 2]
            for node in circle:
                place = side.said.get((*node, "parent"))
                if place is not None and (*node[:3], place) in (*said, (*node[:3], ROOT)):
                    said[(*node, "parent")] = place
                    parents[node] = (*node[:3], place)

    # --- orders -----------------------------------------------------------------------------

    def _orders(self, said: Mapping[Key, object]) -> dict[Key, tuple[object, ...]]:
        children: dict[Key, set[object]] = {}
        roots: dict[Key, list[object]] = {}
        for key, value in said.items():
            if key[4:] == ("parent",) and key[2] == "node":
                if value == ROOT:
                    roots.setdefault(key[:2], []).append(key[3])
                children.setdefault((*key[:3], value, "child"), set()).add(key[3])
        for owner, nodes in roots.items():
            if len(nodes) > 1:
                raise _Impossible(owner)
        base, ours, theirs = (facts.orders for facts in self._facts)
        orders: dict[Key, tuple[object, ...]] = {}
        for key in dict.fromkeys((*ours, *theirs, *children)):
            if key[-1] == "child":
                kept = children.get(key, set())
            else:
                lists = (base.get(key, ()), ours.get(key, ()), theirs.get(key, ()))
                kept = {m for members in lists for m in members if (*key, m) in said}
            if len(key) > 2 and key[:2] not in said:
                continue
            orders[key] = self._woven(key, kept)
        return orders

    def _woven(self, key: Key, kept: set[object]) -> tuple[object, ...]:
        three = [facts.orders.get(key, ()) for facts in self._facts]
        result = woven(three[0], three[1], three[2], kept, "ours")
        picked = {m for m in result.disagreed if self._side((*key, "order", m)) == "theirs"}
        if picked:
            result = woven(three[0], three[1], three[2], kept, "theirs")
        for member in result.disagreed:
            place = (*key, "order", member)
            parts = [order.index(member) if member in order else None for order in three]
            self._found[place] = Disagreement(place, "moved", *parts)
        order = result.order
        return (*order, *sorted(kept - set(order), key=repr)) if len(order) < len(kept) else order

    # --- one document -----------------------------------------------------------------------

    def _document(self, facts: Facts) -> Document:
        base, ours, theirs = self._sides
        components: dict[str, Component] = {}
        screens: dict[str, Screen] = {}
        for kind in ("component", "screen"):
            for owner_id in facts.orders[(kind,)]:
                owner = self._owner(facts, (kind, owner_id))
                if isinstance(owner, Component):
                    components[owner.id] = owner
                else:
                    screens[owner.id] = owner
        merged = msgspec.structs.replace(
            ours,
            name=cast(str, facts.said["document", "name"]),
            motion=cast(Motion, facts.said["document", "motion"]),
            components=Map(components),
            screens=Map(screens),
            component_order=tuple(components),
            screen_order=tuple(screens),
            tokens=tokens_from(facts),
            modes=tuple(cast(str, mode) for mode in facts.orders[("mode",)]),
            mode=cast(str, facts.said.get(("document", "mode"), "")),
            assets=Map(_together(base.assets, theirs.assets, ours.assets)),
            extras=Map(
                {
                    str(key[2]): cast(Json, value)
                    for key, value in facts.said.items()
                    if key[:2] == ("document", "extras")
                }
            ),
            sharing=sharing_from(facts, ours.sharing),
        )
        self._refuse_circles(merged)
        return msgspec.structs.replace(merged, assets=Map(assets_in_use(merged)))

    def _owner(self, facts: Facts, key: Key) -> Owner:
        """An owner of the merged document: the very object of a side that says the same."""
        if self._untouched(key):
            return self._owners[1][key]
        try:
            made = owner_from(facts, key)
        except (Refusal, KeyError, StopIteration) as problem:
            raise _Impossible(key) from problem
        for owners in (self._owners[1], self._owners[2], self._owners[0]):
            if owners.get(key) == made:
                return owners[key]
        return made

    def _refuse_circles(self, merged: Document) -> None:
        for owner in merged.owners():
            key = owner_key(owner)
            if self._untouched(key) or key in self._whole:
                continue
            try:
                refuse_endless(merged, [owner])
            except Refusal as problem:
                raise _Impossible(key) from problem


class _Impossible(Exception):  # not an error: it is caught and answered here
    """The facts of both sides are no component or screen together."""

    def __init__(self, key: Key) -> None:
        super().__init__(key)
        self.key = key


def _removed_but_worked_on(base: Facts, remover: Facts, keeper: Facts, _: Side) -> list[Key]:
    """The things that one side took away, while the other said something new about them."""
    gone = {
        key
        for key in base.said
        if entity_of(key) == key and key not in remover.said and key in keeper.said
    }
    worked: dict[Key, None] = {}
    for key, value in keeper.said.items() if gone else ():
        if key not in base.said or base.said[key] != value:
            for need in needs(key, value):
                if need in gone:
                    worked[_topmost(need, gone, keeper)] = None
    return list(worked)


def _topmost(key: Key, gone: set[Key], facts: Facts) -> Key:
    """The outermost thing that went with this one: what is decided is that."""
    if len(key) > 4 and key[:4] in gone:
        key = key[:4]
    if len(key) > 2 and key[:2] in gone:
        return key[:2]
    while key[2:3] == ("node",):
        above = (*key[:3], facts.said.get((*key, "parent")))
        if above not in gone:
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


def _take_away(key: Key, base: Facts, keeper: Facts) -> None:
    """Lets a side say nothing about a thing any more; what else it says that speaks of it, it
    says as before."""
    inside, about = _inside(key, keeper), _about(key, keeper)
    for fact in [fact for fact, value in keeper.said.items() if about(fact, value)]:
        if entity_of(fact) in inside or _is_in(fact, key):
            del keeper.said[fact]
        elif fact in base.said:
            keeper.said[fact] = base.said[fact]
        else:
            _drop(fact, keeper.said)


def _is_in(fact: Key, key: Key) -> bool:
    return fact[: len(key)] == key


def _drop(fact: Key, said: dict[Key, object]) -> None:
    """Takes a fact out; a cue or a token goes whole, since each of its parts is needed."""
    whole = fact[:4] if fact[2:3] == ("cue",) else fact[:2]
    if fact[2:3] == ("cue",) or (fact[0] == "token" and fact[2:] == ("value",)):
        for part in [part for part in said if part[: len(whole)] == whole]:
            del said[part]
    else:
        said.pop(fact, None)


def _give_back(key: Key, base: Facts, remover: Facts) -> None:
    """Lets a side say about a thing what it did before it took it away."""
    inside, about = _inside(key, base), _about(key, base)
    returned = {fact: value for fact, value in base.said.items() if about(fact, value)}
    places = {_place_of(fact) for fact in returned if fact not in remover.said}
    for fact in [fact for fact in remover.said if fact not in base.said]:
        # What took the place of rules about it: a rule without the condition that went.
        if _place_of(fact) in places and _place_of(fact) is not None:
            del remover.said[fact]
    for fact, value in returned.items():
        remover.said.setdefault(fact, value)
    for order, members in base.orders.items():
        if order not in remover.orders:
            if entity_of(order) in inside or _is_in(order, key):
                remover.orders[order] = members
            continue
        lost = [m for m in members if (*order, m) in returned or _is_child(order, m, returned)]
        remover.orders[order] = woven(
            members, remover.orders[order], members, {*remover.orders[order], *lost}, "ours"
        ).order


def _is_child(order: Key, member: object, returned: Mapping[Key, object]) -> bool:
    return order[-1] == "child" and (*order[:3], member) in returned


def _place_of(fact: Key) -> Key | None:
    """What a rule sets, whatever its conditions; None for what is no rule."""
    if fact[2:3] != ("rule",):
        return None
    (_, path, name), _ = cast(tuple[tuple[object, object, object], int], fact[3])
    return (*fact[:2], path, name)


def _together(*maps: Mapping[str, Asset]) -> dict[str, Asset]:
    """All data of all sides. The same data may be called two ways; one name is taken."""
    assets: dict[str, Asset] = {}
    for held in maps:
        for digest, asset in held.items():
            assets[digest] = min(asset, assets.get(digest, asset), key=lambda a: (a.name, a.media))
    return assets


__all__ = ["Disagreement", "Merged", "Origin", "Picks", "Side", "merge"]
