"""Merging files rather than documents: what git's merge driver is asked to do.

Each file of a library or of the folder form is merged by what it is: a whole document, one
component or screen, the list of a folder, the versions. Where both sides say different things
ours stands, and the file keeps what was to be merged under `unmerged`: the program opens it and
lets it be picked.
"""

from __future__ import annotations

from collections.abc import Container, Mapping, Sequence
from typing import NamedTuple, cast

import msgspec
from immutables import Map

from outgrowth.core.document.records import Component, Document, Owner
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.exchange.native.codec import FileRefusal, Misfit
from outgrowth.core.exchange.native.records import (
    COMPONENT,
    FORMAT,
    SCREEN,
    document_from,
    document_to,
)
from outgrowth.core.exchange.native.text import from_text, to_text
from outgrowth.core.team.facts import FactKey
from outgrowth.core.team.merge import Disagreement, MergedDocument, Picks, merge
from outgrowth.core.team.sequences import woven
from outgrowth.core.team.versions import version_numbers

UNMERGED = "unmerged"
"""The key under which a file keeps `base` and `theirs` where ours stands for now."""


class _Records(NamedTuple):
    """A file's three states, as JSON objects."""

    base: JsonObject
    ours: JsonObject
    theirs: JsonObject


class MergedFile(NamedTuple):
    """The bytes of a merged file, and where the sides disagree.

    ours, theirs  documents of what the sides said, for words about them
    """

    data: bytes
    disagreements: tuple[Disagreement, ...] = ()
    ours: Document = Document("")
    theirs: Document = Document("")


def merge_files(
    base: bytes, ours: bytes, theirs: bytes, name: str, picks: Picks | None = None
) -> MergedFile:
    """The three states of a file made into one; an empty base is a file that both made anew.

    Where all disagreements are picked, the file is whole; else it keeps what was to be merged, as
    if none was. Of a file that holds no parts, each pick counts by itself.

    Raises FileRefusal where one of them cannot be read: then nothing is to be written.
    """
    records = [from_text(data, name) if data.strip() else {} for data in (base, ours, theirs)]
    if not all(isinstance(record, dict) for record in records):
        raise FileRefusal(f"“{name}” holds nothing that could be merged by what it is made of.")
    states = _Records(*cast(list[JsonObject], records))
    if states.theirs in (states.ours, states.base):
        return MergedFile(ours)
    if states.base == states.ours:
        return MergedFile(theirs)
    if "root" in states.ours and "root" in states.theirs:
        return _owners(states, name, picks)
    if states.ours.get("format") == FORMAT and states.theirs.get("format") == FORMAT:
        listings = [_lists_files(state, name) for state in states]
        return (_heads if any(listings) else _documents)(states, name, picks)
    return _plain(states, picks or {})


def _lists_files(record: JsonObject, name: str) -> bool:
    """Whether a document's record is the list of a folder, which names its parts. Raises
    FileRefusal for one that lists what is neither a name nor a part."""
    items: list[Json] = []
    for key in ("components", "screens"):
        listed = record.get(key, [])
        if not isinstance(listed, list):
            raise FileRefusal(f"“{name}” is damaged: its list of {key} is none.")
        items += listed
    if not isinstance(record.get("assets", {}), dict):
        raise FileRefusal(f"“{name}” is damaged: its list of assets is none.")
    names = [isinstance(item, str) for item in items]
    if any(names) and not all(names):
        raise FileRefusal(f"“{name}” is damaged: it holds parts and names of parts.")
    return any(names)


def _with_unmerged(record: JsonObject, states: _Records, merged: MergedDocument) -> MergedFile:
    if merged.disagreements:
        record[UNMERGED] = {"base": _bare(states.base), "theirs": _bare(states.theirs)}
    return MergedFile(to_text(record), merged.disagreements)


def _bare(record: JsonObject) -> JsonObject:
    return {key: value for key, value in record.items() if key != UNMERGED}


def _owners(states: _Records, name: str, picks: Picks | None) -> MergedFile:
    """One component or screen."""
    is_screen = not any("axes" in r or "rules" in r for r in states) and "/" in name
    is_screen = is_screen and name.split("/")[-2] == "screens"
    codec = SCREEN if is_screen else COMPONENT
    try:
        owners = [codec.read(_bare(state)) if state else None for state in states]
    except Misfit as problem:
        raise FileRefusal(f"“{name}” cannot be read: {problem.what}") from problem
    base, ours, theirs = (_holding(owner) for owner in owners)
    merged = _settled(base, ours, theirs, picks)
    owner = next(iter(merged.document.owners()), None)
    if owner is None:
        raise FileRefusal(
            f"“{name}” would be gone: what was picked takes it away. Remove the file to say so."
        )
    written = codec.write(owner)  # type: ignore[arg-type]  # as it was read
    file = _with_unmerged(cast(JsonObject, written), states, merged)
    return file._replace(ours=ours, theirs=theirs)


def _settled(
    base: Document, ours: Document, theirs: Document, picks: Picks | None
) -> MergedDocument:
    """What is merged, without disagreements where all of them are picked; else as if none was."""
    merged = merge(base, ours, theirs, picks)
    if not picks:
        return merged
    if all(one.key in picks for one in merged.disagreements):
        return merged._replace(disagreements=())
    return merge(base, ours, theirs)


def _holding(owner: Owner | None) -> Document:
    """A document of one owner."""
    if owner is None:
        return Document("")
    if isinstance(owner, Component):
        return Document("", components=Map({owner.id: owner}), component_order=(owner.id,))
    return Document("", screens=Map({owner.id: owner}), screen_order=(owner.id,))


def _documents(states: _Records, name: str, picks: Picks | None) -> MergedFile:
    """A whole file."""
    known = states.ours
    empty = {"format": FORMAT, "version": known.get("version"), "name": known.get("name")}
    base, ours, theirs = (document_from(_bare(state or empty), name) for state in states)
    merged = merge_documents(base, ours, theirs, picks)
    return MergedFile(to_text(document_to(merged.document)), merged.disagreements, ours, theirs)


def merge_documents(
    base: Document, ours: Document, theirs: Document, picks: Picks | None = None
) -> MergedDocument:
    """Three documents made into one, which keeps what was to be merged where they disagree and
    not all is picked."""
    merged = _settled(base, ours, theirs, picks)
    if not merged.disagreements:
        return merged
    members: JsonObject = {"base": document_to(base), "theirs": document_to(theirs)}
    extras = merged.document.extras.set(UNMERGED, members)
    return merged._replace(document=msgspec.structs.replace(merged.document, extras=extras))


def _heads(states: _Records, name: str, picks: Picks | None) -> MergedFile:
    """The list of a folder: its parts are files of their own, merged by themselves."""
    lists = ("components", "screens", "assets")
    bare = ({k: v for k, v in state.items() if k not in lists} for state in states)
    file = _documents(_Records(*bare), name, picks)
    record = cast(JsonObject, from_text(file.data, name))
    for key in ("components", "screens"):
        record[key] = _listed_names([cast(list[Json], side.get(key, [])) for side in states])
    assets = [cast(JsonObject, side.get("assets", {})) for side in states]
    # What one side took out git takes out too: a list that names it would not open.
    remaining = [d for d in {**assets[1], **assets[2]} if not _was_removed(d, assets)]
    if remaining:
        record["assets"] = {
            digest: assets[1].get(digest, assets[2].get(digest)) for digest in remaining
        }
    return file._replace(data=to_text(record))


def _was_removed(name: Json, sides: Sequence[Container[Json]]) -> bool:
    """Whether one side took out what the base had."""
    return name in sides[0] and (name not in sides[1] or name not in sides[2])


def _listed_names(orders: list[list[Json]]) -> list[Json]:
    names = {name for order in orders[1:] for name in order}
    members = {name for name in names if not _was_removed(name, orders)}
    return cast(list[Json], list(woven(orders[0], orders[1], orders[2], members, "ours").order))


def _plain(states: _Records, picks: Picks) -> MergedFile:
    """Any other file of ours: key by key; of two versions the higher one."""
    merged: JsonObject = {}
    disagreements: list[Disagreement] = []
    for key in dict.fromkeys((*states.ours, *states.theirs)):
        before, ours_value, theirs_value = (state.get(key) for state in states)
        if ours_value == theirs_value or theirs_value == before:
            value = ours_value
        elif ours_value == before:
            value = theirs_value
        elif (
            isinstance(ours_value, str)
            and isinstance(theirs_value, str)
            and "." in ours_value
            and "." in theirs_value
        ):
            value = max(ours_value, theirs_value, key=version_numbers)
        else:
            value = ours_value if ours_value is not None else theirs_value
            about: FactKey = ("document", "extras", key)
            if about in picks:
                value = ours_value if picks[about] == "ours" else theirs_value
            else:
                disagreements.append(
                    Disagreement(about, "changed", before, ours_value, theirs_value)
                )
        if value is not None:
            merged[key] = value
    return MergedFile(to_text(merged), tuple(disagreements))


# --- files that were left so -----------------------------------------------------------------


class Unmerged(NamedTuple):
    """The three states that a file with disagreements holds."""

    base: Document
    ours: Document
    theirs: Document

    def merged(self, picks: Picks) -> MergedDocument:
        """The document that picks lead to."""
        return merge(self.base, self.ours, self.theirs, picks)


def unmerged(document: Document) -> Unmerged | None:
    """What a document was left to be merged of; None for one that is whole.

    What cannot be read of it is passed over: ours stands.
    """
    ours = msgspec.structs.replace(document, extras=_without(document.extras))
    base = theirs = ours
    disagreements = UNMERGED in document.extras
    if disagreements:
        try:
            sides = _sides(document.extras[UNMERGED])
            base, theirs = (document_from(side, document.name) for side in sides)
        except (FileRefusal, ValueError):
            return None
    for owner in document.owners():
        if UNMERGED not in owner.extras:
            continue
        codec = COMPONENT if isinstance(owner, Component) else SCREEN
        try:
            sides = _sides(owner.extras[UNMERGED])
            old, theirs_record = (codec.read(side) if side else None for side in sides)
        except (Misfit, ValueError):
            continue
        disagreements = True
        bare = msgspec.structs.replace(owner, extras=_without(owner.extras))
        ours, theirs = (
            _with_owner_state(ours, owner.id, bare),
            _with_owner_state(theirs, owner.id, theirs_record),
        )
        base = _with_owner_state(base, owner.id, old)
    return Unmerged(base, ours, theirs) if disagreements else None


def _sides(value: Json) -> tuple[JsonObject, JsonObject]:
    sides = value if isinstance(value, dict) else {}
    base, theirs = sides.get("base"), sides.get("theirs")
    if not isinstance(base, dict) or not isinstance(theirs, dict):
        raise ValueError("what was to be merged is gone")
    return base, theirs


def _without(extras: Map[str, Json]) -> Map[str, Json]:
    return extras.delete(UNMERGED) if UNMERGED in extras else extras


def _with_owner_state(document: Document, owner_id: str, owner: Owner | None) -> Document:
    """The document with an owner as it was on one side, or without it."""
    changes: dict[str, object] = {}
    for key, order, kind in (
        ("components", "component_order", Component),
        ("screens", "screen_order", None),
    ):
        owners = cast(Mapping[str, Owner], getattr(document, key))
        if owner_id in owners and owner is None:
            changes[key] = cast(Map[str, Owner], owners).delete(owner_id)
            changes[order] = tuple(i for i in getattr(document, order) if i != owner_id)
        elif owner_id in owners:
            changes[key] = cast(Map[str, Owner], owners).set(owner_id, cast(Owner, owner))
        elif owner is not None and isinstance(owner, Component) == (kind is Component):
            changes[key] = cast(Map[str, Owner], owners).set(owner_id, owner)
            changes[order] = (*getattr(document, order), owner_id)
    return msgspec.structs.replace(document, **changes)
