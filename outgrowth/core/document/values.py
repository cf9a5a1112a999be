"""What a style property can hold: a literal, or one of three references that become one.

All of them are small frozen records that compare and hash by value, so that equal choices
of a thousand instances are found to be equal and share one resolved tree.
"""

from __future__ import annotations

from typing import Literal, TypeGuard

import msgspec

from outgrowth.core.color import Color, Gradient
from outgrowth.core.refusal import ValueRefusal, clean, shown_value

LARGEST_NUMBER = 1_000_000.0
"""No number in a document is larger, whatever it measures."""


class Size(msgspec.Struct, frozen=True):
    """How a node gets its width or height, or a grid its columns and rows.

    `amount` is CSS px for fixed, the weight for grow, per cent of what the holder has inside its
    padding for percent, the widths of a "0" in the node's own letters for chars, and unused for
    fit and for a formula, which says `formula` (formulas.py).
    """

    mode: Literal["fixed", "fit", "grow", "percent", "chars", "formula"]
    amount: float = 0.0
    formula: str = ""


class GridTrack(Size, frozen=True):
    """A column or row of a grid that has a least size beside its own, which is its most, or that
    comes as often as there is room for. Without either it is a plain Size.

    least   fixed, percent or fit
    repeat  "fit": as often as it has room, empty ones take none; "fill": empty ones keep theirs
    """

    least: Size | None = None
    repeat: Literal["", "fit", "fill"] = ""

    @property
    def most(self) -> Size:
        """What it is at most."""
        return Size(self.mode, self.amount)


FIT = Size("fit")
GROW = Size("grow", 1.0)
MODES = ("fixed", "fit", "grow", "percent", "chars", "formula")


def fixed(amount: float) -> Size:
    """So many px."""
    return Size("fixed", float(amount))


class Shadow(msgspec.Struct, frozen=True):
    """One shadow; lengths in CSS px, `blur` as in CSS box-shadow (twice the deviation). `token`
    is the colour token that gives the colour; `color` counts where there is none of that name."""

    color: Color
    x: float = 0.0
    y: float = 0.0
    blur: float = 0.0
    spread: float = 0.0
    inner: bool = False
    token: str = ""


class Run(msgspec.Struct, frozen=True):
    """A stretch of text of one appearance."""

    text: str
    bold: bool = False
    italic: bool = False


class Picture(msgspec.Struct, frozen=True):
    """A picture of the file: the digest by which `Document.assets` holds it ("" for none),
    and its own size in px."""

    asset: str
    width: float
    height: float


USUAL = "usual"
"""As a mode: the values that tokens have in none."""

NO_PICTURE = Picture("", 0.0, 0.0)


class Token(msgspec.Struct, frozen=True):
    """A reference to a design token by its dotted path, written `{color.action}`."""

    path: str

    def __post_init__(self) -> None:
        if not isinstance(self.path, str) or not self.path:
            raise ValueRefusal("A reference to a token needs the token's name.")
        if not self.path.isascii():
            msgspec.structs.force_setattr(self, "path", clean(self.path))


class FromProperty(msgspec.Struct, frozen=True):
    """The value that an instance gives the component's property with this id."""

    property: str

    def __post_init__(self) -> None:
        if not isinstance(self.property, str):
            raise ValueRefusal(f"{shown_value(self.property)} is no property of a component.")
        if not self.property.isascii():
            msgspec.structs.force_setattr(self, "property", clean(self.property))


class Shift(msgspec.Struct, frozen=True):
    """A relative change, applied after all plain values.

    add, multiply: numbers. darken, fade: colours, `amount` a share (0.08 is 8 %; a
    negative darken lightens).
    """

    how: Literal["add", "multiply", "darken", "fade"]
    amount: float

    def __post_init__(self) -> None:
        if self.how not in ("add", "multiply", "darken", "fade"):
            raise ValueRefusal(f"{shown_value(self.how)} is no relative change.")
        if isinstance(self.amount, bool) or not isinstance(self.amount, int | float):
            raise ValueRefusal(f"{shown_value(self.amount)} is not a number.")
        if not abs(self.amount) <= LARGEST_NUMBER:  # nor is it, where it is not a number
            raise ValueRefusal(
                f"{shown_value(self.amount)} is out of range: a relative change lies from "
                f"{-LARGEST_NUMBER:g} to {LARGEST_NUMBER:g}."
            )
        msgspec.structs.force_setattr(self, "amount", float(self.amount) + 0.0)


class Once(msgspec.Struct, frozen=True):
    """An axis and one of its values, by their ids: what a box allows one instance only."""

    axis: str
    value: str


Scalar = float | bool | str
Content = tuple[Run, ...]
Shadows = tuple[Shadow, ...]
Onces = tuple[Once, ...]
Limit = float | Size
"""A least or a most size: px, or a Size in per cent or characters."""
Tracks = tuple[Size, ...]
"""The columns or the rows of a grid."""
Literals = Scalar | Color | Gradient | Size | Content | Shadows | Picture | Onces | Tracks
Value = Literals | Token | FromProperty | Shift
Default = Literals | Token | Shift
"""What a component property is where no instance sets it: as it was said where it was opened."""


def is_onces(value: object) -> TypeGuard[Onces]:
    """Whether a value says what a box allows once; nothing at all does too."""
    return isinstance(value, tuple) and all(isinstance(item, Once) for item in value)


def is_content(value: object) -> TypeGuard[Content]:
    """Whether a value is words; nothing at all, which may be another list, is not."""
    return isinstance(value, tuple) and bool(value) and isinstance(value[0], Run)


def is_repeated(size: Size) -> TypeGuard[GridTrack]:
    """Whether a column or row comes as often as there is room for."""
    return isinstance(size, GridTrack) and bool(size.repeat)


def is_tracks(value: object) -> TypeGuard[Tracks]:
    """Whether a value lists a grid's columns or rows; nothing at all does too."""
    return isinstance(value, tuple) and all(isinstance(item, Size) for item in value)


def plain(content: Content) -> str:
    """The characters of a text without its runs' appearance."""
    return "".join(run.text for run in content)


def words(text: str) -> Content:
    """Text of one plain run; no run at all for no text."""
    return (Run(text),) if text else ()
