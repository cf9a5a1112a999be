import coloraide
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.color import (
    Color,
    ColorRefusal,
    contrast,
    darkened,
    oklab_of,
    over,
    parse,
    srgb_of,
)
from outgrowth.core.motion.mixing import mix

unit = st.integers(0, 255).map(lambda n: n / 255)
colors = st.builds(Color, unit, unit, unit)


# Source: WCAG 2.2, SC 1.4.3 and its worked pairs (references.md).
@pytest.mark.parametrize(
    ("ink", "paper", "ratio"), [("#000", "#FFF", 21.0), ("#777", "#FFF", 4.48)]
)
def test_contrast_is_wcags(ink, paper, ratio):
    assert contrast(parse(ink), parse(paper)) == pytest.approx(ratio, abs=0.01)


# Source: CSS Color 4, section 9.2: the OKLab values of red, given in its examples.
def test_oklab_of_red_is_css_color_4s():
    assert oklab_of(np.array([1.0, 0.0, 0.0])) == pytest.approx([0.628, 0.225, 0.126], abs=1e-3)


@given(colors)
def test_oklab_agrees_with_coloraide(color):
    ours = oklab_of(np.array([color.red, color.green, color.blue]))
    theirs = coloraide.Color("srgb", [color.red, color.green, color.blue]).convert("oklab")
    assert ours == pytest.approx(theirs.coords(nans=False), abs=2e-4)
    assert srgb_of(ours) == pytest.approx([color.red, color.green, color.blue], abs=1e-6)


@given(colors, colors, st.floats(0, 1))
def test_mixing_agrees_with_coloraide(start, end, progress):
    ours = mix(start, end, progress)
    a, b = (coloraide.Color("srgb", [c.red, c.green, c.blue]) for c in (start, end))
    theirs = a.mix(b, progress, space="oklab", out_space="srgb")
    mine = coloraide.Color("srgb", [ours.red, ours.green, ours.blue])
    assert mine.delta_e(theirs.clip(), method="2000") < 0.1


@given(colors, st.floats(0, 0.6))
def test_a_darker_shift_agrees_with_coloraide(color, share):
    ours = darkened(color, share)
    theirs = coloraide.Color("srgb", [color.red, color.green, color.blue]).convert("oklch")
    theirs["lightness"] *= 1 - share
    if theirs.in_gamut("srgb", tolerance=0):
        mine = coloraide.Color("srgb", [ours.red, ours.green, ours.blue])
        assert mine.delta_e(theirs.convert("srgb"), method="2000") < 0.1
    lightness = coloraide.Color("srgb", [ours.red, ours.green, ours.blue]).convert("oklch")[0]
    assert lightness == pytest.approx(theirs["lightness"], abs=0.01)


@given(colors)
def test_hex_is_read_back(color):
    assert parse(color.hex) == color


@pytest.mark.parametrize("text", ["", "#12", "seaish", "rgb(1,2", "#GGGGGG"])
def test_what_is_no_colour_is_refused_with_a_sentence(text):
    with pytest.raises(ColorRefusal, match="is not a colour"):
        parse(text)


def test_css_notations_are_read():
    assert parse("rebeccapurple").hex == "#663399"
    assert parse("rgb(255 0 0 / 50%)").hex == "#FF000080"


def test_a_colour_over_another_is_mixed_by_its_alpha_part_by_part():
    """Source: CSS Compositing 1, section 5.1 (simple alpha compositing), worked by hand."""
    top, below = Color(0.8, 0.4, 0.0, 0.25), Color(0.2, 1.0, 0.4)
    mixed = over(top, below)
    assert (mixed.red, mixed.green, mixed.blue, mixed.alpha) == pytest.approx(
        (0.35, 0.85, 0.3, 1.0)
    )
    assert over(top.with_alpha(1.0), below) == top.with_alpha(1.0)
    assert over(top.with_alpha(0.0), below) == below
