"""What breaks: each kind where it does, and nothing where nothing does."""

import pytest

from demo.drawing import box, fit, image, instance, shape, text
from outgrowth.core.document.records import Component, Document, Screen
from outgrowth.core.document.values import Picture
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.trials.breaks import KINDS, Drawing, Usual, breaks

LONG = "Harbourmastersannouncement"
PICTURE = Picture("p", 200.0, 100.0)
MARK = "M0 0H24V24H0Z"
STYLE = {"color": "#14252B", "font_size": 16}

WHOLE = {
    "words fit": box("a", text("t", "Sailing", **STYLE), padding=(8, 8)),
    "words wrap in a fitting box": box("a", text("t", "Sailing at ten", **STYLE), width=70),
    "an ellipsis of its own": box("a", text("t", "And so on …", max_lines=1, **STYLE)),
    "a free box": box("a", shape("s", MARK, x=-10, y=0, width=20, height=20), flow="free"),
    "what floats": box("a", shape("s", MARK, floating=True, x=-9, width=9, height=9), width=30),
    "drawn together on purpose": box(
        "a", shape("s", MARK, width=20, height=20), shape("r", MARK, width=20, height=20,
        margin_left=-8), flow="row",
    ),
    "what scrolls": box("a", text("t", LONG, **STYLE), width=60, scrolls="x"),
    "a covered picture": box("a", image("i", PICTURE, width=100, height=90, fit="cover")),
    "a picture in proportion": box("a", image("i", PICTURE, width=100, height=50, fit="stretch")),
}  # fmt: skip

BROKEN = {
    "words-outside": box("a", text("t", LONG, **STYLE), width=60),
    "words-cut": box("a", text("t", LONG, **STYLE), width=60, clip=True),
    "ellipsis": box("a", text("t", "Sailing at ten o'clock", max_lines=1, **STYLE), width=70),
    "part-outside": box("a", box("b", width=90, height=9, gives_way=False), width=60),
    "parts-overlap": box(
        "a", text("t", LONG, width=40, **STYLE), text("u", "Ten", **STYLE), width=400
    ),
    "squeezed": box("a", box("b", width=80, height=9, gives_way=True), width=60),
    "picture-stretched": box("a", image("i", PICTURE, width=100, height=90, fit="stretch")),
    "target-small": box("a", instance("i", "go", width=20)),
    "words-wrap": box("a", instance("i", "said", width=60)),
}  # fmt: skip


@pytest.fixture
def drawn(resolver, layout):
    def draw(root, room=0.0):
        document = Document("d")
        go = box("go-root", width=fit, height=30, padding=(0, 2), role="button", label="Go")
        document = add_component(document, Component("go", "Go", go))
        said = box("said-root", text("w", "Sail at ten", **STYLE), role="button", padding=(4, 4))
        document = add_component(document, Component("said", "Said", said))
        document = add_screen(document, Screen("s", "S", root))
        scene = resolver.screen(document, document.screens["s"])
        return Drawing(tuple(locate(scene, layout.place(scene.layout), "S")), room)

    return draw


@pytest.mark.parametrize("name", WHOLE)
def test_what_is_in_order_breaks_nowhere(drawn, name):
    assert breaks(drawn(WHOLE[name])) == ()


@pytest.mark.parametrize("kind", BROKEN)
def test_each_kind_is_found_where_it_is(drawn, kind):
    found = breaks(drawn(BROKEN[kind]))
    assert kind in {one.kind for one in found}
    assert all(one.text.endswith(".") and one.kind in KINDS for one in found)


@pytest.mark.parametrize("kind", BROKEN)
def test_what_was_so_before_is_told_as_such(drawn, kind):
    drawing = drawn(BROKEN[kind])
    assert all(one.before for one in breaks(drawing, Usual(drawing)))


def test_what_is_wider_than_its_room_is_told(drawn):
    drawing = drawn(box("a", width=90, height=9), 60.0)
    assert [one.kind for one in breaks(drawing)] == ["room-exceeded"]


def test_forced_lines_are_no_break(drawn, resolver, layout):
    document = Document("d")
    root = box("r", text("w", "Sail\nat ten", **STYLE), role="button", padding=(9, 9))
    document = add_component(document, Component("c", "C", root))
    scene = resolver.variant(document, "c", {})
    drawing = Drawing(tuple(locate(scene, layout.place(scene.layout), "C")))
    assert breaks(drawing) == ()
