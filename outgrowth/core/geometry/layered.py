"""A directed graph laid out in columns, so that few lines cross: each node as many columns from
the first as steps lead to it.

Source of the method: Sugiyama, Tagawa, Toda 1981 (layers, and their order by the middle of what
is beside them); Gansner, Koutsofios, North, Vo 1993 (neighbours that are exchanged while that
takes crossings away).
"""

from __future__ import annotations

from bisect import bisect_right, insort
from collections.abc import Hashable, Iterable, Mapping, Sequence
from itertools import pairwise
from typing import NamedTuple

Line = tuple[Hashable, Hashable]
_SWEEPS = 24


class Spot(NamedTuple):
    """A place among the columns: which one, and how many rows down (1 is a node further)."""

    column: int
    row: float


class Layered(NamedTuple):
    """Where the nodes are, and where the lines pass the columns between their ends."""

    spots: dict[Hashable, Spot]
    passing: dict[Line, tuple[Spot, ...]]


class _Bend(NamedTuple):
    """Where a line passes a column between its ends: a node of the layout alone."""

    line: Line
    column: int


def layered(nodes: Sequence[Hashable], lines: Iterable[Line], first: Iterable[Hashable]) -> Layered:
    """Lays nodes out. `first` stand in the first column, and whatever nothing leads to."""
    those = [line for line in dict.fromkeys(lines) if line[0] != line[1]]
    columns_of = _columns(nodes, those, list(first))
    columns: list[list[Hashable]] = [[] for _ in range(max(columns_of.values(), default=-1) + 1)]
    for node in nodes:
        columns[columns_of[node]].append(node)
    links, bends = _links(those, columns_of, columns)
    beside = _beside(columns, links)
    _order(columns, beside)
    rows = _rows(columns, beside)
    spots = {node: Spot(columns_of[node], rows[node]) for node in nodes}
    passing = {
        line: tuple(Spot(bend.column, rows[bend]) for bend in bends.get(line, ())) for line in those
    }
    return Layered(spots, passing)


def _columns(
    nodes: Sequence[Hashable], lines: Sequence[Line], first: list[Hashable]
) -> dict[Hashable, int]:
    """How many steps lead to each node. What can't be reached begins anew in the first column."""
    ends: dict[Hashable, list[Hashable]] = {}
    for start, end in lines:
        ends.setdefault(start, []).append(end)
    columns: dict[Hashable, int] = {}
    led_to = {end for _, end in lines}
    for root in (*first, *(n for n in nodes if n not in led_to), *nodes):
        if root in columns:
            continue
        columns[root] = 0
        waiting = [root]
        while waiting:
            node = waiting.pop(0)
            for end in ends.get(node, ()):
                if end not in columns:
                    columns[end] = columns[node] + 1
                    waiting.append(end)
    return columns


def _links(
    lines: Sequence[Line], columns_of: Mapping[Hashable, int], columns: list[list[Hashable]]
) -> tuple[list[Line], dict[Line, list[_Bend]]]:
    """The lines cut at each column that they pass, and the bends that cut them."""
    links: list[Line] = []
    bends: dict[Line, list[_Bend]] = {}
    for line in lines:
        start, end = columns_of[line[0]], columns_of[line[1]]
        step = 1 if end > start else -1
        passed = [_Bend(line, column) for column in range(start + step, end, step)]
        for bend in passed:
            columns[bend.column].append(bend)
        bends[line] = passed
        chain: list[Hashable] = [line[0], *passed, line[1]]
        links += pairwise(chain)
    return links, bends


_Beside = dict[Hashable, tuple[list[Hashable], list[Hashable]]]


def _beside(columns: list[list[Hashable]], links: Iterable[Line]) -> _Beside:
    """What each node is tied to in the column before and in that behind."""
    column_of = {node: n for n, column in enumerate(columns) for node in column}
    beside: _Beside = {node: ([], []) for node in column_of}
    for a, b in links:
        left, right = (a, b) if column_of[a] <= column_of[b] else (b, a)
        if column_of[left] != column_of[right]:
            beside[left][1].append(right)
            beside[right][0].append(left)
    return beside


def _order(columns: list[list[Hashable]], beside: _Beside) -> None:
    """Orders each column by the middle of what is beside it, forwards and back; the best order
    that was met stays."""
    best, fewest = [list(column) for column in columns], _crossings(columns, beside)
    for sweep in range(_SWEEPS):
        side = sweep % 2
        order = range(1, len(columns)) if side == 0 else range(len(columns) - 2, -1, -1)
        for n in order:
            other = {node: at for at, node in enumerate(columns[n - 1 if side == 0 else n + 1])}
            now = {node: at for at, node in enumerate(columns[n])}

            middles = {}
            for node in columns[n]:
                tied = [other[each] for each in beside[node][side]]
                middles[node] = sum(tied) / len(tied) if tied else float(now[node])
            columns[n].sort(key=middles.__getitem__)
        _exchange(columns, beside)
        count = _crossings(columns, beside)
        if count < fewest:
            best, fewest = [list(column) for column in columns], count
        if not fewest:
            break
    columns[:] = best


def _exchange(columns: list[list[Hashable]], beside: _Beside) -> None:
    """Exchanges neighbours wherever that takes crossings away."""
    places = [{node: at for at, node in enumerate(column)} for column in columns]
    for n, column in enumerate(columns):
        for at in range(len(column) - 1):
            a, b = column[at], column[at + 1]
            gain = 0
            for side, m in ((0, n - 1), (1, n + 1)):
                if 0 <= m < len(columns):
                    of_a = [places[m][each] for each in beside[a][side]]
                    of_b = [places[m][each] for each in beside[b][side]]
                    gain += sum(x > y for x in of_a for y in of_b)
                    gain -= sum(x < y for x in of_a for y in of_b)
            if gain > 0:
                column[at], column[at + 1] = b, a
                places[n][a], places[n][b] = at + 1, at


def _crossings(columns: list[list[Hashable]], beside: _Beside) -> int:
    """How many links cross between neighbouring columns."""
    count = 0
    for left, right in pairwise(columns):
        places = {node: at for at, node in enumerate(right)}
        passed: list[int] = []
        for node in left:
            ends = sorted(places[each] for each in beside[node][1])
            count += sum(len(passed) - bisect_right(passed, end) for end in ends)
            for end in ends:
                insort(passed, end)
    return count


_BEND_ROOM = 0.34
"""A line that passes needs less room than a node."""


def _rows(columns: list[list[Hashable]], beside: _Beside) -> dict[Hashable, float]:
    """Rows in the order of each column, drawn towards what they are tied to, none on another."""
    rows: dict[Hashable, float] = {}
    for column in columns:
        at = 0.0
        for node in column:
            rows[node] = at
            at += _room(node)
        for node in column:
            rows[node] -= at / 2
    for _ in range(12):
        for column in columns:
            wanted = {}
            for node in column:
                tied = [rows[each] for side in beside[node] for each in side]
                wanted[node] = sum(tied) / len(tied) if tied else rows[node]
            _spread(column, wanted, rows)
    return rows


def _room(node: Hashable) -> float:
    return _BEND_ROOM if isinstance(node, _Bend) else 1.0


def _spread(
    column: Sequence[Hashable], wanted: Mapping[Hashable, float], rows: dict[Hashable, float]
) -> None:
    """As near to the wanted rows as their order and their room allow: those that would touch are
    moved as one, to the middle of what they want (the pool of adjacent violators)."""
    groups: list[tuple[list[Hashable], float]] = []
    for node in column:
        members, first = [node], wanted[node]
        while groups:
            last, at = groups[-1]
            gap = (_room(last[-1]) + _room(members[0])) / 2
            if at + _offsets(last)[-1] + gap <= first:
                break
            groups.pop()
            members = [*last, *members]
            pairs = zip(members, _offsets(members), strict=True)
            first = sum(wanted[member] - shift for member, shift in pairs) / len(members)
        groups.append((members, first))
    for members, first in groups:
        for member, shift in zip(members, _offsets(members), strict=True):
            rows[member] = first + shift


def _offsets(members: Sequence[Hashable]) -> list[float]:
    """How far each stands behind the first where they touch."""
    offsets, at = [0.0], 0.0
    for a, b in pairwise(members):
        at += (_room(a) + _room(b)) / 2
        offsets.append(at)
    return offsets
