"""Design tokens in and out. Source: Design Tokens Format Module and Color Module 2025.10."""

import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from immutables import Map

from outgrowth.core.color import Color, parse
from outgrowth.core.document.composed import composed
from outgrowth.core.document.records import DesignToken, Document
from outgrowth.core.document.referring import DEEPEST_ALIAS, meaning
from outgrowth.core.document.values import Shadow, Token
from outgrowth.core.edits.tokens import remove_token, remove_tokens, set_tokens
from outgrowth.core.exchange.tokens.read import (
    MOST_UNFOLDED,
    TokenFileRefusal,
    _TokenReader,
    differences,
    read_tokens,
)
from outgrowth.core.exchange.tokens.take_in import take_in
from outgrowth.core.exchange.tokens.write import token_files
from outgrowth.core.refusal import Refusal

TYPE = {
    "type.title.family": DesignToken("family", "Figtree"),
    "type.title.size": DesignToken("dimension", 24.0),
    "type.title.weight": DesignToken("number", 600.0),
    "type.title.line-height": DesignToken("number", 1.2),
    "type.title.spacing": DesignToken("dimension", 0.5),
}


def read(tokens):
    return read_tokens(json.dumps(tokens).encode(), "sea.json")


# Source: the examples of the Format Module's sections 8 and 9, and of the Color Module's 4,
# written as they stand there with names of our own.
EXAMPLES = [
    ("color", {"colorSpace": "srgb", "components": [1, 0, 1], "alpha": 1}, parse("#FF00FF")),
    ("color", {"colorSpace": "srgb", "components": [0.5, 0, 0.25], "alpha": 0.5}, Color(128 / 255, 0.0, 64 / 255, 128 / 255)),
    ("color", {"colorSpace": "hsl", "components": [330, 100, 50]}, parse("#FF0080")),
    ("color", {"colorSpace": "oklch", "components": [0, 0, "none"]}, parse("#000000")),
    ("color", "#17495a", parse("#17495A")),
    ("dimension", {"value": 10, "unit": "px"}, 10.0),
    ("dimension", {"value": 0.5, "unit": "rem"}, 8.0),
    ("duration", {"value": 100, "unit": "ms"}, 100.0),
    ("duration", {"value": 1.5, "unit": "s"}, 1500.0),
    ("fontFamily", ["Figtree", "sans-serif"], "Figtree"),
    ("fontWeight", "semi-bold", 600.0),
    ("fontWeight", 350, 350.0),
    ("number", 2.3, 2.3),
    ("cubicBezier", [0.5, 0, 1, 1], "cubic-bezier(0.5, 0, 1, 1)"),
    ("cubicBezier", [0, 0, 0.58, 1], "ease-out"),
]  # fmt: skip


@pytest.mark.parametrize("kind, said, meant", EXAMPLES)
def test_the_formats_own_examples_are_read(kind, said, meant):
    assert read({"a": {"$type": kind, "$value": said}}).tokens["a"].value == meant


def test_groups_give_types_aliases_point_and_extends_takes_over():
    found = read(
        {
            "base": {
                "$type": "color",
                "sea": {"$value": "#17495A"},
                "$root": {"$value": "#FFFFFF"},
            },
            "action": {"$extends": "{base}", "sea": {"$value": "{base.sea}"}},
            "plain": {"$value": {"$ref": "#/base/sea/$value"}},
        }
    ).tokens
    assert found["action.sea"] == DesignToken("color", Token("base.sea"))
    assert found["plain"].value == Token("base.sea")
    assert found["action"].value == found["base"].value == parse("#FFFFFF")


def test_composite_tokens_are_groups_of_their_members():
    title = {
        "fontFamily": "Figtree",
        "fontSize": {"value": 24, "unit": "px"},
        "fontWeight": 600,
        "lineHeight": 1.2,
        "letterSpacing": {"value": 0.5, "unit": "px"},
    }
    found = read({"type": {"title": {"$type": "typography", "$value": title}}}).tokens
    assert found == TYPE
    assert [c.name for c in composed(found).values()] == ["type"]
    (written,) = token_files(Document("sea", tokens=Map(TYPE))).values()
    assert json.loads(written)["type"]["title"] == {"$type": "typography", "$value": title}


def test_what_has_no_meaning_here_is_named_and_the_rest_is_read():
    found = read({"line": {"$type": "strokeStyle", "$value": "dashed"}, "gap": {"$type": "dimension", "$value": "8px"},
                  "round": {"$type": "color", "$value": "{round}"}})  # fmt: skip
    assert set(found.tokens) == {"gap"}
    assert len(found.left_out) == 2
    assert any("refers to itself" in text for text in found.left_out)


@pytest.mark.parametrize(
    "data", [b"", b"[]", b"{", b"\xff\xfe", b"{}", b"[" * 100_000, b'{"a":' * 5000]
)
def test_a_file_without_tokens_is_refused_in_a_sentence(data):
    with pytest.raises(TokenFileRefusal) as problem:
        read_tokens(data, "sea.json")
    assert str(problem.value).endswith(".")


COLORS = st.builds(Color, *[st.integers(0, 255).map(lambda n: n / 255)] * 4)
NUMBERS = st.integers(-10_000, 10_000).map(lambda n: n / 8)
VALUES = {
    "color": COLORS,
    "dimension": NUMBERS,
    "number": NUMBERS,
    "duration": st.integers(0, 60_000).map(float),
    "easing": st.sampled_from(["ease-out", "linear", "spring(200, 20, 1)", "steps(4)", "cubic-bezier(0.1, 0.2, 0.3, 1)"]),
    "family": st.sampled_from(["Figtree", "Atkinson Hyperlegible Next"]),
    "shadow": st.lists(st.builds(Shadow, COLORS, NUMBERS, NUMBERS, st.integers(0, 40).map(float), NUMBERS, st.booleans()), max_size=3).map(tuple),
}  # fmt: skip


@st.composite
def documents(draw):
    names = draw(
        st.lists(
            st.from_regex(r"[a-z]{1,6}( [a-zé]{1,4})?", fullmatch=True), unique=True, max_size=8
        )
    )
    tokens = {}
    for name in names:
        kind = draw(st.sampled_from(sorted(VALUES)))
        alike = [path for path, token in tokens.items() if token.kind == kind]
        value = (
            Token(draw(st.sampled_from(alike)))
            if alike and draw(st.booleans())
            else draw(VALUES[kind])
        )
        modes = Map({"dark": draw(VALUES[kind])}) if draw(st.booleans()) else Map()
        group = draw(st.sampled_from(["sea.", "sky.deep.", ""]))
        tokens[f"{group}{name}" if group else f"{name}x"] = DesignToken(
            kind, value, draw(st.sampled_from(["", "of the ferry"])), modes
        )
    return Document("sea", tokens=Map(tokens), modes=("dark",))


@settings(deadline=None, max_examples=150)
@given(documents())
def test_what_is_written_reads_back_the_same(document):
    if not document.tokens:
        return
    files = token_files(document)
    empty = Document("sea")
    again = take_in(empty, read_tokens(files["tokens.json"], "a"))
    again = take_in(again, read_tokens(files["tokens.dark.json"], "b"), "dark")
    assert token_files(again) == files
    assert differences(document, read_tokens(files["tokens.json"], "a")) == ((), (), ())
    for path, token in document.tokens.items():
        assert again.tokens[path].value == token.value
        shown = token.modes.get("dark", token.value)
        assert again.tokens[path].modes.get("dark", again.tokens[path].value) == shown


def test_what_a_file_would_change_is_known_before():
    document = Document(
        "sea", tokens=Map({"a": DesignToken("number", 1.0), "b": DesignToken("number", 2.0)})
    )
    found = read({"b": {"$type": "number", "$value": 3}, "c": {"$type": "number", "$value": 4}})
    assert differences(document, found) == (("c",), ("b",), ("a",))
    after = take_in(document, found)
    assert {path: token.value for path, token in after.tokens.items()} == {
        "a": 1.0,
        "b": 3.0,
        "c": 4.0,
    }
    assert set(take_in(document, found, remove_gone=True).tokens) == {"b", "c"}
    assert set(document.tokens) == {"a", "b"}


def test_a_kind_that_is_another_one_is_refused():
    document = Document("sea", tokens=Map({"a": DesignToken("number", 1.0)}))
    with pytest.raises(Refusal, match="number"):
        take_in(document, read({"a": {"$type": "color", "$value": "#FFFFFF"}}))


def test_extensions_of_others_are_kept():
    said = {"a": {"$type": "number", "$value": 4, "$extensions": {"island.tools": {"x": [1]}}}}
    document = take_in(Document("sea"), read(said))
    (written,) = token_files(document).values()
    assert json.loads(written)["a"]["$extensions"] == {"island.tools": {"x": [1]}}


# --- a file from a stranger ----------------------------------------------------------------------


@pytest.mark.parametrize(
    "text, why",
    [
        ('{"a":{"$extends":"{a.b}","b":{"$extends":"{a}"}}}', "takes from itself"),
        ('{"a":{"$extends":"{a}"}}', "takes from itself"),
        ('{"a":{"$extends":"{x}"}}', "is no group"),
        ('{"a":{"$type":"number","$value":1' + "0" * 400 + "}}", "too large"),
        ('{"a":{"$type":"number","$value":1' + "0" * 6000 + "}}", "too large"),
        ('{"a":{"$type":"number","$value":1e999}}', "too large"),
        ('{"a":{"$type":"dimension","$value":{"value":NaN,"unit":"px"}}}', "too large"),
        ('{"a":{"$type":"cubicBezier","$value":[0,1,1e400,0]}}', "too large"),
    ],
)
def test_what_cannot_be_meant_is_one_sentence(text, why):
    with pytest.raises(TokenFileRefusal, match=why):
        read_tokens(text.encode(), "stranger.json")


@pytest.mark.parametrize("groups, width", [(2, 2), (3, 5), (40, 2), (1, 9)])
def test_groups_that_take_from_each_other_in_a_ring_are_told(groups, width):
    file = {
        f"g{n}": {f"x{k}": {"$extends": f"{{g{(n + 1) % groups}}}"} for k in range(width)}
        | {"t": {"$type": "number", "$value": n}}
        for n in range(groups)
    }
    reader = _TokenReader(file)
    reader.read()
    assert reader._unfolded <= MOST_UNFOLDED + 1_000
    assert {f"g{n}.t" for n in range(groups)} & set(reader.tokens)
    assert any("itself" in text or "each other" in text for text in reader.told())


def test_groups_that_double_each_other_are_unfolded_within_a_budget():
    file = {f"g{n}": {f"x{k}": {"$extends": f"{{g{n + 1}}}"} for k in range(2)} for n in range(30)}
    file["g30"] = {"t": {"$type": "number", "$value": 1}}
    reader = _TokenReader(file)
    reader.read()
    assert MOST_UNFOLDED < reader._unfolded <= MOST_UNFOLDED + 1_000
    assert any("each other" in text for text in reader.told())


def chain(length):
    """Tokens of which each refers to the next; the last has the value."""
    tokens = {f"a{n}": {"$type": "number", "$value": f"{{a{n + 1}}}"} for n in range(length - 1)}
    return tokens | {f"a{length - 1}": {"$type": "number", "$value": 1}}


def test_names_that_name_names_are_followed_as_far_as_they_mean_something():
    read = read_tokens(json.dumps(chain(1_000)).encode(), "chain.json")
    # What refers to others through more than this shows its usual value, so it is left out.
    assert len(read.tokens) == DEEPEST_ALIAS
    assert all("more than 32" in text for text in read.left_out[:-1])
    assert read.left_out[-1] == "468 more are left out."
    taken = take_in(Document("Kiosk"), read)
    assert meaning("a968", taken.tokens.get) == 1.0
    with pytest.raises(Refusal, match="more than 32"):
        set_tokens(taken, {"a967": DesignToken("number", Token("a968"))})


def test_taking_in_and_removing_many_is_linear():
    """Counted, not timed: how often a name is looked up for each token."""

    class Counting(str):
        looked = 0

        def __eq__(self, other):
            Counting.looked += 1
            return str.__eq__(self, other)

        __hash__ = str.__hash__

    looked = []
    for count in (200, 400, 800):
        tokens = {Counting(f"g{n}.t"): DesignToken("number", float(n)) for n in range(count)}
        Counting.looked = 0
        document = set_tokens(Document("Kiosk"), tokens)
        remove_tokens(document, list(tokens))
        looked.append(Counting.looked)
    assert looked[2] <= 2.5 * looked[1] + 100 and looked[1] <= 2.5 * looked[0] + 100


@pytest.mark.parametrize("together", [True, False])
def test_tokens_removed_together_leave_what_each_alone_would(ferry, together):
    paths = sorted(ferry.tokens)
    if together:
        assert not remove_tokens(ferry, paths).tokens
    document = ferry
    for path in paths:
        document = remove_token(document, path)
    assert document == remove_tokens(ferry, paths)
