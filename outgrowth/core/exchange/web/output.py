"""A hand-over on a disk: written where something changed, and never over somebody's own edits.

A ledger beside the files keeps a digest of each as it was written. A file that is another one now
was edited by hand: it is named, and kept unless told otherwise.
"""

from __future__ import annotations

import hashlib
import json
import os
import tempfile
from pathlib import Path
from typing import NamedTuple

from outgrowth.core.exchange.web.files import Files
from outgrowth.core.refusal import Refusal, quoted

LEDGER = ".hand-over.json"
_LARGEST_LEDGER = 8 * 1024 * 1024


class OutputRefusal(Refusal):
    """A folder cannot be read or written; the message is a sentence for the user."""


class OutputPlan(NamedTuple):
    """What a hand-over would do, as paths in order.

    edited  were changed by hand since they were written, and differ from what would be written
    gone    were written before and belong to nothing any more
    """

    new: tuple[str, ...]
    changed: tuple[str, ...]
    same: tuple[str, ...]
    edited: tuple[str, ...]
    gone: tuple[str, ...]

    @property
    def does_nothing(self) -> bool:
        """Whether everything is as it would be written."""
        return not (self.new or self.changed or self.edited or self.gone)


def plan(folder: Path, files: Files) -> OutputPlan:
    """What would be done in a folder, which need not be there yet. Raises OutputRefusal."""
    ledger = _ledger(folder)
    new: list[str] = []
    changed: list[str] = []
    same: list[str] = []
    edited: list[str] = []
    for path, data in sorted(files.items()):
        existing = _existing(folder / path)
        if existing is None:
            new.append(path)
        elif existing == data:
            same.append(path)
        else:
            own = ledger.get(path) == _digest(existing)
            (changed if own else edited).append(path)
    gone = [
        path
        for path, digest in sorted(ledger.items())
        if path not in files and _digest(_existing(folder / path) or b"") == digest
    ]
    return OutputPlan(tuple(new), tuple(changed), tuple(same), tuple(edited), tuple(gone))


def write(folder: Path, files: Files, overwrite: bool = False) -> OutputPlan:
    """Writes what is new or changed, and removes what belongs to nothing any more. Files that
    were edited by hand stay unless `overwrite`. Raises OutputRefusal."""
    intended = plan(folder, files)
    cached = set() if overwrite else set(intended.edited)
    ledger = _ledger(folder)
    try:
        for path in (*intended.new, *intended.changed, *(intended.edited if overwrite else ())):
            _write_whole(folder / path, files[path])
        for path in intended.gone:
            (folder / path).unlink(missing_ok=True)
        digests = {path: _digest(data) for path, data in files.items() if path not in cached}
        digests |= {path: ledger[path] for path in cached if path in ledger}
        text = json.dumps(dict(sorted(digests.items())), indent=1) + "\n"
        _write_whole(folder / LEDGER, text.encode())
    except OSError as problem:
        raise _cannot(folder, problem) from problem
    return intended


def _ledger(folder: Path) -> dict[str, str]:
    """The digests by their paths; one that is damaged is none, so that all counts as edited."""
    data = _existing(folder / LEDGER)
    if data is None or len(data) > _LARGEST_LEDGER:
        return {}
    try:
        read = json.loads(data)
    except (ValueError, RecursionError):
        return {}
    if not isinstance(read, dict):
        return {}
    return {p: d for p, d in read.items() if isinstance(d, str) and _is_inside(p)}


def _is_inside(path: str) -> bool:
    parts = Path(path).parts
    return bool(parts) and not Path(path).is_absolute() and ".." not in parts


def _existing(path: Path) -> bytes | None:
    try:
        return path.read_bytes()
    except (FileNotFoundError, NotADirectoryError):
        return None
    except OSError as problem:
        raise _cannot(path, problem) from problem


def _write_whole(path: Path, data: bytes) -> None:
    """Whole or not at all: beside it first, then in its place."""
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, beside = tempfile.mkstemp(dir=path.parent, prefix=".writing-")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
        Path(beside).chmod(0o644)
        Path(beside).replace(path)
    except BaseException:
        Path(beside).unlink(missing_ok=True)
        raise


def _cannot(path: Path, problem: OSError) -> OutputRefusal:
    reason = problem.strerror or "it is not reachable"
    return OutputRefusal(f"“{quoted(str(path), 200)}” cannot be read or written: {reason}.")


def _digest(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()
