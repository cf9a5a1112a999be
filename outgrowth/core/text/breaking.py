"""Where a line may end, the spaces that hang there, and filling lines with what is between."""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Callable, Sequence
from functools import lru_cache
from math import ceil, floor
from typing import NamedTuple

from outgrowth.core.text.characters import line_ends


class Chunk(NamedTuple):
    """Characters start to end that stay together; those from `ink` on are spaces that
    hang over the edge if a line ends here."""

    start: int
    ink: int
    end: int


_AFTER_SPACES = re.compile(r"[ \t]+(?=[^ \t])")
# Where a line may end between two characters of ASCII that are no spaces: after a hyphen (before
# digits only if it is no minus sign), after a question mark, and before what opens. Browsers have
# a table of their own for these pairs, which UAX 14 would break at slashes, pluses and bars, and
# not between the times of 10:15-11:45. Source: Chromium, all 8,836 pairs in five surroundings;
# tests/browser/test_line_breaks.py asks it again.
_IN_ASCII = re.compile(
    r"""(?<=[!"#%&)*+,.:;=>\\\]|}~])(?=[(<\[{])"""
    r"""|(?<=\?)(?=[#$%&(*+\-0-9<=>@A-Z\[\\^_`a-z{|~])"""
    r"""|(?<=-)(?=["#%&'(*+\-<=>@A-Z\[\\^_`a-z{|~])"""
    r"""|(?<=[0-9A-Za-z]-)(?=[0-9])"""
)


_CJK = r"\u1100-\u11ff\u3040-\u30ff\u3400-\u9fff\ua960-\ua97f\uac00-\ud7ff\uf900-\ufaff"
# An en dash that begins a word stays with its letters, as rule LB20a has it for hyphens (but not
# with those of Chinese, Japanese and Korean, each of which may begin a line); so does a hyphen
# behind a question mark, where a line may end too.
_FIRST_DASH = re.compile(
    rf"(?:(?<=[ \t])|^)[\u2012\u2013](?=[^\W\d_])(?![{_CJK}])|(?<=\?)-(?=[^\x00-\x7f\W])"
)


def ends(text: str) -> list[int]:
    """Where a line may end in a text without line ends: as browsers do it, after every run of
    spaces, between characters of ASCII by their table, and by UAX 14 elsewhere."""
    results = {match.end() for match in _AFTER_SPACES.finditer(text)}
    results.update(match.start() for match in _IN_ASCII.finditer(text))
    if not text.isascii():
        results.update(
            index
            for index in line_ends(text)
            if index == len(text) or not (_is_ascii(text[index - 1]) and _is_ascii(text[index]))
        )
        results.difference_update(match.end() for match in _FIRST_DASH.finditer(text))
    results.discard(0)
    if text:
        results.add(len(text))
    return sorted(results)


def _is_ascii(letter: str) -> bool:
    return "!" <= letter <= "~"


_HANGING = " \u2028\u2029"


@lru_cache(maxsize=4096)
def chunks(text: str) -> tuple[Chunk, ...]:
    """A paragraph without line ends, cut wherever a line may break."""
    results = []
    start = 0
    for end in ends(text):
        results.append(Chunk(start, start + len(text[start:end].rstrip(_HANGING)), end))
        start = end
    return tuple(results)


Measure = Callable[[int, int], float]
"""How wide the letters from one to another are by themselves (px)."""


class Filling(NamedTuple):
    """What lines are filled with.

    parts    what stays together
    edges    for each character index, the width of all before it; one longer than the text
    hyphens  what each part takes more than its letters where a line ends behind it; none where
             no word is divided
    cuts     before which characters a part may be broken that is wider than a line; none where
             it spills instead
    measure  what is left of such a part, set anew, may be narrower than its edges say
    divided  where the soft hyphens stand
    signs    where hyphens stand before digits: at the beginning of a line they are minus signs,
             behind which it does not end
    """

    parts: tuple[Chunk, ...]
    edges: Sequence[float]
    hyphens: Sequence[float] = ()
    cuts: Sequence[int] = ()
    measure: Measure | None = None
    divided: frozenset[int] = frozenset()
    signs: frozenset[int] = frozenset()


def lines(text: Filling, available: float) -> list[tuple[int, int, int]]:
    """Fills lines of `available` px greedily: (start, ink end, end) in characters for each."""
    parts, edges, hyphens = text.parts, text.edges, text.hyphens
    if not parts:
        return [(0, 0, 0)]
    room = floor(min(available, _ENDLESS) * 64 + _NOISE) + 1
    results = []
    start = ink = end = parts[0].start
    n = 0
    while n < len(parts):
        chunk = parts[n]
        more = hyphens[n] if hyphens else 0.0
        fits = _snapped(edges[chunk.ink] - edges[start] + more) <= room
        if not fits and end > start:
            results.append((start, ink, end))
            start = ink = end = max(chunk.start, start)
            continue
        if not fits and text.cuts:
            stop = _last_fitting(text, start, room)
            if stop in text.divided or stop - 1 in text.divided:
                # Such a word ends in a hyphen, which takes room too.
                stop = _last_fitting(text, start, room - _snapped(max(hyphens)))
            if stop < chunk.ink or (more and stop < parts[-1].ink):
                results.append((start, stop, stop))
                start = ink = end = stop
                while parts[n].end <= stop:
                    n += 1
                continue
        n += 1
        if start not in text.signs or chunk.ink > start + 1:
            ink, end = chunk.ink, chunk.end
    results.append((start, ink, end))
    return results


def _last_fitting(text: Filling, start: int, room: int) -> int:
    """Before which character a line ends that begins at `start`: one letter at least."""
    assert text.measure is not None
    cuts, end = text.cuts, text.parts[-1].end
    first = bisect_right(cuts, start)
    # The edges say where about, so that only a few cuts are measured, however long the word is.
    reach = text.edges[start] + room / 64
    near = max(bisect_right(text.edges, reach, start) - 1 - _NEAR, start)
    n = max(bisect_right(cuts, near) - 1, first)
    while n > first and n < len(cuts) and _snapped(text.measure(start, cuts[n])) > room:
        n -= 1
    stop = cuts[n] if n < len(cuts) else end
    while stop < end:
        following = cuts[n + 1] if n + 1 < len(cuts) else end
        if _snapped(text.measure(start, following)) > room:
            break
        n, stop = n + 1, following
    return stop


# Letters before the place that the edges say: set anew, a word may be wider by a little.
_NEAR = 3


def _snapped(width: float) -> int:
    """A width as browsers compare it, in 64ths of a px: rounded up, and one more than the room
    fits."""
    return ceil(width * 64 - _NOISE)


_ENDLESS = 1e12
# 64ths of a px that sums in another order may differ by.
_NOISE = 1e-4
