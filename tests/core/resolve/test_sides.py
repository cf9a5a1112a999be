"""From right to left: sides that are the start and end of lines. Source: CSS Logical Properties 1,
section 4; beside Chromium: bin/fuzz sides."""

import msgspec
import pytest
from immutables import Map

from outgrowth.core.document.records import Component, Document, Node, Screen, walk
from outgrowth.core.document.values import Run, fixed
from outgrowth.core.edits.sides import (
    goes_by_lines,
    like_its_box,
    turned_to_lines,
    turned_to_sides,
)
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint.draw import own_transform
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.resolver import Resolver

W, H = 400.0, 200.0


def part(node_id, **style):
    said = {name.replace("_", "-"): value for name, value in style.items()}
    return Node(node_id, node_id, "box", Map({"width": fixed(60.0), "height": fixed(20.0)} | said))


def page(*parts, **style):
    said = {name.replace("_", "-"): value for name, value in style.items()}
    size = {"width": fixed(W), "height": fixed(H)}
    root = Node("page", "Page", "box", Map(size | said), parts)
    return Document("d", screens=Map({"s": Screen("s", "S", root)}), screen_order=("s",))


def rects(document, layout, rtl=False):
    scene = Resolver().screen(document, document.screens["s"], rtl=rtl)
    return {p.path: p.rect for p in locate(*layout.view(scene), "")}


def turned(rect):
    return (W - rect.x - rect.width, rect.y, rect.width, rect.height)


STYLES = [
    {"flow": "row", "gap": 8.0, "padding_left": 20.0},
    {"flow": "row", "justify": "end", "padding_right": 30.0},
    {"flow": "row", "wrap": True, "gap": 200.0, "padding_left": 7.0},
    {"flow": "column", "align": "start", "padding_left": 16.0},
    {"flow": "column", "align": "end"},
    {"flow": "grid", "padding_left": 5.0, "gap": 4.0},
    {"flow": "free"},
]
PARTS = [
    {"margin_left": 9.0},
    {"push_left": True},
    {"offset_x": 12.0, "offset_y": 3.0},
    {"floating": True, "x": 14.0},
    {"floating": True, "pin_x": "end", "right": 11.0},
    {"floating": True, "pin_x": "both", "x": 4.0, "right": 50.0},
    {"floating": True, "pin_x": "center", "x": 6.0},
    {"floating": True, "pin_x": "scale", "x": 40.0, "right": 300.0},
]


@pytest.mark.parametrize("style", STYLES)
@pytest.mark.parametrize("said", PARTS)
def test_by_lines_everything_is_the_mirror_image(style, said, layout):
    document = turned_to_lines(page(part("a", **said), part("b"), **style), ["s"])
    before, after = rects(document, layout), rects(document, layout, rtl=True)
    for path, rect in after.items():
        expected = turned(before[path]) if path else tuple(before[path])
        assert tuple(rect) == pytest.approx(expected), path


def test_left_stays_left_where_it_is_said_so(layout):
    document = page(part("a", margin_left=9.0), flow="row", padding_left=20.0)
    assert rects(document, layout)["a",].x == 29
    # The flow begins at the right, its padding stays at the left.
    assert rects(document, layout, rtl=True)["a",].x == W - 60


def test_files_of_before_look_as_they_did(layout):
    document = page(part("a", margin_left=9.0), flow="row", padding_left=20.0)
    assert rects(turned_to_lines(document, ["s"]), layout) == rects(document, layout)


def test_a_part_reads_in_its_own_direction(layout):
    inner = Node(
        "inner", "inner", "box", Map({"width": fixed(200.0), "direction": "right-to-left"}),
        (part("x"),),
    )  # fmt: skip
    found = rects(page(inner, part("y"), flow="row"), layout)
    assert (found["inner",].x, found["x",].x, found["y",].x) == (0, 140, 200)
    again = Map({"width": fixed(100.0), "direction": "left-to-right"})
    back = msgspec.structs.replace(inner, id="back", style=again)
    outer = msgspec.structs.replace(inner, children=(back,))
    assert rects(page(outer, flow="row"), layout)["x",].x == 100


def test_strokes_and_corners_change_sides_too():
    style = {"stroke_left": 4.0, "radius_top_left": 9.0, "radius_bottom_right": 5.0}
    document = turned_to_lines(page(part("a", **style), flow="row"), ["s"])
    scene = Resolver().screen(document, document.screens["s"], rtl=True)
    paint = scene.children[0].paint
    assert paint.strokes == (0.0, 4.0, 0.0, 0.0)
    assert paint.radii == (0.0, 9.0, 0.0, 5.0)


def test_what_turns_is_shown_the_other_way_round():
    document = page(part("a", turns=True), flow="row")
    shown = [
        own_transform(
            Resolver().screen(document, document.screens["s"], rtl=rtl).children[0].paint, 60, 20
        )
        for rtl in (False, True)
    ]
    assert shown[0] is None
    assert shown[1].apply(0, 5) == (60, 5)


def test_an_instance_reads_as_what_is_around_it(layout):
    style = {"width": fixed(90.0), "padding-left": 10.0, "sides": "start-end"}
    root = Node("root", "Tag", "box", Map(style), (part("x"),))
    tag = Component("tag", "Tag", root)
    document = Document("d", Map({"tag": tag}), component_order=("tag",))
    found = []
    for rtl in (False, True):
        scene = Resolver().instance(document, InstanceInput("tag", rtl=rtl))
        found.append(layout.view(scene)[1].xs[0])
    assert found == [10, 20]


def test_what_its_left_means_a_component_says_itself(layout):
    root = Node(
        "root", "Tag", "box", Map({"width": fixed(90.0), "padding-left": 10.0}), (part("x"),)
    )
    tag = Component("tag", "Tag", root)
    use = Node("use", "use", "instance", Map({"component": "tag", "sides": "start-end"}))
    document = page(use, flow="row")
    document = msgspec.structs.replace(
        document, components=Map({"tag": tag}), component_order=("tag",)
    )
    assert rects(document, layout, rtl=True)["use", "x"].x == W - 60


def test_there_and_back_leaves_nothing():
    document = page(part("a", margin_left=9.0), part("b"), flow="row")
    there = turned_to_lines(document, ["s"])
    assert goes_by_lines(there.screens["s"]) and not goes_by_lines(document.screens["s"])
    assert turned_to_sides(there, ["s"]) == document
    assert turned_to_lines(there, ["s"]) is there


def test_a_new_part_goes_as_its_box_does():
    words = Node("new", "new", "text", Map({"content": (Run("Sailing"),)}))
    document = page(part("a"), flow="row")
    assert like_its_box(document, "s", "page", words) is words
    there = turned_to_lines(document, ["s"])
    made = like_its_box(there, "s", "page", words)
    assert all(node.style["sides"] == "start-end" for node in walk(made))
