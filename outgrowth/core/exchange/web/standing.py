"""What stands in a page for an element that no script has defined yet: a box of the size that the
element will have, so that nothing around it moves once it is there."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator
from itertools import product
from typing import NamedTuple

from outgrowth.core.document.records import Component
from outgrowth.core.document.variants import default_variant, offered
from outgrowth.core.exchange.web.css import Around, Css, box_css, css_string
from outgrowth.core.exchange.web.names import AxisNames, OwnerNames, PropertyNames
from outgrowth.core.exchange.web.steps import NO, YES, AxisKey, AxisValues
from outgrowth.core.exchange.web.symbols import px
from outgrowth.core.resolve.scene import LayoutNode

_Size = tuple[float, float]
# So many combinations of attributes are looked at; of more, only the usual one.
_MOST = 64


class StandingBox(NamedTuple):
    """What stands where a selector finds what is not defined: its box as CSS has it."""

    selector: str
    css: Css


def standing(
    component: Component, names: OwnerNames, size: Callable[[AxisValues], _Size]
) -> list[StandingBox]:
    """What stands for a component's elements: for a usual one, and for those whose attributes
    give them another size. `size` tells the width and height of one that is alone (px)."""
    known: list[tuple[frozenset[str], _Size]] = []
    for attributes, cell in sorted(_cells(component, names), key=lambda pair: len(pair[0])):
        # Of the rules that match, the one with the most attributes wins.
        found = [size for some, size in known if some <= attributes]
        own = size(cell)
        if not found or not all(math.isclose(*pair) for pair in zip(own, found[-1], strict=True)):
            known.append((attributes, own))
    results = []
    for some, (width, height) in known:
        selector = names.element + "".join(sorted(some))
        results.append(StandingBox(selector, {"width": px(width), "height": px(height)}))
    return results


def standing_in(
    selector: str, node: LayoutNode, holder: Around, width: float, height: float
) -> StandingBox:
    """What stands for an element in a holder, where it measured a width and a height (px): what
    goes with what is in it is known from there."""
    css, style = box_css(node, holder), node.style
    measured = (("width", style.width, width), ("height", style.height, height))
    css |= {side: px(size) for side, said, size in measured if said.mode == "fit"}
    return StandingBox(selector, css)


def standing_css(elements: Iterable[str], all_standing: Iterable[StandingBox]) -> str:
    """The rules for what is not defined; what a server has written out stands there by itself."""
    undefined = ":not(:defined):not([data-states])"
    # A list counts as much as the most of it: what is of one weight stands in one.
    by_box: dict[tuple[str | int, ...], list[str]] = {}
    for one in all_standing:
        box = tuple(f"{name}: {value}" for name, value in one.css.items())
        by_box.setdefault((one.selector.count("["), *box), []).append(one.selector)
    usual = ("box-sizing: border-box", "display: block", "max-width: 100%")
    rules = [(usual, list(elements)), *((box[1:], found) for box, found in by_box.items())]
    return "\n".join(
        "\n".join([f"{_any_of(found)}{undefined} {{", *(f"  {line};" for line in box), "}"])
        for box, found in rules
        if box and found
    )


def _any_of(selectors: list[str]) -> str:
    return selectors[0] if len(selectors) == 1 else f":is({', '.join(selectors)})"


class _Choice(NamedTuple):
    """A value that may be chosen, and the attribute selector that finds where it is; empty where
    it is usual."""

    key: AxisKey
    value: str
    attribute: str


def _cells(component: Component, names: OwnerNames) -> Iterator[tuple[frozenset[str], AxisValues]]:
    """Combinations of what is chosen of a component, each with the attributes that say it; the
    first is the usual one."""
    choices = [_of_axis(axis) for axis in names.axes.values() if axis.axis.driver == "none"]
    choices += [_of_switch(p) for p in names.properties.values() if p.property.kind == "switch"]
    if math.prod(len(values) for values in choices) > _MOST:
        choices = []
    start = default_variant(component)
    for combination in product(*choices):
        cell = {choice.key: choice.value for choice in combination}
        chosen = {key.id: value for key, value in cell.items() if key.id in names.axes}
        if offered(component, start.update(chosen)):
            yield frozenset(one.attribute for one in combination if one.attribute), cell


def _of_axis(names: AxisNames) -> list[_Choice]:
    key, usual = AxisKey((), names.axis.id), names.axis.default
    choices = [_Choice(key, usual, "")]
    for value, called in names.values.items():
        if value != usual:
            said = "" if names.boolean else f"={css_string(called)}"
            choices.append(_Choice(key, value, f"[{names.attribute}{said}]"))
    return choices


def _of_switch(names: PropertyNames) -> list[_Choice]:
    """The attribute of a switch is there for what is not usual."""
    key = AxisKey((), names.property.id)
    usual, other = (YES, NO) if names.property.default is True else (NO, YES)
    return [_Choice(key, usual, ""), _Choice(key, other, f"[{names.attribute}]")]
