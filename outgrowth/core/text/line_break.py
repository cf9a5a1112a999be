"""Where a line may break: the rules of UAX #14 in one pass over a text.

The uniseg package has the properties of all characters, and its own breaking judges this one
in the tests; it takes 130 µs a character, and a text of 10,000 letters has to be broken while
somebody types in it. Each decision here looks at a few neighbours and at what stands before a
stretch of spaces or of separators, which is counted on the way; what was seen once is
remembered.

Source: Unicode Standard Annex #14, revision 53 (Unicode 16); the rules' numbers stand beside.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from uniseg.emoji import extended_pictographic
from uniseg.linebreak import line_break
from uniseg.unicodedatawrapper import category, east_asian_width


class BreakClass(NamedTuple):
    """All that the rules ask of a character.

    of      its class, as LB1 has it
    quote   Pi or Pf for an initial or final mark, Cn for what is not assigned but pictographic
    wide    whether it is wide, as East Asian letters are
    itself  the character, where a rule names it
    """

    of: str
    quote: str = ""
    wide: bool = False
    itself: str = ""


# What stands before the first character and behind the last one.
_EDGE = BreakClass("")
_LETTER_A = BreakClass("AL")


@lru_cache(maxsize=8192)
def _kind(character: str) -> BreakClass:
    of, general = line_break(character).value, category(character).value
    if of in ("AI", "SG", "XX"):  # LB1
        of = "AL"
    elif of == "SA":
        of = "CM" if general in ("Mn", "Mc") else "AL"
    elif of == "CJ":
        of = "NS"
    quote = general if general in ("Pi", "Pf") else ""
    if general == "Cn" and extended_pictographic(character):
        quote = "Cn"
    wide = east_asian_width(character).value in ("F", "W", "H")
    return BreakClass(of, quote, wide, character if character in "\u25cc\u2010" else "")


_HARD = frozenset(("BK", "CR", "LF", "NL"))
_UNATTACHED = frozenset((*_HARD, "SP", "ZW"))


def breaks(text: str) -> list[int]:
    """The places (character indices, that of the end among them) at which a line may end."""
    if not text:
        return []
    kinds = [_kind(c) for c in text]
    decided, attached = _attached(kinds)
    places = [place for place, _ in attached]
    kinds_shown = [kind for _, kind in attached]
    last = len(text) - 1
    before_spaces = _before(kinds_shown, ("SP",))
    before_separators = _before(kinds_shown, ("SY", "IS"))
    flags = 0
    for n in range(1, len(kinds_shown)):
        place = places[n]
        # LB30a counts regional indicators: two of them are one flag.
        flags = flags + 1 if kinds_shown[n - 1].of == "RI" else 0
        # What LB4 to LB10 decided stands; the others are asked in order.
        if decided[place] is None:
            decided[place] = _breaks_between(
                _Seen(
                    _kind_at(kinds_shown, n - 2),
                    kinds_shown[n - 1],
                    kinds_shown[n],
                    _kind_at(kinds_shown, n + 1),
                    _kind_at(kinds_shown, n + 2),
                    _kind_at(kinds_shown, before_spaces[n]),
                    _kind_at(kinds_shown, before_spaces[n] - 1) if before_spaces[n] > 0 else _EDGE,
                    before_spaces[n] == 0,
                    _kind_at(kinds_shown, before_separators[n]),
                    _kind_at(kinds_shown, before_separators[n - 1]),
                    places[n - 1] == 0,
                    place == last,
                    flags % 2 == 1,
                )
            )
    return [n for n in range(1, len(text)) if decided[n]] + [len(text)]


def _attached(kinds: list[BreakClass]) -> tuple[list[bool | None], list[tuple[int, BreakClass]]]:
    """What the rules up to LB10 decide, and the characters that later ones look at: combining
    marks belong to what they stand on."""
    decided: list[bool | None] = [None] * len(kinds)
    decided[0] = False
    attached = [(0, kinds[0] if kinds[0].of not in ("CM", "ZWJ") else _LETTER_A)]
    base = "" if kinds[0].of in ("CM", "ZWJ") else kinds[0].of
    before_spaces = ""  # the class before the spaces that end at the last character
    for n in range(1, len(kinds)):
        before, after = kinds[n - 1].of, kinds[n].of
        before_spaces = before_spaces if before == "SP" else before
        if before in _HARD:  # LB4, LB5
            decided[n] = not (before == "CR" and after == "LF")
        elif after in _HARD or after in ("SP", "ZW"):  # LB6, LB7
            decided[n] = False
        elif before_spaces == "ZW":  # LB8
            decided[n] = True
        elif before == "ZWJ":  # LB8a
            decided[n] = False
        if after in ("CM", "ZWJ"):
            if base not in _UNATTACHED:  # LB9
                if decided[n] is None:
                    decided[n] = False
                continue
            attached.append((n, _LETTER_A))  # LB10
            continue
        base = after
        attached.append((n, kinds[n]))
    return decided, attached


def _before(kinds: list[BreakClass], kinds_before: tuple[str, ...]) -> list[int]:
    """For each place: where the last character before it stands that is none of those; −1
    for none."""
    results, last = [], -1
    for n, kind in enumerate(kinds):
        results.append(last)
        if kind.of not in kinds_before:
            last = n
    return results


def _kind_at(kinds: list[BreakClass], n: int) -> BreakClass:
    return kinds[n] if 0 <= n < len(kinds) else _EDGE


class _Seen(NamedTuple):
    """What a decision between two characters depends on.

    `spaced` stands before the spaces that end at `prev`, `spaced_prev` before that; `numbered`
    before the separators (SY, IS) that end at `prev`, `numbered_prev` before those that end at
    the character before it.
    """

    prev2: BreakClass
    prev: BreakClass
    now: BreakClass
    next: BreakClass
    next2: BreakClass
    spaced: BreakClass
    spaced_prev: BreakClass
    spaced_first: bool
    numbered: BreakClass
    numbered_prev: BreakClass
    prev_first: bool
    now_last: bool
    odd_flag: bool


_LETTERS = frozenset(("AL", "HL"))
_JAMO = frozenset(("JL", "JV", "JT", "H2", "H3"))
_BEFORE_QUOTE = frozenset((*_HARD, "OP", "QU", "GL", "SP", "ZW"))
_AFTER_QUOTE = frozenset((*_HARD, *["SP", "GL", "WJ", "CL", "QU", "CP", "EX", "IS", "SY", "ZW"]))
_WORD_START = frozenset((*_HARD, "SP", "ZW", "CB", "GL"))


@lru_cache(maxsize=65536)
def _breaks_between(s: _Seen) -> bool:
    """Whether a line may end between two characters: LB11 to LB31, the first that speaks."""
    for rule in (_of_spaces_and_marks, _of_words, _of_numbers_and_scripts):
        verdict = rule(s)
        if verdict is not None:
            return verdict
    if s.prev.of == s.now.of == "RI" and s.odd_flag:  # LB30a
        return False
    # LB30b, LB31
    return not (s.now.of == "EM" and (s.prev.of == "EB" or s.prev.quote == "Cn"))


def _of_spaces_and_marks(s: _Seen) -> bool | None:
    prev, after = s.prev.of, s.now.of
    if "WJ" in (prev, after) or prev == "GL":  # LB11, LB12
        return False
    if after == "GL" and prev not in ("SP", "BA", "HY"):  # LB12a
        return False
    if after in ("CL", "CP", "EX", "SY") or s.spaced.of == "OP":  # LB13, LB14
        return False
    quoted = s.spaced.of == "QU" and s.spaced_prev.of in _BEFORE_QUOTE
    if s.spaced.quote == "Pi" and (quoted or s.spaced_first):  # LB15a
        return False
    if after == "QU" and s.now.quote == "Pf" and (s.next.of in _AFTER_QUOTE or s.now_last):  # LB15b
        return False
    if prev == "SP" and after == "IS" and s.next.of == "NU":  # LB15c
        return True
    if after == "IS":  # LB15d
        return False
    if (
        s.spaced.of in ("CL", "CP") and after == "NS"
    ) or s.spaced.of == after == "B2":  # LB16, LB17
        return False
    if prev == "SP":  # LB18
        return True
    if (after == "QU" and s.now.quote != "Pi") or (prev == "QU" and s.prev.quote != "Pf"):  # LB19
        return False
    if after == "QU" and (not s.prev.wide or not s.next.wide or s.now_last):  # LB19a
        return False
    if prev == "QU" and (not s.now.wide or not s.prev2.wide or s.prev_first):
        return False
    return True if "CB" in (prev, after) else None  # LB20


def _of_words(s: _Seen) -> bool | None:
    prev, after = s.prev.of, s.now.of
    hyphen = prev == "HY" or (prev == "BA" and s.prev.itself == "\u2010")
    if hyphen and after == "AL" and (s.prev2.of in _WORD_START or s.prev_first):  # LB20a
        return False
    if after in ("BA", "HY", "NS") or prev == "BB":  # LB21
        return False
    if prev in ("HY", "BA") and s.prev2.of == "HL" and after != "HL":  # LB21a
        return False
    if (prev == "SY" and after == "HL") or after == "IN":  # LB21b, LB22
        return False
    if (prev in _LETTERS and after == "NU") or (prev == "NU" and after in _LETTERS):  # LB23
        return False
    picture = ("ID", "EB", "EM")
    if (prev == "PR" and after in picture) or (prev in picture and after == "PO"):  # LB23a
        return False
    sign = ("PR", "PO")
    if (prev in sign and after in _LETTERS) or (prev in _LETTERS and after in sign):  # LB24
        return False
    return None


def _of_numbers_and_scripts(s: _Seen) -> bool | None:
    prev, after = s.prev.of, s.now.of
    if _within_number(s):  # LB25
        return False
    korean = (
        (prev == "JL" and after in ("JL", "JV", "H2", "H3"))
        or (prev in ("JV", "H2") and after in ("JV", "JT"))
        or (prev in ("JT", "H3") and after == "JT")
    )
    if (
        korean or (prev in _JAMO and after == "PO") or (prev == "PR" and after in _JAMO)
    ):  # LB26, LB27
        return False
    if prev in _LETTERS and after in _LETTERS:  # LB28
        return False
    if _within_syllable(s) or (prev == "IS" and after in _LETTERS):  # LB28a, LB29
        return False
    word = (*_LETTERS, "NU")
    if prev in word and after == "OP" and not s.now.wide:  # LB30
        return False
    return False if prev == "CP" and not s.prev.wide and after in word else None


def _within_number(s: _Seen) -> bool:
    prev, after = s.prev.of, s.now.of
    sign = ("PO", "PR")
    if after in sign and (
        s.numbered.of == "NU" or (prev in ("CL", "CP") and s.numbered_prev.of == "NU")
    ):
        return True
    if prev in sign and after == "OP":
        return s.next.of == "NU" or (s.next.of == "IS" and s.next2.of == "NU")
    return after == "NU" and (prev in (*sign, "HY", "IS") or s.numbered.of == "NU")


def _within_syllable(s: _Seen) -> bool:
    def start(kind: BreakClass) -> bool:
        return kind.of in ("AK", "AS") or kind.itself == "\u25cc"

    if s.prev.of == "AP" and start(s.now):
        return True
    if start(s.prev) and s.now.of in ("VF", "VI"):
        return True
    if start(s.prev2) and s.prev.of == "VI" and (s.now.of == "AK" or s.now.itself == "\u25cc"):
        return True
    return start(s.prev) and start(s.now) and s.next.of == "VF"
