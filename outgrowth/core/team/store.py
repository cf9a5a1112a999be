"""What a library asks of version control: a few calls, whatever is behind them.

A commit's files are read by name and by the digest of what is in them, so that what did not
change is not read again. Publishing puts one commit on top of the one that was read; if the
library went on meanwhile, nothing is put and the caller merges.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Mapping
from typing import NamedTuple, Protocol

from outgrowth.core.refusal import Refusal

Progress = Callable[[str], None]
"""Told what is going on, in words; may raise Cancelled."""


def untold(_: str) -> None:
    """A progress that tells nobody and never stops."""


class LibraryRefusal(Refusal):
    """A library cannot be read or published to; the message is a sentence for the user."""


class Unreachable(LibraryRefusal):
    """The library cannot be asked now; what was read from it before still counts."""


class NotConnected(LibraryRefusal):
    """Nobody on this machine connected the file to the library that it names."""


class PickNeeded(LibraryRefusal):
    """Both sides changed the same, each in its own way, and nobody picked what counts."""


class NothingNew(LibraryRefusal):
    """The library has all of it already."""


class Cancelled(LibraryRefusal):
    """The user stopped it; nothing was changed."""


class Entry(NamedTuple):
    """A file of a commit: what stands for its contents."""

    blob: str
    ordinary: bool


class Version(NamedTuple):
    """A commit: who put it there, when (seconds since 1970), what for, and what it followed."""

    commit: str
    parents: tuple[str, ...]
    author: str
    when: int
    message: str


class Signature(NamedTuple):
    """Who publishes, as git writes it (“Name <address>”), and when (seconds since 1970)."""

    author: str
    when: int


class Store(Protocol):
    """A place that keeps a library's commits."""

    def head(self) -> str:
        """The newest commit that is known here; "" for a library without any."""

    def refresh(self, progress: Progress) -> str:
        """Asks the library itself for its newest commit. Raises Unreachable or Cancelled."""

    def files(self, commit: str) -> Mapping[str, Entry]:
        """The files of a commit that may be the library's, by their paths."""

    def blob(self, commit: str, path: str) -> str:
        """What stands for the contents of one file of a commit; "" where there is none. Raises
        LibraryRefusal."""

    def read(self, blob: str) -> bytes:
        """The contents of a file. Raises LibraryRefusal."""

    def version(self, commit: str) -> Version:
        """About a commit. Raises LibraryRefusal."""

    def append(
        self, parent: str, files: Mapping[str, bytes | None], message: str, signature: Signature
    ) -> str | None:
        """Puts a commit with these files (None: removed) on top of `parent`, if that is still
        the newest; None, with nothing changed, if it is not."""

    def alone(self) -> contextlib.AbstractContextManager[None]:
        """Keeps other programs of ours from publishing meanwhile, where that can be."""
