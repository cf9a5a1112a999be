"""The order of letters where writing directions meet: UAX #9, by ICU."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple, TypeVar

import icu

from outgrowth.core.text.characters import utf16_places

Piece = TypeVar("Piece")

_FIRST_STRONG = icu.Bidi.DEFAULT_LTR


class Levels(NamedTuple):
    """The embedding level of each character, and that of the paragraph: odd is right to left."""

    base: int
    each: tuple[int, ...]


@lru_cache(maxsize=4096)
def levels(text: str) -> Levels:
    """The levels of a paragraph, whose direction is that of its first strong letter."""
    if text.isascii() or max(text) < "\u0590":
        return Levels(0, (0,) * len(text))
    bidi = icu.Bidi()
    kept = icu.UnicodeString(text)  # it does not copy the text
    bidi.setPara(kept, _FIRST_STRONG)
    each = bidi.getLevels()
    places = utf16_places(text)
    if places is not None:
        each = tuple(each[place] for place in places[:-1])
    return Levels(bidi.getParaLevel(), each)


def in_sight_order(pieces: Sequence[tuple[int, Piece]]) -> list[Piece]:
    """Pieces of one line, each with its level, from left to right (rule L2)."""
    order = list(pieces)
    for level in range(max((n for n, _ in order), default=0), 0, -1):
        start = 0
        while start < len(order):
            end = start
            while end < len(order) and order[end][0] >= level:
                end += 1
            order[start:end] = reversed(order[start:end])
            start = max(end, start + 1)
    return [piece for _, piece in order]
