"""What an instance keeps, listed and put back, by example and by random instances."""

import random

import pytest
from immutables import Map

from demo.drawing import box, instance, text
from outgrowth.core.color import parse
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Screen,
    find,
)
from outgrowth.core.document.values import FromProperty, words
from outgrowth.core.edits.at_reach import Reach, kept_values, put_kept_back
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver

RED, SAND = parse("#aa0000"), parse("#ffeecc")
KIND = Axis("kind", "Kind", (AxisValue("main", "Main"), AxisValue("quiet", "Quiet")), "main")


@pytest.fixture
def document():
    """A card of words and a button, twice on a screen."""
    label = ComponentProperty("label", "Label", "text", words("Book"))
    button = Component(
        "button",
        "Button",
        box("button", text("words", FromProperty("label"))),
        (KIND,),
        (),
        (label,),
    )
    title = ComponentProperty("title", "Title", "text", words("Fare"))
    tree = box("card", text("name", FromProperty("title")), instance("go", "button"))
    card = Component("card", "Card", tree, (KIND,), (), (title,))
    document = add_component(add_component(Document("Fares"), button), card)
    hall = box("hall", instance("one", "card"), instance("two", "card"))
    return add_screen(document, Screen("hall", "Hall", hall))


def dressed(document):
    """The first card with words, a choice and looks of its own, in its button too."""
    said = [
        (("one",), {"choice:title": words("With a car")}),
        (("one",), {"fill": SAND, "x": 12.0}),
        (("one",), {"choice:kind": "quiet"}),
        (("one", "name"), {"color": RED}),
        (("one", "go"), {"choice:label": words("Sail")}),
        (("one", "go", "words"), {"font-size": 20.0}),
    ]
    for path, values in said:
        document = set_properties(document, Place("hall", path), values)
    return document


def test_all_that_it_keeps_is_listed_but_where_it_stands(document):
    kept = kept_values(dressed(document), Reach("hall"), ("one",))
    assert [(k.path, k.property, k.kind) for k in kept] == [
        ((), "choice:title", "words"),
        ((), "choice:kind", "choice"),
        ((), "fill", "look"),
        (("go",), "choice:label", "words"),
        (("go", "words"), "font-size", "look"),
        (("name",), "color", "look"),
    ]


def test_what_says_the_same_as_the_component_is_no_difference(document):
    said = set_properties(document, Place("hall", ("one",)), {"choice:title": words("Fare")})
    assert kept_values(said, Reach("hall"), ("one",)) == []


def test_the_looks_are_put_back_and_the_words_stay(document):
    said = dressed(document)
    kept = kept_values(said, Reach("hall"), ("one",))
    looks = [k for k in kept if k.kind == "look"]
    back = put_kept_back(said, Reach("hall"), ("one",), looks)
    left = kept_values(back, Reach("hall"), ("one",))
    assert left == [k for k in kept if k.kind != "look"]
    assert find(back.screens["hall"].root, "one").style["x"] == 12.0, "where it stands stays"


def test_of_an_inner_part_only_its_own_is_listed_and_put_back(document):
    said = dressed(document)
    kept = kept_values(said, Reach("hall"), ("one", "go"))
    assert [(k.path, k.property) for k in kept] == [((), "choice:label"), (("words",), "font-size")]
    back = put_kept_back(said, Reach("hall"), ("one", "go"), kept)
    assert [k.property for k in kept_values(back, Reach("hall"), ("one",))] == [
        "choice:title",
        "choice:kind",
        "fill",
        "color",
    ]


def test_in_a_component_the_rules_of_what_holds_it_are_put_back_within_the_reach(document):
    place = Place("card", ("go",))
    quiet = set_properties(document, place, {"choice:kind": "quiet"}, Map(kind="quiet"))
    narrow, main = Reach("card", Map(kind="quiet")), Reach("card", Map(kind="main"))
    (kept,) = kept_values(quiet, narrow, ("go",))
    assert kept.by_rule and kept.when == Map(kind="quiet")
    assert kept_values(quiet, main, ("go",)) == []
    assert put_kept_back(quiet, narrow, ("go",), [kept]) == document


def test_each_put_back_alone_changes_nothing_else_and_all_leave_the_component_as_it_is(document):
    said = {
        ("one",): ({"fill": RED}, {"choice:title": words("A")}, {"opacity": 0.5}),
        ("one", "name"): ({"color": RED}, {"font-size": 30.0}),
        ("one", "go"): ({"choice:kind": "quiet"}, {"choice:label": words("B")}, {"fill": SAND}),
        ("one", "go", "words"): ({"color": SAND}, {"letter-spacing": 2.0}),
    }
    resolver, reach = Resolver(), Reach("hall")
    bare = resolver.screen(document, document.screens["hall"])
    for seed in range(60):
        chance = random.Random(seed)
        dressed_up = document
        for path, choices in said.items():
            for values in choices:
                if chance.random() < 0.6:
                    dressed_up = set_properties(dressed_up, Place("hall", path), dict(values))
        kept = kept_values(dressed_up, reach, ("one",))
        left = dressed_up
        chance.shuffle(kept)
        for n, value in enumerate(kept):
            left = put_kept_back(left, reach, ("one",), [value])
            assert set(kept_values(left, reach, ("one",))) == set(kept[n + 1 :]), seed
        assert resolver.screen(left, left.screens["hall"]) == bare, seed
