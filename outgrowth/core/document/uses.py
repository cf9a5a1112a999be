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
        component_id = node.style.get("component")
        if node.kind == "instance" and isinstance(component_id, str) and component_id:
            yield node, component_id


def may_hold(component: Component) -> frozenset[str]:
    """Ids of all components that an instance of this one may show: those in its tree, in
    its rules and overrides, and those that its slots offer."""
    component_ids = {component_id for _, component_id in holds_directly(component)}
    rules = [*component.rules, *(r for n in walk(component.root) for r in n.overrides)]
    component_ids |= {
        r.value for r in rules if r.property == "component" and isinstance(r.value, str)
    }
    for prop in component.properties:
        if prop.kind == "slot":
            component_ids |= {prop.default} if isinstance(prop.default, str) else set()
            component_ids |= set(prop.shortlist)
    return frozenset(i for i in component_ids if isinstance(i, str) and i)


def _filled(document: Document, component: Component) -> frozenset[str]:
    """Ids of the components that fill slots of instances in a component's own tree."""
    results = set()
    for node, followed in holds_directly(component):
        inner = document.components.get(followed)
        for prop in inner.properties if inner is not None else ():
            values = [node.style.get(CHOICE + prop.id)] if prop.kind == "slot" else []
            values += [
                r.value
                for r in component.rules
                if values and r.node == (node.id,) and r.property == CHOICE + prop.id
            ]
            results |= {value for value in values if isinstance(value, str) and value}
    return frozenset(results)


def way_into(document: Document, start: str, goal: str) -> tuple[str, ...]:
    """Component ids from `start` to `goal`, each holding the next; empty if there is no way."""
    open_routes: list[tuple[str, ...]] = [(start,)]
    visited = {start}
    while open_routes:
        route = open_routes.pop(0)
        if route[-1] == goal:
            return route
        component = document.components.get(route[-1])
        for component_id in (
            sorted(may_hold(component) | _filled(document, component)) if component else ()
        ):
            if component_id not in visited:
                visited.add(component_id)
                open_routes.append((*route, component_id))
    return ()


def once_choices(document: Document, box: Node) -> dict[str, Onces]:
    """What a box can allow once, by its words (“Open: yes”): every value of an axis that is
    chosen or set by cues, of all components that the box holds over any depth. Axes of several
    components that are called alike are meant together."""
    waiting = [str(n.style.get("component")) for n in walk(box) if n.kind == "instance"]
    choices: dict[str, Onces] = {}
    visited: set[str] = set()
    while waiting:
        component = document.components.get(waiting.pop())
        if component is None or component.id in visited:
            continue
        visited.add(component.id)
        waiting += sorted(may_hold(component))
        for axis in component.axes:
            for value in axis.values if axis.driver == "none" else ():
                words = f"{axis.name}: {value.name}"
                choices[words] = (*choices.get(words, ()), Once(axis.id, value.id))
    return {words: tuple(dict.fromkeys(onces)) for words, onces in sorted(choices.items())}


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
        use for owner in document.owners() for use in _uses_in(owner).get(component_id, ())
    )


def _by_component(owner: Owner) -> dict[str, list[Use]]:
    results: dict[str, list[Use]] = {}
    for node, held in holds_directly(owner):
        results.setdefault(held, []).append(Use(owner.id, node.id))
    return results


_uses_in = ByIdentity(_by_component, 4096)
"""An owner's instances by what they follow: every edit asks, and changes few owners."""


def families(document: Document) -> frozenset[str]:
    """The typefaces that the file's texts ask for, by rules and overrides too."""
    names: set[str] = set()
    for owner in document.owners():
        names |= _families_of(owner)
    return frozenset(names)


def _named_families(owner: Owner) -> frozenset[str]:
    values: list[object] = []
    for node in walk(owner.root):
        values.append(node.style.get(_FAMILY))
        values += [rule.value for rule in node.overrides if rule.property == _FAMILY]
    if isinstance(owner, Component):
        values += [rule.value for rule in owner.rules if rule.property == _FAMILY]
    return frozenset(family for family in values if isinstance(family, str))


def assets_in_use(document: Document) -> dict[str, Asset]:
    """The pictures that something shows, and all fonts: what is worth keeping in a file."""
    visible = {digest for owner in document.owners() for digest in pictures_of(owner)}
    return {
        digest: asset
        for digest, asset in document.assets.items()
        if digest in visible or asset.media.startswith("font/")
    }


def _shown_pictures(owner: Owner) -> frozenset[str]:
    values: list[object] = []
    for node in walk(owner.root):
        values.append(node.style.get("picture"))
        values += [rule.value for rule in node.overrides]
        values += [r.value for aside in node.aside for r in (*aside.own, *aside.held)]
    if isinstance(owner, Component):
        values += [rule.value for rule in owner.rules]
    return frozenset(value.asset for value in values if isinstance(value, Picture))


_FAMILY = "font-family"
# By owner: an edit asks only the owner that it changed.
_families_of = ByIdentity(_named_families, 1024)
pictures_of = ByIdentity(_shown_pictures, 1024)
"""The pictures (by their digests) that an owner shows, or has set aside."""
