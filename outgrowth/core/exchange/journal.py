"""A journal of the work: a line of JSON after each step, so that what was done since the file
was saved can be put together again after a crash.

Every line holds only the components and screens that its step changed; the first one says
which saved file they are to be laid over (none: it holds the whole document). A line that
was cut off ends the reading: what stands before it is whole.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import NamedTuple, cast

import msgspec
from immutables import Map

from outgrowth.core.document.records import Document
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.exchange.native_read import FileProblem, document_from
from outgrowth.core.exchange.native_write import asset_to, document_to


class About(NamedTuple):
    """What a journal says of itself: the file that was open ("" for none yet), its name, who
    wrote it (a process id), and when it began (seconds since 1970)."""

    path: str
    name: str
    process: int
    began: float


class Recovered(NamedTuple):
    """What a journal holds: the document after its last whole line, and how many steps."""

    about: About
    document: Document
    steps: int


class Journal:
    """Makes the lines; remembers what they said already. `saved` is what the file that
    `about` names holds; None where there is no such file."""

    def __init__(self, about: About, saved: Document | None) -> None:
        self.about = about
        self._last = saved
        self._assets = set(assets_in_use(saved)) if saved is not None else set()
        self._begun = False

    def line(self, document: Document) -> bytes:
        """The line that brings a reader from the document before to this one."""
        held = _delta(self._last, document, self._assets)
        self._last = document
        self._assets |= set(cast(JsonObject, held.get("assets", {})))
        if not self._begun:
            held["about"] = cast(Json, self.about._asdict())
            self._begun = True
        return msgspec.json.encode(held) + b"\n"


def _delta(before: Document | None, after: Document, written: set[str]) -> JsonObject:
    def changed(name: str) -> Map[str, object]:
        was = getattr(before, name) if before is not None else {}
        now = getattr(after, name)
        return Map({i: owner for i, owner in now.items() if was.get(i) is not owner})

    components, screens = changed("components"), changed("screens")
    new = {d: a for d, a in assets_in_use(after).items() if d not in written}
    part = msgspec.structs.replace(
        after,
        components=components,
        screens=screens,
        component_order=tuple(i for i in after.component_order if i in components),
        screen_order=tuple(i for i in after.screen_order if i in screens),
        assets=Map(),
    )
    held = document_to(part)
    if new:
        held["assets"] = {digest: asset_to(asset) for digest, asset in new.items()}
    held["order"] = [list(after.component_order), list(after.screen_order)]
    return held


def recovered(data: bytes, name: str, saved: Callable[[str], Document]) -> Recovered:
    """The document that a journal's bytes lead to; `saved` reads the file that was open.

    Raises FileProblem if not even the first line is whole. Where the file that was open can
    no longer be read, what the journal itself holds comes back.
    """
    held: JsonObject = {}
    steps, told = 0, None
    for line in data.split(b"\n"):
        try:
            part = json.loads(line)
        except ValueError:
            break
        if not isinstance(part, dict):
            break
        if told is None:
            told = _about(part.get("about"), name)
            held = _base(told, saved)
        held = _merged(held, part)
        steps += 1
    if told is None:
        raise FileProblem(f"“{name}” holds nothing that could be recovered.")
    return Recovered(told, document_from(held, told.name or name), steps)


def _about(held: object, name: str) -> About:
    if not isinstance(held, dict):
        raise FileProblem(f"“{name}” holds nothing that could be recovered.")
    path, called = str(held.get("path", "")), str(held.get("name", ""))
    return About(path, called, int(held.get("process", 0)), float(held.get("began", 0.0)))


def _base(about: About, saved: Callable[[str], Document]) -> JsonObject:
    if not about.path:
        return {}
    try:
        return document_to(saved(about.path))
    except FileProblem:
        return {}


def _merged(held: JsonObject, part: JsonObject) -> JsonObject:
    """A document's JSON with what a line says changed in it."""
    order = cast(list[list[str]], part.get("order", [[], []]))
    merged = {key: value for key, value in part.items() if key not in ("about", "order")}
    for key, ids in zip(("components", "screens"), order, strict=True):
        owners = {owner["id"]: owner for owner in cast(list[dict[str, str]], held.get(key, []))}
        owners |= {owner["id"]: owner for owner in cast(list[dict[str, str]], part.get(key, []))}
        merged[key] = cast(Json, [owners[i] for i in ids if i in owners])
    old, new = held.get("assets", {}), part.get("assets", {})
    merged["assets"] = {**cast(JsonObject, old), **cast(JsonObject, new)}
    return merged
