"""Sizes as sums and bounds, with CSS's meaning: `min(100%, 640px)`, `clamp(16px, 1ch + 1%, 24px)`.

A formula is kept as its one canonical text, with every unit said: % of what holds the part, px, and
ch, the widths of a "0". A number without a unit is a number where it multiplies or divides, and px
elsewhere.

Source: CSS Values 4, section 10 (mathematical expressions).
"""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from outgrowth.core.document.values import LARGEST_NUMBER, Size
from outgrowth.core.refusal import ValueRefusal, quoted

LONGEST = 160
"""Letters of a formula."""
_DEEPEST = 12
_DIGITS = 6
"""Digits behind the point that are kept."""
_FUNCTIONS = {"min": (1, 9), "max": (1, 9), "clamp": (3, 3)}
"""How many arguments each takes, at least and at most."""
_TOKEN = re.compile(r"\s*(?:(\d+(?:\.\d+)?|\.\d+)\s*(px|%|ch)?|([a-z]+)|([-+*/(),×·−]))")
_SEVERAL = re.compile(
    r"(?:^|[^a-z-])(?:min|max|clamp)\s*\(|\d\s*(?:%|ch|px)\s*[-+*/×−]"
    r"|[\d)]\s*[-+*/×−]\s*[\d.]+\s*(?:%|ch)"
)
_SIGNS = {"×": "*", "·": "*", "−": "-"}


class Term(NamedTuple):
    """A part of a formula: a number with its unit ("" for none), or something done to others.

    act  a unit, "+", "-", "*", "/", "min", "max" or "clamp"
    """

    act: str
    amount: float = 0.0
    of: tuple[Term, ...] = ()

    @property
    def is_number(self) -> bool:
        """Whether it is a number, and no length."""
        if self.of:
            return all(term.is_number for term in self.of)
        return self.act == ""

    @property
    def of_holder(self) -> bool:
        """Whether it depends on what holds the part."""
        return self.act == "%" or any(term.of_holder for term in self.of)


@lru_cache(maxsize=1024)
def parsed(text: str) -> Term:
    """What a formula says. Raises ValueRefusal with a sentence for what is none."""
    if len(text) > LONGEST:
        raise ValueRefusal(f"A formula has at most {LONGEST} letters.")
    return _as_length(_Reader(text).whole())


@lru_cache(maxsize=1024)
def canonical(text: str) -> str:
    """The formula as it is kept. Raises ValueRefusal."""
    kept = written(parsed(text))
    if len(kept) > LONGEST:
        raise ValueRefusal(f"With its units a formula has at most {LONGEST} letters.")
    return kept


def is_formula(text: str) -> bool:
    """Whether something typed is more than one number with its unit."""
    return _SEVERAL.search(text.lower()) is not None


def is_share(size: Size) -> bool:
    """Whether a size depends on what holds the part."""
    if size.mode == "formula":
        return parsed(size.formula).of_holder
    return size.mode == "percent"


def value_of(text: str, room: float | None, zero: float) -> float | None:
    """What a formula comes to in px, where its holder has so much room and a "0" is so wide; None
    where it depends on a room that is not known."""
    term = parsed(text)
    if room is None and term.of_holder:
        return None
    return max(min(_value(term, room or 0.0, zero), LARGEST_NUMBER), -LARGEST_NUMBER)


def written(term: Term, inside: str = "") -> str:
    """A term as text; `inside` is what it is part of."""
    if not term.of:
        return f"{term.amount:.{_DIGITS}f}".rstrip("0").rstrip(".") + term.act
    if term.act in _FUNCTIONS:
        return f"{term.act}({', '.join(map(written, term.of))})"
    left, right = term.of
    # What is taken away or divided by keeps its brackets, a sum within a product too.
    text = f"{written(left, term.act)} {term.act} {written(right, 'r' + term.act)}"
    strong = term.act in "*/"
    needs = (inside[-1:] in ("*", "/") and inside and not strong) or inside in ("r-", "r/", "r*")
    return f"({text})" if needs else text


def css_of(text: str) -> str:
    """A formula as CSS has it."""
    term = parsed(text)
    return text if term.act in _FUNCTIONS else f"calc({text})"


def explained(text: str, room: float | None, zero: float) -> str:
    """What a formula comes to, in words, while it is typed. Raises ValueRefusal."""
    kept = canonical(text)
    value = value_of(kept, room, zero)
    return f"is {value:.4g} px here" if value is not None else "fits: its holder has no size yet"


def _value(term: Term, room: float, zero: float) -> float:
    if not term.of:
        return term.amount * {"%": room / 100, "ch": zero}.get(term.act, 1.0)
    parts = [_value(each, room, zero) for each in term.of]
    if term.act == "min":
        return min(parts)
    if term.act == "max":
        return max(parts)
    if term.act == "clamp":
        # The lower bound is stronger (CSS Values 4, section 10.5).
        return max(parts[0], min(parts[1], parts[2]))
    a, b = parts
    if term.act == "+":
        return a + b
    if term.act == "-":
        return a - b
    return a * b if term.act == "*" else a / b


def _as_length(term: Term) -> Term:
    """A number on its own is px."""
    if not term.is_number:
        return term
    return Term("px", _kept(_value(term, 0.0, 0.0)))


def _kept(number: float) -> float:
    """A number as it is kept, so that what was written is read as the same. Raises ValueRefusal."""
    if not abs(number) <= LARGEST_NUMBER:
        raise ValueRefusal(f"{number:g} is too much for a formula.")
    return round(number, _DIGITS) + 0.0


class _Reader:
    """Reads one formula, from left to right."""

    def __init__(self, text: str) -> None:
        self._text = text
        self._tokens: list[tuple[str, str, str, str]] = []
        at, lower = 0, text.lower().strip()
        while at < len(lower):
            match = _TOKEN.match(lower, at)
            if match is None:
                raise self._refusal(f"“{quoted(lower[at:].strip(), 20)}” can't stand there")
            self._tokens.append(match.groups(default=""))  # type: ignore[arg-type]  # four groups
            at = match.end()
        self._at = 0

    def _refusal(self, why: str) -> ValueRefusal:
        return ValueRefusal(f"“{quoted(self._text, 60)}” is no formula: {why}.")

    def whole(self) -> Term:
        """The whole text."""
        term = self._sum(0)
        if self._at < len(self._tokens):
            raise self._refusal(f"“{''.join(self._tokens[self._at])}” is left over")
        return term

    def _sign(self) -> str:
        sign = self._tokens[self._at][3] if self._at < len(self._tokens) else ""
        return _SIGNS.get(sign, sign)

    def _takes(self, sign: str) -> bool:
        found = self._sign() == sign
        self._at += found
        return found

    def _expect(self, sign: str) -> None:
        if not self._takes(sign):
            raise self._refusal(f"a “{sign}” is missing")

    def _sum(self, depth: int) -> Term:
        if depth > _DEEPEST:
            raise self._refusal("it is too deep")
        term = self._product(depth)
        while self._sign() in ("+", "-"):
            sign = self._sign()
            self._at += 1
            other = self._product(depth)
            if term.is_number != other.is_number:
                term, other = _as_length(term), _as_length(other)
            term = Term(sign, of=(term, other))
        return term

    def _product(self, depth: int) -> Term:
        term = self._factor(depth)
        while self._sign() in ("*", "/"):
            sign = self._sign()
            self._at += 1
            other = self._factor(depth)
            if sign == "/" and not other.is_number:
                raise self._refusal("a length can't divide")
            if not term.is_number and not other.is_number:
                raise self._refusal("of two that are multiplied one has to be a plain number")
            if sign == "/" and _value(other, 0.0, 0.0) == 0.0:
                raise self._refusal("nothing can be divided by 0")
            term = Term(sign, of=(term, other))
        return term

    def _factor(self, depth: int) -> Term:
        if self._at >= len(self._tokens):
            raise self._refusal("something is missing at its end")
        number, unit, name, _ = self._tokens[self._at]
        sign = self._sign()
        self._at += 1
        if number:
            amount = _kept(float(number))
            # No share at all is a length to browsers, also where what it is of is not known.
            return Term("px" if unit == "%" and not amount else unit, amount)
        if name:
            return self._function(name, depth)
        if sign == "(":
            term = self._sum(depth + 1)
            self._expect(")")
            return term
        if sign == "-":
            factor = self._factor(depth + 1)
            if not factor.of:
                return factor._replace(amount=-factor.amount)
            return Term("*", of=(Term("", -1.0), factor))
        raise self._refusal(f"“{sign}” can't stand there")

    def _function(self, name: str, depth: int) -> Term:
        if name not in _FUNCTIONS:
            raise self._refusal(f"it knows min, max and clamp, and no “{quoted(name, 20)}”")
        self._expect("(")
        terms = [self._sum(depth + 1)]
        while self._takes(","):
            terms.append(self._sum(depth + 1))
        self._expect(")")
        least, most = _FUNCTIONS[name]
        if not least <= len(terms) <= most:
            raise self._refusal(f"{name} takes {least if least == most else 'up to 9'} parts")
        if not all(term.is_number for term in terms):
            terms = [_as_length(term) for term in terms]
        return Term(name, of=tuple(terms)) if len(terms) > 1 else terms[0]
