"""Letters with colours of their own: what they are as pictures, and that they are drawn so."""

import numpy as np
import pytest
from immutables import Map

from demo.drawing import box, text
from outgrowth.core.document.records import Component, Document
from outgrowth.core.edits.tree.components import add_component
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.geometry import Rect
from outgrowth.core.layout import Layout
from outgrowth.core.paint import draw
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import FontFace, Typesetter
from outgrowth.core.text.color_glyphs import color_glyph
from outgrowth.core.text.fonts import FontBook, FontSource, shipped
from outgrowth.resources import FONTS
from tests import color_font


@pytest.fixture(scope="module")
def flags() -> FontSource:
    return color_font.flags()


def test_a_glyph_of_colors_is_a_picture(flags):
    face = FontFace(flags)
    assert face.has_colors
    glyph = face.font.get_nominal_glyph(0x1F44D)
    made = color_glyph(face, glyph, 100.0)
    assert (made.left, made.top, made.width, made.height) == (0.0, -80.0, 80.0, 80.0)
    pixels = np.frombuffer(made.pixels, np.uint8).reshape(made.rows, made.columns, 4)
    assert tuple(pixels[10, 60]) == (255, 0, 0, 255)
    assert tuple(pixels[70, 10]) == (0, 0, 255, 255)


@pytest.mark.parametrize("size", [0.01, 1.0, 5_000.0])
def test_it_is_of_a_bearable_size(flags, size):
    face = FontFace(flags)
    made = color_glyph(face, face.font.get_nominal_glyph(0x1F44D), size)
    assert made is None or made.columns * made.rows <= 2_048**2
    assert made is None or size < 1 or made.width == pytest.approx(0.8 * size, abs=1 + size / 1000)


def test_a_drawing_has_it_as_a_picture_and_other_letters_as_outlines(flags):
    book: FontBook = shipped(FONTS).also([flags])
    for words_, pictures in (("👍", 1), ("👍👍", 2), ("Gate", 0)):
        sign = Component("sign", "Sign", box("root", text("words", words_)))
        document = add_component(Document("Quay"), sign)
        scene = Resolver().variant(document, "sign", Map())
        placed = Layout(Typesetter(book)).view(scene)
        svg = svg_of(draw(*placed), Rect(0, 0, 200, 50))
        assert svg.count("<image") == pictures
