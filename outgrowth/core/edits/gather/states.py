"""States made of drawings in one step: some looks of one part, by whatever names, become one
component whose axis is set by the pointer (or says what their names say)."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.everyday_words import guessed
from outgrowth.core.document.records import Document, Driver, Node, find, short_name
from outgrowth.core.edits.gather.apply import gathered
from outgrowth.core.edits.gather.report import PLACE, GatheredDrawing, Report, gather
from outgrowth.core.edits.tree.owners import free_name
from outgrowth.core.edits.tree.trees import owner_of, with_node, with_owner
from outgrowth.core.refusal import Refusal

_BY_ORDER = ("rest", "hover", "press", "disabled")
"""What looks are called that have no name of their own, in their order."""


class Looks(NamedTuple):
    """Drawings of one part, a look each.

    owner  the screen or component that holds them; "" for components that are one each
    nodes  their outermost parts (of components their roots), in their order
    ids    by what each is found again: a node's id, or a component's
    names  what each is called
    name   what the whole is called
    group  the box of which they are all that it holds, which gives way to one instance; "" where
           they stand for themselves
    """

    owner: str
    nodes: tuple[Node, ...]
    ids: tuple[str, ...]
    names: tuple[str, ...]
    name: str
    group: str = ""


def looks_of_parts(owner_id: str, nodes: Sequence[Node], fallback: str) -> Looks:
    """The looks that some parts of one owner are, called by what follows the last “/” of their
    names, and the whole by what stands before it."""
    names = [node.name.rpartition("/")[2].strip() for node in nodes]
    folders = {node.name.rpartition("/")[0].strip() for node in nodes}
    name = next(iter(folders)) if len(folders) == 1 and "" not in folders else fallback
    ids = tuple(node.id for node in nodes)
    return Looks(owner_id, tuple(nodes), ids, tuple(names), name)


def looks_of_group(owner_id: str, group: Node) -> Looks:
    """The looks that all parts of a box are."""
    looks = looks_of_parts(owner_id, group.children, group.name)
    return looks._replace(name=group.name, group=group.id)


def looks_of_components(document: Document, component_ids: Sequence[str]) -> Looks:
    """The looks that components named by path are: “Button/Normal” and the like."""
    components = [document.components[i] for i in component_ids]
    roots = tuple(c.root for c in components)
    names = tuple(c.short_name for c in components)
    folder = components[0].name.rpartition("/")[0]
    return Looks("", roots, tuple(component_ids), names, folder)


def reads_as_states(names: Sequence[str]) -> bool:
    """Whether these are the names of states, by the everyday words."""
    guess = guessed(names)
    return guess.driver != "none" or guess.meaning != "none"


def states_of(document: Document, looks: Looks, component_id: str) -> tuple[Document, Report]:
    """The document in which looks have become one component, and what was found. Names that are
    no states, or that repeat, stand for the pointer's states in their order. Raises Refusal for
    fewer than two looks, and where one would not come out as it was drawn."""
    if len(looks.nodes) < 2:
        raise Refusal("States are made of two looks or more: select them, or the box they lie in.")
    names = list(looks.names)
    if len(set(names)) < len(names) or not all(names):
        if len(names) > len(_BY_ORDER):
            raise Refusal("Several looks are called the same; rename them first.")
        names = list(_BY_ORDER[: len(names)])
    driver: Driver | None = None if reads_as_states(names) else "pointer"
    holder = looks.owner
    drawings = [
        GatheredDrawing(f"{_one_segment(looks.name)}/{name}", node, holder or own_id)
        for node, name, own_id in zip(looks.nodes, names, looks.ids, strict=True)
    ]
    report = gather(document, drawings, component_id, drivers=(driver,))
    if report.component is not None:
        name = free_name(document, looks.name)
        root = msgspec.structs.replace(report.component.root, name=_one_segment(name))
        component = msgspec.structs.replace(report.component, name=name, root=root)
        report = report._replace(component=component)
    made = gathered(document, report)
    return (_without_group(made, looks, report) if looks.group else made), report


def _one_segment(name: str) -> str:
    """A name without folders: the looks' own names are what varies."""
    return short_name(name) or "Part"


def _without_group(document: Document, looks: Looks, report: Report) -> Document:
    """The document with one instance, as the component starts, in the place of the box that held
    the looks."""
    component = report.component
    assert component is not None
    owner = owner_of(document, looks.owner)
    group = find(owner.root, looks.group)
    if group is None:
        return document
    style = {k: v for k, v in group.style.items() if k in PLACE} | {"component": component.id}
    one = Node(group.id, group.name, "instance", Map(style))
    return with_owner(document, with_node(owner, group.id, lambda node: one))
