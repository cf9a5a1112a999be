"""What kinds of values can be added up, and how: a number, a colour, a gradient, shadows.

A form turns a value into a fixed count of numbers and back, so that differences of values are
differences of numbers. Colours are four numbers each (mixing.py).
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple, Protocol

from outgrowth.core.color import TRANSPARENT, Color, Gradient, Stop
from outgrowth.core.document.properties import StyleProperty
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import Shadow, Shadows
from outgrowth.core.motion.mixing import CHANNELS, channels
from outgrowth.core.text import Paragraph

_LENGTHS = ("x", "y", "blur", "spread")


class Form(Protocol):
    """How values of one kind are numbers.

    size    how many numbers a value is
    colors  at which of them a colour begins
    """

    @property
    def size(self) -> int: ...
    @property
    def colors(self) -> tuple[int, ...]: ...

    def numbers(self, value: object) -> list[float] | None:
        """The value's numbers; None for one that is not of this form."""
        ...

    def value(self, numbers: Sequence[float], colors: Sequence[Color]) -> object:
        """The value of these numbers, within what is allowed; colours come already mixed."""
        ...


class NumberForm(NamedTuple):
    """A number, kept within its limits when it is drawn."""

    minimum: float = float("-inf")
    maximum: float = float("inf")
    size: int = 1
    colors: tuple[int, ...] = ()

    def numbers(self, value: object) -> list[float] | None:
        return [value] if isinstance(value, float) else None

    def value(self, numbers: Sequence[float], colors: Sequence[Color]) -> object:
        return min(max(numbers[0], self.minimum), self.maximum)


PLACE = NumberForm()
SIZE = NumberForm(0.0)
SHARE = NumberForm(0.0, 1.0)
"""1 for what is there, 0 for what is gone."""


class ColorForm(NamedTuple):
    size: int = CHANNELS
    colors: tuple[int, ...] = (0,)

    def numbers(self, value: object) -> list[float] | None:
        return _of_colors([value]) if isinstance(value, Color) else None

    def value(self, numbers: Sequence[float], colors: Sequence[Color]) -> object:
        return colors[0]


class GradientForm(NamedTuple):
    """Stop by stop; a colour counts as a gradient of that colour alone. Of another kind or
    number of stops it is another form. Source: CSS Images 4, section 8 (interpolation)."""

    model: Gradient

    @property
    def size(self) -> int:
        return (CHANNELS + 1) * len(self.model.stops) + _PLACE_OF_GRADIENT

    @property
    def colors(self) -> tuple[int, ...]:
        return tuple(range(0, CHANNELS * len(self.model.stops), CHANNELS))

    def numbers(self, value: object) -> list[float] | None:
        if isinstance(value, Color):
            value = _spread_over(value, self.model)
        if not isinstance(value, Gradient) or _shape(value) != _shape(self.model):
            return None
        colors = _of_colors([stop.color for stop in value.stops])
        place = value.angle, *value.center, *(value.radii or (0.0, 0.0))
        return [*colors, *[stop.at for stop in value.stops], *place]

    def value(self, numbers: Sequence[float], colors: Sequence[Color]) -> object:
        count = len(self.model.stops)
        places = numbers[CHANNELS * count : -_PLACE_OF_GRADIENT]
        angle, x, y, across, down = numbers[-_PLACE_OF_GRADIENT:]
        radii = None if self.model.radii is None else (max(across, 0.0), max(down, 0.0))
        stops = [
            Stop(color, min(max(placed, 0.0), 1.0))
            for color, placed in zip(colors, places, strict=True)
        ]
        return Gradient(self.model.kind, tuple(stops), angle, (x, y), radii)


_PLACE_OF_GRADIENT = 5
"""Numbers after a gradient's stops: its angle, where it begins, how far it reaches."""


def _shape(gradient: Gradient) -> tuple[str, int, bool]:
    """What two gradients have to have in common to be mixed number by number."""
    return gradient.kind, len(gradient.stops), gradient.radii is None


def _spread_over(color: Color, model: Gradient) -> Gradient:
    clear = color.alpha == 0
    stops = [Stop(s.color.with_alpha(0.0) if clear else color, s.at) for s in model.stops]
    return Gradient(model.kind, tuple(stops), model.angle, model.center, model.radii)


class ShadowsForm(NamedTuple):
    """Pairwise; a missing one is the one it stands against with no colour. Where an outer
    would meet an inner one it is another form. Source: CSS Backgrounds 3, section 6.1
    (interpolation)."""

    model: Shadows

    @property
    def size(self) -> int:
        return (CHANNELS + len(_LENGTHS)) * len(self.model)

    @property
    def colors(self) -> tuple[int, ...]:
        return tuple(range(0, self.size, CHANNELS + len(_LENGTHS)))

    def numbers(self, value: object) -> list[float] | None:
        if not isinstance(value, tuple) or len(value) > len(self.model):
            return None
        padded: Shadows = value + tuple([_faint(s) for s in self.model[len(value) :]])
        if [s.inner for s in padded] != [s.inner for s in self.model]:
            return None
        results: list[float] = []
        for shadow in padded:
            results += _of_colors([shadow.color])
            results += [getattr(shadow, name) for name in _LENGTHS]
        return results

    def value(self, numbers: Sequence[float], colors: Sequence[Color]) -> object:
        step = CHANNELS + len(_LENGTHS)
        results = []
        for n, (color, model) in enumerate(zip(colors, self.model, strict=True)):
            x, y, blur, spread = numbers[n * step + CHANNELS : (n + 1) * step]
            results.append(Shadow(color, x, y, max(blur, 0.0), spread, model.inner))
        return tuple(results)


def _faint(shadow: Shadow) -> Shadow:
    return Shadow(TRANSPARENT, shadow.x, shadow.y, shadow.blur, shadow.spread, shadow.inner)


def _of_colors(colors: list[Color]) -> list[float]:
    return [number for color in colors for number in channels(color)]


class LinesForm(NamedTuple):
    """Where the same words stand in a text: left edge and baseline of every run of letters."""

    model: Paragraph

    @property
    def size(self) -> int:
        return 2 * sum(len(line.runs) for line in self.model.lines)

    @property
    def colors(self) -> tuple[int, ...]:
        return ()

    def numbers(self, value: object) -> list[float] | None:
        if not isinstance(value, Paragraph) or not same_letters(self.model, value):
            return None
        return [n for line in value.lines for x, _ in line.runs for n in (x, line.baseline)]

    def value(self, numbers: Sequence[float], colors: Sequence[Color]) -> object:
        left = iter(numbers)
        lines = []
        for line in self.model.lines:
            runs, baseline = [], line.baseline
            for _, run in line.runs:
                x, baseline = next(left), next(left)
                runs.append((x, run))
            lines.append(line._replace(baseline=baseline, runs=tuple(runs)))
        return self.model._replace(lines=tuple(lines))


def same_letters(paragraph: Paragraph, other: Paragraph) -> bool:
    """Whether two texts have the same letters in the same lines, wherever these stand."""
    if len(paragraph.lines) != len(other.lines):
        return False
    for a, b in zip(paragraph.lines, other.lines, strict=True):
        if a.text != b.text or [run for _, run in a.runs] != [run for _, run in b.runs]:
            return False
    return True


def form_between(row: StyleProperty, before: object, after: object) -> Form | None:
    """The form in which two values of a property of the table can be told apart; None where
    one gives way to the other at once."""
    form: Form | None = None
    if row.mix == "linear" and isinstance(row.type, NumberType):
        form = NumberForm(row.type.minimum, row.type.maximum)
    elif row.mix == "color":
        gradients = [v for v in (after, before) if isinstance(v, Gradient)]
        form = GradientForm(gradients[0]) if gradients else ColorForm()
    elif row.mix == "shadows" and isinstance(before, tuple) and isinstance(after, tuple):
        longer, other = (after, before) if len(after) >= len(before) else (before, after)
        form = ShadowsForm(tuple(longer)) if len(longer) >= len(other) else None
    fits = form is not None and form.numbers(before) is not None
    return form if fits and form is not None and form.numbers(after) is not None else None


def widened(form: Form, after: object) -> tuple[Form, list[int]] | None:
    """The form that takes another value in besides those of this one, and which of the old
    numbers each of the new ones goes on from (-1: none). None where there is none."""
    if isinstance(form, ColorForm) and isinstance(after, Gradient):
        wide = GradientForm(after)
        channels = list(range(CHANNELS)) * len(after.stops)
        return wide, channels + [-1] * (len(after.stops) + 1)
    if isinstance(form, ShadowsForm) and isinstance(after, tuple) and len(after) > len(form.model):
        more = ShadowsForm(form.model + tuple(after[len(form.model) :]))
        if more.numbers(after) is not None:
            return more, [*range(form.size), *[-1] * (more.size - form.size)]
    return None
