from html.parser import HTMLParser

import pytest
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.values import GROW, Shadow, Size, fixed, words
from outgrowth.core.edits.styles import set_properties
from outgrowth.core.exchange.web import page
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver


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
    assert button["padding"] == "10px 18px 10px 18px"
    assert button["background-color"] == "#17495A"
    assert button["border-radius"] == "8px 8px 8px 8px"
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
    assert pressed["transform"] == "translate(0px, 0px) rotate(0deg) scale(0.97)"
    assert pressed["transform-origin"] == "50% 50%"


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
