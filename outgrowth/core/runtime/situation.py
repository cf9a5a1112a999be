"""What runs and how it stands: the document, what is set in it, and the picture of that."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from itertools import groupby, pairwise
from typing import NamedTuple

from outgrowth.core.document.axis_parts import is_set_apart, resting_value
from outgrowth.core.document.cues import Motion, Path
from outgrowth.core.document.records import Axis, Component, Document, Owner
from outgrowth.core.document.referring import settled
from outgrowth.core.document.values import Literals
from outgrowth.core.document.variants import holds
from outgrowth.core.layout import Layout
from outgrowth.core.layout.by_room import asks_room_height
from outgrowth.core.layout.scrolling import unstuck
from outgrowth.core.motion.movement import Movement
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.cascade import InstanceInput, LiveValues
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import line_to, scene_at
from outgrowth.core.runtime.inner_changes import inner_changes, own_motion, relaying_components
from outgrowth.core.runtime.listening import Heard, Listening, meant
from outgrowth.core.runtime.scrolling import Scrolls
from outgrowth.core.runtime.subject import Subject

UNBOUNDED = float("inf")

StateKey = tuple[Path, str]
States = dict[StateKey, Literals]
"""What is set while running: (instance path, axis or property id) → its value."""


class Assignment(NamedTuple):
    """One value that is set (None: it is at rest again), and how that moves."""

    key: StateKey
    value: Literals | None
    motion: Motion


class Turn(NamedTuple):
    """The scenes before and after a change: as shown, and with what is not shown too (None
    where nobody asks for that)."""

    before: SceneNode
    after: SceneNode
    all_before: SceneNode | None
    all_after: SceneNode | None


class Situation:
    """The running owner; times in ms.

    chosen         what was set by cues
    driven_states  what pointer and focus set
    """

    def __init__(
        self, resolver: Resolver, layout: Layout, document: Document, subject: Subject
    ) -> None:
        self._resolver = resolver
        self._finder = Resolver(everything=True)
        self.layout = layout
        self.document = document
        self.subject = subject
        self.reduced_motion = False
        self.chosen: States = {}
        self.driven_states: States = {}
        self._everything: SceneNode | None = None
        self.listening = Listening(document, self.owner, self.owner_at)
        self.movement = Movement(self.lay_out({}))
        self.scrolls = Scrolls()

    def at_time(self, now: float) -> View:
        """What is seen at a time in ms."""
        return self.scrolls.scrolled_view(self.movement.at_time(now))

    @property
    def rest(self) -> View:
        """What will be seen when nothing moves any more."""
        return self.scrolls.scrolled_view(self.movement.target)

    # --- what there is ------------------------------------------------------------------

    @property
    def owner(self) -> Owner:
        """The screen or component that runs. Raises KeyError."""
        owner = self.document.owner(self.subject.owner)
        if owner is None:
            raise KeyError(self.subject.owner)
        return owner

    @property
    def states(self) -> States:
        """All that differs from rest."""
        return self.chosen | self.driven_states

    @property
    def target(self) -> SceneNode:
        """The scene that is shown, or moved to."""
        return self.movement.target.scene

    @property
    def everything(self) -> SceneNode:
        """The same with all that is not shown."""
        if not self.listening.hides:
            return self.target
        if self._everything is None:
            self._everything = self._scene(self._finder, self.states)
        return self._everything

    def node_at(self, path: Path) -> SceneNode | None:
        """A node, whether it is shown or not."""
        scene = scene_at(self.target, path)
        return scene if scene is not None else scene_at(self.everything, path)

    def names(self, path: Path) -> list[str]:
        """What the instances on the way to a path, and the node there, are called."""
        results: list[str] = []
        for scene in (self.target, self.everything):
            line = line_to(scene, path)
            steps = {path[:n]: n for n in range(1, len(path) + 1)}
            for (_, holder), (holder_path, _) in pairwise(line):
                if holder_path in steps and holder_path[-1] in holder.ids:
                    results.append(holder.names[holder.ids.index(holder_path[-1])])
            if line:
                break
        return results

    def component_at(self, path: Path) -> Component | None:
        """The component that an instance follows, None where nothing is."""
        node = self.node_at(path)
        return self.document.components.get(node.component) if node is not None else None

    def owner_at(self, path: Path) -> Owner | None:
        """The component of the instance at a path; what runs for ()."""
        return self.component_at(path) if path else self.owner

    def value(self, path: Path, name: str) -> Literals | None:
        """The value that an axis has (a property's, if it was given while running)."""
        node = self.node_at(path)
        variant = node.variant if node is not None else None
        value = variant.get(name) if variant is not None else None
        return value if value is not None else self.chosen.get((path, name))

    def axis_at(self, path: Path, text: str) -> Axis | None:
        """An instance's axis by its id, or by its name (as inner parts call their holder's)."""
        component = self.component_at(path)
        if component is None:
            return None
        # Only what an inner part says of its holder comes by name; ids win.
        named = (axis for axis in component.axes if axis.name == text)
        return component.axis(text) or next(named, None)

    def may(self, heard: Heard) -> bool:
        """Whether a cue's conditions hold."""
        cue = heard.cue
        if cue.when:
            node = self.node_at(heard.owner)
            if node is None or node.variant is None or not holds(cue.when, node.variant):
                return False
        for condition in cue.conditions:
            path = meant(heard.owner, condition.at)
            axis = self.axis_at(path, condition.axis)
            if axis is None or self.value(path, axis.id) not in condition.values:
                return False
        return True

    def motion(self, path: Path, name: str, value: object) -> Motion:
        """How an axis comes to a value: as the value says, the axis, the component, the
        document."""
        component = self.component_at(path)
        own = None
        if component is not None:
            axis = component.axis(name)
            reached = resting_value(axis) if value is None and axis is not None else value
            own = own_motion(component, axis, str(reached))
        return self.settled(own or self.document.motion)

    def settled(self, motion: Motion) -> Motion:
        """A motion by what the tokens say that it names, in the mode that is shown."""
        return settled(motion, self.document.token)

    def exists(self, key: StateKey, value: Literals) -> bool:
        """Whether a value can still be set."""
        path, name = key
        component = self.component_at(path)
        axis = component.axis(name) if component is not None else None
        if axis is not None:
            return axis.value(str(value)) is not None
        return component is not None and component.property(name) is not None

    # --- changing it --------------------------------------------------------------------

    def is_set_apart(self, key: StateKey, value: Literals | None) -> bool:
        """Whether a value of an instance's axis is one that the pointer neither sets nor takes."""
        axis = self.axis_at(*key)
        return axis is not None and is_set_apart(axis, value)

    def apply(
        self, assignments: Sequence[Assignment], driven_axes: States, now: float
    ) -> Turn | None:
        """Sets values one after the other, in this order; each difference that this makes in
        the picture belongs to what was set. None where nothing changes."""
        # The states, not the pictures, are compared: a value that is set again moves nothing.
        before, chosen = self.states, dict(self.chosen)
        for key, value, _ in assignments:
            if value is not None:
                chosen[key] = value
        # What pointer or focus set comes before what was chosen, as long as they do.
        steps = [step for step in assignments if step.key not in driven_axes]
        # What ends comes first, then what is driven now: from the outside in, the focus last.
        ended = [key for key in self.driven_states if key not in driven_axes]
        for key in (*ended, *driven_axes):
            if self.driven_states.get(key) != driven_axes.get(key):
                value = driven_axes.get(key, chosen.get(key))
                steps.append(Assignment(key, value, self.motion(*key, value)))
        steps = [step for step in steps if before.get(step.key) != step.value]
        listening = self.listening
        watching = listening.becoming or (listening.timed and listening.hides)
        all_before = self.everything if watching and steps else None
        previous = self.target
        self.chosen, self.driven_states = chosen, driven_axes
        if not steps:
            return None
        # Invariant: worked out of document and subject; whoever changes these drops it.
        self._everything = None
        self._move(before, steps, now)
        return Turn(previous, self.target, all_before, self.everything if watching else None)

    def _move(self, before: States, steps: list[Assignment], now: float) -> None:
        if self.reduced_motion:
            self.movement.cut(self.lay_out(self.states))
            return
        self._run_out(before, steps, now, bool(relaying_components(self.document)))

    def _run_out(self, before: States, steps: list[Assignment], now: float, relays: bool) -> None:
        """Begins the movements of values that are set one after the other. `relays`: what they set
        further in may move by itself."""
        part_motion = self.listening.motion_of_part
        # What is set with one motion, by origins at rest, is one difference; the order of the
        # steps is kept, so only neighbours are taken together.
        together = groupby(steps, lambda s: (s.motion, self.movement.busy(s.key)))
        passed = 0
        for (motion, busy), group in together:
            same = list(group)
            # What still moves takes over what is left of its own, so it needs a row of its own.
            if busy or len(same) == 1:
                for step in same:
                    passed += 1
                    states = _after(before, steps[:passed])
                    target, held, inner = self._parted([step], states, relays)
                    self.movement.change(target, now, step.key, motion, part_motion)
                    self._run_out(states | held, inner, now, False)
            else:
                first, passed = passed, passed + len(same)
                states = _after(before, steps[:passed])
                target, held, inner = self._parted(same, states, relays)
                origins = [
                    (step.key, partial(self._views_of_step, before | held, steps, first + n))
                    for n, step in enumerate(same)
                ]
                self.movement.change_many(target, now, origins, motion, part_motion)
                self._run_out(states | held, inner, now, False)

    def _parted(
        self, steps: list[Assignment], states: States, relays: bool
    ) -> tuple[View, States, list[Assignment]]:
        """The layout after some steps without what moves by itself further in; what that is held
        at for it; and the steps that let it go."""
        target = self.lay_out(states)
        if not relays or not any(self._relays(step.key) for step in steps):
            return target, {}, []
        scenes, own = (self.target, target.scene), {step.key for step in steps}
        inner = inner_changes(self.document, self.owner_at, scenes, own)
        if not inner:
            return target, {}, []
        held: States = {change.key: change.before for change in inner}
        released = [
            Assignment(change.key, states.get(change.key), change.motion) for change in inner
        ]
        return self.lay_out(states | held), held, released

    def _relays(self, key: StateKey) -> bool:
        owner = self.owner_at(key[0])
        return owner is not None and owner.id in relaying_components(self.document)

    def _views_of_step(self, before: States, steps: list[Assignment], n: int) -> tuple[View, View]:
        """The layouts before and after one of several steps."""
        without = _after(before, steps[:n])
        return self.lay_out(without), self.lay_out(_after(without, steps[n : n + 1]))

    def cut(self) -> None:
        """Shows what there is to be shown at once."""
        self._everything = None
        self.movement.cut(self.lay_out(self.states))

    def turn_to(self, subject: Subject, chosen: States, now: float, motion: Motion | None) -> None:
        """Runs something else of the document, which fades in over what was shown."""
        self.subject, self.chosen, self.driven_states = subject, chosen, {}
        self.scrolls = Scrolls()
        self._everything = None
        self.listening = Listening(self.document, self.owner, self.owner_at)
        target = self.lay_out(chosen)
        # Media Queries 5, 11.3 (prefers-reduced-motion): a cut instead of a movement.
        if self.reduced_motion or motion is None:
            self.movement.cut(target)
        else:
            self.movement.replace(target, now, motion)

    def update(self, document: Document, subject: Subject) -> None:
        """Goes on with an edited document; what can still be set stays set."""
        self.document, self.subject = document, subject
        self._everything = None
        self.listening = Listening(document, self.owner, self.owner_at)
        self.movement.cut(self.lay_out(self.states))
        chosen = {k: v for k, v in self.chosen.items() if self.exists(k, v)}
        driven_axes = {k: v for k, v in self.driven_states.items() if self.exists(k, v)}
        if (len(chosen), len(driven_axes)) != (len(self.chosen), len(self.driven_states)):
            self.chosen, self.driven_states = chosen, driven_axes
            self.cut()

    # --- pictures -----------------------------------------------------------------------

    def lay_out(self, states: States) -> View:
        """The picture in which these values are set."""
        scene = self._scene(self._resolver, states)
        width, height = self._room(scene)
        room_x = UNBOUNDED if width is None else width
        room_y = UNBOUNDED if height is None else height
        scene, placed = self.layout.view(scene, room_x, room_y, not self.subject.component)
        return View(scene, unstuck(scene.layout, placed))

    def _room(self, scene: SceneNode) -> tuple[float | None, float | None]:
        """The room of what runs (px), None for as much as it asks for. A part that its room sets,
        and that is given none, stands in the nearest one that shows the variant that runs."""
        subject = self.subject
        width, height = subject.width, subject.height
        by_height = asks_room_height(scene.layout)
        if not (
            subject.component and scene.rooms and (width is None or (by_height and not height))
        ):
            return width, height
        shown = self._resolver.variant(
            self.document, subject.owner, subject.variant, rtl=subject.rtl
        )
        placed = self.layout.view(shown)[1]
        if height is None and by_height:
            height = placed.height
        return placed.width if width is None else width, height

    def _scene(self, resolver: Resolver, states: States) -> SceneNode:
        # Sorted, so that the same states give the same input and share its result.
        ordered = sorted(states.items(), key=lambda item: item[0])
        live: LiveValues = tuple([(path, name, value) for (path, name), value in ordered])
        subject = self.subject
        if subject.component:
            choices = tuple(sorted(subject.variant.items()))
            given = InstanceInput(subject.owner, choices, (), live, running=True)
            instance_input = given._replace(rtl=subject.rtl)
            return resolver.instance(self.document, instance_input)
        owner = self.document.screens[subject.owner]
        return resolver.screen(self.document, owner, live, running=True, rtl=subject.rtl)


def _after(states: States, steps: Sequence[Assignment]) -> States:
    states_after = dict(states)
    for key, value, _ in steps:
        if value is None:
            states_after.pop(key, None)
        else:
            states_after[key] = value
    return states_after
