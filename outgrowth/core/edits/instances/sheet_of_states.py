"""A screen that shows a component in every value it can have, hover and press held as well: for
documentation, and to be looked at as a whole."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby

from immutables import Map

from outgrowth.core.color import Color
from outgrowth.core.document.formulas import is_share
from outgrowth.core.document.properties import CHOICE, FAMILY_MEMBERS
from outgrowth.core.document.records import Component, Document, Node, Screen
from outgrowth.core.document.values import FIT, Size, Value, fixed, words
from outgrowth.core.document.variants import Variant, combinations, laid, offered, value_names
from outgrowth.core.edits.tree.components import add_screen, component_of
from outgrowth.core.edits.tree.owners import PAPER, free_name
from outgrowth.core.refusal import Refusal

MOST_HELD = 200
"""How many variants one sheet shows."""
_INK = Color(0x5A / 255, 0x5F / 255, 0x5C / 255)


def add_sheet_of_states(document: Document, component_id: str, screen_id: str) -> Document:
    """The document with a screen on which a component stands in every variant that is offered, a
    row a combination of its row's values, each with its values written below. What the pointer
    and the focus set is held as the instance's own choice.

    Raises Refusal for more variants than are looked at.
    """
    component = component_of(document, component_id)
    shown = [v for v in _in_rows(component) if offered(component, v[1])]
    if len(shown) > MOST_HELD:
        raise Refusal(
            f"“{component.short_name}” has {len(shown):,} variants; {MOST_HELD} are the most that "
            "one sheet shows. The overview shows all of them."
        )
    rows = [
        _row(component, n, [variant for _, variant in those])
        for n, (_, those) in enumerate(groupby(shown, key=lambda pair: pair[0]))
    ]
    style: dict[str, Value] = {"flow": "column", "gap": 28.0, "align": "start", "fill": PAPER}
    style |= {"width": FIT, "height": FIT}
    style |= dict.fromkeys(FAMILY_MEMBERS["padding"], 32.0)
    root = Node(f"{screen_id}-sheet", "sheet", "box", Map(style), tuple(rows))
    name = free_name(document, f"{component.short_name} states")
    return add_screen(document, Screen(screen_id, name, root))


def _in_rows(component: Component) -> Iterator[tuple[int, Variant]]:
    """Every variant with the number of its row, as the component's grid lays them."""
    down, across, chips = laid(component)
    for n, row in enumerate(combinations([*chips, *down])):
        for column in combinations(across):
            yield n, row.update(column)


def _row(component: Component, number: int, variants: Sequence[Variant]) -> Node:
    cells = tuple(_cell(component, f"{number}-{n}", variant) for n, variant in enumerate(variants))
    style: dict[str, Value] = {"flow": "row", "gap": 28.0, "align": "end"}
    return Node(f"row-{number}", f"row {number + 1}", "box", Map(style), cells)


def _cell(component: Component, key: str, variant: Variant) -> Node:
    held: dict[str, Value] = {"component": component.id}
    held |= {CHOICE + axis: value for axis, value in variant.items()}
    size = {n: component.root.style[n] for n in ("width", "height") if n in component.root.style}
    held |= {name: value for name, value in size.items() if not _is_fixed(value)}
    said = ", ".join(value_names(component, variant)) or component.short_name
    text: dict[str, Value] = {"content": words(said), "font-size": 12.0, "color": _INK}
    children = (
        Node(f"held-{key}", said, "instance", Map(held)),
        Node(f"said-{key}", "values", "text", Map(text)),
    )
    style: dict[str, Value] = {"flow": "column", "gap": 8.0, "align": "start"}
    if _fills(component):
        style["width"] = fixed(320.0)
        style["align"] = "stretch"
    return Node(f"cell-{key}", said, "box", Map(style), children)


def _is_fixed(value: Value) -> bool:
    return getattr(value, "mode", "") == "fixed"


def _fills(component: Component) -> bool:
    """Whether it takes the room that it gets, and so has to get some."""
    width = component.root.style.get("width")
    return isinstance(width, Size) and (width.mode == "grow" or is_share(width))
