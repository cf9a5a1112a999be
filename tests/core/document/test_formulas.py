"""Sums and bounds as sizes. Source: CSS Values 4, sections 10.1 (calc), 10.2 (min, max, clamp) and
10.9 (what can be added, multiplied, divided)."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from outgrowth.core.document.formulas import (
    canonical,
    css_of,
    explained,
    is_formula,
    is_share,
    parsed,
    value_of,
)
from outgrowth.core.document.values import Size
from outgrowth.core.refusal import Refusal

ZERO = 10.0


@pytest.mark.parametrize(
    ("said", "kept", "px"),
    [
        ("min(100 %, 640)", "min(100%, 640px)", 400),
        ("MIN(50%,640PX)", "min(50%, 640px)", 200),
        ("clamp(16, 1.2 ch + 1 %, 24)", "clamp(16px, 1.2ch + 1%, 24px)", 16),
        ("clamp(30, 100 %, 20)", "clamp(30px, 100%, 20px)", 30),
        ("100% - 2 × 24", "100% - 48px", 352),
        ("100% - (10% - 4)", "100% - (10% - 4px)", 364),
        ("(100% + 20) / 3", "(100% + 20px) / 3", 140),
        ("100% / (4 / 2)", "100% / (4 / 2)", 200),
        ("3 * (1ch + 2)", "3 * (1ch + 2px)", 36),
        ("max(2, 3) + 10ch", "3px + 10ch", 103),
        ("-1 * 10ch + 100 %", "-1 * 10ch + 100%", 300),
        ("0% + 4ch", "0px + 4ch", 40),
    ],
)
def test_what_is_typed_is_kept_in_one_way_and_comes_to_px(said, kept, px):
    assert is_formula(said)
    assert canonical(said) == kept
    assert canonical(kept) == kept
    assert value_of(kept, 400.0, ZERO) == pytest.approx(px)


@pytest.mark.parametrize(
    ("said", "why"),
    [
        ("min(", "something is missing"),
        ("min()", "can't stand there"),
        ("clamp(1, 2)", "clamp takes 3"),
        ("100% * 50%", "has to be a plain number"),
        ("100% / 2ch", "a length can't divide"),
        ("100% / (2 - 2)", "divided by 0"),
        ("calc(1px)", "it knows min, max and clamp"),
        ("min(1, 2", "“\\)” is missing"),
        ("min(1, 2) 3", "left over"),
        ("min(1vw, 2)", "left over|can't stand|is missing"),
        ("(" * 40 + "1", "too deep"),
        ("9999999% + 1", "too much"),
        ("1 + " * 60 + "1%", "at most 160 letters"),
        ("+".join(["1%"] * 50), "With its units"),
        ("999999 * 999999 + 1%", "too much"),
        ("100% / 0.0000001", "divided by 0"),
    ],
)
def test_what_is_none_is_refused_with_its_reason(said, why):
    with pytest.raises(Refusal, match=why):
        canonical(said)


@pytest.mark.parametrize(
    "said", ["320", "50 %", "40 ch", "fit", "grow 2", "+8 %", "320 / 2", "{a-b}", "stretch-1"]
)
def test_what_is_one_number_is_no_formula(said):
    assert not is_formula(said)


def test_it_depends_on_its_holder_only_where_a_share_is_in_it():
    assert is_share(Size("formula", 0.0, "min(100%, 640px)"))
    assert not is_share(Size("formula", 0.0, "10ch + 4px"))
    assert value_of("min(100%, 640px)", None, ZERO) is None
    assert value_of("10ch + 4px", None, ZERO) == 104


def test_it_explains_itself():
    assert explained("min(100 %, 640)", 400.0, ZERO) == "is 400 px here"
    assert explained("min(100 %, 640)", None, ZERO).startswith("fits")


def test_in_css_a_sum_is_a_calculation():
    assert css_of("100% - 8px") == "calc(100% - 8px)"
    assert css_of("min(100%, 640px)") == "min(100%, 640px)"


amounts = st.integers(0, 999) | st.sampled_from(["0.0000001", "0.000001", "1000000", "12.3456789"])
lengths = st.tuples(amounts, st.sampled_from(["px", "%", "ch", ""])).map(
    lambda said: f"{said[0]}{said[1]}"
)
numbers = st.integers(1, 9).map(str) | st.sampled_from(["1000000", "0.000001"])
terms = st.recursive(
    lengths,
    lambda inner: st.one_of(
        st.tuples(inner, st.sampled_from("+-"), inner).map(lambda t: f"({t[0]} {t[1]} {t[2]})"),
        st.tuples(inner, st.sampled_from("*/"), numbers).map(lambda t: f"({t[0]} {t[1]} {t[2]})"),
        st.tuples(inner, inner).map(lambda t: f"min({t[0]}, {t[1]})"),
        st.tuples(inner, inner, inner).map(lambda t: f"clamp({t[0]}, {t[1]}, {t[2]})"),
    ),
    max_leaves=6,
)


@given(terms, st.floats(0, 1000), st.floats(1, 20))
def test_no_bracket_that_is_left_out_changes_what_it_comes_to(said, room, zero):
    try:
        kept = canonical(said)
    except Refusal:
        assume(False)
    assert canonical(kept) == kept, "what is written is read as the same"
    as_typed = _in_python(said, room, zero)
    rounds = "." in said  # a number of more digits than are kept, or one that divides much
    if abs(as_typed) < 1e6 and not (rounds and "1000000" in said):
        close = 1e-3 if rounds else 1e-6
        assert value_of(kept, room, zero) == pytest.approx(as_typed, rel=close, abs=close)
    assert parsed(kept).of_holder or "%" not in kept


def _in_python(text, room, zero):
    """The formula by Python's own reader of sums."""
    for unit, worth in (("px", 1.0), ("ch", zero), ("%", room / 100)):
        text = text.replace(unit, f"*{worth!r}")
    return eval(
        text, {"min": min, "clamp": lambda least, n, most: max(least, min(n, most))}
    )  # made above
