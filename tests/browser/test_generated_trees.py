"""Trees of all that the property table lets one say about sizes and places, against Chromium.
bin/fuzz layout makes as many as one likes; those here are always the same."""

import random

import pytest

from outgrowth.core.document.values import FIT, GROW, Size, fixed, words
from tests.fuzz.layout import Judge, tree

pytestmark = pytest.mark.browser


@pytest.fixture
def judge(chromium, fonts, tmp_path):
    return Judge(chromium, fonts, tmp_path)


# Source: Debian's Chromium.
def test_generated_trees_agree_with_chromium(judge):
    differing = [n for n in range(30_000, 30_150) if judge.differences(tree(random.Random(n)))]
    assert not differing, differing


ROUNDED = {3_006, 3_050, 3_055}
"""Trees with a part that fits, has a proportion and stands in a column: a browser takes its width
from a height that it has rounded down to 1/64 px, and then what just fitted does not."""


def test_generated_lines_agree_with_chromium(judge):
    seeds = [n for n in range(3_000, 3_080) if n not in ROUNDED]
    differing = [n for n in seeds if judge.differences(tree(random.Random(n), rich="lines"))]
    assert not differing, differing


def track(rng):
    return rng.choice(
        (FIT, FIT, GROW, Size("grow", 2.0), Size("grow", 0.5), fixed(float(rng.randint(5, 80))),
         Size("percent", float(rng.randint(5, 60))))
    )  # fmt: skip


def cell(rng):
    style = {}
    if rng.random() < 0.4:
        style["column-span"] = float(rng.randint(1, 4))
    if rng.random() < 0.4:
        style["row-span"] = float(rng.randint(1, 3))
    if rng.random() < 0.25:
        style["column-start"] = float(rng.randint(1, 5))
    if rng.random() < 0.25:
        style["row-start"] = float(rng.randint(1, 4))
    for name in ("margin-left", "margin-top", "margin-right", "margin-bottom"):
        if rng.random() < 0.15:
            style[name] = float(rng.randint(-6, 12))
    for name in ("push-left", "push-top", "push-right", "push-bottom"):
        if rng.random() < 0.05:
            style[name] = True
    for name in ("min-width", "min-height", "max-width", "max-height"):
        if rng.random() < 0.1:
            style[name] = float(rng.randint(1, 80))
    if rng.random() < 0.3:
        style["align-self"] = rng.choice(("start", "center", "end", "stretch", "baseline"))
    if rng.random() < 0.5:
        said = rng.choice(("Skerry", "The sea is calm today", "Berth 2, gate B"))
        style |= {"content": words(said), "width": rng.choice((FIT, GROW))}
        return "text", style, ()
    style |= {
        "width": rng.choice((GROW, GROW, fixed(float(rng.randint(5, 120))))),
        "height": rng.choice((GROW, fixed(float(rng.randint(5, 60))))),
    }
    return "box", style, ()


def grid(rng):
    style = {
        "flow": "grid",
        "columns": tuple(track(rng) for _ in range(rng.randint(0, 5))),
        "rows": tuple(track(rng) for _ in range(rng.randint(0, 4))),
        "gap": float(rng.choice((0, 0, 7))),
        "cross-gap": float(rng.choice((0, 0, 5))),
        "width": rng.choice((FIT, FIT, GROW, fixed(float(rng.randint(60, 400))))),
        "height": rng.choice((FIT, FIT, fixed(float(rng.randint(40, 300))))),
        "justify": rng.choice(("start", "center", "end", "space-between", "space-evenly")),
        "align-content": rng.choice(("start", "center", "end", "stretch", "space-around")),
        "justify-items": rng.choice(("start", "center", "end", "stretch")),
        "align": rng.choice(("start", "center", "end", "stretch", "baseline")),
        "mirrored": rng.random() < 0.2,
        "padding-left": float(rng.choice((0, 9))),
        "padding-top": float(rng.choice((0, 4))),
    }
    cells = tuple(cell(rng) for _ in range(rng.randint(1, 9)))
    holder = {"width": fixed(float(rng.randint(80, 500))), "flow": rng.choice(("row", "column"))}
    return "box", holder, (("box", style, cells),)


# Source: Debian's Chromium.
def test_random_grids_agree_with_chromium(judge):
    differing = [n for n in range(150) if judge.differences(grid(random.Random(n)))]
    assert not differing, differing
