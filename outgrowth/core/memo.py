"""Caches keyed by the identity of frozen values: what did not change is not done again.

The value is kept alive beside the result, so that an id is never one of something gone.
Two generations bound the size: what is asked for again moves to the young one; when that
is full, what nobody asked for since the last turn goes.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Sequence
from operator import is_not
from typing import Generic, TypeVar

Key = TypeVar("Key", bound=Hashable)
Result = TypeVar("Result")
Subject = TypeVar("Subject")


def differing(before: Sequence[object], after: Sequence[object]) -> list[int]:
    """The places at which two lists of one length hold different objects. Nearly all of a
    long list is mostly the same, so the flags are searched rather than looped over."""
    return flagged(map(is_not, before, after))


def flagged(flags: Iterable[bool]) -> list[int]:
    """The places of what is true."""
    held, found = bytes(flags), []
    at = held.find(1)
    while at >= 0:
        found.append(at)
        at = held.find(1, at + 1)
    return found


class Generations(Generic[Key, Result]):
    """A bounded mapping that forgets what was not used lately."""

    def __init__(self, capacity: int) -> None:
        self._capacity = capacity
        self._young: dict[Key, Result] = {}
        self._old: dict[Key, Result] = {}

    def get(self, key: Key) -> Result | None:
        found = self._young.get(key)
        if found is None:
            found = self._old.pop(key, None)
            if found is not None:
                self.put(key, found)
        return found

    def put(self, key: Key, result: Result) -> None:
        if len(self._young) >= self._capacity:
            self._old, self._young = self._young, {}
        self._young[key] = result

    def __len__(self) -> int:
        return len(self._young) + len(self._old)


class ByIdentity(Generic[Subject, Result]):
    """Results for frozen subjects, found again by identity."""

    def __init__(self, compute: Callable[[Subject], Result], capacity: int = 4096) -> None:
        self._compute = compute
        self._results: Generations[int, tuple[Subject, Result]] = Generations(capacity)

    def knows(self, subject: Subject) -> bool:
        """Whether the result for this subject is there already."""
        return self._results.get(id(subject)) is not None

    def __call__(self, subject: Subject) -> Result:
        kept = self._results.get(id(subject))
        if kept is None:
            kept = (subject, self._compute(subject))
            self._results.put(id(subject), kept)
        return kept[1]
