"""The fewest rules that reproduce a table of values over axis combinations.

The cascade lays rules over each other: fewer conditions first, equal counts by the order of
the axes. Whatever the rules leave wrong can be mended by a rule on all axes for that one
cell, so every set of rules has a cost: its size, and the cells it leaves wrong.

For one and two axes the search is exhaustive, hence exact. For more, all sets of one rule
are tried, then of two, and so on, which is exact as well as long as it ends; where there are
too many, the best single step is taken as long as one helps, with a look behind the most
promising steps that do not, from each of the most frequent values as the base.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations, product
from typing import NamedTuple

Combination = tuple[int, ...]
"""For each axis, the index of a value."""

IndexedConditions = tuple[tuple[int, int], ...]
"""Conditions: (axis index, value index), by axis."""

# Two to this power choices of columns are tried, each over all rows: 4,096.
_EXHAUSTIVE_COLUMNS = 12
# The most frequent values that are tried as the base, and the steps that are looked behind.
_BASES = 3
_PROMISING = 24
# Rules that the search through all sets lays before it gives up.
_TRIALS = 40_000


class Found(NamedTuple):
    """A base value and rules over it, as indices of distinct values."""

    base: int
    rules: tuple[tuple[IndexedConditions, int], ...]


class _Table:
    """Cells as bits of an integer: one mask a value, one mask a pattern."""

    def __init__(self, sizes: Sequence[int], values: Mapping[Combination, int]) -> None:
        self.sizes = tuple(sizes)
        self.cells = list(values)
        bit = {cell: 1 << n for n, cell in enumerate(self.cells)}
        self.all = (1 << len(self.cells)) - 1
        self.by_value = [0] * (max(values.values(), default=0) + 1)
        for cell, value in values.items():
            self.by_value[value] |= bit[cell]
        self._bit = bit
        # Every value but the base's needs a rule: nothing can be cheaper than this.
        self.least = sum(cells > 0 for cells in self.by_value) - 1

    def pattern(self, when: IndexedConditions) -> int:
        """The mask of the cells that agree with the conditions."""
        return sum(b for cell, b in self._bit.items() if all(cell[a] == v for a, v in when))

    def majority(self, mask: int) -> tuple[int, int]:
        """The most frequent value of some cells, and how many others there are."""
        counts = [(mask & cells).bit_count() for cells in self.by_value]
        most = max(counts)
        return counts.index(most), mask.bit_count() - most


def fewest_rules(sizes: Sequence[int], values: Mapping[Combination, int]) -> Found:
    """A base and rules that give each combination its value, as few as were found.

    sizes   how many values each axis has
    values  combination → index of its value; combinations left out may become anything
    """
    table = _Table(sizes, values)
    if not table.cells:
        return Found(0, ())
    if len(sizes) == 2 and sizes[1] <= _EXHAUSTIVE_COLUMNS:
        return _two_axes(table)
    return _searched(table)


# --- two axes: every choice of ruled columns ------------------------------------------------


def _two_axes(table: _Table) -> Found:
    """For a set of columns with a rule of their own, rows are independent of each other."""
    rows = [table.pattern(((0, v),)) for v in range(table.sizes[0])]
    columns = [table.pattern(((1, v),)) for v in range(table.sizes[1])]
    best: tuple[int, tuple[int, ...], int] | None = None
    for chosen in product((0, 1), repeat=len(columns)):
        ruled = [c for c, on in zip(columns, chosen, strict=True) if on]
        cost = sum(1 + table.majority(c)[1] for c in ruled if c)
        # Masks of columns share no cell, so their sum is their union.
        left = table.all & ~sum(ruled)
        for base in range(len(table.by_value)):
            total = cost + sum(_row_cost(table, row & left, base) for row in rows)
            if best is None or total < best[0]:
                best = total, chosen, base
    assert best is not None
    return _written_two(table, rows, columns, best)


def _row_cost(table: _Table, mask: int, base: int) -> int:
    """The cheaper of leaving the cells to the base and giving them a rule."""
    return min((mask & ~table.by_value[base]).bit_count(), 1 + table.majority(mask)[1])


def _written_two(
    table: _Table,
    rows: list[int],
    columns: list[int],
    best: tuple[int, tuple[int, ...], int],
) -> Found:
    _, chosen, base = best
    rules: list[tuple[IndexedConditions, int]] = []
    left = table.all
    for v, (column, on) in enumerate(zip(columns, chosen, strict=True)):
        if on and column:
            rules += _rule(table, ((1, v),), column)
            left &= ~column
    for v, row in enumerate(rows):
        cells = row & left
        if 1 + table.majority(cells)[1] < (cells & ~table.by_value[base]).bit_count():
            rules += _rule(table, ((0, v),), cells)
            left &= ~cells
    rules += _single_cells(table, left & ~table.by_value[base])
    return Found(base, tuple(rules))


def _rule(
    table: _Table, when: IndexedConditions, cells: int
) -> list[tuple[IndexedConditions, int]]:
    """A rule for the most frequent value of the cells, and one for each that differs."""
    value = table.majority(cells)[0]
    return [(when, value), *_single_cells(table, cells & ~table.by_value[value])]


# --- any number of axes: greedy steps and a look ahead --------------------------------------


class _Rule(NamedTuple):
    when: IndexedConditions
    cells: int
    value: int

    @property
    def strength(self) -> tuple[int, tuple[int, ...]]:
        """Its place in the cascade, later ones being stronger."""
        return len(self.when), tuple(axis for axis, _ in self.when)


class _Plan(NamedTuple):
    """A base and rules, weakest first, and what they cost with a rule on each wrong cell."""

    base: int
    rules: tuple[_Rule, ...]
    cost: int


def _searched(table: _Table) -> Found:
    every = _EverySet(table)
    best = every.fewest(table.least)
    if best is not None:
        return best
    plan = _stepwise(table)
    wrong = table.all & ~_right(table, plan.base, plan.rules)
    rules = tuple((rule.when, rule.value) for rule in plan.rules)
    return Found(plan.base, rules + tuple(_single_cells(table, wrong)))


def _stepwise(table: _Table) -> _Plan:
    """The best plan found by single steps."""
    candidates = list(_candidates(table))
    # A base that is rare needs a rule for each of the frequent values: not worth a search.
    counts = [cells.bit_count() for cells in table.by_value]
    bases = sorted(range(len(counts)), key=lambda v: -counts[v])[:_BASES]
    best = _plan(table, bases[0], ())
    for base in bases:
        plan = _improved(table, _plan(table, base, ()), candidates)
        best = min(best, plan, key=lambda p: p.cost)
        if best.cost <= table.least:
            break
    return best


class _EverySet:
    """Tries all sets of a number of rules, the strongest rule first.

    What a rule covers that no stronger one does, it decides for good. So it has to be right
    there, which leaves it one value, and leaves most sets out.
    """

    def __init__(self, table: _Table) -> None:
        self._table = table
        self._trials = _TRIALS
        axes = len(table.sizes)
        groups = [g for n in range(axes, 0, -1) for g in combinations(range(axes), n)]
        groups.sort(key=lambda group: (len(group), group), reverse=True)
        whens = [
            tuple(zip(group, values, strict=True))
            for group in groups
            for values in product(*(range(table.sizes[a]) for a in group))
        ]
        self._patterns = [(when, cells) for when in whens if (cells := table.pattern(when))]

    def fewest(self, least: int) -> Found | None:
        """The smallest set, of `least` rules or more; None if the trials ran out."""
        for count in range(least, len(self._patterns) + 1):
            for base, cells in enumerate(self._table.by_value):
                rules = self._tried(0, self._table.all, count, base) if cells else None
                if rules is not None:
                    return Found(base, tuple(reversed(rules)))
            if self._trials <= 0:
                return None
        return None

    def _tried(
        self, start: int, left: int, count: int, base: int
    ) -> tuple[tuple[IndexedConditions, int], ...] | None:
        """At most `count` rules, from the pattern at `start` on, that together with the base
        give the cells that are left their values."""
        values = self._table.by_value
        wrong = left & ~values[base]
        if not wrong:
            return ()
        # Each value that is still missing takes a rule of its own at least.
        if count < sum(1 for cells in values if cells & wrong):
            return None
        for number in range(start, len(self._patterns)):
            when, pattern = self._patterns[number]
            covered = pattern & left
            if not covered or (count == 1 and wrong & ~covered):
                continue
            # No stronger rule covers these cells, so they must all have one value.
            value = next(v for v, cells in enumerate(values) if cells & covered)
            if covered & ~values[value]:
                continue
            self._trials -= 1
            rest = self._tried(number + 1, left & ~covered, count - 1, base)
            if rest is not None:
                return ((when, value), *rest)
            if self._trials <= 0:
                return None
        return None


def _candidates(table: _Table) -> Iterator[_Rule]:
    """Every rule worth a thought: on at least two cells, with a value that one of them has."""
    axes = range(len(table.sizes))
    for count in range(1, len(table.sizes)):
        for group in combinations(axes, count):
            for values in product(*(range(table.sizes[a]) for a in group)):
                when = tuple(zip(group, values, strict=True))
                cells = table.pattern(when)
                # One bit or none: a rule on one cell is what mending costs anyway.
                if not cells & (cells - 1):
                    continue
                for value, having in enumerate(table.by_value):
                    if cells & having:
                        yield _Rule(when, cells, value)


def _right(table: _Table, base: int, rules: Sequence[_Rule]) -> int:
    """The cells that get their value; `rules` are weakest first."""
    open_cells, right = table.all, 0
    for rule in reversed(rules):
        right |= rule.cells & open_cells & table.by_value[rule.value]
        open_cells &= ~rule.cells
    return right | (open_cells & table.by_value[base])


def _plan(table: _Table, base: int, rules: tuple[_Rule, ...]) -> _Plan:
    wrong = len(table.cells) - _right(table, base, rules).bit_count()
    return _Plan(base, rules, len(rules) + wrong)


def _with(table: _Table, plan: _Plan, rule: _Rule) -> _Plan:
    """The plan with a rule set; one on the same cells is replaced."""
    rules = [r for r in plan.rules if r.when != rule.when]
    return _plan(table, plan.base, tuple(sorted([*rules, rule], key=lambda added: added.strength)))


def _without(table: _Table, plan: _Plan, rule: _Rule) -> _Plan:
    return _plan(table, plan.base, tuple(r for r in plan.rules if r is not rule))


def _improved(table: _Table, plan: _Plan, candidates: list[_Rule]) -> _Plan:
    """Takes the best single step as long as one helps; then looks two steps ahead, and at
    what comes of leaving one rule out."""
    while True:
        plan = _descended(table, plan, candidates)
        if plan.cost <= table.least:
            return plan
        further = _looked_ahead(table, plan, candidates)
        if further.cost >= plan.cost:
            return plan
        plan = further


def _descended(table: _Table, plan: _Plan, candidates: list[_Rule]) -> _Plan:
    while plan.cost > table.least:
        steps = [_with(table, plan, rule) for rule in candidates]
        steps += [_without(table, plan, rule) for rule in plan.rules]
        best = min(steps, key=lambda step: step.cost, default=plan)
        if best.cost >= plan.cost:
            return plan
        plan = best
    return plan


def _looked_ahead(table: _Table, plan: _Plan, candidates: list[_Rule]) -> _Plan:
    """The first better plan found behind a step that does not help by itself."""
    steps = [_with(table, plan, rule) for rule in candidates]
    promising = sorted(steps, key=lambda step: step.cost)[:_PROMISING]
    promising += [_without(table, plan, rule) for rule in plan.rules]
    for first in promising:
        further = _descended(table, first, candidates)
        if further.cost < plan.cost:
            return further
    return plan


def _single_cells(table: _Table, mask: int) -> Iterator[tuple[IndexedConditions, int]]:
    """A rule on all axes for each cell of the mask."""
    for n, cell in enumerate(table.cells):
        if mask >> n & 1:
            value = next(v for v, cells in enumerate(table.by_value) if cells >> n & 1)
            yield tuple(enumerate(cell)), value
