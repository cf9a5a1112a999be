"""What a document stands for, counted before any of it is unfolded: how deep its trees reach
through the components that they hold, and how many parts come of them.

A file of a few lines can stand for more parts than a machine can hold (components of ten, of
ten, of ten …), or for a tree without end. So every edit that changes what holds what, and
every reader, asks here first; nothing is unfolded for it. What fills a slot from outside is
known only where it is shown: the resolver counts that as it goes.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Rule,
    walk,
)
from outgrowth.core.memo import ByIdentity
from outgrowth.core.refusal import Refusal, quoted

DEEPEST = 200
"""Levels that one tree may have: deeper than any interface that a person lays out."""
DEEPEST_SHOWN = 1_000
"""Levels of what an owner stands for, the trees of all components within it included. Stages
that recurse have room for so many (see `outgrowth.core.RECURSION`)."""
MOST_SHOWN = 300_000
"""Parts that one owner may stand for: over three times those of the largest list in bin/bench
(10,000 cards of eight)."""
MOST_NODES = 100_000
"""Parts that one tree may have."""


class Extent(NamedTuple):
    """A tree by itself: its levels, its parts, and how often it holds which component at
    which level."""

    levels: int
    parts: int
    held: Mapping[tuple[str, int], int]


class Shown(NamedTuple):
    """What an owner stands for, all that it holds unfolded."""

    levels: int
    parts: int


_NOTHING: Mapping[tuple[str, int], int] = {}


def _extent_of(node: Node) -> Extent:
    """From the extents of its children, which `extent` has put into the memory before."""
    counts: dict[tuple[str, int], int] = {}
    levels, parts = (2 if node.children else 1), 1
    for child in node.children:
        if child.children:
            below = _extents(child)
            levels = max(levels, below.levels + 1)
            parts += below.parts
            for (component, level), times in below.held.items():
                counts[component, level + 1] = counts.get((component, level + 1), 0) + times
            continue
        parts += 1
        for component in _followed(child):
            counts[component, 2] = counts.get((component, 2), 0) + 1
    for component in _followed(node):
        counts[component, 1] = counts.get((component, 1), 0) + 1
    return Extent(levels, parts, counts or _NOTHING)


def _followed(node: Node) -> list[str]:
    """The components that an instance may follow, by itself and by its own overrides."""
    if node.kind != "instance":
        return []
    values = [node.style.get("component")]
    if node.overrides:
        values += [rule.value for rule in _exchanging(node.overrides)]
    return [component for component in values if isinstance(component, str) and component]


# A tree counts its own parts once; edits share all that they leave alone.
_extents: ByIdentity[Node, Extent] = ByIdentity(_extent_of, 65536)


def extent(root: Node) -> Extent:
    """How far a tree reaches by itself. Raises Refusal for one that is too deep or too large.

    Subtrees that are the same objects as before are not counted again; new ones are counted
    from below, so that nothing recurses.
    """
    levels: list[list[Node]] = [[root]]
    while levels[-1]:
        if len(levels) > DEEPEST:
            raise Refusal(_TOO_DEEP)
        levels.append(
            [c for n in levels[-1] for c in n.children if c.children and not _extents.knows(c)]
        )
    for level in reversed(levels):
        for node in level:
            _extents(node)
    extents = _extents(root)
    if extents.levels > DEEPEST:
        raise Refusal(_TOO_DEEP)
    if extents.parts > MOST_NODES:
        raise Refusal(f"One tree may have {MOST_NODES:,} parts, and this would have more.")
    return extents


_TOO_DEEP = f"Parts can be nested {DEEPEST} levels deep, and this would be deeper."


# --- through components ---------------------------------------------------------------------


def _exchanging(rules: Iterable[Rule]) -> Iterable[Rule]:
    return (rule for rule in rules if rule.property == "component")


def _offered(component: Component) -> frozenset[str]:
    """The components that a component may show besides those in its tree: by its rules, and
    as defaults of its slots."""
    values = [rule.value for rule in _exchanging(component.rules)]
    values += [prop.default for prop in component.properties if prop.kind == "slot"]
    return frozenset(value for value in values if isinstance(value, str) and value)


_offers = ByIdentity(_offered, 4096)


def held_by(owner: Owner) -> frozenset[str]:
    """Ids of the components that an owner may show by itself."""
    components = frozenset(component for component, _ in extent(owner.root).held)
    return components | _offers(owner) if isinstance(owner, Component) else components


def filling(document: Document, owner: Owner) -> frozenset[str]:
    """Ids of the components that an owner, or a cue of it, puts into slots of what it holds."""
    slots = _slots_of(document.components)
    return frozenset(component for slot, component in _given(owner) if slot in slots)


def _given_by(owner: Owner) -> frozenset[tuple[str, str]]:
    """What an owner gives to properties that may be slots: their ids, with words that may be a
    component's id."""
    values: list[tuple[str, object]] = []
    for node in _instances(owner.root):
        values += node.style.items()
        values += [(rule.property, rule.value) for rule in node.overrides]
    if isinstance(owner, Component):
        values += [(rule.property, rule.value) for rule in owner.rules]
    values += [(c.name, c.value) for cue in owner.behaviour.cues for c in cue.changes]
    return frozenset(
        (name.removeprefix(CHOICE), v) for name, v in values if isinstance(v, str) and v
    )


_given = ByIdentity(_given_by, 4096)


def fillings(document: Document, slot: ComponentProperty) -> list[Component]:
    """What may stand in a slot: by itself, by its shortlist, or since something in the file puts
    it there; in the file's order."""
    ids = {slot.default, *slot.shortlist}
    ids |= {v for owner in document.owners() for name, v in _given(owner) if name == slot.id}
    return [component for component in document.in_order() if component.id in ids]


def shown_within(document: Document, owner: Owner) -> list[Owner]:
    """An owner and all components that it may show, through others too, each once."""
    owners = [owner]
    visited = {owner.id}
    for inner in owners:
        for component_id in sorted((held_by(inner) | filling(document, inner)) - visited):
            visited.add(component_id)
            component = document.components.get(component_id)
            if component is not None:
                owners.append(component)
    return owners


def _instances_of(root: Node) -> tuple[Node, ...]:
    return tuple(node for node in walk(root) if node.kind == "instance")


_instances = ByIdentity(_instances_of, 1024)


def _all_slots(components: Map[str, Component]) -> frozenset[str]:
    return frozenset(
        prop.id
        for component in components.values()
        for prop in component.properties
        if prop.kind == "slot"
    )


_slots_of: ByIdentity[Map[str, Component], frozenset[str]] = ByIdentity(_all_slots, 64)


def refuse_endless(document: Document, owners: Iterable[Owner]) -> None:
    """Raises Refusal where one of these owners would contain itself, would stand for too many
    parts, or for a tree that is too deep; the message names the way."""
    sums: dict[str, Shown] = {}
    for owner in owners:
        _sum(document, owner, sums)


def shown_parts(document: Document, owner: Owner) -> int:
    """How many parts an owner stands for; what fills slots from outside counts once."""
    sums: dict[str, Shown] = {}
    _sum(document, owner, sums)
    return sums[owner.id].parts


def _sum(document: Document, start: Owner, sums: dict[str, Shown]) -> None:
    """Puts what an owner stands for, and all that it holds, into `sums`; the innermost first,
    by a list of what waits rather than by recursion."""
    owners: list[tuple[Owner, list[Component]]] = []

    def enter(owner: Owner) -> None:
        components = sorted(held_by(owner) | filling(document, owner))
        inner = [document.components[i] for i in components if i in document.components]
        owners.append((owner, inner))

    enter(start)
    inside = {start.id}
    while owners:
        owner, waiting = owners[-1]
        while waiting and waiting[-1].id in sums:
            waiting.pop()
        if waiting:
            inner = waiting.pop()
            if inner.id in inside:
                names = [o.name for o, _ in owners]
                first = next(n for n, (o, _) in enumerate(owners) if o.id == inner.id)
                line = " › ".join(quoted(name) for name in [*names[first:], inner.name])
                raise Refusal(f"A component cannot contain itself: {line}.")
            enter(inner)
            inside.add(inner.id)
            continue
        owners.pop()
        inside.discard(owner.id)
        sums[owner.id] = _shown_sums(owner, sums)


def _shown_sums(owner: Owner, sums: dict[str, Shown]) -> Shown:
    """What an owner stands for, where that of all that it holds is known."""
    own = extent(owner.root)
    levels, parts = own.levels, own.parts
    counts = dict(own.held)
    if isinstance(owner, Component):
        counts |= {(component, own.levels): 1 for component in _offers(owner)}
    for (component, level), times in counts.items():
        inner = sums.get(component)
        if inner is not None:
            levels = max(levels, level - 1 + inner.levels)
            parts += times * inner.parts
    name = quoted(owner.name)
    if parts > MOST_SHOWN:
        raise Refusal(f"“{name}” would stand for more than {MOST_SHOWN:,} parts.")
    if levels > DEEPEST_SHOWN:
        raise Refusal(f"“{name}” would be more than {DEEPEST_SHOWN:,} levels deep.")
    return Shown(levels, parts)
