"""Runs a screen, or one component alone: pointer, keys and time come in, pictures go out.

Headless and driven by a virtual clock. The same calls give the same pictures, and
`advance(300)` gives the same as any pieces of it. What a cue does happens at once, in rounds:
the changes of one event together, then what listens to them, until nothing does any more.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from outgrowth.core.document.cues import LONG_PRESS_MS, Change, Motion, Path
from outgrowth.core.document.records import (
    Component,
    Document,
    Owner,
)
from outgrowth.core.document.values import Literals
from outgrowth.core.document.variants import holds
from outgrowth.core.layout import Layout, Placed
from outgrowth.core.motion.movement import Moved, Movement
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.cascade import InstanceInput, Live
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import line_to, scene_at
from outgrowth.core.runtime.changes import Key, Shown, States
from outgrowth.core.runtime.driven import Hand, driven
from outgrowth.core.runtime.hit import hit
from outgrowth.core.runtime.keys import TAPPED_BY, Focus, enabled, stepped, takes_keys
from outgrowth.core.runtime.listening import Heard, Listening
from outgrowth.core.runtime.subject import Subject
from outgrowth.core.runtime.timers import NEVER, Timer, refreshed

MOST_ROUNDS = 100
"""How many rounds of cues one instant may take before the loop is cut."""

_CUT = Motion(0.0)


class Runs(NamedTuple):
    """A screen that was left, and what was set on it."""

    owner: str
    states: States


class Runtime:
    """One running thing. Times are in ms since it started.

    touch           there is no mouse: nothing hovers
    reduced_motion  every change is a cut
    problems        loops that were cut, as sentences
    """

    def __init__(
        self, resolver: Resolver, layout: Layout, document: Document, subject: Subject
    ) -> None:
        self._resolver = resolver
        self.layout = layout
        self._document = document
        self._asked = subject
        self._subject = subject
        self._now = 0.0
        self.touch = False
        self.reduced_motion = False
        self.problems: list[str] = []
        self._begin()

    def _begin(self) -> None:
        """At rest, with nothing pressed, pointed at or waited for."""
        self._subject = self._asked
        self._point: tuple[float, float] | None = None
        self._chain: tuple[Path, ...] = ()
        self._pressed: tuple[Path, ...] | None = None
        self._long: float = NEVER
        self._was_long = False
        self._focus: Path | None = None
        self._set: States = {}
        self._driven: States = {}
        self._left: list[Runs] = []
        self._timers: dict[tuple[Path, str], Timer] = {}
        self._rounds = 0
        self._rounds_at = -1.0
        self._listening = Listening(self._document, self._owner)
        self._movement = Movement(self._laid_out())
        self._present: frozenset[tuple[Path, str]] = frozenset()
        self._watched = self._watch()
        self._appeared()

    # --- reading ------------------------------------------------------------------------

    @property
    def now(self) -> float:
        return self._now

    @property
    def moving(self) -> bool:
        return self._movement.moving

    @property
    def waiting(self) -> bool:
        """Whether something will happen by itself: a movement ends, or a timer."""
        return self._next_event() < NEVER

    @property
    def target_placed(self) -> Placed:
        """The layout that is being moved to (or that is shown, at rest)."""
        return self._movement.target.placed

    @property
    def target(self) -> View:
        return self._movement.target

    @property
    def states(self) -> Mapping[Key, Literals]:
        """What differs from rest: (instance path, axis or property id) → its value."""
        return self._set | self._driven

    @property
    def focus(self) -> Path | None:
        """The instance that the keys go to."""
        return self._focus

    @property
    def shown(self) -> str:
        """The id of the screen (or component) that is shown now."""
        return self._subject.owner

    @property
    def cursor(self) -> str:
        """What the pointer should look like: what the innermost node under it says."""
        for path in reversed(self._chain):
            node = scene_at(self._target, path)
            if node is not None and node.interaction.cursor != "auto":
                return node.interaction.cursor
        return "default"

    def view(self) -> View:
        """What is on the screen now."""
        return self._movement.at(self._now)

    def moved(self) -> list[Moved]:
        """All tracks under way."""
        return self._movement.moved()

    # --- from outside -------------------------------------------------------------------

    def update(self, document: Document, subject: Subject | None = None) -> None:
        """Goes on with an edited document; states that still exist are kept. What was
        edited is shown at once, not tweened. Another subject starts at rest."""
        asked = subject or self._asked
        if document is self._document and asked == self._asked:
            return
        self._document = document
        other = asked.owner != self._asked.owner or asked.variant != self._asked.variant
        self._asked = asked
        if other or document.owner(self._subject.owner) is None:
            self._begin()
            return
        if self._subject.owner == asked.owner:
            self._subject = asked
        self._left = [run for run in self._left if document.owner(run.owner) is not None]
        self._listening = Listening(document, self._owner)
        self._set = {k: v for k, v in self._set.items() if self._exists(k, v)}
        self._driven = {k: v for k, v in self._driven.items() if self._exists(k, v)}
        self._movement.cut(self._laid_out())
        self._watched = self._watch()
        self._appeared(at_once=True)
        self._settle()

    def restart(self) -> None:
        """Back to rest, at once; the pointer is where it was, but acts when it moves."""
        self._begin()

    def pointer_move(self, x: float, y: float) -> None:
        """The mouse is at x, y px of the subject (on touch: the finger that is down)."""
        if not self.touch or self._pressed is not None:
            self._point = x, y
            self._settle()

    def pointer_leave(self) -> None:
        """The mouse is gone."""
        self._point = None
        self._settle()

    def press(self, x: float, y: float) -> None:
        """The main button goes down, or a finger."""
        self._point = x, y
        self._pressed = self._under()
        self._was_long = False
        self._long = self._now + LONG_PRESS_MS
        self._focus_on(self._focusable_in(self._pressed))
        self._settle()
        self._fire("press", self._pressed)

    def release(self, x: float, y: float) -> None:
        """The main button goes up, or the finger: on what was pressed, that is a tap."""
        self._point = x, y
        pressed, self._pressed = self._pressed or (), None
        self._long = NEVER
        under = self._under()
        shared = tuple([a for a, b in zip(pressed, under, strict=False) if a == b])
        if self.touch:
            self._point = None
        self._settle()
        self._fire("release", pressed)
        if not self._was_long:
            self._fire("tap", shared)

    def key(self, name: str, shift: bool = False) -> None:
        """A key goes down, by its name in the DOM: Tab, Enter, " ", ArrowDown, a …
        What a cue listens for comes before what the key does by itself."""
        line = [path for path, _ in line_to(self._target, self._focus)] if self._focus else [()]
        for path in reversed(line):
            heard = self._hear(path, "key")
            found = [h for h in heard if h.cue.trigger.key == name and self._may(h)]
            if found:
                self._perform(found)
                return
        if name == "Tab":
            self._tab(-1 if shift else 1)
        elif self._focus is not None:
            self._keyed(self._focus, name)

    def tab_leaves(self, back: bool) -> bool:
        """Whether Tab (or Shift+Tab) would come around to the other end."""
        stops = self._order().stops()
        if not stops:
            return True
        return self._focus is not None and self._focus == stops[0 if back else -1]

    def drop_focus(self) -> None:
        """The keys go elsewhere."""
        self._focus_on(None)

    def advance(self, ms: float) -> None:
        """Lets time pass. Whatever ends or is due on the way happens at its own time, so the
        pieces in which time is handed in make no difference."""
        until = self._now + max(ms, 0.0)
        while (due := self._next_event()) <= until:
            self._now = due
            self._happen()
        self._now = until

    # --- time ---------------------------------------------------------------------------

    def _next_event(self) -> float:
        due = min((timer.due for timer in self._timers.values()), default=NEVER)
        return min(due, self._long, self._movement.next_end)

    def _happen(self) -> None:
        """All that is due now: movements end, then a long press, then timers."""
        if self._movement.next_end <= self._now:
            self._movement.prune(self._now)
        if self._long <= self._now:
            self._long, self._was_long = NEVER, False
            under = self._under()
            pressed = self._pressed or ()
            shared = tuple([a for a, b in zip(pressed, under, strict=False) if a == b])
            self._was_long = self._fire("long-press", shared)
        due = [(key, timer) for key, timer in self._timers.items() if timer.due <= self._now]
        for key, timer in sorted(due, key=lambda pair: (pair[1].due, pair[0], pair[1].heard.order)):
            if self._timers.get(key) is timer:
                self._timers[key] = timer._replace(due=NEVER)
                self._perform([timer.heard])
        self._settle()

    # --- the pointer --------------------------------------------------------------------

    def _under(self) -> tuple[Path, ...]:
        """The nodes under the pointer, from the root in; nothing inside of what is not
        enabled."""
        if self._point is None:
            return ()
        view = self.view()
        found = hit(view.scene, view.placed, *self._point)
        chain: list[Path] = []
        for path, node in line_to(view.scene, found.path) if found is not None else ():
            component = self._document.components.get(node.component)
            if node.component and not enabled(component, node):
                break
            chain.append(path)
        return tuple(chain)

    def _settle(self) -> None:
        """Gives every driven axis its value from where the pointer and the focus are, and
        tells what was entered and left."""
        chain = self._under()
        hand = Hand(chain, self._pressed, self._focus, self.touch)
        wanted = driven(self._here, hand)
        before, self._chain = self._chain, () if self.touch else chain
        if wanted != self._driven:
            self._change(self._set, wanted, None)
        left = [path for path in reversed(before) if path not in self._chain]
        entered = [path for path in self._chain if path not in before]
        for kind, paths in (("leave", left), ("enter", entered)):
            for path in paths:
                self._perform([h for h in self._hear(path, kind) if self._may(h)])

    # --- focus and keys -----------------------------------------------------------------

    def _order(self) -> Focus:
        return Focus(self._document, self._target, self._takes_focus)

    def _takes_focus(self, path: Path, node: SceneNode, component: Component) -> bool:
        if any(axis.driver == "focus" for axis in component.axes):
            return True
        if takes_keys(node) or node.interaction.role == "textbox":
            return True
        kinds = ("tap", "key", "focus", "blur")
        return any(self._hear(path, kind) for kind in kinds)

    def _focusable_in(self, chain: tuple[Path, ...]) -> Path | None:
        """The innermost instance that was pressed and can have the focus."""
        for path in reversed(chain):
            component, node = self._component_at(path), scene_at(self._target, path)
            if node is None:
                continue
            if component is None or not node.component:
                if takes_keys(node):
                    return path
            elif self._takes_focus(path, node, component):
                return path
        return None

    def _focus_on(self, path: Path | None) -> None:
        before, self._focus = self._focus, path
        if before == path:
            return
        self._settle()
        for kind, at in (("blur", before), ("focus", path)):
            if at is not None:
                self._perform([h for h in self._hear(at, kind) if self._may(h)])

    def _tab(self, step: int) -> None:
        stops = self._order().stops()
        if not stops:
            return
        if self._focus in stops:
            at = stops.index(self._focus) + step
            self._focus_on(stops[at % len(stops)])
        else:
            self._focus_on(stops[0 if step > 0 else -1])

    def _keyed(self, path: Path, name: str) -> None:
        """What a key does to the part that has the focus, by its role."""
        node = scene_at(self._target, path)
        if node is None:
            return
        if name in TAPPED_BY.get(node.interaction.role, ()):
            self._fire("tap", tuple([p for p, _ in line_to(self._target, path)]))
            return
        group = self._order().group_of(path)
        other = stepped(group, path, name) if group is not None else None
        if other is not None:
            self._focus_on(other)
            self._fire("tap", tuple([p for p, _ in line_to(self._target, other)]))

    # --- cues ---------------------------------------------------------------------------

    def _hear(self, path: Path, kind: str) -> list[Heard]:
        return self._listening.at(self._target, path, kind)

    def _fire(self, kind: str, chain: tuple[Path, ...]) -> bool:
        """Brings an event to the innermost node that listens for it; whether one did."""
        for path in reversed(chain):
            heard = self._hear(path, kind)
            if heard:
                self._perform([h for h in heard if self._may(h)])
                return True
        return False

    def _may(self, heard: Heard) -> bool:
        """Whether a cue's conditions hold."""
        if not heard.cue.when:
            return True
        node = scene_at(self._target, heard.owner)
        variant = node.variant if node is not None else None
        return variant is not None and holds(heard.cue.when, variant)

    def _perform(self, heard: Iterable[Heard]) -> None:
        """Makes the changes of all these cues together; of two that disagree, the first's.
        Then whatever listens to what has changed."""
        states, motion = dict(self._set), None
        done: set[Key] = set()
        gone: tuple[Change, Motion | None] | None = None
        for one in heard:
            if not self._another_round(one):
                return
            for change in one.cue.changes:
                if change.act in ("go", "back"):
                    gone = gone or (change, one.cue.motion)
                    continue
                found = self._here.changed(one.owner, change, states)
                if found is not None and found[0] not in done:
                    done.add(found[0])
                    states[found[0]] = found[1]
                    motion = motion or one.cue.motion
        if states != self._set:
            self._change(self._here.one_at_a_time(states), self._driven, motion)
        if gone is not None:
            self._travel(*gone)

    def _another_round(self, heard: Heard) -> bool:
        """Counts the cues of this instant; False where they go round in a circle."""
        if self._rounds_at != self._now:
            self._rounds_at, self._rounds = self._now, 0
        self._rounds += 1
        if self._rounds <= MOST_ROUNDS:
            return True
        node = " › ".join((*heard.owner, *heard.cue.node)) or self._owner.name
        said = f"The cues at {node} go round in a circle; they were stopped."
        if said not in self.problems:
            self.problems.append(said)
        return False

    # --- changing what is shown ---------------------------------------------------------

    def _change(self, states: States, driven: States, motion: Motion | None) -> None:
        before = self._set | self._driven
        self._set, self._driven = states, driven
        after = self._set | self._driven
        changed = [key for key in before | after if before.get(key) != after.get(key)]
        motions = {path: motion or self._motion(path, name) for path, name in sorted(changed)}
        target = self._laid_out()
        if self.reduced_motion:
            self._movement.cut(target)
        else:
            scene = target.scene
            key = next(iter(motions), ())
            self._movement.change(
                target,
                self._now,
                key,
                motions.get(key, _CUT),
                lambda path, name: self._listening.motion_of_part(scene, path, name),
            )
        self._became()
        self._appeared()

    def _motion_of(
        self, scene: SceneNode, motions: dict[Path, Motion], node: Path, name: str
    ) -> Motion:
        """How a node moves in this change: as an owner says for the node, else as the change
        nearest to it moves."""
        own = self._listening.motion_of_part(scene, node, name)
        if own is not None:
            return own
        near = [path for path in motions if node[: len(path)] == path]
        return motions[max(near, key=len)] if near else next(iter(motions.values()), _CUT)

    def _motion(self, path: Path, name: str) -> Motion:
        """The motion of an axis: at the value entered, the axis, the component, the document."""
        component = self._component_at(path)
        axis = component.axis(name) if component is not None else None
        if component is None or axis is None:
            return (component.motion if component else None) or self._document.motion
        states = self._set | self._driven
        entered = axis.value(str(states.get((path, name), axis.default)))
        own = entered.motion if entered is not None else None
        return own or axis.motion or component.motion or self._document.motion

    def _watch(self) -> dict[Key, Literals | None]:
        watched = dict.fromkeys(self._listening.watched(self._target))
        return {key: self._value(*key) for key in watched}

    def _became(self) -> None:
        """Tells those who wait for an axis to become what it now is, by whatever it was set:
        a cue, the pointer, or a rule of a holder."""
        before, self._watched = self._watched, self._watch()
        for (path, name), value in list(self._watched.items()):
            gone_on = self._watched.get((path, name)) != value
            if before.get((path, name), value) == value or value is None or gone_on:
                continue
            self._perform(
                [
                    heard
                    for heard in self._hear(path, "became")
                    if heard.cue.trigger.axis == name
                    and heard.cue.trigger.value in ("", value)
                    and self._may(heard)
                ]
            )

    def _appeared(self, at_once: bool = False) -> None:
        """Tells those who wait to appear, and sets the timers. `at_once`: what is there is
        taken as having been there."""
        timed = self._listening.timed(self._target)
        before, present = self._present, frozenset((h.owner, h.cue.id) for h in timed)
        self._present = present
        ready = [h for h in timed if h.cue.trigger.kind == "delay" and self._may(h)]
        self._timers = refreshed(self._timers, ready, self._here, self._now)
        new = [h for h in timed if h.cue.trigger.kind == "appear"]
        for heard in new:
            if (heard.owner, heard.cue.id) not in before and not at_once and self._may(heard):
                self._perform([heard])

    # --- screens ------------------------------------------------------------------------

    def _travel(self, change: Change, motion: Motion | None) -> None:
        """Shows another screen, or the one before; what was set there is as it was left."""
        if change.act == "back":
            if not self._left:
                return
            run = self._left.pop()
        else:
            if self._document.screens.get(change.name) is None:
                return
            self._left.append(Runs(self._subject.owner, self._set))
            run = Runs(change.name, {})
        component = run.owner in self._document.components
        same = run.owner == self._asked.owner
        self._subject = self._asked if same else Subject(run.owner, component)
        self._listening = Listening(self._document, self._owner)
        self._set, self._driven, self._timers = run.states, {}, {}
        self._pressed, self._focus, self._chain = None, None, ()
        self._present = frozenset()
        target = self._laid_out()
        if self.reduced_motion:
            self._movement.cut(target)
        else:
            moves = motion or self._document.motion
            self._movement.replace(target, self._now, moves)
        self._watched = self._watch()
        self._appeared()

    # --- looking things up --------------------------------------------------------------

    @property
    def _target(self) -> SceneNode:
        return self._movement.target.scene

    @property
    def _owner(self) -> Owner:
        owner = self._document.owner(self._subject.owner)
        if owner is None:
            raise KeyError(self._subject.owner)
        return owner

    @property
    def _here(self) -> Shown:
        return Shown(self._document, self._target, self._set)

    def _component_at(self, path: Path) -> Component | None:
        return self._here.component_at(path)

    def _value(self, path: Path, name: str) -> Literals | None:
        return self._here.value(path, name)

    def _exists(self, key: Key, value: Literals) -> bool:
        component = self._component_at(key[0])
        if component is None:
            return False
        axis = component.axis(key[1])
        if axis is not None:
            return axis.value(str(value)) is not None
        return component.property(key[1]) is not None

    # --- pictures -----------------------------------------------------------------------

    def _laid_out(self) -> View:
        states = sorted((self._set | self._driven).items(), key=lambda item: item[0])
        live: Live = tuple([(path, name, value) for (path, name), value in states])
        scene = self._scene(live)
        subject = self._subject
        room_x = NEVER if subject.width is None else subject.width
        room_y = NEVER if subject.height is None else subject.height
        return View(scene, self.layout.place(scene.layout, room_x, room_y))

    def _scene(self, live: Live) -> SceneNode:
        subject = self._subject
        if subject.component:
            choices = tuple(sorted(subject.variant.items()))
            given = InstanceInput(subject.owner, choices, (), live, running=True)
            return self._resolver.instance(self._document, given)
        owner = self._document.screens[subject.owner]
        return self._resolver.screen(self._document, owner, live, running=True)
