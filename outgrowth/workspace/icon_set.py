"""The icons that ship with the program, found by name."""

from __future__ import annotations

import gzip
import json
from functools import cache
from typing import NamedTuple

from outgrowth.resources import ICON_SET
from outgrowth.workspace.text_search import has_words


class Icon(NamedTuple):
    """One icon of the shipped set: what it is called, more words to find it by, and the path
    of its outline and of its solid form."""

    name: str
    words: str
    outline: str
    solid: str


@cache
def icons() -> tuple[Icon, ...]:
    """The shipped set, read when it is first asked for."""
    lines = gzip.decompress(ICON_SET.read_bytes()).decode().splitlines()
    return tuple(Icon(*json.loads(line)) for line in lines)


def icons_for(text: str, most: int = 60) -> list[Icon]:
    """Icons whose name or words have all that was typed, names that begin with it first."""
    matching = [i for i in icons() if has_words(f"{i.name} {i.words}", text)]
    first = next(iter(text.lower().split()), "")
    matching.sort(
        key=lambda i: (i.name != first, not i.name.startswith(first), first not in i.name)
    )
    return matching[:most]
