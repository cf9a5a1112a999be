"""Tokens that belong together: a type, a border, a motion.

A composed token is a group whose members have these names, so that each member can be another
token's name, differ by mode, and be referred to alone. It is used by referring to all of them at
once, and is one token in the community group's format.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from outgrowth.core.document.design_token import DesignToken, TokenKind
from outgrowth.core.document.properties import FAMILY_MEMBERS


class Composition(NamedTuple):
    """A kind of composed token.

    name     what it is called
    members  the members' names and kinds
    needed   those that must be there for a group to be one
    rows     the style properties that take a member's value, by the member
    """

    name: str
    members: Mapping[str, TokenKind]
    needed: frozenset[str]
    rows: Mapping[str, tuple[str, ...]]


COMPOSITIONS: dict[str, Composition] = {
    "type": Composition(
        "type",
        {
            "family": "family",
            "size": "dimension",
            "weight": "number",
            "line-height": "number",
            "spacing": "dimension",
        },
        frozenset({"family", "size"}),
        {
            "family": ("font-family",),
            "size": ("font-size",),
            "weight": ("font-weight",),
            "line-height": ("line-height",),
            "spacing": ("letter-spacing",),
        },
    ),
    "border": Composition(
        "border",
        {"color": "color", "width": "dimension"},
        frozenset({"color", "width"}),
        {"color": ("stroke",), "width": FAMILY_MEMBERS["stroke-width"]},
    ),
    "motion": Composition(
        "motion",
        {"duration": "duration", "delay": "duration", "easing": "easing"},
        frozenset({"duration", "easing"}),
        {},
    ),
}


def composed(tokens: Mapping[str, DesignToken]) -> dict[str, Composition]:
    """The groups that are composed tokens, by their paths in order."""
    groups: dict[str, dict[str, TokenKind]] = {}
    for path, token in tokens.items():
        group, _, member = path.rpartition(".")
        if group:
            groups.setdefault(group, {})[member] = token.kind
    found = {}
    for group in sorted(groups):
        members = groups[group]
        # A group that holds further groups is a group.
        if any(other.startswith(f"{group}.") for other in groups):
            continue
        for composition in COMPOSITIONS.values():
            fits = all(composition.members.get(m) == kind for m, kind in members.items())
            if fits and composition.needed <= set(members):
                found[group] = composition
    return found
