"""A folder that files are put into: written where something changed, and never over somebody's
own work.

A ledger beside the files keeps a digest of each as it was written. A file that is another one now
was edited by hand: it is named, and kept unless told otherwise; where the others would not go
with it, none is written. Whoever made the folder may have
made its ledger too, so it is believed only about files that are called as we call ours. No link
is followed at any depth, and what is no ordinary file is neither read nor written.
"""

from __future__ import annotations

import contextlib
import errno
import fcntl
import hashlib
import json
import os
import re
import stat
from collections.abc import Iterator, Sequence
from pathlib import Path, PurePosixPath
from typing import NamedTuple

from outgrowth.core.refusal import Refusal, quoted

Files = dict[str, bytes]
"""What is to be written, by paths in the folder with “/”."""

_LARGEST_LEDGER = 8 * 1024 * 1024
_LARGEST_READ = 64 * 1024 * 1024
"""Bytes of a file that is read to be compared; a larger one is none of ours."""


class OutputRefusal(Refusal):
    """A folder cannot be read or written; the message is a sentence for the user."""


class OutputKind(NamedTuple):
    """What writes into a folder: where it keeps its ledger, what its files are called (beyond
    that nothing is removed, whatever a ledger says), and whether each time all of them are
    written, so that those before are no longer needed."""

    ledger: str
    own: re.Pattern[str]
    whole: bool = True


_NAME = r"[a-z][a-z0-9-]*"
# As `web.files`, `tokens.write` and `workspace.handing_over` call them; a test compares.
HAND_OVER = OutputKind(
    ".hand-over.json",
    re.compile(
        rf"components/{_NAME}\.(js|d\.ts)"
        rf"|screens/{_NAME}\.(html|css|js)"
        rf"|assets/{_NAME}\.(png|jpg|gif|webp|ttf|woff2)|assets/{_NAME}-licence\.txt"
        rf"|svg/{_NAME}/{_NAME}\.svg|png/{_NAME}/{_NAME}(@[\d.]+x)?\.png"
        rf"|tokens(\.{_NAME})?\.json|tokens\.css|custom-elements\.json|index\.html"
        r"|elements\.(js|css)|hand-over\.(js|css)|runtime(\.source)?\.js|render\.(js|d\.ts)"
    ),
)
PICTURES = OutputKind(".pictures.json", re.compile(rf"{_NAME}(@[\d.]+x)?\.(svg|png)"), whole=False)
DIFFERENCES = OutputKind(".differences.json", re.compile(r"index\.html"))


class EditedRefusal(OutputRefusal):
    """Nothing was written: what was edited by hand would not go with it."""

    def __init__(self, folder: str, paths: Sequence[str]) -> None:
        others = f" and {len(paths) - 1:,} more" if len(paths) > 1 else ""
        were, they = ("were", "They") if others else ("was", "It")
        super().__init__(
            f"“{quoted(f'{folder}/{paths[0]}', 200)}”{others} {were} edited by hand, or written by "
            f"another hand. {they} would have to change with the rest, so nothing was written: "
            "move what is yours away, or write over it."
        )


class OutputPlan(NamedTuple):
    """What writing would do, as paths in order.

    edited  were changed by hand since they were written, and differ from what would be written
    gone    were written before and belong to nothing any more
    torn    those of `edited` that what is written would not go with: they would have to change too
    """

    new: tuple[str, ...]
    changed: tuple[str, ...]
    same: tuple[str, ...]
    edited: tuple[str, ...]
    gone: tuple[str, ...]
    torn: tuple[str, ...] = ()

    @property
    def does_nothing(self) -> bool:
        """Whether everything is as it would be written."""
        return not (self.new or self.changed or self.edited or self.gone)


def plan(folder: Path, files: Files, kind: OutputKind = HAND_OVER) -> OutputPlan:
    """What would be done in a folder, which need not be there yet. Raises OutputRefusal."""
    with _opened(folder, make=False) as output:
        return _planned(output, files, kind)


def write(
    folder: Path, files: Files, overwrite: bool = False, kind: OutputKind = HAND_OVER
) -> OutputPlan:
    """Writes what is new or changed, and removes what belongs to nothing any more. Files that
    were edited by hand stay unless `overwrite`; where one of them would have to change with the
    others, nothing is written (EditedRefusal). Raises OutputRefusal."""
    with _opened(folder, make=True) as output:
        assert output is not None
        intended = _planned(output, files, kind)
        if intended.torn and not overwrite:
            raise EditedRefusal(output.called, intended.torn)
        kept = set() if overwrite else set(intended.edited)
        digests = {path: _digest(data) for path, data in files.items() if path not in kept}
        before = _ledger(output, kind)
        for path in (kind.ledger, *before):
            _sweep(output, path)
        # What is written now is known as ours from the first moment, also if the work ends here.
        both = before | {p: f"{before.get(p, '')} {new}".strip() for p, new in digests.items()}
        if not intended.does_nothing:
            _put(output, kind.ledger, _ledger_text(both))
        for path in (*intended.new, *intended.changed, *(intended.edited if overwrite else ())):
            _put(output, path, files[path])
        for path in intended.gone:
            _remove(output, path)
        digests |= {p: known for p, known in before.items() if p in kept or not kind.whole}
        _put(output, kind.ledger, _ledger_text(digests))
        return intended


def _ledger_text(digests: dict[str, str]) -> bytes:
    return (json.dumps(dict(sorted(digests.items())), indent=1) + "\n").encode()


def _planned(output: _Output | None, files: Files, kind: OutputKind) -> OutputPlan:
    if output is None:
        return OutputPlan(tuple(sorted(files)), (), (), (), ())
    ledger = _ledger(output, kind)
    new: list[str] = []
    changed: list[str] = []
    same: list[str] = []
    edited: list[str] = []
    for path, data in sorted(files.items()):
        existing = _existing(output, path)
        if existing is None:
            new.append(path)
        elif existing == _digest(data):
            same.append(path)
        else:
            own = path in ledger and existing in (_EMPTY, *ledger[path].split())
            (changed if own else edited).append(path)
    gone = [
        path
        for path, digests in sorted(ledger.items())
        if kind.whole and path not in files and _existing(output, path) in digests.split()
    ]
    # One that would be written as it was before is still what the others go with.
    torn = [p for p in edited if kind.whole and _digest(files[p]) not in ledger.get(p, "").split()]
    return OutputPlan(*map(tuple, (new, changed, same, edited, gone, torn)))


def _ledger(output: _Output, kind: OutputKind) -> dict[str, str]:
    """The digests by paths, of files that are called as ours; a ledger that is damaged is none,
    so that all counts as edited."""
    data = _read(output, kind.ledger, _LARGEST_LEDGER)
    try:
        read = json.loads(data) if data else None
    except (ValueError, RecursionError):
        return {}
    if not isinstance(read, dict):
        return {}
    return {p: d for p, d in read.items() if isinstance(d, str) and kind.own.fullmatch(p)}


# --- a folder, held open -------------------------------------------------------------------------


class _Output(NamedTuple):
    """A folder by its open handle: what it is called may lead elsewhere meanwhile."""

    handle: int
    called: str


@contextlib.contextmanager
def _opened(folder: Path, make: bool) -> Iterator[_Output | None]:
    """The folder, or None where there is none and it is not to be made. One program at a time
    writes there."""
    try:
        _refuse_links(folder)
        if make:
            folder.mkdir(parents=True, exist_ok=True)
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW | os.O_CLOEXEC)
    except FileNotFoundError:
        yield None
        return
    except OSError as problem:
        raise _cannot(str(folder), problem) from problem
    try:
        if make:
            _lock(handle, folder)
        yield _Output(handle, str(folder))
    except OSError as problem:
        raise _cannot(str(folder), problem) from problem
    finally:
        os.close(handle)


def _refuse_links(folder: Path) -> None:
    """A link that somebody put into the folder one works in leads to no place that one chose."""
    for place in (folder, *(() if folder.is_absolute() else folder.parents)):
        if place.is_symlink():
            raise OutputRefusal(
                f"“{quoted(str(place), 200)}” is a link. Name the folder that it leads to, if "
                "you mean that one."
            )


def _lock(handle: int, folder: Path) -> None:
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError as problem:
        raise OutputRefusal(
            f"Another program writes into “{quoted(str(folder), 200)}” now. Try again in a moment."
        ) from problem
    except OSError:
        return  # some disks know no locks


@contextlib.contextmanager
def _room(output: _Output, path: str, make: bool) -> Iterator[int | None]:
    """The folder that a path lies in, opened step by step without following a link; None where
    it is not there."""
    handle = os.dup(output.handle)
    try:
        for part in PurePosixPath(path).parent.parts:
            if make:
                with contextlib.suppress(FileExistsError):
                    os.mkdir(part, 0o755, dir_fd=handle)
            flags = os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW | os.O_CLOEXEC
            try:
                inner = os.open(part, flags, dir_fd=handle)
            except FileNotFoundError:
                yield None
                return
            except OSError as problem:
                if problem.errno in (errno.ELOOP, errno.ENOTDIR):
                    raise _stands_there(output, path, "a link or no folder") from problem
                raise
            os.close(handle)
            handle = inner
        yield handle
    finally:
        os.close(handle)


def _status(room: int, name: str) -> os.stat_result | None:
    try:
        return os.stat(name, dir_fd=room, follow_symlinks=False)
    except FileNotFoundError:
        return None


def _existing(output: _Output, path: str) -> str | None:
    """The digest of a file that is there, None for none; "" for one that is too large to be
    ours. Raises OutputRefusal for what is no ordinary file."""
    data = _read(output, path, _LARGEST_READ)
    return None if data is None else _digest(data) if data is not _TOO_LARGE else ""


_EMPTY = hashlib.sha256(b"").hexdigest()
"""What a loss of power leaves of a file just written. It is made again, not waited for."""
_TOO_LARGE = bytearray()
"""Stands for the contents of a file that was not read."""


def _read(output: _Output, path: str, largest: int) -> bytes | bytearray | None:
    name = PurePosixPath(path).name
    with _room(output, path, make=False) as room:
        status = _status(room, name) if room is not None else None
        if room is None or status is None:
            return None
        if not stat.S_ISREG(status.st_mode):
            raise _stands_there(output, path, "no ordinary file")
        if status.st_size > largest:
            return _TOO_LARGE
        flags = os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC
        with os.fdopen(os.open(name, flags, dir_fd=room), "rb") as file:
            return file.read(largest)


def _put(output: _Output, path: str, data: bytes) -> None:
    """Whole or not at all: beside it first, then in its place."""
    name = PurePosixPath(path).name
    with _room(output, path, make=True) as room:
        assert room is not None
        status = _status(room, name)
        if status is not None and not stat.S_ISREG(status.st_mode):
            raise _stands_there(output, path, "no ordinary file")
        if status is not None and not status.st_mode & 0o222:
            raise _stands_there(output, path, "write-protected")
        beside = _beside(name)
        with contextlib.suppress(FileNotFoundError):
            os.unlink(beside, dir_fd=room)
        flags = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
        mode = stat.S_IMODE(status.st_mode) if status is not None else 0o644
        try:
            with os.fdopen(os.open(beside, flags, mode, dir_fd=room), "wb") as file:
                file.write(data)
            os.replace(beside, name, src_dir_fd=room, dst_dir_fd=room)
        except BaseException:
            with contextlib.suppress(OSError):
                os.unlink(beside, dir_fd=room)
            raise


def _beside(name: str) -> str:
    """Where a file is written before it takes its place."""
    return f".writing-{hashlib.sha256(name.encode()).hexdigest()[:12]}"


def _sweep(output: _Output, path: str) -> None:
    """Takes away what a run left that ended while it wrote one of our files."""
    with _room(output, path, make=False) as room:
        if room is not None:
            with contextlib.suppress(OSError):
                os.unlink(_beside(PurePosixPath(path).name), dir_fd=room)


def _remove(output: _Output, path: str) -> None:
    with _room(output, path, make=False) as room:
        if room is not None:
            with contextlib.suppress(FileNotFoundError):
                os.unlink(PurePosixPath(path).name, dir_fd=room)


def _stands_there(output: _Output, path: str, what: str) -> OutputRefusal:
    place = quoted(f"{output.called}/{path}", 200)
    return OutputRefusal(f"“{place}” is {what}. Move it away; nothing was written there.")


def _cannot(place: str, problem: OSError) -> OutputRefusal:
    reason = problem.strerror or "it is not reachable"
    return OutputRefusal(f"“{quoted(place, 200)}” cannot be read or written: {reason}.")


def _digest(data: bytes | bytearray) -> str:
    return hashlib.sha256(data).hexdigest()
