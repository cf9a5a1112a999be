"""What runs in Live, and its time: held, stepped, slowed down, recorded and played again.

No clock is read here but the one that is handed in; whoever shows the running thing lets time
pass by `tick`, as often as `moving` and `waiting` ask for it.
"""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from outgrowth.core.document.axis_parts import resting_value
from outgrowth.core.document.graph import edges
from outgrowth.core.document.records import Document
from outgrowth.core.document.variants import Variant
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import PLACED, Event, Script, ScriptAct, ScriptRefusal, perform
from outgrowth.core.trials.contents import TrialContent, with_content
from outgrowth.workspace.notices import PlainNotice
from outgrowth.workspace.workspace import Workspace

STEP_MS = 1000 / 60
"""What one step lets pass: a frame of a screen that shows 60 a second."""
_LOOKS = 4
# A recorded script looks so often, so far apart, after the last event: a second in quarters.
_LOOK_MS = 250.0


class Playback:
    """One running subject of a workspace.

    clock     gives the present time in ms
    advanced  what is shown is another, or another amount of time is wanted
    beside_changed  what is told beside it may be another: a problem, a recording, the room
    """

    def __init__(self, workspace: Workspace, clock: Callable[[], float]) -> None:
        self._workspace = workspace
        self.clock = clock
        self.advanced = PlainNotice()
        self.beside_changed = PlainNotice()
        self.speed = 1.0
        self.paused = False
        self.place = ""
        self.room: tuple[float | None, float | None] = (None, None)
        self.rtl = False
        self.runtime: Runtime | None = None
        self._content: tuple[str, TrialContent] | None = None
        self._filled: tuple[Document, Document] | None = None
        self._ticked = clock()
        self._recorded: list[Event] | None = None
        self._began = (False, False)
        self._played: list[Event] = []

    # --- what runs ------------------------------------------------------------------------

    def subject(self) -> Subject | None:
        """What the bench shows (of a component its variant, with every axis at rest that is
        driven or that its cues change), or the screen that it was asked to be shown in."""
        workspace = self._workspace
        width, height = self.room
        if self.place and self.place in workspace.document.screens:
            return Subject(self.place, rtl=self.rtl)
        component = workspace.component
        if component is not None:
            moved = {edge.axis for edge in edges(component)}
            # What the room sets is as it is looked at.
            settable = [a for a in component.axes if a.driver != "room"]
            still = [a for a in settable if a.driver != "none" or a.id in moved]
            rest = {axis.id: resting_value(axis) for axis in still}
            variant: Variant = workspace.selection.variant.update(rest)
            return Subject(component.id, True, variant, width, height, self.rtl)
        if workspace.screen is None:
            return None
        return Subject(workspace.screen.id, False, Variant(), width, height, self.rtl)

    def follow(self) -> None:
        """Goes on with the document as it is now; starts anew on another subject."""
        subject = self.subject()
        engine, document = self._workspace.engine, self._document()
        if subject is None:
            self.runtime = None
        elif self.runtime is None or self.runtime.layout is not engine.layout:
            # Another layout means other fonts: everything is set anew, and only how it is touched
            # stays.
            before, self.runtime = self.runtime, engine.runtime(document, subject)
            if before is not None:
                self.runtime.touch = before.touch
                self.runtime.reduced_motion = before.reduced_motion
        else:
            self.runtime.update(document, subject)
        self.advanced.emit()

    def _document(self) -> Document:
        """What is played: the document in hand, with the content that is tried."""
        document = self._workspace.document
        if self._content is None:
            return document
        if self._filled is None or self._filled[0] is not document:
            self._filled = document, with_content(document, *self._content)
        return self._filled[1]

    def show_content(self, owner_id: str, content: TrialContent | None) -> None:
        """Plays an owner with a content that is tried; None for its own."""
        self._content = (owner_id, content) if content is not None else None
        self._filled = None
        self.follow()
        self.beside_changed.emit()

    @property
    def content_title(self) -> str:
        """What is tried; "" while everything has its own content."""
        return self._content[1].title if self._content is not None else ""

    def show_in(self, screen_id: str) -> None:
        """Shows the component alone (""), or the screen that it stands on."""
        self.place = screen_id
        self.follow()

    def set_room(self, width: float | None, height: float | None) -> None:
        """The room that what runs is given in px; None for its own size."""
        self.room = width, height
        if self._recorded is not None and self.runtime is not None:
            at = round(self.runtime.now, 1)
            while self._recorded and (last := self._recorded[-1]).do == "resize" and last.at == at:
                self._recorded.pop()
            self._recorded.append(Event(at, "resize", width=width, height=height))
        self.follow()
        self.beside_changed.emit()

    def set_rtl(self, rtl: bool) -> None:
        """Whether one reads from right to left around what runs."""
        self.rtl = rtl
        self.follow()
        self.beside_changed.emit()

    def restart(self) -> None:
        """Starts again at rest."""
        if self.runtime is not None:
            self.runtime.restart()
        self._played = []
        self.advanced.emit()
        self.beside_changed.emit()

    # --- time -----------------------------------------------------------------------------

    @property
    def moving(self) -> bool:
        """Whether every frame is another."""
        return self.runtime is not None and (self.runtime.moving or self.playing)

    @property
    def waiting(self) -> bool:
        """Whether time must pass although nothing moves: timers run."""
        return self.runtime is not None and self.runtime.waiting

    def begin_time(self) -> None:
        """Time passes from now on; what went by before does not count."""
        self._ticked = self.clock()

    def tick(self) -> None:
        """Lets the time since the last tick pass; none while it is held."""
        now = self.clock()
        passed, self._ticked = (now - self._ticked) * self.speed, now
        if not self.paused:
            self.pass_time(passed)
        self.advanced.emit()

    def set_speed(self, speed: float) -> None:
        """From now on so many ms pass for each of the clock."""
        self.tick()
        self.speed = speed

    def hold(self, paused: bool) -> None:
        """Lets time stand still, or go on; what is done meanwhile is done at once."""
        self.tick()
        self.paused = paused
        self.advanced.emit()
        self.beside_changed.emit()

    def step(self) -> None:
        """Holds the time, and lets one frame of it pass."""
        if not self.paused:
            self.hold(True)
        self.pass_time(STEP_MS)
        self.advanced.emit()
        self.beside_changed.emit()

    def pass_time(self, ms: float) -> None:
        """Lets time pass, with what a played script does on the way."""
        runtime = self.runtime
        if runtime is None:
            return
        until = runtime.now + ms
        # A script's events happen at their own times, however coarse the ticks are.
        while self._played and self._played[0].at <= until:
            event = self._played.pop(0)
            runtime.advance(event.at - runtime.now)
            try:
                perform(runtime, event)
            except ScriptRefusal as problem:
                self._played = []
                self._workspace.failed.emit(str(problem))
            if not self._played:
                self.beside_changed.emit()
        runtime.advance(until - runtime.now)

    # --- what is done -----------------------------------------------------------------------

    def perform(self, verb: ScriptAct, x: float = 0.0, y: float = 0.0) -> None:
        """Does one thing now, at a point of the subject in px, and writes it down."""
        placed = verb in PLACED
        self._perform_event(Event(0.0, verb, *((round(x, 2), round(y, 2)) if placed else ())))

    def press_key(self, key: str, shift: bool) -> None:
        """Presses a key, by its name in UI Events."""
        self._perform_event(Event(0.0, "key", key=key, shift=shift))

    def set_touch(self, touch: bool) -> None:
        """A finger from now on, or a mouse."""
        self.perform("touch" if touch else "mouse")

    def set_reduced_motion(self, reduced: bool) -> None:
        """Whether every change is a cut."""
        if self.runtime is not None and self.runtime.reduced_motion != reduced:
            self.perform("reduced-motion" if reduced else "full-motion")

    def scroll(self, x: float, y: float, dx: float, dy: float) -> bool:
        """Scrolls the box at a point by so much; False where none goes further."""
        self.tick()
        x, y = round(x, 2), round(y, 2)
        if self.runtime is None or not self.runtime.scroll(x, y, dx, dy):
            return False
        if self._recorded is not None:
            time = round(self.runtime.now, 1)
            self._recorded.append(Event(time, "scroll", x, y, dx=dx, dy=dy))
        self.advanced.emit()
        return True

    def _perform_event(self, event: Event) -> None:
        if self.runtime is None:
            return
        self.tick()
        problems = len(self.runtime.problems)
        event = msgspec.structs.replace(event, at=round(self.runtime.now, 1))
        if self._recorded is not None and not (event.do == "move" and self._adds_nothing(event)):
            self._recorded.append(event)
        perform(self.runtime, event)
        self.advanced.emit()
        if len(self.runtime.problems) != problems:
            self.beside_changed.emit()

    def _adds_nothing(self, move: Event) -> bool:
        """Whether a move adds nothing to the one before it, in the same moment."""
        last = self._recorded[-1] if self._recorded else None
        return last is not None and last.do == "move" and last.at == move.at

    # --- recording ------------------------------------------------------------------------

    @property
    def recording(self) -> bool:
        """Whether what is done is written down."""
        return self._recorded is not None

    @property
    def playing(self) -> bool:
        """Whether a script has still something to do."""
        return bool(self._played)

    def record(self) -> None:
        """Starts again at rest and writes down what is done from now on."""
        self.restart()
        self._recorded = []
        runtime = self.runtime
        self._began = (runtime.touch, runtime.reduced_motion) if runtime else (False, False)
        self.beside_changed.emit()

    def end_recording(self) -> Script:
        """Ends the recording; what was done, when to look (at every event, and in quarters of a
        second after the last), and whether it began by a finger, and without motion."""
        events, self._recorded = self._recorded or [], None
        last = events[-1].at if events else 0.0
        looks = {last + n * _LOOK_MS for n in range(1, _LOOKS + 1)}
        self.beside_changed.emit()
        times = tuple(sorted({event.at for event in events} | looks))
        return Script(tuple(events), times, *self._began)

    def play(self, script: Script) -> None:
        """Starts again at rest and does what a script says, at the present speed."""
        self.restart()
        self.begin_time()
        if self.runtime is not None:
            self._played = list(script.events)
            self.runtime.touch = script.touch
            self.runtime.reduced_motion = script.reduced_motion
        self.advanced.emit()
        self.beside_changed.emit()
