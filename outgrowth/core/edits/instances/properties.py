"""What instances may set: opening a value of a part as a property of the component, and the
list of such properties: names, order, descriptions, defaults, shortlists."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE, INK, fitting, row_of
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Path,
    PropertyKind,
    Rule,
    walk,
)
from outgrowth.core.document.types import (
    ColorType,
    ContentType,
    FillType,
    FlagType,
    LimitType,
    NumberType,
    ValueType,
)
from outgrowth.core.document.uses import Use
from outgrowth.core.document.values import Default, FromProperty, Literals, Shift, Token, Value
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.trees import rebuilt_tree, refuse_cycle, with_owner, with_root
from outgrowth.core.refusal import Refusal, ValueRefusal
from outgrowth.core.resolve.ladder import Place, inspect

_KINDS: tuple[tuple[type[ValueType], PropertyKind], ...] = (
    (ContentType, "text"),
    (FlagType, "switch"),
    (ColorType, "color"),
    (FillType, "color"),
    (NumberType, "number"),
    (LimitType, "number"),
)


EMPTY: dict[PropertyKind, Literals] = {
    "text": (),
    "switch": False,
    "slot": "",
    "color": INK,
    "number": 0.0,
}
"""The default of a property that is opened where nothing is said that it could take."""


def kind_of(document: Document, place: Place, name: str) -> PropertyKind | None:
    """As what kind of property a value can be opened; None if it cannot be."""
    if name == "component":
        return "slot"
    if name.startswith(CHOICE):
        return _inner_kind(document, place, name.removeprefix(CHOICE))
    kinds = [kind for of, kind in _KINDS if isinstance(row_of(name).type, of)]
    if isinstance(row_of(name).type, LimitType):
        inspection = inspect(document, place)
        # A share is no number: opened as one, it would be lost.
        if inspection is None or not isinstance(inspection.value(name), float):
            return None
    return kinds[0] if kinds else None


def _inner_kind(document: Document, place: Place, key: str) -> PropertyKind | None:
    """The kind of an inner instance's own property, which can be opened outward."""
    inspection = inspect(document, place)
    inner = document.components.get(inspection.scope.owner.id) if inspection is not None else None
    prop = inner.property(key) if inner is not None else None
    return prop.kind if prop is not None else None


def free_title(component: Component, title: str) -> str:
    """The title, or another with a number behind, that no property of the component has."""
    used = {prop.name for prop in component.properties}
    return next(n for n in (title, *(f"{title} {i}" for i in range(2, 999))) if n not in used)


# --- the list of a component's properties ---------------------------------------------------


def rename_property(document: Document, component_id: str, property_id: str, name: str) -> Document:
    """The document with a property called `name`; instances are not touched, since they
    refer to its id. Raises Refusal for an empty or taken name."""
    component, prop = _property(document, component_id, property_id)
    new_name = name.strip()
    if not new_name:
        raise Refusal("Every property needs a name.")
    if any(p.name == new_name and p is not prop for p in component.properties):
        raise Refusal(f"“{component.name}” already has a property called “{new_name}”.")
    return _with(document, component, msgspec.structs.replace(prop, name=new_name))


def describe_property(
    document: Document, component_id: str, property_id: str, description: str
) -> Document:
    """The document with a sentence that says what a property is for."""
    component, prop = _property(document, component_id, property_id)
    described = msgspec.structs.replace(prop, description=description.strip())
    return _with(document, component, described)


def set_default(
    document: Document, component_id: str, property_id: str, value: Default
) -> Document:
    """The document with another default of a property. Raises Refusal where the value does
    not fit, or a slot's default would let the component contain itself."""
    component, prop = _property(document, component_id, property_id)
    try:
        changed = msgspec.structs.replace(prop, default=value)
    except ValueRefusal as problem:
        raise Refusal(f"{prop.name}: {problem}") from problem
    if prop.kind == "slot":
        refuse_cycle(document, component.id, changed.default)
    return _with(document, component, changed)


def set_shortlist(
    document: Document, component_id: str, property_id: str, shortlist: tuple[str, ...]
) -> Document:
    """The document with other components offered first for a slot."""
    component, prop = _property(document, component_id, property_id)
    if prop.kind != "slot":
        raise Refusal(f"“{prop.name}” is no slot, so it has no shortlist.")
    for listed in shortlist:
        refuse_cycle(document, component.id, listed)
    return _with(document, component, msgspec.structs.replace(prop, shortlist=shortlist))


def move_property(document: Document, component_id: str, property_id: str, index: int) -> Document:
    """The document with a property at another place in the order."""
    component, prop = _property(document, component_id, property_id)
    others = [p for p in component.properties if p is not prop]
    others.insert(index, prop)
    return with_owner(document, msgspec.structs.replace(component, properties=tuple(others)))


def setters(document: Document, component_id: str, property_id: str) -> tuple[Use, ...]:
    """The instances that set a property."""
    return tuple(
        Use(owner.id, node.id)
        for owner in document.owners()
        for node in walk(owner.root)
        if node.style.get("component") == component_id and CHOICE + property_id in node.style
    )


def remove_property(document: Document, component_id: str, property_id: str) -> Document:
    """The document without a property: its default stands where it was referred to, and
    what instances said about it goes."""
    component, prop = _property(document, component_id, property_id)
    plain = _plain(component, prop)
    left = tuple(p for p in plain.properties if p.id != property_id)
    document = with_owner(document, msgspec.structs.replace(plain, properties=left))
    name = CHOICE + property_id
    for owner in list(document.owners()):
        changed = _without_choice(owner, component_id, name)
        if changed is not owner:
            document = with_owner(document, changed)
    return document


def _plain(component: Component, prop: ComponentProperty) -> Component:
    """The component with a property's default in the place of references to it."""

    def settled(name: str, value: Value) -> Value:
        return default_as(name, prop.default) if value == FromProperty(prop.id) else value

    def ruled(rule: Rule) -> Rule:
        return msgspec.structs.replace(rule, value=settled(rule.property, rule.value))

    def change(node: Node) -> Node:
        style = Map({k: settled(k, v) for k, v in node.style.items()})
        overrides = tuple(ruled(rule) for rule in node.overrides)
        if style == node.style and overrides == node.overrides:
            return node
        return msgspec.structs.replace(node, style=style, overrides=overrides)

    rules = tuple(ruled(rule) for rule in component.rules)
    root = rebuilt_tree(component.root, change)
    return msgspec.structs.replace(component, root=root, rules=rules)


def default_as(name: str, default: Default) -> Value:
    """A property's default as the value of a node's property."""
    return default if isinstance(default, Token | Shift) else fitting(name, default)


def _without_choice(owner: Owner, component_id: str, name: str) -> Owner:
    """The owner without what its instances of a component, and its rules about them, choose."""
    followers = {n.id for n in walk(owner.root) if n.style.get("component") == component_id}
    if not followers:
        return owner

    def change(node: Node) -> Node:
        if node.id not in followers or name not in node.style:
            return node
        return msgspec.structs.replace(node, style=node.style.delete(name))

    owner = with_root(owner, rebuilt_tree(owner.root, change))
    if isinstance(owner, Component):
        removed = [r for r in owner.rules if r.property == name and r.node[-1] in followers]
        owner = msgspec.structs.replace(
            owner, rules=tuple(r for r in owner.rules if r not in removed)
        )
    return owner


def _property(
    document: Document, component_id: str, property_id: str
) -> tuple[Component, ComponentProperty]:
    component = component_of(document, component_id)
    prop = component.property(property_id)
    if prop is None:
        raise Refusal("That property is no longer there.")
    return component, prop


def _with(document: Document, component: Component, prop: ComponentProperty) -> Document:
    changed = tuple(prop if p.id == prop.id else p for p in component.properties)
    return with_owner(document, msgspec.structs.replace(component, properties=changed))


def parts_set_by(component: Component, property_id: str) -> tuple[Path, ...]:
    """The parts of a component that a property of it changes, by their paths: () for the whole."""
    root = component.root
    found: dict[Path, None] = {}
    for node in walk(root):
        path = () if node is root else (node.id,)
        if FromProperty(property_id) in node.style.values():
            found[path] = None
        for rule in node.overrides:
            if rule.value == FromProperty(property_id):
                found[(*path, *rule.node)] = None
    for rule in component.rules:
        if rule.value == FromProperty(property_id):
            found[() if rule.node == (root.id,) else rule.node] = None
    return tuple(found)
