from html.parser import HTMLParser

import pytest
from immutables import Map

from outgrowth.core.color import parse, parse_fill
from outgrowth.core.document.values import GROW, Shadow, Size, fixed, words
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Placed
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import Interner, SceneParts


class Styles(HTMLParser):
    """The style of every element by its place, and all text."""

    def __init__(self):
        super().__init__()
        self.styles = {}
        self.text = ""
        self.tags = []

    def handle_starttag(self, tag, attributes):
        found = dict(attributes)
        self.tags.append(tag)
        if "data-at" in found:
            pairs = (part.split(": ", 1) for part in found["style"].split("; "))
            self.styles[found["data-at"]] = dict(pairs)

    def handle_data(self, data):
        self.text += data


@pytest.fixture
def exported(fonts, layout):
    def make(document, owner_id, variant=None):
        resolver = Resolver()
        if variant is None:
            scene = resolver.screen(document, document.screens[owner_id])
        else:
            scene = resolver.variant(document, owner_id, variant)
        parsed = Styles()
        parsed.feed(page(scene, layout.place(scene.layout), "Page"))
        return parsed

    return make


def test_a_button_is_a_flex_box_with_its_own_numbers(ferry, exported):
    button = exported(ferry, "button", Map()).styles[""]
    assert button["display"] == "flex"
    assert button["padding"] == "10px 18px"
    assert button["background-color"] == "#17495A"
    assert button["border-radius"] == "8px"
    assert button["width"] == "max-content", "measured widths are the browser's business"


def test_each_size_mode_has_its_css(ferry, exported):
    place = Place("boarding", ("board",))
    for size, flex in ((fixed(90.0), "0 0 auto"), (Size("grow", 2.0), "2 1 0px")):
        document = set_properties(ferry, place, {"width": size})
        board = exported(document, "boarding").styles["1/3/0"]
        assert board["flex"] == flex
    tall = set_properties(ferry, place, {"height": GROW})
    assert exported(tall, "boarding").styles["1/3/0"]["align-self"] == "stretch"


def test_a_stroke_is_an_inner_shadow_above_the_others(ferry, exported):
    shadow = (Shadow(parse("#00000080"), 0.0, 2.0, 4.0, 1.0),)
    document = set_properties(ferry, Place("button"), {"shadow": shadow}, Map(kind="quiet"))
    quiet = exported(document, "button", Map(kind="quiet")).styles[""]
    first, second = quiet["box-shadow"].split(", ")
    assert first == "inset 0 0 0 1.5px #17495A"
    assert second == "0px 2px 4px 1px #00000080"


def test_a_press_is_a_transform_about_the_middle(ferry, exported):
    pressed = exported(ferry, "button", Map(state="press")).styles[""]
    assert pressed["scale"] == "0.97"
    assert not {"translate", "rotate", "transform-origin"} & set(pressed), "the middle is usual"


def test_hostile_words_stay_words(ferry, exported):
    hostile = "<script>alert('tide')</script> & \"quotes\""
    document = set_properties(ferry, Place("boarding", ("date",)), {"content": words(hostile)})
    parsed = exported(document, "boarding")
    assert hostile in parsed.text
    assert "script" not in parsed.tags


def test_click_through_clip_and_opacity_are_written(ferry, exported):
    values = {"click-through": True, "clip": True, "opacity": 0.5}
    document = set_properties(ferry, Place("button"), values)
    style = exported(document, "button", Map()).styles[""]
    assert style["pointer-events"] == "none"
    assert style["overflow"] == "clip"
    assert style["opacity"] == "0.5"


def test_only_the_fonts_that_are_used_are_embedded(ferry, fonts, layout):
    scene = Resolver().variant(ferry, "button", Map())
    html = page(scene, layout.place(scene.layout), "Button")
    assert "font-weight: 600" in html
    assert "Atkinson" not in html
    assert html.count("@font-face") == 1
    assert "http" not in html.replace("http-equiv", "")


def element(kind, **style):
    """The exported page of one node beside nothing else."""
    values = {name.replace("_", "-"): value for name, value in style.items()}
    intern = Interner()
    scene = intern.scene(SceneParts(kind, intern.layout(kind, values, ()), intern.paint(values)))
    return page(scene, Placed(40.0, 20.0), "one")


def inside(child, **style):
    """The exported page of a node in a box."""
    intern = Interner()
    values = {name.replace("_", "-"): value for name, value in child.items()}
    inner = intern.scene(SceneParts("box", intern.layout("box", values, ()), intern.paint(values)))
    outer = {name.replace("_", "-"): value for name, value in style.items()}
    layout = intern.layout("box", outer, (inner.layout,))
    root = intern.scene(SceneParts("box", layout, intern.paint(outer), (inner,), ("a",), ("a",)))
    placed = Placed(90.0, 60.0, (Placed(40.0, 20.0),), (0.0,), (0.0,))
    return page(root, placed, "two")


SEA = parse("#17495A")
EVEN = {f"stroke_{side}": 2.0 for side in ("top", "right", "bottom", "left")}


def test_an_even_inner_stroke_is_a_shadow_and_any_other_an_element():
    assert "inset 0 0 0 2px #17495A" in element("box", stroke=SEA, **EVEN)
    below = element("box", stroke=SEA, stroke_bottom=3.0)
    assert "border-width: 0px 0px 3px 0px" in below
    outside = element("box", stroke=SEA, stroke_place="outside", **EVEN)
    assert "inset: -2px -2px -2px -2px" in outside


def test_gradients_are_written_as_css_and_as_svg():
    fill = parse_fill("linear-gradient(90deg, #17495A, #FFFFFF)")
    assert f"background-image: {fill.css}" in element("box", fill=fill)
    disc = element("shape", form="ellipse", fill=fill)
    assert "<linearGradient" in disc
    assert 'fill="url(#g' in disc
    radial = parse_fill("radial-gradient(#17495A, #FFFFFF)")
    assert "<radialGradient" in element("shape", form="ellipse", fill=radial)


def test_words_say_their_case_their_line_and_their_most_lines():
    html = element(
        "text",
        content=words("Skerry"),
        letter_case="uppercase",
        decoration="underline",
        max_lines=2.0,
        font_style="italic",
    )
    for said in (
        "text-transform: uppercase",
        "text-decoration-line: underline",
        "-webkit-line-clamp: 2",
        "font-style: italic",
        "unicode-bidi: plaintext",
    ):
        assert said in html


@pytest.mark.parametrize(
    ("child", "said"),
    [
        ({"pin_x": "end", "right": 8.0}, "right: 8px"),
        ({"pin_x": "both", "x": 4.0, "right": 8.0}, "left: 4px; right: 8px"),
        ({"pin_x": "center", "x": 6.0}, "justify-self: unsafe center"),
        ({"pin_y": "center", "y": 6.0}, "align-self: unsafe center"),
        ({"pin_x": "scale", "x": 10.0, "right": 10.0, "width": fixed(20.0)}, "left: 25%"),
    ],
)
def test_pins_are_insets(child, said):
    for holder in ({"flow": "free"}, {"flow": "row"}):
        html = inside(child | {"floating": True}, **holder)
        assert "position: absolute" in html
        assert said in html


def test_a_box_that_wraps_and_a_proportion():
    child = {"aspect": 2.0, "width": fixed(40.0)}
    html = inside(child, flow="row", wrap=True, cross_gap=4.0, gap=9.0)
    assert "flex-wrap: wrap; align-content: flex-start" in html
    assert "gap: 4px 9px" in html
    assert "aspect-ratio: 2" in html
