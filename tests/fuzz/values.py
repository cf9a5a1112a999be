"""Random values: fitting ones, odd ones at the edges, and such as nobody would write."""

from __future__ import annotations

import math
import random

from immutables import Map

from outgrowth.core.color import Color, Gradient, Stop
from outgrowth.core.document.properties import CHOICE, TABLE, row_of
from outgrowth.core.document.types import ChoiceType, NumberType
from outgrowth.core.document.values import (
    FIT,
    FromProperty,
    GridTrack,
    Once,
    Picture,
    Run,
    Shadow,
    Shift,
    Size,
    Token,
)

NUMBERS = (
    0.0, 1.0, -1.0, 0.5, 4.0, 8.0, 12.5, 1 / 3, 0.1 + 0.2, 24.0, 100.0, 390.0, 1000.0, 1e-9, -0.0,
    1e6, -1e6, 1e6 + 1, 36000.0, 1e300, -1e300, math.inf, -math.inf, math.nan, 5e-324, 10**400,
)  # fmt: skip
WORDS = (
    "", "Anchor", "Two words", "{color.sea}", "{}", "{", "a\nb", "a\u2028b", "\u202eleft", "😀🏽‍♀️",
    "\ud800", "x\udfff", "\0", "\x1b[31m", "<script>alert(1)</script>", '"><img src=x>', "'; }",
    "שלום", "العربية", "ﬁ ligature", "-" * 300, "w" * 2000, "a/b", "../../etc", "Open: yes", " ",
)  # fmt: skip


def number(rng, tame=0.7):
    if rng.random() < tame:
        return float(rng.choice((0, 1, 2, 4, 8, 12, 16, 24, 40, 100, 0.5, 1.04)))
    return rng.choice(NUMBERS) if rng.random() < 0.6 else rng.uniform(-2000, 2000)


def color(rng):
    parts = [rng.random() for _ in range(4)]
    if rng.random() < 0.2:
        parts[rng.randrange(4)] = number(rng, 0.3)
    return Color(*parts)


def gradient(rng):
    stops = tuple(
        Stop(color(rng), rng.choice((0.0, 1 / 3, 0.5, 2 / 3, 1.0, rng.random())))
        for _ in range(rng.randint(1, 4))
    )
    kind = rng.choice(("linear", "radial"))
    if kind == "linear" or rng.random() < 0.4:
        return Gradient(kind, stops, number(rng, 0.5))
    center = number(rng, 0.8), number(rng, 0.8)
    radii = (abs(number(rng, 0.8)), abs(number(rng, 0.8))) if rng.random() < 0.5 else None
    return Gradient(kind, stops, center=center, radii=radii)


def word(rng):
    return rng.choice(WORDS)


def content(rng):
    return tuple(
        Run(word(rng) or "w", rng.random() < 0.3, rng.random() < 0.3)
        for _ in range(rng.randint(0, 3))
    )


def shadow(rng):
    token = rng.choice(("", "", "color.t1", "color.t2", "family.t1", word(rng)))
    return Shadow(color(rng), *(number(rng, 0.8) for _ in range(4)), rng.random() < 0.3, token)


def followed(rng):
    """The tokens that a motion may follow, there or not, of its kinds or others."""
    paths = ("duration.t1", "duration.t2", "easing.t1", "color.t1", "gone")
    parts = rng.sample(("duration", "easing", "delay"), rng.randint(0, 3))
    return Map({part: rng.choice(paths) for part in parts})


MODES = ("fit", "grow", "fixed", "percent", "chars", "formula")
FORMULAS = (
    "min(100%, 640px)",
    "clamp(16px, 1.2ch + 1%, 24px)",
    "100% - 2 * 24px",
    "max(10ch, 0)",
    "1e9%",
    "min(",
    "100% * 50%",
    "3 / 0",
    "clamp(1, 2)",
    "(" * 40,
    "calc(1px)",
    "",
)
"""Sums and bounds, and what is none."""
TRACKS = ("fit", "grow", "fixed", "percent") * 5 + ("chars",)


def size(rng, modes=MODES):
    """A size; some of the modes may not be allowed where it goes."""
    mode = rng.choice(modes)
    if mode == "formula":
        return Size("formula", 0.0, rng.choice(FORMULAS))
    return FIT if mode == "fit" else Size(mode, number(rng))


AREAS = ("", "head head / side main", "head . side", "a b / a", "a b / b a", "main")


def usual_or(rng, said, usual):
    """Now and then what was said, else something usual."""
    return said if rng.random() < 0.2 else rng.choice(usual)


def tracks(sizes):
    """The sizes, some as bounds of the next, now and then one as often as there is room.

    Drawn by the sizes themselves: what else a seed gives stays as it was.
    """
    rng = random.Random(repr(sizes))
    found = [
        GridTrack(s.mode, s.amount, "", rng.choice(sizes), rng.choice(("", "", "fit", "fill")))
        if rng.random() < 0.3
        else s
        for s in sizes
    ]
    return tuple(found)


def literal(rng, kind):
    """A value of about this type."""
    name = type(kind).__name__
    if isinstance(kind, NumberType):
        edge = rng.choice((kind.minimum, kind.maximum))
        found = edge if rng.random() < 0.1 else number(rng)
        near = rng.random() < 0.5 and abs(found) < 1e300
        return min(max(found, kind.minimum), kind.maximum) if near else found
    if isinstance(kind, ChoiceType):
        return rng.choice(kind.options)
    return {
        "FlagType": lambda: rng.random() < 0.5,
        "ColorType": lambda: color(rng),
        "FillType": lambda: color(rng) if rng.random() < 0.6 else gradient(rng),
        "SizeType": lambda: size(rng),
        "LimitType": lambda: (
            number(rng)
            if rng.random() < 0.6
            else size(rng, ("percent", "chars", "formula", "grow"))
        ),
        "TracksType": lambda: tracks(tuple(size(rng, TRACKS) for _ in range(rng.randint(0, 5)))),
        "AreasType": lambda: usual_or(rng, word(rng), AREAS),
        "AreaType": lambda: usual_or(rng, word(rng), ("", "head", "side", "auto", "gone")),
        "ContentType": lambda: content(rng),
        "ShadowsType": lambda: tuple(shadow(rng) for _ in range(rng.randint(0, 3))),
        "PictureType": lambda: Picture(word(rng)[:20], number(rng), number(rng)),
        "OnceType": lambda: (Once("open", "yes"),) if rng.random() < 0.7 else (),
        "ChosenType": lambda: rng.choice((word(rng), number(rng), True, content(rng))),
    }.get(name, lambda: word(rng))()


def value(rng, name, document, properties=()):
    """A value for a property: of its type, a reference, a shift; now and then of another."""
    dice = rng.random()
    if dice < 0.08 and document.tokens:
        return Token(rng.choice(sorted(document.tokens)))
    if dice < 0.12 and properties:
        return FromProperty(rng.choice(properties))
    if dice < 0.2:
        try:
            return Shift(rng.choice(("add", "multiply", "darken", "fade")), number(rng, 0.5))
        except ValueError:
            return Shift("add", -3.0)
    if dice < 0.25:
        return literal(rng, rng.choice(list(TABLE.values())).type)
    return literal(rng, row_of(name).type)


def property_name(rng, kind=None):
    names = [n for n, row in TABLE.items() if kind is None or kind in row.kinds]
    return rng.choice(names) if rng.random() < 0.97 else CHOICE + rng.choice(("size", "label"))


def style(rng, kind, document, properties=(), most=4):
    names = sorted({property_name(rng, kind) for _ in range(rng.randint(0, most))} - {"component"})
    return Map({name: value(rng, name, document, properties) for name in names})
