"""Fonts as a hand-over has them: small, as they were, and with what allows to hand them on."""

import io

import pytest
from fontTools.ttLib import TTFont

from demo import drawing
from outgrowth.core.document.records import Component, Document
from outgrowth.core.edits.tree.components import add_component
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.exchange.web.font_files import (
    font_files,
    font_problems,
    font_rule,
    licence,
)
from outgrowth.core.text.fonts import FontFace, FontSource, describe
from outgrowth.resources import FONTS

REGULAR = FONTS / "Figtree_400Regular.ttf"


def face(file="Figtree_400Regular.ttf", data=None, key=None):
    data = (FONTS / file).read_bytes() if data is None else data
    return FontFace(FontSource(key or file, describe(data, file), lambda: data))


def changed(**says):
    """The regular font, with names (by their numbers) or its rights changed."""
    font = TTFont(REGULAR)
    for number, text in says.items():
        if number == "rights":
            font["OS/2"].fsType = text
        elif text is None:
            font["name"].removeNames(nameID=int(number[1:]))
        else:
            font["name"].setName(text, int(number[1:]), 3, 1, 0x409)
    made = io.BytesIO()
    font.save(made)
    return made.getvalue()


def test_a_font_is_there_small_and_as_it_was_with_its_licence():
    files = font_files([face(), face("Figtree_700Bold_Italic.ttf")])
    assert list(files) == [
        "figtree-400.ttf",
        "figtree-400.woff2",
        "figtree-licence.txt",
        "figtree-700-italic.ttf",
        "figtree-700-italic.woff2",
    ]
    assert files["figtree-400.ttf"] == REGULAR.read_bytes()
    assert len(files["figtree-400.woff2"]) < len(files["figtree-400.ttf"]) / 2
    assert files["figtree-400.woff2"][:4] == b"wOF2"
    assert b"SIL Open Font License" in files["figtree-licence.txt"]


# Source: fontTools, which reads both formats.
def test_the_small_font_draws_the_same_letters():
    before = TTFont(REGULAR)
    after = TTFont(io.BytesIO(font_files([face()])["figtree-400.woff2"]))
    assert after.getBestCmap() == before.getBestCmap()
    assert after["hmtx"].metrics == before["hmtx"].metrics
    for name in ("GSUB", "GPOS", "OS/2", "hhea", "head"):
        if name != "head":  # which says how it is packed
            assert after.getTableData(name) == before.getTableData(name), name
    for glyph in before.getGlyphOrder():
        one, other = (font["glyf"][glyph].getCoordinates(font["glyf"]) for font in (before, after))
        assert list(one[0]) == list(other[0]) and list(one[1]) == list(other[1])


def test_the_same_font_gives_the_same_bytes():
    first, again = (font_files([face(key=key)]) for key in ("one", "another"))
    assert first == again


def test_the_browser_takes_the_small_one_and_shows_words_before_it_comes():
    rule = font_rule(face(), "assets")
    assert rule.index("woff2") < rule.index(".ttf")
    assert "font-display: swap;" in rule


def test_a_font_of_somebody_elses_says_its_own_terms():
    own = changed(n13="For ferries only.", n14="terms.example")
    text = licence(face("Harbour.ttf", own))
    assert "For ferries only." in text and "terms.example" in text
    assert text.startswith("Figtree\n")
    assert not list(font_problems([face("Harbour.ttf", own)]))


@pytest.mark.parametrize(
    ("says", "words"),
    [
        ({"rights": 2}, "must not be put on a page"),
        ({"n0": None, "n13": None, "n14": None}, "under what licence"),
    ],
)
def test_what_may_not_be_handed_on_is_told_once(says, words):
    fonts = [face("Harbour.ttf", changed(**says), key) for key in ("one", "two")]
    (sentence,) = font_problems(fonts)
    assert words in sentence and "Figtree" in sentence


def test_a_font_that_cannot_be_packed_goes_out_as_it_is():
    damaged = bytearray(REGULAR.read_bytes())
    tables = int.from_bytes(damaged[4:6], "big")
    for n in range(tables):
        at = 12 + 16 * n
        if damaged[at : at + 4] == b"glyf":
            damaged[at + 4 : at + 16] = b"\xff" * 12
    files = font_files([face("Harbour.ttf", bytes(damaged), "damaged")])
    assert list(files) == ["figtree-400.ttf", "figtree-licence.txt"]
    assert "woff2" not in font_rule(face("Harbour.ttf", bytes(damaged), "damaged"), "assets")


def test_letters_that_no_font_has_are_told_once(layout):
    root = drawing.box("root", drawing.text("one", "Gate გემი"), drawing.text("two", "გემი 3"))
    document = add_component(Document("Quay"), Component("sign", "Sign", root))
    told = [problem for problem in hand_over(document, layout).problems if "No font" in problem]
    assert told == [
        "No font here has these letters: გ ე მ ი. A browser draws them with whatever its machine "
        "has. Carry a font in the file that has them."
    ]
    plain = drawing.box("root", drawing.text("one", "Gate שער"))
    document = add_component(Document("Quay"), Component("sign", "Sign", plain))
    made = hand_over(document, layout)
    assert not any("No font" in problem for problem in made.problems)
    names = {name for name in made.files if name.endswith(".ttf")}
    # The font that was asked for goes out too: it says where the lines stand.
    assert names == {"assets/figtree-400.ttf", "assets/noto-sans-hebrew-400.ttf"}
