"""A review and a sheet of trials as JSON, for build servers; with their schemas."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from typing import get_args

from outgrowth.core.document.keeping import ALL, Waiver
from outgrowth.core.document.records import Component, Document, Owner
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.review.finding import SUBJECTS, Finding, Sure
from outgrowth.core.trials.breaks import KINDS, Break
from outgrowth.core.trials.sheet import TrialCell

REVIEW_FORMAT, TRIALS_FORMAT = "outgrowth-review", "outgrowth-trials"
VERSION = 1


def waivers_of(document: Document) -> dict[object, Waiver]:
    """What a file waives, by the key of the finding."""
    return {waiver.key: waiver for waiver in document.keeping.waivers}


def waiver_of(waivers: Mapping[object, Waiver], finding: Finding) -> Waiver | None:
    """What waives a finding: by itself, or with all of its kind in its owner."""
    return waivers.get(finding.key) or waivers.get((finding.owner, finding.kind, (), ALL))


def standing(document: Document, findings: Iterable[Finding]) -> list[Finding]:
    """The findings that are not waived."""
    waivers = waivers_of(document)
    return [finding for finding in findings if waiver_of(waivers, finding) is None]


def is_wrong(document: Document, findings: Iterable[Finding]) -> bool:
    """Whether something is wrong by its source and not waived: a build should stop."""
    return any(finding.sure == "error" for finding in standing(document, findings))


def review_json(document: Document, findings: Iterable[Finding]) -> JsonObject:
    """All findings, the waived ones with their reasons, and how many stand by how sure they
    are."""
    waived = waivers_of(document)
    rows = list(findings)
    counts = Counter(f.sure for f in rows if waiver_of(waived, f) is None)
    return {
        "format": REVIEW_FORMAT,
        "version": VERSION,
        "document": document.name,
        "counts": {
            **{sure: counts.get(sure, 0) for sure in get_args(Sure)},
            "waived": len(rows) - sum(counts.values()),
        },
        "findings": [_finding(document, f, waiver_of(waived, f)) for f in rows],
    }


def _finding(document: Document, finding: Finding, waiver: Waiver | None) -> JsonObject:
    owner = document.owner(finding.owner)
    return {
        "subject": finding.subject,
        "kind": finding.kind,
        "owner": finding.owner,
        "name": owner.name if owner is not None else "",
        "node": list(finding.node),
        "about": finding.about,
        "text": finding.text,
        "source": finding.source,
        "sure": finding.sure,
        "mend": finding.mend.title if finding.mend is not None else None,
        "waived": waiver.reason if waiver is not None else None,
    }


def trials_json(
    document: Document, owner: Owner, cells: Iterable[TrialCell], narrowest: float
) -> JsonObject:
    """What was tried of an owner, and what breaks where."""
    cells_data = [_cell(owner, cell) for cell in cells]
    return {
        "format": TRIALS_FORMAT,
        "version": VERSION,
        "document": document.name,
        "owner": owner.id,
        "name": owner.name,
        "narrowest": narrowest,
        "cells": list[Json](cells_data),
    }


def _cell(owner: Owner, cell: TrialCell) -> JsonObject:
    variant, content, room = cell.trial
    return {
        "variant": _variant_names(owner, variant),
        "content": content.id,
        "room": room.id,
        "width": round(cell.placed.width, 2),
        "height": round(cell.placed.height, 2),
        "breaks": [_break(item) for item in cell.breaks],
    }


def _break(item: Break) -> JsonObject:
    return {
        "kind": item.kind,
        "node": list(item.node),
        "text": item.text,
        "before": item.before,
    }


def _variant_names(owner: Owner, variant: Mapping[str, str]) -> JsonObject:
    """A variant by the names of its axes and values."""
    said: JsonObject = {}
    for axis in owner.axes if isinstance(owner, Component) else ():
        value = axis.value(variant.get(axis.id, ""))
        if value is not None:
            said[axis.name] = value.name
    return said


# --- schemas ------------------------------------------------------------------------------------

_TEXT: JsonObject = {"type": "string"}
_MAYBE: JsonObject = {"type": ["string", "null"]}
_PATH: JsonObject = {"type": "array", "items": _TEXT}
_COUNT: JsonObject = {"type": "integer", "minimum": 0}
_NUMBER: JsonObject = {"type": "number", "minimum": 0}


def review_schema() -> JsonObject:
    """The JSON Schema (draft 2020-12) of a review."""
    finding = _object(
        subject={"enum": list(SUBJECTS)},
        kind=_TEXT,
        owner=_TEXT,
        name=_TEXT,
        node=_PATH,
        about=_TEXT,
        text=_TEXT,
        source=_TEXT,
        sure={"enum": list(get_args(Sure))},
        mend=_MAYBE,
        waived=_MAYBE,
    )
    counts = _object(error=_COUNT, likely=_COUNT, maybe=_COUNT, waived=_COUNT)
    return _file_schema(
        "Outgrowth review",
        REVIEW_FORMAT,
        document=_TEXT,
        counts=counts,
        findings={"type": "array", "items": finding},
    )


def trials_schema() -> JsonObject:
    """The JSON Schema (draft 2020-12) of a sheet of trials."""
    item = _object(kind={"enum": list(KINDS)}, node=_PATH, text=_TEXT, before={"type": "boolean"})
    cell = _object(
        variant={"type": "object", "additionalProperties": _TEXT},
        content=_TEXT,
        room=_TEXT,
        width=_NUMBER,
        height=_NUMBER,
        breaks={"type": "array", "items": item},
    )
    cells: JsonObject = {"type": "array", "items": cell}
    texts = {"document": _TEXT, "owner": _TEXT, "name": _TEXT}
    return _file_schema("Outgrowth trials", TRIALS_FORMAT, **texts, narrowest=_NUMBER, cells=cells)


def _object(**parts: JsonObject) -> JsonObject:
    properties: JsonObject = dict(parts)
    required: list[Json] = list(parts)
    return {
        "type": "object",
        "properties": properties,
        "required": required,
        "additionalProperties": False,
    }


def _file_schema(title: str, format_name: str, **parts: JsonObject) -> JsonObject:
    head: JsonObject = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": title}
    fixed: dict[str, JsonObject] = {
        "format": {"const": format_name},
        "version": {"const": VERSION},
    }
    return head | _object(**fixed, **parts)
