"""What the cues of one round set: which axis gets which value, and what a box that allows a
value only once sets back."""

from __future__ import annotations

from collections.abc import Iterator

from immutables import Map

from outgrowth.core.document.cues import Change, Motion, Path
from outgrowth.core.document.records import Axis, Component
from outgrowth.core.document.values import Literals, Once
from outgrowth.core.document.variants import offered
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import line_to
from outgrowth.core.runtime.listening import Heard, meant
from outgrowth.core.runtime.situation import Assignment, Situation, StateKey, States


class Round:
    """The changes of all cues that act together. Of two that disagree, the first's counts."""

    def __init__(self, situation: Situation) -> None:
        self._situation = situation
        self._states: States = dict(situation.chosen)
        self.assignments: dict[StateKey, Assignment] = {}
        self.restarted: set[Path] = set()
        self.travel: tuple[Change, Motion | None] | None = None

    def collect(self, heard: Heard) -> None:
        """Adds what a cue does."""
        for change in heard.cue.changes:
            if change.act in ("go", "back"):
                # One can go to one place only: the first that says so.
                self.travel = self.travel or (change, heard.cue.motion)
            elif change.act == "restart":
                self.restarted.add(meant(heard.owner, change.at))
            else:
                assignment = self._changed(heard.owner, change)
                if assignment is not None:
                    self._assign(*assignment, heard.cue.motion)

    def _assign(self, key: StateKey, value: Literals, motion: Motion | None) -> None:
        others = list(self._others(key, value))
        # Neither an axis nor what would set it back may have been set in this round.
        if key in self.assignments or any(other in self.assignments for other, _ in others):
            return
        for each, new_value in ((key, value), *others):
            # A cue's own motion, else that of the value, the axis, the component, the file.
            own = self._situation.settled(motion) if motion is not None else None
            moves = own or self._situation.motion(*each, new_value)
            self.assignments[each] = Assignment(each, new_value, moves)
            self._states[each] = new_value

    # --- one change -----------------------------------------------------------------------

    def _changed(self, owner: Path, change: Change) -> tuple[StateKey, Literals] | None:
        """What a change of an owner's cue sets, and to what; None where it is not there."""
        path = meant(owner, change.at)
        component = self._situation.component_at(path)
        if component is None:
            return None
        if change.act == "give":
            return ((path, change.name), change.value) if component.property(change.name) else None
        axis = self._situation.axis_at(path, change.name)
        if axis is None or axis.driver == "room":
            return None  # what the room sets nobody else does
        if change.act == "next":
            return (path, axis.id), self._next_value(component, axis, path)
        # By id, or, in files from before ids, by name.
        value = axis.value(str(change.value)) or axis.named(str(change.value))
        return ((path, axis.id), value.id) if value is not None else None

    def _value(self, key: StateKey) -> Literals | None:
        value = self._states.get(key)
        return value if value is not None else self._situation.value(*key)

    def _next_value(self, component: Component, axis: Axis, path: Path) -> str:
        """The value current this one that is offered; the first current the last."""
        current = self._value((path, axis.id))
        ids = [value.id for value in axis.values]
        index = ids.index(str(current)) if current in ids else -1
        node = self._situation.node_at(path)
        variant: Map[str, str] = (node.variant if node is not None else None) or Map()
        for step in range(1, len(ids) + 1):
            next_id = ids[(index + step) % len(ids)]
            # What is not offered is passed over, as a person would.
            if offered(component, variant.set(axis.id, next_id)):
                return next_id
        return str(current)

    # --- one at a time ----------------------------------------------------------------------

    def _others(self, key: StateKey, value: Literals) -> Iterator[tuple[StateKey, str]]:
        """What the box around an instance, the innermost that allows this value only once, sets
        back: in all its members, however deep, but those around the instance or in it."""
        path, axis_id = key
        once = Once(axis_id, str(value))
        # In everything, not only in what is shown: a member out of sight is set back too.
        for holder_path, box in reversed(line_to(self._situation.everything, path)[:-1]):
            onces = box.interaction.one_at_a_time
            if once in onces:
                instance = holder_path if box.component else holder_path[:-1]
                for member, node in _members(box, instance, onces):
                    # What holds the chosen one, or is in it, may have the same axis for another
                    # reason.
                    if not _within(member, path) and not _within(path, member):
                        yield from self._set_back(member, node, onces)
                return

    def _set_back(
        self, path: Path, node: SceneNode, onces: tuple[Once, ...]
    ) -> Iterator[tuple[StateKey, str]]:
        component = self._situation.document.components.get(node.component)
        for once in onces if component is not None else ():
            axis = component.axis(once.axis) if component is not None else None
            if axis is None or self._value((path, axis.id)) != once.value:
                continue
            others = [v.id for v in axis.values if v.id != once.value]
            if others:
                # Back to the default, or where that is the value itself, to the first other one.
                rest = axis.default if axis.default != once.value else others[0]
                yield (path, axis.id), rest


def _members(
    box: SceneNode, instance: Path, onces: tuple[Once, ...]
) -> Iterator[tuple[Path, SceneNode]]:
    """All instances in a box, however deep; a box inside that says the same keeps its own."""
    for child_id, child in zip(box.ids, box.children, strict=True):
        inside = (*instance, child_id) if child.component else instance
        if child.component:
            yield inside, child
        if set(onces).isdisjoint(child.interaction.one_at_a_time):
            yield from _members(child, inside, onces)


def _within(path: Path, holder: Path) -> bool:
    return path[: len(holder)] == holder
