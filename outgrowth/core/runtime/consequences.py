"""What follows from a change of what is shown: values that came, nodes that appeared, and
timers whose state was entered or left."""

from __future__ import annotations

from collections.abc import Mapping

from outgrowth.core.document.cues import Path
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import (
    instances_in,
    instances_of,
    instances_that_differ,
    positions_of,
    scene_at,
)
from outgrowth.core.runtime.clock import Timers
from outgrowth.core.runtime.dispatch import Dispatch
from outgrowth.core.runtime.listening import Heard
from outgrowth.core.runtime.situation import Situation, Turn


class Consequences:
    """Looks only at instances that differ before and after."""

    def __init__(self, situation: Situation, timers: Timers, dispatch: Dispatch) -> None:
        self._situation = situation
        self._timers = timers
        self._dispatch = dispatch

    def arrive(self, now: float) -> None:
        """What runs is there for the first time."""
        if not self._situation.listening.timed:
            return
        paths = [path for path, _, _ in instances_that_differ(None, self._situation.target)]
        for path in paths:
            self.wait(path, now)
        new = [heard for path in paths for heard in self._appearing(path, None)]
        self._dispatch.send(sorted(new, key=lambda heard: -len(heard.owner)))

    def go_on(self, now: float) -> None:
        """The document was edited: timers whose state is the same go on; nothing appears."""
        timed = self._situation.listening.timed_owners
        top = [()] if self._situation.owner.id in timed else []
        paths = [*top, *instances_of(self._situation.target, timed)]
        # Who waits for nothing any more is not among them: what it waited for is gone too.
        self._timers.keep(set(paths))
        for path in paths:
            self.wait(path, now)

    def turned(self, turn: Turn, now: float) -> None:
        """Tells those who wait for a value to come or for a node to appear, and sets the
        timers."""
        listening = self._situation.listening
        if turn.all_before is not None and listening.becoming:
            self._dispatch.send(self._became(turn))
        if not listening.timed:
            return
        touched: dict[Path, None] = {}
        for path, _, _ in instances_that_differ(turn.all_before, turn.all_after):
            touched[path] = None
        for path, _, after in instances_that_differ(turn.before, turn.after):
            touched[path] = None
            if after is not None and listening.tells_holder:
                touched |= dict.fromkeys(
                    instance_path for instance_path, _ in instances_in(after, path)
                )
        for path in touched:
            self.wait(path, now)
        new = [h for path in touched for h in self._appearing(path, turn.before)]
        self._dispatch.send(sorted(new, key=self._innermost_in_tree_order))

    def _innermost_in_tree_order(self, heard: Heard) -> tuple[int, tuple[int, ...]]:
        """By this, what appears together acts: inner parts first, those of one depth as they
        stand, whatever of them changed while it was hidden."""
        route = positions_of(self._situation.target, heard.owner)
        return -len(heard.owner), tuple(route or ())

    def wait(self, path: Path, now: float) -> None:
        """Sets the timers of one owner."""
        listening, target = self._situation.listening, self._situation.target
        if scene_at(target, path) is None:
            self._timers.stop(path)
            return
        ready = [
            heard
            for heard in listening.own(path, "delay")
            if scene_at(target, listening.node_of(heard)) is not None and self._situation.may(heard)
        ]
        self._timers.refresh(ready, path, now)

    def _became(self, turn: Turn) -> list[Heard]:
        """The cues that wait for what an axis became, by whatever it was set: a cue, the
        pointer, or a rule of a holder; shown or not. What a room sets tells no one, as in the
        page."""
        heard_cues: list[Heard] = []
        for path, before, after in instances_that_differ(turn.all_before, turn.all_after):
            if before is None or after is None or before.variant == after.variant:
                continue
            old_variant: Mapping[str, str] = before.variant or {}
            new_variant: Mapping[str, str] = after.variant or {}
            for heard in self._situation.listening.cues_at(path, "became"):
                trigger = heard.cue.trigger
                axis = self._situation.axis_at(path, trigger.axis)
                if axis is not None and axis.driver == "room":
                    continue
                value = new_variant.get(trigger.axis)
                if value != old_variant.get(trigger.axis) and trigger.value in ("", value):
                    heard_cues.append(heard)
        return sorted(heard_cues, key=lambda heard: -len(heard.owner))

    def _appearing(self, path: Path, before: SceneNode | None) -> list[Heard]:
        """The cues of one owner that wait for a node that is shown and was not."""
        listening, heard_cues = self._situation.listening, []
        for heard in listening.own(path, "appear"):
            node = listening.node_of(heard)
            visible = scene_at(self._situation.target, node) is not None
            if visible and (before is None or scene_at(before, node) is None):
                heard_cues.append(heard)
        return heard_cues
