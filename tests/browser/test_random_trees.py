"""Random trees over the arrangement properties, laid out by us and by Chromium."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from outgrowth.core.document.values import FIT, Size, fixed
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.scene import Interner, SceneParts
from outgrowth.core.text import Typesetter
from tests.browser.test_rectangles import _READ, rectangles

pytestmark = pytest.mark.browser

intern = Interner()
length = st.integers(0, 60).map(float)
grow = st.integers(1, 3).map(lambda weight: Size("grow", float(weight)))


def own(leaf):
    size = length.map(fixed) if leaf else st.one_of(st.just(FIT), length.map(fixed), grow)
    return st.fixed_dictionaries(
        {
            "width": size,
            "height": size,
            "align-self": st.sampled_from(["auto", "start", "center", "end", "stretch"]),
        },
        optional={
            "margin-left": st.integers(-4, 9).map(float),
            "margin-top": st.integers(-4, 9).map(float),
            "min-width": length,
            "max-width": st.integers(1, 90).map(float),
            "min-height": length,
            "max-height": st.integers(1, 90).map(float),
        },
    )


container = st.fixed_dictionaries(
    {
        "flow": st.sampled_from(["row", "column"]),
        "gap": st.integers(0, 12).map(float),
        "justify": st.sampled_from(
            ["start", "center", "end", "space-between", "space-around", "space-evenly"]
        ),
        "align": st.sampled_from(["start", "center", "end", "stretch"]),
        "padding-left": st.integers(0, 20).map(float),
        "padding-top": st.integers(0, 20).map(float),
    }
)


def trees():
    return st.recursive(
        st.tuples(own(leaf=True), st.just({}), st.just(())),
        lambda inner: st.tuples(
            own(leaf=False), container, st.lists(inner, min_size=1, max_size=4).map(tuple)
        ),
        max_leaves=9,
    )


def scene(tree):
    style, arrangement, children = tree
    inner = tuple(scene(child) for child in children)
    layout = intern.layout("box", style | arrangement, tuple(c.layout for c in inner))
    ids = tuple(str(n) for n in range(len(inner)))
    return intern.scene(SceneParts("box", layout, intern.paint({}), inner, ids, ids))


# Source: Debian's Chromium; it rounds to 1/64 px (references.md: ≤ 0.1 on random trees).
def test_random_trees_agree_with_chromium(chromium, fonts, tmp_path):
    layout = Layout(Typesetter(fonts))
    file = tmp_path / "tree.html"
    differing = []

    @settings(max_examples=150, database=None, suppress_health_check=list(HealthCheck))
    @given(trees(), st.integers(40, 400))
    def compare(tree, width):
        _, arrangement, children = tree
        root = scene(({"width": fixed(float(width))}, arrangement, children))
        placed = layout.place(root.layout)
        file.write_text(page(root, placed, "tree"))
        chromium.get(file.as_uri())
        theirs = chromium.execute_async_script(_READ)
        for at, rect in rectangles(placed):
            if any(abs(a - b) > 0.1 for a, b in zip(rect, theirs[at], strict=True)):
                differing.append((len(str(tree)), at, tuple(rect), theirs[at], tree))
                return

    compare()
    assert not differing, min(differing)[1:]
