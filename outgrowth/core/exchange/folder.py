"""The folder form of a file: one file for each component, screen and picture, so that a team's
changes meet in few of them. Together they say just what a single file says.

Saving writes what changed beside, then a plan, then carries the plan out; whoever opens the
folder finishes a plan that was left, so that old and new are never mixed.
"""

from __future__ import annotations

import base64
import contextlib
import json
import os
import re
import shutil
from pathlib import Path as FilePath
from typing import cast

import msgspec

from outgrowth.core.document.records import Document
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.exchange.native_read import FileProblem, document_from
from outgrowth.core.exchange.native_write import document_to

SUFFIX = ".outgrowth"
HEAD = "document.json"
_STAGE = ".saving"
_PLAN = "plan.json"
_SAFE = re.compile(r"[A-Za-z0-9_-]{1,80}")
_PARTS = ("components", "screens")


def split(document: Document) -> dict[str, bytes]:
    """The files of the folder, by their path in it."""
    whole = document_to(document)
    files: dict[str, bytes] = {}
    for key in _PARTS:
        names: list[Json] = []
        for owner in cast(list[JsonObject], whole.get(key, [])):
            name = _file_name(str(owner["id"]), len(names))
            names.append(name)
            files[f"{key}/{name}"] = _text(owner)
        whole[key] = names
    assets = cast(dict[str, JsonObject], whole.get("assets", {}))
    for digest, asset in assets.items():
        data = base64.b64decode("".join(cast(list[str], asset.pop("data"))))
        files[f"assets/{_file_name(digest, 0, '')}"] = data
    files[HEAD] = _text(whole)
    return files


def _file_name(owner_id: str, number: int, suffix: str = ".json") -> str:
    """A name that is safe on any disk; ids of our own making are."""
    return (owner_id if _SAFE.fullmatch(owner_id) else f"part-{number}") + suffix


def _text(held: JsonObject) -> bytes:
    return (json.dumps(held, indent=1, sort_keys=True, ensure_ascii=False) + "\n").encode()


def load_folder(folder: FilePath) -> Document:
    """The document in a folder. Raises FileProblem."""
    try:
        finish(folder)
        whole = _json(folder / HEAD)
        for key in _PARTS:
            names = cast(list[Json], whole.get(key, []))
            whole[key] = [_json(folder / key / _own(name)) for name in names]
        assets = cast(dict[str, JsonObject], whole.get("assets", {}))
        for digest, asset in assets.items():
            data = (folder / "assets" / _own(digest)).read_bytes()
            asset["data"] = [base64.b64encode(data).decode()]
    except OSError as problem:
        missing = FilePath(str(problem.filename or folder)).name
        why = problem.strerror or str(problem)
        raise FileProblem(f"“{folder.name}” cannot be read: {missing}: {why}.") from problem
    except (AttributeError, TypeError) as problem:
        raise FileProblem(f"“{folder.name}” is damaged: its list of parts is none.") from problem
    return document_from(whole, folder.name)


def _own(name: Json) -> str:
    """A name of the folder's own: one that leads out of it is refused."""
    bare = str(name)
    if not _SAFE.fullmatch(bare.removesuffix(".json")):
        raise FileProblem(f"“{bare}” is no name of a part; the folder was not opened.")
    return bare


def _json(path: FilePath) -> JsonObject:
    try:
        held = msgspec.json.decode(path.read_bytes())
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as problem:
        raise FileProblem(
            f"“{path.name}” is damaged or cut off: it is not complete JSON. Nothing was opened."
        ) from problem
    if not isinstance(held, dict):
        raise FileProblem(f"“{path.name}” holds no part of a file. Nothing was opened.")
    return held


def save_folder(document: Document, folder: FilePath) -> None:
    """Writes the folder so that at every moment the old or the new state can be opened.

    Raises OSError if it cannot be written; the old state is then still there.
    """
    folder.mkdir(exist_ok=True)
    finish(folder)
    files = split(document)
    stage = folder / _STAGE
    put = [name for name, data in files.items() if not _holds(folder / name, data)]
    for name in put:
        _write(stage / name, files[name])
    there = [p for key in (*_PARTS, "assets") for p in (folder / key).glob("*") if p.is_file()]
    listed = [str(p.relative_to(folder)) for p in there]
    gone = [name for name in listed if name not in files]
    if not put and not gone:
        return
    _write(stage / f"{_PLAN}.part", json.dumps({"put": put, "remove": gone}).encode())
    (stage / f"{_PLAN}.part").replace(stage / _PLAN)
    finish(folder)


def _holds(path: FilePath, data: bytes) -> bool:
    return path.is_file() and path.stat().st_size == len(data) and path.read_bytes() == data


def _write(path: FilePath, data: bytes) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    with path.open("wb") as out:
        out.write(data)
        out.flush()
        os.fsync(out.fileno())


def finish(folder: FilePath) -> None:
    """Carries out a plan that was left half done; clears away what never became a plan.
    Raises OSError."""
    stage = folder / _STAGE
    plan = stage / _PLAN
    if plan.is_file():
        held = json.loads(plan.read_bytes())
        for name in held["put"]:
            if (stage / name).is_file():
                (folder / name).parent.mkdir(exist_ok=True)
                (stage / name).replace(folder / name)
        for name in held["remove"]:
            with contextlib.suppress(FileNotFoundError):
                (folder / name).unlink()
        plan.unlink()
    shutil.rmtree(stage, ignore_errors=True)
