"""Two people's changes on one document, made into one: three ways, by id.

A fact that one side changed is taken from it. Where both changed the same fact to different
things, or one took away what the other worked on, they *disagree*: both stay to be chosen
from, and until then ours counts. Nothing here depends on who is called ours but that.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any, Generic, Literal, NamedTuple, TypeVar, cast

import msgspec
from immutables import Map

from outgrowth.core.document.extent import refuse_endless
from outgrowth.core.document.records import Asset, Component, Document, Owner, Screen
from outgrowth.core.document.types import Json
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.assembly import (
    SeveralKinds,
    keeping_from,
    owner_from,
    sharing_from,
    tokens_from,
)
from outgrowth.core.team.facts import (
    DOCUMENT_FIELDS,
    ROOT,
    FactKey,
    Facts,
    document_facts,
    facts_of,
    owner_key,
    owner_of,
    place_in_owner,
)
from outgrowth.core.team.needs import needs
from outgrowth.core.team.removals import drop, give_back, removed_but_worked_on, take_away
from outgrowth.core.team.sequences import Side, woven
from outgrowth.core.team.token_names import with_same_names
from outgrowth.core.team.versions import version_numbers

_ABSENT = object()
Picks = Mapping[FactKey, Side]
"""Which side counts in each disagreement; ours where nothing is picked."""


class OneSide(Mapping[FactKey, Side]):
    """Picks of one side, whatever is asked."""

    def __init__(self, side: Side) -> None:
        self._side = side

    def __getitem__(self, key: FactKey) -> Side:
        return self._side

    def __contains__(self, key: object) -> bool:
        return True

    def __iter__(self) -> Iterator[FactKey]:
        return iter(())

    def __len__(self) -> int:
        return 1


class Disagreement(NamedTuple):
    """What both sides changed, each in its own way.

    key    the fact; of a list the list's key, "order", and the member
    kind   `changed`: two values; `removed`: one side took away what the other worked on;
           `moved`: two places in a list; `whole`: together they would be no component
    base, ours, theirs   the fact on each side, None where it isn't said
    """

    key: FactKey
    kind: Literal["changed", "removed", "moved", "whole"]
    base: object = None
    ours: object = None
    theirs: object = None


class MergedDocument(NamedTuple):
    """One document of both sides' changes, and where they disagree."""

    document: Document
    disagreements: tuple[Disagreement, ...] = ()


def merge(
    base: Document, ours: Document, theirs: Document, picks: Picks | None = None
) -> MergedDocument:
    """What two documents say that began as `base`.

    Never raises: what can be no document together is a disagreement about a whole component.
    """
    if ours == theirs or base == theirs:
        return MergedDocument(ours)
    if base == ours:
        return MergedDocument(theirs)
    sides = with_same_names(base, ours, theirs)
    return _Merging(_Sides(*sides), {} if picks is None else picks).merged()


_Of = TypeVar("_Of")
_Other = TypeVar("_Other")


class _Sides(NamedTuple, Generic[_Of]):
    """The same of all three sides."""

    base: _Of
    ours: _Of
    theirs: _Of

    def each(self, make: Callable[[_Of], _Other]) -> _Sides[_Other]:
        """What `make` gives for each side."""
        return _Sides(make(self.base), make(self.ours), make(self.theirs))

    def chosen(self, side: Side) -> _Of:
        """Ours or theirs."""
        return self.ours if side == "ours" else self.theirs


class _Merging:
    """One merge."""

    def __init__(self, sides: _Sides[Document], picks: Picks) -> None:
        self._sides = sides
        self._picks = picks
        self._disagreements: dict[FactKey, Disagreement] = {}
        self._owners = sides.each(lambda side: {owner_key(o): o for o in side.owners()})
        self._taken_whole: dict[FactKey, Side] = {}
        self._facts: _Sides[Facts]

    def merged(self) -> MergedDocument:
        """Merges; components that cannot be are taken whole from one side, and tried again."""
        self._agree_on_versions()
        while True:
            try:
                return MergedDocument(self._try(), tuple(self._disagreements.values()))
            except (_Impossible, SeveralKinds) as problem:
                if problem.key in self._taken_whole:  # not even so: ours as it was
                    return MergedDocument(self._sides.ours, tuple(self._disagreements.values()))
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
                key: FactKey = ("component", component_id)
                self._taken_whole[key] = self._taken_whole["origin", component_id] = (
                    "theirs" if newer else "ours"
                )

    def _take_whole(self, key: FactKey) -> None:
        states: _Sides[object] = self._owners.each(lambda owners: owners.get(key))
        match key:
            case ("token", path):
                states = self._sides.each(lambda side: side.tokens.get(str(path)))
        self._disagreements = {
            fact: about for fact, about in self._disagreements.items() if owner_of(fact) != key
        }
        self._disagreements[key] = Disagreement(key, "whole", *states)
        self._taken_whole[key] = self._side(key)

    def _side(self, key: FactKey) -> Side:
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

    def _taken_apart(self) -> _Sides[Facts]:
        """The facts of all three; owners that nobody changed are left out."""
        keys = dict.fromkeys(key for owners in self._owners for key in owners)
        touched = [key for key in keys if not self._untouched(key)]
        return _Sides(
            *(
                self._facts_of_side(document, owners, touched)
                for document, owners in zip(self._sides, self._owners, strict=True)
            )
        )

    def _facts_of_side(
        self, document: Document, owners: Mapping[FactKey, Owner], touched: Iterable[FactKey]
    ) -> Facts:
        facts = document_facts(document)
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
            match key:
                case ("origin" | "token", _):
                    _override(facts, key, document_facts(self._sides.chosen(side)))
        return facts

    def _untouched(self, key: FactKey) -> bool:
        base, ours, theirs = (owners.get(key) for owners in self._owners)
        return base == ours == theirs

    def _owner_of(self, key: FactKey, owners: Mapping[FactKey, Owner]) -> Owner | None:
        """An owner on a side; one that is taken whole is the same on all of them."""
        side = self._taken_whole.get(key)
        if side is None:
            return owners.get(key)
        return self._owners.chosen(side).get(key)

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

    def _merged_values(self) -> dict[FactKey, object]:
        sides = self._facts.each(lambda facts: facts.values)
        values: dict[FactKey, object] = {}
        for key in dict.fromkeys((*sides.theirs, *sides.ours)):
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

    def _without_dangling(self, values: dict[FactKey, object]) -> dict[FactKey, object]:
        """Drops what speaks of something that is not there any more, where it was there for
        the side that said so."""
        while dangling := self._dangling(values):
            for key in dangling:
                value = values.get(key)
                drop(key, values)
                match key:
                    case (kind, owner, "node", node, "parent"):
                        if (kind, owner, "node", node) in values:
                            place = (kind, owner, "node", node)
                            values[key] = self._next_parent(place, value, values)
                    case (kind, owner, "axis", axis, "default"):
                        if (kind, owner, "axis", axis) in values:
                            values[key] = self._next_default((kind, owner, "axis", axis), values)
        return values

    def _dangling(self, values: Mapping[FactKey, object]) -> list[FactKey]:
        sides = [self._facts.ours.values, self._facts.theirs.values]
        dangling = []
        for key, value in values.items():
            sayers = [side for side in sides if side.get(key, _ABSENT) == value]
            for need in needs(key, value):
                if need not in values and sayers and all(need in side for side in sayers):
                    dangling.append(key)
                    break
        return dangling

    def _next_default(self, axis: FactKey, values: Mapping[FactKey, object]) -> object:
        """An axis whose default is gone: one of the sides' that is there, else any value."""
        candidates = [facts.values.get((*axis, "default")) for facts in self._facts]
        existing = []
        for key in values:
            match key:
                case (*holder, "value", value) if tuple(holder) == axis:
                    existing.append(value)
        return next((value for value in candidates if value in existing), min(existing, key=str))

    def _next_parent(
        self, node: FactKey, old_parent: object, values: Mapping[FactKey, object]
    ) -> object:
        """Where a node goes whose new box is gone: back to the old one, else into the root."""
        base = self._facts.base.values.get((*node, "parent"))
        if base is not None and base != old_parent and _sibling(node, base) in values:
            return base
        return next(
            placed.node
            for placed in _nodes_in_boxes(values)
            if placed.owner == owner_of(node) and placed.parent == ROOT
        )

    def _mend_trees(self, values: dict[FactKey, object]) -> None:
        """Two moves can put boxes into each other: then one side's places count for both."""
        parents = {placed.key: placed.parent_key for placed in _nodes_in_boxes(values)}
        for start in sorted(parents, key=repr):
            circle = _circle_from(start, parents)
            if circle:
                self._open(circle, values, parents)

    def _open(
        self, circle: list[FactKey], values: dict[FactKey, object], parents: dict[FactKey, FactKey]
    ) -> None:
        """Puts the nodes of a circle where one side has them."""
        key = (*min(circle, key=repr), "parent")
        parts = (facts.values.get(key) for facts in self._facts)
        self._disagreements[key] = Disagreement(key, "changed", *parts)
        side = self._facts.chosen(self._side(key))
        for node in circle:
            place = side.values.get((*node, "parent"))
            if place == ROOT or (place is not None and _sibling(node, place) in values):
                values[(*node, "parent")] = place
                parents[node] = _sibling(node, place)

    # --- orders -----------------------------------------------------------------------------

    def _orders(self, values: Mapping[FactKey, object]) -> dict[FactKey, tuple[object, ...]]:
        children = _children(values)
        base, ours, theirs = (facts.orders for facts in self._facts)
        orders: dict[FactKey, tuple[object, ...]] = {}
        for key in dict.fromkeys((*ours, *theirs, *children)):
            match key:
                case (*_, "child"):
                    members = children.get(key, set())
                case _:
                    lists = (base.get(key, ()), ours.get(key, ()), theirs.get(key, ()))
                    members = {m for members in lists for m in members if (*key, m) in values}
            # A list of the document itself is always there, one of an owner with the owner.
            if not place_in_owner(key) or owner_of(key) in values:
                orders[key] = self._woven(key, members)
        return orders

    def _woven(self, key: FactKey, members: set[object]) -> tuple[object, ...]:
        lists = self._facts.each(lambda facts: facts.orders.get(key, ()))
        weave = woven(*lists, members, "ours")
        if any(self._side((*key, "order", m)) == "theirs" for m in weave.disagreed):
            weave = woven(*lists, members, "theirs")
        for member in weave.disagreed:
            place = (*key, "order", member)
            parts = [order.index(member) if member in order else None for order in lists]
            self._disagreements[place] = Disagreement(place, "moved", *parts)
        order = weave.order
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
            **cast(
                Any, {name: facts.values.get(("document", name), "") for name in DOCUMENT_FIELDS}
            ),
            components=Map(components),
            screens=Map(screens),
            component_order=tuple(components),
            screen_order=tuple(screens),
            tokens=tokens_from(facts),
            modes=tuple(cast(str, mode) for mode in facts.orders[("mode",)]),
            assets=Map(_together(base.assets, theirs.assets, ours.assets)),
            extras=Map(
                {
                    str(name): cast(Json, value)
                    for (word, *about), value in facts.values.items()
                    if word == "document" and about[0] == "extras"
                    for name in about[1:]
                }
            ),
            sharing=sharing_from(facts, ours.sharing),
            keeping=keeping_from(facts, ours.keeping),
        )
        self._refuse_circles(merged)
        return msgspec.structs.replace(merged, assets=Map(assets_in_use(merged)))

    def _owner(self, facts: Facts, key: FactKey) -> Owner:
        """An owner of the merged document: the very object of a side that says the same."""
        if self._untouched(key):
            return self._owners.ours[key]
        try:
            merged_owner = owner_from(facts, key)
        except (Refusal, KeyError, StopIteration) as problem:
            raise _Impossible(key) from problem
        for owners in (self._owners.ours, self._owners.theirs, self._owners.base):
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


def _override(facts: Facts, key: FactKey, chosen: Facts) -> None:
    """An entry of the sharing becomes what the chosen side has."""
    for fact in [fact for fact in facts.values if owner_of(fact) == key]:
        del facts.values[fact]
    facts.values.update({k: value for k, value in chosen.values.items() if owner_of(k) == key})


class _NodeInBox(NamedTuple):
    """A node of an owner, and the id of the box that it stands in (ROOT for none)."""

    owner: FactKey
    node: object
    parent: object

    @property
    def key(self) -> FactKey:
        return (*self.owner, "node", self.node)

    @property
    def parent_key(self) -> FactKey:
        return (*self.owner, "node", self.parent)


def _nodes_in_boxes(values: Mapping[FactKey, object]) -> Iterator[_NodeInBox]:
    for key, value in values.items():
        match key:
            case (_, _, "node", node, "parent"):
                yield _NodeInBox(owner_of(key), node, value)


def _sibling(node: FactKey, other_id: object) -> FactKey:
    """Another node of the same owner."""
    return (*owner_of(node), "node", other_id)


def _children(values: Mapping[FactKey, object]) -> dict[FactKey, set[object]]:
    """The children of each box, by the key of its list. Raises _Impossible for two roots."""
    children: dict[FactKey, set[object]] = {}
    roots: set[FactKey] = set()
    for placed in _nodes_in_boxes(values):
        if placed.parent == ROOT:
            if placed.owner in roots:
                raise _Impossible(placed.owner)
            roots.add(placed.owner)
        children.setdefault((*placed.parent_key, "child"), set()).add(placed.node)
    return children


def _circle_from(start: FactKey, parents: Mapping[FactKey, FactKey]) -> list[FactKey]:
    """The nodes that hold each other on the way up from one; none where there is an end."""
    route = [start]
    while (above := parents.get(route[-1])) is not None:
        if above in route:
            return route[route.index(above) :]
        route.append(above)
    return []


class _Impossible(Exception):  # not an error: it is caught and answered here
    """The facts of both sides are no component or screen together."""

    def __init__(self, key: FactKey) -> None:
        super().__init__(key)
        self.key = key


def _together(*maps: Mapping[str, Asset]) -> dict[str, Asset]:
    """All data of all sides. The same data may be called two ways; one name is taken."""
    assets: dict[str, Asset] = {}
    for side_assets in maps:
        for digest, asset in side_assets.items():
            assets[digest] = min(asset, assets.get(digest, asset), key=lambda a: (a.name, a.media))
    return assets


__all__ = ["Disagreement", "MergedDocument", "Picks", "Side", "merge"]
