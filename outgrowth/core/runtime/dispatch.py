"""Brings events to the cues that hear them, in rounds: the changes of one event together, then
what listens to them, until nothing does any more."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable

from outgrowth.core.document.cues import Change, Motion, Path
from outgrowth.core.document.sentences import cue_sentence
from outgrowth.core.runtime.listening import Heard
from outgrowth.core.runtime.rounds import Round
from outgrowth.core.runtime.situation import Situation

MOST_ROUNDS = 64
"""How often one cue of one part may act for one event before the loop is cut."""
_MOST_TOLD = 4


class Dispatch:
    """performed(round)  what a round of cues sets is to be set; this may send more
    travel(change, motion)  another screen is to be shown, when all rounds are over
    problems  loops that were cut, as sentences
    """

    def __init__(
        self,
        situation: Situation,
        problems: list[str],
        performed: Callable[[Round], None],
        travel: Callable[[Change, Motion | None], None],
    ) -> None:
        self._situation = situation
        self._performed = performed
        self._travel = travel
        self.problems = problems
        self._waiting: deque[list[Heard]] = deque()
        self._requested: tuple[Change, Motion | None] | None = None
        self._counts: dict[tuple[Path, str], int] = {}
        self._trail: list[Heard] = []
        self._told: set[frozenset[tuple[Path, str]]] = set()

    def begin(self) -> None:
        """A new event: what its consequences do is counted anew."""
        self._counts, self._trail = {}, []

    def forget(self) -> None:
        """Nothing waits any more."""
        self._waiting.clear()
        self._requested = None

    def send(self, heard: Iterable[Heard]) -> None:
        """Lets cues act together, after all that was sent before."""
        batch = list(heard)
        if batch:
            self._waiting.append(batch)

    def fire(self, kind: str, chain: tuple[Path, ...]) -> bool:
        """Brings an event to the innermost node that listens for it and may act; whether there
        was one."""
        return any(self.announce(kind, path) for path in reversed(chain))

    def announce(self, kind: str, path: Path, key: str = "") -> bool:
        """Brings an event to one node alone; whether one of its cues acts."""
        heard = [
            h
            for h in self._situation.listening.cues_at(path, kind)
            if (kind != "key" or h.cue.trigger.key == key) and self._situation.may(h)
        ]
        self.send(heard)
        return bool(heard)

    def run(self) -> None:
        """Until nothing is left to be done."""
        while self._waiting or self._requested is not None:
            if not self._waiting and self._requested is not None:
                requested, self._requested = self._requested, None
                self._travel(*requested)
                continue
            self.perform(self._waiting.popleft())

    def perform(self, batch: Iterable[Heard]) -> None:
        """Lets cues act together now, those of them whose conditions hold."""
        acting = Round(self._situation)
        for heard in batch:
            if self._situation.may(heard) and self._counted(heard):
                acting.collect(heard)
        self._requested = self._requested or acting.travel
        self._performed(acting)

    def _counted(self, heard: Heard) -> bool:
        """Counts the cue; False where it goes round in a circle."""
        count = self._counts[heard.key] = self._counts.get(heard.key, 0) + 1
        if count <= MOST_ROUNDS:
            self._trail.append(heard)
            return True
        if count == MOST_ROUNDS + 1:
            self._announce(heard)
        return False

    def _announce(self, heard: Heard) -> None:
        """Says which cues follow each other in the circle, in names."""
        last = max((n for n, h in enumerate(self._trail) if h.key == heard.key), default=0)
        circle = list(dict.fromkeys(h.key for h in self._trail[last:]))
        # One circle is told once, whichever of its cues was stopped first.
        if frozenset(circle) in self._told:
            return
        self._told.add(frozenset(circle))
        first = circle.index(min(circle))
        circle = circle[first:] + circle[:first]
        heard_before = {h.key: h for h in self._trail[last:]}
        message = "; ".join(self._named(heard_before[key]) for key in circle[:_MOST_TOLD])
        more = " …" if len(circle) > _MOST_TOLD else ""
        text = f"These cues go round in a circle and were stopped: {message}{more}."
        if text not in self.problems:
            self.problems.append(text)

    def _named(self, heard: Heard) -> str:
        """“Help › May I bring my bicycle? “When it is tapped: …””."""
        situation = self._situation
        names = [situation.owner.name, *situation.names(heard.owner)]
        owner = situation.owner_at(heard.owner)
        sentence = cue_sentence(situation.document, owner, heard.cue) if owner is not None else ""
        return f"{' › '.join(names)}: “{sentence}”"
