"""The folder form of a file: one file for each component, screen and picture, so that a team's
changes meet in few of them. Together they say just what a single file says.

Saving writes what changed beside, then a plan, then carries the plan out; whoever opens the
folder finishes a plan that was left, so that old and new are never mixed.

**Only the folder's own files are touched**: names of the form below, that the folder's list
names, strictly inside, and no links. Whatever else lies there is somebody else's.
"""

from __future__ import annotations

import base64
import contextlib
import fcntl
import os
import re
import shutil
import stat
from collections.abc import Iterator, Mapping
from itertools import count
from pathlib import Path as FilePath
from typing import cast

from outgrowth.core.document.records import Document
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.exchange.native.codec import FileRefusal
from outgrowth.core.exchange.native.disk import called, read_file, sync_folder, write_synced
from outgrowth.core.exchange.native.records import document_from, document_to
from outgrowth.core.exchange.native.text import from_text, to_text
from outgrowth.core.refusal import quoted

SUFFIX = ".outgrowth"
HEAD = "document.json"
_STAGE = ".saving"
_PLAN = f"{_STAGE}/plan.json"
_SAFE = re.compile(r"[A-Za-z0-9_-]{1,80}")
_OWN = re.compile(
    r"document\.json|(components|screens)/[A-Za-z0-9_-]{1,80}\.json|assets/[A-Za-z0-9_-]{1,80}"
)
_PARTS = ("components", "screens")


# --- names ----------------------------------------------------------------------------------


def _inside(folder: FilePath, name: str) -> FilePath:
    """The path of one of the folder's own files, or of one that waits to become it.

    Raises FileRefusal for any other name, and where a link would lead elsewhere.
    """
    bare = name.removeprefix(f"{_STAGE}/")
    if not (_OWN.fullmatch(bare) or name == _PLAN):
        raise FileRefusal(f"“{quoted(name)}” is no name of a part; the folder was left alone.")
    path = folder
    for step in name.split("/"):
        path = path / step
        if path.is_symlink():
            raise FileRefusal(
                f"“{called(folder)}” holds a link, “{quoted(name)}”, that may lead out of it; the "
                "folder was left alone."
            )
    return path


def is_own_name(name: str) -> bool:
    """Whether a path in the folder is one of the form that parts have."""
    return _OWN.fullmatch(name) is not None


def _read(folder: FilePath, name: str) -> bytes:
    return read_file(_inside(folder, name), follow=False)


def _object(folder: FilePath, name: str) -> JsonObject:
    record = from_text(_read(folder, name), name)
    if not isinstance(record, dict):
        raise FileRefusal(f"“{quoted(name)}” holds no part of a file. Nothing was opened.")
    return record


def listed_files(head: JsonObject) -> dict[str, list[str]]:
    """The folder's own files by what they hold, as its list names them.

    Raises FileRefusal for a list that is none.
    """
    files: dict[str, list[str]] = {}
    for key in _PARTS:
        names = head.get(key, [])
        if not isinstance(names, list) or not all(isinstance(name, str) for name in names):
            raise FileRefusal(f"“{HEAD}” is damaged: its list of {key} is none.")
        files[key] = [f"{key}/{name}" for name in names]
    assets = head.get("assets", {})
    if not isinstance(assets, dict) or not all(isinstance(a, dict) for a in assets.values()):
        raise FileRefusal(f"“{HEAD}” is damaged: its list of assets is none.")
    about = cast(dict[str, JsonObject], assets)
    files["assets"] = [f"assets/{asset.get('file', key)}" for key, asset in about.items()]
    return files


def own_files(folder: FilePath) -> list[str]:
    """The names of all files that the folder's list names, the list itself too; none where
    there is no list yet. Raises FileRefusal or OSError."""
    try:
        head = _object(folder, HEAD)
    except FileNotFoundError:
        return []
    return [HEAD, *(name for names in listed_files(head).values() for name in names)]


# --- reading --------------------------------------------------------------------------------


def contents(folder: FilePath) -> dict[str, bytes]:
    """The folder's own files by their names, a plan that was left carried out before.

    Raises FileRefusal.
    """
    try:
        with _locked(folder):
            _finish(folder)
            names = own_files(folder)
            if not names:
                raise FileRefusal(f"“{called(folder)}” holds no {HEAD}, so it is no file of ours.")
            return {name: _read(folder, name) for name in names}
    except OSError as problem:
        missing = quoted(FilePath(str(problem.filename or folder)).name)
        why = problem.strerror or str(problem)
        raise FileRefusal(f"“{called(folder)}” cannot be read: {missing}: {why}.") from problem


def present(folder: FilePath, known: frozenset[str]) -> dict[str, bytes] | None:
    """Those of the folder's own files that are there, where others were removed; `known` are the
    names of old, which count where the list itself is gone. None where the list is damaged.

    Raises FileRefusal or OSError.
    """
    files: dict[str, bytes] = {}
    with _locked(folder):
        _finish(folder)
        try:
            names = own_files(folder) or known
        except FileRefusal:
            return None
        for name in names:
            with contextlib.suppress(FileNotFoundError):
                files[name] = _read(folder, name)
    return files


def joined(files: Mapping[str, bytes], name: str) -> Document:
    """The document that a folder's files say together. Raises FileRefusal."""
    head = cast(JsonObject, from_text(files[HEAD], HEAD))
    entries = listed_files(head)
    for key in _PARTS:
        head[key] = [from_text(files[part], part) for part in entries[key]]
    assets = cast(dict[str, JsonObject], head.get("assets", {}))
    for part, asset in zip(entries["assets"], assets.values(), strict=True):
        asset.pop("file", None)
        asset["data"] = [base64.b64encode(files[part]).decode()]
    return document_from(head, name)


# --- writing --------------------------------------------------------------------------------


def split(document: Document, foreign: frozenset[str] = frozenset()) -> dict[str, bytes]:
    """The files of the folder, by their path in it; names of `foreign` files are not taken."""
    head = document_to(document)
    files: dict[str, bytes] = {}
    for key in _PARTS:
        names: list[Json] = []
        for owner in cast(list[JsonObject], head.get(key, [])):
            name = _free_name(f"{key}/", str(owner["id"]), ".json", {*files, *foreign})
            files[name] = to_text(owner)
            names.append(name.removeprefix(f"{key}/"))
        head[key] = names
    assets = cast(dict[str, JsonObject], head.get("assets", {}))
    for key, asset in assets.items():
        data = base64.b64decode("".join(cast(list[str], asset.pop("data"))))
        name = _free_name("assets/", key, "", {*files, *foreign})
        files[name] = data
        if name != f"assets/{key}":
            asset["file"] = name.removeprefix("assets/")
    files[HEAD] = to_text(head)
    return files


def _free_name(room: str, key: str, suffix: str, used: set[str]) -> str:
    """A name that is safe on any disk (ids of our own making are) and that none has."""
    usual = f"{room}{key}{suffix}"
    if _SAFE.fullmatch(key) and usual not in used:
        return usual
    names = (f"{room}part-{n}{suffix}" for n in range(len(used) + 1))
    return next(name for name in names if name not in used)


def save_folder(
    document: Document,
    folder: FilePath,
    known: frozenset[str] = frozenset(),
    over: bool = False,
) -> dict[str, bytes]:
    """Writes the folder so that at every moment the old or the new state can be opened; its
    files as they are then.

    `known` are the names of its files when it was read or written last. They are its own where
    the list is gone, and where `over` says that one that is damaged, or a plan of a save that is,
    may go (they are put aside).

    Raises OSError if it cannot be written, FileRefusal where what is there is not a folder of
    ours; the old state is then still there.
    """
    if folder.exists() and not folder.is_dir():
        raise FileRefusal(
            f"“{called(folder)}” is a file where the folder was; move it away, and save again. "
            "Your work is still open here."
        )
    folder.mkdir(exist_ok=True)
    with _locked(folder):
        try:
            _finish(folder)
        except FileRefusal:
            if not over:
                raise
            _put_aside(folder / _STAGE)
        try:
            old = own_files(folder) or sorted(known)
        except FileRefusal:
            if not (over and known):
                raise
            _put_aside(folder / HEAD)
            old = sorted(known)
        files = split(document, _foreign(folder, old))
        changed = [name for name, data in files.items() if not _holds(folder, name, data)]
        removed = [name for name in old if name not in files]
        for name in (*changed, *removed):
            _refuse_in_the_way(folder, name)
        if changed or removed:
            for name in changed:
                _write(_inside(folder, f"{_STAGE}/{name}"), files[name])
            plan: JsonObject = {"put": list(changed), "remove": list(removed)}
            part = folder / _STAGE / "plan.part"
            _write(part, to_text(plan))
            part.replace(folder / _PLAN)
            sync_folder(folder / _STAGE)
            _finish(folder)
    return files


def _refuse_in_the_way(folder: FilePath, name: str) -> None:
    """Raises FileRefusal where something else than a file lies under one of its names."""
    path = _inside(folder, name)
    if path.exists() and not path.is_file():
        raise FileRefusal(
            f"“{called(folder)}” holds no ordinary file as “{quoted(name)}”; move it away, and "
            "save again. Your work is still open here."
        )


def _put_aside(path: FilePath) -> None:
    """What is damaged stays in the folder, under a name that nobody looks at."""
    names = (path.with_name(f"{path.name}.damaged-{n}") for n in count(1))
    path.rename(next(name for name in names if not os.path.lexists(name)))


def _foreign(folder: FilePath, own: list[str]) -> frozenset[str]:
    """What lies where the folder's files do, and is not among them."""
    existing = {
        f"{key}/{path.name}" for key in (*_PARTS, "assets") for path in _within(folder / key)
    }
    return frozenset(existing - set(own))


def _within(folder: FilePath) -> Iterator[FilePath]:
    if folder.is_dir() and not folder.is_symlink():
        yield from folder.iterdir()


def _holds(folder: FilePath, name: str, data: bytes) -> bool:
    path = _inside(folder, name)
    return path.is_file() and path.stat().st_size == len(data) and _read(folder, name) == data


def _write(path: FilePath, data: bytes) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    write_synced(path, data)


def finish(folder: FilePath) -> None:
    """Carries out a plan that was left half done. Raises OSError or FileRefusal."""
    with _locked(folder):
        _finish(folder)


def _finish(folder: FilePath) -> None:
    stage = folder / _STAGE
    if not os.path.lexists(stage):
        return
    if stage.is_symlink() or not stage.is_dir():
        raise FileRefusal(f"“{called(folder)}” holds “{_STAGE}”, which is no folder of ours.")
    if os.path.lexists(folder / _PLAN):
        to_put, to_remove = _planned(folder)
        for name in (*to_put, HEAD):  # the list comes last: until then the old state counts
            waiting = _inside(folder, f"{_STAGE}/{name}")
            if name == HEAD:
                for old in to_remove:
                    with contextlib.suppress(FileNotFoundError):
                        _inside(folder, old).unlink()
            if waiting.is_file():
                target = _inside(folder, name)
                target.parent.mkdir(exist_ok=True)
                waiting.replace(target)
        sync_folder(folder)
        (folder / _PLAN).unlink()
    shutil.rmtree(stage, ignore_errors=True)


def _planned(folder: FilePath) -> tuple[list[str], list[str]]:
    """What a plan puts, the list apart, and what it removes: files of the folder's own only.

    Raises FileRefusal for any other plan; nothing of it is then carried out.
    """
    try:
        plan = _object(folder, _PLAN)
        to_put, to_remove = plan.get("put"), plan.get("remove")
        if not isinstance(to_put, list) or not isinstance(to_remove, list):
            raise FileRefusal("it lists nothing.")
        names = [name for name in (*to_put, *to_remove) if isinstance(name, str)]
        if len(names) != len(to_put) + len(to_remove):
            raise FileRefusal("it lists what is no name.")
        for name in names:
            target = _inside(folder, name)
            if os.path.lexists(target) and not stat.S_ISREG(target.lstat().st_mode):
                raise FileRefusal(f"“{quoted(name)}” is no ordinary file.")
        own = own_files(folder)
    except FileRefusal as problem:
        raise FileRefusal(
            f"“{called(folder)}” was left in the middle of a save, and its plan is damaged "
            f"({str(problem).partition(';')[0].rstrip('.')}). Nothing was changed; move “{_STAGE}” "
            "away to open it as it is."
        ) from problem
    put_names = [str(name) for name in to_put if name != HEAD]
    return put_names, [str(name) for name in to_remove if name in own and name != HEAD]


@contextlib.contextmanager
def _locked(folder: FilePath) -> Iterator[None]:
    """One program at a time carries out what is planned in a folder."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    try:
        with contextlib.suppress(OSError):  # some disks know no locks
            fcntl.flock(handle, fcntl.LOCK_EX)
        yield
    finally:
        os.close(handle)


__all__ = [
    "HEAD",
    "SUFFIX",
    "contents",
    "finish",
    "is_own_name",
    "joined",
    "listed_files",
    "own_files",
    "present",
    "save_folder",
    "split",
]
