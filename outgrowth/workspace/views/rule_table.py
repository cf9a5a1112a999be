"""The rules of a component as a table of differences: a row a part's property (four sides as one),
a column a reach, and in each cell what holds there besides what the component says at first."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from immutables import Map

from outgrowth.core.color import Color
from outgrowth.core.document.properties import (
    CHOICE,
    FAMILY_MEMBERS,
    FAMILY_OF,
    TABLE,
    family_label,
    row_of,
)
from outgrowth.core.document.records import Component, Document, Rule, walk
from outgrowth.core.document.referring import meaning
from outgrowth.core.document.values import Token, Value
from outgrowth.core.document.variants import (
    condition_text,
    default_variant,
    in_cascade_order,
    value_names,
)
from outgrowth.core.edits.variants.rules import never_winning, what_is_gone
from outgrowth.core.resolve.ladder import Inspection, Place, Rung, inspect
from outgrowth.workspace.views.length_format import in_short
from outgrowth.workspace.views.value_format import value_text

Reach = Map[str, str]
AT_FIRST: Reach = Map()
"""The reach of what the component says by itself."""
_NEVER_WINS = "No variant that is offered shows it: others say otherwise wherever it holds."
_GONE = "a part that is hidden or gone"


class RuleCell(NamedTuple):
    """What is said of a row at a reach.

    rules  those that say it; none in the first column
    text   the value in words
    color  the colour that it is, where it is one
    idle   why it does nothing, "" where it does
    """

    rules: tuple[Rule, ...]
    text: str
    color: Color | None = None
    idle: str = ""


class RuleRow(NamedTuple):
    """A property of a part, or four that belong together.

    node   the path of the part
    names  the properties
    cells  by the reach that they hold at, the first column's by `AT_FIRST`
    """

    node: tuple[str, ...]
    label: str
    names: tuple[str, ...]
    cells: dict[Reach, RuleCell]


class RulePart(NamedTuple):
    """A part and its rows."""

    node: tuple[str, ...]
    name: str
    rows: tuple[RuleRow, ...]


class RuleColumn(NamedTuple):
    """A reach: its values in words, a line an axis, and all its conditions in one."""

    reach: Reach
    lines: tuple[str, ...]
    text: str


class RuleTable(NamedTuple):
    """All of it. The columns stand from the weakest to the strongest, the first column apart."""

    columns: tuple[RuleColumn, ...]
    parts: tuple[RulePart, ...]


def rule_table(document: Document, component: Component) -> RuleTable:
    """The rules of a component by part and reach."""
    rules = in_cascade_order(component)
    idle = never_winning(document, component)
    reaches = dict.fromkeys(rule.when for rule in rules)
    columns = tuple(
        RuleColumn(when, value_names(component, when), condition_text(component, when))
        for when in reaches
    )
    by_part: dict[tuple[str, ...], list[Rule]] = {}
    for rule in rules:
        by_part.setdefault(rule.node, []).append(rule)
    order = {node.id: n for n, node in enumerate(walk(component.root))}
    parts = []
    for node in sorted(by_part, key=lambda path: (order.get(path[0], 1 << 30), len(path))):
        path = () if node == (component.root.id,) else node
        inspection = inspect(document, Place(component.id, path, default_variant(component)))
        rows = _rows(document, component, node, by_part[node], idle, inspection)
        parts.append(RulePart(node, _name(inspection), tuple(rows)))
    return RuleTable(columns, tuple(parts))


def _name(inspection: Inspection | None) -> str:
    return (inspection.instance or inspection.node).name if inspection is not None else _GONE


def _rows(
    document: Document,
    component: Component,
    node: tuple[str, ...],
    rules: Sequence[Rule],
    idle: Sequence[Rule],
    inspection: Inspection | None,
) -> list[RuleRow]:
    table_order = {name: n for n, name in enumerate(TABLE)}
    named: dict[str, list[Rule]] = {}
    for rule in rules:
        named.setdefault(_family(rule.property), []).append(rule)

    def place(key: str) -> int:
        return table_order.get(FAMILY_MEMBERS.get(key, (key,))[0], len(table_order))

    rows = []
    for key in sorted(named, key=place):
        of_row = named[key]
        whole = key in FAMILY_MEMBERS
        names = FAMILY_MEMBERS[key] if whole else (key,)
        label = family_label(key) if whole else _label(document, key, inspection)
        cells = {AT_FIRST: _first_cell(document, component, node, names, inspection)}
        for when in dict.fromkeys(rule.when for rule in of_row):
            here = {rule.property: rule for rule in of_row if rule.when == when}
            cells[when] = _cell(document, component, names, here, idle)
        rows.append(RuleRow(node, label, names, cells))
    return rows


def _family(name: str) -> str:
    family = FAMILY_OF.get(name, "")
    return family if len(FAMILY_MEMBERS.get(family, ())) == 4 else name


def _label(document: Document, name: str, inspection: Inspection | None) -> str:
    """A choice of an instance goes by the name of its axis or property."""
    if not name.startswith(CHOICE) or inspection is None or inspection.instance is None:
        return row_of(name).label
    followed = document.components.get(str(inspection.instance.style.get("component")))
    key = name.removeprefix(CHOICE)
    known = (followed.axis(key) or followed.property(key)) if followed is not None else None
    return known.name if known is not None else row_of(name).label


def _cell(
    document: Document,
    component: Component,
    names: tuple[str, ...],
    here: dict[str, Rule],
    idle: Sequence[Rule],
) -> RuleCell:
    rules = tuple(here[name] for name in names if name in here)
    texts = [value_text(document, rule.value) for rule in rules]
    if len(names) == len(rules) == 4:
        text = " ".join(in_short(texts))
    elif len(names) == 4:
        sides = [_side(rule.property) for rule in rules]
        text = ", ".join(f"{side} {said}" for side, said in zip(sides, texts, strict=True))
    else:
        text = _choice_text(document, component, rules[0], texts[0])
    gone = next((g for rule in rules if (g := what_is_gone(document, component, rule))), "")
    why = gone or (_NEVER_WINS if all(rule in idle for rule in rules) else "")
    color = _color(document, rules[0].value) if len(rules) == 1 else None
    return RuleCell(rules, text, color, why)


def _side(name: str) -> str:
    return name.partition("-")[2].replace("-", " ")


def _choice_text(document: Document, component: Component, rule: Rule, text: str) -> str:
    """The name of the value that is chosen of an instance's axis."""
    if not rule.property.startswith(CHOICE):
        return text
    found = inspect(document, Place(component.id, rule.node))
    instance = found.instance if found is not None else None
    inner = document.components.get(str(instance.style.get("component"))) if instance else None
    axis = inner.axis(rule.property.removeprefix(CHOICE)) if inner is not None else None
    value = axis.value(str(rule.value)) if axis is not None else None
    return value.name if value is not None else text


def _color(document: Document, value: Value) -> Color | None:
    said = meaning(value.path, document.token) if isinstance(value, Token) else value
    return said if isinstance(said, Color) and said.alpha else None


def _first_cell(
    document: Document,
    component: Component,
    node: tuple[str, ...],
    names: tuple[str, ...],
    inspection: Inspection | None,
) -> RuleCell:
    """What the component says at first, in the words of the ladder's step of it."""
    if inspection is None:
        return RuleCell((), "")
    values = []
    for name in names:
        steps = [r.value for r in inspection.ladder(name) if not _is_rule_of(component, r)]
        values.append(steps[-1] if steps else inspection.value(name))
    texts = [value_text(document, value) for value in values]
    text = " ".join(in_short(texts)) if len(names) == 4 else texts[0]
    first = values[0]
    shown = isinstance(first, Token | Color) and len(names) == 1
    return RuleCell((), text, _color(document, first) if shown else None)  # type: ignore[arg-type]  # a value


def _is_rule_of(component: Component, rung: Rung) -> bool:
    return rung.source.kind == "rule" and rung.source.owner == component.id
