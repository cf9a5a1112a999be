"""The islands that the line sails to: a panel whose picture and words follow what is chosen."""

from __future__ import annotations

from demo.drawing import box, grow, image, instance, text
from demo.parts import ruled, state_axis
from demo.travel import navigation
from outgrowth.core.document.records import (
    Asset,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Motion,
    Node,
    Screen,
)
from outgrowth.core.document.values import FromProperty, Picture, Value, words
from outgrowth.core.edits.style.pictures import with_asset
from outgrowth.core.edits.tree.components import add_axis, add_component, add_property, add_screen
from outgrowth.resources import PICTURES

TURN = Motion(300.0, "ease-out")
SIZE = 520.0, 320.0

ISLANDS = (
    ("skerry", "Skerry", "Two churches, one bakery, and the best tide pools of the coast."),
    ("little-holm", "Little Holm", "A dune path around the whole island takes two hours."),
    ("north-light", "North Light", "The lamp has burned every night since it was built."),
)


def with_islands(document: Document) -> Document:
    """The panel, its items, and the screen where it stands."""
    pictures = {}
    for name, _, _ in ISLANDS:
        data = (PICTURES / f"{name}.png").read_bytes()
        asset = Asset(f"{name}.png", "image/png", data)
        document = with_asset(document, asset)
        pictures[name] = Picture(asset.digest, *SIZE)
    document = _with_item(document)
    document = _with_panel(document, pictures)
    root = box(
        "islands",
        box(
            "page",
            instance("head", "app-header", choices={"title": "Where we sail"}, width=grow),
            instance("panel", "island-panel", width=grow),
            flow="column",
            gap=16,
            padding=(20, 16),
            width=grow,
            height=grow,
        ),
        navigation("islands"),
        name="Islands",
        flow="column",
        width=390,
        height=844,
        fill="{color.sand}",
    )
    return add_screen(document, Screen("islands", "Islands", root))


def _with_item(document: Document) -> Document:
    """One of the panel's items: a line before its words says that it is chosen."""
    root = box(
        "item",
        box("mark", width=4, height=20, radius=2, fill="{color.line}"),
        text("name", FromProperty("name"), font_size=16, font_weight=500, width=grow),
        flow="row",
        gap=12,
        align="center",
        padding=(12, 8),
        radius=8,
        width=grow,
    )
    document = add_component(document, Component("island-item", "Travel/Island item", root))
    name = ComponentProperty("name", "Name", "text", words("Skerry"))
    document = add_property(document, "island-item", name)
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    chosen = Axis("chosen", "Chosen", values, "no", meaning="selected", motion=TURN)
    document = add_axis(document, "island-item", chosen)
    document = add_axis(document, "island-item", state_axis())
    document = ruled(document, "island-item", "item", {"state": "hover"}, fill="{color.foam}")
    document = ruled(document, "island-item", "mark", {"chosen": "yes"}, fill="{color.sea}")
    return ruled(document, "island-item", "name", {"chosen": "yes"}, font_weight=700)


def _with_panel(document: Document, pictures: dict[str, Picture]) -> Document:
    first, name, about = ISLANDS[0]
    items: list[Node] = [
        instance(
            f"item-{key}",
            "island-item",
            f"{said} item",
            {"name": said, **({"chosen": "yes"} if key == first else {})},
        )
        for key, said, _ in ISLANDS
    ]
    root = box(
        "panel",
        image("view", pictures[first], width=grow, radius=12, label="The island from the sea"),
        text("title", name, font_size=24, font_weight=700, width=grow),
        text("about", about, font_size=15, color="{color.muted}", width=grow),
        box("items", *items, flow="column", gap=2, width=grow),
        flow="column",
        gap=12,
        width=358,
    )
    document = add_component(document, Component("island-panel", "Travel/Island panel", root))
    values = tuple(AxisValue(key, said) for key, said, _ in ISLANDS)
    document = add_axis(
        document, "island-panel", Axis("island", "Island", values, first, motion=TURN)
    )
    for key, said, about_it in ISLANDS[1:]:
        here = {"island": key}
        document = ruled(document, "island-panel", "view", here, picture=pictures[key])
        document = ruled(document, "island-panel", "title", here, content=said)
        document = ruled(document, "island-panel", "about", here, content=about_it)
        chosen: dict[str, Value] = {"choice:chosen": "yes"}
        document = ruled(document, "island-panel", f"item-{key}", here, **chosen)
        left: dict[str, Value] = {"choice:chosen": "no"}
        document = ruled(document, "island-panel", f"item-{first}", here, **left)
    return document
