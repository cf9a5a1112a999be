"""What cues do to the states of a running scene: which axis gets which value, and what a box
that allows a value only once sets back. Values in, values out."""

from __future__ import annotations

from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.cues import HOLDER, Change, Path
from outgrowth.core.document.records import Axis, Component, Document
from outgrowth.core.document.values import Literals, Once
from outgrowth.core.document.variants import offered
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import instances_in, line_to, scene_at

Key = tuple[Path, str]
States = dict[Key, Literals]
"""What is set while running: (instance path, axis or property id) → its value."""


def meant(owner: Path, change: Change) -> Path:
    """The instance whose axis or property a change of an owner's cue means."""
    return owner[:-1] if change.at == (HOLDER,) else (*owner, *change.at)


class Shown(NamedTuple):
    """A document's scene as it is shown, and what is set in it."""

    document: Document
    scene: SceneNode
    states: States

    def component_at(self, path: Path) -> Component | None:
        node = scene_at(self.scene, path)
        return self.document.components.get(node.component) if node is not None else None

    def value(self, path: Path, name: str) -> Literals | None:
        """The value that an axis has in what is shown (a property's, if it was given)."""
        node = scene_at(self.scene, path)
        variant = node.variant if node is not None else None
        found = variant.get(name) if variant is not None else None
        return found if found is not None else self.states.get((path, name))

    def changed(self, owner: Path, change: Change, states: States) -> tuple[Key, Literals] | None:
        """What a change of an owner's cue sets, and to what; None where its axis is not there.
        `states` are what this event has set already."""
        path = meant(owner, change)
        component = self.component_at(path)
        if component is None:
            return None
        if change.act == "give":
            return ((path, change.name), change.value) if component.property(change.name) else None
        axis = component.axis(change.name) or next(
            (a for a in component.axes if a.name == change.name), None
        )
        if axis is None:
            return None
        if change.act == "next":
            now = states.get((path, axis.id), self.value(path, axis.id))
            return (path, axis.id), self._next_value(component, axis, path, now)
        value = axis.value(str(change.value)) or axis.named(str(change.value))
        return ((path, axis.id), value.id) if value is not None else None

    def _next_value(self, component: Component, axis: Axis, path: Path, now: object) -> str:
        """The value after this one that is offered; the first after the last."""
        ids = [value.id for value in axis.values]
        at = ids.index(str(now)) if now in ids else -1
        node = scene_at(self.scene, path)
        variant: Map[str, str] = (node.variant if node is not None else None) or Map()
        for step in range(1, len(ids) + 1):
            found = ids[(at + step) % len(ids)]
            if offered(component, variant.set(axis.id, found)):
                return found
        return str(now)

    def one_at_a_time(self, states: States) -> States:
        """The new states with the others of a box set back, where it allows a value once."""
        found = dict(states)
        for (path, axis_id), value in states.items():
            if self.states.get((path, axis_id)) == value:
                continue
            component = self.component_at(path)
            axis = component.axis(axis_id) if component is not None else None
            entered = axis.value(str(value)) if axis is not None else None
            if axis is None or entered is None:
                continue
            said = Once(axis.id, entered.id)
            for at, box in reversed(line_to(self.scene, path)[:-1]):
                if said in box.interaction.one_at_a_time:
                    self._set_back(found, box, at if box.component else at[:-1], path)
        return found

    def _set_back(self, states: States, box: SceneNode, instance: Path, but: Path) -> None:
        for path, node in instances_in(box, instance):
            component = self.document.components.get(node.component)
            if component is not None and path != but:
                for once in box.interaction.one_at_a_time:
                    self._set_one_back(states, component, path, once)

    def _set_one_back(self, states: States, component: Component, path: Path, once: Once) -> None:
        axis = component.axis(once.axis)
        if axis is None or axis.value(once.value) is None:
            return
        if states.get((path, axis.id), self.value(path, axis.id)) == once.value:
            others = [v.id for v in axis.values if v.id != once.value]
            rest = axis.default if axis.default != once.value else (others or [once.value])[0]
            states[path, axis.id] = rest
