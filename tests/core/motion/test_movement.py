"""Changing the target on the way: nothing jumps, and springs keep their speed."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from outgrowth.core.color import parse
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.values import fixed
from outgrowth.core.layout import Layout
from outgrowth.core.motion.movement import Movement
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw, record
from outgrowth.core.resolve.scene import Interner, SceneParts
from outgrowth.core.text import Typesetter

intern = Interner()
RED, BLUE = parse("#FF0000"), parse("#0000FF")
SPRING = Motion(0.0, "spring(170, 14)")


def tree(width, fill, rotate=0.0, extra=False):
    """A row of a block and another after it, and perhaps a third."""
    blocks = [("a", width, fill, rotate), ("b", 20.0, BLUE, 0.0)]
    blocks += [("c", 30.0, RED, 0.0)] if extra else []
    children = []
    for _, wide, color, turn in blocks:
        style = {"width": fixed(wide), "height": fixed(10.0), "fill": color, "rotate": turn}
        layout = intern.layout("box", style, ())
        children.append(intern.scene(SceneParts("box", layout, intern.paint(style))))
    ids = tuple(name for name, *_ in blocks)
    row = {"flow": "row"}
    layout = intern.layout("box", row, tuple(c.layout for c in children))
    return intern.scene(SceneParts("box", layout, intern.paint(row), tuple(children), ids, ids))


@pytest.fixture(scope="module")
def views(fonts):
    layout = Layout(Typesetter(fonts))

    def view(*about, **more):
        scene = tree(*about, **more)
        return View(scene, layout.place(scene.layout))

    return (
        view(10.0, RED),
        view(50.0, BLUE, 90.0),
        view(30.0, RED, 10.0, extra=True),
        view(80.0, BLUE, extra=True),
    )


motions = st.sampled_from(
    [
        Motion(300.0, "ease-out"),
        Motion(200.0, "linear", 50.0),
        Motion(400.0, "cubic-bezier(0.3, -0.5, 0.2, 1.6)"),
        SPRING,
    ]
)
turns = st.lists(
    st.tuples(st.integers(0, 3), motions, st.integers(1, 350), st.integers(0, 2)),
    min_size=1,
    max_size=6,
)


@settings(max_examples=80)
@given(turns)
def test_another_target_at_any_instant_makes_no_jump(views, close, turns):
    movement, now = Movement(views[0]), 0.0
    for target, motion, wait, origin in turns:
        before = record(draw(*movement.at_time(now)))
        movement.change(views[target], now, origin, motion)
        after = [drawn for drawn in record(draw(*movement.at_time(now))) if drawn.opacity > 1e-9]
        assert sorted(map(str, after)) == sorted(map(str, close_to(before, after)))
        now += wait
    movement.prune(now + 10_000)
    assert not movement.moving
    assert record(draw(*movement.at_time(now))) == record(draw(*views[turns[-1][0]]))


def close_to(before, after):
    """The marks of before, each as the mark of after that it is within 1e-6 of."""
    found = []
    for drawn in before:
        if drawn.opacity <= 1e-9:
            continue
        near = [other for other in after if _near(drawn, other)]
        found.append(near[0] if near else drawn)
    return found


def _near(a, b):
    numbers = zip(_flat(a), _flat(b), strict=False)
    return len(_flat(a)) == len(_flat(b)) and all(abs(x - y) < 1e-6 for x, y in numbers)


def _flat(drawn):
    color = drawn.mark.color
    return [
        drawn.mark.width,
        drawn.mark.height,
        *(color.red, color.green, color.blue, color.alpha),
        *drawn.to_root,
        drawn.opacity,
    ]


@given(st.integers(1, 600), st.sampled_from([1, 3]))
def test_a_spring_that_is_interrupted_keeps_its_speed(views, instant, other):
    movement = Movement(views[0])
    movement.change(views[1], 0.0, "tween", SPRING)

    def speed(at):
        step = 0.01
        width = [movement.at_time(t).placed.children[0].width for t in (at, at + step)]
        return (width[1] - width[0]) / step

    before = speed(instant - 0.01)
    movement.change(views[other if other != 1 else 0], instant, "tween", SPRING)
    assert speed(instant) == pytest.approx(before, abs=0.02)


def test_what_has_no_new_target_goes_on_as_it_was(views):
    movement = Movement(views[0])
    movement.change(views[1], 0.0, "tween", Motion(400.0, "linear"))
    there = movement.at_time(200.0).placed.children[0].width
    movement.change(views[1], 100.0, "other", Motion(1000.0, "linear"))
    assert movement.at_time(200.0).placed.children[0].width == there == 30.0


def test_each_property_moves_in_its_own_way(views, close):
    def late_fill(path, name):
        return Motion(100.0, "linear", 100.0) if name == "fill" else None

    movement = Movement(views[0])
    movement.change(views[1], 0.0, "tween", Motion(100.0, "linear"), late_fill)
    half = movement.at_time(50.0)
    assert half.placed.children[0].width == 30.0
    assert half.scene.children[0].paint.fill == close(RED)
    assert {m.property for m in movement.moved()} == {"x", "width", "fill", "rotate"}
