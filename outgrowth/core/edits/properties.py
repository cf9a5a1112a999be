"""What instances may set: opening a value of a part as a property of the component."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES, row_of
from outgrowth.core.document.records import ComponentProperty, Document, PropertyKind
from outgrowth.core.document.types import (
    ColorType,
    ContentType,
    FlagType,
    NumberType,
    ValueType,
    as_type,
)
from outgrowth.core.document.values import FromProperty, Literals
from outgrowth.core.edits.components import add_property, component_of
from outgrowth.core.edits.errors import EditError
from outgrowth.core.edits.styles import set_properties
from outgrowth.core.resolve.ladder import Place, inspect

_KINDS: tuple[tuple[type[ValueType], PropertyKind], ...] = (
    (ContentType, "text"),
    (FlagType, "switch"),
    (ColorType, "color"),
    (NumberType, "number"),
)


def kind_of(document: Document, place: Place, name: str) -> PropertyKind | None:
    """As what kind of property a value can be opened; None if it cannot be."""
    if name == "component":
        return "slot"
    if name.startswith(CHOICE):
        return _inner_kind(document, place, name.removeprefix(CHOICE))
    kinds = [kind for of, kind in _KINDS if isinstance(row_of(name).type, of)]
    return kinds[0] if kinds else None


def _inner_kind(document: Document, place: Place, key: str) -> PropertyKind | None:
    """The kind of an inner instance's own property, which can be opened outward."""
    found = inspect(document, place)
    inner = document.components.get(found.scope.owner.id) if found is not None else None
    prop = inner.property(key) if inner is not None else None
    return prop.kind if prop is not None else None


def open_property(
    document: Document, place: Place, name: str, property_id: str, title: str
) -> Document:
    """The document with a value of a part opened: a new property of the component, whose
    default is the value as it is, decides it from now on, in every variant.

    `place` is in a component. Raises EditError where the value cannot be opened.
    """
    component = component_of(document, place.owner)
    kind = kind_of(document, place, name)
    found = inspect(document, place)
    if kind is None or found is None:
        raise EditError("This value cannot be opened to instances.")
    value: Literals = found.value(name)
    default = as_type(PROPERTY_TYPES[kind], value, "")
    taken = {prop.name for prop in component.properties}
    free = next(n for n in (title, *(f"{title} {i}" for i in range(2, 999))) if n not in taken)
    shortlist = (value,) if kind == "slot" and isinstance(value, str) and value else ()
    prop = ComponentProperty(property_id, free, kind, default, shortlist=shortlist)
    document = add_property(document, component.id, prop)
    return set_properties(document, place, {name: FromProperty(property_id)}, Map())
