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
from outgrowth.core.document.records import Component, Document, Node, Owner, Rule, walk
from outgrowth.core.document.refusal import Refusal, quoted
from outgrowth.core.memo import ByIdentity

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
    held: dict[tuple[str, int], int] = {}
    levels, parts = (2 if node.children else 1), 1
    for child in node.children:
        if child.children:
            below = _extents(child)
            levels = max(levels, below.levels + 1)
            parts += below.parts
            for (component, level), times in below.held.items():
                held[component, level + 1] = held.get((component, level + 1), 0) + times
            continue
        parts += 1
        for component in _followed(child):
            held[component, 2] = held.get((component, 2), 0) + 1
    for component in _followed(node):
        held[component, 1] = held.get((component, 1), 0) + 1
    return Extent(levels, parts, held or _NOTHING)


def _followed(node: Node) -> list[str]:
    """The components that an instance may follow, by itself and by its own overrides."""
    if node.kind != "instance":
        return []
    said = [node.style.get("component")]
    if node.overrides:
        said += [rule.value for rule in _exchanging(node.overrides)]
    return [component for component in said if isinstance(component, str) and component]


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
    found = _extents(root)
    if found.levels > DEEPEST:
        raise Refusal(_TOO_DEEP)
    if found.parts > MOST_NODES:
        raise Refusal(f"One tree may have {MOST_NODES:,} parts, and this would have more.")
    return found


_TOO_DEEP = f"Parts can be nested {DEEPEST} levels deep, and this would be deeper."


# --- through components ---------------------------------------------------------------------


def _exchanging(rules: Iterable[Rule]) -> Iterable[Rule]:
    return (rule for rule in rules if rule.property == "component")


def _offered(component: Component) -> frozenset[str]:
    """The components that a component may show besides those in its tree: by its rules, and
    as defaults of its slots."""
    said = [rule.value for rule in _exchanging(component.rules)]
    said += [prop.default for prop in component.properties if prop.kind == "slot"]
    return frozenset(value for value in said if isinstance(value, str) and value)


_offers = ByIdentity(_offered, 4096)


def held_by(owner: Owner) -> frozenset[str]:
    """Ids of the components that an owner may show by itself."""
    held = frozenset(component for component, _ in extent(owner.root).held)
    return held | _offers(owner) if isinstance(owner, Component) else held


def filling(document: Document, owner: Owner) -> frozenset[str]:
    """Ids of the components that an owner puts into slots of what it holds."""
    slots, found = _slots_of(document.components), set()
    for node in _instances(owner.root):
        said = [(name.removeprefix(CHOICE), v) for name, v in node.style.items()]
        said += [(r.property.removeprefix(CHOICE), r.value) for r in node.overrides]
        found |= {v for key, v in said if key in slots and isinstance(v, str) and v}
    for rule in owner.rules if isinstance(owner, Component) else ():
        if rule.property.removeprefix(CHOICE) in slots and isinstance(rule.value, str):
            found.add(rule.value)
    return frozenset(found - {""})


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


def _sum(document: Document, start: Owner, sums: dict[str, Shown]) -> None:
    """Puts what an owner stands for, and all that it holds, into `sums`; the innermost first,
    by a list of what waits rather than by recursion."""
    way: list[tuple[Owner, list[Component]]] = []

    def enter(owner: Owner) -> None:
        held = sorted(held_by(owner) | filling(document, owner))
        inner = [document.components[i] for i in held if i in document.components]
        way.append((owner, inner))

    enter(start)
    inside = {start.id}
    while way:
        owner, waiting = way[-1]
        while waiting and waiting[-1].id in sums:
            waiting.pop()
        if waiting:
            inner = waiting.pop()
            if inner.id in inside:
                names = [o.name for o, _ in way]
                first = next(n for n, (o, _) in enumerate(way) if o.id == inner.id)
                line = " › ".join(quoted(name) for name in [*names[first:], inner.name])
                raise Refusal(f"A component cannot contain itself: {line}.")
            enter(inner)
            inside.add(inner.id)
            continue
        way.pop()
        inside.discard(owner.id)
        sums[owner.id] = _shown_sums(owner, sums)


def _shown_sums(owner: Owner, sums: dict[str, Shown]) -> Shown:
    """What an owner stands for, where that of all that it holds is known."""
    own = extent(owner.root)
    levels, parts = own.levels, own.parts
    held = dict(own.held)
    if isinstance(owner, Component):
        held |= {(component, own.levels): 1 for component in _offers(owner)}
    for (component, level), times in held.items():
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
