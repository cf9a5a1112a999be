"""Contents put into documents: what changes, what stays, and that a document comes of it."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from demo import ferry_line
from outgrowth.core.document.records import Component, walk
from outgrowth.core.document.values import is_content, plain, words
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import TextStyle, Typesetter
from outgrowth.core.trials.contents import (
    AS_IS,
    LONG_WORD,
    SHIPPED,
    own,
    text_properties,
    usual_contents,
    with_content,
)
from outgrowth.core.trials.growth import grown, growth
from outgrowth.core.trials.languages import made_up
from tests.fuzz.edits import World

DEMO = ferry_line()
LOOK = TextStyle("Figtree", 16.0, 400.0, 1.4, 0.0, "start")


def words_of(scene):
    own_words = [plain(scene.layout.style.content)] if scene.kind == "text" else []
    return own_words + [w for child in scene.children for w in words_of(child)]


# Source: the table of "Text size in translation", W3C Internationalization (from memory).
@pytest.mark.parametrize(
    ("letters", "least", "most"),
    [(1, 2.0, 3.0), (10, 2.0, 3.0), (11, 1.8, 2.0), (20, 1.8, 2.0), (30, 1.6, 1.8), (50, 1.4, 1.6),
     (70, 1.51, 1.7), (71, 1.3, 1.3), (500, 1.3, 1.3)],
)  # fmt: skip
def test_words_grow_as_the_table_says(letters, least, most):
    assert growth(letters) == (least, most)
    assert len(grown("a" * letters)) == round(letters * most)


@given(st.text(alphabet="abc ÄxyZ", max_size=120))
def test_grown_words_are_as_many_and_begin_as_they_did(text):
    result = grown(text)
    assert len(result.split(" ")) == len(text.split(" "))
    pairs = zip(text.split(" "), result.split(" "), strict=True)
    assert all(after.startswith(before) for before, after in pairs)


def test_numbers_are_not_translated():
    assert grown("12.50") == "12.50" and grown("") == ""


@pytest.mark.parametrize("content", SHIPPED, ids=lambda c: c.id)
def test_every_content_makes_a_document_and_leaves_others_alone(content):
    for owner in DEMO.owners():
        after = with_content(DEMO, owner.id, content)
        if content is AS_IS:
            assert after is DEMO
            continue
        assert loads(dumps(after).encode(), "again") == after
        if not content.everywhere:
            assert all(after.owner(o.id) is o for o in DEMO.owners() if o.id != owner.id)


def test_data_comes_to_what_instances_may_set_and_to_nothing_else():
    long_word = next(c for c in SHIPPED if c.id == "long-word")
    after = with_content(DEMO, "fare-card", long_word).components["fare-card"]
    assert all(plain(p.default) == LONG_WORD for p in text_properties(after))
    assert after.root is DEMO.components["fare-card"].root


def test_a_language_comes_to_the_words_of_all_that_is_held():
    hebrew = next(c for c in SHIPPED if c.id == "hebrew")
    for owner_id in ("fare-card", "navigation", "settings"):
        after = with_content(DEMO, owner_id, hebrew)
        owner = after.owner(owner_id)
        scene = (
            Resolver().variant(after, owner_id, {})
            if isinstance(owner, Component)
            else Resolver().screen(after, owner)
        )
        said = [word for word in words_of(scene) if word.strip()]
        assert said and not any(c.isascii() and c.isalpha() for word in said for c in word), said


SPOKEN = ("german", "polish", "hindi", "thai", "arabic", "hebrew", "japanese", "chinese")
LANGUAGES = [c for c in SHIPPED if c.id in SPOKEN]


@pytest.mark.parametrize("language", LANGUAGES, ids=lambda c: c.id)
def test_words_of_a_language_can_be_read_and_are_about_as_long(language, fonts):
    """What ships has all their letters; numbers stay; the same words are the same each time."""
    for text in ("Book", "Choose a fare", "The sea is calm today, and both ferries run on time."):
        spoken = language.reword(text)
        assert spoken and spoken != text and spoken == language.reword(text)
        assert len(spoken) <= 2 * len(text) + 24
        assert not Typesetter(fonts).set(words(spoken), LOOK, 200.0).lacked
    assert language.reword("10:15") == "10:15"


@given(st.text(alphabet="abcdeo 12ÄxyZ", max_size=80))
def test_the_made_up_language_is_longer_by_two_fifths_and_has_the_same_words(text):
    result = made_up(text)
    letters, after = (sum(c.isalpha() for c in t) for t in (text, result))
    assert after == letters + round(letters * 0.4)
    assert len(result.split(" ")) == len(text.split(" "))
    assert [c for c in result if c.isdigit()] == [c for c in text if c.isdigit()]


def test_the_made_up_language_can_be_read(fonts):
    assert made_up("Choose a fare") == "Çhóóóóśé áá fááré"
    assert not Typesetter(fonts).set(words(made_up("aceilnorsuyzACEILNORSUYZ")), LOOK, 200.0).lacked


def test_pictures_are_tried_only_where_one_is_shown():
    pictured = {c.id for c in usual_contents(DEMO, DEMO.components["island-panel"])}
    assert "wide-picture" in pictured
    assert "wide-picture" not in {c.id for c in usual_contents(DEMO, DEMO.components["button"])}


def test_a_row_comes_by_names_and_ids_whatever_their_letters():
    row = own("Night", {"NAME": "Night ferry", "price": "31", "about": "x" * 50, "nowhere": "-"})
    after = with_content(DEMO, "fare-card", row).components["fare-card"]
    said = {p.id: p.default for p in after.properties}
    assert plain(said["name"]) == "Night ferry" and plain(said["price"]) == "31"
    assert said["icon"] == DEMO.components["fare-card"].property("icon").default


@settings(max_examples=40)
@given(st.integers(0, 2**31))
def test_any_content_comes_to_any_document(seed):
    """On documents of random edits; and what a content is put into twice is no other."""
    world = World(seed, DEMO)
    for step in range(15):
        list(world.step(step))
    chance = random.Random(seed)
    document = world.document
    owner = chance.choice(list(document.owners()))
    content = chance.choice(SHIPPED[1:])
    after = with_content(document, owner.id, content)
    assert loads(dumps(after).encode(), "again") == after
    if content.id in ("none", "long-word", "digits", "no-picture"):
        assert with_content(after, owner.id, content) == after
    kinds = [[n.kind for n in walk(o.root)] for o in (owner, after.owner(owner.id))]
    assert kinds[0] == kinds[1]
    values = [v for n in walk(after.owner(owner.id).root) for v in n.style.values()]
    assert all(plain(v) for v in values if is_content(v))
