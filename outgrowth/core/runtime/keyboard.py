"""Keys and the focus: where keys go, what they do by themselves, and who hears of it.

Source: WAI-ARIA Authoring Practices, as in focus.py; UI Events, section 3.3 (focus).
"""

from __future__ import annotations

from collections.abc import Callable

from outgrowth.core.document.records import Path
from outgrowth.core.resolve.scene_paths import line_to, scene_at
from outgrowth.core.runtime.dispatch import Dispatch
from outgrowth.core.runtime.focus import Focus, stepped, tapped_by
from outgrowth.core.runtime.pointer import Chain, Pointer
from outgrowth.core.runtime.situation import Situation


class Keyboard:
    """The keyboard of something that runs.

    focus    what the keys go to
    settle   lets all follow that a step brought, before the next is taken
    """

    def __init__(
        self,
        situation: Situation,
        pointer: Pointer,
        dispatch: Dispatch,
        settle: Callable[[], object],
    ) -> None:
        self.focus = Focus(situation)
        self._situation = situation
        self._pointer = pointer
        self._dispatch = dispatch
        self._settle = settle

    def press(self, name: str, shift: bool) -> None:
        """A key goes down: to the cues that listen, the innermost first, else it does what it
        does by itself."""
        focused = self.focus.path
        line = [path for path, _ in line_to(self._situation.target, focused or ())]
        if any(self._dispatch.announce("key", path, name) for path in reversed(line)):
            return
        if name == "Tab":
            stop = self.focus.next(-1 if shift else 1)
            if stop is not None:
                self._focus_by_key(stop)
        elif focused is not None:
            self._do(focused, name)

    def focus_by_press(self, pressed: Chain) -> None:
        """What is pressed takes the focus; where it can't, Tab goes on from there."""
        self.focus_on(self.focus.innermost_of(pressed), pressed[-1] if pressed else None)

    def focus_on(self, path: Path | None, left: Path | None = None) -> None:
        """Gives the keys to a part; with none, Tab goes on from `left`."""
        before, self.focus.path = self.focus.path, path
        self.focus.left = left if path is None else None
        if before == path:
            return
        if before is not None:
            self._dispatch.announce("blur", before)
        if path is not None:
            self._dispatch.announce("focus", path)

    def keep_alive(self) -> None:
        """What can't have the focus any more gives it up."""
        lost = self.focus.keep_alive()
        if lost is not None:
            self._dispatch.announce("blur", lost)

    def _focus_by_key(self, path: Path) -> None:
        """What a key leads to comes into sight. What is pressed stays under the pointer: scrolled
        away, it would not be tapped."""
        self._situation.scrolls.reveal(self._situation.movement.target, path)
        self.focus_on(path)

    def _do(self, path: Path, name: str) -> None:
        """What a key does to the part that has the focus, by its role."""
        node = scene_at(self._situation.target, path)
        if node is None:
            return
        if name in tapped_by(node.interaction.role):
            self._tap(path)
            return
        group = self.focus.group_of(path)
        member = stepped(group, path, name) if group is not None else None
        if member is not None:
            self._focus_by_key(member)
            self._settle()
            self._tap(member)

    def _tap(self, path: Path) -> None:
        line = tuple([p for p, _ in line_to(self._situation.target, path)])
        self._dispatch.fire("tap", self._pointer.alive(line))
