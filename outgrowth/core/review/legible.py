"""A colour that can be read: the nearest token, or else the nearest colour, that has enough
contrast on all that it stands on."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import NamedTuple

from immutables import Map

from outgrowth.core.color import Color, contrast
from outgrowth.core.color.difference import ciede2000
from outgrowth.core.color.polar import color_of, polar
from outgrowth.core.document.records import Document, Owner, Path
from outgrowth.core.document.referring import color_tokens
from outgrowth.core.document.values import Token, Value
from outgrowth.core.document.variants import Variant
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.variants.rules import equal_rules, make_one
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.core.review.finding import Mend
from outgrowth.core.review.views import ReviewContext, ViewRenderer

_STEPS = 100
_ROUNDS = 8


class Ground(NamedTuple):
    """What lies behind a part: all colours that it may have there; `home` is the path of the
    part that they come from, `hidden` a picture whose colours nobody can tell."""

    colors: tuple[Color, ...]
    home: Path = ()
    hidden: bool = False


class Poor(NamedTuple):
    """A part that is hard to see in one variant: how much contrast it has at worst, how much it
    needs, what is behind it, and how solid it is drawn."""

    path: Path
    ratio: float
    required: float
    ground: Ground
    solid: float = 1.0
    variant: Variant | None = None


PoorFaces = Callable[[ReviewContext, Owner, str, Path], "list[Poor]"]
"""Where a part is hard to see, the worst first: by the kind of the finding, and its path."""


def legible(
    context: ReviewContext, owner: Owner, kind: str, path: Path, views: PoorFaces
) -> Mend | None:
    """The mend for words (or a mark) that are hard to see; None where no colour at all is
    enough where it is worst. It is put where the colour that is too weak was said; where one
    colour is not enough on all grounds, variants get others, round by round."""
    step = _step(context.document, owner, kind, views(context, owner, kind, path), Map())
    if step is None:
        return None
    change = partial(_made_legible, context.renderer, owner.id, kind, path, views)
    return Mend(f"make it {step[1]}", change)


def _made_legible(
    renderer: ViewRenderer,
    owner_id: str,
    kind: str,
    path: Path,
    views: PoorFaces,
    document: Document,
) -> Document:
    """First one colour where the weak one was said; then, in variants where that is none, another
    for each, with the rules that say the same made one."""
    for number in range(_ROUNDS):
        owner = document.owner(owner_id)
        poor = (
            views(ReviewContext(document, renderer), owner, kind, path) if owner is not None else []
        )
        if owner is None or not poor:
            return document
        before = document
        for group in [poor] if number == 0 else [[view] for view in poor]:
            reach = (group[0].variant or Map()) if number else Map()
            step = _step(document, owner, kind, group, reach)
            document = step[0] if step is not None else document
        if number:
            document = _joined(document, owner_id, kind, path)
        if document is before:
            return document
    return document


def _joined(document: Document, owner_id: str, kind: str, path: Path) -> Document:
    """The document with the rules about a part's colour that say the same made one."""
    while True:
        component = document.components.get(owner_id)
        groups = equal_rules(component) if component is not None else ()
        about = (path, _property(kind))
        mine = [g for g in groups if (g.one.node, g.one.property) == about]
        if not mine:
            return document
        document = make_one(document, owner_id, mine[0])


def _property(kind: str) -> str:
    return "color" if kind == "words-contrast" else "fill"


def _step(
    document: Document, owner: Owner, kind: str, poor: Sequence[Poor], reach: Map[str, str]
) -> tuple[Document, str] | None:
    """One colour put where the weak one was said, or under these conditions, and what it is
    called."""
    if not poor:
        return None
    worst = poor[0]
    place = Place(owner.id, worst.path, worst.variant or Map())
    inspection = inspect(document, place)
    name = _property(kind)
    ink = inspection.value(name) if inspection is not None else None
    if inspection is None or not isinstance(ink, Color) or (name == "fill" and ink.alpha == 0):
        return None
    value, called = _nearest(document, ink, poor)
    if value is None:
        value, called = _nearest(document, ink, [worst])
    if value is None:
        return None
    rungs = reversed(inspection.ladder(name))
    own = (rung.source.when for rung in rungs if rung.wins and rung.source.owner == owner.id)
    reach = reach or next(own, Map())
    return set_properties(document, place, {name: value}, reach), called


def _nearest(document: Document, ink: Color, poor: Sequence[Poor]) -> tuple[Value | None, str]:
    """A token's colour if one is enough, else the colour itself made darker or lighter."""
    by_distance = sorted(
        (ciede2000(color, ink), path)
        for path, color in color_tokens(document).items()
        if color.alpha == 1 and _enough(color, poor)
    )
    if by_distance:
        path = by_distance[0][1]
        return Token(path), path
    tone = polar(ink)
    for step in range(1, _STEPS + 1):
        for light in (tone.light - step / _STEPS, tone.light + step / _STEPS):
            color = color_of(tone._replace(light=light)).rounded
            if 0 <= light <= 1 and _enough(color, poor):
                return color, color.hex
    return None, ""


def _enough(color: Color, poor: Sequence[Poor]) -> bool:
    return all(
        contrast(color.with_alpha(view.solid), ground) >= view.required
        for view in poor
        for ground in view.ground.colors
    )
