"""Undo and redo: documents with their selection and the name of what led away from them."""

from __future__ import annotations

from typing import Generic, NamedTuple, TypeVar

State = TypeVar("State")

# Documents share structure: a step of a long list takes some kB.
MOST_STEPS = 1000


class _Step(NamedTuple, Generic[State]):
    name: str
    before: State
    after: State


class History(Generic[State]):
    """States that can be gone back to. Documents share structure, so many are cheap."""

    def __init__(self) -> None:
        self._steps: list[_Step[State]] = []
        self._undone: list[_Step[State]] = []

    def add(self, name: str, before: State, after: State) -> None:
        """Notes a step; what had been undone can no longer be redone."""
        self._steps.append(_Step(name, before, after))
        del self._steps[:-MOST_STEPS]
        self._undone.clear()

    def merge(self, name: str, after: State) -> bool:
        """Lets the last step end at `after` if it has this name and nothing was undone."""
        if not self._steps or self._undone or self._steps[-1].name != name:
            return False
        self._steps[-1] = self._steps[-1]._replace(after=after)
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
