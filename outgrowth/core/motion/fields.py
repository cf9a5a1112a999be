"""The moving fields of a node: a number, a colour, shadows, a gradient.

A field knows where it is going. When the target changes it begins anew from where it is now,
with its speed where the new motion is a spring; when the target stays, it goes on untouched.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from outgrowth.core.color import TRANSPARENT, Color, Gradient, Stop
from outgrowth.core.document.properties import StyleProperty
from outgrowth.core.document.values import Shadow, Shadows
from outgrowth.core.motion.tracks import Begun, Tracks, Values

_SHADOW_LENGTHS = ("x", "y", "blur", "spread")

Make = Callable[[Values], object]


class Field(NamedTuple):
    """Where it goes, the tracks it takes, and how a value is made of theirs."""

    target: object
    numbers: tuple[int, ...]
    colors: tuple[int, ...]
    make: Callable[[tuple[int, ...], tuple[int, ...]], Make]
    begun: Begun

    def value(self, values: Values) -> object:
        return self.make(self.numbers, self.colors)(values)

    def carried(self, old: Tracks, new: Tracks) -> Field:
        """The same field on another set of tracks."""
        return self._replace(
            numbers=tuple([new.again(old, n) for n in self.numbers]),
            colors=tuple([new.color_again(old, n) for n in self.colors]),
        )


def begin(
    row: StyleProperty | None,
    start: object,
    end: object,
    tracks: Tracks,
    begun: Begun,
    speed: float = 0.0,
) -> Field | None:
    """A field from start to end by its row of the property table (None: a number of the
    layout). None for what is cut, or has no way to go."""
    mixes = "linear" if row is None else row.mix
    if mixes == "linear" and isinstance(start, float) and isinstance(end, float):
        if start == end and speed == 0.0:
            return None
        index = tracks.number(start, end, speed, begun)
        return Field(end, (index,), (), _number, begun)
    if start == end:
        return None
    if mixes == "color" and (isinstance(start, Gradient) or isinstance(end, Gradient)):
        return _gradient(start, end, tracks, begun)
    if mixes == "color" and isinstance(start, Color) and isinstance(end, Color):
        return Field(end, (), (tracks.color(start, end, begun),), _color, begun)
    if mixes == "shadows":
        return _shadows(start, end, tracks, begun)  # type: ignore[arg-type]  # the row says shadows
    return None


def _number(numbers: tuple[int, ...], colors: tuple[int, ...]) -> Make:
    return lambda values: values.number(numbers[0])


def _color(numbers: tuple[int, ...], colors: tuple[int, ...]) -> Make:
    return lambda values: values.color(colors[0])


def _gradient(start: object, end: object, tracks: Tracks, begun: Begun) -> Field | None:
    """Stop by stop; a colour counts as a gradient of that colour alone. Of different kinds
    or numbers of stops the target is cut in. Source: CSS Images 4, section 8 (interpolation).
    """
    one, two = _as_gradient(start, end), _as_gradient(end, start)
    if one is None or two is None or one.kind != two.kind or len(one.stops) != len(two.stops):
        return None
    kind = two.kind
    pairs = list(zip(one.stops, two.stops, strict=True))
    colors = tuple([tracks.color(a.color, b.color, begun) for a, b in pairs])
    places = [tracks.number(a.at, b.at, 0.0, begun) for a, b in pairs]
    angle = tracks.number(one.angle, two.angle, 0.0, begun)

    def make(numbers: tuple[int, ...], colors: tuple[int, ...]) -> Make:
        def gradient(values: Values) -> Gradient:
            stops = zip(colors, numbers[:-1], strict=True)
            mixed = tuple([Stop(values.color(c), values.number(n)) for c, n in stops])
            return Gradient(kind, mixed, values.number(numbers[-1]))

        return gradient

    return Field(end, (*places, angle), colors, make, begun)


def _as_gradient(value: object, like: object) -> Gradient | None:
    if isinstance(value, Gradient):
        return value
    if not isinstance(value, Color) or not isinstance(like, Gradient):
        return None
    clear = value.alpha == 0
    stops = [Stop(s.color.with_alpha(0.0) if clear else value, s.at) for s in like.stops]
    return Gradient(like.kind, tuple(stops), like.angle)


def _shadows(start: Shadows, end: Shadows, tracks: Tracks, begun: Begun) -> Field | None:
    """Pairwise; a missing one is the other with no colour. Where an outer meets an inner
    one, the target's list is cut in. Source: CSS Backgrounds 3, section 6.1 (interpolation).
    """
    pairs = list(zip(_padded(start, end), _padded(end, start), strict=True))
    if any(a.inner != b.inner for a, b in pairs):
        return None
    colors, lengths = [], []
    for a, b in pairs:
        colors.append(tracks.color(a.color, b.color, begun))
        for name in _SHADOW_LENGTHS:
            lengths.append(tracks.number(getattr(a, name), getattr(b, name), 0.0, begun))
    inner = [b.inner for _, b in pairs]

    def make(numbers: tuple[int, ...], colors: tuple[int, ...]) -> Make:
        def shadows(values: Values) -> Shadows:
            made = []
            for n, color in enumerate(colors):
                x, y, blur, spread = (values.number(at) for at in numbers[4 * n : 4 * n + 4])
                made.append(Shadow(values.color(color), x, y, max(blur, 0.0), spread, inner[n]))
            return tuple(made)

        return shadows

    return Field(end, tuple(lengths), tuple(colors), make, begun)


def _padded(shadows: Shadows, other: Shadows) -> Shadows:
    missing = other[len(shadows) :]
    return shadows + tuple(
        Shadow(TRANSPARENT, s.x, s.y, s.blur, s.spread, s.inner) for s in missing
    )
