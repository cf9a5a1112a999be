"""The table of tokens: every named value by kind, with its modes and where it is used."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.records import Document, TokenKind
from outgrowth.core.document.referring import token_paths
from outgrowth.core.edits import tokens
from outgrowth.core.edits.token_sets import in_order
from outgrowth.workspace.commands.token_commands import KIND_NAMES

_PLURALS = {"family": "Typefaces", "color": "Colours", "dimension": "Sizes", "number": "Numbers"}
# Owners that a token's uses name before they say how many more there are.
_SHOWN_OWNERS = 3


class TokenGroup(NamedTuple):
    """The tokens of one kind: its heading, and their paths."""

    title: str
    paths: tuple[str, ...]


class OwnerUsingToken(NamedTuple):
    """An owner in which a token is used, and the first node there that refers to it."""

    owner: str
    name: str
    node: tuple[str, ...]


class TokenUses(NamedTuple):
    """Where a token is used: the first owners, how many more there are, which tokens are
    another name for it or take their colour from it, how many values refer to it in all, and
    whether the motion of the whole file does."""

    owners: tuple[OwnerUsingToken, ...]
    more: int
    aliases: tuple[str, ...]
    values: int
    everywhere: bool


def token_groups(document: Document) -> list[TokenGroup]:
    """The tokens by kind, kinds without any left out."""
    groups = []
    for kind, name in KIND_NAMES.items():
        of_kind = (p for p, t in document.tokens.items() if t.kind == kind)
        paths = tuple(in_order(document.tokens, of_kind))
        if paths:
            groups.append(TokenGroup(_PLURALS.get(kind, f"{name.capitalize()}s"), paths))
    return groups


def token_uses(document: Document, path: str, most: int = _SHOWN_OWNERS) -> TokenUses:
    """Where the token at a path is used, `most` owners of it by name."""
    uses = tokens.token_uses(document, path)
    first = {use.owner: use.node for use in reversed(uses)}
    ids = list(dict.fromkeys(use.owner for use in uses if use.owner))
    owners = []
    for owner_id in ids[:most]:
        owner = document.owner(owner_id)
        if owner is not None:
            node = first[owner_id]
            name = owner.short_name
            owners.append(OwnerUsingToken(owner_id, name, () if node == (owner.root.id,) else node))
    aliases = tuple(p for p, t in document.tokens.items() if path in token_paths(t.value))
    return TokenUses(
        tuple(owners),
        max(len(ids) - most, 0),
        aliases,
        len(uses),
        first.get("") is not None,
    )


def same_kind(document: Document, path: str) -> list[str]:
    """The other tokens of the same kind: what a token can be another name for."""
    kind: TokenKind = document.tokens[path].kind
    return sorted(p for p, t in document.tokens.items() if t.kind == kind and p != path)
