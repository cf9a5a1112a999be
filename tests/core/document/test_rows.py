"""Every row of the property table does something: it shows in the display list, in the SVG and
on the web page, in the elements, gather compares it, and putting an instance back knows about
it. Who has to know a row says the row itself (`consumers`), and each colour of a part that it
decides (`colors`): they are asked one by one, said as a colour and as a token."""

import re

import msgspec
import pytest
from immutables import Map

from outgrowth.core.color import TRANSPARENT, parse
from outgrowth.core.document.properties import CHOICE, GROUPS, TABLE, rows_of
from outgrowth.core.document.records import (
    Asset,
    Axis,
    AxisValue,
    Component,
    DesignToken,
    Document,
    Node,
    Screen,
)
from outgrowth.core.document.types import ChoiceType, FlagType, NumberType
from outgrowth.core.document.values import Once, Picture, Shadow, Size, Token, fixed, words
from outgrowth.core.edits.gather.report import _compared
from outgrowth.core.edits.style.styles import put_back_instance
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.exchange.web import page
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.forms import form_between
from outgrowth.core.paint.draw import draw
from outgrowth.core.paint.recorder import record
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter

LONG = "Two harbours, one ticket. The last boat leaves at ten; nobody swims back."
PICTURE = Asset("sea.png", "image/png", b"sea")
SEEN = Picture(PICTURE.digest, 40.0, 30.0)

BASE = {
    "box": {"flow": "row", "wrap": False, "width": fixed(90.0), "height": fixed(120.0), "aspect": 0.0,
            "fill": parse("#DDEEFF"), "stroke": parse("#112233"), "stroke-top": 2.0, "stroke-left": 3.0,
            "radius-top-left": 4.0},
    "text": {"content": words(LONG), "width": fixed(120.0)},
    "shape": {"form": "path", "path": "M0 0L24 0L24 12L6 12L6 4L12 8L0 20Z", "fill": parse("#445566"),
              "stroke": parse("#112233"), "line-width": 1.0},
    "image": {"picture": SEEN, "width": fixed(60.0), "height": fixed(50.0), "fill": parse("#FFFFFF")},
}  # fmt: skip
"""What a part of each kind has, so that its rows can be seen at all."""

MORE = {
    "cross-gap": {"width": fixed(50.0), "wrap": True},
    "wrap": {"width": fixed(50.0)}, "padding-right": {"justify": "end"},
    "padding-bottom": {"align": "end"},
    "justify": {"wrap": False}, "align": {"wrap": False}, "order": {},
    "min-width": {"width": fixed(20.0)}, "max-width": {}, "min-height": {"height": fixed(20.0)},
    "aspect": {"height": "fit"}, "right": {"floating": True, "pin-x": "end"},
    "bottom": {"floating": True, "pin-y": "end"}, "x": {"floating": True}, "y": {"floating": True},
    "pin-x": {"floating": True}, "pin-y": {"floating": True}, "origin-x": {"scale": 1.5},
    "origin-y": {"scale": 1.5}, "arc-start": {"form": "ellipse", "arc-sweep": 90.0, "path": ""},
    "arc-sweep": {"form": "ellipse", "path": ""}, "thickness": {"form": "ellipse", "path": ""},
    "clip": {"width": fixed(20.0), "wrap": False}, "stroke-place": {},
    "fill-rule": {"path": "M0 0h20v20h-20ZM4 4h12v12h-12Z"},
    "fit": {"width": fixed(90.0)}, "shadow": {}, "mirrored": {"justify": "start"},
    "columns": {"flow": "grid"}, "rows": {"flow": "grid", "align": "center"}, "justify-items": {"flow": "grid"},
    "areas": {"flow": "grid", "columns": (), "width": "fit"}, "subgrid": {"flow": "grid"},
    "align-content": {"wrap": True, "width": fixed(50.0)}, "grow-from": {"width": Size("grow", 0.5)},
    "grow-base": {"width": Size("grow", 0.0), "grow-from": "size"}, "shrink": {"width": fixed(900.0), "gives-way": True},
    "lines-reversed": {"width": fixed(50.0), "wrap": True}, "focal-x": {"height": fixed(90.0)},
    "fluid-from": {"fluid-size": 40.0}, "fluid-until": {"fluid-size": 40.0},
    "gives-way": {"width": fixed(900.0)}, "break-words": {"width": fixed(30.0)},
    "sticks": {"margin-top": -300.0}, "label": {"role": "button"}, "mode": {"fill": Token("color.sea")},
}  # fmt: skip
"""What a row needs besides."""

HOLDER = {
    "area": {"flow": "grid", "columns": (fixed(30.0),), "areas": ". main"}, "subgrid": {"flow": "grid"},
    "column-start": {"flow": "grid"}, "column-span": {"flow": "grid"}, "row-start": {"flow": "grid"},
    "row-span": {"flow": "grid", "cross-gap": 10.0}, "sticks": {"scrolls": "y"},
    "sides": {"direction": "right-to-left"}, "turns": {"direction": "right-to-left"},
}  # fmt: skip
"""What it needs of the box that the part stands in."""

OTHER = {
    "content": words("Other words"), "picture": Picture("", 10.0, 90.0), "component": None,
    "fill": parse("#AA0000"), "stroke": parse("#00AA00"), "color": parse("#AA0000"),
    "shadow": (Shadow(parse("#00000080"), 1.0, 2.0, 3.0),), "font-family": "Atkinson Hyperlegible Next",
    "path": "M0 0L20 0L20 20Z", "label": "Anchor", "one-at-a-time": (Once("open", "yes"),),
    "width": fixed(77.0), "height": fixed(66.0), "align-self": "end", "margin-left": 5.0,
    "font-weight": 700.0, "line-height": 2.0, "letter-spacing": 1.0, "max-lines": 1.0, "font-size": 22.0,
    "scale": 1.5, "rotate": 30.0, "opacity": 0.5, "aspect": 2.0, "max-width": 40.0, "max-height": 30.0,
    "min-width": 130.0, "min-height": 140.0, "order": 5.0, "path-size": 12.0, "path-height": 48.0,
    "arc-sweep": 90.0, "arc-start": 45.0, "origin-x": 0.0, "origin-y": 1.0, "line-ends": "butt",
    "line-joins": "bevel", "fit": "stretch", "columns": (fixed(40.0), fixed(20.0)),
    "rows": (fixed(50.0),), "justify-items": "end", "sticks": "top",
    "mode": "dark", "grow-from": "content", "grow-base": 130.0, "shrink": 0.0, "areas": ". . / head .", "area": "main", "subgrid": "columns",
}  # fmt: skip
"""A value that tells itself from the default where the next one would not."""


def other(row):
    if row.name in OTHER:
        return OTHER[row.name]
    if isinstance(row.type, FlagType):
        return not row.default
    if isinstance(row.type, ChoiceType):
        return next(o for o in reversed(row.type.options) if o != row.default)
    assert isinstance(row.type, NumberType)
    return min(row.default + 6.0, row.type.maximum)


def part(row, changed):
    kind = next(k for k in ("box", "text", "shape", "image") if k in row.kinds)
    if row.name in ("fill", "stroke", "opacity"):
        kind = "box"
    style = {k: v for k, v in BASE[kind].items() if k in TABLE}
    style |= {
        k: (v if v != "fit" else TABLE["height"].default) for k, v in MORE.get(row.name, {}).items()
    }
    style = {k: v for k, v in style.items() if kind in TABLE[k].kinds}
    if changed:
        style[row.name] = other(row)
    inside = ()
    if kind == "box":
        some = Map({"width": fixed(30.0), "height": fixed(20.0), "fill": parse("#AABBCC")})
        tall = some.set("height", fixed(40.0)).set("fill", parse("#CCBBAA"))
        inside = (Node("one", "one", "box", some), Node("two", "two", "box", tall))
    return Node("part", "part", kind, Map(style), inside)


FLAG = Component(
    "flag",
    "Flag",
    Node("flag", "flag", "box"),
    (Axis("open", "Open", (AxisValue("no", "no"), AxisValue("yes", "yes")), "no"),),
)
"""What only one of may be open at a time."""

ROOM = {"width": fixed(600.0), "height": fixed(400.0), "align": "center"}


def stages(row, changed, fonts):
    beside = Node("beside", "beside", "box", Map({"width": fixed(10.0), "height": fixed(300.0)}))
    root = Node(
        "r",
        "r",
        "box",
        Map(ROOM | HOLDER.get(row.name, {})),
        (part(row, changed), beside),
    )
    sea = DesignToken("color", parse("#204060"), modes=Map({"dark": parse("#F0F0FF")}))
    document = Document("d", tokens=Map({"color.sea": sea}), modes=("dark",))
    document = add_screen(add_component(document, FLAG), Screen("s", "S", root))
    resolved = Resolver().screen(document, document.screens["s"])
    scene, placed = Layout(Typesetter(fonts)).view(resolved)
    fragment = draw(scene, placed)
    assets = Map({PICTURE.digest: PICTURE})
    document = msgspec.structs.replace(document, assets=assets)
    marks = [repr(mark) for mark in record(fragment)]
    groups = [repr((at.scene.paint.clip, at.rect)) for at in locate(scene, placed, "")]
    return (
        resolved,
        marks + groups,
        svg_of(fragment, fragment.bounds, assets),
        page(scene, placed, "", assets),
        elements(document, fonts),
    )


def elements(document, fonts):
    """What the exported screen says of itself."""
    handed = hand_over(document, Layout(Typesetter(fonts)))
    files, page = handed.files, handed.names.owners["s"].element
    return "".join(files[f"screens/{page}.{kind}"].decode() for kind in ("html", "css", "js"))


ROWS = [row for row in TABLE.values() if row.name != "component"]
"""An instance's component has no look of its own: it is the whole of what is shown."""


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row.name)
def test_every_row_does_something_everywhere(row, fonts):
    plain, marks, svg, html, code = stages(row, False, fonts)
    changed, marks_2, svg_2, html_2, code_2 = stages(row, True, fonts)
    assert (marks != marks_2) == ("drawn" in row.consumers), "the display list"
    assert (svg != svg_2) == ("drawn" in row.consumers), "the SVG"
    assert (html != html_2) == ("page" in row.consumers), "the web page"
    assert (code != code_2) == ("elements" in row.consumers), "the exported elements"
    found = list(_compared("", plain, changed))
    assert found, "gather's comparison"
    # A hidden part is not there; order says where it stands, a mode how all else looks, and a
    # direction what left and right are.
    if row.name not in ("shown", "order", "mode", "direction", "sides"):
        assert any(row.name in said for said in found)


# --- the colours of a part, one by one ------------------------------------------------------

SEA = parse("#2266AA")
COLORED = {
    "fill": ("box", lambda color: {"fill": color}),
    "stroke": ("box", lambda color: {"stroke": color, "stroke-top": 2.0, "stroke-left": 3.0}),
    "text": ("text", lambda color: {"content": words(LONG), "color": color}),
    "shadow": ("box", lambda color: {"shadow": color}),
    "fill of a shape": ("shape", lambda color: {"path": "M0 0L24 0L24 12Z", "fill": color}),
    "stroke of a shape": (
        "shape",
        lambda color: {"path": "M0 0L24 0L24 12Z", "stroke": color, "line-width": 2.0},
    ),
}  # fmt: skip
"""Parts with one colour each, which nothing else in the drawing has."""
SETS = {"fill": "fill", "stroke": "stroke", "color": "text", "shadow": "shadow"}
"""The rows that say a colour outright, in place of the one that was there."""
STAGES = ("the display list", "the SVG", "the web page", "the exported elements")
# A colour, or how strongly it shows, in any of the notations that the stages write: one that is
# reckoned from another has calls in its brackets.
INSIDE = r"(?:[^()]|\((?:[^()]|\([^()]*\))*\))*"
SHOWS = re.compile(
    rf"Color\([^()]*\)|(?<!url\()#[0-9A-Fa-f]{{6,8}}\b|(?:rgba?|ok[a-z]+|color-mix)\({INSIDE}\)"
    r"|var\(--[a-z-]+\)|opacity[=:]\W*[\d.]+"
)


CLEAR = {repr(TRANSPARENT), "rgba(0, 0, 0, 0)"}


def colored_document(name, value, place, color, changed):
    kind, style = COLORED[place]
    said = Token("color.sea") if color == "token" else SEA
    if place == "shadow":
        token = "color.sea" if color == "token" else ""
        said = (Shadow(SEA, 1.0, 2.0, 3.0, token=token),)
    style = Map(style(said)).update({"width": fixed(60.0), "height": fixed(40.0)})
    style = style.set(name, value) if changed else style
    root = Node("r", "r", "box", Map(ROOM), (Node("part", "part", kind, style),))
    sea = DesignToken("color", SEA, modes=Map({"dark": parse("#F0F0FF")}))
    document = Document("d", tokens=Map({"color.sea": sea}), modes=("dark",))
    return add_screen(document, Screen("s", "S", root))


def shown_colors(document, fonts):
    """By stage: what of colours, tokens and opacity it says."""
    scene = Resolver().screen(document, document.screens["s"])
    scene, placed = Layout(Typesetter(fonts)).view(scene)
    fragment = draw(scene, placed)
    texts = (
        "\n".join(map(repr, record(fragment))),
        svg_of(fragment, fragment.bounds, Map()),
        page(scene, placed, "", Map()),
        elements(document, fonts),
    )
    return [set(SHOWS.findall(text)) - CLEAR for text in texts]


@pytest.mark.parametrize("color", ["literal", "token"])
@pytest.mark.parametrize("place", COLORED)
@pytest.mark.parametrize("row", [r for r in ROWS if r.affects != "pointer"], ids=lambda r: r.name)
def test_a_row_changes_the_colours_that_it_says_it_does_and_no_other(row, place, color, fonts):
    kind, part_of = COLORED[place][0], place.split()[0]
    if kind not in row.kinds or row.name == "shown" or (row.name == "mode" and color == "literal"):
        return
    value = other(row)
    before = shown_colors(colored_document(row.name, value, place, color, False), fonts)
    after = shown_colors(colored_document(row.name, value, place, color, True), fonts)
    decides = part_of in row.colors
    # Another colour beside this one is no change of it: a fill in a part that has a stroke.
    adds = row.name in SETS and SETS[row.name] != part_of
    for stage, one, two in zip(STAGES, before, after, strict=True):
        if adds:
            assert one <= two, f"{stage} keeps the {place}"
        else:
            assert (one != two) == decides, f"{stage}: the {place}"
    if color == "token" and not (row.name in SETS and not adds):
        assert any("var(--" in said for said in after[3]), "the name of the token goes out"


@pytest.mark.parametrize("row", list(TABLE.values()), ids=lambda row: row.name)
def test_putting_an_instance_back_keeps_its_place_and_size_and_nothing_else(row):
    kind = next(k for k in ("box", "text", "shape", "image", "instance") if k in row.kinds)
    value = "chip" if row.name == "component" else other(row)
    chosen = Map({"component": "chip", CHOICE + "size": "large", row.name: value})
    chip = Component("chip", "Chip", Node("c", "c", kind if kind != "instance" else "box"))
    root = Node("r", "r", "box", children=(Node("i", "i", "instance", chosen),))
    document = add_screen(add_component(Document("d"), chip), Screen("s", "S", root))
    after = put_back_instance(document, "s", "i").screens["s"].root.children[0]
    assert (row.name in after.style) == (row.role in ("structure", "placement", "size"))
    assert after.style[CHOICE + "size"] == "large"


def test_every_row_has_a_role_and_roles_part_the_table():
    roles = {row.role for row in TABLE.values()}
    assert sum(len(rows_of(role)) for role in roles) == len(TABLE)
    assert {"x", "order", "shown", "margin-top", "pin-x", "align-self"} <= rows_of("placement")
    assert rows_of("size") == {
        "width", "height", "min-width", "max-width", "min-height", "max-height", "aspect",
        "grow-from", "grow-base", "gives-way", "shrink",
    }  # fmt: skip


def test_every_row_stands_in_a_section_of_the_ledger():
    # An instance's component has an editor of its own.
    assert {row.group for row in TABLE.values()} - {"Component"} == set(GROUPS)


@pytest.mark.parametrize("row", [r for r in ROWS if r.affects == "paint"], ids=lambda r: r.name)
def test_what_is_painted_is_tweened_where_the_row_says_so(row):
    before, after = row.default, other(row)
    if row.name == "shadow":
        before = (Shadow(parse("#000000"), 0.0, 1.0, 2.0),)
    assert (form_between(row, before, after) is not None) == ("tween" in row.consumers)
