"""Components, screens, variants and instances as they are named on a command line."""

from __future__ import annotations

import argparse
from collections.abc import Iterable
from pathlib import Path
from typing import TypeVar

from outgrowth.cli.exit_codes import WrongUse
from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES
from outgrowth.core.document.records import Component, ComponentProperty, Document, Owner, Screen
from outgrowth.core.document.values import LARGEST_NUMBER, Literals
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.fonts import carried
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.refusal import quoted
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS

AnyOwner = TypeVar("AnyOwner", Component, Screen, Component | Screen)


def layout_of(document: Document) -> Layout:
    """Lays out with the shipped fonts and those that the file carries."""
    return Layout(Typesetter(shipped(FONTS).also(carried(document.assets))))


def owner_named(owners: Iterable[AnyOwner], name: str, what: str) -> AnyOwner:
    """The component or screen that is called so: by its whole name, the last part of it, or its
    id. Raises WrongUse with the names that there are."""
    choice = list(owners)
    for owner in choice:
        if owner.is_called(name):
            return owner
    names = ", ".join(owner.name for owner in choice) or "none"
    raise WrongUse(f"There is no {what} “{quoted(name, 80)}” in this file. It has: {names}.")


def owner_asked(document: Document, arguments: argparse.Namespace) -> Owner:
    """The one that --component or --screen names. Raises WrongUse."""
    if arguments.component is not None:
        return owner_named(document.in_order(), arguments.component, "component")
    return owner_named(document.screens_in_order(), arguments.screen, "screen")


def add_owner_arguments(parser: argparse.ArgumentParser) -> None:
    """FILE, and --component or --screen."""
    parser.add_argument("file", type=Path)
    choice = parser.add_mutually_exclusive_group(required=True)
    for what in ("component", "screen"):
        choice.add_argument(f"--{what}", metavar="NAME")


def number(text: str) -> float:
    """A finite number that is not negative. Raises ValueError, which argparse tells."""
    parsed = float(text)
    if not 0 <= parsed <= LARGEST_NUMBER:
        raise ValueError(text)
    return parsed


def chosen_values(component: Component, settings: list[str]) -> dict[str, Literals]:
    """The values of axes and properties, by their ids, that `NAME=VALUE` ask for. Raises
    WrongUse."""
    values: dict[str, Literals] = {}
    for setting in settings:
        name, _, value = setting.partition("=")
        values |= _chosen_value(component, name.rpartition(":")[2], value)
    return values


def with_instance_set(document: Document, owner: Owner, setting: str) -> Document:
    """The document with an instance set, as `PATH:NAME=VALUE` asks for: it is found by the path
    of its parts' names. Raises WrongUse."""
    path, _, rest = setting.partition(":")
    name, _, value = rest.partition("=")
    scene, placed = layout_of(document).view(Resolver().screen(document, owner))
    for located in locate(scene, placed, owner.name):
        if "/".join(located.names[1:]) == path and located.scene.component:
            values = _chosen_value(document.components[located.scene.component], name, value)
            choices = {CHOICE + key: literal for key, literal in values.items()}
            return set_properties(document, Place(owner.id, located.path), dict(choices))
    raise WrongUse(f"There is no instance at “{path}” on “{owner.name}”.")


def _chosen_value(component: Component, name: str, value: str) -> dict[str, Literals]:
    for axis in component.axes:
        if axis.name == name:
            chosen = axis.named(value)
            if chosen is None:
                names = ", ".join(v.name for v in axis.values)
                raise WrongUse(f"{name} cannot be “{value}”; it can be: {names}.")
            return {axis.id: chosen.id}
    for prop in component.properties:
        if prop.name == name:
            return {prop.id: _property_value(prop, value)}
    names = ", ".join([a.name for a in component.axes] + [p.name for p in component.properties])
    raise WrongUse(f"“{component.name}” has no “{name}”. It has: {names or 'nothing to set'}.")


def _property_value(prop: ComponentProperty, text: str) -> Literals:
    """A property's value as it is typed: yes or no for a switch, else as in a file."""
    if prop.kind == "switch":
        return text.lower() in ("yes", "on", "true")
    try:
        if prop.kind == "number":
            return PROPERTY_TYPES["number"].check(float(text))
        return PROPERTY_TYPES[prop.kind].read(text)
    except ValueError as problem:
        raise WrongUse(f"{prop.name}: {problem}") from problem
