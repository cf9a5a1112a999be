"""A month's sailings: days in a grid, and the list of the chosen day's boats, which scrolls."""

from __future__ import annotations

from demo.behaviours import put, with_cue
from demo.controls import yes_no
from demo.drawing import box, grow, instance, shape, text
from demo.parts import ruled, state_axis
from demo.screens import icon_button
from demo.travel import BAR, navigation
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
from outgrowth.core.document.values import FromProperty, Once, Shift, Value, words
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_component, add_property, add_screen
from outgrowth.core.resolve.ladder import Place

DAYS = 31
FIRST = 4.0
"""The month begins on a Thursday."""
CHOSEN = 8
NONE, FULL = {3, 4, 18, 25}, {9, 10, 17, 24, 31}
WEEKDAYS = ("Mo", "Tu", "We", "Th", "Fr", "Sa", "Su")

MORNING = (
    ("07:10", "Skerry direct", "Berth 2", "18 seats"),
    ("08:40", "Skerry direct", "Berth 2", "28 seats"),
    ("10:15", "By way of Little Holm", "Berth 1", "61 seats"),
)
AFTERNOON = (
    ("12:40", "Skerry direct", "Berth 2", "44 seats"),
    ("14:20", "By way of North Light", "Berth 3", "12 seats"),
    ("16:05", "Skerry direct", "Berth 2", "8 seats"),
)
EVENING = (
    ("18:30", "Skerry direct", "Berth 2", "90 seats"),
    ("20:15", "By way of Little Holm", "Berth 1", "35 seats"),
    ("22:00", "Last boat back to Holm", "Berth 2", "112 seats"),
)


def with_day(document: Document) -> Document:
    """One day of the month: its number, and a mark for how full its boats are."""
    root = box(
        "day",
        text("number", FromProperty("number"), font_size=15, font_weight=600, text_align="center"),
        shape("boats", "", form="ellipse", width=6, height=6, fill="{color.sea}"),
        flow="column",
        gap=4,
        align="center",
        padding=(7, 0),
        radius=10,
        width=grow,
        fill="{color.paper}",
        role="radio",
        cursor="pointer",
    )
    document = add_component(document, Component("day", "Travel/Day", root))
    number = ComponentProperty("number", "Number", "text", words("8"))
    document = add_property(document, "day", number)
    boats = tuple(AxisValue(value, value) for value in ("free", "full", "none"))
    document = add_axis(document, "day", Axis("boats", "Boats", boats, "free"))
    document = add_axis(document, "day", yes_no("chosen", "Chosen", "selected"))
    document = add_axis(document, "day", state_axis())
    document = ruled(document, "day", "boats", {"boats": "full"}, fill="{color.coral}")
    document = ruled(document, "day", "boats", {"boats": "none"}, opacity=0.0)
    document = ruled(document, "day", "number", {"boats": "none"}, color="{color.muted}")
    document = ruled(document, "day", "day", {"boats": "none"}, fill="{color.sand}")
    document = ruled(document, "day", "day", {"chosen": "yes"}, fill="{color.sea}")
    document = ruled(document, "day", "number", {"chosen": "yes"}, color="{color.paper}")
    document = ruled(document, "day", "boats", {"chosen": "yes"}, fill="{color.paper}")
    document = ruled(document, "day", "day", {"state": "hover"}, fill=Shift("darken", 0.06))
    return with_cue(document, "day", "tap", put("chosen", "yes"))


def with_calendar(document: Document) -> Document:
    """The screen: a month, and below it what sails on the day that is chosen."""
    root = box(
        "calendar",
        instance("header", "app-header", "header", {"title": "When do you sail?"}, width=grow),
        _month_head(),
        _month(),
        _sailings(),
        navigation("times"),
        name="Calendar",
        flow="column",
        gap=12,
        width=390,
        height=844,
        fill="{color.sand}",
        padding=(20, 16),
        padding_bottom=BAR + 16,
    )
    document = add_screen(document, Screen("calendar", "Calendar", root))
    only_one: dict[str, Value] = {"one-at-a-time": (Once("chosen", "yes"),), "role": "radiogroup"}
    document = set_properties(document, Place("calendar", ("month",)), only_one)
    document = set_properties(document, Place("calendar", ("month",)), {"label": "Day"})
    to_calendar = Change("go", "calendar")
    return with_cue(document, "boarding", "tap", to_calendar, node=("date",))


def _month_head() -> Node:
    return box(
        "month-head",
        text("month-name", "October", font_size=20, font_weight=700, trim="letters"),
        icon_button("earlier", "Back", push_left=True),
        icon_button("later", "Onward"),
        flow="row",
        gap=8,
        align="center",
        width=grow,
    )


def _month() -> Node:
    days: list[Node] = [
        text(
            f"weekday-{name.lower()}",
            name,
            name,
            font_size=12,
            font_weight=600,
            text_align="center",
            color="{color.muted}",
            width=grow,
        )
        for name in WEEKDAYS
    ]
    for number in range(1, DAYS + 1):
        boats = "none" if number in NONE else "full" if number in FULL else "free"
        choices: dict[str, Value] = {"number": str(number), "boats": boats}
        if number == CHOSEN:
            choices["chosen"] = "yes"
        starts: dict[str, Value] = {"column-start": FIRST} if number == 1 else {}
        name = f"{number} October"
        days.append(instance(f"day-{number}", "day", name, choices, **starts))
    return box("month", *days, flow="grid", columns=(grow,) * 7, gap=4, cross_gap=4, width=grow)


def _sailings() -> Node:
    """A list that scrolls; the part of the day stays above its boats."""
    return box(
        "sailings",
        _part_of_day("morning", "Morning", MORNING),
        _part_of_day("afternoon", "Afternoon", AFTERNOON),
        _part_of_day("evening", "Evening", EVENING),
        flow="column",
        scrolls="y",
        radius=14,
        width=grow,
        height=grow,
        fill="{color.paper}",
    )


def _part_of_day(part_id: str, said: str, boats: tuple[tuple[str, str, str, str], ...]) -> Node:
    title = box(
        f"{part_id}-title",
        text(f"{part_id}-name", said, said, font_size=13, font_weight=700, color="{color.sea}"),
        text(f"{part_id}-count", f"{len(boats)} boats", "boats", font_size=12, push_left=True,
             color="{color.muted}"),
        name=f"{said} title",
        flow="row",
        align="center",
        sticks="top",
        padding=(8, 14),
        width=grow,
        fill="{color.foam}",
    )  # fmt: skip
    rows = [_boat(f"{part_id}-{n}", *boat) for n, boat in enumerate(boats)]
    return box(part_id, title, *rows, name=said, flow="column", width=grow)


def _boat(row_id: str, time: str, route: str, berth: str, seats: str) -> Node:
    return box(
        f"boat-{row_id}",
        text(f"boat-time-{row_id}", time, "time", font_size=16, font_weight=700),
        text(f"boat-route-{row_id}", route, "route", font_size=14, max_lines=1),
        text(f"boat-seats-{row_id}", seats, "seats", font_size=13, color="{color.muted}",
             push_left=True),
        name=f"{time} {berth}",
        flow="row",
        gap=12,
        align="baseline",
        padding=(12, 14),
        width=grow,
    )  # fmt: skip
