"""The ferry line's larger parts: timetable row and header, fare card, app header, navigation."""

from __future__ import annotations

from immutables import Map

from demo.controls import yes_no
from demo.drawing import box, cast, grow, instance, styled, text
from demo.parts import COLORS, ICONS, icon_id, ruled, state_axis
from outgrowth.core.color import parse
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Node,
)
from outgrowth.core.document.values import FromProperty, Shadow, words
from outgrowth.core.document.variants import variants
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_component, add_property
from outgrowth.core.edits.variants.axes import set_offered
from outgrowth.core.resolve.ladder import Place

COLUMNS = (
    ("time", "08:40", 88),
    ("port", "Skerry", 0),
    ("berth", "Berth 2", 104),
    ("status", "On time", 132),
    ("seats", "64 of 90", 120),
)
"""What a row tells: its name, what it says at first, and its width (0: what is left)."""


def with_cell(document: Document) -> Document:
    """One cell of a row: words, and a slot behind them.

    Common practice, no source: 16 px of padding of its own, inside a row with 8.
    """
    root = box(
        "cell",
        text("words", FromProperty("words"), font_size=15, width=grow),
        instance("slot", FromProperty("slot"), width=18, height=18, stroke="{color.muted}"),
        flow="row",
        gap=8,
        align="center",
        padding=(12, 16),
    )
    document = add_component(document, Component("cell", "Travel/Cell", root))
    document = add_property(
        document, "cell", ComponentProperty("words", "Words", "text", words("Skerry"))
    )
    slot = ComponentProperty("slot", "Slot", "slot", "", shortlist=tuple(map(icon_id, ICONS)))
    return add_property(document, "cell", slot)


def with_timetable(document: Document) -> Document:
    """A row that is plain or can be chosen, and the header above it."""
    cells = [
        instance(
            name,
            "cell",
            choices={"words": FromProperty(name)},
            width=float(width) if width else grow,
        )
        for name, _, width in COLUMNS
    ]
    check = instance(
        "check", "checkbox", choices={"label": ""}, shown=False, label="Choose this sailing"
    )
    root = box(
        "row",
        check,
        *cells,
        flow="row",
        align="center",
        padding=(0, 8),
        width=680,
        fill="{color.paper}",
        shadow=line_below(),
    )
    document = add_component(document, Component("timetable-row", "Travel/Timetable row", root))
    for name, said, _ in COLUMNS:
        prop = ComponentProperty(name, name.capitalize(), "text", words(said))
        document = add_property(document, "timetable-row", prop)
    kinds = (AxisValue("plain", "plain"), AxisValue("selectable", "selectable"))
    document = add_axis(document, "timetable-row", Axis("kind", "Kind", kinds, "plain"))
    document = add_axis(document, "timetable-row", yes_no("chosen", "Chosen", "selected"))
    document = add_axis(document, "timetable-row", state_axis())
    document = add_axis(document, "timetable-row", yes_no("late", "Late", "none"))
    status = Place("timetable-row", ("status", "words"))
    document = set_properties(
        document, status, styled({"color": "{color.sea}", "font_weight": 600})
    )
    late = styled({"color": "{color.coral}"})
    document = set_properties(document, status, late, Map(late="yes"))
    selectable, chosen = {"kind": "selectable"}, {"chosen": "yes"}
    document = ruled(document, "timetable-row", "check", selectable, shown=True)
    document = ruled(document, "timetable-row", "row", chosen, fill="{color.foam}")
    document = ruled(document, "timetable-row", "check", chosen, **{"choice:checked": "on"})
    hover = selectable | {"state": "hover"}
    document = ruled(document, "timetable-row", "row", hover, fill="#F7FAFB")
    for variant in variants(document.components["timetable-row"]):
        plain = variant["kind"] == "plain"
        if plain and (variant["chosen"] == "yes" or variant["state"] != "rest"):
            document = set_offered(document, "timetable-row", variant, False)
    return _with_head(document)


def _with_head(document: Document) -> Document:
    """The header above rows: its columns stand where theirs do, also beside their boxes."""
    heads = [
        text(
            f"head-{name}",
            name.capitalize(),
            font_size=13,
            font_weight=700,
            color="{color.muted}",
            width=float(width - 16) if width else grow,
        )
        for name, _, width in COLUMNS
    ]
    beside = box("beside-box", width=10, height=1, shown=False)
    header = box(
        "head", beside, *heads, flow="row", gap=16, padding=(10, 24), padding_right=8, width=680
    )
    document = add_component(
        document, Component("timetable-head", "Travel/Timetable header", header)
    )
    kinds = (AxisValue("plain", "plain"), AxisValue("selectable", "selectable"))
    document = add_axis(document, "timetable-head", Axis("kind", "Kind", kinds, "plain"))
    return ruled(document, "timetable-head", "beside-box", {"kind": "selectable"}, shown=True)


def line_below() -> tuple[Shadow, ...]:
    """A line below the row. Common practice, no source: a bottom border drawn as an inner
    shadow offset −1 px with no blur."""
    return (Shadow(parse(COLORS["color.line"]), 0.0, -1.0, inner=True),)


def with_fare_card(document: Document) -> Document:
    """A fare: an icon slot, what it costs, and a button that can be opened outward."""
    root = box(
        "card",
        box(
            "top",
            instance("icon", FromProperty("icon"), width=24, height=24, stroke="{color.sea}"),
            text("name", FromProperty("name"), font_size=17, font_weight=700, width=grow),
            text("price", FromProperty("price"), font_size=17, font_weight=700),
            flow="row",
            gap=10,
            align="center",
            width=grow,
        ),
        text("about", FromProperty("about"), font_size=14, color="{color.muted}", width=grow),
        instance("buy", "button", choices={"label": FromProperty("action")}, width=grow),
        flow="column",
        gap=12,
        padding=16,
        radius=14,
        width=260,
        fill="{color.paper}",
        shadow=cast(2, 10, "#14252B24"),
    )
    document = add_component(document, Component("fare-card", "Travel/Fare card", root))
    for name, said in (
        ("Name", "Foot passenger"),
        ("Price", "12.50"),
        ("About", "One crossing, any day this season. Children under six sail free."),
        ("Action", "Choose this fare"),
    ):
        prop = ComponentProperty(name.lower(), name, "text", words(said))
        document = add_property(document, "fare-card", prop)
    slot = ComponentProperty(
        "icon", "Icon", "slot", icon_id("Ticket"), shortlist=tuple(map(icon_id, ICONS))
    )
    document = add_property(document, "fare-card", slot)
    return add_axis(document, "fare-card", yes_no("best", "Best value", "none"))


def with_best_fare(document: Document) -> Document:
    """The document with the card of the best fare."""
    best = {"best": "yes"}
    document = ruled(document, "fare-card", "card", best, stroke="{color.sea}", stroke_width=2)
    return ruled(document, "fare-card", "buy", best, **{"choice:with-icon": True})


PLACES = (
    ("Sail", "Anchor", "boarding"),
    ("Tickets", "Ticket", "fares"),
    ("Times", "Clock", "calendar"),
    ("Islands", "Map", "islands"),
)
"""Where the navigation leads: what it says, its icon, and the screen."""
BAR = 76
"""Px that the navigation takes at the bottom of a screen."""


def with_bars(document: Document) -> Document:
    """The app's header above, its navigation below."""
    header = box(
        "header",
        instance("back", "icon-button", choices={"icon": icon_id("Back")}),
        text("title", FromProperty("title"), font_size=20, font_weight=700, width=grow),
        instance("bell", "icon-button", shown=FromProperty("with-bell")),
        flow="row",
        gap=12,
        align="center",
        width=358,
    )
    document = add_component(document, Component("app-header", "Travel/App header", header))
    for prop in (
        ComponentProperty("title", "Title", "text", words("Holm to Skerry")),
        ComponentProperty("with-bell", "With bell", "switch", True),
    ):
        document = add_property(document, "app-header", prop)
    document = _with_entry(document)
    entries = [
        instance(
            f"entry-{n}", "nav-entry", name, {"label": name, "icon": icon_id(icon)}, width=grow
        )
        for n, (name, icon, _) in enumerate(PLACES)
    ]
    bar = box(
        "navigation",
        *entries,
        flow="row",
        padding=(8, 16),
        width=390,
        fill="{color.paper}",
    )
    document = add_component(document, Component("navigation", "Travel/Navigation bar", bar))
    values = tuple(AxisValue(name.lower(), name) for name, _, _ in PLACES)
    document = add_axis(document, "navigation", Axis("here", "Here", values, values[0].id))
    for n, value in enumerate(values):
        here = {"here": value.id}
        document = ruled(document, "navigation", f"entry-{n}", here, **{"choice:current": "yes"})
    return document


def navigation(here: str) -> Node:
    """The bar at the bottom of a phone's screen, with the place marked that one is at."""
    return instance(
        "navigation",
        "navigation",
        choices={"here": here},
        floating=True,
        **{"pin-x": "both", "pin-y": "end"},
    )


def _with_entry(document: Document) -> Document:
    root = box(
        "entry",
        instance("icon", FromProperty("icon"), width=22, height=22, stroke="{color.muted}"),
        text("label", FromProperty("label"), font_size=12, font_weight=600, color="{color.muted}"),
        flow="column",
        gap=2,
        align="center",
        padding=(6, 8),
        radius=10,
    )
    document = add_component(document, Component("nav-entry", "Travel/Navigation entry", root))
    label = ComponentProperty("label", "Label", "text", words("Sail"))
    document = add_property(document, "nav-entry", label)
    slot = ComponentProperty(
        "icon", "Icon", "slot", icon_id("Anchor"), shortlist=tuple(map(icon_id, ICONS))
    )
    document = add_property(document, "nav-entry", slot)
    document = add_axis(document, "nav-entry", yes_no("current", "Current", "selected"))
    document = add_axis(document, "nav-entry", state_axis())
    chosen = {"current": "yes"}
    document = ruled(document, "nav-entry", "label", chosen, color="{color.sea}")
    document = ruled(document, "nav-entry", "icon", chosen, stroke="{color.sea}")
    return ruled(document, "nav-entry", "entry", {"state": "hover"}, fill="{color.foam}")
