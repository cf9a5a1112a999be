"""What everything is called in the code: safe, and no two alike.

An element, an attribute, a part and a custom property each have a grammar of their own; a name
that a designer gave keeps what it can. What had to be called otherwise is listed, so that nobody
has to find out.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import NamedTuple

from outgrowth.core.document.axis_parts import reads_yes
from outgrowth.core.document.records import (
    UNTITLED,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Owner,
    short_name,
    walk,
)
from outgrowth.core.document.rooms import room_axes
from outgrowth.core.document.variants import is_switch
from outgrowth.core.exchange.slugs import free_name, slug
from outgrowth.core.refusal import Refusal

_PREFIX = re.compile(r"[a-z][a-z0-9]{0,19}")
_OTHERWISE = "ui"
# What the names of elements begin with that are none of ours (HTML, 4.13.2).
_RESERVED_PREFIXES = frozenset(("annotation", "color", "font", "missing", "xml"))

# Attributes and properties that every element has already (HTML, 3.2.6 and the DOM's Element,
# ARIAMixin left out since its names begin with aria or role); what ours may not take.
_TAKEN = frozenset(
    [
        "accesskey",
        "attributes",
        "autofocus",
        "autocapitalize",
        "blur",
        "children",
        "class",
        "classname",
        "click",
        "contenteditable",
        "dataset",
        "dir",
        "disabled-state",
        "draggable",
        "enterkeyhint",
        "exportparts",
        "focus",
        "form",
        "hidden",
        "id",
        "inert",
        "innerhtml",
        "innertext",
        "inputmode",
        "is",
        "isconnected",
        "itemid",
        "itemprop",
        "itemref",
        "itemscope",
        "itemtype",
        "lang",
        "localname",
        "name",
        "nodename",
        "nodetype",
        "nodevalue",
        "nonce",
        "outerhtml",
        "outertext",
        "parentnode",
        "part",
        "popover",
        "prefix",
        "remove",
        "replace",
        "role",
        "shadowroot",
        "slot",
        "spellcheck",
        "style",
        "tabindex",
        "tagname",
        "textcontent",
        "title",
        "translate",
        "type",
        "value",
        "virtualkeyboardpolicy",
        "writingsuggestions",
        "append",
        "prepend",
        "before",
        "after",
        "closest",
        "matches",
        "normalize",
        "contains",
        "animate",
        "toggle-attribute",
        "constructor",
        "prototype",
    ]
)
# What an attribute of each kind is called where its own name is taken.
_SUFFIXES = {
    "axis": "kind",
    "text": "text",
    "switch": "on",
    "slot": "content",
    "color": "color",
    "number": "number",
}
# HTML, 4.13.3 (valid custom element names): these have a hyphen and are not ours to take.
_RESERVED_ELEMENTS = frozenset(
    [
        "annotation-xml",
        "color-profile",
        "font-face",
        "font-face-src",
        "font-face-uri",
        "font-face-format",
        "font-face-name",
        "missing-glyph",
    ]
)


class PrefixRefusal(Refusal):
    """What element names should begin with can begin none; the message is a sentence."""


class Renamed(NamedTuple):
    """A name that is another one in the code: what it names, what it was, what it is now."""

    what: str
    before: str
    after: str


def checked_prefix(prefix: str) -> str:
    """What element names begin with. Raises PrefixRefusal."""
    if not _PREFIX.fullmatch(prefix):
        raise PrefixRefusal(
            f"Elements cannot begin with “{prefix[:40]}”: write a few small letters of a to z, "
            f"such as {_OTHERWISE}."
        )
    return prefix


def prefix_from(name: str) -> str:
    """What element names begin with in the code of a file of this name: the first letters of its
    words, or its one word; `ui` for one that has no name yet."""
    words = [word for word in slug(name, "").split("-") if word]
    letters = "".join(word[0] for word in words) if len(words) > 1 else "".join(words)[:12]
    letters = letters.lstrip("0123456789")[:20]
    if not letters or name == UNTITLED:
        return _OTHERWISE
    return f"{letters}{_OTHERWISE}" if letters in _RESERVED_PREFIXES else letters


def camel(name: str) -> str:
    """A name as a property of JavaScript: `with-icon` is `withIcon`."""
    head, *siblings = name.split("-")
    return head + "".join(second.capitalize() for second in siblings)


def pascal(name: str) -> str:
    """A name as a class: `hs-button` is `HsButton`."""
    return "".join(part.capitalize() for part in name.split("-"))


class AxisNames(NamedTuple):
    """An axis in the code.

    attribute  its name
    boolean    whether it is a boolean attribute, there for `yes_id` and not there for the other
    values     its values' names by their ids
    prefixed   whether its states bear its name though pointer or focus set it: another axis has
               values of the same names
    """

    axis: Axis
    attribute: str
    boolean: bool
    yes_id: str
    values: dict[str, str]
    prefixed: bool = False

    def state(self, value_id: str) -> str:
        """The selector of a custom state that holds for a value."""
        if self.boolean:
            state = f":state({self.attribute})"
            return state if value_id == self.yes_id else f":not({state})"
        return f":state({self.state_name(value_id)})"

    def state_name(self, value_id: str) -> str:
        """The custom state of a value: what the pointer and the focus drive is called by its
        value alone."""
        name = self.values.get(value_id, value_id)
        bare = self.axis.driver != "none" and not self.prefixed
        return name if bare else f"{self.attribute}-{name}"


class PropertyNames(NamedTuple):
    """A component property in the code; a switch is a boolean attribute, there where its value
    is `yes`."""

    property: ComponentProperty
    attribute: str
    variable: str
    yes: bool = True


class OwnerNames(NamedTuple):
    """A component (or screen) in the code: its element, and its nodes, axes and properties by
    their ids. `rooms` are those axes that the room sets, so that nobody can."""

    element: str
    nodes: dict[str, str]
    axes: dict[str, AxisNames]
    properties: dict[str, PropertyNames]
    rooms: dict[str, AxisNames] = {}  # noqa: RUF012  # never changed

    def any_axis(self, axis_id: str) -> AxisNames | None:
        """An axis, whoever sets it; None for one that is not there."""
        return self.axes.get(axis_id) or self.rooms.get(axis_id)

    def variable_of(self, room: AxisNames) -> str:
        """The custom property that says which value of an axis the room sets."""
        return f"--{self.element}-{room.attribute}"

    @property
    def file(self) -> str:
        """The module's name without what follows the dot."""
        return self.element

    @property
    def class_name(self) -> str:
        """The class of its elements."""
        return pascal(self.element)


class Names:
    """All names of a document's code. `renamed` are those that differ by more than letters and
    hyphens from what the designer wrote; without a `prefix`, it comes from the document's name."""

    def __init__(self, document: Document, prefix: str = "") -> None:
        self.prefix = prefix = checked_prefix(prefix or prefix_from(document.name))
        self.renamed: list[Renamed] = []
        self.owners: dict[str, OwnerNames] = {}
        self.tokens: dict[str, str] = {}
        used: set[str] = set()
        for component in document.in_order():
            element = self._element(component.name, used)
            used.add(element)
            self.owners[component.id] = self._component(component, element)
        files: set[str] = set()
        for screen in document.screens_in_order():
            name = self._unique("screen", screen.name, slug(screen.name, "screen"), files)
            files.add(name)
            self.owners[screen.id] = OwnerNames(name, self._nodes(screen), {}, {})
        variables: set[str] = set()
        for path in sorted(document.tokens):
            proposed = slug(path.replace(".", "-"), "token")
            name = self._unique("token", path, f"--{prefix}-{proposed}", variables)
            variables.add(name)
            self.tokens[path] = name

    def _element(self, name: str, used: set[str]) -> str:
        """By the last word of its path; by the whole path where that is taken."""
        last, entire = short_name(name), name
        short = f"{self.prefix}-{slug(last, 'part')}"
        if short in used or short in _RESERVED_ELEMENTS:
            short = f"{self.prefix}-{slug(entire, 'part')}"
        return self._unique("component", name, short, used | _RESERVED_ELEMENTS, last)

    def _unique(
        self, what: str, before: str, proposed: str, used: Iterable[str], entry: str = ""
    ) -> str:
        """A free name, told where it does not read as what the designer wrote."""
        unique = free_name(proposed, used)
        if _letters(unique) not in {
            _letters(entry or before),
            _letters(self.prefix + (entry or before)),
        }:
            self.renamed.append(Renamed(what, before, unique))
        return unique

    def _nodes(self, owner: Owner) -> dict[str, str]:
        names: dict[str, str] = {}
        used: set[str] = set()
        for node in walk(owner.root):
            # Repeated names are usual among nodes, so a number is nothing to tell.
            names[node.id] = free_name(slug(node.name, node.kind), used)
            used.add(names[node.id])
        return names

    def _component(self, component: Component, element: str) -> OwnerNames:
        used: set[str] = set(_TAKEN)
        axes: dict[str, AxisNames] = {}
        for axis in component.axes:
            axes[axis.id] = self._axis(component, axis, used)
        properties: dict[str, PropertyNames] = {}
        for prop in component.properties:
            yes = not (prop.kind == "switch" and prop.default is True)
            proposed = slug(prop.name, "property")
            proposed = proposed if yes else f"no-{proposed}"
            attribute = self._attribute(component, prop.name, proposed, _SUFFIXES[prop.kind], used)
            variable = f"--{element}-{attribute}"
            properties[prop.id] = PropertyNames(prop, attribute, variable, yes)
        by_room = {axis_id: axes.pop(axis_id) for axis_id in [a.id for a in room_axes(component)]}
        separate = _apart(axes, properties)
        return OwnerNames(element, self._nodes(component), separate, properties, by_room)

    def _axis(self, component: Component, axis: Axis, used: set[str]) -> AxisNames:
        boolean, yes_id, proposed = is_switch(axis), "", slug(axis.name, "axis")
        boolean = boolean and axis.driver != "room"
        if boolean:
            by_default = reads_yes(axis, axis.default)
            # The attribute is there for what is not usual, as in HTML.
            yes_id = next(v.id for v in axis.values if v.id != axis.default)
            if by_default:
                proposed = "disabled" if axis.meaning == "enabled" else f"no-{proposed}"
        attribute = self._attribute(component, axis.name, proposed, _SUFFIXES["axis"], used)
        return AxisNames(axis, attribute, boolean, yes_id, _value_names(axis.values))

    def _attribute(
        self, component: Component, name: str, proposed: str, suffix: str, used: set[str]
    ) -> str:
        handler = re.fullmatch(r"on[a-z]+", proposed) is not None
        if handler or proposed.startswith("aria-") or {proposed, camel(proposed).lower()} & used:
            proposed = f"{proposed}-{suffix}"
        attribute = self._unique(f"property of {component.name}", name, proposed, used)
        used.add(attribute)
        return attribute


def _value_names(values: tuple[AxisValue, ...]) -> dict[str, str]:
    names: dict[str, str] = {}
    for value in values:
        names[value.id] = free_name(slug(value.name, "value"), names.values())
    return names


def _apart(
    axes: dict[str, AxisNames], properties: dict[str, PropertyNames]
) -> dict[str, AxisNames]:
    """The axes, those prefixed whose states would be called as others are."""
    taken = {names.attribute for names in axes.values() if names.boolean}
    taken |= {names.attribute for names in properties.values() if names.property.kind == "switch"}
    results = {}
    for axis_id, names in axes.items():
        if names.axis.driver != "none" and not names.boolean:
            names = names._replace(prefixed=not taken.isdisjoint(names.values.values()))
            taken |= set() if names.prefixed else set(names.values.values())
        results[axis_id] = names
    return results


def _letters(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.lower())
