"""Caches keyed by the identity of frozen values: what did not change is not done again.

The value is kept alive beside the result, so that an id is never one of something gone.
Two generations bound the size: what is asked for again moves to the young one; when that
is full, what nobody asked for since the last turn goes.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Sequence
from operator import is_not
from typing import Any, Generic, TypeVar
from weakref import WeakSet

Key = TypeVar("Key", bound=Hashable)
Result = TypeVar("Result")
Subject = TypeVar("Subject")


def differing(before: Sequence[object], after: Sequence[object]) -> list[int]:
    """The places at which two lists of one length hold different objects. Nearly all of a
    long list is mostly the same, so the flags are searched rather than looped over."""
    return flagged(map(is_not, before, after))


def flagged(flags: Iterable[bool]) -> list[int]:
    """The places of what is true."""
    bits, indexes = bytes(flags), []
    index = bits.find(1)
    while index >= 0:
        indexes.append(index)
        index = bits.find(1, index + 1)
    return indexes


class Generations(Generic[Key, Result]):
    """A bounded mapping that forgets what was not used lately."""

    def __init__(self, capacity: int) -> None:
        self._capacity = capacity
        self._young: dict[Key, Result] = {}
        self._old: dict[Key, Result] = {}

    def get(self, key: Key) -> Result | None:
        """What was put there; it counts as used. None where it was forgotten."""
        cached = self._young.get(key)
        if cached is None:
            cached = self._old.pop(key, None)
            if cached is not None:
                self.put(key, cached)
        return cached

    def put(self, key: Key, result: Result) -> None:
        """Remembers a result; the older generation goes when the young one is full."""
        if len(self._young) >= self._capacity:
            self._old, self._young = self._young, {}
        self._young[key] = result

    def __len__(self) -> int:
        return len(self._young) + len(self._old)


_memories: WeakSet[ByIdentity[Any, Any]] = WeakSet()


def forget_all() -> None:
    """Lets go of what is remembered of documents anywhere: one that was closed would stay for as
    long as others do not push it out. What is still open is worked out anew."""
    for memory in tuple(_memories):
        memory.forget()


class ByIdentity(Generic[Subject, Result]):
    """Results for frozen subjects, found again by identity."""

    def __init__(self, compute: Callable[[Subject], Result], capacity: int = 4096) -> None:
        self._compute = compute
        self._capacity = capacity
        self._results: Generations[int, tuple[Subject, Result]] = Generations(capacity)
        _memories.add(self)

    def forget(self) -> None:
        """Lets go of all subjects and results."""
        self._results = Generations(self._capacity)

    def knows(self, subject: Subject) -> bool:
        """Whether the result for this subject is there already."""
        return self._results.get(id(subject)) is not None

    def __call__(self, subject: Subject) -> Result:
        cached = self._results.get(id(subject))
        if cached is None:
            cached = (subject, self._compute(subject))
            self._results.put(id(subject), cached)
        return cached[1]
