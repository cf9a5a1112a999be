"""Where a line may end, the spaces that hang there, and filling lines with what is between."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

from outgrowth.core.text.line_break import breaks


class Chunk(NamedTuple):
    """Characters start to end that stay together; those from `ink` on are spaces that
    hang over the edge if a line ends here."""

    start: int
    ink: int
    end: int


_PLAIN = re.compile(r"[A-Za-z0-9 ]*")
_AFTER_SPACES = re.compile(r"[^ ]* +|[^ ]+")
"""Among letters, digits and spaces alone, a line may break after spaces and nowhere else
(rules LB7, LB18, LB23, LB25, LB28): most of what is set, and much faster."""


@lru_cache(maxsize=4096)
def chunks(text: str) -> tuple[Chunk, ...]:
    """A paragraph without line ends, cut wherever a line may break."""
    found = []
    start = 0
    plain = _PLAIN.fullmatch(text) is not None
    for end in [m.end() for m in _AFTER_SPACES.finditer(text)] if plain else breaks(text):
        found.append(Chunk(start, start + len(text[start:end].rstrip(" ")), end))
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
