"""A colour as the document stores it: sRGB with alpha, written as hex.

Everything a designer may type in CSS Color 4 syntax is understood (coloraide reads what
is not hex) and gamut-mapped to sRGB.
"""

from __future__ import annotations

import re
from functools import lru_cache

import msgspec

from outgrowth.core.refusal import Refusal

_HEX = re.compile(r"#?([0-9a-f]{3}|[0-9a-f]{4}|[0-9a-f]{6}|[0-9a-f]{8})", re.IGNORECASE)

# Letters that a colour in any notation may have.
_LONGEST = 200


class ColorRefusal(Refusal):
    """The text is not a colour; the message is a sentence for the user."""


class Color(msgspec.Struct, frozen=True):
    """Gamma-encoded sRGB components and alpha, each 0 to 1, alpha not premultiplied."""

    red: float
    green: float
    blue: float
    alpha: float = 1.0

    @property
    def hex(self) -> str:
        """`#RRGGBB`, or `#RRGGBBAA` when not opaque; rounded to 8 bits a component."""
        parts = [self.red, self.green, self.blue]
        if round(self.alpha * 255) != 255:
            parts.append(self.alpha)
        return "#" + "".join(f"{round(min(max(p, 0.0), 1.0) * 255):02X}" for p in parts)

    @property
    def rounded(self) -> Color:
        """The colour that its hex says: 8 bits a component, as files and screens hold it."""
        parts = (self.red, self.green, self.blue, self.alpha)
        return Color(*(round(min(max(part, 0.0), 1.0) * 255) / 255 for part in parts))

    def with_alpha(self, alpha: float) -> Color:
        """The same colour, more or less transparent (0 to 1)."""
        return Color(self.red, self.green, self.blue, alpha)


TRANSPARENT = Color(0.0, 0.0, 0.0, 0.0)


@lru_cache(maxsize=4096)
def parse(text: str) -> Color:
    """A colour from hex (the # may be missing) or any CSS Color 4 notation, rounded to the
    8 bits a component that files hold.

    Raises ColorRefusal. Source: CSS Color 4, section 4.
    """
    text = text.strip()
    match = _HEX.fullmatch(text)
    if match:
        return _from_hex(match.group(1))
    if len(text) > _LONGEST:
        raise ColorRefusal(f"“{text[:40]}…” is not a colour: it has {len(text):,} letters.")
    # Here and not above: coloraide takes 0.3 s to import, and a file holds hex only.
    from coloraide import Color as AnyColor

    try:
        mapped = AnyColor(text).convert("srgb").fit()
        red, green, blue = mapped.coords(nans=False)
        return Color(red, green, blue, mapped.alpha(nans=False)).rounded
    except (ValueError, OverflowError) as problem:
        raise ColorRefusal(
            f"“{text}” is not a colour. Write hex like #1F4E5F, a CSS name, or oklch(0.5 0.1 230)."
        ) from problem


def _from_hex(digits: str) -> Color:
    if len(digits) <= 4:
        digits = "".join(d * 2 for d in digits)
    parts = [int(digits[i : i + 2], 16) / 255 for i in range(0, len(digits), 2)]
    return Color(*parts)
