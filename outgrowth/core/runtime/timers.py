"""Timers: they start when their state is entered, stop when it is left, and start again when
it is entered again."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.cues import Path
from outgrowth.core.runtime.changes import Shown, meant
from outgrowth.core.runtime.listening import Heard

NEVER = float("inf")

Timers = dict[tuple[Path, str], "Timer"]
"""By the cue's owner and its id."""


class Timer(NamedTuple):
    """When a cue acts (ms), and the values for whose sake it waits."""

    due: float
    waits_for: tuple[object, ...]
    heard: Heard


def refreshed(held: Timers, ready: list[Heard], shown: Shown, now: float) -> Timers:
    """The timers of the cues whose conditions hold: those that run in the same state go on,
    the others start; what is not ready any more is gone."""
    found: Timers = {}
    for heard in ready:
        key, waits_for = (heard.owner, heard.cue.id), _waits_for(heard, shown)
        timer = held.get(key)
        if timer is None or timer.waits_for != waits_for:
            timer = Timer(now + heard.cue.trigger.ms, waits_for, heard)
        found[key] = timer
    return found


def _waits_for(heard: Heard, shown: Shown) -> tuple[object, ...]:
    """The values that a timer's state consists of: of its conditions, and of what it is going
    to change."""
    said: list[object] = [shown.value(heard.owner, axis) for axis in sorted(heard.cue.when)]
    for change in heard.cue.changes:
        if change.act in ("set", "next"):
            said.append(shown.value(meant(heard.owner, change), change.name))
    return tuple(said)
