"""Where a line may end: UAX #14, by uniseg, and the spaces that hang there."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

from uniseg.linebreak import line_break_units


class Chunk(NamedTuple):
    """Characters start to end that stay together; those from `ink` on are spaces that
    hang over the edge if a line ends here."""

    start: int
    ink: int
    end: int


@lru_cache(maxsize=4096)
def chunks(text: str) -> tuple[Chunk, ...]:
    """A paragraph without line ends, cut wherever a line may break."""
    found = []
    start = 0
    for unit in line_break_units(text):
        end = start + len(unit)
        found.append(Chunk(start, start + len(unit.rstrip(" ")), end))
        start = end
    return tuple(found)


def lines(
    parts: tuple[Chunk, ...], edges: Sequence[float], available: float
) -> list[tuple[int, int, int]]:
    """Fills lines greedily: (start, ink end, end) in characters for each.

    edges      for each character index, the width of all before it; one longer than the text
    available  the room; a chunk that is wider than that stands alone and spills
    """
    if not parts:
        return [(0, 0, 0)]
    found = []
    first = parts[0]
    start, ink, end = first
    for chunk in parts[1:]:
        if edges[chunk.ink] - edges[start] > available + _SLACK:
            found.append((start, ink, end))
            start = chunk.start
        ink, end = chunk.ink, chunk.end
    found.append((start, ink, end))
    return found


_SLACK = 1e-6
"""A width that was measured fits into itself, whatever the order of the sums."""
