"""Tokens in order and in groups, ramps, the scheme of names, and the colours that stand on each
other."""

import math

import coloraide
import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as some
from immutables import Map

from demo import ferry_line
from demo.drawing import box, text
from outgrowth.core.color import Color, contrast, parse
from outgrowth.core.document.color_pairs import color_pairs, pair_contrast
from outgrowth.core.document.records import Component, DesignToken, Document, Rule
from outgrowth.core.document.values import Token
from outgrowth.core.edits.token_sets import (
    RAMP,
    add_ramp,
    in_order,
    move_to_group,
    move_token,
    off_scheme,
    ramp,
)
from outgrowth.core.edits.tokens import set_tokens, token_uses
from outgrowth.core.edits.tree.components import add_component
from outgrowth.core.exchange import native
from outgrowth.core.refusal import Refusal

DEMO = ferry_line()
COLORS = [p for p, t in DEMO.tokens.items() if t.kind == "color"]


@given(some.lists(some.tuples(some.sampled_from(COLORS), some.sampled_from(["", *COLORS]))))
def test_tokens_stand_where_they_were_put(moves):
    document, wanted = DEMO, in_order(DEMO.tokens, COLORS)
    assert wanted == sorted(COLORS), "by name until somebody puts them"
    for path, after in moves:
        if path == after:
            continue
        document = move_token(document, path, after)
        wanted.remove(path)
        wanted.insert(wanted.index(after) + 1 if after else 0, path)
    assert in_order(document.tokens, COLORS) == wanted
    again = native.loads(native.dumps(document).encode(), "x")
    assert in_order(again.tokens, COLORS) == wanted
    for path in COLORS:
        assert document.tokens[path].value == DEMO.tokens[path].value


def test_what_is_no_token_or_of_another_kind_is_refused():
    document = set_tokens(DEMO, {"space.1": DesignToken("dimension", 4.0)})
    for path, after in (("gone", ""), ("color.sea", "gone"), ("color.sea", "space.1")):
        with pytest.raises(Refusal):
            move_token(document, path, after)
    with pytest.raises(Refusal):
        ramp(document, "space.1")
    with pytest.raises(Refusal):
        add_ramp(add_ramp(document, "color.sea"), "color.sea")


def test_a_token_goes_to_another_group_and_all_follow():
    uses = len(token_uses(DEMO, "color.sea"))
    moved = move_to_group(DEMO, "color.sea", "brand.deep")
    assert len(token_uses(moved, "brand.deep.sea")) == uses > 3
    assert "color.sea" not in moved.tokens
    assert "sea" in move_to_group(DEMO, "color.sea", "").tokens


@given(some.integers(0, 0xFFFFFF))
def test_a_ramp_goes_from_light_to_dark_in_one_hue(number):
    """Beside coloraide, an independent implementation of CSS Color 4."""
    start = parse(f"#{number:06X}")
    document = Document("d", tokens=Map({"tint": DesignToken("color", start)}))
    made = ramp(document, "tint")
    assert list(made) == [f"tint-{step}" for step in RAMP]
    colors = [token.value for token in made.values()]
    assert start in colors
    judged = [coloraide.Color("srgb", [c.red, c.green, c.blue]).convert("oklch") for c in colors]
    lights = [each["lightness"] for each in judged]
    assert all(0 <= part <= 1 for c in colors for part in (c.red, c.green, c.blue))
    assert lights == sorted(lights, reverse=True)
    base = coloraide.Color("srgb", [start.red, start.green, start.blue]).convert("oklch")
    for each in judged:
        assert each["chroma"] <= base["chroma"] + 0.002
        # Of 8 bits a channel, so that what differs is a step or two of one.
        turn = math.radians(abs((each["hue"] - base["hue"] + 180) % 360 - 180))
        known = min(each["chroma"], base["chroma"]) > 0.01
        assert not known or turn * min(each["chroma"], base["chroma"]) < 0.004
    after = add_ramp(document, "tint")
    assert len(after.tokens) == 1 + len(RAMP)
    steps = in_order(after.tokens, made)
    assert steps == list(made), "in the order of their steps"


def test_names_that_break_with_the_others_are_told_with_a_better_one():
    assert not off_scheme(DEMO)
    values = {
        "SeaBlue": parse("#205080"),
        "color.Dark Sand": parse("#776655"),
        "INK": parse("#000"),
    }
    document = set_tokens(DEMO, {p: DesignToken("color", v) for p, v in values.items()})
    found = {each.path: each for each in off_scheme(document)}
    assert set(found) == set(values)
    assert found["SeaBlue"].better == "color.sea-blue"
    assert "small letters" in found["SeaBlue"].reason and "outside" in found["SeaBlue"].reason
    assert found["color.Dark Sand"].better == "color.dark-sand"
    assert found["INK"].better == "", "color.ink is taken"


def part(fill, color, rules=()):
    root = box("root", text("label", "Board"), **({"fill": fill} if fill is not None else {}))
    child = msgspec.structs.replace(
        root.children[0], style=root.children[0].style.set("color", color)
    )
    root = msgspec.structs.replace(root, children=(child,))
    state = DEMO.components["button"].axes[1]
    return Component("part", "Part", root, (state,), rules=rules)


def test_pairs_are_words_on_the_nearest_ground_at_rest_and_where_rules_hold():
    sea, ink = Token("color.sea"), Token("color.ink")
    rule = Rule(Map({"state": "hover"}), ("root",), "fill", Token("color.foam"))
    document = Document("d", tokens=DEMO.tokens, modes=("dark",))
    document = add_component(document, part(sea, ink, (rule,)))
    found = {(pair.ink, pair.ground): pair for pair in color_pairs(document)}
    assert set(found) == {("color.ink", "color.sea"), ("color.ink", "color.foam")}
    assert found["color.ink", "color.sea"].places == (("part", ("label",)),)
    plain = add_component(Document("d", tokens=DEMO.tokens), part(parse("#123456"), ink))
    assert not color_pairs(plain), "a ground of its own is no token"


def test_the_contrast_of_a_pair_is_that_of_its_colours_in_each_mode():
    dark = msgspec.structs.replace(
        DEMO.tokens["color.paper"], modes=Map({"dark": parse("#12242C")})
    )
    document = msgspec.structs.replace(
        DEMO, tokens=DEMO.tokens.set("color.paper", dark), modes=("dark",)
    )
    pair = next(p for p in color_pairs(document) if p.ground == "color.paper")
    ink = document.tokens[pair.ink].value
    assert pair_contrast(document, pair, "") == contrast(ink, Color(1.0, 1.0, 1.0))
    assert pair_contrast(document, pair, "dark") == contrast(ink, parse("#12242C"))
