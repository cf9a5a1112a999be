"""Runs a screen, or one component alone: pointer, keys and time come in, pictures go out.

Headless and driven by a virtual clock. The same calls give the same pictures, and
`advance(300)` gives the same as any pieces of it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

from outgrowth.core.document.cues import Change, Motion, Path
from outgrowth.core.document.records import Document
from outgrowth.core.document.values import Literals
from outgrowth.core.geometry import Rect
from outgrowth.core.layout import Layout, Placed
from outgrowth.core.motion.movement import Moved
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene_paths import line_to, scene_at
from outgrowth.core.runtime.clock import NEVER, Clock, Timers
from outgrowth.core.runtime.consequences import Consequences
from outgrowth.core.runtime.dispatch import Dispatch
from outgrowth.core.runtime.hit import hit
from outgrowth.core.runtime.interaction_states import PointerState, interaction_states
from outgrowth.core.runtime.keyboard import Keyboard
from outgrowth.core.runtime.navigation import Navigation
from outgrowth.core.runtime.pointer import Chain, Pointer
from outgrowth.core.runtime.rounds import Round
from outgrowth.core.runtime.situation import Situation, StateKey
from outgrowth.core.runtime.subject import Subject

# How often a still pointer is asked again at one instant: what moves away from under it when it
# hovers, and comes back when it does not, would never end.
MOST_LOOKS = 8


# A day: with a timer that turns for ever, time without end would never be over.
_LONGEST_MS = 86_400_000.0


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
        self._clock = Clock()
        self._now = 0.0
        self.problems: list[str] = []
        self._begin(document, subject, touch=False, reduced_motion=False)

    def _begin(
        self, document: Document, subject: Subject, touch: bool, reduced_motion: bool
    ) -> None:
        """At rest, with nothing pressed, pointed at or waited for."""
        situation = Situation(self._resolver, self.layout, document, subject)
        situation.reduced_motion = reduced_motion
        self._situation = situation
        self._pointer = Pointer(situation)
        self._pointer.touch = touch
        self._navigation = Navigation(situation, subject)
        self._timers = Timers(situation)
        self._dispatch = Dispatch(situation, self.problems, self._performed, self._travel)
        self._keyboard = self._new_keyboard()
        self._consequences = Consequences(situation, self._timers, self._dispatch)
        self._over: Chain = ()
        self._looked_at: View | None = situation.movement.target
        self._consequences.arrive(self._now)
        self._dispatch.run()
        self._finish()

    def _new_keyboard(self) -> Keyboard:
        return Keyboard(
            self._situation, self._pointer, self._dispatch, lambda: self._react(ended=False)
        )

    # --- reading ------------------------------------------------------------------------

    @property
    def now(self) -> float:
        """How long it runs (ms)."""
        return self._now

    @property
    def moving(self) -> bool:
        """Whether the next frame is another."""
        return self._situation.movement.moving

    @property
    def waiting(self) -> bool:
        """Whether something will happen by itself: a movement ends, or a timer."""
        return self._next_event() < NEVER

    @property
    def target_placed(self) -> Placed:
        """The layout that is being moved to (or that is shown, at rest)."""
        return self._situation.rest.placed

    @property
    def target(self) -> View:
        """The picture that it is on its way to."""
        return self._situation.movement.target

    @property
    def states(self) -> Mapping[StateKey, Literals]:
        """What differs from rest: (instance path, axis or property id) → its value."""
        return self._situation.states

    @property
    def focus(self) -> Path | None:
        """The node that the keys go to."""
        return self._keyboard.focus.path

    @property
    def shown_owner(self) -> str:
        """The id of the screen (or component) that is shown now."""
        return self._situation.subject.owner

    @property
    def owner_name(self) -> str:
        """What that is called."""
        return self._situation.owner.name

    def named_states(self) -> list[tuple[list[str], str, str]]:
        """What differs from rest, in names: of the instance from what runs in, of the axis or
        property, and of the value."""
        situation, named_states = self._situation, []
        for (path, name), value in sorted(self.states.items(), key=lambda item: item[0]):
            component = situation.component_at(path)
            axis = component.axis(name) if component is not None else None
            axis_value = axis.value(str(value)) if axis is not None else None
            prop = component.property(name) if component is not None else None
            called = axis.name if axis is not None else prop.name if prop is not None else name
            value_name = axis_value.name if axis_value is not None else str(value)
            named_states.append(([self.owner_name, *situation.names(path)], called, value_name))
        return named_states

    @property
    def cursor(self) -> str:
        """What the pointer should look like: what the innermost node under it says."""
        for path in reversed(self._pointer.over):
            node = scene_at(self._situation.target, path)
            if node is not None and node.interaction.cursor != "auto":
                return node.interaction.cursor
        return "default"

    def value(self, path: Path, name: str) -> Literals | None:
        """The value of an axis of the instance at a path, shown or not; None where there is
        no such axis."""
        return self._situation.value(path, name)

    def view(self) -> View:
        """What is on the screen now."""
        return self._situation.at_time(self._now)

    def moved(self) -> list[Moved]:
        """All values under way."""
        return self._situation.movement.moved()

    # --- how it is run ------------------------------------------------------------------

    @property
    def touch(self) -> bool:
        """Whether a finger is used, and no mouse."""
        return self._pointer.touch

    @touch.setter
    def touch(self, touch: bool) -> None:
        if touch != self.touch:
            self._pointer.touch = touch
            self._pointer.point = self._pointer.pressed = None
            self._pointer.chain, self._pointer.long_due = (), NEVER
            self._react()

    @property
    def reduced_motion(self) -> bool:
        """Whether every change is a cut."""
        return self._situation.reduced_motion

    @reduced_motion.setter
    def reduced_motion(self, reduced: bool) -> None:
        self._situation.reduced_motion = reduced
        if reduced and self.moving:
            self._situation.cut()
            self._looked_at = None
            self._react()

    def update(self, document: Document, subject: Subject | None = None) -> None:
        """Goes on with an edited document; states that still exist are kept. What was
        edited is shown at once, not tweened. Another subject starts at rest."""
        situation, before = self._situation, self._navigation.asked
        requested = subject or before
        if document is situation.document and requested == before:
            return
        other = requested.owner != before.owner or requested.variant != before.variant
        if other or document.owner(situation.subject.owner) is None:
            self._begin(document, requested, self.touch, self.reduced_motion)
            return
        self._navigation.asked = requested
        self._navigation.forget_missing(document)
        shown_subject = situation.subject
        situation.update(
            document, requested if shown_subject.owner == requested.owner else shown_subject
        )
        self._consequences.go_on(self._now)
        self._looked_at = None
        self._react()

    def resize(self, width: float | None, height: float | None) -> None:
        """Gives what runs another room in px, None for its own size. What its room sets comes at
        once, as its size does."""
        asked = self._navigation.asked._replace(width=width, height=height)
        self.update(self._situation.document, asked)

    def restart(self) -> None:
        """Back to rest, at once; the pointer acts again when it moves."""
        requested = self._navigation.asked
        self._begin(self._situation.document, requested, self.touch, self.reduced_motion)

    # --- the pointer --------------------------------------------------------------------

    def pointer_move(self, x: float, y: float) -> None:
        """The mouse is at x, y px of the subject (on touch: the finger that is down)."""
        pointer = self._pointer
        if not pointer.touch or pointer.pressed is not None:
            pointer.point = x, y
            pointer.look(self.view())
            self._react()

    def pointer_leave(self) -> None:
        """The mouse is gone."""
        self._pointer.point = None
        self._pointer.chain = ()
        self._react()

    def press(self, x: float, y: float) -> None:
        """The main button goes down, or a finger."""
        pointer = self._pointer
        pointer.press(x, y, self._now)
        pressed = pointer.chain
        self._react(ended=False)
        self._dispatch.fire("press", pointer.alive(pressed))
        self._react(ended=False)
        # What is pressed takes the focus after it has heard of the press, as on a page. Source:
        # UI Events, section 3.3.1 (the focus moves by what mousedown does in the end).
        still = pointer.alive(pressed)
        self._keyboard.focus_by_press(still)
        self._react()

    def release(self, x: float, y: float) -> None:
        """The main button goes up, or the finger: on what was pressed, that is a tap."""
        pointer = self._pointer
        pressed, pair = pointer.release(x, y, self._now)
        self._react(ended=False)
        self._dispatch.fire("release", pointer.alive(pressed))
        self._react(ended=False)
        if not pointer.was_long:
            self._dispatch.fire("tap", pointer.alive(pair))
        self._react()

    def scroll(self, x: float, y: float, dx: float, dy: float) -> bool:
        """Scrolls what is at x, y px by so many px; whether anything could be."""
        situation, pointer = self._situation, self._pointer
        if not pointer.touch or pointer.pressed is not None:
            pointer.point = x, y
        under = hit(*self.view(), x, y)
        line = [path for path, _ in line_to(situation.target, under.path)] if under else []
        scrolled = situation.scrolls.by(situation.movement.target, line, dx, dy)
        pointer.look(self.view())
        self._react()
        return scrolled

    def scroll_bars(self) -> list[Rect]:
        """Where the bars are of boxes that were scrolled (px)."""
        return self._situation.scrolls.bars(
            self._situation.movement.at_time(self._now), self.view()
        )

    # --- keys ---------------------------------------------------------------------------

    def key(self, name: str, shift: bool = False) -> None:
        """A key goes down, by its name in the DOM: Tab, Enter, " ", ArrowDown, a …
        What a cue listens for comes before what the key does by itself. With no focus, keys
        go to the whole."""
        self._dispatch.begin()
        self._keyboard.press(name, shift)
        self._react()

    def text(self, text: str) -> None:
        """Letters are typed, one after the other."""
        for letter in text:
            self.key(letter)

    def tab_leaves(self, back: bool) -> bool:
        """Whether Tab (or Shift+Tab) would come around to the other end."""
        return self._keyboard.focus.leaves(-1 if back else 1)

    def drop_focus(self) -> None:
        """The keys go elsewhere."""
        self._keyboard.focus_on(None)
        self._react()

    # --- time ---------------------------------------------------------------------------

    def advance(self, ms: float) -> None:
        """Lets time pass (a negative time is none). Whatever ends or is due on the way happens
        at its own time, so the pieces in which time is handed in make no difference.
        Raises ValueError for a time that is not finite."""
        if not (math.isfinite(ms) and ms <= _LONGEST_MS):
            raise ValueError("Time must be finite, and no more than a day at once.")
        self._clock.advance(max(ms, 0.0))
        until = self._clock.now
        while (due := self._next_event()) <= until:
            self._now = max(due, self._now)
            self._happen()
        self._now = until

    def _next_event(self) -> float:
        ends = self._situation.movement.next_end
        return min(self._timers.next_due, self._pointer.long_due, ends)

    def _happen(self) -> None:
        """All that is due now: movements end, then a long press, then timers."""
        self._dispatch.begin()
        movement, pointer = self._situation.movement, self._pointer
        if movement.next_end <= self._now:
            movement.prune(self._now)
            self._look_again()
            self._finish()
        if pointer.long_due <= self._now:
            pointer.long_due = NEVER
            pressed = pointer.shared(pointer.pressed or ())
            pointer.was_long = self._dispatch.fire("long-press", pressed)
            self._react(anew=False)
        while self._timers.next_due <= self._now:
            self._dispatch.send(self._timers.ring(self._now))
            self._react(anew=False)

    # --- what follows from what happened --------------------------------------------------

    def _react(self, anew: bool = True, ended: bool = True) -> None:
        """Lets everything follow from an event: what the pointer and the focus drive, and what
        listens, until all is done. `anew`: it comes from outside; `ended`: it is over, and a
        still pointer may be asked again."""
        if anew:
            self._dispatch.begin()
        self._drive()
        self._dispatch.run()
        if ended:
            self._finish()

    def _finish(self) -> None:
        """A still pointer is asked again as soon as nothing moves: it may be over something
        else now."""
        for _ in range(MOST_LOOKS):
            if self.moving or self._looked_at is self.target:
                return
            self._look_again()
        self._looked_at = self.target

    def _look_again(self) -> None:
        """Sees what the pointer will be over when all is at rest."""
        self._looked_at = self.target
        self._pointer.look(self._situation.rest)
        self._drive()
        self._dispatch.run()

    def _performed(self, acting: Round) -> None:
        """Sets what a round of cues sets."""
        situation = self._situation
        assignments = tuple(acting.assignments.values())
        apart = {step.key for step in assignments if situation.is_set_apart(step.key, step.value)}
        driven = {k: v for k, v in situation.driven_states.items() if k not in apart}
        turn = situation.apply(assignments, driven, self._now)
        for path in acting.restarted:
            self._timers.stop(path)
        if turn is not None:
            self._consequences.turned(turn, self._now)
        for path in sorted(acting.restarted):
            self._consequences.wait(path, self._now)
        self._drive()

    def _drive(self) -> None:
        """Takes pointer and focus from what is gone or disabled, gives every driven axis its
        value, and tells what was entered and left."""
        pointer, situation = self._pointer, self._situation
        while True:
            pointer.keep_alive()
            self._keyboard.keep_alive()
            pointer_state = PointerState(
                pointer.chain, pointer.pressed, self._keyboard.focus.path, pointer.touch
            )
            turn = situation.apply((), interaction_states(situation, pointer_state), self._now)
            if turn is None:
                break
            self._consequences.turned(turn, self._now)
        before, self._over = self._over, pointer.over
        if before != self._over:
            for path in reversed(before):
                if path not in self._over:
                    self._dispatch.announce("leave", path)
            for path in self._over:
                if path not in before:
                    self._dispatch.announce("enter", path)

    def _travel(self, change: Change, motion: Motion | None) -> None:
        """Shows another screen, or the one before; what was set there is as it was left."""
        if not self._navigation.travel(change, motion, self._now):
            return
        touch, point = self._pointer.touch, self._pointer.point
        self._pointer = Pointer(self._situation)
        self._pointer.touch, self._pointer.point = touch, point
        self._keyboard = self._new_keyboard()
        self._timers = Timers(self._situation)
        self._consequences = Consequences(self._situation, self._timers, self._dispatch)
        self._over = ()
        self._dispatch.forget()
        self._consequences.arrive(self._now)
        self._dispatch.run()
