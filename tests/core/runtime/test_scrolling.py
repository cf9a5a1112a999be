"""Scrolling while something runs: what moves, what stays in sight, and what the keys reveal."""

import pytest
from immutables import Map

from outgrowth.core.document.records import Document, Node, Screen
from outgrowth.core.document.values import GROW, fixed
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import Event, Script, ScriptRefusal, check_script, play
from outgrowth.core.text import Typesetter


def box(node_id, children=(), **style):
    said = {name.replace("_", "-"): value for name, value in style.items()}
    return Node(node_id, node_id, "box", Map(said), tuple(children))


def running(fonts, *children, **style):
    """A list 100 px high under a bar 20 px high, with these children."""
    held = box(
        "list", children, flow="column", height=fixed(100.0), scrolls="y", width=GROW, **style
    )
    bar = box("bar", height=fixed(20.0), width=GROW)
    root = box("root", (bar, held), flow="column", width=fixed(200.0))
    document = add_screen(Document("d"), Screen("c", "C", root))
    return Runtime(Resolver(), Layout(Typesetter(fonts)), document, Subject("c"))


def rows(count, height=40.0, prefix="r", **style):
    return [box(f"{prefix}{n}", height=fixed(height), width=GROW, **style) for n in range(count)]


def top_of(runtime, name):
    return next(at.rect.y for at in locate(*runtime.view(), "C") if at.names[-1] == name)


def test_a_wheel_scrolls_the_innermost_that_can_as_far_as_it_reaches(fonts):
    runtime = running(fonts, *rows(5))
    assert top_of(runtime, "r0") == 20.0
    assert runtime.scroll(50.0, 60.0, 0.0, 30.0)
    assert top_of(runtime, "r0") == -10.0
    assert runtime.scroll(50.0, 60.0, 0.0, 500.0)
    assert top_of(runtime, "r4") == 120.0 - 40.0  # the last ends with the list
    assert not runtime.scroll(50.0, 60.0, 0.0, 1.0)
    assert not runtime.scroll(50.0, 60.0, 40.0, 0.0)  # it does not go across
    assert not runtime.scroll(50.0, 10.0, 0.0, -40.0)  # the bar above does not scroll
    assert runtime.scroll(50.0, 60.0, 0.0, -1e6)
    assert top_of(runtime, "r0") == 20.0


def test_padding_and_margins_are_scrolled_to(fonts):
    runtime = running(fonts, *rows(3, margin_bottom=5.0), padding_bottom=12.0)
    runtime.scroll(50.0, 60.0, 0.0, 1e6)
    assert top_of(runtime, "r2") + 40.0 + 5.0 + 12.0 == 120.0


def test_what_sticks_stays_until_what_holds_it_ends(fonts):
    groups = [
        box(
            f"g{n}",
            (box(f"h{n}", height=fixed(10.0), width=GROW, sticks="top"), *rows(2, 30.0, f"g{n}r")),
            flow="column",
            width=GROW,
        )
        for n in range(3)
    ]
    runtime = running(fonts, *groups)
    runtime.scroll(50.0, 60.0, 0.0, 35.0)
    assert (top_of(runtime, "h0"), top_of(runtime, "h1")) == (20.0, 20.0 + 70.0 - 35.0)
    runtime.scroll(50.0, 60.0, 0.0, 30.0)  # 65: the first group ends 5 px below the edge
    assert (top_of(runtime, "h0"), top_of(runtime, "h1")) == (15.0, 25.0)
    runtime.scroll(50.0, 60.0, 0.0, 10.0)
    assert top_of(runtime, "h1") == 20.0


def test_tab_brings_what_has_the_focus_into_sight(fonts):
    runtime = running(fonts, *rows(5, role="button"))
    for _ in range(4):
        runtime.key("Tab")
    assert runtime.focus == ("r3",)
    assert top_of(runtime, "r3") == 80.0
    runtime.key("Tab", shift=True)
    assert top_of(runtime, "r2") == 40.0  # it was in sight already
    runtime.key("Tab", shift=True)
    runtime.key("Tab", shift=True)
    assert top_of(runtime, "r0") == 20.0


def test_the_pointer_is_over_what_has_been_scrolled_under_it(fonts):
    runtime = running(fonts, *rows(5, cursor="pointer")[:1], *rows(5)[1:])
    runtime.pointer_move(50.0, 30.0)
    assert runtime.cursor == "pointer"
    runtime.scroll(50.0, 30.0, 0.0, 60.0)
    assert runtime.cursor == "default"


def test_an_edit_keeps_the_place_and_a_shorter_list_its_end(fonts):
    runtime = running(fonts, *rows(5))
    runtime.scroll(50.0, 60.0, 0.0, 90.0)
    other = running(fonts, *rows(3))
    runtime.update(other._situation.document)
    assert top_of(runtime, "r2") == 80.0


def test_a_script_scrolls(fonts):
    script = Script((Event(10.0, "scroll", 50.0, 60.0, dy=30.0),), (0.0, 20.0))
    before, after = play(running(fonts, *rows(5)), script)
    named = [{n["name"]: n["rect"][1] for n in seen["nodes"]} for seen in (before, after)]
    assert named[0]["C › list › r0"] - named[1]["C › list › r0"] == 30.0
    with pytest.raises(ScriptRefusal, match="does not scroll"):
        check_script(Script((Event(0.0, "tap", 1.0, 1.0, dy=3.0),)))


def test_what_is_pressed_at_the_edge_stays_under_the_pointer(fonts):
    runtime = running(fonts, *rows(5, role="button"))
    runtime.scroll(50.0, 60.0, 0.0, 25.0)  # r0 is cut at the list's upper edge
    before = top_of(runtime, "r0")
    runtime.press(50.0, 22.0)
    assert runtime.focus == ("r0",)
    assert top_of(runtime, "r0") == before
    runtime.key("Tab")
    runtime.key("Tab", shift=True)
    assert top_of(runtime, "r0") == 20.0, "by a key it comes into sight"
