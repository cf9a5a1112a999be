"""Who holds whom: instances of a component, and the ways from one component into another."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Asset, Component, Document, Node, Owner, walk
from outgrowth.core.document.values import Once, Onces, Picture
from outgrowth.core.memo import ByIdentity


class Use(NamedTuple):
    """One instance, by the owner whose tree it stands in."""

    owner: str
    node: str


def holds_directly(owner: Owner) -> Iterator[tuple[Node, str]]:
    """The instances in an owner's own tree, with the component that each follows."""
    for node in walk(owner.root):
        held = node.style.get("component")
        if node.kind == "instance" and isinstance(held, str) and held:
            yield node, held


def may_hold(component: Component) -> frozenset[str]:
    """Ids of all components that an instance of this one may show: those in its tree, in
    its rules and overrides, and those that its slots offer."""
    found = {held for _, held in holds_directly(component)}
    rules = [*component.rules, *(r for n in walk(component.root) for r in n.overrides)]
    found |= {r.value for r in rules if r.property == "component" and isinstance(r.value, str)}
    for prop in component.properties:
        if prop.kind == "slot":
            found |= {prop.default} if isinstance(prop.default, str) else set()
            found |= set(prop.shortlist)
    return frozenset(i for i in found if isinstance(i, str) and i)


def _filled(document: Document, component: Component) -> frozenset[str]:
    """Ids of the components that fill slots of instances in a component's own tree."""
    found = set()
    for node, followed in holds_directly(component):
        inner = document.components.get(followed)
        for prop in inner.properties if inner is not None else ():
            said = [node.style.get(CHOICE + prop.id)] if prop.kind == "slot" else []
            said += [
                r.value
                for r in component.rules
                if said and r.node == (node.id,) and r.property == CHOICE + prop.id
            ]
            found |= {value for value in said if isinstance(value, str) and value}
    return frozenset(found)


def way_into(document: Document, start: str, goal: str) -> tuple[str, ...]:
    """Component ids from `start` to `goal`, each holding the next; empty if there is no way."""
    ways: list[tuple[str, ...]] = [(start,)]
    seen = {start}
    while ways:
        way = ways.pop(0)
        if way[-1] == goal:
            return way
        component = document.components.get(way[-1])
        for held in sorted(may_hold(component) | _filled(document, component)) if component else ():
            if held not in seen:
                seen.add(held)
                ways.append((*way, held))
    return ()


def once_choices(document: Document, box: Node) -> dict[str, Onces]:
    """What a box can allow once, by its words (“Open: yes”): every value of an axis that is
    chosen or set by cues, of all components that the box holds over any depth. Axes of several
    components that are called alike are meant together."""
    waiting = [str(n.style.get("component")) for n in walk(box) if n.kind == "instance"]
    found: dict[str, Onces] = {}
    seen: set[str] = set()
    while waiting:
        component = document.components.get(waiting.pop())
        if component is None or component.id in seen:
            continue
        seen.add(component.id)
        waiting += sorted(may_hold(component))
        for axis in component.axes:
            for value in axis.values if axis.driver == "none" else ():
                words = f"{axis.name}: {value.name}"
                found[words] = (*found.get(words, ()), Once(axis.id, value.id))
    return {words: tuple(dict.fromkeys(onces)) for words, onces in sorted(found.items())}


def once_words(document: Document, onces: Onces) -> str:
    """Such a choice in words; those of the first axis that is still there."""
    for once in onces:
        for component in document.in_order():
            axis = component.axis(once.axis)
            value = axis.value(once.value) if axis is not None else None
            if axis is not None and value is not None:
                return f"{axis.name}: {value.name}"
    return "a value that is gone" if onces else ""


def uses(document: Document, component_id: str) -> tuple[Use, ...]:
    """Every instance of the component that stands in a tree of the file."""
    return tuple(
        Use(owner.id, node.id)
        for owner in document.owners()
        for node, held in holds_directly(owner)
        if held == component_id
    )


def families(document: Document) -> frozenset[str]:
    """The typefaces that the file's texts ask for, by rules and overrides too."""
    found: set[str] = set()
    for owner in document.owners():
        found |= _families_of(owner)
    return frozenset(found)


def _named_families(owner: Owner) -> frozenset[str]:
    said: list[object] = []
    for node in walk(owner.root):
        said.append(node.style.get(_FAMILY))
        said += [rule.value for rule in node.overrides if rule.property == _FAMILY]
    if isinstance(owner, Component):
        said += [rule.value for rule in owner.rules if rule.property == _FAMILY]
    return frozenset(family for family in said if isinstance(family, str))


def assets_in_use(document: Document) -> dict[str, Asset]:
    """The pictures that something shows, and all fonts: what is worth keeping in a file."""
    shown = {digest for owner in document.owners() for digest in pictures_of(owner)}
    return {
        digest: asset
        for digest, asset in document.assets.items()
        if digest in shown or asset.media.startswith("font/")
    }


def _shown_pictures(owner: Owner) -> frozenset[str]:
    said: list[object] = []
    for node in walk(owner.root):
        said.append(node.style.get("picture"))
        said += [rule.value for rule in node.overrides]
        said += [r.value for aside in node.aside for r in (*aside.own, *aside.held)]
    if isinstance(owner, Component):
        said += [rule.value for rule in owner.rules]
    return frozenset(value.asset for value in said if isinstance(value, Picture))


_FAMILY = "font-family"
_families_of = ByIdentity(_named_families, 1024)
pictures_of = ByIdentity(_shown_pictures, 1024)
"""The pictures (by their digests) that an owner shows, or has set aside."""
