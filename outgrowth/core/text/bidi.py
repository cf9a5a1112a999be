"""The order of letters where writing directions meet: UAX #9, by python-bidi."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple, TypeVar
from unicodedata import bidirectional

from bidi import algorithm

Piece = TypeVar("Piece")

_RIGHT = frozenset(("R", "AL", "AN", "RLE", "RLO", "RLI", "LRE", "LRO", "LRI", "FSI"))


class Levels(NamedTuple):
    """The embedding level of each character, and that of the paragraph: odd is right to left."""

    base: int
    each: tuple[int, ...]


@lru_cache(maxsize=4096)
def levels(text: str) -> Levels:
    """The levels of a paragraph, whose direction is that of its first strong letter."""
    if not any(bidirectional(c) in _RIGHT for c in text):
        return Levels(0, (0,) * len(text))
    base = algorithm.get_base_level(text)
    storage = algorithm.get_empty_storage()
    storage["base_level"], storage["base_dir"] = base, ("L", "R")[base]
    algorithm.get_embedding_levels(text, storage)
    for n, char in enumerate(storage["chars"]):
        char["place"] = n
    algorithm.explicit_embed_and_overrides(storage, False)
    algorithm.resolve_weak_types(storage, False)
    algorithm.resolve_neutral_types(storage, False)
    algorithm.resolve_implicit_levels(storage, False)
    embedding_levels = [base] * len(text)
    for char in storage["chars"]:
        embedding_levels[char["place"]] = char["level"]
    return Levels(base, tuple(embedding_levels))


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
