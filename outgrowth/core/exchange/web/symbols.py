"""Values that remember how CSS says them: a token stays `var(--…)` in the code, and is the plain
value wherever something is worked out with it."""

from __future__ import annotations

from outgrowth.core.color import Color
from outgrowth.core.document.values import Shadow


class CssColor(Color, frozen=True):
    """A colour that CSS says otherwise than by its components."""

    css: str = ""


class CssNumber(float):
    """A number that CSS says otherwise than by its digits: with its unit, and without
    ("" where that cannot be said)."""

    with_px: str
    plain: str

    def __new__(cls, number: float, with_px: str, plain: str) -> CssNumber:
        """A number, and the two ways to say it."""
        made = super().__new__(cls, number)
        made.with_px, made.plain = with_px, plain
        return made


class CssText(str):
    """A text (a family of letters) that CSS says by a name."""

    css: str

    def __new__(cls, text: str, css: str) -> CssText:
        """A text, and how it is said."""
        made = super().__new__(cls, text)
        made.css = css
        return made


class CssShadows(tuple[Shadow, ...]):
    """Shadows that CSS says by one name."""

    css: str

    def __new__(cls, shadows: tuple[Shadow, ...], css: str) -> CssShadows:
        """Shadows, and how they are said."""
        made = super().__new__(cls, shadows)
        made.css = css
        return made


def color_text(color: Color) -> str:
    """A colour in CSS."""
    if isinstance(color, CssColor):
        return color.css
    return "transparent" if color.alpha == 0 else color.hex


def px(number: float) -> str:
    """A length in CSS px."""
    if isinstance(number, CssNumber):
        return number.with_px
    return f"{number:.10g}px" if number else "0px"


_READERS_SIZE = 16.0
"""Px of a text of the usual size. Source: common practice of browsers, no source."""


def rem(number: float) -> str:
    """A length that follows the text size which the reader has chosen; `number` is px at the
    usual one. Source: CSS Values 4, section 6.1.2."""
    if isinstance(number, CssNumber) or not number:
        return px(number)
    return f"{number / _READERS_SIZE:.10g}rem"


USUAL_ZERO = 0.641
"""How wide a "0" is in the letters of which nobody says more, in their own size: what counts
characters and has no letters counts these. Source: the advance in Figtree's table hmtx."""


def zeros(count: float) -> str:
    """So many widths of a "0" of letters of which nobody says more, whatever font is there yet."""
    return f"{count * USUAL_ZERO:.10g}rem"


def number_text(number: float, digits: int = 6) -> str:
    """A number without a unit."""
    if isinstance(number, CssNumber) and number.plain:
        return number.plain
    return f"{float(number):.{digits}g}"
