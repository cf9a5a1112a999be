"""Words of a whole document, found and replaced."""

import random
import re

import pytest

from outgrowth.core.document.values import Run, plain
from outgrowth.core.edits.words import (
    Search,
    found,
    replace_words,
    replaced,
    spans,
    stated_words,
)
from outgrowth.core.exchange.native import dumps, loads

LETTERS = ["a", "b", " ", "é", "ß", "İ", ".", "(", "字", "\n", "👩‍🚀", "A", "B"]


def a_text(chance, most):
    return "".join(chance.choices(LETTERS, k=chance.randint(0, most)))


def some_content(chance):
    runs = [
        Run(text, chance.random() < 0.5, chance.random() < 0.3)
        for text in (a_text(chance, 6) for _ in range(chance.randint(0, 5)))
        if text
    ]
    return tuple(runs)


def looks(content):
    return [(letter, run.bold, run.italic) for run in content for letter in run.text]


@pytest.mark.parametrize("seed", range(300))
def test_random_words_are_replaced_as_plain_text_would_be_and_keep_their_looks(seed):
    chance = random.Random(seed)
    content = some_content(chance)
    search = Search(a_text(chance, 2), chance.random() < 0.5, chance.random() < 0.3)
    new = a_text(chance, 3)
    after = replaced(content, search, new)
    text = plain(content)
    places = spans(search, text)
    expected, at = "", 0
    for begin, end in places:
        assert search.cased is False or text[begin:end] == search.text
        expected += text[at:begin] + new
        at = end
    expected += text[at:]
    assert plain(after) == expected
    if search.cased and not search.whole and search.text:
        assert expected == text.replace(search.text, new)
    assert all(run.text for run in after)
    kept = looks(content)
    for begin, end in reversed(places):
        kept[begin:end] = [(letter, *kept[begin][1:]) for letter in new]
    assert looks(after) == kept


def test_whole_words_are_no_parts_of_others():
    assert spans(Search("car", whole=True), "car cars scar Car, car.") == [
        (0, 3),
        (14, 17),
        (19, 22),
    ]
    assert spans(Search("(a)", whole=True), "x(a) (a)") == [(5, 8)]
    assert spans(Search("car", cased=True), "Car car") == [(4, 7)]


def test_all_words_of_the_demo_can_be_replaced_and_nothing_else_changes(ferry):
    search = Search("a")
    places = found(ferry, search)
    after = replace_words(ferry, search, "ā", places)
    assert not found(after, Search("a"))
    assert len(list(stated_words(after))) == len(list(stated_words(ferry)))
    assert loads(dumps(after).encode(), "words") == after
    back = replace_words(after, Search("ā", cased=True), "a", found(after, Search("ā", cased=True)))
    small = [re.sub("[aA]", "a", plain(s.content)) for s in stated_words(ferry)]
    assert [plain(s.content) for s in stated_words(back)] == small
    told = {s.owner for s in places}
    assert all(after.owner(o.id) is o for o in ferry.owners() if o.id not in told)


def test_only_what_was_chosen_is_replaced(ferry):
    search = Search("board")
    places = found(ferry, search)
    chosen = places[::2]
    after = replace_words(ferry, search, "Embark", chosen)
    left = found(after, search)
    assert {s.owner for s in places} >= {s.owner for s in left}
    assert not set(left) & set(chosen)
    assert {s for s in places if s not in set(chosen)} == set(left)


def test_what_changed_since_it_was_found_stays(ferry):
    search = Search("board")
    places = found(ferry, search)
    once = replace_words(ferry, search, "Embark", places)
    assert replace_words(once, search, "Step in", places) == once
