"""Parts copied within a file and between files; whole components begun, brought, removed."""

from itertools import count

import pytest
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.records import DesignToken, Document, find, walk
from outgrowth.core.document.values import FromProperty, Token
from outgrowth.core.document.variants import default_variant, variants
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.clipping import bring_component, clipping, look_of, put_down, source_of
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tokens import set_token
from outgrowth.core.edits.tree.owners import (
    DEVICES,
    duplicate_owner,
    new_component,
    new_screen,
    remove_owner,
)
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver


@pytest.fixture
def new_id():
    numbers = count()
    return lambda kind: f"{kind}-new-{next(numbers)}"


NO_FACE = Map()


def labels(component):
    return [n for n in walk(component.root) if n.kind == "text"]


def test_a_copy_in_its_own_component_keeps_the_rules(ferry, new_id):
    button = ferry.components["button"]
    label = labels(button)[0]
    clip = clipping(ferry, "button", (label.id,), default_variant(button))
    after, (copy,) = put_down(ferry, clip, ("button", button.root.id, None), new_id)
    resolver = Resolver()
    for variant in variants(button):
        scene = resolver.variant(after, "button", variant)
        by_id = dict(zip(scene.ids, scene.children, strict=True))
        if label.id in by_id:
            assert by_id[copy].paint == by_id[label.id].paint
            assert by_id[copy].layout is by_id[label.id].layout


def test_a_copy_elsewhere_looks_as_in_the_face_it_came_from(ferry, new_id):
    button = ferry.components["button"]
    label = labels(button)[0]
    quiet = default_variant(button).set("kind", "quiet")
    clip = loads(dumps(clipping(ferry, "button", (label.id,), quiet)).encode(), "clipping")
    screen = ferry.screens["help"]
    after, (copy,) = put_down(ferry, clip, ("help", screen.root.id, 0), new_id)
    node = find(after.screens["help"].root, copy)
    assert not any(isinstance(v, FromProperty) for v in node.style.values())
    resolver = Resolver()
    was = resolver.variant(ferry, "button", quiet)
    scene = resolver.screen(after, after.screens["help"])
    assert scene.children[0].paint == was.children[was.ids.index(label.id)].paint


def test_what_a_part_needs_comes_along_into_another_file(ferry, new_id):
    screen = ferry.screens["desk"]
    whole = tuple(child.id for child in screen.root.children)
    clip = loads(dumps(clipping(ferry, "desk", whole, NO_FACE)).encode(), "clipping")
    assert source_of(clip).id == "desk"
    empty = new_screen(Document("empty"), "here", "Here", (1280, 800), "root")
    after, made = put_down(empty, clip, ("here", "root", None), new_id)
    assert len(made) == len(whole)
    assert set(after.components) == set(clip.components) and clip.tokens
    ours = Resolver().screen(after, after.screens["here"]).children
    theirs = Resolver().screen(ferry, screen).children
    assert [s.paint for s in ours] == [s.paint for s in theirs]
    again, _ = put_down(after, clip, ("here", "root", None), new_id)
    assert again.component_order == after.component_order


def test_a_component_cannot_be_put_into_itself(ferry, new_id):
    holder = next(
        (owner, node)
        for owner in ferry.screens_in_order()
        for node in walk(owner.root)
        if node.style.get("component") == "button"
    )
    clip = clipping(ferry, holder[0].id, (holder[1].id,), NO_FACE)
    with pytest.raises(Refusal, match="cannot contain itself"):
        put_down(ferry, clip, ("button", ferry.components["button"].root.id, None), new_id)


def test_the_look_is_paint_and_type_not_size_and_words(ferry):
    button = ferry.components["button"]
    clip = clipping(ferry, "button", (button.root.id,), default_variant(button))
    look = look_of(clip, ferry.tokens)
    assert "fill" in look and "padding-left" in look
    assert not {"width", "content", "x", "flow", "component"} & set(look)


def test_new_ones_have_names_of_their_own():
    document = new_component(Document("d"), "a", "Part", "r1")
    document = new_component(document, "b", "Part", "r2")
    assert [c.name for c in document.in_order()] == ["Part", "Part 2"]
    for n, device in enumerate(DEVICES):
        document = new_screen(document, f"s{n}", device.name, device[1:], f"sr{n}")
        root = document.screens[f"s{n}"].root
        assert (root.style["width"].amount, root.style["height"].amount) == device[1:]
    with pytest.raises(Refusal, match="10,000"):
        new_screen(document, "x", "X", (0, 10), "xr")


def test_a_component_in_use_is_not_removed(ferry):
    with pytest.raises(Refusal, match=r"is used 32 times, on .*Exchange or remove"):
        remove_owner(ferry, "button")
    copied = duplicate_owner(ferry, "button", "second")
    at = copied.component_order.index("button")
    assert copied.component_order[at + 1] == "second"
    assert remove_owner(copied, "second") == ferry
    assert "desk" not in remove_owner(ferry, "desk").screens


def test_a_component_brought_from_another_file_is_an_ordinary_one(ferry):
    after = bring_component(Document("empty"), ferry, "fare-card", "mine")
    assert after.component_order[-1] == "mine"
    mine = Resolver().variant(after, "mine", default_variant(after.components["mine"]))
    theirs = Resolver().variant(ferry, "fare-card", default_variant(after.components["mine"]))
    assert mine.paint == theirs.paint and mine.layout is not None
    twice = bring_component(after, ferry, "fare-card", "again")
    assert twice.components["again"].name.endswith(" 2")


def test_a_token_with_an_alias_brings_what_it_refers_to(ferry, new_id):
    document = set_token(ferry, "color.alias", DesignToken("color", Token("color.deep")))
    document = set_token(document, "color.deep", DesignToken("color", parse("#102030")))
    root = document.screens["help"].root
    box = next(n for n in walk(root) if n.kind == "box" and n is not root)
    place = Place("help", (box.id,), NO_FACE)
    document = set_properties(document, place, {"fill": Token("color.alias")})
    clip = clipping(document, "help", (box.id,), NO_FACE)
    assert {"color.alias", "color.deep"} <= set(clip.tokens)
