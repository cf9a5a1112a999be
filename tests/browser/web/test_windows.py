"""Screens that fill their window, or a share of it, as pages beside our own layout. Source: Debian's
Chromium."""

import pytest
from immutables import Map

from outgrowth.core.document.records import Document, Node, Screen
from outgrowth.core.document.values import GROW, Size, fixed, words
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.resolve.resolver import Resolver
from tests.fuzz.web import judging
from tests.fuzz.whole import WholeJudge

pytestmark = pytest.mark.browser

WINDOWS = ((400, 700), (777, 555), (1300, 900))
BOUND = Size("formula", 0.0, "min(100%, 640px)")
ROOTS = {
    "all of it": {"width": GROW, "height": GROW},
    "all of its width": {"width": GROW},
    "at most so wide": {"width": GROW, "max-width": 640.0, "height": GROW, "padding-left": 20.0},
    "a bound of its width": {"width": BOUND, "height": Size("percent", 50.0)},
    "its height at least": {"width": fixed(390.0), "min-height": Size("percent", 100.0)},
}


def screen(name, style):
    text = {"content": words("Two harbours, one ticket"), "width": GROW}
    title = Node("t", "title", "text", Map(text | {"font-size": 14.0, "fluid-size": 40.0}))
    strip = Node("b", "strip", "box", Map({"width": GROW, "height": GROW, "flow": "row"}))
    root = Node("r", "root", "box", Map({"flow": "column", "gap": 12.0} | style), (title, strip))
    return Screen("s", name, root)


def test_screens_fill_their_window_in_the_page_as_in_live():
    found = {}
    with judging() as judge:
        chromium = judge.chromium
        frame = chromium.execute_script(
            "return [outerWidth - innerWidth, outerHeight - innerHeight]"
        )
        for name, style in ROOTS.items():
            document = add_screen(Document("sea"), screen(name, style))
            made = hand_over(document, judge.layout)
            judge.served(made.files)
            chromium.get(f"{judge.address}screens/{made.names.owners['s'].element}.html")
            chromium.execute_script(judge.read)
            for wide, high in WINDOWS:
                chromium.set_window_size(wide + frame[0], high + frame[1])
                theirs = chromium.execute_async_script(
                    "const done = arguments[0]; document.fonts.ready.then(() => requestAnimationFrame("
                    "() => requestAnimationFrame(() => done([innerWidth, innerHeight,"
                    "treeOf(document.querySelector('main'))]))));"
                )
                scene = Resolver().screen(document, document.screens["s"])
                shown, placed = judge.layout.view(scene, *theirs[:2])
                told = judge.compared(shown, placed, theirs[2], name, 0.0)
                if told:
                    found[name, wide] = told
    assert found == {}


@pytest.mark.parametrize("sides", ["left-right", "start-end"])
@pytest.mark.parametrize("direction", ["ltr", "rtl"])
def test_what_clears_the_edges_of_a_device_does_so_in_the_page(sides, direction):
    style = {"width": GROW, "flow": "column", "padding-top": 8.0, "padding-left": 3.0}
    style |= {"clears-edges": True, "sides": sides}
    document = add_screen(Document("sea"), screen("edges", style))
    insets = {"top": 59, "right": 11, "bottom": 34, "left": 20}
    with judging() as judge:
        made = hand_over(document, judge.layout)
        name = made.names.owners["s"].element
        page = f"screens/{name}.html"
        assert b"viewport-fit=cover" in made.files[page]
        turned = made.files[page].replace(b"<html", f'<html dir="{direction}"'.encode())
        judge.served(made.files | {page: turned})
        judge.chromium.execute_cdp_cmd("Emulation.setSafeAreaInsetsOverride", {"insets": insets})
        judge.chromium.get(f"{judge.address}{page}")
        said = judge.chromium.execute_script(
            "const style = getComputedStyle(document.querySelector('main'));"
            "return ['Top', 'Right', 'Bottom', 'Left'].map(side => parseFloat(style[`padding${side}`]))"
        )
    start = "right" if (sides, direction) == ("start-end", "rtl") else "left"
    own = {"top": 8.0, start: 3.0}
    assert said == [insets[side] + own.get(side, 0.0) for side in insets]


@pytest.mark.parametrize("direction", ["ltr", "rtl"])
@pytest.mark.parametrize("limit", [{"max-width": 90.0}, {"min-width": 900.0}])
def test_what_floats_and_cannot_fill_its_room_keeps_its_left_side(limit, direction):
    floating = {"floating": True, "x": 12.0, "width": GROW, "height": fixed(20.0)} | limit
    inside = Node("f", "flag", "box", Map(floating))
    style = {"width": fixed(400.0), "height": fixed(300.0), "sides": "start-end"}
    root = Node("r", "root", "box", Map(style), (inside,))
    document = add_screen(Document("sea"), Screen("s", "Flags", root))
    with judging() as judge:
        told = WholeJudge(judge).differences(document, right_to_left=direction == "rtl")
    assert told == []
