"""What is to be pressed: large enough, and said what it is.

Source: WCAG 2.2, success criteria 2.5.8 (target size, minimum), 4.1.2 (name, role, value) and
1.1.1 (non-text content)."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from outgrowth.core.document.cues import TRIGGER_ROWS
from outgrowth.core.document.records import Component, Document, Node, Path, walk
from outgrowth.core.document.sentences import node_named
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.runtime.focus import is_stop

LEAST_TARGET = 24.0
"""Px that a target is wide and high at least. Source: WCAG 2.2, 2.5.8."""


def target_findings(document: Document, resolver: Resolver, layout: Layout) -> Iterator[Finding]:
    """Parts that can be pressed and are smaller than a finger needs, on the screens where they
    stand: what is around them may give them room."""
    for screen in document.screens_in_order():
        scene = resolver.screen(document, screen)
        if scene is None:
            continue
        for position in locate(scene, layout.place(scene.layout), ""):
            component = document.components.get(position.scene.component)
            if component is None or not is_pressed(component):
                continue
            wide, high = position.rect.width, position.rect.height
            if min(wide, high) < LEAST_TARGET - 0.01:
                part = node_named(document, screen, position.path)
                yield Finding(
                    "targets",
                    "target-small",
                    screen.id,
                    position.path,
                    f"{part} is {wide:.3g} × {high:.3g} px; {LEAST_TARGET:g} × {LEAST_TARGET:g} is "
                    "the least for a finger, unless there is as much room around it.",
                    "WCAG 2.2, 2.5.8",
                )


def name_findings(document: Document) -> Iterator[Finding]:
    """What hears a press without a role, or has nothing to be read aloud."""
    for component in document.in_order():
        for node in heard(component):
            path = (node.id,)
            if node.kind != "instance" and said_role(node) == "none":
                yield Finding(
                    "names",
                    "role-missing",
                    component.id,
                    path,
                    f"{_called(component, node)} can be tapped, but says not what it is: it has "
                    "no role.",
                    "WCAG 2.2, 4.1.2",
                    "error",
                    Mend("make it a button", partial(_as_button, component.id, path)),
                )
        if is_pressed(component) and not _is_named(component):
            yield Finding(
                "names",
                "name-missing",
                component.id,
                (),
                f"“{component.name}” has no words and no spoken name of its own; each of its "
                "instances needs one.",
                "WCAG 2.2, 4.1.2",
                "maybe",
            )
    for owner in document.owners():
        for node in walk(owner.root):
            if node.kind == "image" and not node.style.get("label"):
                yield Finding(
                    "names",
                    "picture-without-words",
                    owner.id,
                    (node.id,),
                    f"The picture “{node.name}” has no words: it counts as decoration.",
                    "WCAG 2.2, 1.1.1",
                    "maybe",
                )


def _called(component: Component, node: Node) -> str:
    name = f"“{component.name}”"
    return name if node is component.root else f"{node.name} of {name}"


def _as_button(component: str, node: Path, document: Document) -> Document:
    return set_properties(document, Place(component, node), {"role": "button"})


def heard(component: Component) -> list[Node]:
    """The component's own nodes that hear a press, in the order of the tree."""
    ids = {
        cue.node[-1] if cue.node else component.root.id
        for cue in component.behaviour.cues
        if TRIGGER_ROWS[cue.trigger.kind].stop and len(cue.node) <= 1
    }
    return [node for node in walk(component.root) if node.id in ids]


def said_role(node: Node) -> str:
    """The role that a node's own style says; “none” for none."""
    role = node.style.get("role", "none")
    return role if isinstance(role, str) else "none"


def is_pressed(component: Component) -> bool:
    """Whether keys and fingers go to a component, by its role."""
    return is_stop(said_role(component.root))


def _is_named(component: Component) -> bool:
    if component.root.style.get("label"):
        return True
    texts = (node for node in walk(component.root) if node.kind == "text")
    return any(node.style.get("content") for node in texts)
