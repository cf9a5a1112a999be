"""A text cut into stretches of one writing (script), each of which is shaped by itself.

Source: UAX 24, section 5: what several writings share goes with what stands around it, and what
closes a pair of brackets goes with what opened it.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from fontTools import unicodedata

_SHARED = frozenset(("Zyyy", "Zinh", "Zzzz"))
_OPENING = dict(zip("([{⟨「『【（［〈《", ")]}⟩」』】）］〉》", strict=True))
_CLOSING = frozenset(_OPENING.values())
_MOST_OPEN = 32

JOINED = frozenset(("Arab", "Syrc", "Mong", "Nkoo", "Mand", "Phag", "Rohg"))
"""Writings whose letters are joined: they are given no letter spacing. Source: CSS Text 4,
section 8.3, and what Chromium does."""

_PLAIN_BELOW = "\u0250"


class ScriptRun(NamedTuple):
    """Characters start to end of one writing, by its ISO 15924 code; Zyyy for what belongs to
    none."""

    start: int
    end: int
    script: str


@lru_cache(maxsize=8192)
def _scripts(character: str) -> frozenset[str]:
    """The writings that a character belongs to; none for what all share."""
    extension = frozenset(unicodedata.script_extension(character))
    if extension & _SHARED:
        return frozenset()
    # Kana, and Chinese characters among them, are one writing, as are those among Hangul.
    if extension & {"Hira", "Kana"}:
        return extension | {"Hira"}
    return extension | {"Hira", "Hang", "Bopo"} if "Hani" in extension else extension


def script_runs(text: str) -> list[ScriptRun]:
    """The runs of a text, one after the other; none for no text."""
    if not text:
        return []
    if max(text) < _PLAIN_BELOW:
        return [ScriptRun(0, len(text), "Latn")]
    runs: list[ScriptRun] = []
    start, present = 0, frozenset[str]()
    opened: list[tuple[str, int]] = []  # what closes it, and the run that it is of
    for n, character in enumerate(text):
        own = _scripts(character)
        if character in _OPENING:
            opened = [*opened[-_MOST_OPEN:], (_OPENING[character], len(runs))]
        elif character in _CLOSING:
            own = _of_opening(opened, character, runs, own)
        if not own:
            continue
        if not present or own & present:
            present = own & present or own
            continue
        runs.append(ScriptRun(start, n, _named(present)))
        start, present = n, own
    return [*runs, ScriptRun(start, len(text), _named(present))]


def _of_opening(
    opened: list[tuple[str, int]], closing: str, runs: list[ScriptRun], own: frozenset[str]
) -> frozenset[str]:
    """The writing of what opened a pair that is closed, where one did in an earlier run."""
    while opened:
        expected, run = opened.pop()
        if expected == closing:
            return frozenset((runs[run].script,)) if run < len(runs) else own
    return own


def _named(scripts: frozenset[str]) -> str:
    return "Hani" if "Hani" in scripts else min(scripts, default="Zyyy")
