import pytest
from fontTools.ttLib import TTFont
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.document.values import Run, words
from outgrowth.core.text import TextStyle, Typesetter
from outgrowth.core.text.bidi import in_sight_order, levels
from outgrowth.core.text.breaking import chunks
from outgrowth.core.text.characters import line_ends
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
        face = fonts.primary(family, weight, italic)
        assert (face.described.file, face.described.weight) == (path.name, weight)


def drawn(setter, text, width=1000.0, **style):
    paragraph = setter.set(
        words(text), TextStyle("Figtree", 20.0, 400.0, 1.4, 0.0, "start")._replace(**style), width
    )
    return [line.text for line in paragraph.lines], paragraph


# Source: Unicode Standard Annex #9, rules P2–P3 and L2.
def test_where_directions_meet_pieces_stand_in_the_order_of_sight(setter):
    he = "אבג"
    _, mixed = drawn(setter, f"to {he} 15")
    lefts = [round(x, 1) for x, _ in mixed.lines[0].runs]
    assert lefts == sorted(lefts)
    assert levels(f"to {he} 15").base == 0
    assert levels(f"{he} to 15").base == 1
    assert in_sight_order([(0, "a"), (1, "b"), (1, "c"), (2, "1"), (0, "d")]) == list("a1cbd")
    _, leftward = drawn(setter, he)
    run = leftward.lines[0].runs[0]
    assert run[0] + run[1].advance == pytest.approx(1000.0), "it starts at the right"


def test_what_is_longer_than_its_most_lines_ends_in_an_ellipsis(setter):
    lines, paragraph = drawn(setter, "The ferry to Skerry leaves at ten", 120.0, max_lines=2)
    assert len(lines) == 2
    assert lines[1].endswith("…")
    assert all(line.width <= 120.0 for line in paragraph.lines)
    short, _ = drawn(setter, "Skerry", 120.0, max_lines=2)
    assert short == ["Skerry"]
    tiny, _ = drawn(setter, "Skerry ferry", 4.0, max_lines=1)
    assert tiny == ["…"]


# Source: CSS Text 3, section 2.1.
@pytest.mark.parametrize(
    ("case", "shown"),
    [
        ("uppercase", "HOLM'S 2ND FERRY"),
        ("lowercase", "holm's 2nd ferry"),
        ("capitalize", "Holm's 2nd Ferry"),
        ("none", "holm's 2nd ferry"),
    ],
)
def test_letters_are_shown_in_another_case(setter, case, shown):
    assert drawn(setter, "holm's 2nd ferry", case=case)[0] == [shown]


# Source: UAX #14 by ICU: the short way for ASCII has to find what the rules find.
@given(st.text("abcZ019 ", max_size=40))
def test_plain_words_break_where_the_full_rules_break_them(text):
    assert [chunk.end for chunk in chunks(text)] == line_ends(text)
