"""The native file: UTF-8 JSON with sorted keys and one value a line.

Reading checks everything against the property table and says in a sentence what is wrong
and where; a document is either read whole or not at all. Keys that this version does not
know are kept and written back.
"""

from __future__ import annotations

import contextlib
import json
import os
import tempfile
from pathlib import Path as FilePath

import msgspec

from outgrowth.core.document.records import Document
from outgrowth.core.exchange import folder
from outgrowth.core.exchange.folder import load_folder
from outgrowth.core.exchange.native_read import FileProblem, document_from
from outgrowth.core.exchange.native_write import document_to

SUFFIX = ".outgrowth.json"

__all__ = ["SUFFIX", "FileProblem", "dumps", "load", "loads", "save"]


def dumps(document: Document) -> str:
    """The document as the text of a file."""
    return json.dumps(document_to(document), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


def loads(data: bytes, name: str) -> Document:
    """The document in a file's bytes. `name` is what messages call the file.

    Raises FileProblem.
    """
    try:
        held: object = msgspec.json.decode(data)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as problem:
        raise FileProblem(
            f"“{name}” is damaged or cut off: it is not complete JSON ({_reason(problem)}). "
            "Nothing was opened; an older copy may still be whole."
        ) from problem
    return document_from(held, name)


def load(path: FilePath) -> Document:
    """Reads a file, or a folder of the folder form. Raises FileProblem, also when it cannot
    be read at all."""
    if path.is_dir():
        return load_folder(path)
    try:
        data = path.read_bytes()
    except OSError as problem:
        why = problem.strerror or str(problem)
        raise FileProblem(f"“{path.name}” cannot be read: {why}.") from problem
    return loads(data, path.name)


def save(document: Document, path: FilePath) -> None:
    """Writes a file so that at every moment the old or the new one is there, whole; a path
    with the suffix of the folder form becomes a folder.

    Raises FileProblem if it cannot be written; the old file is then untouched.
    """
    if path.is_dir() or path.suffix == folder.SUFFIX:
        try:
            folder.save_folder(document, path)
        except OSError as problem:
            raise _unwritten(path, problem) from problem
        return
    data = dumps(document).encode()
    try:
        handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.", suffix=".part")
    except OSError as problem:
        raise _unwritten(path, problem) from problem
    part = FilePath(name)
    try:
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        part.chmod(path.stat().st_mode & 0o777 if path.exists() else 0o644)
        part.replace(path)
    except OSError as problem:
        with contextlib.suppress(OSError):
            part.unlink()
        raise _unwritten(path, problem) from problem


def _unwritten(path: FilePath, problem: OSError) -> FileProblem:
    why = problem.strerror or str(problem)
    return FileProblem(f"“{path.name}” could not be saved: {why}. Your work is still open here.")


def _reason(problem: Exception) -> str:
    return str(problem).rstrip(".").lower() or type(problem).__name__
