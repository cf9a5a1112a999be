"""Fonts of the program, of the file and of the machine."""

import shutil

import pytest
from immutables import Map

from outgrowth.core.document.records import Document
from outgrowth.core.edits.style.pictures import with_asset
from outgrowth.core.exchange.fonts import carried, read_font
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.text.fonts import FontBook, FontRefusal, installed, shipped
from outgrowth.resources import FONTS

HEBREW = FONTS / "NotoSansHebrew_400Regular.ttf"


@pytest.fixture
def latin():
    """The shipped fonts without the Hebrew one."""
    sources = [s for s in shipped(FONTS)._sources if "Hebrew" not in s.described.family]
    return FontBook(sources, ("Figtree",))


def test_a_family_is_missing_until_it_is_installed(latin, tmp_path):
    assert latin.missing("Noto Sans Hebrew")
    assert latin.primary("Noto Sans Hebrew", 400.0, False).described.family == "Figtree"
    (tmp_path / "deep").mkdir()
    shutil.copy(HEBREW, tmp_path / "deep")
    (tmp_path / "broken.ttf").write_bytes(b"no font")
    book = latin.also(installed([tmp_path]))
    assert not book.missing("Noto Sans Hebrew")
    assert book.primary("Noto Sans Hebrew", 400.0, False).described.family == "Noto Sans Hebrew"


def test_a_family_at_hand_stays_as_it_is(fonts, tmp_path):
    shutil.copy(FONTS / "Figtree_400Regular.ttf", tmp_path)
    assert fonts.also(installed([tmp_path])) is fonts


def test_a_file_carries_its_fonts(latin):
    described, asset = read_font(HEBREW.read_bytes(), HEBREW.name)
    assert (described.family, described.weight, described.italic) == (
        "Noto Sans Hebrew",
        400.0,
        False,
    )
    document = with_asset(Document("Signs"), asset)
    again = loads(dumps(document).encode(), "signs")
    book = latin.also(carried(again.assets))
    assert not book.missing("Noto Sans Hebrew")
    assert book.primary("Noto Sans Hebrew", 400.0, False).has("א")


@pytest.mark.parametrize("name", ["sign.ttf", "sign.otf", "sign.woff"])
def test_what_is_no_font_is_refused_with_a_sentence(name):
    with pytest.raises(FontRefusal, match=name):
        read_font(b"\0\1\0\0 and no more", name)


def test_damaged_fonts_in_a_file_are_left_out(latin):
    _, asset = read_font(HEBREW.read_bytes(), HEBREW.name)
    collect_lines = type(asset)("broken.ttf", "font/ttf", b"no font")
    assert [s.described.family for s in carried(Map({"a": collect_lines, "b": asset}))] == [
        "Noto Sans Hebrew"
    ]
