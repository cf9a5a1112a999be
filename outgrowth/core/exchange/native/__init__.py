"""The native file: UTF-8 JSON with sorted keys and one value a line.

Reading checks everything against the property table and says in a sentence what is wrong
and where; a document is either read whole or not at all, and what is read is what was
written, to the bit. Keys that this version does not know are kept and written back.
"""

from __future__ import annotations

from pathlib import Path as FilePath
from typing import NamedTuple

from outgrowth.core import collector
from outgrowth.core.document.records import Document
from outgrowth.core.exchange.native import folder
from outgrowth.core.exchange.native.codec import FileRefusal
from outgrowth.core.exchange.native.disk import (
    LARGEST_FILE,
    ChangedMeanwhile,
    called,
    digest,
    read_file,
    write_file,
)
from outgrowth.core.exchange.native.records import document_from, document_to, schema
from outgrowth.core.exchange.native.text import from_text, to_text

SUFFIX = ".outgrowth.json"

__all__ = [
    "SUFFIX",
    "ChangedMeanwhile",
    "DiskState",
    "FileRefusal",
    "disk_state",
    "dumps",
    "load",
    "load_with_state",
    "loads",
    "removed_parts",
    "save",
    "schema",
]


class DiskState(NamedTuple):
    """What is on the disk under a path: digests of the contents by the names of the files (one
    without a name for a single file), so that it can be told from what comes later."""

    digests: tuple[tuple[str, str], ...]


_NOTHING = DiskState(())


def dumps(document: Document) -> str:
    """The document as the text of a file."""
    with collector.paused():
        return to_text(document_to(document)).decode()


def loads(data: bytes, name: str) -> Document:
    """The document in a file's bytes. `name` is what messages call the file.

    Raises FileRefusal.
    """
    with collector.paused():
        return document_from(from_text(data, name), name)


def load(path: FilePath) -> Document:
    """Reads a file, or a folder of the folder form. Raises FileRefusal, also when it cannot
    be read at all."""
    return load_with_state(path)[0]


def load_with_state(path: FilePath) -> tuple[Document, DiskState]:
    """The same, with what was there at that moment."""
    files = _contents(path)
    if files is None:
        raise FileRefusal(f"“{called(path)}” cannot be read: there is no such file.")
    if path.is_dir():
        return folder.joined(files, path.name), _state_of(files)
    return loads(files[""], path.name), _state_of(files)


def disk_state(path: FilePath) -> DiskState:
    """What is on the disk under a path now. Raises FileRefusal."""
    files = _contents(path)
    return _NOTHING if files is None else _state_of(files)


def _state_of(files: dict[str, bytes]) -> DiskState:
    return DiskState(tuple((name, digest(data)) for name, data in sorted(files.items())))


def _contents(path: FilePath) -> dict[str, bytes] | None:
    """The files under a path; None where there is nothing."""
    try:
        if path.is_dir():
            return folder.contents(path)
        return {"": read_file(path)}
    except FileNotFoundError:
        return None
    except FileRefusal:
        raise
    except (OSError, ValueError) as problem:  # ValueError: a name with a NUL in it
        why = getattr(problem, "strerror", None) or str(problem)
        raise FileRefusal(f"“{called(path)}” cannot be read: {why}.") from problem


def save(
    document: Document, path: FilePath, expected: DiskState | None = None, over: bool = False
) -> DiskState:
    """Writes a file so that at every moment the old or the new one is there, whole; a path
    with the suffix of the folder form becomes a folder. What is there afterwards.

    `expected` is what was there when it was read or written last: where it is otherwise,
    another program wrote it, and ChangedMeanwhile is raised instead of writing over it, unless
    `over` (None: whatever is there may go). What was only removed is written again.

    Raises FileRefusal if it cannot be written; the old file is then untouched.
    """
    try:
        if expected is not None and not over and _changed(path, expected):
            raise ChangedMeanwhile(
                f"“{called(path)}” was changed by another program since it was opened, so it was "
                "not written over."
            )
        if path.is_dir() or path.suffix == folder.SUFFIX:
            known = frozenset(name for name, _ in expected.digests) if expected else frozenset()
            return _state_of(folder.save_folder(document, path, known, over))
        data = to_text(document_to(document))
        if len(data) > LARGEST_FILE:
            raise FileRefusal(
                f"“{called(path)}” would have {len(data):,} bytes, and {LARGEST_FILE:,} is the "
                "most that can be opened again: save it as a folder, or take pictures out."
            )
        write_file(path, data)
        return _state_of({"": data})
    except FileRefusal:
        raise
    except (OSError, ValueError) as problem:
        why = getattr(problem, "strerror", None) or str(problem)
        raise FileRefusal(
            f"“{called(path)}” could not be saved: {why}. Your work is still open here."
        ) from problem


def _changed(path: FilePath, expected: DiskState) -> bool:
    """Whether somebody else's work would be lost. A file that is gone is none."""
    if not path.is_dir():
        return disk_state(path) not in (expected, _NOTHING)
    return removed_parts(path, expected) is None


def removed_parts(path: FilePath, expected: DiskState) -> list[str] | None:
    """The files of a folder that are gone, while all the others are as they were; None where
    one of them is another, or more than these are listed. Raises FileRefusal for what cannot be
    read otherwise."""
    before = dict(expected.digests)
    try:
        after = folder.present(path, frozenset(before))
    except OSError as problem:
        why = problem.strerror or str(problem)
        raise FileRefusal(f"“{called(path)}” cannot be read: {why}.") from problem
    if after is None or any(before.get(name) != digest(data) for name, data in after.items()):
        return None
    return [name for name in before if name not in after]
