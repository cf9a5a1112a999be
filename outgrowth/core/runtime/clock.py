"""Time, and what waits for it: timers start when their state is entered, stop when it is left,
and start again when it is entered again."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from outgrowth.core.document.cues import Path
from outgrowth.core.document.referring import waiting_time
from outgrowth.core.runtime.listening import Heard, meant
from outgrowth.core.runtime.situation import Situation, StateKey

NEVER = float("inf")
# Decimals of a ms that count: a millionth, so that time adds up however it is cut.
_GRID = 6


class Clock:
    """A virtual clock in ms that keeps what was lost in adding. Source of the way of adding:
    Neumaier 1974, "Rundungsfehleranalyse einiger Verfahren zur Summation endlicher Summen"."""

    def __init__(self) -> None:
        self._sum = 0.0
        self._lost = 0.0

    @property
    def now(self) -> float:
        """The present time in ms."""
        return round(self._sum + self._lost, _GRID)

    def advance(self, ms: float) -> None:
        """Goes on to a time (ms); never back."""
        total = self._sum + ms
        larger, smaller = (self._sum, ms) if abs(self._sum) >= abs(ms) else (ms, self._sum)
        self._lost += (larger - total) + smaller
        self._sum = total


class Timer(NamedTuple):
    """When a cue acts (ms), and the values for whose sake it waits."""

    due: float
    waits_for: tuple[object, ...]
    heard: Heard


class Timers:
    """The waiting cues of all instances that are shown, by their owners."""

    def __init__(self, situation: Situation) -> None:
        self._situation = situation
        self._timers: dict[Path, dict[str, Timer]] = {}
        # Invariant: None, or the least `due` of all; whoever changes a timer drops it.
        self._next: float | None = None

    @property
    def next_due(self) -> float:
        """When the next timer rings (ms); infinite where none runs."""
        if self._next is None:
            running = (t.due for timers in self._timers.values() for t in timers.values())
            self._next = min(running, default=NEVER)
        return self._next

    def due(self, now: float) -> list[Timer]:
        """What is due, in the order in which it acts: the earlier, the innermost, then in the
        order of the tree and of the cues."""
        due_timers = [
            t for timers in self._timers.values() for t in timers.values() if t.due <= now
        ]
        return sorted(due_timers, key=lambda t: (t.due, -len(t.heard.owner)))

    def ring(self, now: float) -> list[Heard]:
        """The cues that act now together: of those that are due, up to the first that waits
        for what another of them sets. They wait no more until their state is entered again."""
        rung: list[Heard] = []
        set_by_others: set[StateKey] = set()
        for timer in self.due(now):
            heard = timer.heard
            if not _waits_on(heard).isdisjoint(set_by_others):
                break
            self._timers[heard.owner][heard.cue.id] = timer._replace(due=NEVER)
            rung.append(heard)
            set_by_others |= _sets(heard)
        self._next = None
        return rung

    def stop(self, path: Path) -> None:
        """Forgets the timers of one owner."""
        self._timers.pop(path, None)
        self._next = None

    def keep(self, paths: set[Path]) -> None:
        """Forgets the timers of all owners but these."""
        self._timers = {path: timers for path, timers in self._timers.items() if path in paths}
        self._next = None

    def refresh(self, ready: Sequence[Heard], path: Path, now: float) -> None:
        """The timers of one owner, of those of its cues whose conditions hold: those that run
        in the same state go on, the others start; what is not ready any more is gone."""
        before = self._timers.get(path, {})
        if not (before or ready):
            return
        self._next = None
        timers: dict[str, Timer] = {}
        for heard in ready:
            waits_for = self.waits_for(heard)
            timer = before.get(heard.cue.id)
            if timer is None or timer.waits_for != waits_for:
                wait = waiting_time(heard.cue.trigger, self._situation.document.token)
                due = round(now + wait, _GRID)
                timer = Timer(due, waits_for, heard)
            timers[heard.cue.id] = timer._replace(heard=heard) if timer.heard != heard else timer
        # In place: an owner keeps its turn among those that ring at one time.
        self._timers[path] = timers
        if not timers:
            del self._timers[path]

    def waits_for(self, heard: Heard) -> tuple[object, ...]:
        """The values that a timer's state consists of: of its conditions, and of what it is
        going to change."""
        value = self._situation.value
        values: list[object] = [value(heard.owner, axis) for axis in sorted(heard.cue.when)]
        for condition in heard.cue.conditions:
            values.append(value(meant(heard.owner, condition.at), condition.axis))
        for change in heard.cue.changes:
            if change.act in ("set", "next"):
                path = meant(heard.owner, change.at)
                # What an inner part says of its holder comes by name.
                axis = self._situation.axis_at(path, change.name)
                values.append(value(path, axis.id if axis is not None else change.name))
        return tuple(values)


def _sets(heard: Heard) -> set[StateKey]:
    changes = [c for c in heard.cue.changes if c.act in ("set", "next", "give")]
    return {(meant(heard.owner, change.at), change.name) for change in changes}


def _waits_on(heard: Heard) -> set[StateKey]:
    cue = heard.cue
    own = {(heard.owner, axis) for axis in cue.when}
    other = {(meant(heard.owner, c.at), c.axis) for c in cue.conditions}
    return own | other | _sets(heard)
