"""Finding by typed words, the same wherever something is typed to find something."""

from __future__ import annotations

from outgrowth.workspace.other_words import ours


def has_words(text: str, search: str) -> bool:
    """Whether a text has all the words of a search in it, in any order and case."""
    lower = text.lower()
    return all(word in lower for word in search.lower().split())


def means_words(text: str, search: str) -> bool:
    """Whether a text has each word of a search in it, or what that is called here."""
    lower = text.lower()
    return all(
        word in lower or any(phrase in lower for phrase in ours(word))
        for word in search.lower().split()
    )
