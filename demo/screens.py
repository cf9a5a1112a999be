"""The ferry line's screens: a passenger's phone and the harbour staff's desk."""

from __future__ import annotations

from demo.drawing import box, cast, grow, instance, text
from demo.parts import icon_id
from demo.travel import BAR, line_below, navigation
from outgrowth.core.document.records import Document, Node, Screen
from outgrowth.core.document.values import Value
from outgrowth.core.edits.tree.components import add_screen

ACTIONS = 164 + 44 + 2 * 12 + 16
"""Px behind a departure's row: what can be done about it."""

SAILINGS = (
    ("10-15", "10:15", "Skerry direct", "40 min · calm", "24 seats"),
    ("12-40", "12:40", "By way of Little Holm", "65 min · light swell", "61 seats"),
    ("16-05", "16:05", "Skerry direct", "40 min · calm", "8 seats"),
)

DEPARTURES = (
    ("08-40", "08:40", "Skerry", "Berth 2", "Boarding", "212 of 240"),
    ("09-10", "09:10", "Little Holm", "Berth 1", "On time", "64 of 90"),
    ("10-15", "10:15", "Skerry", "Berth 2", "Late 15 min", "216 of 240"),
    ("11-00", "11:00", "North Light", "Berth 3", "On time", "31 of 90"),
    ("12-40", "12:40", "Skerry", "Berth 2", "On time", "179 of 240"),
)


def button(node_id: str, label: str, kind: str = "primary", icon: str = "", **style: Value) -> Node:
    """An instance of the button with these words."""
    choices: dict[str, Value] = {"label": label}
    if kind != "primary":
        choices["kind"] = kind
    if icon:
        choices |= {"with-icon": True, "icon": icon_id(icon)}
    return instance(node_id, "button", f"{label} button", choices, **style)


def icon_button(node_id: str, icon: str, **style: Value) -> Node:
    """An instance of the icon button with this icon."""
    return instance(node_id, "icon-button", f"{icon} button", {"icon": icon_id(icon)}, **style)


def with_boarding(document: Document) -> Document:
    """The passenger's next crossing, and what else sails today."""
    root = box(
        "boarding",
        _app_header(),
        _crossing(),
        text("later-title", "Later today", font_size=17, font_weight=700, color="{color.ink}"),
        box(
            "later",
            *(_sailing(*sailing) for sailing in SAILINGS),
            flow="column",
            gap=10,
            width=grow,
        ),
        button("return", "Buy a return ticket", icon="Ticket", width=grow, push_top=True),
        navigation("sail"),
        name="Boarding",
        flow="column",
        gap=16,
        width=390,
        height=844,
        fill="{color.sand}",
        padding=(20, 16),
        padding_bottom=BAR + 16,
    )
    return add_screen(document, Screen("boarding", "Boarding", root))


def _app_header() -> Node:
    return box(
        "header",
        icon_button("back", "Back"),
        text(
            "title",
            "Holm to Skerry",
            font_size=20,
            font_weight=700,
            color="{color.ink}",
        ),
        icon_button("bell", "Bell", push_left=True),
        flow="row",
        gap=12,
        align="center",
        width=grow,
    )


def _crossing() -> Node:
    facts = (("gate", "Berth", "2"), ("deck", "Deck", "Upper"), ("seat", "Seats", "14A, 14B"))
    return box(
        "crossing",
        text("date", "Thursday, 08:40", font_size=24, font_weight=700, line_height=1.25),
        text(
            "sea",
            "The sea is calm. Boarding closes ten minutes before we sail.",
            font_size=15,
            color="{color.muted}",
            width=grow,
        ),
        box(
            "facts",
            *(_fact(*fact) for fact in facts),
            flow="row",
            gap=24,
            width=grow,
        ),
        box(
            "actions",
            button("board", "Board now", icon="Anchor", width=grow),
            button("wait", "Later", "quiet"),
            flow="row",
            gap=10,
            width=grow,
        ),
        flow="column",
        gap=14,
        padding=20,
        radius=16,
        width=grow,
        fill="{color.paper}",
        shadow=cast(2, 12, "#14252B1F"),
    )


def _fact(fact_id: str, label: str, value: str) -> Node:
    return box(
        fact_id,
        text(f"{fact_id}-label", label, font_size=12, color="{color.muted}"),
        text(f"{fact_id}-value", value, font_size=16, font_weight=600),
        flow="column",
        gap=2,
    )


def _sailing(sailing_id: str, time: str, route: str, facts: str, seats: str) -> Node:
    return box(
        f"sailing-{sailing_id}",
        text(f"time-{sailing_id}", time, "time", font_size=17, font_weight=700, width=48),
        box(
            f"route-{sailing_id}",
            text(f"name-{sailing_id}", route, "route", font_size=15, font_weight=600, width=grow),
            text(
                f"facts-{sailing_id}",
                f"{facts} · {seats}",
                "facts",
                font_size=13,
                color="{color.muted}",
                width=grow,
            ),
            name="crossing",
            flow="column",
            gap=2,
            width=grow,
        ),
        button(f"hold-{sailing_id}", "Hold", "quiet"),
        name=f"{time} sailing",
        flow="row",
        gap=14,
        align="center",
        radius=12,
        width=grow,
        fill="{color.paper}",
        padding=(12, 16),
    )


def with_desk(document: Document) -> Document:
    """The harbour desk's departures, with what staff do about each."""
    root = box(
        "desk",
        _side(),
        box(
            "main",
            _desk_header(),
            box(
                "departures",
                _departures_head(),
                *(_departure(*departure) for departure in DEPARTURES),
                flow="column",
                radius=14,
                clip=True,
                fill="{color.paper}",
                width=grow,
            ),
            flow="column",
            gap=24,
            width=grow,
            height=grow,
            padding=32,
        ),
        name="Harbour desk",
        flow="row",
        width=1280,
        height=800,
        fill="{color.sand}",
    )
    return add_screen(document, Screen("desk", "Harbour desk", root))


def _side() -> Node:
    names = ("Departures", "Check-in", "Vehicles", "Crew", "Weather")
    entries = [
        text(
            f"side-{name.lower()}",
            name,
            name,
            font_size=15,
            font_weight=600 if n == 0 else 400,
            color="{color.paper}",
            opacity=1.0 if n == 0 else 0.72,
        )
        for n, name in enumerate(names)
    ]
    return box(
        "side",
        text("line", "Holm & Skerry", font_size=18, font_weight=700, color="{color.paper}"),
        *entries,
        flow="column",
        gap=18,
        width=208,
        height=grow,
        fill="{color.sea}",
        padding=(32, 24),
    )


def _desk_header() -> Node:
    return box(
        "desk-header",
        box(
            "desk-title",
            text("today", "Departures today", font_size=28, font_weight=700, line_height=1.2),
            text("berths", "Three berths, five sailings", font_size=15, color="{color.muted}"),
            flow="column",
            gap=4,
            width=grow,
        ),
        icon_button("desk-clock", "Clock"),
        button("print", "Print lists", "quiet"),
        button("add", "Add a sailing", icon="Add"),
        flow="row",
        gap=12,
        align="center",
        width=grow,
    )


def _departures_head() -> Node:
    return box(
        "departures-head",
        instance("head", "timetable-head", "columns", {"kind": "selectable"}, width=grow),
        flow="row",
        padding_right=ACTIONS,
        width=grow,
        fill="{color.foam}",
    )


def _departure(row_id: str, time: str, port: str, berth: str, status: str, seats: str) -> Node:
    late = status.startswith("Late")
    warning: dict[str, str] = {"fill": "{color.coral}"} if late else {}
    call = "Call passengers" if late else "Open boarding"
    told: dict[str, Value] = {"time": time, "port": port, "berth": berth, "status": status}
    chosen = {"kind": "selectable", "late": "yes" if late else "no", "seats": seats}
    if row_id == "09-10":
        chosen["chosen"] = "yes"
    return box(
        f"departure-{row_id}",
        instance(
            f"row-{row_id}",
            "timetable-row",
            "row",
            told | chosen,
            width=grow,
            height=grow,
        ),
        button(f"call-{row_id}", call, "primary" if late else "quiet", width=164, **warning),
        icon_button(f"more-{row_id}", "Onward"),
        name=f"{time} to {port}",
        flow="row",
        gap=12,
        align="center",
        width=grow,
        min_height=58,
        padding_right=16,
        shadow=line_below(),
    )


def with_fares(document: Document) -> Document:
    """Choosing a fare: parts within parts within parts."""
    chips = [
        instance(f"chip-{n}", "chip", f"{label} chip", {"label": label, "selected": chosen})
        for n, (label, chosen) in enumerate((("Today", "yes"), ("Tomorrow", "no"), ("Week", "no")))
    ]
    cards = [
        instance(
            f"fare-{n}",
            "fare-card",
            f"{name} fare",
            {"name": name, "price": price, "about": about, "best": best},
            width=grow,
        )
        for n, (name, price, about, best) in enumerate(FARES)
    ]
    root = box(
        "fares",
        instance("header", "app-header", "header", {"title": "Choose a fare"}, width=grow),
        box("days", *chips, flow="row", gap=8),
        *cards,
        box(
            "extras",
            instance("bicycle", "checkbox", choices={"label": "Bring a bicycle", "checked": "on"}),
            instance("quiet", "toggle", choices={"on": "yes"}),
            name="extras",
            flow="row",
            justify="space-between",
            align="center",
            width=grow,
        ),
        navigation("tickets"),
        name="Fares",
        flow="column",
        gap=14,
        width=390,
        height=844,
        fill="{color.sand}",
        padding=(20, 16),
        padding_bottom=BAR + 16,
    )
    return add_screen(document, Screen("fares", "Fares", root))


FARES = (
    ("Foot passenger", "12.50", "One crossing, any day this season.", "yes"),
    ("With a car", "48.00", "A car up to five metres and its driver.", "no"),
)
