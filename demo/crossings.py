"""Crossings in the room there is: a card that lies down where it is wide, a list of as many columns
as its room has, and the desk's screen where both stand."""

from __future__ import annotations

from demo.behaviours import with_cue
from demo.drawing import box, cast, grow, instance, text
from demo.parts import ruled
from demo.screens import icon_button
from outgrowth.core.document.cues import Change
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Node,
    Screen,
)
from outgrowth.core.document.values import FromProperty, Size, words
from outgrowth.core.edits.tree.components import add_axis, add_component, add_property, add_screen

LIES_FROM = 420.0
"""From how many px on a card lies down."""
TWO_FROM = 680.0
"""From how many px on a list has two columns."""
CROSSINGS = (
    ("08:40", "Holm to Skerry", "Berth 2, every seat by the window", "12.50"),
    ("10:15", "Holm to Little Holm", "Berth 1, room for bicycles", "9.00"),
    ("13:30", "Holm to North Light", "Berth 3, only while the sea is calm", "18.00"),
    ("17:05", "Holm to Skerry", "Berth 2, the last boat of the day", "12.50"),
)
SHARE = Size("grow", 1.0)


def with_crossings(document: Document) -> Document:
    """The card, the list, and the screen."""
    return _with_screen(_with_list(_with_card(document)))


def _with_card(document: Document) -> Document:
    root = box(
        "crossing",
        text("time", FromProperty("time"), font_size=22, font_weight=700, color="{color.sea}"),
        box(
            "route",
            text("way", FromProperty("way"), font_size=16, font_weight=700, width=grow),
            text("about", FromProperty("about"), font_size=14, color="{color.muted}", width=grow),
            flow="column",
            gap=4,
            width=grow,
        ),
        text("price", FromProperty("price"), font_size=16, font_weight=700),
        instance("choose", "button", choices={"label": FromProperty("action")}, width=grow),
        flow="column",
        gap=10,
        padding=16,
        radius=14,
        width=grow,
        fill="{color.paper}",
        shadow=cast(2, 10, "#14252B24"),
        role="listitem",
    )
    document = add_component(document, Component("crossing", "Travel/Crossing", root))
    time, way, about, price = CROSSINGS[0]
    usual = ("Time", time), ("Way", way), ("About", about), ("Price", price), ("Action", "Choose")
    for name, said in usual:
        prop = ComponentProperty(name.lower(), name, "text", words(said))
        document = add_property(document, "crossing", prop)
    document = add_axis(document, "crossing", _room("stands", "lies", LIES_FROM))
    lies = {"room": "lies"}
    document = ruled(document, "crossing", "crossing", lies, flow="row", gap=20, align="center")
    return ruled(document, "crossing", "choose", lies, width=Size("fit", 0.0))


def _room(narrow: str, wide: str, least: float) -> Axis:
    values = (AxisValue(narrow, narrow), AxisValue(wide, wide, least=least))
    return Axis("room", "Room", values, narrow, "room")


def crossings(prefix: str = "crossing") -> list[Node]:
    """The crossings of the day, a card each."""
    return [
        instance(
            f"{prefix}-{n}",
            "crossing",
            f"{time} crossing",
            {"time": words(time), "way": words(way), "about": words(about), "price": words(price)},
            width=grow,
        )
        for n, (time, way, about, price) in enumerate(CROSSINGS)
    ]


def _with_list(document: Document) -> Document:
    root = box("list", *crossings(), flow="column", gap=14, width=grow, role="list")
    document = add_component(document, Component("crossing-list", "Travel/Crossing list", root))
    document = add_axis(document, "crossing-list", _room("one", "two", TWO_FROM))
    two = {"room": "two"}
    return ruled(
        document,
        "crossing-list",
        "list",
        two,
        flow="grid",
        columns=(SHARE, SHARE),
        **{"cross-gap": 14},
    )


def _with_screen(document: Document) -> Document:
    root = box(
        "crossings-page",
        box(
            "crossings-head",
            icon_button("crossings-back", "Back"),
            text("crossings-title", "Crossings from Holm", font_size=28, font_weight=700),
            flow="row",
            gap=16,
            align="center",
            width=grow,
        ),
        box(
            "crossings-body",
            box(
                "crossings-all",
                instance("all", "crossing-list", "all crossings", width=grow),
                width=grow,
            ),
            box(
                "crossings-next",
                text("next-title", "Leaves next", font_size=17, font_weight=700),
                instance("next", "crossing", "next crossing", width=grow),
                flow="column",
                gap=12,
                width=264,
            ),
            flow="row",
            gap=32,
            width=grow,
        ),
        name="Crossings",
        flow="column",
        gap=28,
        width=1100,
        height=720,
        fill="{color.sand}",
        padding=(32, 40),
    )
    document = add_screen(document, Screen("crossings", "Crossings", root))
    document = with_cue(document, "desk", "tap", Change("go", "crossings"), node=("desk-clock",))
    return with_cue(document, "crossings", "tap", Change("back"), node=("crossings-back",))
