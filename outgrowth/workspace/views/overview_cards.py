"""The overview of components as cards under their folders: every variant of each, small, and
where it lies, in px of the overview.

A card is measured when its component is drawn for the first time; until then it has a size that
is about right, so that the first of several hundred can be seen before the last is laid out.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

from outgrowth.core.document.records import Component
from outgrowth.core.document.variants import Variant, combinations, laid, offered, value_names
from outgrowth.core.geometry import Rect
from outgrowth.workspace.views.library_rows import LibraryRow

GAP = 12.0
MARGIN = 16.0
HEAD = 34.0
"""The height of a folder's heading."""
NAME = 24.0
"""Above the variants, for the name."""
FOOT = 22.0
"""Below them, for what is counted."""
PAD = 10.0
"""Around the variants in their card."""
# Cards are so wide or several times that, so that they stand in columns.
_COLUMN = 100.0
_UNMEASURED = 96.0
# Px that the variants of one card may take; a part of its own width is shown as large as fits.
_WIDEST, _HIGHEST = 3 * _COLUMN + 2 * GAP, 300.0
_BETWEEN = 12.0
# For the words beside rows, and above columns or below variants.
_ASIDE, _SAID = 92.0, 16.0
# What is seen smaller than this can't be told from other parts; then the card grows instead.
_LEAST_ZOOM = 0.3
# A table of variants smaller than this is laid in lines, if that shows them so much larger.
_READ, _WORTH = 0.6, 1.4
# Cards of a line are as high as the highest, but for those that need much less.
_STRETCH = 1.5
_MOST_VARIANTS, _MOST_ACROSS = 400, 40


class CardRoom(NamedTuple):
    """What the variants of one card may take, in px, and what stands around them.

    top, bottom  px above the variants, for the name, and below them
    headings     whether the values that the columns and rows stand for are said
    """

    widest: float = _WIDEST
    highest: float = _HIGHEST
    top: float = NAME
    bottom: float = FOOT
    headings: bool = False


CARD = CardRoom()
PAGE_CARD = CardRoom(640.0, 520.0, 0.0, 0.0, True)
"""That of a page of the documentation."""


class CardHeading(NamedTuple):
    """The values that a column, a row or one variant stands for, and where they are said."""

    text: str
    rect: Rect


class CardVariant(NamedTuple):
    """A variant, and where it is drawn in px of its card."""

    variant: Variant
    rect: Rect


class MeasuredCard(NamedTuple):
    """The variants of a component on its card: how large both are.

    zoom      of all of them, 1 for life size
    hidden    how many more the component has than are drawn
    headings  what its columns and rows stand for, where that is said
    """

    width: float
    height: float
    zoom: float
    variants: tuple[CardVariant, ...]
    hidden: int = 0
    headings: tuple[CardHeading, ...] = ()


UNMEASURED = MeasuredCard(_COLUMN, NAME + _UNMEASURED + FOOT, 1.0, ())


class OverviewCard(NamedTuple):
    """A component in the overview and where its card lies; a folder's heading, with no `owner`.
    `lowered` is how far below the card's own measures its variants stand, in px."""

    row: LibraryRow
    rect: Rect
    measured: MeasuredCard
    lowered: float = 0.0


def measured_card(
    component: Component,
    size: Callable[[Variant], tuple[float, float]],
    room: CardRoom = CARD,
) -> MeasuredCard:
    """A card as wide and high as its variants need; `size` gives that of each in px."""
    columns, rows, hidden = _table(component)
    cells = {
        (down, across): (variant, size(variant))
        for down, across, variant in _offered_cells(component, columns, rows)
    }
    in_line = len(columns) == 1 or len(rows) == 1
    lined_up = _wrapped([cell for _, cell in sorted(cells.items(), key=lambda item: item[0])], room)
    if not in_line:
        as_table, one_by_one = _fit(*_sizes(cells), room), _fit(*_sizes(lined_up), room)
        in_line = as_table < _READ and one_by_one > _WORTH * as_table
    if in_line:
        cells = lined_up
    wide, high = _sizes(cells)
    said = room.headings and len(cells) > 1
    aside = _ASIDE if said and not in_line else 0.0
    zoom = _zoom(wide, high, room._replace(widest=room.widest - aside))
    under = _SAID if said and in_line else 0.0
    lefts, right = _edges(wide, zoom, 0.0)
    tops, bottom = _edges(high, zoom, under)
    above = room.top + PAD + (_SAID if said and not in_line else 0.0)
    least = max(48.0 - bottom - 2 * PAD, 0.0) if not room.headings else 0.0
    above += least / 2
    steps = max(-(-(aside + right + 2 * PAD + GAP) // (_COLUMN + GAP)), 1.0)
    width = steps * (_COLUMN + GAP) - GAP
    shift = aside + (width - aside - right) / 2
    placed = []
    headings = []
    for (down, across), (variant, (w, h)) in cells.items():
        x, y = shift + lefts[across], above + tops[down]
        inner = x + (wide[across] - w) * zoom / 2, y + (high[down] - h) * zoom / 2
        placed.append(CardVariant(variant, Rect(*inner, w * zoom, h * zoom)))
        if said and in_line:
            below = Rect(x, y + high[down] * zoom, wide[across] * zoom, _SAID)
            headings.append(CardHeading(" · ".join(value_names(component, variant)), below))
    if said and not in_line:
        headings += _headings(component, columns, lefts, wide, zoom, shift, above)
        for n in tops:
            beside_row = Rect(shift - _ASIDE, above + tops[n], _ASIDE, high[n] * zoom)
            headings.append(CardHeading(" · ".join(value_names(component, rows[n])), beside_row))
    height = above + bottom + PAD + least / 2 + room.bottom
    return MeasuredCard(width, height, zoom, tuple(placed), hidden, tuple(headings))


def _headings(
    component: Component,
    columns: Sequence[Variant],
    lefts: Mapping[int, float],
    wide: Mapping[int, float],
    zoom: float,
    shift: float,
    above: float,
) -> list[CardHeading]:
    """Above each column the values that it stands for."""
    return [
        CardHeading(
            " · ".join(value_names(component, column)),
            Rect(shift + lefts[n], above - _SAID, wide[n] * zoom, _SAID),
        )
        for n, column in enumerate(columns)
        if n in lefts
    ]


def _table(component: Component) -> tuple[list[Variant], list[Variant], int]:
    """The values of the columns and of the rows, as many as are drawn, and how many variants are
    left out by that."""
    down, across, chips = laid(component)
    columns, rows = list(combinations(across)), list(combinations([*chips, *down]))
    most = max(_MOST_VARIANTS // len(columns), 1)
    hidden = len(columns) * max(len(rows) - most, 0)
    return columns, rows[:most], hidden


def _offered_cells(
    component: Component, columns: Sequence[Variant], rows: Sequence[Variant]
) -> list[tuple[int, int, Variant]]:
    return [
        (down, across, variant)
        for down, row in enumerate(rows)
        for across, column in enumerate(columns)
        if offered(component, variant := row.update(column))
    ]


_Cell = tuple[Variant, tuple[float, float]]


_Cells = dict[tuple[int, int], _Cell]


def _sizes(cells: _Cells) -> tuple[dict[int, float], dict[int, float]]:
    """How wide each column is, and how high each row."""
    wide: dict[int, float] = {}
    high: dict[int, float] = {}
    for (down, across), (_, (width, height)) in cells.items():
        wide[across] = max(wide.get(across, 0.0), width)
        high[down] = max(high.get(down, 0.0), height)
    return wide, high


def _wrapped(cells: list[_Cell], room: CardRoom) -> _Cells:
    """Those of one line, in as many lines as show them largest; in few, where several do."""

    def lines(across: int) -> _Cells:
        return {(n // across, n % across): cell for n, cell in enumerate(cells)}

    options = range(min(len(cells), _MOST_ACROSS), 0, -1)
    best = max(options, key=lambda across: round(_fit(*_sizes(lines(across)), room), 3), default=1)
    return lines(best)


def _fit(wide: Mapping[int, float], high: Mapping[int, float], room: CardRoom) -> float:
    """How large all of them can be shown, at most at life size."""
    across = max(room.widest - 2 * PAD - _BETWEEN * (len(wide) - 1), 1.0)
    down = max(room.highest - _BETWEEN * (len(high) - 1), 1.0)
    return min(across / max(sum(wide.values()), 1.0), down / max(sum(high.values()), 1.0), 1.0)


def _zoom(wide: Mapping[int, float], high: Mapping[int, float], room: CardRoom) -> float:
    fits = _fit(wide, high, room)
    return max(fits, min(_LEAST_ZOOM, room.widest / max([*wide.values(), 1.0])))


def _edges(sizes: Mapping[int, float], zoom: float, under: float) -> tuple[dict[int, float], float]:
    """Where each column (or row) begins, and where the last ends, with `under` px below each."""
    starts, at = {}, 0.0
    for n in sorted(sizes):
        starts[n] = at
        at += sizes[n] * zoom + under + _BETWEEN
    return starts, max(at - _BETWEEN, 0.0)


def laid_cards(
    rows: Sequence[LibraryRow], measured: Callable[[LibraryRow], MeasuredCard], width: float
) -> tuple[list[OverviewCard], float]:
    """Cards from left to right in lines, under the headings of their folders, and the height of
    all of them. One that is wider than the overview is as wide as that."""
    cards: list[OverviewCard] = []
    line: list[OverviewCard] = []
    x, y = MARGIN, MARGIN / 2
    for row in rows:
        card = measured(row) if row.owner else UNMEASURED
        if line and (not row.owner or x + card.width > width - MARGIN):
            cards += _level(line)
            y += max(card.rect.height for card in line) + GAP
            x, line = MARGIN, []
        if row.owner:
            line.append(OverviewCard(row, Rect(x, y, card.width, card.height), card))
            x += card.width + GAP
        else:
            cards.append(OverviewCard(row, Rect(MARGIN, y, width - 2 * MARGIN, HEAD), card))
            y += HEAD
    cards += _level(line)
    return cards, max((card.rect.bottom for card in cards), default=y) + MARGIN


def _level(line: list[OverviewCard]) -> list[OverviewCard]:
    """The cards of a line, all as high as the highest, their variants in the middle."""
    highest = max((card.rect.height for card in line), default=0.0)
    return [
        card._replace(
            rect=card.rect._replace(height=highest), lowered=(highest - card.rect.height) / 2
        )
        if highest <= _STRETCH * card.rect.height
        else card
        for card in line
    ]


def beside(cards: Sequence[OverviewCard], at: int, across: int, down: int) -> int:
    """The card next to one, by its place in the list: along the line, or the nearest in the
    lines above or below."""
    if across:
        steps = range(at + across, len(cards) if across > 0 else -1, across)
        return next((n for n in steps if cards[n].row.owner), at)
    rect = cards[at].rect
    ahead = [
        n
        for n, card in enumerate(cards)
        if card.row.owner and (card.rect.y - rect.y) * down > 1 and card.rect.y != rect.y
    ]
    if not ahead:
        return at
    lines = sorted({cards[n].rect.y for n in ahead}, reverse=down < 0)
    middle = rect.x + rect.width / 2
    in_line = [n for n in ahead if cards[n].rect.y == lines[0]]
    return min(in_line, key=lambda n: abs(cards[n].rect.x + cards[n].rect.width / 2 - middle))
