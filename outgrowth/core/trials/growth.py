"""How words grow in translation, and words that are as long as those of another language.

Source of the growth: "Text size in translation", W3C Internationalization (the table of English
source lengths and average expansion); its figures are from memory.
"""

from __future__ import annotations

_TABLE: tuple[tuple[int, float, float], ...] = (
    (10, 2.0, 3.0),
    (20, 1.8, 2.0),
    (30, 1.6, 1.8),
    (50, 1.4, 1.6),
    (70, 1.51, 1.7),
)
"""Up to how many letters, and how many times as long the translation is: from, to."""
_LONGER = 1.3, 1.3
_ENDINGS = ("ungen", "keit", "schaft", "lichkeit", "ungs", "heiten")
"""What German words end in: letters of about the same widths as real ones."""


def growth(letters: int) -> tuple[float, float]:
    """How many times as long a text of so many letters is in another language: from, to."""
    for most, least, largest in _TABLE:
        if letters <= most:
            return least, largest
    return _LONGER


def grown(text: str) -> str:
    """The words as long as a translation of them usually is at most: each gets endings, one
    after the other, as one long word would in German."""
    letters = len(text.strip())
    if not letters:
        return text
    left = round(letters * growth(letters)[1]) - letters
    words = text.split(" ")
    places = [n for n, word in enumerate(words) if any(c.isalpha() for c in word)]
    if not places:  # numbers are not translated
        return text
    number = 0
    while left > 0:
        ending = _ENDINGS[number % len(_ENDINGS)][:left]
        place = places[number % len(places)]
        words[place] += ending
        left -= len(ending)
        number += 1
    return " ".join(words)
