"""Pictures from outside: what is taken, what is refused, and what a file keeps of them."""

import io
import struct
import zlib

import pytest
from PIL import Image

from demo.drawing import box, image
from outgrowth.core.document.records import Asset, Document, Screen
from outgrowth.core.document.values import FIT, GROW, NO_PICTURE, Picture, fixed
from outgrowth.core.edits.style.pictures import place_picture, show_picture
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.exchange.native import FileRefusal, dumps, loads
from outgrowth.core.exchange.pictures import PictureRefusal, read_picture
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver


def encoded(width=40, height=30, form="PNG", **how):
    held = io.BytesIO()
    Image.new("RGB", (width, height), (23, 73, 90)).save(held, form, **how)
    return held.getvalue()


def claiming(width, height):
    """A PNG of a few bytes whose head claims this size. Source: ISO/IEC 15948, 11.2.2."""

    def chunk(kind, data):
        check = struct.pack(">I", zlib.crc32(kind + data))
        return struct.pack(">I", len(data)) + kind + data + check

    head = chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0))
    return (
        b"\x89PNG\r\n\x1a\n"
        + head
        + chunk(b"IDAT", zlib.compress(b"\0" * 99))
        + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize("form", ["PNG", "JPEG", "GIF", "WEBP"])
def test_a_picture_is_taken_with_its_size(form):
    picture, asset = read_picture(encoded(form=form), f"sea.{form}")
    assert (picture.width, picture.height) == (40.0, 30.0)
    assert asset.digest == picture.asset
    assert asset.media == f"image/{form.lower()}"


def test_a_picture_taken_upright_stands_upright():
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by a quarter. Source: EXIF 2.32, 4.6.4 (Orientation)
    picture, _ = read_picture(encoded(form="JPEG", exif=exif), "phone.jpg")
    assert (picture.width, picture.height) == (30.0, 40.0)


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (claiming(30_000, 30_000), "far too many pixels"),
        (claiming(12_000, 9_000), "12,000 × 9,000 px"),
        (claiming(20_000, 10), "20,000 × 10 px"),
        (claiming(2_000_000_000, 2), "px"),
        (encoded()[:60], "damaged or cut off"),
        (b"", "no picture that can be read"),
        (b"<svg onload='alert(1)'/>", "no picture that can be read"),
    ],
)
def test_what_is_absurd_or_damaged_is_refused_with_a_sentence(data, said):
    with pytest.raises(PictureRefusal, match=said) as refused:
        read_picture(data, "sea.png")
    assert str(refused.value).startswith("“sea.png”")
    assert str(refused.value).endswith(".")


@pytest.fixture
def shore():
    """A screen with one picture in a box, and the picture."""
    document = add_screen(Document("Shore"), Screen("shore", "Shore", box("root", width=300)))
    held = read_picture(encoded(), "sea.png")
    return place_picture(document, ("shore", "root", None), held, "sea"), held[0]


def test_a_file_keeps_the_pictures_that_are_shown_and_no_others(shore):
    document, first = shore
    again = loads(dumps(document).encode(), "shore")
    assert again == document
    other = read_picture(encoded(8, 8), "stone.png")
    changed = show_picture(document, Place("shore", ("sea",)), other, {})
    kept = loads(dumps(changed).encode(), "shore").assets
    assert list(kept) == [other[0].asset]
    assert set(changed.assets) == {other[0].asset}  # undo has the document that holds it
    assert first.asset in document.assets


def test_damaged_picture_data_in_a_file_is_said(shore):
    text = dumps(shore[0]).replace('"data": [\n    "', '"data": [\n    "*')
    with pytest.raises(FileRefusal, match="the data is damaged"):
        loads(text.encode(), "shore")


# Source: CSS Images 3, section 5.1 (default sizing), CSS Flexbox 1, section 4.5.
@pytest.mark.parametrize(
    ("style", "size"),
    [
        ({}, (40.0, 30.0)),
        ({"width": fixed(80.0)}, (80.0, 60.0)),
        ({"height": fixed(15.0)}, (20.0, 15.0)),
        ({"width": GROW}, (300.0, 225.0)),
        ({"width": GROW, "height": fixed(50.0)}, (300.0, 50.0)),
        ({"width": fixed(50.0), "height": FIT, "aspect": 1.0}, (50.0, 50.0)),
    ],
)
def test_a_picture_drives_its_proportion(layout, style, size):
    picture = Picture("any", 40.0, 30.0)
    root = box("root", image("sea", picture, **style), width=300)
    document = add_screen(Document("Shore"), Screen("shore", "Shore", root))
    scene = Resolver().screen(document, document.screens["shore"])
    placed = layout.place(scene.layout).children[0]
    assert (placed.width, placed.height) == size


def test_an_image_without_a_picture_is_as_large_as_a_shape(layout):
    document = add_screen(
        Document("Shore"), Screen("shore", "Shore", box("root", image("none", NO_PICTURE)))
    )
    scene = Resolver().screen(document, document.screens["shore"])
    assert layout.place(scene.layout).width == 24.0


def test_equal_data_is_kept_once():
    assert Asset("a.png", "image/png", b"x").digest == Asset("b.png", "image/png", b"x").digest
