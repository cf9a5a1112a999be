import pytest
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.color import TRANSPARENT, parse
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.values import Shadow, fixed, words
from outgrowth.core.layout import Layout
from outgrowth.core.motion.mixing import mix
from outgrowth.core.motion.view import GHOST, View
from outgrowth.core.paint import draw, record
from outgrowth.core.resolve.scene import Interner, SceneParts
from outgrowth.core.text import Typesetter
from tests.core.motion.tweens import Tween

intern = Interner()
RED, BLUE = parse("#FF0000"), parse("#0000FF")


def node(kind, children, style):
    values = {k.replace("_", "-"): v for k, v in style.items()}
    ids = tuple(name for name, _ in children)
    inner = tuple(child for _, child in children)
    layout = intern.layout(kind, values, tuple(c.layout for c in inner))
    return intern.scene(SceneParts(kind, layout, intern.paint(values), inner, ids, ids))


def box(*children, **style):
    return node("box", children, style)


@pytest.fixture
def view(layout):
    return lambda scene: View(scene, layout.place(scene.layout))


def block(width, **style):
    return box(width=fixed(width), height=fixed(10.0), **style)


def test_neighbours_move_with_what_grows(view):
    start = view(box(("a", block(10.0)), ("b", block(20.0))))
    end = view(box(("a", block(50.0)), ("b", block(20.0))))
    half = Tween(start, end).at_time(0.5)
    assert half.placed.xs == (0.0, 30.0)
    assert half.placed.children[0].width == 30.0
    assert half.placed.width == 50.0
    assert half.scene.children[1] is end.scene.children[1], "what stays costs nothing"


def test_the_ends_are_the_views_themselves(view, close):
    start, end = view(block(10.0, fill=RED)), view(block(30.0, fill=BLUE))
    tween = Tween(start, end)
    assert record(draw(*tween.at_time(1.0))) == close(record(draw(*end)))
    assert record(draw(*tween.at_time(0.0))) == close(record(draw(*start)))


def test_colours_mix_in_oklab_and_from_nothing_without_turning_grey(view, close):
    start, end = view(block(10.0, fill=TRANSPARENT)), view(block(10.0, fill=RED))
    half = Tween(start, end).at_time(0.5).scene.paint.fill
    assert half == close(mix(TRANSPARENT, RED, 0.5))
    assert half == close(RED.with_alpha(0.5))


def test_what_appears_fades_in_and_what_goes_fades_where_it_was(view):
    start = view(box(("old", block(10.0)), ("stays", block(20.0))))
    end = view(box(("stays", block(20.0)), ("new", block(30.0, opacity=0.8))))
    half = Tween(start, end).at_time(0.25)
    found = dict(zip(half.scene.ids, half.scene.children, strict=True))
    assert found["new"].paint.opacity == pytest.approx(0.2)
    assert found[GHOST + "old"].paint.opacity == 0.75
    assert found[GHOST + "old"].click_through, "a ghost is not hit"
    assert half.placed.xs[half.scene.ids.index("stays")] == 7.5
    movement = Tween(start, end).movement
    movement.change(start, 250.0, "tween", Motion(1000.0, "linear"))
    turned = movement.at_time(750.0)
    found = dict(zip(turned.scene.ids, turned.scene.children, strict=True))
    assert found["old"].paint.opacity == 0.875, "and turns around where it is"
    assert found[GHOST + "new"].paint.opacity == pytest.approx(0.1)


def test_new_words_fade_into_the_old(view):
    def text(said):
        return node("text", (), {"content": words(said)})

    start, end = view(box(("t", text("Wait")))), view(box(("t", text("Board now"))))
    half = Tween(start, end).at_time(0.5)
    assert half.scene.ids == (GHOST + "t", "t")
    assert [child.paint.opacity for child in half.scene.children] == [0.5, 0.5]


def test_a_turn_goes_the_way_it_was_written(view):
    start, end = view(block(10.0)), view(block(10.0, rotate=540.0))
    assert Tween(start, end).at_time(0.5).scene.paint.rotate == 270.0


def test_shadows_are_mixed_in_pairs_and_come_from_nothing(view):
    soft = Shadow(RED, 0.0, 8.0, 20.0)
    start, end = view(block(10.0)), view(block(10.0, shadow=(soft,)))
    (half,) = Tween(start, end).at_time(0.5).scene.paint.shadow
    assert (half.y, half.blur) == (8.0, 20.0)
    assert half.color.alpha == pytest.approx(0.5)
    inner = view(block(10.0, shadow=(Shadow(RED, inner=True),)))
    assert Tween(end, inner).at_time(0.1).scene.paint.shadow[0].inner, "outer to inner is a cut"


@given(st.floats(0, 1), st.floats(0, 1))
def test_turning_around_at_any_instant_starts_where_the_picture_is(fonts, close, first, second):
    layout = Layout(Typesetter(fonts))

    def view(scene):
        return View(scene, layout.place(scene.layout))

    start = view(box(("a", block(10.0, fill=RED)), ("b", block(20.0))))
    end = view(box(("a", block(50.0, fill=BLUE, scale=2.0)), ("b", block(5.0, rotate=30.0))))
    movement = Tween(start, end).movement
    shown = movement.at_time(first * 1000)
    movement.change(start, first * 1000, "tween", Motion(1000.0, "linear"))
    assert record(draw(*movement.at_time(first * 1000))) == close(record(draw(*shown)))
    width = movement.at_time((first + second) * 1000).placed.width
    assert min(30.0, shown.placed.width) - 1e-9 <= width <= max(30.0, shown.placed.width) + 1e-9
