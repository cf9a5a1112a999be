"""Tokens from a file of the community group's format: what it says, what of it is new.

Source: Design Tokens Format Module 2025.10: groups, `$type` from around, `$root`, `$extends`,
aliases in braces and as JSON pointers, and the composite types. Older notations that many files
have (colours as hex, sizes as "8px") are read too. Nothing in a file is trusted.
"""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterator, Mapping
from typing import NamedTuple

from outgrowth.core.color import Color
from outgrowth.core.color.srgb import ColorRefusal, parse
from outgrowth.core.document.composed import COMPOSITIONS
from outgrowth.core.document.design_token import TokenKind
from outgrowth.core.document.records import DesignToken, Document
from outgrowth.core.document.referring import DEEPEST_ALIAS
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.document.values import LARGEST_NUMBER, Shadow, Token, Value
from outgrowth.core.exchange.tokens.write import CURVES, KINDS, MEMBERS, OURS, TYPES
from outgrowth.core.refusal import LONGEST_SENTENCE, Refusal, ValueRefusal, quoted

_OUR_KINDS: dict[str, TokenKind] = {theirs: ours for ours, theirs in KINDS.items()}  # type: ignore[misc]  # kinds
_LARGEST_FILE = 16 * 1024 * 1024
_DEEPEST = 64
MOST_TOKENS = 20_000
MOST_UNFOLDED = 10 * MOST_TOKENS
"""Places in groups, those again that they take from each other (`$extends`): a few short groups
that take from one another in a ring would unfold without end."""
_LONGEST_NAME = 200
_MOST_DIGITS = 400
_MOST_TOLD = 500
_ALIAS = re.compile(r"\{([^{}]+)\}")
_LENGTH = re.compile(r"(-?\d*\.?\d+)(px|rem|em|ms|s)?")
_WEIGHTS = {
    "thin": 100.0, "hairline": 100.0, "extra-light": 200.0, "ultra-light": 200.0, "light": 300.0,
    "normal": 400.0, "regular": 400.0, "book": 400.0, "medium": 500.0, "semi-bold": 600.0,
    "demi-bold": 600.0, "bold": 700.0, "extra-bold": 800.0, "ultra-bold": 800.0, "black": 900.0,
    "heavy": 900.0, "extra-black": 950.0, "ultra-black": 950.0,
}  # fmt: skip
"""Source: Design Tokens Format Module 2025.10, section 8.4 (font weight)."""
_ROOT_SIZE = 16.0


class TokenFileRefusal(Refusal):
    """A file holds no tokens that can be read; the message is a sentence for the user."""

    longest = LONGEST_SENTENCE


class TokenFile(NamedTuple):
    """What a file says: tokens by their paths, and what of it was left out and why."""

    tokens: dict[str, DesignToken]
    left_out: tuple[str, ...]


class TokenDifferences(NamedTuple):
    """What a file would change: paths that are new, other than they are, and not in it."""

    new: tuple[str, ...]
    changed: tuple[str, ...]
    gone: tuple[str, ...]


def read_tokens(data: bytes, name: str) -> TokenFile:
    """The tokens of a file. Raises TokenFileRefusal for one that holds none."""
    name = quoted(name, 60)
    if len(data) > _LARGEST_FILE:
        raise TokenFileRefusal(f"“{name}” is larger than 16 MB, so it holds more than tokens.")
    try:
        root = json.loads(data.decode("utf-8-sig"), parse_int=_whole_number)
    except (ValueError, RecursionError) as problem:
        raise TokenFileRefusal(f"“{name}” is no JSON, so no tokens can be read.") from problem
    if not isinstance(root, dict):
        raise TokenFileRefusal(f"“{name}” holds no groups of tokens.")
    reader = _TokenReader(root)
    reader.read()
    left_out = reader.told()
    if not reader.tokens:
        why = f" {left_out[0]}" if left_out else ""
        raise TokenFileRefusal(f"“{name}” holds no tokens that can be used here.{why}")
    return TokenFile(reader.tokens, left_out)


def _whole_number(text: str) -> float:
    """A number without a point; one of more digits than any number has is infinite, so that it
    is refused where it stands and costs no time."""
    return int(text) if len(text) <= _MOST_DIGITS else math.inf


def differences(document: Document, read: TokenFile, mode: str = "") -> TokenDifferences:
    """What taking in a file as the values of a mode would change."""
    new = sorted(path for path in read.tokens if path not in document.tokens)
    changed = []
    for path, token in sorted(read.tokens.items()):
        before = document.tokens.get(path)
        if before is not None:
            value = before.modes.get(mode, before.value)
            described = token.description and token.description != before.description
            if value != token.value or before.kind != token.kind or described:
                changed.append(path)
    gone = sorted(path for path in document.tokens if path not in read.tokens)
    return TokenDifferences(tuple(new), tuple(changed), tuple(gone))


class _TokenReader:
    """Reads groups, then settles what refers to what."""

    def __init__(self, root: JsonObject) -> None:
        self._root = root
        self.tokens: dict[str, DesignToken] = {}
        self._left_out: list[str] = []
        self._left_out_count = 0
        self._unfolded = 0
        self._raw: dict[str, tuple[str, Json, JsonObject]] = {}

    def read(self) -> None:
        """Fills `tokens`, and notes what is left out."""
        for path, kind, token in self._walk(self._root, (), "", frozenset()):
            if len(self._raw) >= MOST_TOKENS:
                self._leave_out(f"More than {MOST_TOKENS:,} tokens: the rest is left out.")
                break
            self._raw[path] = kind, token.get("$value"), token
        if self._unfolded > MOST_UNFOLDED:
            self._leave_out(
                f"Its groups take from each other until there are more than {MOST_UNFOLDED:,} "
                "places: the rest is left out."
            )
        for path in self._raw:
            self._settle(path)

    def told(self) -> tuple[str, ...]:
        """What was left out and why, not endlessly."""
        more = self._left_out_count - len(self._left_out)
        return (*self._left_out, *([f"{more:,} more are left out."] if more else []))

    def _leave_out(self, sentence: str) -> None:
        self._left_out_count += 1
        if len(self._left_out) < _MOST_TOLD:
            self._left_out.append(sentence)

    def _walk(
        self, group: JsonObject, path: tuple[str, ...], kind: str, taken: frozenset[int]
    ) -> Iterator[tuple[str, str, JsonObject]]:
        """The tokens in a group, each by its path, its kind and as it is written; `taken` are the
        groups (by identity) that those around it take from."""
        if len(path) > _DEEPEST:
            self._leave_out(f"“{quoted('.'.join(path), 80)}” is too deep.")
            return
        extended = self._extended(group, path, taken)
        taken = taken.union(map(id, extended))
        group = self._merged_all(extended)
        declared_kind = group.get("$type")
        kind = declared_kind if isinstance(declared_kind, str) else kind
        inner: list[tuple[tuple[str, ...], JsonObject]] = []
        for name, item in group.items():
            self._unfolded += 1
            if self._unfolded > MOST_UNFOLDED:
                return
            if name.startswith("$") and name != "$root":
                continue
            if not isinstance(item, dict) or not _is_name(name):
                self._leave_out(f"“{quoted('.'.join((*path, name[:80])), 80)}” is no token.")
                continue
            here = path if name == "$root" and path else (*path, name.strip("$"))
            if "$value" in item:
                own = item.get("$type")
                yield ".".join(here), own if isinstance(own, str) else kind, item
            else:
                inner.append((here, item))
        # After the group's own tokens, which no endless inner one may cost their place.
        for here, item in inner:
            yield from self._walk(item, here, kind, taken)

    def _extended(
        self, group: JsonObject, path: tuple[str, ...], taken: frozenset[int]
    ) -> list[JsonObject]:
        """A group, what it takes from (`$extends`), what that takes from, and so on."""
        chain = [group]
        while isinstance(reference := chain[-1].get("$extends"), str):
            target = self._at(reference)
            if not isinstance(target, dict):
                self._leave_out(
                    f"“{quoted('.'.join(path), 80)}” takes from “{quoted(reference, 80)}”, which "
                    "is no group."
                )
                break
            circle = id(target) in taken or any(target is one for one in chain)
            if circle or len(chain) > _DEEPEST:
                self._leave_out(f"“{quoted('.'.join(path), 80)}” takes from itself.")
                break
            chain.append(target)
        return chain

    def _merged_all(self, chain: list[JsonObject]) -> JsonObject:
        """One group of several; what comes earlier comes before what comes later."""
        merged = chain[-1]
        for one in reversed(chain[:-1]):
            merged = self._merged(merged, one)
        return merged

    def _merged(self, below: JsonObject, above: JsonObject) -> JsonObject:
        self._unfolded += len(below) + len(above)
        if self._unfolded > MOST_UNFOLDED:
            return above
        merged = dict(below)
        for name, item in above.items():
            under = merged.get(name)
            both = isinstance(under, dict) and isinstance(item, dict) and "$value" not in item
            merged[name] = self._merged(under, item) if both else item  # type: ignore[arg-type]  # objects
        return merged

    def _at(self, reference: str) -> Json:
        """What an alias or a pointer leads to in the file."""
        self._unfolded += len(reference) // _LONGEST_NAME
        alias = _ALIAS.fullmatch(reference.strip())
        steps = alias.group(1).split(".") if alias else reference.lstrip("#/").split("/")
        place: Json = self._root
        for step in steps:
            place = place.get(step) if isinstance(place, dict) else None
        return place

    # --- values -----------------------------------------------------------------------------

    def _settle(self, path: str) -> None:
        kind, value, token = self._raw[path]
        kind = kind or self._kind_of_alias(value)
        for name, theirs in TYPES.items():
            if kind == theirs:
                self._settle_composed(path, name, value)
                return
        if kind == "gradient" or kind not in (*_OUR_KINDS, "fontWeight"):
            what = f"a {kind}" if kind else "of no type"
            text = f"“{quoted(path, 80)}” is {quoted(what, 40)}, which is not used here."
            self._leave_out(text)
            return
        self._add(path, _OUR_KINDS.get(kind, "number"), value, token)

    def _kind_of_alias(self, value: Json) -> str:
        """A token without a type is of the one that it refers to (section 5.2)."""
        for _ in range(DEEPEST_ALIAS):
            path = _alias_path(value)
            if path is None or path not in self._raw:
                break
            kind, value, _ = self._raw[path]
            if kind:
                return kind
        return ""

    def _settle_composed(self, path: str, name: str, value: Json) -> None:
        target = self._raw.get(_alias_path(value) or "")
        if target is not None:
            value = target[1]
        if not isinstance(value, dict):
            self._leave_out(f"“{quoted(path, 80)}” has no members.")
            return
        kinds = COMPOSITIONS[name].members
        for theirs, ours in MEMBERS[name].items():
            if theirs in value:
                self._add(f"{path}.{ours}", kinds[ours], value[theirs], {})

    def _add(self, path: str, kind: TokenKind, value: Json, token: JsonObject) -> None:
        about = token.get("$description")
        extensions = token.get("$extensions")
        try:
            meant = self._value(kind, value, extensions)
            more = ""
            if _foreign(extensions):
                more = json.dumps({"$extensions": extensions}, allow_nan=False)
            self.tokens[path] = DesignToken(
                kind, meant, about if isinstance(about, str) else "", more=more
            )
        except (ValueRefusal, ColorRefusal, ValueError, TypeError, RecursionError) as problem:
            self._leave_out(f"“{quoted(path, 80)}”: {quoted(str(problem), 200)}")

    def _value(self, kind: TokenKind, value: Json, extensions: Json) -> Value:
        alias = _alias_path(value)
        if alias is not None:
            if alias not in self._raw:
                raise ValueRefusal(f"it refers to “{alias}”, which is not in the file.")
            self._refuse_circle(alias)
            return Token(alias)
        if kind == "color":
            return _color(value)
        if kind in ("dimension", "duration", "number"):
            return _number(value, kind)
        if kind == "family":
            first = value[0] if isinstance(value, list) and value else value
            return str(first)
        if kind == "easing":
            return _easing(value, extensions)
        items = value if isinstance(value, list) else [value]
        return tuple(self._shadow(item) for item in items)

    def _refuse_circle(self, path: str) -> None:
        visited: list[str] = []
        place: str | None = path
        while place is not None and place in self._raw:
            if place in visited:
                raise ValueRefusal(f"it refers to itself: {' › '.join([*visited, place])}.")
            visited.append(place)
            if len(visited) >= DEEPEST_ALIAS:
                raise ValueRefusal(f"it refers to others through more than {DEEPEST_ALIAS}.")
            place = _alias_path(self._raw[place][1])

    def _shadow(self, item: Json) -> Shadow:
        if not isinstance(item, dict):
            raise ValueRefusal("a shadow has a colour and offsets.")
        color = item.get("color", "#00000040")
        alias = _alias_path(color)
        token = alias if alias in self._raw else None
        # Its own colour, for when the token is gone.
        for _ in range(DEEPEST_ALIAS):
            if alias is None or alias not in self._raw:
                break
            color = self._raw[alias][1]
            alias = _alias_path(color)
        names = ("offsetX", "offsetY", "blur", "spread")
        x, y, blur, spread = (_number(item.get(name, 0), "dimension") for name in names)
        return Shadow(_color(color), x, y, blur, spread, item.get("inset") is True, token or "")


def _is_name(name: str) -> bool:
    """Whether a group or a token can be called so: a dot or a brace would make it another path
    (section 5.1.1)."""
    return bool(name.strip()) and len(name) <= _LONGEST_NAME and not set(name) & set(".{}")


def _foreign(extensions: Json) -> bool:
    return isinstance(extensions, dict) and set(extensions) != {OURS} and bool(extensions)


def _alias_path(value: Json) -> str | None:
    """The path that a value refers to; None for a value of its own."""
    reference = value.get("$ref") if isinstance(value, dict) else None
    if isinstance(reference, str):
        pointer = reference.lstrip("#/").removesuffix("/$value")
        return pointer.replace("/", ".")
    alias = _ALIAS.fullmatch(value.strip()) if isinstance(value, str) else None
    return alias.group(1).removesuffix(".$root") if alias else None


def _color(value: Json) -> Color:
    if isinstance(value, str):
        return parse(value)
    if not isinstance(value, dict):
        raise ValueRefusal("that is no colour.")
    space, parts = value.get("colorSpace"), value.get("components")
    alpha = value.get("alpha", 1)
    if not isinstance(parts, list) or len(parts) != 3 or not isinstance(space, str):
        raise ValueRefusal("a colour has a space and three components.")
    numbers = ["none" if part == "none" else f"{_float(part):.10g}" for part in parts]
    text = " ".join(numbers)
    share = f" / {_float(alpha):.10g}" if isinstance(alpha, int | float) else ""
    if space == "srgb" and "none" not in numbers:
        red, green, blue = (min(max(float(n), 0.0), 1.0) for n in numbers)
        return Color(red, green, blue, min(max(_float(alpha), 0.0), 1.0)).rounded
    return parse(_NOTATIONS.get(space, f"color({space} {{}})").format(text + share))


# Source: Design Tokens Color Module 2025.10, section 4; CSS Color 4 for the notations.
_NOTATIONS = {
    "hsl": "hsl({})",
    "hwb": "hwb({})",
    "lab": "lab({})",
    "lch": "lch({})",
    "oklab": "oklab({})",
    "oklch": "oklch({})",
}


def _number(value: Json, kind: str) -> float:
    unit: Json = ""
    if isinstance(value, dict):
        unit = value.get("unit")
        value = value.get("value")
    elif isinstance(value, str):
        text = value.strip().lower()
        if kind == "number" and text in _WEIGHTS:
            return _WEIGHTS[text]
        match = _LENGTH.fullmatch(text)
        if match is None:
            raise ValueRefusal(f"“{value[:40]}” is no number.")
        value, unit = float(match.group(1)), match.group(2) or ""
    factor = {"rem": _ROOT_SIZE, "em": _ROOT_SIZE, "s": 1000.0}.get(str(unit), 1.0)
    return _float(value) * factor


def _float(value: Json) -> float:
    """A number that is one. Raises ValueRefusal."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise ValueRefusal("that is no number.")
    if not abs(value) <= LARGEST_NUMBER:
        raise ValueRefusal("that number is too large.")
    return float(value)


def _easing(value: Json, extensions: Json) -> str:
    own = extensions.get(OURS) if isinstance(extensions, dict) else None
    exact = own.get("easing") if isinstance(own, dict) else None
    if isinstance(exact, str):
        return exact
    if isinstance(value, str):
        return value
    if not isinstance(value, list) or len(value) != 4:
        raise ValueRefusal("a curve has four numbers.")
    numbers = [_float(part) for part in value]
    for name, curve in CURVES.items():
        if numbers == curve:
            return name
    return f"cubic-bezier({', '.join(f'{n:.10g}' for n in numbers)})"


def by_kind(tokens: Mapping[str, DesignToken]) -> dict[str, int]:
    """How many tokens of each kind."""
    counts: dict[str, int] = {}
    for token in tokens.values():
        counts[token.kind] = counts.get(token.kind, 0) + 1
    return counts
