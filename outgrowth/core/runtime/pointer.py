"""The pointer: what is under it, what it pressed, and how long."""

from __future__ import annotations

from outgrowth.core.document.cues import Path
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.scene_paths import line_to
from outgrowth.core.runtime.clock import NEVER
from outgrowth.core.runtime.focus import is_enabled
from outgrowth.core.runtime.hit import hit
from outgrowth.core.runtime.situation import Situation

Chain = tuple[Path, ...]
"""Nodes from the root in, by their paths."""


class Pointer:
    """A mouse, or (touch) a finger, which is nowhere unless it is down.

    chain     the nodes under it, from the root in, as far as they take part
    pressed   those that it pressed; None while it is up
    long_due  when a press becomes a long one (ms)
    """

    def __init__(self, situation: Situation) -> None:
        self._situation = situation
        self.touch = False
        self.point: tuple[float, float] | None = None
        self.chain: Chain = ()
        self.pressed: Chain | None = None
        self.long_due = NEVER
        self.was_long = False

    @property
    def over(self) -> Chain:
        """The nodes that are hovered: none under a finger."""
        return () if self.touch else self.chain

    def look(self, view: View) -> None:
        """Sees anew what is under it in a picture."""
        self.chain = self.under(view)

    def under(self, view: View) -> Chain:
        """The nodes under the point; nothing from what is not enabled inwards."""
        under = hit(view.scene, view.placed, *self.point) if self.point is not None else None
        if under is None:
            return ()
        return self.alive(tuple([path for path, _ in line_to(view.scene, under.path)]))

    def alive(self, chain: Chain) -> Chain:
        """As far in as the nodes of a chain are shown and enabled."""
        if not chain:
            return ()
        # Asked of the states that hold, not of the frame: a fading part takes no part any more.
        document, remaining = self._situation.document, []
        line = dict(line_to(self._situation.target, chain[-1]))
        for path in chain:
            # A part that is gone (or, over a fading screen, not of this one) ends the chain.
            node = line.get(path) or dict(line_to(self._situation.target, path)).get(path)
            if node is None or not is_enabled(document.components.get(node.component), node):
                break
            remaining.append(path)
        return tuple(remaining)

    def keep_alive(self) -> None:
        """Lets go of what is no longer shown or enabled; a press on it is none any more."""
        self.chain = self.alive(self.chain)
        if self.pressed:
            remaining = self.alive(self.pressed)
            # A press that lost what it began on is no long press; a release there is still heard
            # above.
            if remaining != self.pressed:
                self.long_due = NEVER
            self.pressed = remaining

    def press(self, x: float, y: float, now: float) -> None:
        """Goes down at a point of the subject, at a time in ms."""
        self.point = x, y
        # Under the pointer is what is drawn now, in the middle of a movement too.
        self.look(self._situation.at_time(now))
        self.pressed = self.chain
        self.was_long = False
        self.long_due = now + self._situation.listening.long_press_time(self.chain)

    def release(self, x: float, y: float, now: float) -> tuple[Chain, Chain]:
        """What was pressed, and what of that is still under the pointer."""
        self.point = x, y
        pressed, self.pressed = self.pressed or (), None
        self.long_due = NEVER
        self.look(self._situation.at_time(now))
        pair = self.shared(pressed)
        # A finger that is lifted is nowhere, so nothing is hovered (Pointer Events 3, 10).
        if self.touch:
            self.point, self.chain = None, ()
        return pressed, pair

    def shared(self, pressed: Chain) -> Chain:
        """What of a press is under the pointer still (or again)."""
        # A tap needs press and release on one node; a chain shares its outer nodes.
        return tuple([a for a, b in zip(pressed, self.chain, strict=False) if a == b])
