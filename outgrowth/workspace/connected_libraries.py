"""Which libraries a person connected a file to, on this machine.

A file says where its library is; whoever made the file wrote that. Nothing there is visited, and
nobody is told who works here, before a person said so: once for each file and address, kept
among the user's own data and never in the file.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
from pathlib import Path as FilePath

from outgrowth.core.document.sharing import Library
from outgrowth.core.exchange.native.disk import write_file
from outgrowth.core.refusal import quoted
from outgrowth.core.team.address import shown_address


class ConnectedLibraries:
    """A folder with one small file for each connection, so that programs which note some at the
    same time lose none."""

    def __init__(self, folder: FilePath | None) -> None:
        """`folder` None keeps nothing."""
        self._folder = folder

    def has(self, file: FilePath, address: str) -> bool:
        """Whether a person connected this file to what is at this address."""
        note = self._note(file, address)
        try:
            return note is not None and note.is_file()
        except OSError:
            return False

    def add(self, file: FilePath, address: str) -> None:
        """A person connected the file to what is at the address. Where that cannot be kept, it
        has to be said again in the next run."""
        note = self._note(file, address)
        if note is None:
            return
        with contextlib.suppress(OSError):
            note.parent.mkdir(parents=True, exist_ok=True)
            write_file(note, _words(file, address))

    def _note(self, file: FilePath, address: str) -> FilePath | None:
        if self._folder is None:
            return None
        return self._folder / hashlib.sha256(_words(file, address)).hexdigest()


def not_connected_text(library: Library) -> str:
    """That nobody on this machine connected a file to a library, and where the file says it is."""
    name, address = quoted(library.name, 60), shown_address(library.address)
    return f"“{name}” is not connected on this machine. The file says that it is at {address}."


def _words(file: FilePath, address: str) -> bytes:
    """What a note is known by, and holds: a path has no NUL in it."""
    return os.fsencode(file.absolute().resolve()) + b"\0" + address.encode() + b"\n"
