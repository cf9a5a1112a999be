"""SVG that comes in: what becomes of it, what is told, and what is refused."""

import base64
import io
import time
from itertools import count

import msgspec
import pytest
from immutables import Map
from PIL import Image

from outgrowth.core.color import Color, Gradient, parse
from outgrowth.core.document.records import Document, Screen, walk
from outgrowth.core.document.values import Size, fixed, plain
from outgrowth.core.exchange.svg import SvgRefusal, drawn
from outgrowth.core.exchange.svg.shapes import path_bounds, transform
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter

SHAPES = (
    '<g id="hull" transform="translate(10 20)"><rect width="60" height="30" rx="4" fill="teal"/>'
    '<path id="keel" d="M0 40h30" stroke="#333" stroke-width="3" fill="none"/></g>'
    '<circle id="sun" cx="150" cy="30" r="12" fill="#F2B705"/>'
)


@pytest.fixture
def read(fonts):
    numbers = count()
    typesetter = Typesetter(fonts)

    def read(inside, name="harbour.svg", head='viewBox="0 0 200 100"'):
        whole = not inside or inside.startswith(("<svg", "<!", "<p/>"))
        text = inside if whole else f"<svg {head}>{inside}</svg>"
        return drawn(text.encode(), name, lambda kind: f"{kind}-{next(numbers)}", typesetter)

    return read


def by_name(found):
    return {node.name: node for node in walk(found.node)}


def at(node):
    s = node.style
    return (
        s.get("x", 0.0),
        s.get("y", 0.0),
        *(s[side].amount for side in ("width", "height")),
    )


def test_groups_shapes_and_names_become_nodes(read):
    found = read(SHAPES)
    nodes = by_name(found)
    assert found.left_out == ()
    assert found.node.name == "harbour" and found.node.style["flow"] == "free"
    assert at(found.node)[2:] == (200.0, 100.0)
    assert [n.kind for n in nodes["hull"].children] == ["box", "shape"]
    assert at(nodes["hull"]) == (10.0, 20.0, 60.0, 40.5)
    assert at(nodes["rect"]) == (0.0, 0.0, 60.0, 30.0)
    assert nodes["rect"].style["radius-top-left"] == 4.0
    assert nodes["rect"].style["fill"] == parse("teal")
    assert nodes["keel"].style["stroke"] == parse("#333") and "fill" not in nodes["keel"].style
    assert nodes["keel"].style["line-width"] == 3.0
    assert at(nodes["sun"]) == (138.0, 18.0, 24.0, 24.0)


def test_parts_scale_with_the_drawing(read):
    sun = by_name(read(SHAPES))["sun"]
    assert (sun.style["pin-x"], sun.style["right"]) == ("scale", 38.0)
    assert (sun.style["pin-y"], sun.style["bottom"]) == ("scale", 58.0)


@pytest.mark.parametrize(
    ("where", "across", "down"),
    [
        ('x="100" y="54" text-anchor="middle"', "center", "center"),
        ('x="4" y="12"', "start", "start"),
        ('x="196" y="96" text-anchor="end"', "end", "end"),
    ],
)
def test_words_stay_where_they_stand_when_the_drawing_is_resized(read, layout, where, across, down):
    drawing = f'<rect width="200" height="100" fill="teal"/><text {where}>Holm</text>'
    found = read(drawing, "sign.svg", 'viewBox="0 0 200 100" width="200" height="100"').node
    (said,) = [child for child in found.children if child.kind == "text"]
    assert (said.style.get("pin-x", "start"), said.style.get("pin-y", "start")) == (across, down)

    def middle(width, height):
        size = Map({"width": fixed(width), "height": fixed(height)})
        root = msgspec.structs.replace(found, style=found.style.update(size))
        scene = Resolver().screen(Document("Sign"), Screen("sign", "Sign", root))
        located = locate(scene, layout.place(scene.layout), "")
        return next(each.rect for each in located if each.path == (said.id,))

    before, after = middle(200.0, 100.0), middle(300.0, 180.0)
    if across == "center":
        assert abs(after.center[0] - 150.0 - (before.center[0] - 100.0)) < 0.01
    if across == "end":
        assert abs((300.0 - after.right) - (200.0 - before.right)) < 0.01
    if down == "center":
        assert abs(after.center[1] - 90.0 - (before.center[1] - 50.0)) < 0.01


def test_one_shape_is_an_icon(read):
    path = '<path d="M5 5h6v6z" fill="currentColor"/>'
    found = read(path, "sail.svg", 'viewBox="0 0 16 16" width="32" height="32"')
    assert found.node.kind == "shape" and found.node.name == "sail"
    assert found.node.style["path-size"] == 32.0
    assert found.node.style["width"] == Size("fixed", 32.0)
    assert path_bounds(found.node.style["path"]) == Rect(10.0, 10.0, 12.0, 12.0)


@pytest.mark.parametrize(
    ("text", "point"),
    [
        ("translate(10 20)", (11.0, 21.0)),
        ("scale(2)", (2.0, 2.0)),
        ("scale(2 3) translate(1)", (4.0, 3.0)),
        ("rotate(90)", (-1.0, 1.0)),
        ("rotate(90 1 0)", (0.0, 0.0)),
        ("matrix(1 2 3 4 5 6)", (9.0, 12.0)),
        ("skewX(45)", (2.0, 1.0)),
        ("skewY(45)", (1.0, 2.0)),
        ("nonsense(1)", (1.0, 1.0)),
    ],
)
def test_transforms(text, point):
    """Source: CSS Transforms 1, section 8 (worked by hand for the point 1, 1)."""
    assert transform(text).apply(1.0, 1.0) == pytest.approx(point)


def test_styles_come_from_attributes_sheets_and_heirs(read):
    found = read(
        "<style>.a{fill:#112233} #b{fill:#445566} rect{stroke:red} g > path{fill:blue}</style>"
        '<g fill="#778899"><rect class="a" width="9" height="9"/>'
        '<path id="b" d="M0 0h9v9z"/><path id="c" d="M0 0h9v9z"/>'
        '<path id="d" d="M0 0h9v9z" style="fill:#AABBCC; fill-opacity: 50%"/></g>'
    )
    nodes = by_name(found)
    assert nodes["rect"].style["fill"] == parse("#112233")
    assert nodes["rect"].style["stroke"] == parse("red")
    assert nodes["b"].style["fill"] == parse("#445566")
    assert nodes["c"].style["fill"] == parse("blue"), "a selector says more than an attribute"
    assert nodes["d"].style["fill"] == parse("#AABBCC80")
    assert found.left_out == ()


@pytest.mark.parametrize(
    ("sheet", "fill", "left_out"),
    [
        ("@media print{rect{fill:red}} rect{fill:blue}", "blue", ()),
        ("rect{fill:blue} @media print{rect{fill:red}}", "blue", ()),
        ("@media screen, print{rect{fill:red}}", "red", ()),
        ("@media not print{rect{fill:red}}", "red", ()),
        (
            "@media (min-width:9px){rect{fill:red}} rect{stroke:red}",
            "teal",
            ("@media (min-width:9px)",),
        ),
        ("rect{fill:red} .a{fill:blue} rect{fill:green}", "blue", ()),
        (".a{fill:red} .b{fill:blue}", "blue", ()),
        (".b{fill:blue} .a{fill:red}", "red", ()),
        ("rect{fill:red !important} .a{fill:blue} #r{fill:green}", "red", ()),
        ("rect{fill:red} .b{stroke:url('data:image/png;base64,AA;fill:blue')}", "red", ()),
        ("/* rect{fill:red} */ rect{fill:blue}", "blue", ()),
        ("rect{fill:red;;fill:;stroke:blue}", "red", ()),
        ("rect{content:'}'; fill:red}", "red", ()),
        ("g rect.a:first-child{fill:red}", "red", ()),
        ("rect:hover{fill:red}", "teal", ("rect:hover",)),
        ("@supports (fill:red){rect{fill:red}}", "teal", ("@supports (fill:red)",)),
        ("@font-face{font-family:x} rect{fill:red}", "red", ("@font-face",)),
        ("rect, [[{fill:red}", "teal", ("what can't be read",)),
    ],
)  # fmt: skip
def test_style_sheets_are_read_as_css_has_them(read, sheet, fill, left_out):
    """Sources: CSS Syntax 3, CSS Cascade 4 section 6, Media Queries 4, Selectors 4."""
    found = read(
        f"<style>{sheet.replace('&', '&amp;').replace('>', '&gt;')}</style>"
        '<g><rect id="r" class="a b" fill="teal" width="9" height="9"/></g>'
    )
    node = next(n for n in walk(found.node) if "fill" in n.style)
    assert node.style["fill"] == parse(fill)
    told = tuple(what for what in found.left_out if what.startswith("styles"))
    assert told == tuple(f"styles for “{what}”" for what in left_out)


@pytest.mark.parametrize(
    "sheet",
    [
        "*{fill:red}" * 9_000, "a b c d e f g h{fill:red}" * 500, ":not(" * 3_000, "{" * 50_000,
        "rect" + ":not(:not(rect))" * 100 + "{fill:red}", "@media screen{" * 3_000,
        "rect{" + "fill:red;" * 100_000 + "}", "[a^='" + "x" * 100_000,
        "* ~ * ~ * ~ *{fill:red}" * 100,
    ],
    ids=lambda sheet: f"{sheet[:14]} × {len(sheet)}",
)  # fmt: skip
def test_a_hostile_sheet_takes_seconds_at_the_most_and_breaks_nothing(read, sheet):
    parts = "<g>" * 100 + '<rect width="9" height="9"/>' * 200 + "</g>" * 100
    started = time.process_time()
    read(f"<style>{sheet}</style>{parts}")
    assert time.process_time() - started < 20, "this guards against squares, not against slowness"


def test_a_gradient_keeps_its_line(read):
    """From corner to corner of a square CSS's line is as long as SVG's."""
    found = read(
        '<defs><linearGradient id="base"><stop offset="0" stop-color="red"/>'
        '<stop offset="1" stop-color="blue" stop-opacity="0.5"/></linearGradient>'
        '<linearGradient id="g" href="#base" x2="1" y2="1"/></defs>'
        '<rect id="r" width="50" height="50" fill="url(#g)"/>'
        '<rect id="part" y="50" width="100" height="50" fill="url(#h)"/>'
        '<linearGradient id="h" gradientUnits="userSpaceOnUse" x1="-50" x2="150">'
        '<stop offset="0" stop-color="#000"/><stop offset="1" stop-color="#fff"/></linearGradient>'
    )
    whole = by_name(found)["r"].style["fill"]
    assert isinstance(whole, Gradient) and whole.angle == pytest.approx(135.0)
    assert [s.at for s in whole.stops] == pytest.approx([0.0, 1.0])
    assert whole.stops[-1].color.alpha == 128 / 255
    cut = by_name(found)["part"].style["fill"]
    assert cut.angle == pytest.approx(90.0)
    assert [s.color.red for s in cut.stops] == pytest.approx([64 / 255, 191 / 255])


def test_words_stand_on_their_baseline(read, fonts):
    found = read(
        '<text x="100" y="50" font-size="20" text-anchor="middle" font-family="Figtree">'
        'To <tspan font-weight="bold">Skerry</tspan>'
        '<tspan x="10" y="90" text-anchor="start">Holm</tspan></text>'
    )
    first, second = [n for n in walk(found.node) if n.kind == "text"]
    assert plain(first.style["content"]) == "To Skerry"
    assert [run.bold for run in first.style["content"]] == [False, True]
    face = fonts.primary("Figtree", 400.0, False)
    baseline = (1.2 - face.ascent - face.descent) / 2 * 20 + face.ascent * 20
    box = next(n for n in walk(found.node) if n.name == "text")
    assert box.style["y"] + first.style["y"] + baseline == pytest.approx(50.0, abs=0.01)
    assert plain(second.style["content"]) == "Holm"
    assert box.style["x"] + second.style["x"] == pytest.approx(10.0, abs=0.01)


def test_a_picture_inside_becomes_an_image(read):
    held = io.BytesIO()
    Image.new("RGB", (8, 4), (9, 99, 9)).save(held, "PNG")
    href = "data:image/png;base64," + base64.b64encode(held.getvalue()).decode()
    found = read(
        f'<image id="view" x="10" width="80" height="40" href="{href}"/><path d="M0 0h9"/>'
    )
    view = by_name(found)["view"]
    assert view.kind == "image" and at(view) == (10.0, 0.0, 80.0, 40.0)
    assert view.style["picture"].asset == found.assets[0].digest


def test_symbols_are_drawn_where_they_are_used(read):
    found = read(
        '<symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5"/></symbol>'
        '<use id="one" href="#s" x="150" y="50" width="20" height="20"/>'
        '<use href="#lost"/>'
    )
    assert found.left_out == ("“part”, which uses a part that is not there",)
    assert found.node.name == "harbour"
    (only,) = found.node.children or (found.node,)
    assert at(only) == (150.0, 50.0, 20.0, 20.0)


def test_what_there_is_no_node_for_is_told(read):
    found = read(
        '<g id="mist" filter="url(#f)"><rect width="9" height="9" stroke-dasharray="2 2"/></g>'
        '<rect id="veil" width="9" height="9" fill="url(#lost)"/><foreignObject/>'
        '<path id="bad" d="M0 0L"/><rect y="20" width="9" height="9" visibility="hidden"/>'
    )
    assert set(found.left_out) == {
        "the filter of “mist”",
        "the fill by a lost part of “veil”",
        "what “foreignObject” does",
        "“bad” (The path cannot be read: its data breaks SVG's path grammar)",
    }


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("", "not complete XML"),
        ("<svg", "not complete XML"),
        ("<p/>", "no SVG"),
        ("<svg/>", "draws nothing"),
        ('<!DOCTYPE s [<!ENTITY a "b">]><svg>&a;</svg>', "entities"),
        ('<!DOCTYPE s [<!ENTITY % p SYSTEM "file:///etc/passwd"> %p;]><svg/>', "entities"),
        ("<svg><script>1</script></svg>", "script"),
        ('<svg><rect onclick="x()" width="1" height="1"/></svg>', "script"),
        ('<svg><a href="javascript:x"/></svg>', "script"),
        ('<svg><image href="http://example.invalid/a.png"/></svg>', "outside"),
        (
            '<svg xmlns:x="http://www.w3.org/1999/xlink"><use x:href="file:///a.svg#b"/></svg>',
            "out",
        ),
        ('<svg><rect style="fill:url(http://example.invalid)"/></svg>', "outside"),
        ("<svg><style>@import 'a.css'</style></svg>", "outside"),
        ('<svg><use href="#a"/><g id="a"><use href="#a"/></g></svg>', "uses itself"),
        ('<svg width="99999" height="1"><path d="M0 0h9v9z"/></svg>', "10,000"),
        ("<svg>" + "<g>" * 1_000_000, "deep"),
        ("<svg>" + "<g/>" * 1_000_000 + "</svg>", "20,000"),
    ],
)
def test_what_is_not_to_be_trusted_is_refused(read, text, why):
    with pytest.raises(SvgRefusal, match=why):
        read(text)


def test_parts_that_multiply_are_refused(read):
    inside = '<g id="a0"><rect width="1" height="1"/></g>' + "".join(
        f'<g id="a{n + 1}">{f"""<use href="#a{n}"/>""" * 10}</g>' for n in range(9)
    )
    with pytest.raises(SvgRefusal, match="repeating"):
        read(inside)


def test_a_colour_that_is_current_is_given(fonts):
    ink = Color(0.2, 0.4, 0.6)
    data = b'<svg viewBox="0 0 9 9"><path d="M0 0h9v9z" fill="currentColor"/></svg>'
    found = drawn(data, "a.svg", lambda kind: kind, Typesetter(fonts), ink)
    assert found.node.style["fill"] == ink
