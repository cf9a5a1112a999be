import pytest

from outgrowth.core.color import Color, ColorRefusal, Gradient, Stop, darkened, parse, parse_fill
from outgrowth.core.document.types import FillType
from outgrowth.core.layout import Placed
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.scene import Interner, SceneParts
from tests.core.motion.tweens import Tween

SEA, SAND, RED = parse("#17495A"), parse("#F5F0E6"), parse("#FF0000")


# Source: CSS Images 3, section 3.1.1 (directions) and 3.5.3 (stops without a place).
@pytest.mark.parametrize(
    ("text", "angle", "places"),
    [
        ("linear-gradient(#17495A, #F5F0E6)", 180.0, [0, 1]),
        ("linear-gradient(to right, #17495A, #F5F0E6)", 90.0, [0, 1]),
        ("linear-gradient(45deg, #17495A 10%, red, #F5F0E6)", 45.0, [0.1, 0.55, 1]),
        ("linear-gradient(red 40%, white, black, blue)", 180.0, [0.4, 0.6, 0.8, 1]),
        ("linear-gradient(red 80%, blue 20%)", 180.0, [0.8, 0.8]),
        ("linear-gradient(0.5deg, rgb(1, 2, 3), hsl(20 50% 40%) 70%)", 0.5, [0, 0.7]),
    ],
)
def test_css_notation_is_read(text, angle, places):
    found = parse_fill(text)
    assert isinstance(found, Gradient)
    assert found.angle == angle
    assert [stop.at for stop in found.stops] == pytest.approx(places)
    again = parse_fill(found.css)
    assert again == found
    assert FillType().read(FillType().write(found)) == found


# Source: CSS Images 3, section 3.2.1 (position) and 3.2.2 (farthest-corner).
@pytest.mark.parametrize(
    ("lead", "center", "radii", "ellipse"),
    [
        ("", (50, 50), None, (40, 20, 40 * 2**0.5, 20 * 2**0.5)),
        ("at 25% 0%, ", (25, 0), None, (20, 0, 60 * 2**0.5, 40 * 2**0.5)),
        ("at left bottom, ", (0, 100), None, (0, 40, 80 * 2**0.5, 40 * 2**0.5)),
        ("at top, ", (50, 0), None, (40, 0, 40 * 2**0.5, 40 * 2**0.5)),
        ("ellipse 25% 50% at -10% 120%, ", (-10, 120), (25, 50), (-8, 48, 20, 20)),
        ("30% 10%, ", (50, 50), (30, 10), (40, 20, 24, 4)),
    ],
)
def test_where_a_radial_gradient_begins_and_how_far_it_reaches(lead, center, radii, ellipse):
    found = parse_fill(f"radial-gradient({lead}red, blue)")
    assert (found.center, found.radii) == (center, radii)
    assert found.ellipse(80.0, 40.0) == pytest.approx(ellipse)
    assert parse_fill(found.css) == found


@pytest.mark.parametrize(
    "text",
    [
        "radial-gradient(at 3px 4px, red, blue)",
        "radial-gradient(at nowhere, red, blue)",
        "linear-gradient(red)",
        "linear-gradient(red, bluish)",
        "conic-gradient(red, blue)",
        "radial-gradient()",
    ],
)
def test_what_is_no_gradient_is_a_sentence(text):
    with pytest.raises(ColorRefusal) as caught:
        parse_fill(text)
    assert str(caught.value).endswith((".", "%."))


# Source: CSS Images 3, section 3.1: the line is as long as reaches the corners.
def test_the_line_of_a_gradient_reaches_the_corners():
    def line(angle, width, height):
        return Gradient("linear", (), angle).line(width, height)

    assert line(90.0, 80.0, 40.0) == pytest.approx((0, 20, 80, 20))
    assert line(180.0, 80.0, 40.0) == pytest.approx((40, 0, 40, 40))
    assert line(45.0, 40.0, 40.0) == pytest.approx((0, 40, 40, 0))


def test_a_gradient_gets_darker_stop_by_stop():
    found = Gradient("radial", (Stop(SEA, 0.0), Stop(SAND, 1.0))).recolored("darken", 0.1)
    assert [stop.color for stop in found.stops] == [darkened(SEA, 0.1), darkened(SAND, 0.1)]


def view(fill):
    intern = Interner()
    layout = intern.layout("box", {}, ())
    scene = intern.scene(SceneParts("box", layout, intern.paint({"fill": fill})))
    return View(scene, Placed(10.0, 10.0))


# Source: CSS Images 4, section 8: gradients of one form are mixed stop by stop.
def test_a_tween_mixes_gradients_and_a_colour_with_one():
    one = Gradient("linear", (Stop(SEA, 0.0), Stop(SAND, 1.0)), 0.0)
    two = Gradient("linear", (Stop(RED, 0.2), Stop(SAND, 1.0)), 90.0)
    half = Tween(view(one), view(two)).at_time(0.5).scene.paint.fill
    assert half.angle == 45.0
    assert half.stops[0].at == pytest.approx(0.1)
    from_plain = Tween(view(RED), view(one)).at_time(0.0).scene.paint.fill
    assert all(_near(stop.color, RED) for stop in from_plain.stops)
    other = Gradient("radial", one.stops)
    assert Tween(view(one), view(other)).at_time(0.3).scene.paint.fill == other, "cut in"


def _near(a: Color, b: Color):
    parts = ((a.red, b.red), (a.green, b.green), (a.blue, b.blue))
    return all(abs(x - y) < 1e-6 for x, y in parts)
