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
from outgrowth.core.document.values import FromProperty, Token
from outgrowth.core.edits.all_values import stated_values
from outgrowth.core.edits.instances.properties import remove_property
from outgrowth.core.edits.tokens import remove_token, tokens_named
from outgrowth.core.edits.variants.axes import remove_axis, remove_value
from outgrowth.core.memo import ByIdentity
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.scale import length_findings, put
from outgrowth.core.review.states import choices_of
from outgrowth.core.review.views import ReviewContext, part_called

NEAR = 2.0
"""ΔE2000 below which two colours are hardly told apart. Source: from memory, after Sharma, Wu
and Dalal 2005; the bound is common practice."""


named_by = ByIdentity(tokens_named, 4096)
"""The tokens that an owner's values name, by their paths."""


def system_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """Colours and lengths of an owner beside tokens, and what of it nothing uses."""
    document = context.document
    tokens = {
        path: token.value
        for path, token in document.tokens.items()
        if isinstance(token.value, Color)
    }
    for node, name, value in stated_values(owner):
        if isinstance(value, Color) and not name.startswith(CHOICE) and value.alpha > 0:
            yield from _beside(document, owner, node, name, value, tokens)
    yield from length_findings(document, owner)
    if isinstance(owner, Component):
        yield from _unused_properties(owner)
        yield from _unused_axes(owner)


def file_findings(document: Document) -> Iterator[Finding]:
    """Tokens, values and components of a file that nothing uses."""
    yield from _unused_tokens(document)
    yield from _unused_values(document)
    yield from _unused(document)


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
    part = part_called(document, owner, node)
    phrase = "is the value of" if equal else f"is hardly told apart (ΔE {nearest[0]:.1f}) from"
    text = f"{row_of(name).label} of {part}, {value.hex}, {phrase} {path}, and is not tied to it."
    mend = Mend(f"refer to {path}", partial(put, owner.id, node, (name, value), Token(path)))
    yield finding(
        "color-equals-token" if equal else "color-near-token",
        owner.id,
        node,
        text,
        mend,
        f"{name} {value.hex}",
    )


def _unused_tokens(document: Document) -> Iterator[Finding]:
    named = set(token_paths(document.motion))
    for token in document.tokens.values():
        named.update(p for v in (token.value, *token.modes.values()) for p in token_paths(v))
    for owner in document.owners():
        named |= named_by(owner)
    for path in sorted(document.tokens):
        # What a library's file keeps is there for others.
        if path not in named and path not in document.sharing.tokens:
            text = f"Nothing refers to the token {path}."
            mend = Mend("remove it", partial(_without_token, path))
            yield finding("token-unused", "", (), text, mend, path)


def _without_token(path: str, document: Document) -> Document:
    return remove_token(document, path)


def _unused_properties(component: Component) -> Iterator[Finding]:
    referred = {v.property for _, _, v in stated_values(component) if isinstance(v, FromProperty)}
    for prop in component.properties:
        if prop.id not in referred:
            text = f"Nothing in “{component.name}” follows its property {prop.name}."
            mend = Mend("remove it", partial(_without_property, component.id, prop))
            yield finding("property-unused", component.id, (), text, mend, prop.id)


def _without_property(component: str, prop: ComponentProperty, document: Document) -> Document:
    return remove_property(document, component, prop.id)


def _unused_axes(component: Component) -> Iterator[Finding]:
    """Axes that no rule and no cue speaks of, and that mean nothing by themselves."""
    spoken = {axis for rule in component.rules for axis in rule.when}
    spoken |= {v.property for _, _, v in stated_values(component) if isinstance(v, FromProperty)}
    for cue in component.behaviour.cues:
        spoken |= set(cue.when) | {condition.axis for condition in cue.conditions}
        spoken |= {change.name for change in cue.changes if not change.at}
    for axis in component.axes:
        if axis.id in spoken or axis.meaning != "none":
            continue
        text = f"Nothing in “{component.name}” differs by {axis.name}, and no cue changes it."
        mend = Mend("remove it", partial(_without_axis, component.id, axis.id))
        yield finding("axis-unused", component.id, (), text, mend, axis.id)


def _without_axis(component: str, axis: str, document: Document) -> Document:
    return remove_axis(document, component, axis)


def _unused_values(document: Document) -> Iterator[Finding]:
    """Values that no instance chooses and no cue leads to, of axes of which others are."""
    used: set[tuple[str, str]] = set()
    for owner in document.owners():
        used |= choices_of(owner)
        for cue in owner.behaviour.cues:
            for change in cue.changes:
                used.add((change.name, str(change.value) if change.act == "set" else ""))
    for component in document.in_order():
        for axis in component.axes:
            chosen_here = {value.id for value in axis.values if (axis.id, value.id) in used}
            if axis.driver != "none" or not chosen_here or (axis.id, "") in used:
                continue
            if component.id in document.sharing.origins:
                continue
            for value in axis.values:
                if value.id == axis.default or value.id in chosen_here:
                    continue
                text = (
                    f"Nothing in this file shows “{component.name}” at {axis.name}: {value.name}."
                )
                mend = Mend(
                    "remove the value",
                    partial(_without_value, component.id, axis.id, value.id),
                )
                yield finding("value-unused", component.id, (), text, mend, f"{axis.id}/{value.id}")


def _without_value(component: str, axis: str, value: str, document: Document) -> Document:
    return remove_value(document, component, axis, value)


def _unused(document: Document) -> Iterator[Finding]:
    """Components that stand on no screen and that no other part may hold."""
    in_use: set[str] = set()
    for owner in document.owners():
        in_use |= (held_by(owner) | filling(document, owner)) - {owner.id}
    for component in document.in_order():
        if component.id not in in_use and component.id not in document.sharing.origins:
            text = f"“{component.name}” is not used on any screen, nor in any other part."
            yield finding("component-unused", component.id, (), text)
