"""The ferry line's components: its icons, the button and the icon button."""

from __future__ import annotations

from immutables import Map

from demo.drawing import box, cast, instance, shape, styled, text
from outgrowth.core.color import parse
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Motion,
)
from outgrowth.core.document.values import FromProperty, Shift, Value, words
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_component, add_property, add_token
from outgrowth.core.resolve.ladder import Place

COLORS = {
    "color.sea": "#17495A",
    "color.foam": "#EDF4F5",
    "color.paper": "#FFFFFF",
    "color.sand": "#F6F1E7",
    "color.line": "#D3DDDF",
    "color.ink": "#14252B",
    "color.muted": "#52646A",
    "color.coral": "#B8452B",
}

ICONS = {
    "Anchor": "M12 8v13M12 8a2.5 2.5 0 1 0 0-5a2.5 2.5 0 0 0 0 5ZM5 13c0 4.5 3 7.5 7 8"
    "c4-.5 7-3.5 7-8M8.5 11.5h7",
    "Onward": "M4 12h15M13 6l6 6l-6 6",
    "Back": "M20 12H5M11 6l-6 6l6 6",
    "Bell": "M6 10a6 6 0 0 1 12 0c0 4.5 1.5 5.5 2 7H4c.5-1.5 2-2.5 2-7ZM10 20.5h4",
    "Ticket": "M4 7h16v3.2a1.9 1.9 0 0 0 0 3.6V17H4v-3.2a1.9 1.9 0 0 0 0-3.6ZM14 7v10",
    "Clock": "M12 3.5a8.5 8.5 0 1 0 0 17a8.5 8.5 0 0 0 0-17ZM12 7.5V12l3.2 2",
    "Add": "M12 5v14M5 12h14",
    "Map": "M4 6.5l5-2.5l6 2.5l5-2.5v13.5l-5 2.5l-6-2.5l-5 2.5ZM9 4v13.5M15 6.5V20",
}
"""Our own drawings, on a 24 px square with a line of 2."""

QUICK = Motion(160.0, "ease-out")


def state_axis() -> Axis:
    """Rest, hover and press, set by the pointer."""
    values = tuple(AxisValue(name, name) for name in ("rest", "hover", "press"))
    return Axis("state", "State", values, "rest", "pointer", motion=QUICK)


def icon_id(name: str) -> str:
    """The id of an icon's component."""
    return f"icon-{name.lower()}"


def with_tokens(document: Document) -> Document:
    """The document with the ferry line's tokens."""
    for path, color in COLORS.items():
        document = add_token(document, path, DesignToken("color", parse(color)))
    return document


def with_icons(document: Document) -> Document:
    """The document with its icons as components."""
    for name, path in ICONS.items():
        drawn = shape("glyph", path, width=20, height=20, stroke="{color.ink}", line_width=2)
        document = add_component(document, Component(icon_id(name), f"Icon/{name}", drawn))
    return document


def with_button(document: Document) -> Document:
    """Primary and Quiet; words, an icon that can be shown and exchanged; three states."""
    root = box(
        "button",
        instance(
            "icon",
            FromProperty("icon"),
            shown=FromProperty("with-icon"),
            stroke="{color.paper}",
            width=18,
            height=18,
        ),
        text(
            "label",
            FromProperty("label"),
            color="{color.paper}",
            font_size=15,
            font_weight=600,
            line_height=1.3,
        ),
        flow="row",
        gap=8,
        align="center",
        justify="center",
        radius=8,
        fill="{color.sea}",
        padding=(10, 18),
    )
    document = add_component(document, Component("button", "Controls/Button", root))
    for prop in (
        ComponentProperty("label", "Label", "text", words("Board now")),
        ComponentProperty("with-icon", "With icon", "switch", False),
        ComponentProperty(
            "icon", "Icon", "slot", icon_id("Anchor"), shortlist=tuple(map(icon_id, ICONS))
        ),
    ):
        document = add_property(document, "button", prop)
    kinds = (AxisValue("primary", "Primary"), AxisValue("quiet", "Quiet"))
    document = add_axis(document, "button", Axis("kind", "Kind", kinds, "primary"))
    document = add_axis(document, "button", state_axis())
    quiet = {"kind": "quiet"}
    document = ruled(document, "button", "label", quiet, color="{color.sea}")
    document = ruled(document, "button", "icon", quiet, stroke="{color.sea}")
    document = ruled(
        document,
        "button",
        "button",
        quiet,
        fill="{color.foam}",
        stroke="{color.sea}",
        stroke_width=1.5,
    )
    hover, press = {"state": "hover"}, {"state": "press"}
    document = ruled(document, "button", "button", hover, fill=Shift("darken", 0.07))
    document = ruled(document, "button", "button", press, fill=Shift("darken", 0.14), scale=0.97)
    lifted = {"kind": "primary", "state": "hover"}
    document = ruled(document, "button", "button", lifted, shadow=cast(3, 10, "#17495A4D"))
    for state, fill in (("hover", "#E8F3F6"), ("press", "#E0F0F4")):
        document = ruled(document, "button", "button", quiet | {"state": state}, fill=fill)
    return document


def with_icon_button(document: Document) -> Document:
    """A round button that holds nothing but an icon."""
    root = box(
        "round",
        instance("icon", FromProperty("icon"), stroke="{color.sea}"),
        flow="row",
        align="center",
        justify="center",
        width=44,
        height=44,
        radius=22,
        fill="{color.foam}",
    )
    component = Component("icon-button", "Controls/Icon button", root)
    document = add_component(document, component)
    slot = ComponentProperty(
        "icon", "Icon", "slot", icon_id("Bell"), shortlist=tuple(map(icon_id, ICONS))
    )
    document = add_property(document, "icon-button", slot)
    document = add_axis(document, "icon-button", state_axis())
    hover, press = {"state": "hover"}, {"state": "press"}
    document = ruled(document, "icon-button", "round", hover, fill=Shift("darken", 0.1))
    return ruled(document, "icon-button", "round", press, fill=Shift("darken", 0.2), scale=0.94)


def ruled(
    document: Document, component: str, node: str, when: dict[str, str], **style: Value | int
) -> Document:
    """The document with rules about one node: what holds when these axis values do."""
    return set_properties(document, Place(component, (node,)), styled(style), Map(when))
