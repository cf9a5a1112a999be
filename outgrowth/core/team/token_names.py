"""Tokens have no ids: what one side did to a name is done on the other side too before merging.

A token that one side renamed is the same token; the other's references follow it. Where one
side took a token out, what the other newly set by it keeps the value, as everything else did.
"""

from __future__ import annotations

from outgrowth.core.document.records import Document
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.tokens import remove_token, rename_token

Sides = tuple[Document, Document, Document]


def with_same_names(base: Document, ours: Document, theirs: Document) -> Sides:
    """The three documents, as far as can be with tokens that are called the same."""
    base, ours, theirs = _followed(base, ours, theirs)
    base, theirs, ours = _followed(base, theirs, ours)
    return base, ours, theirs


def _followed(base: Document, changer: Document, follower: Document) -> Sides:
    """What `changer` did to names, done in the other two."""
    for path, token in base.tokens.items():
        if path in changer.tokens or path not in follower.tokens:
            continue
        new = _new_name(base, changer, path)
        try:
            if new is not None and new not in follower.tokens:
                base, follower = rename_token(base, path, new), rename_token(follower, path, new)
            elif follower.tokens[path] == token:  # else they disagree about it
                base, follower = remove_token(base, path), remove_token(follower, path)
        except Refusal:
            continue
    return base, changer, follower


def _new_name(base: Document, changer: Document, path: str) -> str | None:
    """The one new token of a side that is what an old one was; None where none or several are."""
    same = [
        name
        for name, token in changer.tokens.items()
        if name not in base.tokens and token == base.tokens[path]
    ]
    return same[0] if len(same) == 1 else None
