"""Finding by typed words, the same wherever something is typed to find something."""

from __future__ import annotations


def has_words(text: str, search: str) -> bool:
    """Whether a text has all the words of a search in it, in any order and case."""
    lower = text.lower()
    return all(word in lower for word in search.lower().split())
