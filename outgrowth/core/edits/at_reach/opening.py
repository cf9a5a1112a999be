"""Values opened to instances within a reach, and tied to a property that is there already.

What was said at the reach becomes the default of the property, as it was said: a token stays a
token, and a relative change one of what lies below. Other variants look as before.
"""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.color import Gradient
from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Owner,
    Path,
    PropertyKind,
)
from outgrowth.core.document.types import as_type
from outgrowth.core.document.values import Default, FromProperty, Literals, Shift, Token, Value
from outgrowth.core.document.variants import holds
from outgrowth.core.edits.all_values import stated_values
from outgrowth.core.edits.at_reach.deciding import decider, deciding_source, raw_value, stated_at
from outgrowth.core.edits.at_reach.reach import Reach
from outgrowth.core.edits.instances.properties import EMPTY, free_title, kind_of
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_property, component_of
from outgrowth.core.edits.tree.trees import own_path, owner_of
from outgrowth.core.memo import ByIdentity
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.cascade import literal
from outgrowth.core.resolve.ladder import Place, PlainLookup, inspect


class _Subject(NamedTuple):
    """What is opened: where its value is set, and as what kind of property."""

    path: Path
    name: str
    kind: PropertyKind


def open_at(
    document: Document, reach: Reach, path: Path, name: str, property_id: str, title: str
) -> Document:
    """The document with a value of a part opened within the reach: a new property of the
    component decides it there, and is at first what was said there.

    Raises Refusal where the value cannot be opened.
    """
    component = component_of(document, reach.owner)
    subject = _subject(document, reach, path, name)
    default = _default(document, reach, subject)
    slot = subject.kind == "slot" and isinstance(default, str) and default
    shortlist = (default,) if slot and isinstance(default, str) else ()
    title = free_title(component, title)
    prop = ComponentProperty(property_id, title, subject.kind, default, shortlist=shortlist)
    return _tied(add_property(document, component.id, prop), reach, subject, property_id)


def tie(document: Document, reach: Reach, path: Path, name: str, property_id: str) -> Document:
    """The document with a value of a part decided within the reach by a property of the
    component that is there. Raises Refusal where the two do not fit."""
    prop = component_of(document, reach.owner).property(property_id)
    subject = _subject(document, reach, path, name)
    if prop is None or prop.kind != subject.kind:
        raise Refusal("That property is of another kind, or no longer there.")
    return _tied(document, reach, subject, property_id)


def fitting_properties(
    document: Document, reach: Reach, path: Path, name: str
) -> tuple[ComponentProperty, ...]:
    """The properties of the component on the bench that a value of a part can be tied to, those
    apart that decide it at this reach."""
    component = document.components.get(reach.owner)
    if component is None:
        return ()
    try:
        subject = _subject(document, reach, path, name)
    except Refusal:
        return ()
    now = decided_by(document, reach, subject.path, subject.name)
    return tuple(
        prop for prop in component.properties if prop.kind == subject.kind and prop.id != now
    )


def is_shown(document: Document, place: Place, property_id: str) -> bool:
    """Whether what an instance at a place gives for a property of its component shows anywhere in
    the variant that it is in: a rule may say otherwise there."""
    inspection = inspect(document, place)
    component = inspection.scope.owner if inspection is not None else None
    if not isinstance(component, Component):
        return True
    reference = FromProperty(property_id)
    about = _references(component).get(property_id, ())
    for path, name in about:
        inner = () if path == (component.root.id,) else path
        there = inspect(document, place._replace(path=(*place.path, *inner)))
        if there is None:
            continue
        if raw_value(document, deciding_source(there, name), name) == reference:
            return True
    return not about


def _by_property(owner: Owner) -> dict[str, tuple[tuple[Path, str], ...]]:
    """Which values each property of a component is said to decide: of which part, which."""
    found: dict[str, dict[tuple[Path, str], None]] = {}
    for path, name, value in stated_values(owner):
        if isinstance(value, FromProperty):
            found.setdefault(value.property, {})[path, name] = None
    return {property_id: tuple(about) for property_id, about in found.items()}


# By component: the ledger asks for each of its properties, after every edit.
_references = ByIdentity(_by_property, 256)


def decided_by(document: Document, reach: Reach, path: Path, name: str) -> str:
    """The id of the property of the component on the bench that decides a value in the variant
    that is looked at; empty where none does."""
    inspection = inspect(document, reach.place(path))
    source = deciding_source(inspection, name) if inspection is not None else None
    if source is None or source.owner != reach.owner:
        return ""
    raw = raw_value(document, source, name)
    return raw.property if isinstance(raw, FromProperty) else ""


def _subject(document: Document, reach: Reach, path: Path, name: str) -> _Subject:
    found = decider(document, reach.place(path), name)
    if found.opened is not None:
        return _Subject(found.path, found.property, found.opened.kind)
    kind = kind_of(document, reach.place(path), name)
    if kind is None:
        raise Refusal("This value cannot be opened to instances.")
    return _Subject(path, name, kind)


def _tied(document: Document, reach: Reach, subject: _Subject, property_id: str) -> Document:
    given = {subject.name: FromProperty(property_id)}
    return set_properties(document, reach.place(subject.path), given, reach.when)


def plain_said(document: Document, reach: Reach, path: Path, name: str) -> Literals | None:
    """What is said of a value throughout the reach, settled; where that is relative to what lies
    below, what it comes to in the variant that is looked at."""
    inspection = inspect(document, reach.place(path))
    if inspection is None:
        return None
    value = _said(document, reach, path, name)
    if value is None or isinstance(value, FromProperty | Shift):
        return inspection.value(name)
    return literal(name, value, PlainLookup(document))


def _default(document: Document, reach: Reach, subject: _Subject) -> Default:
    value = _said(document, reach, subject.path, subject.name)
    kind = subject.kind
    relative = isinstance(value, Token | Shift)
    if relative and kind in ("color", "number") and not subject.name.startswith(CHOICE):
        plain = literal(subject.name, value, PlainLookup(document))  # type: ignore[arg-type]  # a reference
        if not isinstance(plain, Gradient):
            return value  # type: ignore[return-value]  # a token, or a relative change
    if isinstance(value, Token):
        value = literal(subject.name, value, PlainLookup(document))
    if isinstance(value, Gradient):
        raise Refusal("A gradient cannot be opened to instances; only a plain colour can.")
    if value is None or isinstance(value, FromProperty | Shift):
        inspection = inspect(document, reach.place(subject.path))
        value = inspection.value(subject.name) if inspection is not None else None
    plain_value = "" if value is None or isinstance(value, Token) else value
    return as_type(PROPERTY_TYPES[kind], plain_value, EMPTY[kind])


def _said(document: Document, reach: Reach, path: Path, name: str) -> Value | None:
    """What is said of a value throughout the reach, as it is written; None where that can only
    be told by what it comes to."""
    owner = owner_of(document, reach.owner)
    if isinstance(owner, Component):
        stated = stated_at(owner, own_path(owner, path), name, reach.when)
        if stated is not None:
            return None if isinstance(stated, FromProperty) else stated
    inspection = inspect(document, reach.place(path))
    if inspection is None:
        return None
    throughout = [
        rung
        for rung in inspection.ladder(name)
        if not isinstance(rung.value, Shift)
        and (rung.source.owner != owner.id or holds(rung.source.when, reach.when))
    ]
    source = throughout[-1].source
    raw = raw_value(document, source, name)
    if isinstance(raw, FromProperty) or raw is None:
        value = throughout[-1].value
        return value if not isinstance(value, FromProperty) else None  # type: ignore[return-value]  # a value
    return raw
