"""A journal of the work: a line of JSON after each step, so that what was done since the file
was saved can be put together again after a crash.

Every line holds only the components and screens that its step changed; the first one says
which saved file they are to be laid over, by the digest of what was in it (none: it holds the
whole document). A line counts once it was written whole; the first one that is damaged ends the
reading, and the step before it comes back.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple, cast

import msgspec
from immutables import Map

from outgrowth.core.document.records import Document
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.exchange.native.codec import FileRefusal
from outgrowth.core.exchange.native.records import asset_to, document_from, document_to
from outgrowth.core.exchange.native.text import from_text


class About(msgspec.Struct, frozen=True):
    """What a journal says of itself: the file that was open ("" for none yet), its name, who
    wrote it (a process id), when it began (seconds since 1970), and the base that its lines
    are laid over: "" where the first line holds the whole document."""

    path: str
    name: str
    process: int
    began: float
    base: str = ""


class Recovered(NamedTuple):
    """What a journal holds: the document after its last whole line, and how many steps."""

    about: About
    document: Document
    steps: int


class Journal:
    """Makes the lines; remembers what was written. `saved` is what the base of `about` holds;
    None where there is no such file."""

    def __init__(self, about: About, saved: Document | None) -> None:
        self.about = about
        self._last = saved if about.base else None
        self._assets = (
            frozenset(assets_in_use(self._last)) if self._last is not None else frozenset()
        )
        self._begun = False
        self._written = self._last, self._assets

    def line(self, document: Document, steps: int = 0) -> bytes:
        """The line that brings a reader from what was written last to this document, which so
        many steps led to (0: as many as there are lines). It counts only once `wrote` was told:
        a line that did not reach the disk was never said."""
        delta = _delta(self._last, document, self._assets)
        assets = self._assets | frozenset(cast(JsonObject, delta.get("assets", {})))
        if not self._begun:
            delta["about"] = cast(Json, msgspec.structs.asdict(self.about))
        if steps:
            delta["steps"] = steps
        self._written = document, assets
        return msgspec.json.encode(delta) + b"\n"

    def wrote(self) -> None:
        """The last line is on the disk, whole."""
        self._last, self._assets = self._written
        self._begun = True


def _delta(before: Document | None, after: Document, written: frozenset[str]) -> JsonObject:
    def changed(name: str) -> Map[str, object]:
        previous: Mapping[str, object] = getattr(before, name) if before is not None else {}
        after_value = getattr(after, name)
        return Map({i: owner for i, owner in after_value.items() if previous.get(i) is not owner})

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
    record = document_to(part)
    if new:
        record["assets"] = {digest: asset_to(asset) for digest, asset in new.items()}
    record["order"] = [list(after.component_order), list(after.screen_order)]
    return record


def recovered(data: bytes, name: str, saved: Callable[[About], Document | None]) -> Recovered:
    """The document that a journal's bytes lead to; `saved` gives what the base of its lines
    held, None where that cannot be had any more.

    Raises FileRefusal if not even one step can be taken back.
    """
    documents: list[JsonObject] = []
    counts: list[int] = [0]
    about: About | None = None
    for line in data.split(b"\n")[:-1]:  # behind the last line end stands what was cut off
        part = _part(line, name)
        if part is None:
            break
        if about is None:
            about = _about(part.get("about"))
            base = saved(about) if about is not None and about.base else None
            if about is None or (about.base and base is None):
                break
            documents.append(document_to(base) if base is not None else {})
        merged = _merged(documents[-1], part)
        if merged is None:
            break
        documents.append(merged)
        count = part.get("steps")
        counts.append(count if isinstance(count, int) and count > 0 else counts[-1] + 1)
    for steps in range(len(documents) - 1, 0, -1):
        assert about is not None  # there is a document
        try:
            document = document_from(documents[steps], about.name or name)
            return Recovered(about, document, counts[steps])
        except FileRefusal:
            continue  # a step that says what cannot be: the one before it
    raise FileRefusal(f"“{name}” holds nothing that could be recovered.")


def _part(line: bytes, name: str) -> JsonObject | None:
    try:
        part = from_text(line, name)
    except FileRefusal:
        return None
    return part if isinstance(part, dict) else None


def _about(value: Json) -> About | None:
    """What a journal's first line says of itself; None where it says nothing."""
    try:
        return msgspec.convert(value, About, strict=True)
    except msgspec.ValidationError:
        return None


def _merged(record: JsonObject, part: JsonObject) -> JsonObject | None:
    """A document's JSON with what a line says changed in it; None for a damaged line."""
    order = part.get("order")
    if not isinstance(order, list) or len(order) != 2:
        return None
    merged = {key: value for key, value in part.items() if key not in ("about", "order", "steps")}
    for key, ids in zip(("components", "screens"), order, strict=True):
        owners = _by_id(record.get(key, [])), _by_id(part.get(key, []))
        if owners[0] is None or owners[1] is None or not isinstance(ids, list):
            return None
        pair = owners[0] | owners[1]
        if not all(isinstance(i, str) and i in pair for i in ids):
            return None
        merged[key] = [pair[str(i)] for i in ids]
    old, new = record.get("assets", {}), part.get("assets", {})
    if not isinstance(old, dict) or not isinstance(new, dict):
        return None
    merged["assets"] = old | new
    return merged


def _by_id(owners: Json) -> dict[str, Json] | None:
    """Owners by their ids; None for what is no list of owners."""
    by_id: dict[str, Json] = {}
    for owner in owners if isinstance(owners, list) else [None]:
        owner_id = owner.get("id") if isinstance(owner, dict) else None
        if not isinstance(owner_id, str):
            return None
        by_id[owner_id] = owner
    return by_id
