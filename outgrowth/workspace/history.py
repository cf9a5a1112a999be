"""Undo and redo: documents with their selection and the name of what led away from them."""

from __future__ import annotations

from collections import deque
from typing import Generic, NamedTuple, TypeVar

State = TypeVar("State")

MOST_STEPS = 1000
# Documents share structure: a step takes some kB, one that exchanges a large picture its bytes.
MOST_BYTES = 256 * 1024 * 1024


class _Step(NamedTuple, Generic[State]):
    name: str
    before: State
    after: State
    size: int


class History(Generic[State]):
    """States that can be gone back to. Documents share structure, so many are cheap.

    forgotten  how many steps can no longer be taken back since they, and those after them, held
               more than there is room for
    """

    def __init__(self) -> None:
        self._steps: deque[_Step[State]] = deque()
        self._undone: list[_Step[State]] = []
        self._size = 0
        self.forgotten = 0

    def add(self, name: str, before: State, after: State, size: int = 0) -> None:
        """Notes a step, and the bytes that it holds; what had been undone can no longer be
        redone."""
        self._size += size - sum(step.size for step in self._undone)
        self._undone.clear()
        self._steps.append(_Step(name, before, after, size))
        if len(self._steps) > MOST_STEPS:
            self._size -= self._steps.popleft().size
        while self._size > MOST_BYTES and len(self._steps) > 1:
            self._size -= self._steps.popleft().size
            self.forgotten += 1

    def merge(self, name: str, after: State, more: int = 0) -> bool:
        """Lets the last step end at `after` if it has this name and nothing was undone; it then
        holds so many bytes more, at most."""
        if not self._steps or self._undone or self._steps[-1].name != name:
            return False
        last = self._steps[-1]
        # What is typed one letter after the other replaces itself: only the larger one is held.
        size = max(last.size, more)
        self._size += size - last.size
        self._steps[-1] = last._replace(after=after, size=size)
        return True

    @property
    def undo_name(self) -> str:
        """What undo would take back; "" for nothing."""
        return self._steps[-1].name if self._steps else ""

    @property
    def redo_name(self) -> str:
        """What redo would do again; "" for nothing."""
        return self._undone[-1].name if self._undone else ""

    def undo(self) -> State | None:
        """The state before the last step; None where there is none."""
        if not self._steps:
            return None
        step = self._steps.pop()
        self._undone.append(step)
        return step.before

    def redo(self) -> State | None:
        """The state after the step that was undone last; None where there is none."""
        if not self._undone:
            return None
        step = self._undone.pop()
        self._steps.append(step)
        return step.after
