"""Parts by where they stand: those near a height are found without asking all."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import Located

_HIGH = 64.0
_MOST = 4_000
"""Strips that one part is noted in; one that is higher is in all of them."""


class Strips:
    """The parts of a face by strips of 64 px, in the order in which they are painted."""

    def __init__(self, parts: Iterable[Located]) -> None:
        self._by_strip: dict[int, list[tuple[int, Located]]] = {}
        self._everywhere: list[tuple[int, Located]] = []
        for number, part in enumerate(parts):
            first, last = _strip(part.rect.y), _strip(part.rect.bottom)
            if last - first > _MOST:
                self._everywhere.append((number, part))
                continue
            for strip in range(first, last + 1):
                self._by_strip.setdefault(strip, []).append((number, part))

    def beside(self, y: float, before: int) -> Iterator[Located]:
        """The parts that may reach a height (px), of those that are painted before the one of
        this number."""
        noted = self._by_strip.get(_strip(y), [])
        if self._everywhere:
            noted = sorted([*noted, *self._everywhere], key=lambda pair: pair[0])
        for number, part in noted:
            if number >= before:
                return
            yield part

    def above(self, x: float, y: float, after: int) -> bool:
        """Whether a part that is painted after the one of this number reaches a point (px)."""
        noted = [*self._by_strip.get(_strip(y), []), *self._everywhere]
        return any(number > after and part.rect.contains(x, y) for number, part in reversed(noted))

    def around(self, rect: Rect, reach: float) -> list[Located]:
        """The parts that may be within a reach (px) of a rectangle, up and down."""
        first, last = _strip(rect.y - reach), _strip(rect.bottom + reach)
        strips = (self._by_strip.get(strip, []) for strip in range(first, last + 1))
        near = {number: part for strip in strips for number, part in strip}
        near.update(self._everywhere)
        return [near[number] for number in sorted(near)]


def _strip(y: float) -> int:
    return int(y // _HIGH)
