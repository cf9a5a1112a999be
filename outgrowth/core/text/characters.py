"""What Unicode says of characters and of texts, by ICU: clusters, where a line may end, what shows
nothing, and what is a picture.

Source: Unicode 16; UAX 14 and 29; for Thai, Lao, Khmer and Burmese the dictionaries of CLDR.
"""

from __future__ import annotations

from functools import lru_cache
from itertools import accumulate

import icu

_PICTURE, _IGNORABLE = icu.UProperty.EMOJI_PRESENTATION, icu.UProperty.DEFAULT_IGNORABLE_CODE_POINT
_AS_PICTURE, _AS_TEXT = "\ufe0f", "\ufe0e"
_ROOT = icu.Locale.getRoot()
_NORMAL = icu.Locale("en@lb=normal")
"""Small kana may begin a line, as browsers have it (CSS Text 3, section 5.2)."""


@lru_cache(maxsize=8192)
def is_ignorable(character: str) -> bool:
    """Whether a character shows nothing where no font knows it, such as a joiner."""
    return bool(icu.Char.hasBinaryProperty(ord(character), _IGNORABLE))


def is_pictured(cluster: str) -> bool:
    """Whether a cluster is a picture (emoji) rather than a letter. Source: UTS 51."""
    if cluster.isascii():
        return False
    if _AS_PICTURE in cluster or _AS_TEXT in cluster:
        return _AS_PICTURE in cluster
    return bool(icu.Char.hasBinaryProperty(ord(cluster[0]), _PICTURE))


def cluster_ends(text: str) -> list[int]:
    """The character indices at which what a reader takes for one letter ends."""
    if text.isascii():
        return list(range(1, len(text) + 1))
    return _boundaries(icu.BreakIterator.createCharacterInstance(_ROOT), text)


def line_ends(text: str) -> list[int]:
    """The places (character indices, that of the end among them) at which a line may end."""
    return _boundaries(icu.BreakIterator.createLineInstance(_NORMAL), text)


def _boundaries(iterator: icu.BreakIterator, text: str) -> list[int]:
    iterator.setText(text)
    ends = list(iterator)
    places = utf16_places(text)
    if places is None:
        return ends
    indices = {place: n for n, place in enumerate(places)}
    return [indices[end] for end in ends if end in indices]


def utf16_places(text: str) -> list[int] | None:
    """Where each character stands in UTF-16, which ICU counts in, and the end; None where that is
    the same."""
    if not text or max(text) < "\U00010000":
        return None
    widths = (2 if character >= "\U00010000" else 1 for character in text)
    return list(accumulate(widths, initial=0))
