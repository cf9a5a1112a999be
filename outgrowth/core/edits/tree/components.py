"""Adding and renaming components and screens, their axes and what instances may set."""

from __future__ import annotations

from collections.abc import Iterable

import msgspec

from outgrowth.core.document.everyday_words import part_of_new_value
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Rule,
    Screen,
)
from outgrowth.core.document.rooms import refuse_circle
from outgrowth.core.document.variants import laid
from outgrowth.core.edits.tree.trees import owner_of, refuse_unsound, with_owner
from outgrowth.core.refusal import Refusal


def add_component(document: Document, component: Component) -> Document:
    """The document with one more component, last in the Library.

    Raises Refusal for one that could not be shown, and where its room would depend on what the
    room decides.
    """
    _refuse_taken(document, component.id)
    refuse_circle(component)
    after = msgspec.structs.replace(
        document,
        components=document.components.set(component.id, component),
        component_order=(*document.component_order, component.id),
    )
    refuse_unsound(after, component)
    return after


def add_screen(document: Document, screen: Screen) -> Document:
    """The document with one more screen, after the others."""
    _refuse_taken(document, screen.id)
    after = msgspec.structs.replace(
        document,
        screens=document.screens.set(screen.id, screen),
        screen_order=(*document.screen_order, screen.id),
    )
    refuse_unsound(after, screen)
    return after


def add_token(document: Document, path: str, token: DesignToken) -> Document:
    """The document with a token set, new or not."""
    return msgspec.structs.replace(document, tokens=document.tokens.set(path, token))


def rename_owner(document: Document, owner_id: str, name: str) -> Document:
    """The document with a component or screen called `name`; instances are not touched,
    since they follow its id. Raises Refusal for an empty name."""
    new_name = name.strip()
    if not new_name:
        raise Refusal("A component or screen needs a name.")
    owner = owner_of(document, owner_id)
    return with_owner(document, msgspec.structs.replace(owner, name=new_name))


def describe(document: Document, component_id: str, description: str) -> Document:
    """The document with a component that says what it is for."""
    component = component_of(document, component_id)
    changed = msgspec.structs.replace(component, description=description.strip())
    return document if changed == component else with_owner(document, changed)


def advise(
    document: Document, component_id: str, dos: Iterable[str], donts: Iterable[str]
) -> Document:
    """The document with a component that says how to use it and how not to; sentences without
    words are left out."""
    component = component_of(document, component_id)
    lists = [tuple(s.strip() for s in lines if s.strip()) for lines in (dos, donts)]
    changed = msgspec.structs.replace(component, dos=lists[0], donts=lists[1])
    return document if changed == component else with_owner(document, changed)


def add_axis(document: Document, component_id: str, axis: Axis) -> Document:
    """The document with one more axis; every variant that was there looks as before, as
    the one with the axis's default."""
    component = component_of(document, component_id)
    if component.axis(axis.id) is not None or any(a.name == axis.name for a in component.axes):
        raise Refusal(f"“{component.name}” already has an axis called “{axis.name}”.")
    if axis.value(axis.default) is None:
        raise Refusal(f"The axis “{axis.name}” needs a default among its values.")
    changed = msgspec.structs.replace(component, axes=(*component.axes, axis))
    return with_owner(document, changed)


def add_axis_value(
    document: Document, component_id: str, axis_id: str, value: AxisValue, template: str = ""
) -> Document:
    """The document with one more value on an axis, after the others. Its variants start as
    those of the value `template` look, or as those that no rule of the axis speaks of."""
    component = component_of(document, component_id)
    axis = component.axis(axis_id)
    if axis is None:
        raise Refusal("That axis is no longer there.")
    if axis.value(value.id) or axis.named(value.name):
        raise Refusal(f"The axis “{axis.name}” already has a value called “{value.name}”.")
    if not value.part:
        value = msgspec.structs.replace(value, part=part_of_new_value(axis, value.name))
    longer = msgspec.structs.replace(axis, values=(*axis.values, value))
    axes = tuple(longer if a is axis else a for a in component.axes)
    changed = msgspec.structs.replace(component, axes=axes)
    if template:
        changed = _speaking_alike(changed, axis_id, template, value.id)
    return with_owner(document, changed)


def _speaking_alike(component: Component, axis_id: str, template: str, new: str) -> Component:
    """The component with everything that holds for one value of an axis said of another."""
    rules: list[Rule] = []
    for rule in component.rules:
        rules.append(rule)
        if rule.when.get(axis_id) == template:
            rules.append(msgspec.structs.replace(rule, when=rule.when.set(axis_id, new)))
    patterns = [p.set(axis_id, new) for p in component.not_offered if p.get(axis_id) == template]
    return msgspec.structs.replace(
        component, rules=tuple(rules), not_offered=(*component.not_offered, *patterns)
    )


def lay_axis(document: Document, component_id: str, axis_id: str, along: str) -> Document:
    """The document with an axis laid along the "rows" or "columns" of its component's grid,
    or shown one value at a time ("chips")."""
    component = component_of(document, component_id)
    rows, columns, chips = laid(component)
    lists = {"rows": [a.id for a in rows], "columns": [a.id for a in columns]}
    lists["chips"] = [a.id for a in chips]
    for along_axes in lists.values():
        if axis_id in along_axes:
            along_axes.remove(axis_id)
    lists[along].append(axis_id)
    return with_owner(
        document,
        msgspec.structs.replace(
            component, columns=tuple(lists["columns"]), chips=tuple(lists["chips"])
        ),
    )


def add_property(document: Document, component_id: str, prop: ComponentProperty) -> Document:
    """The document with one more property that instances may set."""
    component = component_of(document, component_id)
    if any(p.id == prop.id or p.name == prop.name for p in component.properties):
        raise Refusal(f"“{component.name}” already has a property called “{prop.name}”.")
    properties = (*component.properties, prop)
    return with_owner(document, msgspec.structs.replace(component, properties=properties))


def component_of(document: Document, component_id: str) -> Component:
    """The component with this id, or Refusal."""
    component = document.components.get(component_id)
    if component is None:
        raise Refusal("That component is no longer in the file.")
    return component


def _refuse_taken(document: Document, owner_id: str) -> None:
    if document.owner(owner_id) is not None:
        raise Refusal("The file already has a component or screen with that id.")
