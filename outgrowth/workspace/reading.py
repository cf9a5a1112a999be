"""How what comes from outside is read for the work in hand: at once, or beside a window that
goes on meanwhile."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path as FilePath
from typing import Protocol, TypeVar

from outgrowth.core.refusal import Refusal

_Read = TypeVar("_Read")


class Reading(Protocol):
    """Whoever reads, one after another."""

    def read(
        self, name: str, size: int, read: Callable[[], _Read], took: Callable[[_Read], object]
    ) -> None:
        """Gives `took` what `read` gives; `read` knows nothing of the workspace, and raises
        Refusal, which is told. `name` and `size`, in bytes, are of what is read."""
        ...


class AtOnce:
    """Reads while everything waits; `failed` tells a refusal."""

    def __init__(self, failed: Callable[[str], object]) -> None:
        self._failed = failed

    def read(
        self, name: str, size: int, read: Callable[[], _Read], took: Callable[[_Read], object]
    ) -> None:
        """As Reading has it."""
        try:
            result = read()
        except Refusal as problem:
            self._failed(str(problem))
        else:
            took(result)


def size_of(path: FilePath) -> int:
    """Bytes of a file; 0 where that cannot be said: reading it says why."""
    try:
        return path.stat().st_size
    except (OSError, ValueError):  # a name with a NUL in it
        return 0
