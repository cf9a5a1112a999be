"""The movement of one change of a component, as its variant on the bench goes through it: the
component's own change, and those that it leads to in inner parts, each by its own motion."""

from __future__ import annotations

from functools import partial
from typing import NamedTuple

from outgrowth.core.document.cues import Motion, Path
from outgrowth.core.document.graph import Edge
from outgrowth.core.document.records import Component
from outgrowth.core.document.sentences import component_of, node_named
from outgrowth.core.motion.movement import Movement
from outgrowth.core.resolve.cascade import LiveValues
from outgrowth.core.runtime.inner_changes import inner_changes, led_parts, says_motion
from outgrowth.core.runtime.listening import Listening, owners_in
from outgrowth.workspace.workspace import Workspace


def planned_movement(
    workspace: Workspace, component: Component, edge: Edge, motion: Motion
) -> Movement:
    """The movement along an edge of the component's graph, from the variant at hand; as Live
    moves it."""
    document, variant = workspace.document, workspace.selection.variant
    view = partial(workspace.engine.view, document, component.id)
    start, end = view(variant.set(edge.axis, edge.start)), view(variant.set(edge.axis, edge.end))
    owner_at = owners_in(document, component, end.scene)
    part_motion = Listening(document, component, owner_at).motion_of_part
    inner = inner_changes(document, owner_at, (start.scene, end.scene), {((), edge.axis)})
    movement = Movement(start)
    held = {change.key: change.before for change in inner}
    for key, moves in (
        (((), edge.axis), motion),
        *((change.key, change.motion) for change in inner),
    ):
        held.pop(key, None)
        live: LiveValues = tuple(sorted((*at, value) for at, value in held.items()))
        movement.change(view(variant.set(edge.axis, edge.end), live), 0.0, key, moves, part_motion)
    return movement


class InnerPart(NamedTuple):
    """A part of the component on the bench whose axis its rules set, and that says a motion of its
    own; whether it moves with the component's change instead, and that in words."""

    path: Path
    led: bool
    text: str


def inner_parts(workspace: Workspace) -> list[InnerPart]:
    """The inner parts that could move by themselves when the component on the bench changes."""
    component = workspace.component
    if component is None:
        return []
    parts = []
    for path in led_parts(component):
        inner = component_of(workspace.document, component, path)
        if inner is None or not says_motion(inner):
            continue
        led = path in component.behaviour.leads
        name = node_named(workspace.document, component, path)
        text = f"{name}: moves with this change" if led else f"{name}: as the part says"
        parts.append(InnerPart(path, led, text))
    return parts
