"""The ferry line's small controls: toggle, checkbox, radio, chip, text field."""

from __future__ import annotations

from demo.drawing import box, grow, shape, text
from demo.parts import QUICK, ruled, state_axis
from outgrowth.core.color import parse
from outgrowth.core.document.records import Axis, AxisValue, Component, ComponentProperty, Document
from outgrowth.core.document.values import FromProperty, Shadow, Shift, words
from outgrowth.core.edits.tree.components import (
    add_axis,
    add_axis_value,
    add_component,
    add_property,
)

TICK = "M4 10l4 4l8-9"
DASH = "M5 10h10"


def yes_no(axis_id: str, name: str, meaning: str, first: str = "no") -> Axis:
    """A switch of an axis."""
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    return Axis(axis_id, name, values, first, meaning=meaning, motion=QUICK)  # type: ignore[arg-type]  # one of Meaning


def with_toggle(document: Document) -> Document:
    """A bar with a knob that stands left or right."""
    root = box(
        "bar",
        box(
            "knob",
            width=20,
            height=20,
            radius=10,
            fill="{color.paper}",
            shadow=(Shadow(parse("#14252B40"), 0.0, 1.0, 3.0),),
        ),
        flow="row",
        padding=(2, 2),
        justify="start",
        width=44,
        height=24,
        radius=12,
        fill="#8A9A9F",
    )
    document = add_component(document, Component("toggle", "Controls/Toggle", root))
    document = add_axis(document, "toggle", yes_no("on", "On", "checked"))
    document = add_axis(document, "toggle", state_axis())
    document = ruled(document, "toggle", "bar", {"on": "yes"}, fill="{color.sea}", justify="end")
    return ruled(document, "toggle", "bar", {"state": "hover"}, fill=Shift("darken", 0.08))


def with_checkbox(document: Document) -> Document:
    """Off, on or mixed; enabled or not; its label beside it. The check grows into place.

    Common practice, no source: the box is 16 × 16 with radius 2 and a 1 px line.
    """
    mark = box(
        "mark",
        shape(
            "tick",
            TICK,
            stroke="{color.paper}",
            line_width=3,
            path_size=20,
            width=12,
            height=12,
            floating=True,
            pins="center",
            opacity=0,
            scale=0.3,
        ),
        shape(
            "dash",
            DASH,
            stroke="{color.paper}",
            line_width=3,
            path_size=20,
            width=12,
            height=12,
            floating=True,
            pins="center",
            opacity=0,
            scale=0.3,
        ),
        flow="row",
        align="center",
        justify="center",
        width=16,
        height=16,
        radius=2,
        fill="{color.paper}",
        stroke="{color.muted}",
        stroke_width=1,
    )
    root = box(
        "checkbox",
        mark,
        text("label", FromProperty("label"), font_size=15, click_through=True),
        flow="row",
        gap=10,
        align="center",
    )
    document = add_component(document, Component("checkbox", "Controls/Checkbox", root))
    document = add_property(
        document, "checkbox", ComponentProperty("label", "Label", "text", words("Bring a bicycle"))
    )
    checked = tuple(AxisValue(v, v) for v in ("off", "on", "mixed"))
    axis = Axis("checked", "Checked", checked, "off", meaning="checked", motion=QUICK)
    document = add_axis(document, "checkbox", axis)
    document = add_axis(document, "checkbox", yes_no("enabled", "Enabled", "enabled", "yes"))
    for value, part in (("on", "tick"), ("mixed", "dash")):
        when = {"checked": value}
        document = ruled(document, "checkbox", part, when, opacity=1, scale=1)
        document = ruled(
            document, "checkbox", "mark", when, fill="{color.sea}", stroke="{color.sea}"
        )
    return ruled(document, "checkbox", "checkbox", {"enabled": "no"}, opacity=0.45)


def with_radio(document: Document) -> Document:
    """One of several: a ring, and a dot when it is the chosen one."""
    ring = box(
        "ring",
        box("dot", width=8, height=8, radius=4, fill="{color.sea}", shown=False),
        flow="row",
        align="center",
        justify="center",
        width=18,
        height=18,
        radius=9,
        fill="{color.paper}",
        stroke="{color.muted}",
        stroke_width=1.5,
    )
    root = box(
        "radio",
        ring,
        text("label", FromProperty("label"), font_size=15, click_through=True),
        flow="row",
        gap=10,
        align="center",
    )
    document = add_component(document, Component("radio", "Controls/Radio", root))
    label = ComponentProperty("label", "Label", "text", words("On deck"))
    document = add_property(document, "radio", label)
    document = add_axis(document, "radio", yes_no("chosen", "Chosen", "checked"))
    document = ruled(document, "radio", "dot", {"chosen": "yes"}, shown=True)
    return ruled(document, "radio", "ring", {"chosen": "yes"}, stroke="{color.sea}")


def with_chip(document: Document) -> Document:
    """A filter that can be taken or left."""
    root = box(
        "chip",
        text(
            "label",
            FromProperty("label"),
            font_size=14,
            font_weight=600,
            color="{color.sea}",
            line_height=1.3,
        ),
        flow="row",
        padding=(6, 14),
        radius=16,
        fill="{color.paper}",
        stroke="{color.sea}",
        stroke_width=1.5,
    )
    document = add_component(document, Component("chip", "Controls/Chip", root))
    label = ComponentProperty("label", "Label", "text", words("Today"))
    document = add_property(document, "chip", label)
    document = add_axis(document, "chip", yes_no("selected", "Selected", "selected"))
    document = add_axis(document, "chip", state_axis())
    document = ruled(document, "chip", "chip", {"selected": "yes"}, fill="{color.sea}")
    document = ruled(document, "chip", "label", {"selected": "yes"}, color="{color.paper}")
    return ruled(document, "chip", "chip", {"state": "hover"}, fill=Shift("darken", 0.06))


def with_text_field(document: Document) -> Document:
    """A label, what is written, and what is wrong with it."""
    root = box(
        "field",
        text("label", FromProperty("label"), font_size=13, font_weight=600, color="{color.muted}"),
        box(
            "frame",
            text("value", FromProperty("value"), font_size=15, width=grow),
            flow="row",
            padding=(10, 12),
            radius=8,
            width=grow,
            fill="{color.paper}",
            stroke="{color.muted}",
            stroke_width=1,
            name="entry",
        ),
        text("problem", FromProperty("problem"), shown=False, font_size=13, color="{color.coral}"),
        flow="column",
        gap=4,
        width=240,
    )
    document = add_component(document, Component("text-field", "Controls/Text field", root))
    for name, said in (
        ("Label", "Booking number"),
        ("Value", "HS 4471"),
        ("Problem", "This sailing has left."),
    ):
        prop = ComponentProperty(name.lower(), name, "text", words(said))
        document = add_property(document, "text-field", prop)
    values = tuple(AxisValue(v, v) for v in ("rest", "focus"))
    document = add_axis(
        document, "text-field", Axis("focus", "Focus", values, "rest", "focus", motion=QUICK)
    )
    document = add_axis(document, "text-field", yes_no("invalid", "Invalid", "none"))
    document = ruled(
        document, "text-field", "frame", {"focus": "focus"}, stroke="{color.sea}", stroke_width=2
    )
    document = ruled(document, "text-field", "frame", {"invalid": "yes"}, stroke="{color.coral}")
    return ruled(document, "text-field", "problem", {"invalid": "yes"}, shown=True)


def with_disabled_button(document: Document) -> Document:
    """The button's fourth state."""
    disabled = AxisValue("disabled", "disabled")
    document = add_axis_value(document, "button", "state", disabled)
    return ruled(document, "button", "button", {"state": "disabled"}, opacity=0.4)
