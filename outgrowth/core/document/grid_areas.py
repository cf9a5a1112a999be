"""The areas of a grid by name: what is allowed, and where each lies.

Source: CSS Grid 1, section 7.3 (named areas); CSS Values 4, section 4.2 (which words can be names).
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import lru_cache
from types import MappingProxyType
from typing import NamedTuple

import msgspec

from outgrowth.core.document.grid_tracks import MOST_TRACKS
from outgrowth.core.document.types import LONGEST_NAME, Json, JsonObject
from outgrowth.core.document.values import Literals, Value
from outgrowth.core.refusal import ValueRefusal, quoted, shown_value

NOBODY = "."
"""A cell without a name."""
_NAME = re.compile(r"-?[A-Za-z_][A-Za-z0-9_-]{0,39}")
_TAKEN = frozenset(
    ("auto", "span", "none", "inherit", "initial", "unset", "revert", "revert-layer", "default")
)


class Area(NamedTuple):
    """Columns and rows that an area takes: the first (from 0), and how many."""

    column: int
    columns: int
    row: int
    rows: int


class GridAreas(NamedTuple):
    """The areas by their names, and how many columns and rows they make up."""

    named: Mapping[str, Area]
    columns: int
    rows: int


class _AreaText(msgspec.Struct, frozen=True):
    """A text about areas, in JSON too."""

    def check(self, value: Value) -> str:
        raise NotImplementedError

    def fit(self, value: Value) -> str:
        return self.check(value)

    def read(self, data: Json) -> str:
        if not isinstance(data, str):
            raise ValueRefusal(f"{shown_value(data)} is not a text.")
        return self.check(data)

    def write(self, value: Literals) -> Json:
        return self.check(value)

    def schema(self) -> JsonObject:
        return {"type": "string", "maxLength": LONGEST_NAME * MOST_TRACKS}


class AreasType(_AreaText, frozen=True):
    """A grid's cells by name: rows parted by "/", cells by spaces, "." for one of nobody."""

    def check(self, value: Value) -> str:
        if not isinstance(value, str) or len(value) > LONGEST_NAME * MOST_TRACKS:
            raise ValueRefusal(f"{shown_value(value)} is not a list of areas.")
        rows = [row.split() for row in value.split("/")] if value.strip() else []
        text = " / ".join(" ".join(row) for row in rows)
        areas(text)
        return text


class AreaType(_AreaText, frozen=True):
    """The name of an area; empty for none."""

    def check(self, value: Value) -> str:
        if not isinstance(value, str):
            raise ValueRefusal(f"{shown_value(value)} is not the name of an area.")
        name = value.strip()
        if name:
            _check_name(name)
        return name


@lru_cache(maxsize=512)
def areas(text: str) -> GridAreas:
    """The areas that a text lists. Raises ValueRefusal with a sentence where they are none."""
    rows = [row.split() for row in text.split("/")] if text.strip() else []
    wide = len(rows[0]) if rows else 0
    if len(rows) > MOST_TRACKS or wide > MOST_TRACKS:
        raise ValueRefusal(f"A grid has at most {MOST_TRACKS} columns and as many rows.")
    for row in rows:
        if len(row) != wide or not row:
            raise ValueRefusal(
                "Every row of areas has as many cells as the first: head head / side main, for "
                "instance."
            )
    cells: dict[str, list[tuple[int, int]]] = {}
    for y, row in enumerate(rows):
        for x, name in enumerate(row):
            if name.strip(NOBODY):
                _check_name(name)
                cells.setdefault(name, []).append((x, y))
    named = {name: _rectangle(name, places) for name, places in cells.items()}
    return GridAreas(MappingProxyType(named), wide, len(rows))


def _rectangle(name: str, places: list[tuple[int, int]]) -> Area:
    columns, rows = [x for x, _ in places], [y for _, y in places]
    left, top = min(columns), min(rows)
    wide, high = max(columns) - left + 1, max(rows) - top + 1
    if wide * high != len(places):
        raise ValueRefusal(f"The cells of the area “{name}” have to make up one rectangle.")
    return Area(left, wide, top, high)


def _check_name(name: str) -> None:
    if not _NAME.fullmatch(name):
        raise ValueRefusal(
            f"“{quoted(name, 40)}” can't be the name of an area: it begins with a letter, and has "
            "letters, numbers and hyphens."
        )
    if name.lower() in _TAKEN:
        raise ValueRefusal(f"“{name}” means something else to a grid; give the area another name.")
