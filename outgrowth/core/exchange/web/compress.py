"""From what a style is in each case to the fewest rules that say so.

A *target* gives the style for a set of conditions. Rules are tried in the order in which a style
sheet lets them win: more conditions after fewer, equal counts by a given order. What no single
rule can say (a shadow that two axes make together) gets a rule with the conditions of both; what
is said twice is left out. In the end every case has been compared.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from itertools import combinations

from outgrowth.core.exchange.web.steps import ALWAYS, AxisKey, AxisValues, Conditions

CssValues = Mapping[str, str]
Target = Callable[[AxisValues], CssValues]
RulesByConditions = dict[Conditions, dict[str, str]]
Rank = Callable[[Conditions], tuple[object, ...]]


def fewest_rules(
    target: Target,
    baseline: Target,
    whens: Sequence[Conditions],
    cells: Sequence[dict[AxisKey, str]],
    rank: Rank,
    initial: Callable[[str], str],
) -> RulesByConditions:
    """The rules by their conditions, in the order in which they have to stand.

    target    the whole style where these values hold (none of the others is known to)
    baseline  what there is without any rule of this sheet
    whens     conditions that somebody wrote
    cells     all cases to be right in
    rank      the order of winning; `initial` what a property is that a style does not name
    """
    # Cases in which the same conditions hold are one.
    alike = {frozenset(w for w in whens if w <= frozenset(cell.items())): cell for cell in cells}
    few = list(alike.values())
    targets = [target(cell) for cell in few]
    without = [baseline(cell) for cell in few]
    names = sorted({n for styles in (targets, without) for style in styles for n in style})
    sheet: RulesByConditions = {}
    ordered = sorted({ALWAYS, *whens}, key=rank)
    for name in names:
        try:
            rules = _OneProperty(name, target, ordered, few, rank, initial).found(targets, without)
        except _ByItself:
            # A rule for one case says nothing of those that are like it: each is looked at.
            one = _OneProperty(name, target, ordered, cells, rank, initial, whole=True)
            rules = one.found([target(c) for c in cells], [baseline(c) for c in cells])
        for when, value in rules.items():
            sheet.setdefault(when, {})[name] = value
    return dict(sorted(sheet.items(), key=lambda item: rank(item[0])))


class _ByItself(Exception):
    """A case needs a rule of its own."""


class _OneProperty:
    """The rules of one property. `whole` says that the cells are all there are, so that a rule
    can be about one of them."""

    def __init__(
        self,
        name: str,
        target: Target,
        whens: list[Conditions],
        cells: Sequence[dict[AxisKey, str]],
        rank: Rank,
        initial: Callable[[str], str],
        whole: bool = False,
    ) -> None:
        self._name = name
        self._whole = whole
        self._target = target
        self._whens = whens
        self._cells = [frozenset(cell.items()) for cell in cells]
        self._rank = rank
        self._initial = initial

    def found(
        self, targets: Sequence[CssValues], without: Sequence[CssValues]
    ) -> dict[Conditions, str]:
        """The rules that lead to what is wanted in every cell."""
        name, initial = self._name, self._initial(self._name)
        ends = [style.get(name, initial) for style in targets]
        starts = [style.get(name, initial) for style in without]
        if ends == starts:
            return {}
        if len(set(ends)) == 1:
            return {ALWAYS: ends[0]}
        rules = {ALWAYS: self._value(ALWAYS)}
        while True:
            wrong = self._first_wrong(rules, starts, ends)
            if wrong is None:
                return self._pruned(rules, starts, ends)
            rules[self._repair(wrong, rules, ends[wrong])] = ends[wrong]

    def _value(self, when: Conditions) -> str:
        return self._target(dict(when)).get(self._name, self._initial(self._name))

    def _shown(self, rules: dict[Conditions, str], n: int, start: str) -> str:
        """What the rules come to in a cell."""
        cell = self._cells[n]
        holding = [when for when in rules if when <= cell]
        return rules[max(holding, key=self._rank)] if holding else start

    def _first_wrong(
        self, rules: dict[Conditions, str], starts: Sequence[str], ends: Sequence[str]
    ) -> int | None:
        for n, end in enumerate(ends):
            if self._shown(rules, n, starts[n]) != end:
                return n
        return None

    def _repair(self, n: int, rules: dict[Conditions, str], end: str) -> Conditions:
        """Conditions for a cell that is not right: the fewest of those that hold there, put
        together, that lead to its value; else all that hold."""
        cell = self._cells[n]
        holding = [when for when in self._whens if when and when <= cell]
        for count in (1, 2, 3):
            for some in combinations(holding, count):
                union = frozenset().union(*some)
                if union not in rules and self._value(union) == end:
                    return union
        union = frozenset().union(*holding)
        if union not in rules:
            return union
        if not self._whole:
            raise _ByItself
        return cell

    def _pruned(
        self, rules: dict[Conditions, str], starts: Sequence[str], ends: Sequence[str]
    ) -> dict[Conditions, str]:
        """Without the rules that change nothing, the strongest first."""
        ordered = sorted(rules, key=self._rank)
        for when in (*reversed(ordered), *ordered):
            if when not in rules:
                continue
            fewer = {second: value for second, value in rules.items() if second != when}
            touched = (n for n, cell in enumerate(self._cells) if when <= cell)
            if all(self._shown(fewer, n, starts[n]) == ends[n] for n in touched):
                rules = fewer
        return rules
