"""Tokens as sets: their order, their groups, a ramp of a colour, the scheme of their names."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Mapping
from typing import NamedTuple

import msgspec

from outgrowth.core.color import Color
from outgrowth.core.color.polar import Oklch, color_of, polar
from outgrowth.core.document.records import DesignToken, Document
from outgrowth.core.document.referring import meaning
from outgrowth.core.edits.tokens import rename_token, set_tokens
from outgrowth.core.refusal import Refusal

RAMP = (50, 100, 200, 300, 400, 500, 600, 700, 800, 900)
"""The steps of a ramp, from the lightest. Common practice, no source."""
_LIGHTEST, _DARKEST = 0.975, 0.26
_WORDS = re.compile(r"[^\W\d_]+|\d+")
_LOWER = re.compile(r"[a-z0-9]+(-[a-z0-9]+)*")


def in_order(tokens: Mapping[str, DesignToken], paths: Iterable[str]) -> list[str]:
    """Paths as somebody put them, those that nobody did behind them by name."""
    return sorted(paths, key=lambda path: (tokens[path].place or float("inf"), path))


def move_token(document: Document, path: str, after: str) -> Document:
    """The document with a token right behind another of its kind, first for "". Raises Refusal
    where one of them is gone, or they are of different kinds."""
    token, other = document.tokens.get(path), document.tokens.get(after)
    if token is None or (after and other is None):
        raise Refusal("That token is no longer there.")
    if other is not None and other.kind != token.kind:
        raise Refusal(f"“{path}” and “{after}” are not of one kind.")
    same = (p for p, t in document.tokens.items() if t.kind == token.kind)
    order = [p for p in in_order(document.tokens, same) if p != path]
    at = order.index(after) + 1 if after in order else 0
    order.insert(at, path)
    placed = {
        each: msgspec.structs.replace(document.tokens[each], place=float(n))
        for n, each in enumerate(order, 1)
        if document.tokens[each].place != n
    }
    return set_tokens(document, placed) if placed else document


def move_to_group(document: Document, path: str, group: str) -> Document:
    """The document with a token in another group ("" for none), called there as it was; whatever
    refers to it follows. Raises Refusal where that name is taken."""
    last = path.rpartition(".")[2]
    return rename_token(document, path, f"{group}.{last}" if group else last)


def ramp(document: Document, path: str) -> dict[str, DesignToken]:
    """Ten tokens from light to dark with the hue of a colour's token: even steps of lightness
    in OKLCH, as much chroma as the colour has and sRGB allows, the colour itself at the step that
    is nearest to it. Raises Refusal for a token that is no colour. Source: CSS Color 4, 9.4."""
    token = document.tokens.get(path)
    value = meaning(path, document.token) if token is not None else None
    if token is None or not isinstance(value, Color):
        raise Refusal("A ramp is made from the token of a colour.")
    base = polar(value)
    lights = [_LIGHTEST + (_DARKEST - _LIGHTEST) * n / (len(RAMP) - 1) for n in range(len(RAMP))]
    nearest = min(range(len(RAMP)), key=lambda n: abs(lights[n] - base.light))
    made = {}
    for n, (step, light) in enumerate(zip(RAMP, lights, strict=True)):
        color = value if n == nearest else color_of(Oklch(light, base.chroma, base.hue))
        made[f"{path}-{step}"] = DesignToken("color", color, place=float(step))
    return made


def add_ramp(document: Document, path: str) -> Document:
    """The document with the ramp of a colour's token. Raises Refusal where a name is taken."""
    made = ramp(document, path)
    taken = [name for name in made if name in document.tokens]
    if taken:
        raise Refusal(f"There is already a token called “{taken[0]}”.")
    return set_tokens(document, made)


class OffScheme(NamedTuple):
    """A token whose name does not follow the scheme: why, and what it could be called ("" where
    that is taken)."""

    path: str
    reason: str
    better: str


def off_scheme(document: Document) -> list[OffScheme]:
    """The tokens whose names break with those of the others: each part in small letters, words
    tied by “-”, and below the group that most tokens of the kind are in (members of composed
    ones apart). Of one or two of a kind there is no scheme to follow."""
    usual = _usual_groups(document)
    found = []
    for path, token in sorted(document.tokens.items()):
        parts = [_cleaned(part) for part in path.split(".")]
        clean = ".".join(parts)
        reason = "is not in small letters, its words tied by “-”" if clean != path else ""
        group = usual.get(token.kind, "")
        outside = bool(group) and not clean.startswith(f"{group}.") and "." not in clean
        if outside:
            clean = f"{group}.{clean}"
            kind = f"{reason} and " if reason else ""
            reason = f"{kind}stands outside of “{group}”, where the others of its kind are"
        if reason:
            taken = clean in document.tokens and clean != path
            found.append(OffScheme(path, reason, "" if taken else clean))
    return found


def _usual_groups(document: Document) -> dict[str, str]:
    """By kind the group in which most tokens are, where that is more than half of three or more."""
    groups: dict[str, Counter[str]] = {}
    for path, token in document.tokens.items():
        first = path.partition(".")[0] if "." in path else ""
        groups.setdefault(token.kind, Counter())[first] += 1
    usual = {}
    for kind, counted in groups.items():
        group, count = counted.most_common(1)[0]
        if group and counted.total() >= 3 and 2 * count > counted.total():
            usual[kind] = group
    return usual


def _cleaned(part: str) -> str:
    """A part of a name as the scheme has it: “Sea Blue” as “sea-blue”, “seaBlue” too."""
    if _LOWER.fullmatch(part):
        return part
    split = re.sub(r"(?<=[a-z0-9])(?=[A-Z])", " ", part)
    words = _WORDS.findall(split)
    return "-".join(word.lower() for word in words) if words else part
