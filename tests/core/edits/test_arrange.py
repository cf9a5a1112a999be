"""Putting parts into boxes so that nothing moves: 30 placed arrangements, and flowing ones."""

import random

import pytest

from demo.drawing import box
from outgrowth.core.document.records import Screen, find
from outgrowth.core.document.values import Size, fixed
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.tree.arrange import STILL, guess, unwrap, wrap
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.resolver import Resolver

GROW = Size("grow", 1.0)


@pytest.fixture
def where(layout):
    resolver = Resolver()

    def spots(document):
        screen = document.screens["bench"]
        scene = resolver.screen(document, screen)
        found = locate(scene, layout.place(scene.layout), "")
        return {(a.path[-1] if a.path else screen.root.id): a.rect for a in found}

    return spots


def on_bench(ferry, *children, **style):
    root = box("root", *children, **({"flow": "free", "width": 600, "height": 500} | style))
    return add_screen(ferry, Screen("bench", "Bench", root))


def block(name, x, y, w, h):
    return box(name, x=x, y=y, width=w, height=h)


def arrangement(seed):
    """Blocks in a row, a column or anywhere: even or odd gaps, aligned or not."""
    r = random.Random(seed)
    flow = ("row", "column", "free")[seed % 3]
    even, edge = r.random() < 0.5, r.choice(("start", "center", "end", "none"))
    pen, found = r.uniform(0, 60), []
    for n in range(r.randint(2, 5)):
        w, h = r.uniform(10, 80), r.uniform(10, 60)
        across = h if flow == "row" else w
        off = {"start": 0.0, "center": (80 - across) / 2, "end": 80 - across}.get(
            edge, r.uniform(0, 40)
        )
        if flow == "free":
            found.append(block(f"b{n}", r.uniform(0, 90), r.uniform(0, 90), w, h))
            continue
        x, y = (pen, 20 + off) if flow == "row" else (20 + off, pen)
        found.append(block(f"b{n}", x, y, w, h))
        pen += (w if flow == "row" else h) + (8.0 if even else r.uniform(0, 30))
    r.shuffle(found)
    return found


def moved(before, after):
    return max(
        abs(a - b) for i, rect in before.items() for a, b in zip(rect, after[i], strict=True)
    )


@pytest.mark.parametrize("seed", range(30))
def test_nothing_moves_when_placed_parts_are_put_into_a_box(ferry, where, seed):
    children = arrangement(seed)
    document = on_bench(ferry, *children)
    ids = tuple(child.id for child in children)
    wrapped = wrap(document, "bench", ids, "new", where)
    assert moved(where(document), where(wrapped)) <= STILL
    new = find(wrapped.screens["bench"].root, "new")
    assert {child.id for child in new.children} == set(ids)
    if seed % 3 < 2:
        assert new.style["flow"] == ("row", "column")[seed % 3]
        assert new.style.get("width", None) is None, "it fits, so it stays elastic"
    again = unwrap(wrapped, "bench", "new", where)
    assert moved(where(document), where(again)) <= STILL


def test_the_gap_the_alignment_and_odd_margins_are_guessed():
    even = guess({"a": Rect(0, 0, 10, 10), "b": Rect(18, 0, 10, 10), "c": Rect(36, 0, 10, 10)})
    assert even.style == {"flow": "row", "gap": 8.0, "align": "start"}
    assert not any(even.children.values())
    odd = guess({"a": Rect(0, 5, 10, 10), "b": Rect(18, 0, 10, 20), "c": Rect(40, 7.5, 10, 5)})
    assert odd.style == {"flow": "row", "gap": 8.0, "align": "center"}
    assert odd.children["c"] == {"margin-left": 4.0}


@pytest.mark.parametrize(
    "style",
    [
        {"flow": "row", "gap": 8, "align": "stretch"},
        {"flow": "row", "gap": 8, "align": "center", "justify": "end"},
        {"flow": "column", "gap": 5, "padding": (9, 4)},
        {"flow": "row", "justify": "space-between"},
    ],
)
def test_nothing_moves_in_a_flowing_box_either(ferry, where, style):
    children = [box("a", width=30, height=20), box("b", width=GROW, height=40), box("c", width=25)]
    document = on_bench(ferry, *children, **style)
    wrapped = wrap(document, "bench", ("a", "b"), "new", where)
    assert moved(where(document), where(wrapped)) <= STILL


def test_parts_that_cannot_be_put_into_one_box_are_named(ferry, where):
    inner = box("inner", box("deep", width=5, height=5), width=50, height=50)
    document = on_bench(ferry, box("a", width=9), box("b", width=9), inner, flow="row")
    with pytest.raises(Refusal, match="in one box"):
        wrap(document, "bench", ("a", "deep"), "new", where)
    with pytest.raises(Refusal, match="Pick neighbours"):
        wrap(document, "bench", ("a", "inner"), "new", where)
    with pytest.raises(Refusal, match="box inside another"):
        unwrap(document, "bench", "root", where)
    assert fixed(9.0) == find(document.screens["bench"].root, "a").style["width"]
