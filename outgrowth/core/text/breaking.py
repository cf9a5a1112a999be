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


_AFTER_SPACES = re.compile(r"[ \t]+(?=[^ \t])")
_IN_ASCII = re.compile(
    r"""(?<=[!"#%&)*+,.:;=>\\\]|}~])(?=[(<\[{])"""
    r"""|(?<=\?)(?=[#$%&(*+\-0-9<=>@A-Z\[\\^_`a-z{|~])"""
    r"""|(?<=-)(?=["#%&'(*+\-<=>@A-Z\[\\^_`a-z{|~])"""
    r"""|(?<=[0-9A-Za-z]-)(?=[0-9])"""
)
"""Where a line may end between two characters of ASCII that are no spaces: after a hyphen (before
digits only if it is no minus sign), after a question mark, and before what opens. Browsers have
a table of their own for these pairs, which UAX 14 would break at slashes, pluses and bars, and
not between the times of 10:15-11:45. Source: Chromium, all 8,836 pairs in five surroundings;
tests/browser/test_line_breaks.py asks it again."""


_FIRST_DASH = re.compile(r"(?:(?<=[ \t])|^)[\u2012\u2013](?=[^\W\d_])|(?<=\?)-(?=[^\x00-\x7f\W])")
"""An en dash that begins a word stays with its letters, as rule LB20a has it for hyphens; so does
a hyphen behind a question mark, where a line may end too."""


def ends(text: str) -> list[int]:
    """Where a line may end in a text without line ends: as browsers do it, after every run of
    spaces, between characters of ASCII by their table, and by UAX 14 elsewhere."""
    found = {match.end() for match in _AFTER_SPACES.finditer(text)}
    found.update(match.start() for match in _IN_ASCII.finditer(text))
    if not text.isascii():
        found.update(
            at
            for at in breaks(text)
            if at == len(text) or not (_is_ascii(text[at - 1]) and _is_ascii(text[at]))
        )
        found.difference_update(match.end() for match in _FIRST_DASH.finditer(text))
    found.discard(0)
    if text:
        found.add(len(text))
    return sorted(found)


def _is_ascii(letter: str) -> bool:
    return "!" <= letter <= "~"


@lru_cache(maxsize=4096)
def chunks(text: str) -> tuple[Chunk, ...]:
    """A paragraph without line ends, cut wherever a line may break."""
    found = []
    start = 0
    for end in ends(text):
        found.append(Chunk(start, start + len(text[start:end].rstrip(" ")), end))
        start = end
    return tuple(found)


def lines(
    parts: tuple[Chunk, ...],
    edges: Sequence[float],
    available: float,
    hyphens: Sequence[float] = (),
    inside: bool = False,
) -> list[tuple[int, int, int]]:
    """Fills lines greedily: (start, ink end, end) in characters for each.

    edges      for each character index, the width of all before it; one longer than the text
    available  the room; a chunk that is wider than that stands alone and spills
    hyphens    what each chunk takes more than its letters where a line ends behind it
    inside     such a chunk is broken between its letters instead
    """
    if not parts:
        return [(0, 0, 0)]
    found = []
    start, ink, end = parts[0].start, parts[0].start, parts[0].start
    for n, chunk in enumerate(parts):
        more = hyphens[n] if hyphens else 0.0
        if edges[chunk.ink] - edges[start] + more > available + _SLACK and start < chunk.start:
            found.append((start, ink, end))
            start = chunk.start
        while inside and edges[chunk.ink] - edges[start] > available + _SLACK:
            stop = _last_fitting(edges, start, chunk.ink, available)
            if stop >= chunk.ink:
                break
            found.append((start, stop, stop))
            start = stop
        ink, end = chunk.ink, chunk.end
    found.append((start, ink, end))
    return found


def _last_fitting(edges: Sequence[float], start: int, end: int, available: float) -> int:
    """Before which character a line that begins at `start` ends: one cluster at least."""
    stop = start
    for at in range(start + 1, end + 1):
        if at < end and edges[at + 1] == edges[at]:
            continue
        if stop > start and edges[at] - edges[start] > available + _SLACK:
            break
        stop = at
    return stop


_SLACK = 1e-6
"""A width that was measured fits into itself, whatever the order of the sums."""
