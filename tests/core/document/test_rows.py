"""Every row of the property table does something: it shows in the display list, in the SVG and
on the web page, gather compares it, and putting an instance back knows about it. Where a row
does not, the reason stands here."""

import pytest
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.properties import CHOICE, GROUPS, TABLE, rows_of
from outgrowth.core.document.records import (
    Asset,
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
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint.draw import draw
from outgrowth.core.paint.recorder import record
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter

LONG = "Two harbours, one ticket. The last boat leaves at ten; nobody swims back."
PICTURE = Asset("sea.png", "image/png", b"sea")
SEEN = Picture(PICTURE.digest, 40.0, 30.0)

POINTER = "it is about the pointer and the keys: nothing of it is drawn"
LATER = "the static page has no behaviour; the elements of the hand-over will have it"
UNDRAWN = {
    "role": POINTER, "label": POINTER, "cursor": POINTER, "click-through": POINTER,
    "one-at-a-time": POINTER,
}  # fmt: skip
NO_PAGE = {"role": LATER, "label": LATER, "cursor": LATER, "one-at-a-time": LATER}

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
    "align-content": {"wrap": True, "width": fixed(50.0)}, "grow-from": {"width": Size("grow", 0.5)},
    "gives-way": {"width": fixed(900.0)}, "break-words": {"width": fixed(30.0)},
    "sticks": {"margin-top": -300.0}, "mode": {"fill": Token("color.sea")},
}  # fmt: skip
"""What a row needs besides."""

HOLDER = {
    "column-start": {"flow": "grid"}, "column-span": {"flow": "grid"}, "row-start": {"flow": "grid"},
    "row-span": {"flow": "grid", "cross-gap": 10.0}, "sticks": {"scrolls": "y"},
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
    "mode": "dark",
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
    document = add_screen(document, Screen("s", "S", root))
    scene = Resolver().screen(document, document.screens["s"])
    placed = Layout(Typesetter(fonts)).place(scene.layout)
    fragment = draw(scene, placed)
    assets = Map({PICTURE.digest: PICTURE})
    marks = [repr(mark) for mark in record(fragment)]
    groups = [repr((at.scene.paint.clip, at.rect)) for at in locate(scene, placed, "")]
    return (
        scene,
        marks + groups,
        svg_of(fragment, fragment.bounds, assets),
        page(scene, placed, "", assets),
    )


ROWS = [row for row in TABLE.values() if row.name != "component"]
"""An instance's component has no look of its own: it is the whole of what is shown."""


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row.name)
def test_every_row_does_something_everywhere(row, fonts):
    plain, marks, svg, html = stages(row, False, fonts)
    changed, marks_2, svg_2, html_2 = stages(row, True, fonts)
    assert (marks != marks_2) == (row.name not in UNDRAWN), "the display list"
    assert (svg != svg_2) == (row.name not in UNDRAWN), "the SVG"
    assert (html != html_2) == (row.name not in NO_PAGE), "the web page"
    found = list(_compared("", plain, changed))
    assert found, "gather's comparison"
    # A hidden part is not there; order says where it stands, and a mode how all else looks.
    if row.name not in ("shown", "order", "mode"):
        assert any(row.name in said for said in found)


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
        "grow-from", "gives-way",
    }  # fmt: skip


def test_every_row_stands_in_a_section_of_the_ledger():
    # An instance's component has an editor of its own.
    assert {row.group for row in TABLE.values()} - {"Component"} == set(GROUPS)
