"""What an edit will touch, known before it lands: variants, instances, screens."""

from __future__ import annotations

import math
import time
from collections import Counter
from collections.abc import Iterator
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import Component, Document, Path, Rule
from outgrowth.core.document.values import Shift
from outgrowth.core.document.variants import (
    Variant,
    holds,
    in_cascade_order,
    offered,
    offered_count,
    variants,
)
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode

Counts = Counter[tuple[str, Variant]]


class Reached(NamedTuple):
    """How much an edit touches."""

    variants: tuple[Variant, ...]
    of: int
    instances: int
    screens: int


def landing(
    component: Component, path: Path, names: tuple[str, ...], reach: Map[str, str]
) -> tuple[Variant, ...]:
    """The offered variants in which a value written at this reach would show: those that
    agree with it and have no stronger rule for any of the properties. A stronger shift hides
    nothing: it is laid on top of what is written."""
    results = []
    replaced = [n for n in names if _replaces_shift(component, path, n, reach)]
    trials = [_with_candidate(component, path, name, reach) for name in names]
    for variant in variants(component):
        possible = offered(component, variant) and holds(reach, variant)
        if possible and (not trials or replaced or any(t.shows(variant) for t in trials)):
            results.append(variant)
    return tuple(results)


class _Trial(NamedTuple):
    """Rules about a property in cascade order, and that of the edit, which is among them."""

    rules: tuple[Rule, ...]
    candidate: Rule

    def shows(self, variant: Variant) -> bool:
        matching = [rule for rule in self.rules if holds(rule.when, variant)]
        return bool(matching) and matching[-1] is self.candidate


def _with_candidate(component: Component, path: Path, name: str, reach: Map[str, str]) -> _Trial:
    node = path or (component.root.id,)
    others = tuple(
        r
        for r in component.rules
        if (r.node, r.property) == (node, name)
        and r.when != reach
        and not isinstance(r.value, Shift)
    )
    candidate = Rule(reach, node, name, row_of(name).default)
    trial = msgspec.structs.replace(component, rules=(*others, candidate))
    return _Trial(in_cascade_order(trial), candidate)


def _replaces_shift(component: Component, path: Path, name: str, reach: Map[str, str]) -> bool:
    """Whether the edit takes the place of a shift, which showed wherever its reach holds."""
    node = path or (component.root.id,)
    return any(
        (r.node, r.property, r.when) == (node, name, reach) and isinstance(r.value, Shift)
        for r in component.rules
    )


_FEW_SCREENS = 30
"""As many are counted within a frame or two."""


class Census:
    """Counts instances on all screens, nested ones included, by component and variant.

    Counting looks at every instance; it is kept until the document changes.
    """

    def __init__(self, resolver: Resolver) -> None:
        self._resolver = resolver
        self._document: Document | None = None
        self._screens: list[Counts] = []
        self._begun: tuple[Document, Iterator[None]] | None = None

    def reached(
        self, document: Document, component: Component, result: tuple[Variant, ...]
    ) -> Reached:
        """How many instances on how many screens show one of these variants, in rest or in
        a state that the pointer or the keyboard sets."""
        self.count(document)
        driven_axes = {axis.id for axis in component.axes if axis.driver != "none"}
        target = {_undriven(variant, driven_axes) for variant in result}
        instances = screens = 0
        for counts in self._screens:
            direct = sum(
                n
                for (current, variant), n in counts.items()
                if current == component.id and _undriven(variant, driven_axes) in target
            )
            instances += direct
            screens += direct > 0
        return Reached(result, offered_count(component), instances, screens)

    def instances(self, document: Document) -> Counter[str]:
        """For each component, its instances on all screens."""
        self.count(document)
        total: Counter[str] = Counter()
        for counts in self._screens:
            for (component_id, _), n in counts.items():
                total[component_id] += n
        return total

    def count(self, document: Document, until: float = math.inf) -> bool:
        """Counts until a time (as time.perf_counter tells it), and goes on there the next time
        it is asked about the same document; whether all is counted. A file with few screens is
        counted at once."""
        if self._document is document:
            return True
        if self._begun is None or self._begun[0] is not document:
            self._begun = document, self._counting(document)
        at_once = len(document.screens) <= _FEW_SCREENS
        for _ in self._begun[1]:
            if not at_once and time.perf_counter() > until:
                return False
        self._begun = None
        return True

    def _counting(self, document: Document) -> Iterator[None]:
        """Counts screen by screen."""
        counted: dict[int, Counts] = {}
        screens = []
        for screen in document.screens_in_order():
            scene = self._resolver.screen(document, screen)
            screens.append(_counted(scene, counted))
            yield
        self._screens, self._document = screens, document


def _undriven(variant: Variant, driven_axes: set[str]) -> Variant:
    for axis in driven_axes & set(variant):
        variant = variant.delete(axis)
    return variant


def _counted(scene: SceneNode, counted: dict[int, Counts]) -> Counts:
    """Instances beneath (and at) a scene node; equal subtrees are counted once."""
    cached = counted.get(id(scene))
    if cached is None:
        cached = Counter()
        for child, times in Counter(scene.children).items():
            for key, n in _counted(child, counted).items():
                cached[key] += n * times
        if scene.component and scene.variant is not None:
            cached[scene.component, scene.variant] += 1
        counted[id(scene)] = cached
    return cached
