"""From screen to screen: what is shown, and what was left as it was."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.cues import Change, Motion
from outgrowth.core.document.records import Document
from outgrowth.core.runtime.situation import Situation, States
from outgrowth.core.runtime.subject import Subject


class Left(NamedTuple):
    """A screen that was left, and what was set on it."""

    owner: str
    states: States


class Navigation:
    """`requested` is what was to be run; it is come back to as it was asked for."""

    def __init__(self, situation: Situation, requested: Subject) -> None:
        self._situation = situation
        self.asked = requested
        self._left: list[Left] = []

    def forget_missing(self, document: Document) -> None:
        """Screens that are no longer there are not come back to."""
        self._left = [left for left in self._left if document.owner(left.owner) is not None]

    def travel(self, change: Change, motion: Motion | None, now: float) -> bool:
        """Shows another screen, or the one before as it was left; whether there was one."""
        situation = self._situation
        document = situation.document
        if change.act == "back":
            if not self._left:
                return False
            to = self._left.pop()
        else:
            if document.screens.get(change.name) is None:
                return False
            self._left.append(Left(situation.subject.owner, situation.chosen))
            to = Left(change.name, {})
        component = to.owner in document.components
        same = to.owner == self.asked.owner
        subject = self.asked if same else Subject(to.owner, component, rtl=self.asked.rtl)
        situation.turn_to(subject, to.states, now, situation.settled(motion or document.motion))
        return True
