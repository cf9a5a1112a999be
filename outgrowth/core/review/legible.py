"""A colour that can be read: the nearest token, or else the nearest colour, that has enough
contrast on all that it stands on."""

from __future__ import annotations

from functools import partial

from immutables import Map

from outgrowth.core.color import Color, contrast
from outgrowth.core.color.difference import ciede2000
from outgrowth.core.color.polar import color_of, polar
from outgrowth.core.document.records import Document, Owner, Path
from outgrowth.core.document.referring import color_tokens
from outgrowth.core.document.values import Token, Value
from outgrowth.core.document.variants import Variant
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.core.review.finding import Mend
from outgrowth.core.review.sight import Sight

_STEPS = 100


def legible(
    sight: Sight,
    owner: Owner,
    path: Path,
    variant: Variant | None,
    needed: tuple[tuple[Color, ...], float, float],
    words: bool,
) -> Mend | None:
    """The mend for words (or a mark) that are hard to see; None where no colour at all is
    enough on every ground. `needed` are the grounds, the contrast, and how solid it is drawn. It
    holds where the colour that is too weak was said."""
    document = sight.document
    place = Place(owner.id, path, variant or Map())
    inspection = inspect(document, place)
    if inspection is None:
        return None
    name = "color" if words else "fill"
    ink = inspection.value(name)
    if not isinstance(ink, Color) or (not words and ink.alpha == 0):
        return None
    rungs = reversed(inspection.ladder(name))
    own = (rung.source.when for rung in rungs if rung.wins and rung.source.owner == owner.id)
    reach = next(own, Map())
    value, called = _nearest(document, ink, *needed)
    if value is None:
        return None
    return Mend(f"make it {called}", partial(_colored, place, name, value, reach))


def _colored(
    place: Place, name: str, value: Value, reach: Map[str, str], document: Document
) -> Document:
    return set_properties(document, place, {name: value}, reach)


def _nearest(
    document: Document, ink: Color, grounds: tuple[Color, ...], required: float, solid: float
) -> tuple[Value | None, str]:
    """A token's colour if one is enough, else the colour itself made darker or lighter."""
    by_distance = sorted(
        (ciede2000(color, ink), path)
        for path, color in color_tokens(document).items()
        if color.alpha == 1 and _enough(color.with_alpha(solid), grounds, required)
    )
    if by_distance:
        path = by_distance[0][1]
        return Token(path), path
    tone = polar(ink)
    for step in range(1, _STEPS + 1):
        for light in (tone.light - step / _STEPS, tone.light + step / _STEPS):
            color = color_of(tone._replace(light=light)).rounded
            drawn = color.with_alpha(solid)
            if 0 <= light <= 1 and _enough(drawn, grounds, required):
                return color, color.hex
    return None, ""


def _enough(color: Color, grounds: tuple[Color, ...], required: float) -> bool:
    return all(contrast(color, ground) >= required for ground in grounds)
