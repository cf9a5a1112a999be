"""A component in words: what stands on its page of the documentation, and what two of them differ
in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import NamedTuple

from outgrowth.core.document.properties import FAMILY_MEMBERS, family_label, row_of
from outgrowth.core.document.records import Axis, Component, Document, PropertyKind, walk
from outgrowth.core.document.rooms import room_text
from outgrowth.core.document.sentences import cue_sentence
from outgrowth.core.document.uses import uses
from outgrowth.core.document.values import Token
from outgrowth.core.document.variants import offered_count
from outgrowth.core.edits.tokens import tokens_named
from outgrowth.core.resolve.ladder import Inspection, Place, inspect
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.views.length_format import in_short
from outgrowth.workspace.views.status_text import count_text
from outgrowth.workspace.views.value_format import value_text

_DRIVERS = {
    "none": "chosen",
    "pointer": "by the pointer",
    "focus": "by the focus",
}
KIND_WORDS: dict[PropertyKind, str] = {
    "text": "words",
    "switch": "yes or no",
    "slot": "a component",
    "color": "a colour",
    "number": "a number",
}
"""What each kind of property is called."""
# Of the outermost part: what one looks at first when two parts should be alike.
_LOOKS = ("fill", "stroke", "stroke-width", "radius", "padding", "gap", "shadow")


class Section(NamedTuple):
    """A part of a description: its heading and its lines."""

    title: str
    lines: tuple[str, ...]


def described(document: Document, component: Component) -> list[Section]:
    """All that is known of a component, sections without a line left out."""
    places = Counter(use.owner for use in uses(document, component.id))
    used = [
        f"{owner.name}: {count_text(count, 'place')}"
        for owner_id, count in places.items()
        if (owner := document.owner(owner_id)) is not None
    ]
    sections = (
        Section("Do", component.dos),
        Section("Don’t", component.donts),
        Section("It varies by", tuple(axis_text(axis) for axis in component.axes)),
        Section("An instance may set", tuple(_property_lines(document, component))),
        Section(
            "What it does",
            tuple(cue_sentence(document, component, c) for c in component.behaviour.cues),
        ),
        Section("Tokens", tuple(sorted(tokens_named(component)))),
        Section("Where it is used", tuple(used)),
    )
    return [section for section in sections if section.lines]


def axis_text(axis: Axis) -> str:
    """An axis with its values, the one that counts at first marked."""
    if axis.driver == "room":
        return room_text(axis).removesuffix(".")
    values = [f"{v.name} (at first)" if v.id == axis.default else v.name for v in axis.values]
    return f"{axis.name}, {_DRIVERS[axis.driver]}: {', '.join(values)}"


def _property_lines(document: Document, component: Component) -> list[str]:
    lines = []
    for prop in component.properties:
        inner = document.components.get(str(prop.default)) if prop.kind == "slot" else None
        first = inner.short_name if inner is not None else value_text(document, prop.default)
        about = f". {prop.description}" if prop.description else ""
        at_first = f", at first {first}" if first else ""
        lines.append(f"{prop.name}: {KIND_WORDS[prop.kind]}{at_first}{about}")
    return lines


class ComparedFact(NamedTuple):
    """One thing of several components side by side, and whether they differ in it."""

    label: str
    texts: tuple[str, ...]
    differs: bool


def compared_facts(
    document: Document, engine: Engine, components: Sequence[Component]
) -> list[ComparedFact]:
    """What components are beside each other; what none of them has is left out."""
    columns = [_facts(document, engine, component) for component in components]
    labels = dict.fromkeys(label for facts in columns for label in facts)
    rows = []
    for label in labels:
        texts = tuple(facts.get(label, "–") for facts in columns)
        rows.append(ComparedFact(label, texts, len(set(texts)) > 1))
    return rows


def _facts(document: Document, engine: Engine, component: Component) -> dict[str, str]:
    placed = engine.view(document, component.id).placed
    facts = {"Size": f"{placed.width:.4g} × {placed.height:.4g}"}
    inspection = inspect(document, Place(component.id))
    for name in _LOOKS:
        text = _look_text(document, inspection, name) if inspection is not None else ""
        if text:
            label = family_label(name) if name in FAMILY_MEMBERS else row_of(name).label
            facts[label.capitalize()] = text
    facts |= _type_facts(document, component)
    facts |= {
        f"Axis {axis.name}": ", ".join(v.name for v in axis.values) for axis in component.axes
    }
    facts |= {f"Sets {p.name}": KIND_WORDS[p.kind] for p in component.properties}
    facts["Variants"] = f"{offered_count(component):,}"
    facts["Cues"] = str(len(component.behaviour.cues))
    facts["Used"] = count_text(len(uses(document, component.id)), "place")
    facts["Tokens"] = ", ".join(sorted(tokens_named(component))) or "none"
    return facts


def _type_facts(document: Document, component: Component) -> dict[str, str]:
    """The type of the first text that is the component's own."""
    text = next((node for node in walk(component.root) if node.kind == "text"), None)
    said = inspect(document, Place(component.id, (text.id,))) if text is not None else None
    if said is None:
        return {}
    names = ("font-family", "font-size", "font-weight")
    words = [value_text(document, said.value(name)) for name in names]
    return {"Type": " ".join(words), "Colour of words": _look_text(document, said, "color")}


def _look_text(document: Document, inspection: Inspection, name: str) -> str:
    """A value of the outermost part, by its token's name where it has one."""
    names = FAMILY_MEMBERS.get(name, (name,))
    texts = []
    for each in names:
        stated = next((rung.value for rung in inspection.ladder(each) if rung.wins), None)
        if isinstance(stated, Token):
            texts.append(f"{value_text(document, inspection.value(each))} ({stated.path})")
        else:
            texts.append(value_text(document, inspection.value(each)))
    text = " ".join(in_short(texts)) if len(texts) == 4 else " ".join(texts)
    return "" if text in ("0", "none", "") else text
