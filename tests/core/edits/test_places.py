"""Moving, lining up and spreading parts."""

import msgspec
import pytest
from immutables import Map

from demo.drawing import box
from outgrowth.core.document.records import Document, Screen, find
from outgrowth.core.document.values import fixed
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.style import places
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.edits.tree.drawing import DRAWN_KINDS, drawn_node, icon_node
from outgrowth.core.edits.tree.nodes import add_node
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter

SIZES = {"a": (10, 20, 30, 20), "b": (60, 50, 40, 30), "c": (200, 100, 50, 40)}


def part(name, flow="free", **style):
    x, y, wide, high = SIZES[name]
    at = {"x": float(x), "y": float(y)} if flow == "free" else {}
    return box(name, width=fixed(wide), height=fixed(high), **at, **style)


def screen(flow="free", **pins):
    root = box("root", *[part(n, flow, **pins) for n in SIZES], flow=flow)
    sized = root.style.set("width", fixed(400.0)).set("height", fixed(300.0))
    return add_screen(Document("d"), Screen("s", "S", msgspec.structs.replace(root, style=sized)))


@pytest.fixture
def spots(fonts):
    def spots(document):
        scene = Resolver().screen(document, document.screens["s"])
        placed = Layout(Typesetter(fonts)).place(scene.layout)
        return {a.path[-1] if a.path else "root": a.rect for a in locate(scene, placed, "")}

    return spots


def those(*names):
    return tuple(Place("s", (name,), Map()) for name in names)


@pytest.mark.parametrize(
    ("edge", "side"),
    [("left", 10.0), ("right", 250.0), ("top", 20.0), ("bottom", 140.0), ("center", 130.0)],
)
def test_parts_line_up_with_each_other(spots, edge, side):
    document = screen()
    at = spots(document)
    moved = places.align(document, those("a", "b", "c"), edge, at, ("free", at["root"]))
    after = spots(moved)
    read = {
        "left": lambda r: r.x,
        "right": lambda r: r.right,
        "top": lambda r: r.y,
        "bottom": lambda r: r.bottom,
        "center": lambda r: r.center[0],
    }[edge]
    assert [read(after[n]) for n in "abc"] == pytest.approx([side] * 3)


def test_one_part_lines_up_with_its_box(spots):
    document = screen()
    at = spots(document)
    moved = places.align(document, those("a"), "middle", at, ("free", at["root"]))
    assert spots(moved)["a"].center[1] == 150.0


def test_parts_are_spread_between_the_outer_two(spots):
    document = screen()
    moved = places.distribute(document, those("c", "a", "b"), True, spots(document), "free")
    at = spots(moved)
    assert at["b"].x - at["a"].right == at["c"].x - at["b"].right == 60.0
    assert (at["a"].x, at["c"].x) == (10.0, 200.0)


@pytest.mark.parametrize("pin", ["start", "end", "both", "center", "scale"])
def test_a_move_is_the_same_however_a_part_is_pinned(spots, pin):
    document = screen(pin_x=pin, pin_y=pin, right=300.0, bottom=220.0)
    before = spots(document)["b"]
    after = spots(places.move_by(document, those("b")[0], (7.0, -3.0)))["b"]
    assert (after.x - before.x, after.y - before.y) == pytest.approx((7.0, -3.0), abs=0.2)
    assert after.width == pytest.approx(before.width, abs=0.2)


def test_parts_in_a_flow_line_up_across_it_only(spots):
    document = screen("row")
    at = spots(document)
    moved = places.align(document, those("a", "b"), "bottom", at, ("row", at["root"]))
    assert [find(moved.screens["s"].root, n).style.get("align-self") for n in "ab"] == ["end"] * 2
    with pytest.raises(Refusal, match="justify"):
        places.align(document, those("a"), "left", at, ("row", at["root"]))
    with pytest.raises(Refusal, match="its gap"):
        places.distribute(document, those("a", "b", "c"), True, at, "row")
    with pytest.raises(Refusal, match="three"):
        places.distribute(document, those("a", "b"), True, at, "free")


@pytest.mark.parametrize("thing", DRAWN_KINDS)
@pytest.mark.parametrize("size", [None, (2.0, 1.0), (120.0, 44.0)])
def test_what_is_drawn_new_is_seen(spots, thing, size):
    document = add_node(screen(), "s", "root", drawn_node(thing, "new", size))
    rect = spots(document)["new"]
    assert rect.width > 0 and rect.height > 0
    if size == (120.0, 44.0):
        assert rect.width == 120.0 and (thing == "text" or rect.height == 44.0)


def test_an_icon_is_as_large_as_its_room(spots):
    node = icon_node("new", "anchor", "M0 0H256V256Z")
    document = add_node(screen(), "s", "root", node)
    assert spots(document)["new"][2:] == (24.0, 24.0)
