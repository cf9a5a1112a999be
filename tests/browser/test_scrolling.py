"""Boxes that scroll, and what sticks in them, against Chromium at random places. What sticks
inside of what sticks is left out: there it counts the outer's way otherwise."""

import random

import pytest
from immutables import Map

from outgrowth.core.document.values import FIT, GROW, fixed
from outgrowth.core.exchange.web import page
from outgrowth.core.layout.scrolling import reach, scrolled
from tests.fuzz.layout import Judge, rectangles

pytestmark = pytest.mark.browser

_SCROLL = """
const [body, left, top] = arguments;
document.body.innerHTML = body;
const box = document.querySelector("[data-at='0']");
box.scrollTo(left, top);
const found = {};
for (const node of document.querySelectorAll("[data-at]")) {
  const r = node.getBoundingClientRect();
  found[node.dataset.at] = [r.x, r.y, r.width, r.height];
}
return [found, box.scrollWidth, box.scrollHeight];
"""


def piece(rng, depth, may_stick=True):
    style = {
        "width": rng.choice((fixed(float(rng.randint(20, 160))), GROW)),
        "height": fixed(float(rng.randint(10, 70))),
        "margin-top": float(rng.choice((0, 0, 6))),
        "margin-bottom": float(rng.choice((0, 0, 9))),
    }
    sticks = may_stick and rng.random() < 0.4
    if sticks:
        side = rng.choice(("top", "bottom", "left", "right"))
        inset = {"top": "y", "left": "x"}.get(side, side)
        style |= {"sticks": side, inset: float(rng.choice((0, 4)))}
    if depth and rng.random() < 0.5:
        inner = tuple(
            piece(rng, depth - 1, may_stick and not sticks) for _ in range(rng.randint(1, 4))
        )
        flow = {"flow": rng.choice(("row", "column")), "padding-top": 5.0, "height": FIT}
        return "box", style | flow, inner
    return "box", style, ()


def tree(rng):
    inner = tuple(piece(rng, 2) for _ in range(rng.randint(2, 6)))
    style = {
        "flow": rng.choice(("row", "column")),
        "scrolls": rng.choice(("x", "y", "both")),
        "width": fixed(float(rng.randint(60, 200))),
        "height": fixed(float(rng.randint(50, 150))),
        "padding-left": float(rng.choice((0, 8))),
        "padding-bottom": float(rng.choice((0, 8))),
    }
    return "box", {"width": fixed(300.0)}, (("box", style, inner),)


# Source: Debian's Chromium.
def test_what_is_scrolled_and_what_sticks_stand_as_in_chromium(chromium, fonts, tmp_path):
    judge, rng = Judge(chromium, fonts, tmp_path), random.Random(4)
    stuck = 0
    for n in range(150):
        scene, placed = judge.laid(tree(rng))
        body = page(scene, placed, "", Map()).partition("<body>")[2].partition("</body>")[0]
        box, at = scene.children[0], placed.children[0]
        ways = scene.children[0].layout.style.scrolls
        wide, high = reach(box, at)
        left = float(rng.randint(0, int(wide - at.width))) if ways != "y" else 0.0
        top = float(rng.randint(0, int(high - at.height))) if ways != "x" else 0.0
        theirs, scroll_width, scroll_height = chromium.execute_script(_SCROLL, body, left, top)
        if ways != "y":
            assert abs(scroll_width - wide) <= 1, n
        if ways != "x":
            assert abs(scroll_height - high) <= 1, n
        ours = scrolled(box, at, (left, top))
        stuck += ours.ys != at.ys
        for path, rect in rectangles(ours, "0", placed.xs[0], placed.ys[0]):
            assert theirs[path] == pytest.approx(rect, abs=0.1), (n, path, left, top)
    assert stuck > 30
