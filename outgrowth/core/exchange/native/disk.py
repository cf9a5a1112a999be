"""Reading and writing on a disk that is not ours alone: whole files or none, only ordinary
ones, and nothing that changed meanwhile is written over."""

from __future__ import annotations

import contextlib
import hashlib
import os
import stat
import tempfile
from pathlib import Path as FilePath

from outgrowth.core.exchange.native.codec import FileRefusal
from outgrowth.core.refusal import quoted

LARGEST_FILE = 256 * 1024 * 1024
"""Bytes of a file that is read. The largest that was measured has 20 MB."""


class ChangedMeanwhile(FileRefusal):
    """What is on the disk is not what was read from there: nothing was written."""


def called(path: FilePath) -> str:
    """A file's name as messages write it."""
    return quoted(path.name or str(path), 60)


def digest(data: bytes) -> str:
    """What tells one content from another. Source: FIPS 180-4 (SHA-256)."""
    return hashlib.sha256(data).hexdigest()


def read_file(path: FilePath, largest: int = LARGEST_FILE, follow: bool = True) -> bytes:
    """The bytes of an ordinary file. Pipes and devices, which may never end, are refused, and
    where `follow` is False so are links. Raises OSError or FileRefusal."""
    flags = os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC | (0 if follow else os.O_NOFOLLOW)
    handle = os.open(path, flags)
    with os.fdopen(handle, "rb") as file:
        about = os.fstat(handle)
        if not stat.S_ISREG(about.st_mode):
            raise FileRefusal(f"“{called(path)}” is no ordinary file, so it was not opened.")
        if about.st_size > largest:
            raise FileRefusal(
                f"“{called(path)}” has {about.st_size:,} bytes; {largest:,} is the most."
            )
        data = file.read(largest + 1)
    if len(data) > largest:
        raise FileRefusal(
            f"“{called(path)}” grew while it was read; {largest:,} bytes is the most."
        )
    return data


def read_chosen(path: FilePath, largest: int = LARGEST_FILE) -> bytes:
    """`read_file` for what a person chose. Raises FileRefusal."""
    try:
        return read_file(path, largest)
    except FileRefusal:  # which is a ValueError too
        raise
    except (OSError, ValueError) as problem:  # ValueError: a name with a NUL in it
        reason = getattr(problem, "strerror", None) or "that is no name for a file"
        raise FileRefusal(f"“{called(path)}” cannot be read: {reason}.") from problem


def write_file(path: FilePath, data: bytes) -> None:
    """Writes a file so that at every moment the old or the new one is there, whole. A link
    stays one: what it leads to is written. Raises OSError, PermissionError for a file that is
    write-protected; the old file is then untouched."""
    target = path.resolve()
    mode = _mode_of(target)
    handle, name = tempfile.mkstemp(dir=target.parent, prefix=".outgrowth-", suffix=".part")
    part = FilePath(name)
    try:
        write_synced(handle, data)
        part.chmod(mode)
        part.replace(target)
    except OSError:
        with contextlib.suppress(OSError):
            part.unlink()
        raise
    sync_folder(target.parent)


def save_file(path: FilePath, data: bytes) -> None:
    """`write_file` for what a person asked to be written there. Raises FileRefusal."""
    try:
        write_file(path, data)
    except (OSError, ValueError) as problem:
        reason = getattr(problem, "strerror", None) or "that is no name for a file"
        raise FileRefusal(f"“{called(path)}” cannot be written: {reason}.") from problem


def write_synced(target: FilePath | int, data: bytes) -> None:
    """Writes bytes to a path or an open handle (which is closed), and waits until they are on
    the disk. Raises OSError."""
    with open(target, "wb") as out:  # noqa: PTH123  # a path has no way to open a handle
        out.write(data)
        out.flush()
        os.fsync(out.fileno())


def _mode_of(path: FilePath) -> int:
    """The permissions that a file has, or a new one gets. One that nobody may write is
    protected from us too, whoever we are."""
    try:
        about = path.stat()
    except FileNotFoundError:
        return 0o644
    if not stat.S_ISREG(about.st_mode):
        raise FileExistsError(17, "no ordinary file is there", str(path))
    mode = stat.S_IMODE(about.st_mode)
    if not mode & 0o222 or not os.access(path, os.W_OK):
        raise PermissionError(13, "it is write-protected", str(path))
    return mode


def sync_folder(folder: FilePath) -> None:
    """Makes sure that names written in a folder outlast a loss of power, where it can be."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
