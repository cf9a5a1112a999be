"""Absurd input is refused with a sentence, or clamped; nothing hangs, nothing breaks."""

import math

import pytest

from demo.drawing import box, text
from outgrowth.core.document.extent import DEEPEST
from outgrowth.core.document.records import Screen
from outgrowth.core.document.values import Size, fixed, words
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.edits.tree.nodes import add_node
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text.fonts import FontBook, FontFile, FontRefusal, FontSource

ROOT = Place("boarding")


@pytest.mark.parametrize(
    ("name", "value"),
    [
        ("gap", math.nan),
        ("gap", math.inf),
        ("gap", -1.0),
        ("gap", 1e9),
        ("width", Size("fixed", -5.0)),
        ("width", Size("fixed", math.nan)),
        ("width", Size("grow", math.inf)),
        ("padding-left", True),
        ("opacity", 1.5),
        ("flow", "diagonal"),
        ("aspect", -2.0),
    ],
)
def test_absurd_values_are_refused_with_a_sentence(ferry, name, value):
    with pytest.raises(Refusal) as caught:
        set_properties(ferry, ROOT, {name: value})
    assert str(caught.value).endswith(".")
    assert ":" in str(caught.value), "it names the property"


def placed(document, layout, screen="deep"):
    scene = Resolver().screen(document, document.screens[screen])
    return layout.place(scene.layout)


def test_a_hundred_levels_are_laid_out_and_two_hundred_are_the_most(ferry, layout):
    inner = box("leaf", width=10, height=10)
    for level in range(100):
        inner = box(f"level-{level}", inner, flow="row", padding=(1, 1))
    document = add_screen(ferry, Screen("deep", "Deep", inner))
    assert placed(document, layout).width == 10 + 2 * 100
    holder = "leaf"
    with pytest.raises(Refusal, match="levels deep"):
        for level in range(DEEPEST):
            new = box(f"more-{level}", width=1, height=1)
            document = add_node(document, "deep", holder, new)
            holder = new.id


def test_a_hundred_thousand_characters_are_set_and_more_are_refused(ferry, layout):
    long = "ferry " * 16_666
    root = box("deep", text("said", long, width=300), flow="column")
    document = add_screen(ferry, Screen("deep", "Deep", root))
    assert placed(document, layout).height > 10_000
    with pytest.raises(Refusal, match="100,000 characters"):
        more = {"content": words(long + "ferry")}
        set_properties(document, Place("deep", ("said",)), more)


def test_limits_that_contradict_each_other_end_in_the_lower_one(ferry, layout):
    root = box("deep", width=50, height=50, min_width=200, max_width=20, flow="row")
    document = add_screen(ferry, Screen("deep", "Deep", root))
    assert placed(document, layout).width == 200
    huge = set_properties(document, Place("deep"), {"width": fixed(1_000_000.0)})
    assert placed(huge, layout).width == 200


def test_an_empty_font_is_named_and_nothing_breaks(tmp_path):
    (tmp_path / "empty.ttf").write_bytes(b"")
    described = FontFile("empty.ttf", "Empty", 400.0)
    source = FontSource("empty", described, (tmp_path / "empty.ttf").read_bytes)
    book = FontBook((source,), ("Empty",))
    with pytest.raises(FontRefusal, match=r"“empty.ttf”"):
        book.primary("Empty", 400.0, False)
