"""Two people's changes on one document, made into one: three ways, by id.

A fact that one side changed is taken from it. Where both changed the same fact to different
things, or one took away what the other worked on, they *disagree*: both stay to be chosen
from, and until then ours counts. Nothing here depends on who is called ours but that.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Literal, NamedTuple, cast

import msgspec
from immutables import Map

from outgrowth.core.document.extent import refuse_endless
from outgrowth.core.document.records import Asset, Component, Document, Motion, Owner, Screen
from outgrowth.core.document.types import Json
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.assembly import (
    TokenProblem,
    keeping_from,
    owner_from,
    sharing_from,
    tokens_from,
)
from outgrowth.core.team.facts import ROOT, Facts, Key, document_facts, facts_of, owner_key
from outgrowth.core.team.needs import needs
from outgrowth.core.team.removals import drop, give_back, removed_but_worked_on, take_away
from outgrowth.core.team.sequences import Side, woven
from outgrowth.core.team.token_names import with_same_names
from outgrowth.core.team.versions import version_numbers

_ABSENT = object()
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
        self._disagreements: dict[Key, Disagreement] = {}
        self._owners = [{owner_key(o): o for o in side.owners()} for side in sides]
        self._taken_whole: dict[Key, Side] = {}
        self._facts: tuple[Facts, Facts, Facts]

    def merged(self) -> Merged:
        """Merges; components that cannot be are taken whole from one side, and tried again."""
        self._agree_on_versions()
        while True:
            try:
                return Merged(self._try(), tuple(self._disagreements.values()))
            except (_Impossible, TokenProblem) as problem:
                if problem.key in self._taken_whole:  # not even so: ours as it was
                    return Merged(self._sides[1], tuple(self._disagreements.values()))
                self._take_whole(problem.key)

    def _agree_on_versions(self) -> None:
        """Of a part that both took in, the newer version is meant, not a mixture."""
        base, ours, theirs = (side.sharing.origins for side in self._sides)
        for component_id, mine in ours.items():
            other_origin = theirs.get(component_id)
            if other_origin is None or other_origin == mine:
                continue
            if base.get(component_id) in (mine, other_origin):
                continue
            if not (mine.own or other_origin.own):
                newer = version_numbers(other_origin.version) > version_numbers(mine.version)
                key: Key = ("component", component_id)
                self._taken_whole[key] = self._taken_whole["origin", component_id] = (
                    "theirs" if newer else "ours"
                )

    def _take_whole(self, key: Key) -> None:
        states: list[object] = [owners.get(key) for owners in self._owners]
        if key[0] == "token":
            states = [side.tokens.get(str(key[1])) for side in self._sides]
        self._disagreements = {k: d for k, d in self._disagreements.items() if k[:2] != key}
        self._disagreements[key] = Disagreement(key, "whole", *states)
        self._taken_whole[key] = self._side(key)

    def _side(self, key: Key) -> Side:
        return self._picks.get(key, "ours")

    # --- facts ------------------------------------------------------------------------------

    def _try(self) -> Document:
        self._disagreements = {
            key: about for key, about in self._disagreements.items() if key in self._taken_whole
        }
        self._facts = self._taken_apart()
        self._settle_removed()
        values = self._merged_values()
        values = self._without_dangling(values)
        self._mend_trees(values)
        orders = self._orders(values)
        return self._document(Facts(values, orders))

    def _taken_apart(self) -> tuple[Facts, Facts, Facts]:
        """The facts of all three; owners that nobody changed are left out."""
        keys = dict.fromkeys(key for owners in self._owners for key in owners)
        touched = [key for key in keys if not self._untouched(key)]
        base, ours, theirs = (self._facts_of_side(number, touched) for number in range(3))
        return base, ours, theirs

    def _facts_of_side(self, number: int, touched: Iterable[Key]) -> Facts:
        facts = document_facts(self._sides[number])
        owners = self._owners[number]
        facts.values.update(dict.fromkeys(owners, True))
        for key in touched:
            owner = self._owner_of(key, owners)
            if owner is None:
                facts.values.pop(key, None)
                continue
            values, orders = facts_of(owner)
            facts.values.update(values)
            facts.orders.update(orders)
        for key, side in self._taken_whole.items():
            if key[0] in ("origin", "token"):
                _override(facts, key, document_facts(self._chosen(side)))
        return facts

    def _untouched(self, key: Key) -> bool:
        base, ours, theirs = (owners.get(key) for owners in self._owners)
        return base == ours == theirs

    def _owner_of(self, key: Key, owners: Mapping[Key, Owner]) -> Owner | None:
        """An owner on a side; one that is taken whole is the same on all of them."""
        side = self._taken_whole.get(key)
        if side is None:
            return owners.get(key)
        return self._owners[1 if side == "ours" else 2].get(key)

    def _chosen(self, side: Side) -> Document:
        return self._sides[1 if side == "ours" else 2]

    # --- what one side took away and the other worked on ------------------------------------

    def _settle_removed(self) -> None:
        base, ours, theirs = self._facts
        directions: tuple[tuple[Facts, Facts, Side], ...] = (
            (ours, theirs, "ours"),
            (theirs, ours, "theirs"),
        )
        # Both are looked at before either is settled: what follows must not depend on the order.
        worked_on = [
            removed_but_worked_on(base, remover, worker) for remover, worker, _ in directions
        ]
        for keys, (remover, worker, mine) in zip(worked_on, directions, strict=True):
            for key in keys:
                parts = (base.values.get(key), ours.values.get(key), theirs.values.get(key))
                self._disagreements[key] = Disagreement(key, "removed", *parts)
            for key in keys:
                if self._side(key) == mine:
                    take_away(key, base, worker)
                else:
                    give_back(key, base, remover)

    # --- the facts of both ------------------------------------------------------------------

    def _merged_values(self) -> dict[Key, object]:
        sides = [facts.values for facts in self._facts]
        values: dict[Key, object] = {}
        for key in dict.fromkeys((*sides[2], *sides[1])):
            old, mine, other = (side.get(key, _ABSENT) for side in sides)
            if mine == other or other == old:
                value = mine
            elif mine == old:
                value = other
            else:
                parts = (side.get(key) for side in sides)
                self._disagreements[key] = Disagreement(key, "changed", *parts)
                value = mine if self._side(key) == "ours" else other
            if value is not _ABSENT:
                values[key] = value
        return values

    def _without_dangling(self, values: dict[Key, object]) -> dict[Key, object]:
        """Drops what speaks of something that is not there any more, where it was there for
        the side that said so."""
        while dangling := self._dangling(values):
            for key in dangling:
                value = values.get(key)
                drop(key, values)
                if key[4:] == ("parent",) and key[2] == "node" and key[:4] in values:
                    values[key] = self._next_parent(key, value, values)
                if key[4:] == ("default",) and key[2] == "axis" and key[:4] in values:
                    values[key] = self._next_default(key, values)
        return values

    def _dangling(self, values: Mapping[Key, object]) -> list[Key]:
        sides = [facts.values for facts in self._facts[1:]]
        dangling = []
        for key, value in values.items():
            sayers = [side for side in sides if side.get(key, _ABSENT) == value]
            for need in needs(key, value):
                if need not in values and sayers and all(need in side for side in sayers):
                    dangling.append(key)
                    break
        return dangling

    def _next_default(self, key: Key, values: Mapping[Key, object]) -> object:
        """An axis whose default is gone: one of the sides' that is there, else any value."""
        candidates = [facts.values.get(key) for facts in self._facts]
        existing = [k[5] for k in values if k[:5] == (*key[:4], "value") and len(k) == 6]
        return next((value for value in candidates if value in existing), min(existing, key=str))

    def _next_parent(self, key: Key, old_parent: object, values: Mapping[Key, object]) -> object:
        """Where a node goes whose new box is gone: back to the old one, else into the root."""
        base = self._facts[0].values.get(key)
        if base is not None and base != old_parent and (*key[:3], base) in values:
            return base
        return next(
            cast(str, k[3])
            for k, v in values.items()
            if k[:2] == key[:2] and k[4:] == ("parent",) and v == ROOT
        )

    def _mend_trees(self, values: dict[Key, object]) -> None:
        """Two moves can put boxes into each other: then one side's places count for both."""
        parents = {
            key[:4]: (*key[:3], value)
            for key, value in values.items()
            if key[4:] == ("parent",) and key[2] == "node"
        }
        for start in sorted(parents, key=repr):
            circle = _circle_from(start, parents)
            if circle:
                self._open(circle, values, parents)

    def _open(self, circle: list[Key], values: dict[Key, object], parents: dict[Key, Key]) -> None:
        """Puts the nodes of a circle where one side has them."""
        key = (*min(circle, key=repr), "parent")
        parts = (facts.values.get(key) for facts in self._facts)
        self._disagreements[key] = Disagreement(key, "changed", *parts)
        side = self._facts[1 if self._side(key) == "ours" else 2]
        for node in circle:
            place = side.values.get((*node, "parent"))
            if place is not None and (*node[:3], place) in (*values, (*node[:3], ROOT)):
                values[(*node, "parent")] = place
                parents[node] = (*node[:3], place)

    # --- orders -----------------------------------------------------------------------------

    def _orders(self, values: Mapping[Key, object]) -> dict[Key, tuple[object, ...]]:
        children = _children(values)
        base, ours, theirs = (facts.orders for facts in self._facts)
        orders: dict[Key, tuple[object, ...]] = {}
        for key in dict.fromkeys((*ours, *theirs, *children)):
            if key[-1] == "child":
                members = children.get(key, set())
            else:
                lists = (base.get(key, ()), ours.get(key, ()), theirs.get(key, ()))
                members = {m for members in lists for m in members if (*key, m) in values}
            if len(key) <= 2 or key[:2] in values:
                orders[key] = self._woven(key, members)
        return orders

    def _woven(self, key: Key, members: set[object]) -> tuple[object, ...]:
        three = [facts.orders.get(key, ()) for facts in self._facts]
        result = woven(three[0], three[1], three[2], members, "ours")
        picked = {m for m in result.disagreed if self._side((*key, "order", m)) == "theirs"}
        if picked:
            result = woven(three[0], three[1], three[2], members, "theirs")
        for member in result.disagreed:
            place = (*key, "order", member)
            parts = [order.index(member) if member in order else None for order in three]
            self._disagreements[place] = Disagreement(place, "moved", *parts)
        order = result.order
        return (
            (*order, *sorted(members - set(order), key=repr))
            if len(order) < len(members)
            else order
        )

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
            name=cast(str, facts.values["document", "name"]),
            motion=cast(Motion, facts.values["document", "motion"]),
            components=Map(components),
            screens=Map(screens),
            component_order=tuple(components),
            screen_order=tuple(screens),
            tokens=tokens_from(facts),
            modes=tuple(cast(str, mode) for mode in facts.orders[("mode",)]),
            mode=cast(str, facts.values.get(("document", "mode"), "")),
            assets=Map(_together(base.assets, theirs.assets, ours.assets)),
            extras=Map(
                {
                    str(key[2]): cast(Json, value)
                    for key, value in facts.values.items()
                    if key[:2] == ("document", "extras")
                }
            ),
            sharing=sharing_from(facts, ours.sharing),
            keeping=keeping_from(facts, ours.keeping),
        )
        self._refuse_circles(merged)
        return msgspec.structs.replace(merged, assets=Map(assets_in_use(merged)))

    def _owner(self, facts: Facts, key: Key) -> Owner:
        """An owner of the merged document: the very object of a side that says the same."""
        if self._untouched(key):
            return self._owners[1][key]
        try:
            merged_owner = owner_from(facts, key)
        except (Refusal, KeyError, StopIteration) as problem:
            raise _Impossible(key) from problem
        for owners in (self._owners[1], self._owners[2], self._owners[0]):
            if owners.get(key) == merged_owner:
                return owners[key]
        return merged_owner

    def _refuse_circles(self, merged: Document) -> None:
        for owner in merged.owners():
            key = owner_key(owner)
            if self._untouched(key) or key in self._taken_whole:
                continue
            try:
                refuse_endless(merged, [owner])
            except Refusal as problem:
                raise _Impossible(key) from problem


def _override(facts: Facts, key: Key, chosen: Facts) -> None:
    """An entry of the sharing becomes what the chosen side has."""
    for fact in [fact for fact in facts.values if fact[:2] == key]:
        del facts.values[fact]
    facts.values.update({k: value for k, value in chosen.values.items() if k[:2] == key})


def _children(values: Mapping[Key, object]) -> dict[Key, set[object]]:
    """The children of each box, by the key of its list. Raises _Impossible for two roots."""
    children: dict[Key, set[object]] = {}
    roots: set[Key] = set()
    for key, value in values.items():
        if key[4:] == ("parent",) and key[2] == "node":
            if value == ROOT and key[:2] in roots:
                raise _Impossible(key[:2])
            if value == ROOT:
                roots.add(key[:2])
            children.setdefault((*key[:3], value, "child"), set()).add(key[3])
    return children


def _circle_from(start: Key, parents: Mapping[Key, Key]) -> list[Key]:
    """The nodes that hold each other on the way up from one; none where there is an end."""
    route = [start]
    while (above := parents.get(route[-1])) is not None:
        if above in route:
            return route[route.index(above) :]
        route.append(above)
    return []


class _Impossible(Exception):  # not an error: it is caught and answered here
    """The facts of both sides are no component or screen together."""

    def __init__(self, key: Key) -> None:
        super().__init__(key)
        self.key = key


def _together(*maps: Mapping[str, Asset]) -> dict[str, Asset]:
    """All data of all sides. The same data may be called two ways; one name is taken."""
    assets: dict[str, Asset] = {}
    for states in maps:
        for digest, asset in states.items():
            assets[digest] = min(asset, assets.get(digest, asset), key=lambda a: (a.name, a.media))
    return assets


__all__ = ["Disagreement", "Merged", "Picks", "Side", "merge"]
