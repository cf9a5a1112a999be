"""What has a name and is not called by it, what is nearly one of the named things, and what has
a name that nobody uses."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from outgrowth.core.color import Color
from outgrowth.core.color.difference import ciede2000
from outgrowth.core.document.extent import filling, held_by
from outgrowth.core.document.properties import CHOICE, row_of
from outgrowth.core.document.records import Component, ComponentProperty, Document, Owner, Path
from outgrowth.core.document.referring import token_paths
from outgrowth.core.document.sentences import node_named
from outgrowth.core.document.values import FromProperty, Token, Value
from outgrowth.core.edits.all_values import revalued_owner, stated_values
from outgrowth.core.edits.instances.properties import remove_property
from outgrowth.core.edits.tokens import remove_token, tokens_named
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.review.finding import PRACTICE, Finding, Mend

NEAR = 2.0
"""ΔE2000 below which two colours are hardly told apart. Source: from memory, after Sharma, Wu
and Dalal 2005; the bound is common practice."""


def system_findings(document: Document) -> Iterator[Finding]:
    """Colours beside tokens, and tokens, properties and components that nothing uses."""
    yield from _colors(document)
    yield from _unused_tokens(document)
    for component in document.in_order():
        yield from _unused_properties(component)
    yield from _unused(document)


def _colors(document: Document) -> Iterator[Finding]:
    tokens = {
        path: token.value
        for path, token in document.tokens.items()
        if isinstance(token.value, Color)
    }
    for owner in document.owners():
        for node, name, value in stated_values(owner):
            if isinstance(value, Color) and not name.startswith(CHOICE) and value.alpha > 0:
                yield from _beside(document, owner, node, name, value, tokens)


def _beside(
    document: Document,
    owner: Owner,
    node: Path,
    name: str,
    value: Color,
    tokens: dict[str, Color],
) -> Iterator[Finding]:
    """At most one finding: the token that is the same, else the nearest that is near."""
    same_alpha = {p: c for p, c in tokens.items() if abs(c.alpha - value.alpha) < 1e-9}
    equal = sorted(path for path, color in same_alpha.items() if color == value)
    nearest = min(((ciede2000(c, value), p) for p, c in same_alpha.items()), default=(NEAR, ""))
    if not equal and nearest[0] >= NEAR:
        return
    path = equal[0] if equal else nearest[1]
    part = node_named(document, owner, node)
    phrase = "is the value of" if equal else f"is hardly told apart (ΔE {nearest[0]:.1f}) from"
    yield Finding(
        "system",
        "color-equals-token" if equal else "color-near-token",
        owner.id,
        node,
        f"{row_of(name).label} of {part}, {value.hex}, {phrase} {path}, and is not tied to it.",
        PRACTICE,
        "likely" if equal else "maybe",
        Mend(f"refer to {path}", partial(_tied, owner.id, node, (name, value), path)),
    )


def _tied(
    owner: str, node: Path, stated: tuple[str, Value], path: str, document: Document
) -> Document:
    """The document with one value made a reference to a token; others like it stay."""
    inside = document.owner(owner)
    if inside is None:
        return document

    def change(place: Path, name: str, value: Value) -> Value:
        return Token(path) if (place, (name, value)) == (node, stated) else value

    return with_owner(document, revalued_owner(inside, change))


def _unused_tokens(document: Document) -> Iterator[Finding]:
    named = set(token_paths(document.motion))
    for token in document.tokens.values():
        named.update(p for v in (token.value, *token.modes.values()) for p in token_paths(v))
    for owner in document.owners():
        named |= tokens_named(owner)
    for path in sorted(document.tokens):
        if path not in named:
            yield Finding(
                "system",
                "token-unused",
                "",
                (),
                f"Nothing refers to the token {path}.",
                PRACTICE,
                "maybe",
                Mend("remove it", partial(_without_token, path)),
            )


def _without_token(path: str, document: Document) -> Document:
    return remove_token(document, path)


def _unused_properties(component: Component) -> Iterator[Finding]:
    referred = {v.property for _, _, v in stated_values(component) if isinstance(v, FromProperty)}
    for prop in component.properties:
        if prop.id not in referred:
            yield Finding(
                "system",
                "property-unused",
                component.id,
                (),
                f"Nothing in “{component.name}” follows its property {prop.name}.",
                PRACTICE,
                "likely",
                Mend("remove it", partial(_without_property, component.id, prop)),
            )


def _without_property(component: str, prop: ComponentProperty, document: Document) -> Document:
    return remove_property(document, component, prop.id)


def _unused(document: Document) -> Iterator[Finding]:
    """Components that stand on no screen and that no other part may hold."""
    held: set[str] = set()
    for owner in document.owners():
        held |= (held_by(owner) | filling(document, owner)) - {owner.id}
    for component in document.in_order():
        if component.id not in held:
            yield Finding(
                "system",
                "component-unused",
                component.id,
                (),
                f"“{component.name}” is not used on any screen, nor in any other part.",
                PRACTICE,
                "maybe",
            )
