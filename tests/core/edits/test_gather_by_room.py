"""Drawings of one part in rooms of several widths, gathered into a component that its room sets."""

import random

import msgspec
import pytest
from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Component, Document, Node, Screen
from outgrowth.core.document.rooms import room_axes, room_text
from outgrowth.core.document.values import FIT, GROW, Size, fixed, words
from outgrowth.core.edits.gather import GatheredDrawing, gather, gathered
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.layout import Layout
from outgrowth.core.paint import draw, record
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter
from tests.fuzz.web import Maker


def card(name, wide, **style):
    text = Node(f"{name}-t", "title", "text", Map({"content": words("Skerry"), "width": GROW}))
    said = {"width": fixed(wide), "padding-left": wide / 20, "flow": "row"} | style
    return Node(name, f"Card/{name}", "box", Map(said), (text,))


def document(*cards):
    root = Node("root", "root", "box", Map({"width": fixed(2000.0), "gap": 10.0}), cards)
    return add_screen(Document("sea"), Screen("page", "Page", root))


def drawn(found):
    return [GatheredDrawing(n.name, n, "page") for n in found.screens["page"].root.children]


CARDS = (card("narrow", 240.0, flow="column"), card("usual", 400.0), card("wide", 800.0))


def test_what_each_was_drawn_in_is_where_its_value_begins():
    report = gather(document(*CARDS), drawn(document(*CARDS)), "card")
    (axis,) = room_axes(report.component)
    assert (report.differences, report.conflicts, report.not_by_room) == ((), (), "")
    told = "Room by its width: narrow below 400 px, usual from 400 px, wide from 800 px."
    assert room_text(axis) == told


def test_nothing_is_seen_of_it_and_each_instance_keeps_its_width(fonts):
    before = document(*CARDS)
    after = gathered(before, gather(before, drawn(before), "card"))
    layout = Layout(Typesetter(fonts))

    def picture(of):
        return record(draw(*layout.view(Resolver().screen(of, of.screens["page"]))))

    assert picture(after) == picture(before)
    narrow, usual, wide = after.screens["page"].root.children
    assert [n.style["width"] for n in (narrow, usual, wide)] == [
        fixed(w) for w in (240.0, 400.0, 800.0)
    ]
    assert not [name for n in (narrow, usual, wide) for name in n.style if name.startswith(CHOICE)]
    assert after.components["card"].root.style["width"] == GROW


def test_instances_of_whole_components_keep_the_width_that_these_had():
    found = Document("sea")
    for root in CARDS:
        found = add_component(found, Component(root.id, root.name, root))
    used = Node("use", "use", "instance", Map({"component": "wide"}))
    found = add_screen(found, Screen("page", "Page", Node("root", "root", "box", Map(), (used,))))
    drawings = [GatheredDrawing(c.name, c.root, c.id) for c in found.in_order()]
    after = gathered(found, gather(found, drawings, "card"))
    (instance,) = after.screens["page"].root.children
    assert (instance.style["component"], instance.style["width"]) == ("card", fixed(800.0))


@pytest.mark.parametrize(
    ("cards", "why"),
    [
        ((card("narrow", 240.0), card("wide", 240.0)), "is drawn as wide as"),
        ((card("narrow", 240.0), card("wide", 800.0, width=GROW)), "has no width of its own"),
        (
            (card("narrow", 240.0), card("wide", 800.0, **{"max-width": Size("percent", 50.0)})),
            "has no width of its own",
        ),
        ((card("narrow", 240.0), card("wide", 800.0, **{"max-width": 240.0})), "is drawn as wide"),
        (
            (card("narrow", 240.0), card("wide", 800.0, height=fixed(90.0))),
            "can't depend on",
        ),
    ],
)  # fmt: skip
def test_what_no_room_can_tell_apart_is_chosen_by_hand_and_the_reason_told(cards, why):
    found = document(*cards)
    report = gather(found, drawn(found), "card", drivers=("room",))
    assert why in report.not_by_room
    assert not room_axes(report.component)
    assert report.differences == ()


def test_letters_that_grow_in_what_fits_are_a_conflict():
    cards = [card(name, 240.0, width=FIT) for name in ("first", "second")]
    grown = []
    for root in cards:
        text = root.children[0]
        text = msgspec.structs.replace(text, style=text.style.set("fluid-size", 40.0))
        grown.append(msgspec.structs.replace(root, children=(text,)))
    found = document(*grown)
    report = gather(found, drawn(found), "card")
    (told,) = report.conflicts
    assert report.component is None and "is as wide as what is in it" in told


def test_words_that_are_no_rooms_are_chosen_unless_the_room_is_asked_for():
    found = document(card("first", 240.0), card("second", 480.0))
    assert not room_axes(gather(found, drawn(found), "card").component)
    asked = gather(found, drawn(found), "card", drivers=("room",))
    assert [v.least for v in room_axes(asked.component)[0].values] == [0.0, 480.0]


def _random_drawings(rng):
    """Three drawings that began as one, each in its own width, differing in places."""
    maker = Maker(rng)
    first = maker.tree(())
    names = ("narrow", "usual", "wide")

    def other(node, name, wide=0.0):
        style = node.style
        for said_name, held in [maker.said_of(node)] if rng.random() < 0.3 else []:
            style = style.set(said_name, held)
        if wide:
            style = style.set("width", fixed(wide))
        called = f"Card/{name}" if wide else node.name
        inside = tuple(other(child, name) for child in node.children)
        return Node(f"{name}-{node.id}", called, node.kind, style, inside)

    widths = rng.sample(range(40, 900), 3)
    return [other(first, name, float(wide)) for name, wide in zip(names, widths, strict=True)]


@pytest.mark.parametrize("seed", range(100))
def test_random_drawings_look_as_before_and_keep_their_widths(fonts, seed):
    before = document(*_random_drawings(random.Random(f"by room {seed}")))
    report = gather(before, drawn(before), "card", drivers=("room",))
    assert bool(room_axes(report.component)) == (not report.not_by_room)
    after = gathered(before, report)
    layout = Layout(Typesetter(fonts))

    def picture(of):
        return record(draw(*layout.view(Resolver().screen(of, of.screens["page"]))))

    if not report.letters_grow_anew:
        assert picture(after) == picture(before)
    roots = before.screens["page"].root.children
    instances = after.screens["page"].root.children
    if room_axes(report.component):
        assert [n.style["width"] for n in instances] == [n.style["width"] for n in roots]
