"""Variants: which combinations of axis values a component has and offers."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from itertools import product

from immutables import Map

from outgrowth.core.document.records import Axis, Component, Rule
from outgrowth.core.memo import ByIdentity

Variant = Map[str, str]


def default_variant(component: Component) -> Variant:
    """The axis values of an instance that chose nothing."""
    return Map({axis.id: axis.default for axis in component.axes})


def variants(component: Component) -> Iterator[Variant]:
    """All combinations of axis values, the last axis running fastest; not offered ones too."""
    return combinations(component.axes)


def holds(when: Mapping[str, str], variant: Mapping[str, str]) -> bool:
    """Whether all the conditions agree with the variant."""
    return all(variant.get(axis) == value for axis, value in when.items())


def offered(component: Component, variant: Variant) -> bool:
    """Whether an instance may choose the variant."""
    single, broad = _refused(component)
    return variant not in single and not any(holds(pattern, variant) for pattern in broad)


def offered_count(component: Component) -> int:
    """How many variants an instance may choose from."""
    return _counted(component)


def _count_offered(component: Component) -> int:
    return sum(offered(component, variant) for variant in variants(component))


# By component: asked with every move of the pointer, of up to 5,000 variants.
_counted = ByIdentity(_count_offered, 256)


def _split_refused(component: Component) -> tuple[frozenset[Variant], tuple[Variant, ...]]:
    """Patterns that name one variant, found by a look, and those to be tried one by one."""
    axes = len(component.axes)
    single = frozenset(p for p in component.not_offered if len(p) == axes)
    return single, tuple(p for p in component.not_offered if len(p) < axes)


# By component: split once for the thousands of variants that ask.
_refused = ByIdentity(_split_refused, 256)


def in_cascade_order(component: Component) -> tuple[Rule, ...]:
    """The component's rules, those that win later: more conditions after fewer; equal
    counts by the order of the axes they name, then by the order of the rules."""
    return _ordered(component)


def _order(component: Component) -> tuple[Rule, ...]:
    place = {axis.id: n for n, axis in enumerate(component.axes)}
    last = len(place)

    def key(numbered: tuple[int, Rule]) -> tuple[int, tuple[int, ...], int]:
        number, rule = numbered
        return len(rule.when), tuple(sorted(place.get(a, last) for a in rule.when)), number

    return tuple(rule for _, rule in sorted(enumerate(component.rules), key=key))


# By component: the cascade order of its rules.
_ordered = ByIdentity(_order, 256)


def laid(component: Component) -> tuple[list[Axis], list[Axis], list[Axis]]:
    """The axes along the rows and the columns of the component's grid, and those of which it
    shows one value at a time. Unless it says otherwise, a driven axis, else the last, lies
    along the columns."""
    axes = component.axes
    chips = [a for a in axes if a.id in component.chips]
    if component.columns is None:
        columns = ([a for a in axes if a.driver != "none"] or list(axes))[-1:]
    else:
        columns = [a for a in axes if a.id in component.columns and a not in chips]
    return [a for a in axes if a not in columns and a not in chips], columns, chips


_YES = {"yes", "on", "true"}
_NO = {"no", "off", "false"}


def is_switch(axis: Axis) -> bool:
    """Whether a two-valued axis reads as yes/no, so that it is shown as a switch."""
    names = {value.name.lower() for value in axis.values}
    return len(axis.values) == 2 and bool(names & _YES) and bool(names & _NO)


def value_names(component: Component, values: Mapping[str, str]) -> tuple[str, ...]:
    """The values of some axes by their names, in the order of the axes; those of yes and no with
    their axis: ("Primary", "Disabled: yes")."""
    pairs = ((axis, axis.value(values.get(axis.id, ""))) for axis in component.axes)
    return tuple(
        f"{axis.name}: {value.name}" if is_switch(axis) else value.name
        for axis, value in pairs
        if value is not None
    )


def combinations(axes: Iterable[Axis]) -> Iterator[Variant]:
    """Every combination of the values of some axes, the last one changing fastest."""
    for values in product(*([(axis.id, value.id) for value in axis.values] for axis in axes)):
        yield Map(values)


def condition_text(component: Component, when: Mapping[str, str]) -> str:
    """The conditions in words: "Kind: Primary, State: hover"; "all variants" for none."""
    parts = []
    for axis in component.axes:
        value = axis.value(when.get(axis.id, ""))
        if value is not None:
            parts.append(f"{axis.name}: {value.name}")
    return ", ".join(parts) or "all variants"
