"""Settings on the phone, the kiosk at the pier, and a list of
departures that was put together in a hurry."""

from __future__ import annotations

from immutables import Map

from demo.drawing import Given, box, grow, instance, styled, text
from demo.screens import DEPARTURES, button
from outgrowth.core.document.records import Document, Node, Screen
from outgrowth.core.document.values import Once, Value
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.resolve.ladder import Place

SWITCHES = (
    ("late", "Tell me when a boat is late", True),
    ("sea", "Tell me when the sea is rough", True),
    ("offers", "Offers of the season", False),
)
LANGUAGES = ("English", "Deutsch", "Norsk")
JUMBLED: tuple[dict[str, Given], ...] = (
    {},
    {"padding_left": 20, "width": 640},
    {"padding_right": 2, "opacity": 0.9},
    {"padding": (6, 8), "width": 664},
    {"padding_left": 0, "align": "start"},
)
"""What differs from row to row, as if five people had each done one."""


def with_settings(document: Document) -> Document:
    """Settings: fields, switches, one of several, and a button that keeps them."""
    root = box(
        "settings",
        instance(
            "header", "app-header", "header", {"title": "Settings", "with-bell": False}, width=grow
        ),
        box(
            "reach",
            _field("name", "Name", "Marit Sund"),
            _field("phone", "Telephone", "0555 4471"),
            flow="column",
            gap=12,
            width=grow,
        ),
        box(
            "switches", *(_switch(*switch) for switch in SWITCHES), flow="column", width=grow,
            fill="{color.paper}", radius=14, clip=True,
        ),
        text("language", "Language", font_size=17, font_weight=700),
        box(
            "languages",
            *(
                instance(
                    f"language-{n}", "radio", said,
                    {"label": said, "chosen": "yes" if n == 0 else "no"},
                )
                for n, said in enumerate(LANGUAGES)
            ),
            flow="row",
            gap=20,
        ),
        button("kiosk-way", "Check in at the pier", "quiet", icon="Onward", width=grow),
        button("save", "Keep these settings", width=grow, push_top=True),
        name="Settings",
        flow="column",
        gap=18,
        width=390,
        height=844,
        fill="{color.sand}",
        padding=(20, 16),
    )  # fmt: skip
    document = add_screen(document, Screen("settings", "Settings", root))
    together: dict[str, Value] = {
        "role": "radiogroup",
        "label": "Language",
        "one-at-a-time": (Once("chosen", "yes"),),
    }
    return set_properties(document, Place("settings", ("languages",)), together)


def _field(field_id: str, label: str, value: str) -> Node:
    choices: dict[str, Value] = {"label": label, "value": value}
    return instance(field_id, "text-field", label, choices, width=grow)


def _switch(switch_id: str, said: str, on: bool) -> Node:
    return box(
        f"switch-{switch_id}",
        text(f"said-{switch_id}", said, said, font_size=15, width=grow),
        instance(f"toggle-{switch_id}", "toggle", said, {"on": "yes" if on else "no"}),
        name=said,
        flow="row",
        gap=12,
        align="center",
        padding=(14, 16),
        width=grow,
    )


def with_kiosk(document: Document) -> Document:
    """The kiosk where passengers check in: 1080 × 1920, at half its size."""
    keys = [
        button(f"key-{key}", key, "quiet", width=grow, height=72)
        for key in ("1", "2", "3", "4", "5", "6", "7", "8", "9", "HS", "0", "Clear")
    ]
    root = box(
        "kiosk",
        text("line", "Holm & Skerry", font_size=20, font_weight=700, color="{color.foam}"),
        text("welcome", "Check in", font_size=52, font_weight=700, color="{color.paper}"),
        text(
            "how", "Type your booking number, or hold your ticket to the glass.", font_size=22,
            color="{color.foam}", width=grow,
        ),
        box(
            "pad",
            _field("number", "Booking number", "HS 4471"),
            box("keys", *keys, flow="grid", columns=(grow,) * 3, gap=12, cross_gap=12, width=grow),
            button("check-in", "Check in", icon="Ticket", width=grow, height=72),
            flow="column",
            gap=18,
            padding=24,
            radius=20,
            width=grow,
            fill="{color.paper}",
        ),
        box(
            "foot",
            button("ask", "Ask for help", "quiet", icon="Bell"),
            text("staff", "Staff only", font_size=16, color="{color.foam}", push_left=True),
            flow="row",
            align="center",
            width=grow,
            push_top=True,
        ),
        name="Kiosk",
        flow="column",
        gap=20,
        padding=(48, 40),
        width=540,
        height=960,
        fill="{color.sea}",
    )  # fmt: skip
    document = add_screen(document, Screen("kiosk", "Kiosk", root))
    large = styled({"font_size": 22})
    for part in (*(node.id for node in keys), "check-in", "ask"):
        document = set_properties(document, Place("kiosk", (part, "label")), large)
    document = set_properties(
        document, Place("kiosk", ("number", "value")), styled({"font_size": 28})
    )
    return set_properties(document, Place("kiosk", ("staff",)), {"cursor": "pointer"})


def with_jumbled(document: Document) -> Document:
    """A list of departures in which no two rows stand alike: what a careful eye finds."""
    rows = []
    for n, (row_id, time, port, berth, status, seats) in enumerate(DEPARTURES):
        told: dict[str, Value] = {
            "time": time, "port": port, "berth": berth, "status": status, "seats": seats,
        }  # fmt: skip
        late = {"late": "yes"} if status.startswith("Late") else {}
        style: dict[str, Given] = {"width": 680, **JUMBLED[n]}
        rows.append(instance(f"list-{row_id}", "timetable-row", time, told | late, **style))
    root = box(
        "jumbled",
        text("jumbled-title", "Departures, for the notice board", font_size=28, font_weight=700),
        box("list", instance("list-head", "timetable-head"), *rows, flow="column", gap=2),
        name="Jumbled list",
        flow="column",
        gap=24,
        padding=40,
        width=760,
        height=480,
        fill="{color.sand}",
    )
    document = add_screen(document, Screen("jumbled", "Jumbled list", root))
    document = set_properties(document, Place("jumbled", ("jumbled-title",)), {"cursor": "pointer"})
    crooked = (("list-09-10", "berth", "center"), ("list-11-00", "seats", "end"))
    for row, cell, align in crooked:
        place = Place("jumbled", (row, cell, "words"))
        document = set_properties(document, place, {"text-align": align}, Map())
    return document
