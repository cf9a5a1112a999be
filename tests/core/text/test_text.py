import pytest
from fontTools.ttLib import TTFont
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.document.values import Run, words
from outgrowth.core.text import TextStyle, Typesetter
from outgrowth.resources import FONTS

STYLE = TextStyle("Figtree", 16.0, 400.0, 1.4, 0.0, "start")
letters = st.text("abc ferry-holm.,", min_size=1, max_size=60)


@pytest.fixture(scope="module")
def setter(fonts):
    return Typesetter(fonts)


# Source: fontTools' own reading of the font's hmtx table (references.md: unkerned text).
def test_an_unkerned_width_is_the_sum_of_the_fonts_advances(setter):
    font = TTFont(FONTS / "Figtree_400Regular.ttf")
    advances, cmap = font["hmtx"].metrics, font.getBestCmap()
    upem = font["head"].unitsPerEm
    for letter in "nHo5":
        width = setter.widest(words(letter * 9), STYLE)
        assert width == pytest.approx(9 * advances[cmap[ord(letter)]][0] * 16 / upem, abs=1e-9)


def test_kerning_is_on(setter):
    apart = setter.widest(words("A"), STYLE) + setter.widest(words("V"), STYLE)
    assert setter.widest(words("AV"), STYLE) < apart


@given(letters, st.floats(20, 300))
def test_lines_hold_all_words_in_order_and_fit(fonts, text, width):
    setter = Typesetter(fonts)
    set_text = setter.set(words(text), STYLE, width)
    joined = " ".join(line.text for line in set_text.lines)
    assert joined.split() == text.split() or joined.replace(" ", "") == text.replace(" ", "")
    narrowest = setter.narrowest(words(text), STYLE)
    for line in set_text.lines[:-1]:
        assert line.width <= max(width, narrowest) + 0.5
    assert set_text.height == pytest.approx(len(set_text.lines) * 16 * 1.4)


@given(letters)
def test_a_text_fits_into_its_own_width(fonts, text):
    setter = Typesetter(fonts)
    widest = setter.widest(words(text), STYLE)
    assert len(setter.set(words(text), STYLE, widest).lines) == 1


def test_line_ends_are_kept(setter):
    lines = setter.set(words("one\n\ntwo"), STYLE, 1000).lines
    assert [line.text for line in lines] == ["one", "", "two"]


def test_a_bold_run_is_wider_and_drawn_by_another_face(setter):
    runs = (Run("Board "), Run("now", bold=True))
    line = setter.set(runs, STYLE, 1000).lines[0]
    faces = [run.face.described.weight for _, run in line.runs]
    assert faces == [400.0, 700.0]
    assert line.width > setter.widest(words("Board now"), STYLE)


def test_letters_that_a_font_lacks_come_from_the_fallback(setter):
    line = setter.set(words("Holm שלום"), STYLE, 1000).lines[0]
    families = [run.face.described.family for _, run in line.runs]
    assert families == ["Figtree", "Noto Sans Hebrew"]


def test_a_missing_family_is_replaced_and_said_to_be_missing(setter, fonts):
    style = STYLE._replace(family="Harbour Grotesk")
    assert fonts.missing("Harbour Grotesk")
    assert not fonts.missing("Figtree")
    assert setter.widest(words("Holm"), style) == setter.widest(words("Holm"), STYLE)


def test_the_shipped_list_says_what_the_font_files_say(fonts):
    for path in FONTS.glob("*.ttf"):
        font = TTFont(path)
        family = font["name"].getDebugName(16) or font["name"].getDebugName(1)
        assert family in fonts.families
        weight, italic = font["OS/2"].usWeightClass, bool(font["OS/2"].fsSelection & 1)
        face = fonts.faces(family, weight, italic)[0]
        assert (face.path.name, face.described.weight) == (path.name, weight)
