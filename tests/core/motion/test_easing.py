import pytest
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.motion.easing import (
    KEYWORDS,
    EasingRefusal,
    check_easing,
    cubic_bezier,
    easing,
)

# Source: CSS Easing Functions Level 1, section 2.2.1: the keywords' control points.
PUBLISHED = {
    "ease": (0.25, 0.1, 0.25, 1.0),
    "ease-in": (0.42, 0.0, 1.0, 1.0),
    "ease-out": (0.0, 0.0, 0.58, 1.0),
    "ease-in-out": (0.42, 0.0, 0.58, 1.0),
}


@pytest.mark.parametrize("keyword", PUBLISHED)
def test_keywords_are_the_published_curves(keyword):
    x1, y1, x2, y2 = PUBLISHED[keyword]
    assert KEYWORDS[keyword] == PUBLISHED[keyword]
    eased = easing(keyword)
    for n in range(101):
        # The curve's own points, by the parameter and not by our solving for it.
        t = n / 100
        x = 3 * (1 - t) ** 2 * t * x1 + 3 * (1 - t) * t * t * x2 + t**3
        y = 3 * (1 - t) ** 2 * t * y1 + 3 * (1 - t) * t * t * y2 + t**3
        assert eased(x) == pytest.approx(y, abs=1e-6)


@given(st.floats(0, 1), st.floats(-1, 2), st.floats(0, 1), st.floats(-1, 2), st.floats(0, 1))
def test_any_curve_is_a_function_with_fixed_ends(x1, y1, x2, y2, progress):
    eased = cubic_bezier(x1, y1, x2, y2)
    assert (eased(0.0), eased(1.0)) == (0.0, 1.0)
    assert -3 < eased(progress) < 4


@pytest.mark.parametrize(
    "text", ["quick", "cubic-bezier(1, 2)", "cubic-bezier(2, 0, 0, 1)", "cubic-bezier(a,b,c,d)"]
)
def test_what_is_no_easing_is_refused(text):
    with pytest.raises(EasingRefusal):
        easing(text)


# Source: CSS Easing Functions 2, section 2.4 (steps), its figures and table.
@pytest.mark.parametrize(
    ("text", "outputs"),
    [
        ("steps(4)", [0, 0.25, 0.5, 0.75, 0.75, 1]),
        ("steps(4, jump-start)", [0.25, 0.5, 0.75, 1, 1, 1]),
        ("steps(3, jump-none)", [0, 0, 0.5, 1, 1, 1]),
        ("steps(2, jump-both)", [1 / 3, 1 / 3, 2 / 3, 2 / 3, 2 / 3, 1]),
        ("step-start", [1, 1, 1, 1, 1, 1]),
        ("step-end", [0, 0, 0, 0, 0, 1]),
    ],
)
def test_steps(text, outputs):
    inputs = [0.0, 0.25, 0.5, 0.75, 0.99, 1.0]
    assert [easing(text)(x) for x in inputs] == pytest.approx(outputs)


# Source: CSS Easing Functions 2, section 2.2 (linear()), its examples.
@pytest.mark.parametrize(
    ("text", "at", "output"),
    [
        ("linear(0, 0.25, 1)", 0.5, 0.25),
        ("linear(0, 0.25 75%, 1)", 0.75, 0.25),
        ("linear(0, 0.25 25% 75%, 1)", 0.5, 0.25),
        ("linear(0, 0.25 25% 75%, 1)", 0.875, 0.625),
        ("linear(0, 1 50%, 0)", 0.75, 0.5),
    ],
)
def test_points_of_a_line(text, at, output):
    assert easing(text)(at) == pytest.approx(output)


@pytest.mark.parametrize(
    "text",
    [
        "steps(0)",
        "steps(1, jump-none)",
        "steps(x)",
        "linear(1)",
        "linear(0, x)",
        "spring(1)",
        "spring(0, 1)",
        "bounce(2)",
        "jump",
        "spring(nan, 3)",
    ],
)
def test_what_is_no_easing_is_said(text):
    with pytest.raises(EasingRefusal, match=r"\.$"):
        check_easing(text)
