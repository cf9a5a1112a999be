"""Texts of many writings: how they are cut, which font draws them, and what stays together."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.document.values import Run, words
from outgrowth.core.text import TextStyle, Typesetter
from outgrowth.core.text.bidi import levels
from outgrowth.core.text.characters import cluster_ends, is_pictured, line_ends
from outgrowth.core.text.fonts import FontBook, FontSource, describe_with_coverage
from outgrowth.core.text.scripts import script_runs
from outgrowth.core.text.shaping import Feigned
from outgrowth.resources import FONTS

PLAIN = TextStyle("Figtree", 20.0, 400.0, 1.4, 0.0, "start")
ANY = st.text(st.sampled_from("aB1 .,(«अनाবা漢あア한אבשא״1٣ा\u0301\u200d👍🏽🇵🇱เรือក្យ"), max_size=30)


@pytest.mark.parametrize(
    ("text", "runs"),
    [
        ("Cancel रद्द करें", [("Cancel ", "Latn"), ("रद्द करें", "Deva")]),
        ("10:15 נמל", [("10:15 נמל", "Hebr")]),
        (
            "(שלום) abc (שלום abc) x",
            [("(שלום) ", "Hebr"), ("abc (", "Latn"), ("שלום ", "Hebr"), ("abc) x", "Latn")],
        ),
        ("船は3番ア", [("船は3番ア", "Hira")]),
        ("取消", [("取消", "Hani")]),
        ("١٠:١٥، abc", [("١٠:١٥، ", "Arab"), ("abc", "Latn")]),
        ("12.50 – 3", [("12.50 – 3", "Zyyy")]),
    ],
)  # fmt: skip
def test_a_text_is_cut_into_writings(text, runs):
    assert [(text[start:end], script) for start, end, script in script_runs(text)] == runs


@given(ANY)
def test_runs_clusters_and_ends_cover_any_text(text):
    runs = script_runs(text)
    assert [run.start for run in runs] == [0, *(run.end for run in runs[:-1])][: len(runs)]
    assert not text or runs[-1].end == len(text)
    for ends in (cluster_ends(text), line_ends(text)):
        assert not text or ends[-1] == len(text)
        assert all(a < b for a, b in pairwise(ends))
    assert len(levels(text).each) == len(text)


@given(ANY)
def test_any_text_is_set_and_its_letters_are_all_there(fonts, text):
    style = PLAIN._replace(break_words=True, spacing=0.5)
    setter = Typesetter(fonts)
    shown = "".join(line.text for line in setter.set(words(text), style, 60.0).lines)
    assert shown.replace(" ", "") == text.replace(" ", "")
    assert setter.narrowest(words(text), style) <= setter.widest(words(text), style) + 1e-6


def test_thai_is_divided_by_a_dictionary():
    text = "วันนี้ทะเลสงบ"
    assert [text[a:b] for a, b in pairwise([0, *line_ends(text)])] == ["วัน", "นี้", "ทะเล", "สงบ"]


def hebrew(family: str) -> FontSource:
    data = (FONTS / "NotoSansHebrew_400Regular.ttf").read_bytes()
    about, covers = describe_with_coverage(data, "hebrew.ttf")
    return FontSource(family, about.__class__("hebrew.ttf", family, 400.0), lambda: data, covers)


def latin() -> FontBook:
    data = (FONTS / "Figtree_400Regular.ttf").read_bytes()
    about, covers = describe_with_coverage(data, "figtree.ttf")
    return FontBook((FontSource("figtree", about, lambda: data, covers),), ("Figtree",))


def test_letters_are_drawn_by_what_came_with_the_file_before_what_is_here():
    book = latin().also([hebrew("Of the machine")])
    assert book.face_for("ש", "Figtree", 400.0, False).described.family == "Of the machine"
    book = book.also([hebrew("Of the file")], first=True)
    assert book.face_for("ש", "Figtree", 400.0, False).described.family == "Of the file"
    assert book.face_for("a", "Figtree", 400.0, False).described.family == "Figtree"
    # What stands in for a family that is not here stays the same, whatever the file carries.
    assert book.primary("Not here", 400.0, False).described.family == "Figtree"


def test_a_font_of_a_few_letters_is_asked_behind_all_others():
    few = FontBook((hebrew("Few"), *latin()._sources), ("Figtree",), last=("Few",))
    assert few.face_for("ש", "Figtree", 400.0, False).described.family == "Few"
    book = few.also([hebrew("Of the machine")])
    assert book.face_for("ש", "Figtree", 400.0, False).described.family == "Of the machine"


def test_letters_that_no_font_has_are_known():
    book = latin()
    Typesetter(book).set(words("Gate 漢 é"), PLAIN, 300.0)
    assert book.lacked == {"漢"}


def test_a_letter_is_drawn_in_parts_by_a_font_that_has_these():
    face = latin().primary("Figtree", 400.0, False)
    assert not face.has("ấ") and face.draws("ấ")
    assert not face.draws("ש")


def test_spacing_goes_behind_clusters_and_not_into_marks(fonts):
    setter = Typesetter(fonts)
    spaced = PLAIN._replace(spacing=3.0)
    for text, count in (("abc", 3), ("a\u0301b", 2), ("a\u200bb", 2)):
        more = setter.widest(words(text), spaced) - setter.widest(words(text), PLAIN)
        assert more == pytest.approx(3.0 * count)


def test_a_line_from_the_right_that_is_too_wide_spills_to_the_left(fonts):
    line = Typesetter(fonts).set(words("המעבורת"), PLAIN, 30.0).lines[0]
    left = min(x for x, _ in line.runs)
    assert left + line.width == pytest.approx(30.0)
    assert left < 0


def test_ch_of_a_font_without_a_zero_is_half_its_size(monkeypatch):
    book = FontBook((hebrew("Hebrew"),), ("Hebrew",))
    face = book.primary("Hebrew", 400.0, False)
    monkeypatch.setitem(face._has, "0", False)
    assert Typesetter(book).zero(PLAIN._replace(family="Hebrew")) == 10.0


def test_a_bold_run_in_a_word_keeps_all_letters(fonts):
    setter, content = Typesetter(fonts), (Run("המע"), Run("בורת", bold=True))
    line = setter.set(content, PLAIN, 300.0).lines[0]
    assert line.text == "המעבורת"
    # This font has one weight, and its letters are not joined.
    assert line.width == pytest.approx(setter.widest(words("המעבורת"), PLAIN))


def test_pictures_are_told_from_letters():
    assert [is_pictured(c) for c in ("👍", "🇵🇱", "⚓", "⚓\ufe0f", "a", "漢", "👍\ufe0e")] == [
        True, True, True, True, False, False, False,
    ]  # fmt: skip


def test_what_a_family_has_no_file_for_is_feigned(fonts):
    """As wide as before: Chromium's lines of such runs are compared in tests/browser."""
    setter = Typesetter(fonts)
    plain = setter.set(words("רציף"), PLAIN, 300.0).lines[0]
    for look, feigned in (
        ({"weight": 700.0}, Feigned(True, False)),
        ({"italic": True}, Feigned(False, True)),
        ({"weight": 600.0, "italic": True}, Feigned(True, True)),
        ({"weight": 500.0}, Feigned()),
    ):
        line = setter.set(words("רציף"), PLAIN._replace(**look), 300.0).lines[0]
        assert [run.feigned for _, run in line.runs] == [feigned]
        assert line.width == plain.width
    bolder = PLAIN._replace(weight=700.0, italic=True)
    line = setter.set(words("Pier"), bolder, 300.0).lines[0]
    assert line.runs[0][1].feigned == Feigned()
