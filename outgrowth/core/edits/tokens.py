"""Design tokens: setting, renaming, removing, and giving equal values their name."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Container, Iterable, Mapping
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.cues import Trigger
from outgrowth.core.document.properties import CHOICE, fitting, row_of
from outgrowth.core.document.records import (
    DesignToken,
    Document,
    Motion,
    Owner,
    Path,
    TokenKind,
)
from outgrowth.core.document.referring import (
    DEEPEST_ALIAS,
    colored,
    motion_renamed,
    renamed_inside,
    settled,
    token_paths,
    waiting_time,
)
from outgrowth.core.document.types import ColorType, FillType
from outgrowth.core.document.values import Shadow, Token, Value
from outgrowth.core.edits.all_values import referring, revalued, stated_values
from outgrowth.core.edits.motions import motions_of, waits_of, with_motions, with_waits
from outgrowth.core.memo import ByIdentity
from outgrowth.core.refusal import Refusal, ValueRefusal

_PATH = re.compile(r"[^\s.{}$][^.{}]*(\.[^\s.{}$][^.{}]*)*")


class TokenUse(NamedTuple):
    """A value that refers to a token: whose, of which node and which property."""

    owner: str
    node: Path
    property: str


def set_token(document: Document, path: str, token: DesignToken) -> Document:
    """The document with a token set, new or not.

    Raises Refusal for a path that is none, or that is a group of other tokens, and for a
    token that would come to refer to itself.
    """
    return set_tokens(document, {path: token})


def set_tokens(document: Document, tokens: Mapping[str, DesignToken]) -> Document:
    """The same for several, in time that grows with their number."""
    after = msgspec.structs.replace(document, tokens=document.tokens.update(tokens))
    _refuse_paths(after.tokens, tokens)
    for path, token in tokens.items():
        for value in (token.value, *token.modes.values()):
            _refuse_circle(after.tokens, path, value)
    return after


def _refuse_circle(tokens: Map[str, DesignToken], path: str, value: Value) -> None:
    route = [path]
    while isinstance(value, Token):
        if value.path in route:
            raise Refusal(f"A token cannot refer to itself: {' › '.join([*route, value.path])}")
        if len(route) >= DEEPEST_ALIAS:
            raise Refusal(
                f"“{path}” refers to others through more than {DEEPEST_ALIAS}; let it refer to "
                "one nearer to the value."
            )
        route.append(value.path)
        referred = tokens.get(value.path)
        value = referred.value if referred is not None else ""


def _refuse_paths(tokens: Map[str, DesignToken], new: Iterable[str]) -> None:
    """Refuses paths that are none, and such as hold others or are held by them."""
    fresh = set(new)
    for path in fresh:
        if not _PATH.fullmatch(path):
            raise Refusal(f"“{path}” is no name for a token: write one like color.action.")
    for path in tokens:
        group = path
        while "." in group:
            group = group.rpartition(".")[0]
            if group in tokens and (path in fresh or group in fresh):
                raise Refusal(f"“{path}” and “{group}” cannot both be there: one holds the other.")


def rename_token(document: Document, old: str, new: str) -> Document:
    """The document with a token called by another path; everything that refers to it follows.

    Raises Refusal for a path that is taken or none.
    """
    token = document.tokens.get(old)
    if token is None:
        raise Refusal("That token is no longer there.")
    if new == old:
        return document
    if new in document.tokens:
        raise Refusal(f"There is a token called “{new}” already.")
    removed = msgspec.structs.replace(document, tokens=document.tokens.delete(old))
    tokens = removed.tokens.set(new, token)
    _refuse_paths(tokens, [new])

    def follow(path: str) -> str:
        return new if path == old else path

    def called(_: Path, __: str, value: Value) -> Value:
        return Token(new) if value == Token(old) else renamed_inside(value, follow)

    named = referring(msgspec.structs.replace(removed, tokens=tokens), called)
    moved = with_motions(named, lambda motion: motion_renamed(motion, follow))

    def waiting(trigger: Trigger) -> Trigger:
        renamed = follow(trigger.token)
        if renamed == trigger.token:
            return trigger
        return msgspec.structs.replace(trigger, token=renamed)

    return with_waits(moved, waiting)


def remove_token(document: Document, path: str) -> Document:
    """The document without a token; whatever referred to it has its value as its own."""
    if path not in document.tokens:
        raise Refusal("That token is no longer there.")
    return remove_tokens(document, [path])


def remove_tokens(document: Document, paths: Iterable[str]) -> Document:
    """The same for several, in time that grows with their number. Raises Refusal where one that
    stays refers to one of another kind."""
    gone, tokens = {p: document.tokens[p] for p in paths if p in document.tokens}, document.tokens
    for other, held in tokens.items():
        for value in (held.value, *held.modes.values()):
            path = value.path if isinstance(value, Token) else ""
            if path in gone and other not in gone and gone[path].kind != held.kind:
                raise Refusal(
                    f"“{other}” is a {held.kind} that refers to “{path}”, a {gone[path].kind}: "
                    "give it a value of its own first."
                )

    def own(_: Path, name: str, value: Value) -> Value:
        if not isinstance(value, Token) or value.path not in gone:
            return _of_its_own(value, gone, document)
        left: Value = value
        for _step in range(DEEPEST_ALIAS):
            if isinstance(left, Token) and left.path in gone:
                left = gone[left.path].value
        # Where it stood it showed the nearest that the property allows: that is what stays.
        return left if not name or isinstance(left, Token) else fitting(name, left)

    def kept(motion: Motion) -> Motion:
        lost = Map({part: p for part, p in motion.tokens.items() if p in gone})
        if not lost:
            return motion
        # What the token gave stays; what other tokens give stays theirs.
        others = Map({part: p for part, p in motion.tokens.items() if p not in gone})
        own_now = settled(msgspec.structs.replace(motion, tokens=lost), tokens.get)
        return msgspec.structs.replace(own_now, tokens=others)

    def waiting(trigger: Trigger) -> Trigger:
        if trigger.token not in gone:
            return trigger
        ms = waiting_time(trigger, tokens.get)
        if trigger.kind == "long-press":
            return msgspec.structs.replace(trigger, hold=ms, token="")
        return msgspec.structs.replace(trigger, ms=ms, token="")

    staying = Map({path: token for path, token in tokens.items() if path not in gone})
    removed = msgspec.structs.replace(document, tokens=staying)
    return with_waits(with_motions(referring(removed, own), kept), waiting)


def _of_its_own(value: Value, gone: Container[str], document: Document) -> Value:
    """Shadows that took their colour from a token have it as their own."""
    if not isinstance(value, tuple) or not any(path in gone for path in token_paths(value)):
        return value
    results: list[object] = []
    for item in value:
        if isinstance(item, Shadow) and item.token in gone:
            results += colored((item,), document.tokens.get)
        else:
            results.append(item)
    return tuple(results)  # type: ignore[return-value]  # shadows, as before


def replace_equal(document: Document, path: str) -> Document:
    """The document with every literal that equals the token's value made a reference to it,
    where the property may refer to one of that kind."""
    token = document.tokens.get(path)
    if token is None or isinstance(token.value, Token):
        raise Refusal("Only a token that has a value of its own can stand for equal ones.")
    value = token.value
    return revalued(
        document, lambda _, name, v: Token(path) if v == value and _accepts(name, token.kind) else v
    )


def equal_values(document: Document, path: str) -> int:
    """How many literals `replace_equal` would replace."""
    token = document.tokens.get(path)
    if token is None or isinstance(token.value, Token):
        return 0
    triples = (triple for owner in document.owners() for triple in stated_values(owner))
    return sum(v == token.value and _accepts(name, token.kind) for _, name, v in triples)


# Units of the numbers that a token of this kind may stand for.
_UNITS: dict[TokenKind, tuple[str, ...]] = {
    "dimension": ("px",),
    "number": ("", "×", "°"),
    "duration": ("ms",),
}


def _accepts(name: str, kind: TokenKind) -> bool:
    """Whether a property's value may be a token of this kind."""
    row = row_of(name)
    unit = getattr(row.type, "unit", None)
    if kind in _UNITS:
        return unit in _UNITS[kind]
    if kind == "family":
        return name == "font-family"
    if kind == "shadow":
        return name == "shadow"
    return kind == "color" and isinstance(row.type, ColorType | FillType)


def kind_for(name: str) -> TokenKind | None:
    """The kind of token that a property's value would become; None where there is none."""
    kinds: tuple[TokenKind, ...] = ("color", "dimension", "number", "family", "shadow")
    return next((kind for kind in kinds if _accepts(name, kind)), None)


def token_uses(document: Document, path: str) -> tuple[TokenUse, ...]:
    """Every value and every motion that refers to a token; those of the file are of no owner."""
    token_uses_found = [TokenUse("", (), "motion")] if path in token_paths(document.motion) else []
    for owner in document.owners():
        token_uses_found += [
            TokenUse(owner.id, node, name)
            for node, name, value in stated_values(owner)
            if path in token_paths(value)
        ]
        moving = sum(path in token_paths(motion) for motion in motions_of(owner))
        token_uses_found += [TokenUse(owner.id, (owner.root.id,), "motion")] * moving
        token_uses_found += [
            TokenUse(owner.id, cue.node or (owner.root.id,), "wait")
            for cue in owner.behaviour.cues
            if cue.trigger.token == path
        ]
    return tuple(token_uses_found)


def referring_properties(document: Document) -> dict[str, Counter[str]]:
    """For every token that values refer to, how often which property does, in one pass."""
    found: dict[str, Counter[str]] = {}
    for owner in document.owners():
        for path, counted in _properties_in(owner).items():
            found.setdefault(path, Counter()).update(counted)
    return found


def _count_properties(owner: Owner) -> dict[str, Counter[str]]:
    found: dict[str, Counter[str]] = {}
    for _, name, value in stated_values(owner):
        for path in token_paths(value):
            found.setdefault(path, Counter())[name] += 1
    return found


# By owner: an edit changes one, and the tokens' bench asks for all.
_properties_in = ByIdentity(_count_properties, 4096)


def beyond(document: Document, path: str) -> tuple[TokenUse, ...]:
    """The uses of a token that show something else than its value, since their property does
    not allow it: the nearest that it does (`properties.fitting`)."""
    token = document.token(path)
    if token is None or isinstance(token.value, Token):
        return ()
    value, meant = token.value, Token(path)
    return tuple(
        TokenUse(owner.id, node, name)
        for owner in document.owners()
        for node, name, stated in stated_values(owner)
        if stated == meant and not name.startswith(CHOICE) and fitting(name, value) != value
    )


def tokens_named(owner: Owner) -> frozenset[str]:
    """The tokens that an owner's values refer to."""
    values = [value for _, _, value in stated_values(owner)]
    timed = (*motions_of(owner), *waits_of(owner))
    return frozenset(p for value in (*values, *timed) for p in token_paths(value))


def add_mode(document: Document, name: str) -> Document:
    """The document with one more mode in which tokens can differ; none differs yet."""
    new_name = name.strip()
    if not new_name or new_name in document.modes:
        raise Refusal("A mode needs a name of its own.")
    return msgspec.structs.replace(document, modes=(*document.modes, new_name))


def remove_mode(document: Document, name: str) -> Document:
    """The document without a mode, and without what tokens were in it."""
    tokens = document.tokens
    for path, token in document.tokens.items():
        if name in token.modes:
            less = msgspec.structs.replace(token, modes=token.modes.delete(name))
            tokens = tokens.set(path, less)
    modes = tuple(mode for mode in document.modes if mode != name)
    mode_shown = "" if document.mode == name else document.mode
    without = msgspec.structs.replace(document, tokens=tokens, modes=modes, mode=mode_shown)
    # A part that was shown in it is as what is around it.
    return revalued(without, lambda _, prop, v: "" if prop == "mode" and v == name else v)


def show_mode(document: Document, name: str) -> Document:
    """The document shown in a mode; "" is the usual values."""
    if name and name not in document.modes:
        raise Refusal(f"There is no mode called “{name}”.")
    return msgspec.structs.replace(document, mode=name)


def checked_token(kind: TokenKind, value: Value, property_name: str) -> DesignToken:
    """A token made of a property's value. Raises Refusal where it is no plain value."""
    if isinstance(value, Token):
        return DesignToken(kind, value)
    try:
        return DesignToken(kind, row_of(property_name).type.check(value))
    except ValueRefusal as problem:
        raise Refusal(f"A token cannot be made of this: {problem}") from problem
