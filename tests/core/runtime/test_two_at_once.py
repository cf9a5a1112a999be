"""Changes that begin while others run: each runs out by its own motion, and their sum is what is
seen. All expectations are worked out by hand for straight lines."""

from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from demo.behaviours import put, turned, with_cue
from demo.drawing import box, instance, text
from outgrowth.core.color import parse
from outgrowth.core.document.cues import Motion, Trigger
from outgrowth.core.document.records import Document
from outgrowth.core.document.values import Once, fixed, plain, words
from outgrowth.core.edits.cues import set_motion, set_part_motion
from outgrowth.core.layout.rectangles import locate
from tests.core.runtime.parts import POINTER, door, part, screen, styled


def doors(count, once=False, **more):
    """A screen with doors one below the other."""
    document = door(**more)
    style = {"one_at_a_time": (Once("open", "yes"),)} if once else {}
    held = [instance(f"d{n}", "door") for n in range(count)]
    return screen(document, "hall", *held, flow="column", width=60, **style)


def gaps(runtime, count):
    """By how much each door's end and the next one's begin are apart."""
    rects = [runtime.rect(f"d{n}") for n in range(count)]
    return [b.y - (a.y + a.height) for a, b in pairwise(rects)]


def test_a_neighbour_that_opens_later_leaves_the_first_alone(run):
    runtime = run(doors(3), "hall")
    runtime.tap("d0", "head")
    runtime.advance(150)
    runtime.tap("d1", "head")
    assert runtime.rect("d0").height == pytest.approx(20 + 37.5)
    runtime.advance(250)
    assert runtime.rect("d0").height == 120, "ends when it would have ended"
    assert runtime.rect("d1").height == pytest.approx(20 + 62.5)
    assert runtime.rect("d2").y == pytest.approx(120 + 20 + 62.5)
    runtime.advance(150)
    assert not runtime.moving


def test_opening_slowly_and_closing_quickly_leaves_no_gap(run):
    runtime = run(doors(3, once=True), "hall")
    runtime.tap("d1", "head")
    runtime.advance(1000)
    runtime.tap("d0", "head")
    for ms in (0, 1, 74, 75, 50, 100, 99, 1):
        runtime.advance(ms)
        assert gaps(runtime, 3) == pytest.approx([0, 0], abs=1e-9)
    runtime.restart()
    runtime.tap("d1", "head")
    runtime.advance(1000)
    runtime.tap("d0", "head")
    runtime.advance(100)
    assert runtime.rect("d0").height == pytest.approx(20 + 25), "a quarter of 400 ms"
    assert runtime.rect("d1").height == pytest.approx(120 - 100 * 100 / 150)
    assert runtime.rect("d2").y == pytest.approx(45 + 120 - 100 * 100 / 150)


def test_an_origin_takes_over_what_is_left_of_its_own(run):
    runtime = run(doors(2), "hall")
    runtime.tap("d0", "head")
    runtime.advance(200)
    runtime.tap("d0", "head")
    assert runtime.rect("d0").height == pytest.approx(70)
    runtime.advance(75)
    assert runtime.rect("d0").height == pytest.approx(20 + 25), "half of what was left"
    runtime.advance(75)
    assert (runtime.moving, runtime.rect("d0").height) == (False, 20)


def test_a_cue_that_sets_two_axes_moves_each_in_its_own_time(run):
    root = box("two", box("a", width=10, height=10), box("b", width=10, height=10), flow="column")
    document = part(Document("Two"), "two", root, first=("no", "yes"), second=("no", "yes"))
    document = styled(document, "two", ("a",), {"first": "yes"}, height=fixed(110.0))
    document = styled(document, "two", ("b",), {"second": "yes"}, height=fixed(110.0))
    document = set_motion(document, "two", "first", "", Motion(100.0, "linear"))
    document = set_motion(document, "two", "second", "", Motion(400.0, "linear"))
    document = with_cue(document, "two", "tap", put("first", "yes"), put("second", "yes"))
    runtime = run(document, "two", True)
    runtime.tap("a")
    runtime.advance(50)
    assert runtime.rect("a").height == pytest.approx(60)
    assert runtime.rect("b").height == pytest.approx(10 + 12.5)
    assert runtime.rect("b").y == pytest.approx(60)
    runtime.advance(50)
    assert runtime.rect("a").height == 110
    assert runtime.rect("b").height == pytest.approx(35)


def test_a_hover_never_hurries_what_opens(run):
    document = door(opens=400.0)
    root = box("lamp", width=60, height=20, fill="#000000")
    document = part(document, "lamp", root, state=POINTER)
    document = styled(document, "lamp", (), {"state": "hover"}, height=fixed(30.0))
    document = set_motion(document, "lamp", "state", "", Motion(50.0, "linear"))
    lamp, below = instance("lamp", "lamp"), instance("d0", "door")
    document = screen(document, "hall", below, lamp, flow="column", width=60)
    runtime = run(document, "hall")
    runtime.tap("d0", "head")
    runtime.advance(100)
    runtime.point("lamp")
    runtime.advance(50)
    assert runtime.rect("lamp").height == 30
    assert runtime.rect("d0").height == pytest.approx(20 + 37.5)
    assert runtime.rect("lamp").y == pytest.approx(57.5)


def test_a_part_with_its_own_motion_splits_off_only_what_moves_nothing_else(run):
    document = styled(door(), "door", ("body",), opacity=0.0)
    document = styled(document, "door", ("body",), {"open": "yes"}, opacity=1.0)
    late = Motion(100.0, "linear", 300.0)
    document = set_part_motion(document, "door", ("body",), "", late)
    document = screen(document, "hall", instance("d0", "door"), flow="column")
    runtime = run(document, "hall")
    runtime.tap("d0", "head")
    runtime.advance(200)
    assert runtime.node("d0", "body").paint.opacity == 0.0, "waits"
    assert runtime.rect("d0", "body").height == pytest.approx(50), "its size carries others"
    runtime.advance(150)
    assert runtime.node("d0", "body").paint.opacity == pytest.approx(0.5)
    runtime.advance(50)
    assert not runtime.moving


SPRING = Motion(0.0, "spring(170, 12)")


def springing(start, end):
    document = part(
        Document("Spring"), "s", box("s", width=40, height=40, **start), on=("no", "yes")
    )
    document = styled(document, "s", (), {"on": "yes"}, **end)
    document = set_motion(document, "s", "on", "", SPRING)
    return with_cue(document, "s", "tap", turned("on"))


def test_overshoot_is_drawn_within_what_is_allowed(run):
    document = springing({"opacity": 0.2}, {"opacity": 1.0, "width": fixed(0.0)})
    runtime = run(document, "s", True)
    seen = []
    runtime.press(5, 5)
    runtime.release(5, 5)
    for _ in range(100):
        runtime.advance(10)
        view = runtime.view()
        seen.append((view.scene.paint.opacity, view.placed.width))
    assert all(0 <= opacity <= 1 and width >= 0 for opacity, width in seen)
    assert len({opacity for opacity, _ in seen if opacity == 1.0}) == 1
    assert seen[-1][0] > 0.99


def test_a_colour_keeps_its_speed_too(run):
    document = springing({"fill": "#000000"}, {"fill": parse("#FFFFFF")})
    runtime = run(document, "s", True)

    def speed():
        before = runtime.view().scene.paint.fill.red
        runtime.advance(0.05)
        return (runtime.view().scene.paint.fill.red - before) / 0.05

    runtime.press(5, 5)
    runtime.release(5, 5)
    runtime.advance(90)
    before = speed()
    runtime.press(5, 5)
    runtime.release(5, 5)
    assert speed() == pytest.approx(before, rel=0.05)


def test_a_spring_that_waits_first_starts_without_speed(run):
    document = springing({}, {"width": fixed(140.0)})
    waits = Motion(0.0, "spring(170, 12)", 200.0)
    document = set_motion(document, "s", "on", "no", waits)
    runtime = run(document, "s", True)
    runtime.press(5, 5)
    runtime.release(5, 5)
    runtime.advance(100)
    runtime.press(5, 5)
    runtime.release(5, 5)
    there = runtime.view().placed.width
    runtime.advance(200)
    assert runtime.view().placed.width == pytest.approx(there)
    runtime.advance(1)
    assert runtime.view().placed.width == pytest.approx(there, abs=0.1)


def test_a_thousand_quick_hovers_cost_no_more_than_ten(run):
    document = part(
        Document("Hover"), "h", box("h", width=40, height=40, fill="#000000"), state=POINTER
    )
    document = styled(
        document, "h", (), {"state": "hover"}, fill=parse("#FFFFFF"), width=fixed(60.0)
    )
    runtime = run(document, "h", True)
    for _ in range(500):
        runtime.pointer_move(5, 5)
        runtime.advance(3)
        runtime.pointer_leave()
        runtime.advance(3)
    assert len(runtime.moved()) == 2
    runtime.advance(1000)
    assert not runtime.moving


def test_words_that_change_fade_and_the_box_goes_on_moving(run):
    root = box("n", text("says", "Gate 3"), box("rest", width=20, height=20), flow="row", padding=4)
    document = part(Document("Gate"), "n", root, at=("three", "four"))
    document = styled(document, "n", ("says",), {"at": "four"}, content=words("Gate 14"))
    document = set_motion(document, "n", "at", "", Motion(100.0, "linear"))
    document = with_cue(document, "n", "tap", turned("at"))
    runtime = run(document, "n", True)
    runtime.tap("rest")
    runtime.advance(50)
    view = runtime.view()
    assert view.scene.ids == ("~says", "says", "rest")
    old, new = view.scene.children[:2]
    assert (plain(old.layout.style.content), plain(new.layout.style.content)) == (
        "Gate 3",
        "Gate 14",
    )
    assert view.placed.xs[0] == view.placed.xs[1], "what stays of the words keeps its place"
    for _ in range(3):
        runtime.tap("rest")
        runtime.advance(10)
    assert len(runtime.view().scene.ids) == 4 - 1, "the same words are found again"
    runtime.advance(500)
    assert "~says" not in runtime.view().scene.ids


def test_what_fades_out_and_comes_back_turns_around(run):
    root = box("t", box("a", width=20, height=20), box("b", width=20, height=20), flow="row")
    document = part(Document("T"), "t", root, on=("no", "yes"))
    document = styled(document, "t", ("a",), {"on": "yes"}, shown=False)
    document = set_motion(document, "t", "on", "", Motion(100.0, "linear"))
    document = with_cue(document, "t", "tap", turned("on"), node=("b",))
    runtime = run(document, "t", True)
    runtime.tap("b")
    runtime.advance(50)
    found = dict(zip(runtime.view().scene.ids, runtime.view().scene.children, strict=True))
    assert found["~a"].paint.opacity == pytest.approx(0.5)
    runtime.tap("b")
    assert runtime.node("a").paint.opacity == pytest.approx(0.5)
    assert runtime.view().scene.ids == ("a", "b")
    runtime.advance(50)
    assert runtime.node("a").paint.opacity == pytest.approx(0.75)
    runtime.advance(50)
    assert not runtime.moving


def test_changes_that_begin_together_can_be_taken_back_one_by_one(run):
    document = doors(4, opens=400.0, closes=400.0)
    opened = [put("open", "yes", (f"d{n}",)) for n in range(4)]
    document = with_cue(document, "hall", Trigger("key", key="o"), *opened)
    runtime = run(document, "hall")
    runtime.key("o")
    runtime.advance(200)
    assert [runtime.rect(f"d{n}").height for n in range(4)] == pytest.approx([70] * 4)
    runtime.tap("d1", "head")
    runtime.advance(100)
    heights = [runtime.rect(f"d{n}").height for n in range(4)]
    assert heights == pytest.approx([95, 20 + 37.5, 95, 95])
    assert gaps(runtime, 4) == pytest.approx([0, 0, 0], abs=1e-9)
    runtime.advance(100)
    assert runtime.rect("d0").height == 120
    assert runtime.rect("d1").height == pytest.approx(45)
    runtime.advance(200)
    assert (runtime.moving, runtime.rect("d1").height) == (False, 20)


def places(runtime):
    return {at.path: at.rect for at in locate(*runtime.view(), "")}


@settings(max_examples=40, deadline=None)
@given(
    st.lists(st.tuples(st.integers(0, 3), st.integers(0, 320)), min_size=1, max_size=10),
    st.sampled_from([(400.0, 150.0), (90.0, 310.0), (0.0, 200.0), (250.0, 0.0)]),
    st.sampled_from(["linear", "ease", "cubic-bezier(0.3, -0.6, 0.3, 1.7)", "spring(200, 14)"]),
    st.booleans(),
)
def test_a_column_stays_a_column_in_every_rhythm(run, taps, times, easing, once):
    document = doors(4, once, opens=times[0], closes=times[1], easing=easing)
    runtime = run(document, "hall")
    for which, wait in taps:
        runtime.key("x")
        before = places(runtime)
        x, y = runtime.rect(f"d{which}", "head").center
        runtime.press(x, y)
        runtime.release(x, y)
        if 0.0 not in times:
            after = places(runtime)
            for path, rect in before.items():
                assert after[path] == pytest.approx(rect, abs=1e-6), "nothing jumps"
        for step in (0.0, 1.0, wait / 3):
            runtime.advance(step)
            assert gaps(runtime, 4) == pytest.approx([0, 0, 0], abs=1e-6)
    runtime.advance(20_000)
    assert not runtime.moving
    fresh = {at.path: at.rect for at in locate(*runtime.target, "")}
    assert places(runtime) == fresh


def test_words_that_stay_move_in_their_box_and_do_not_fade(run):
    said = text("says", "Gate", width=fixed(100.0), text_align="center")
    document = part(Document("Gate"), "n", box("n", said, width=200, height=40), on=("no", "yes"))
    document = styled(document, "n", ("says",), {"on": "yes"}, width=fixed(180.0))
    document = set_motion(document, "n", "on", "", Motion(100.0, "linear"))
    document = with_cue(document, "n", "tap", turned("on"))
    runtime = run(document, "n", True)

    def left():
        return runtime.view().placed.children[0].text.lines[0].runs[0][0]

    start = left()
    runtime.tap("says")
    assert left() == pytest.approx(start)
    runtime.advance(25)
    assert runtime.view().scene.ids == ("says",)
    assert left() == pytest.approx(start + 10)
    runtime.advance(75)
    assert left() == pytest.approx(start + 40)
