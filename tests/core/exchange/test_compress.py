"""Few rules of CSS for all cases, under a cascade that is worked out here once more."""

import itertools
import random

import pytest

from outgrowth.core.exchange.web.compress import fewest_rules

AXES = {"a": ("no", "yes"), "b": ("one", "two", "three"), "c": ("rest", "hover", "press")}


def rank(when):
    return len(when), tuple(sorted(when))


def shown(sheet, cell, below):
    """What a browser makes of the rules: more conditions win, equal counts by their order."""
    style = dict(below)
    for when, css in sorted(sheet.items(), key=lambda item: rank(item[0])):
        if when <= frozenset(cell.items()):
            style |= css
    return style


@pytest.mark.parametrize("seed", range(300))
def test_every_case_comes_to_its_style(seed):
    rng = random.Random(seed)
    axes = {((), name): values for name, values in AXES.items() if rng.random() < 0.8}
    cells = [dict(zip(axes, values, strict=True)) for values in itertools.product(*axes.values())]
    whens = [
        frozenset(
            (k, rng.choice(axes[k])) for k in rng.sample(sorted(axes), rng.randint(0, len(axes)))
        )
        for _ in range(rng.randint(0, 4))
    ]
    rules = [(when, rng.choice(("width", "top")), str(rng.randint(0, 2))) for when in whens]

    def holding(cell):
        return frozenset(when for when in whens if when <= frozenset(cell.items()))

    # What is measured hangs on all conditions together, in no way that one of them says.
    whims = {holding(cell): str(rng.randint(3, 5)) for cell in cells if rng.random() < 0.3}
    usual = {name: values[0] for name, values in axes.items()}

    def target(cell):
        cell = usual | dict(cell)
        style = {"width": whims.get(holding(cell), "0")}
        for when, name, value in sorted(rules, key=lambda rule: rank(rule[0])):
            if when <= frozenset(cell.items()):
                style[name] = value
        return style

    below = {"width": "0"} if rng.random() < 0.5 else {}
    sheet = fewest_rules(target, lambda cell: below, whens, cells, rank, lambda name: "usual")
    for cell in cells:
        wanted = {"top": "usual"} | target(cell)
        assert {"top": "usual", "width": "usual"} | shown(sheet, cell, below) == wanted
