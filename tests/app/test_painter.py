"""A few pictures guard the whole of the Qt painter; the rest is the recorder's."""

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage, QPainter, QPainterPath

from outgrowth.app.paint import QtPainter, Rasters, shadows
from outgrowth.app.paint.rasters import raster_of
from outgrowth.app.paint.shadows import blurred, soft
from outgrowth.app.shot import DrawingRefusal, picture
from outgrowth.core.color import over, parse
from outgrowth.core.document.values import Shadow, fixed, words
from outgrowth.core.layout import Layout
from outgrowth.core.paint import draw
from outgrowth.core.resolve.scene import Interner, SceneParts
from outgrowth.core.text import Typesetter
from outgrowth.workspace.engine import shipped_engine
from tests import color_font

intern = Interner()
RED, BLUE, WHITE = parse("#FF0000"), parse("#0000FF"), parse("#FFFFFF")


def box(*children, kind="box", **style):
    values = {k.replace("_", "-"): v for k, v in style.items()}
    ids = tuple(str(n) for n in range(len(children)))
    layout = intern.layout(kind, values, tuple(c.layout for c in children))
    return intern.scene(SceneParts(kind, layout, intern.paint(values), children, ids, ids))


def square(side, **style):
    return box(width=fixed(side), height=fixed(side), **style)


@pytest.fixture
def image(qapp, fonts):
    layout = Layout(Typesetter(fonts))

    def made(scene, scale=1.0):
        return picture(scene, layout.place(scene.layout), scale, cut=True)

    return made


def pixel(picture, x, y):
    color = picture.pixelColor(x, y)
    return tuple(round(c * 255) for c in (color.redF(), color.greenF(), color.blueF()))


def rgb(color):
    return tuple(round(c * 255) for c in (color.red, color.green, color.blue))


def test_a_fill_reaches_its_edges_and_leaves_round_corners_free(image):
    radii = {f"radius_{c}": 8.0 for c in ("top_left", "top_right", "bottom_right", "bottom_left")}
    drawn = image(square(20.0, fill=RED, **radii))
    assert pixel(drawn, 10, 0) == pixel(drawn, 0, 10) == rgb(RED)
    assert drawn.pixelColor(0, 0).alpha() == 0


def test_a_stroke_lies_inside_the_edge(image):
    drawn = image(
        square(
            20.0,
            fill=RED,
            stroke=BLUE,
            stroke_top=3.0,
            stroke_right=3.0,
            stroke_bottom=3.0,
            stroke_left=3.0,
        )
    )
    assert pixel(drawn, 2, 10) == rgb(BLUE)
    assert pixel(drawn, 3, 10) == rgb(RED)
    assert drawn.width() == 20


def test_a_faded_group_does_not_shine_through_itself(image):
    inner = square(20.0, fill=BLUE)
    drawn = image(box(box(inner, fill=RED, opacity=0.5), fill=WHITE))
    expected = rgb(over(BLUE.with_alpha(0.5), WHITE))
    assert all(abs(a - b) <= 2 for a, b in zip(pixel(drawn, 10, 10), expected, strict=True))


def test_what_reaches_over_a_clipping_edge_is_cut(image):
    wide = square(40.0, fill=BLUE)
    clipped = box(wide, width=fixed(10.0), height=fixed(10.0), flow="free", clip=True)
    drawn = image(box(clipped, fill=WHITE, width=fixed(40.0), height=fixed(40.0)))
    assert pixel(drawn, 5, 5) == rgb(BLUE)
    assert pixel(drawn, 15, 15) == rgb(WHITE)


def test_an_outer_shadow_falls_outside_only(image):
    shadow = (Shadow(parse("#000000"), 0.0, 6.0, 4.0),)
    holder = box(square(20.0, shadow=shadow), fill=WHITE, padding_bottom=20.0)
    drawn = image(holder)
    assert pixel(drawn, 10, 10) == rgb(WHITE), "nothing beneath a box without a fill"
    assert pixel(drawn, 10, 22) < (120, 120, 120)


def test_a_kept_raster_is_the_same_picture(qapp, ferry, fonts, resolver):
    layout = Layout(Typesetter(fonts))
    scene = resolver.instance(ferry, _button())
    fragment = draw(scene, layout.place(scene.layout))
    rasters = Rasters()
    pictures = []
    for _ in range(3):
        made = QImage(160, 60, QImage.Format.Format_ARGB32_Premultiplied)
        made.fill(0)
        painter = QPainter(made)
        QtPainter(painter, rasters, 1.25).draw(fragment, 9.3, 5.7)
        painter.end()
        pictures.append(made)
    assert raster_of(fragment, 1.25)[0].image is not None, "kept from the second time on"
    assert pictures[1] == pictures[2]
    difference = np.abs(_array(pictures[0]) - _array(pictures[1]))
    assert np.mean(difference > 8) < 0.06, "snapping may move a letter by part of a pixel"


def _button():
    from outgrowth.core.resolve.cascade import InstanceInput

    return InstanceInput("button")


def _array(made):
    bits = made.constBits().asstring(made.sizeInBytes())
    return np.frombuffer(bits, np.uint8).astype(int)


def test_a_turned_part_is_turned(image):
    bar = box(width=fixed(30.0), height=fixed(4.0), fill=RED, rotate=90.0)
    holder = box(bar, width=fixed(30.0), height=fixed(30.0), align="center", fill=WHITE)
    drawn = image(holder)
    assert pixel(drawn, 15, 3) == rgb(RED)
    assert pixel(drawn, 3, 15) == rgb(WHITE)


# Source: Filter Effects 1, section 9.6: three box blurs come close to the Gaussian.
@pytest.mark.parametrize("deviation", [2.0, 5.0, 9.0])
def test_the_blur_is_close_to_a_gaussian(deviation):
    mask = np.zeros((1, 201))
    mask[0, 100] = 1.0
    spread = blurred(np.repeat(mask, 201, axis=0), deviation)[100]
    x = np.arange(201) - 100
    gaussian = np.exp(-(x**2) / (2 * deviation**2))
    gaussian /= gaussian.sum()
    assert spread.sum() == pytest.approx(1.0, abs=1e-6)
    assert np.abs(np.cumsum(spread) - np.cumsum(gaussian)).max() < 0.03


def test_an_absurd_picture_is_refused(image):
    with pytest.raises(DrawingRefusal, match="the most"):
        image(square(30_000.0, fill=RED))


def test_a_stroke_lies_where_and_on_the_sides_it_is_said_to(image):
    below = image(square(20.0, fill=RED, stroke=BLUE, stroke_bottom=4.0))
    assert pixel(below, 10, 18) == rgb(BLUE)
    assert pixel(below, 10, 1) == rgb(RED)
    assert pixel(below, 1, 10) == rgb(RED)
    sides = {f"stroke_{side}": 4.0 for side in ("top", "right", "bottom", "left")}
    half = image(square(20.0, fill=RED, stroke=BLUE, stroke_place="center", **sides))
    assert pixel(half, 1, 10) == rgb(BLUE)
    assert pixel(half, 3, 10) == rgb(RED), "two px inside, two outside"
    outside = image(square(20.0, fill=RED, stroke=BLUE, stroke_place="outside", **sides))
    assert pixel(outside, 0, 10) == rgb(RED)


def test_a_ring_sweeps_from_the_top(image):
    quarter = image(
        square(40.0, kind="shape", form="ellipse", fill=RED, arc_sweep=90.0, thickness=8.0)
    )
    assert pixel(quarter, 31, 8) == rgb(RED), "upper right"
    assert pixel(quarter, 8, 8) != rgb(RED), "not yet upper left"
    assert pixel(quarter, 21, 19) != rgb(RED), "hollow"


@pytest.mark.parametrize("scale", [1.0, 4.0, 5.0, 16.0])
def test_letters_are_drawn_at_every_size(qapp, ferry, scale):
    """Qt draws letters of 64 device px and more in another way than small ones."""
    view = shipped_engine().view(ferry, "button")
    image = picture(*view, scale, True)
    across = range(0, image.width(), 2)
    middle = image.height() // 2
    light = [x for x in across if image.pixelColor(x, middle).lightness() > 200]
    assert len(light) > len(across) / 20


def test_a_wide_shadow_takes_little_memory_and_loses_nothing(qapp, monkeypatch):
    """A blur of 10,000 on a box of a million px would be an image of 10¹² pixels."""
    path = QPainterPath()
    path.addRect(0.0, 0.0, 300.0, 200.0)
    bounds = path.boundingRect().adjusted(-301, -301, 301, 301)
    coarse = soft(path, bounds, 200.0, parse("#000000"), 1.0)
    monkeypatch.setattr(shadows, "_FINEST_DEVIATION", 1e9)
    fine = soft(path, bounds, 200.0, parse("#000000"), 1.0)
    assert coarse.width() < fine.width() / 2
    smooth = Qt.TransformationMode.SmoothTransformation
    ratio = Qt.AspectRatioMode.IgnoreAspectRatio
    again = coarse.scaled(fine.width(), fine.height(), ratio, smooth)
    spots = [
        (x, y) for x in range(5, fine.width() - 5, 37) for y in range(5, fine.height() - 5, 31)
    ]
    assert max(abs(again.pixelColor(*s).alpha() - fine.pixelColor(*s).alpha()) for s in spots) <= 2
    monkeypatch.undo()
    path.addRect(0.0, 0.0, 1e6, 1e6)
    huge = soft(
        path,
        path.boundingRect().adjusted(-15001, -15001, 15001, 15001),
        10_000.0,
        parse("#000000"),
        2.0,
    )
    assert huge.width() * huge.height() <= 2_100_000


@pytest.mark.parametrize("scale", [1.0, 1.25, 2.0])
def test_what_lies_half_way_between_two_pixels_goes_one_way_wherever_it_is(qapp, fonts, scale):
    rows = [box(height=fixed(h), width=fixed(9.5), fill=RED) for h in (10.5, 3.5, 7.3, 5.5, 0.5)]
    scene = box(*rows, flow="column", gap=1.0)
    layout = Layout(Typesetter(fonts))
    fragment = draw(scene, layout.place(scene.layout))

    def drawn(shift, missed=0.0):
        image = QImage(40, 120, QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        painter = QPainter(image)
        px = shift / scale + missed
        QtPainter(painter, Rasters(dict), scale).draw(fragment, px, px)
        painter.end()
        return image.copy(shift, shift, 24, 80)

    still = drawn(0)
    assert still.pixelColor(3, 3).red() == 255 and still.pixelColor(3, 3).blue() == 0
    for shift in (1, 2, 3, 5, 8):
        # By whole device pixels, which sums of many places miss by their last bits.
        for missed in (-3e-13, 0.0, 3e-13):
            assert drawn(shift, missed) == still


def drawn_words(qapp, fonts, words_, scale=1.0, **style):
    layout = Layout(Typesetter(fonts))
    scene = box(kind="text", content=words(words_), font_size=40.0, **style)
    image = picture(scene, layout.place(scene.layout), scale)
    shown = image.convertToFormat(QImage.Format.Format_RGBA8888)
    data = shown.constBits().asarray(shown.sizeInBytes())
    return np.frombuffer(data, np.uint8).reshape(shown.height(), -1, 4)[:, : shown.width()].copy()


@pytest.mark.parametrize("scale", [1.0, 2.0])
def test_letters_with_colors_are_drawn_with_them(qapp, fonts, scale):
    pixels = drawn_words(qapp, fonts.also([color_font.flags()]), "👍", scale, color=RED)
    area = (32 * scale) ** 2
    red = (pixels == (255, 0, 0, 255)).all(axis=2).sum()
    blue = (pixels == (0, 0, 255, 255)).all(axis=2).sum()
    assert red == pytest.approx(area * 3 / 4, rel=0.06)
    assert blue == pytest.approx(area / 4, rel=0.06)


def test_what_a_family_has_no_file_for_is_drawn_so(qapp, fonts):
    """Bold is as wide and darker; slanted letters lean to the right above the baseline."""

    def ink(**style):
        return drawn_words(qapp, fonts, "ווו", color=BLUE, **style)[..., 3].astype(float)

    plain, bold, leaning = ink(), ink(font_weight=700.0), ink(font_style="italic")
    assert bold.shape == plain.shape
    assert bold.sum() > 1.2 * plain.sum()
    assert leaning.sum() == pytest.approx(plain.sum(), rel=0.15)
    columns = np.arange(plain.shape[1])
    inked = np.flatnonzero(plain.sum(axis=1))
    top, foot = inked[2], inked[-3]

    def middle(image, row):
        return (image[row] * columns).sum() / image[row].sum()

    lean = middle(leaning, top) - middle(leaning, foot)
    upright = middle(plain, top) - middle(plain, foot)
    assert lean - upright == pytest.approx((foot - top) / 4, rel=0.25)
