"""What the ferry line's parts do: cues on the components, so that all instances have them."""

from __future__ import annotations

from itertools import pairwise

from immutables import Map

from demo.controls import yes_no
from demo.drawing import box, grow, instance, shape, text
from demo.parts import QUICK, ruled, state_axis
from demo.travel import PLACES
from outgrowth.core.document.cues import Change, Cue, Motion, Path, Trigger, TriggerKind
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Screen,
)
from outgrowth.core.document.values import FromProperty, Once, Value, words
from outgrowth.core.edits.cues import add_cue, set_part_motion
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_component, add_property, add_screen
from outgrowth.core.resolve.ladder import Place

QUARTER = 1500.0
"""Common practice, no source: a ring of four quarter sweeps of 1.5 s for a turn of 6 s."""

DAYS = (
    ("today", "Today", "Five sailings are left today. The sea is calm."),
    ("tomorrow", "Tomorrow", "Nine sailings. Fog is likely before ten."),
    ("weekend", "Weekend", "Twelve sailings a day, and a late boat on Saturday."),
)


def with_cue(
    document: Document,
    owner: str,
    trigger: TriggerKind | Trigger,
    *changes: Change,
    node: Path = (),
    when: dict[str, str] | None = None,
    motion: Motion | None = None,
) -> Document:
    """The document with one cue more, called by its number."""
    owner_record = document.owner(owner)
    number = len(owner_record.behaviour.cues) + 1 if owner_record is not None else 1
    listened = trigger if isinstance(trigger, Trigger) else Trigger(trigger)
    cue = Cue(f"{owner}-cue-{number}", node, listened, changes, Map(when or {}), motion)
    return add_cue(document, owner, cue)


def turned(axis: str, path: Path = ()) -> Change:
    """The axis goes to its next value."""
    return Change("next", axis, at=path)


def put(axis: str, value: str, path: Path = ()) -> Change:
    """A change that gives an axis a value."""
    return Change("set", axis, value, path)


def with_roles(document: Document) -> Document:
    """What the parts are for assistive technology, and so which keys they take."""
    roles = {
        "button": "button",
        "icon-button": "button",
        "toggle": "switch",
        "checkbox": "checkbox",
        "radio": "radio",
        "chip": "checkbox",
        "text-field": "textbox",
        "island-item": "tab",
        "nav-entry": "link",
    }
    for component, role in roles.items():
        document = set_properties(document, Place(component), {"role": role})
    hand = ("button", "icon-button", "toggle", "checkbox", "radio", "chip", "nav-entry")
    for component in hand:
        document = set_properties(document, Place(component), {"cursor": "pointer"})
    return document


def with_small_cues(document: Document) -> Document:
    """Toggle, checkbox, radio and chip are turned by a tap."""
    document = with_cue(document, "toggle", "tap", turned("on"))
    document = with_cue(document, "checkbox", "tap", put("checked", "off"), when={"checked": "on"})
    for value in ("off", "mixed"):
        tick = put("checked", "on")
        document = with_cue(document, "checkbox", "tap", tick, when={"checked": value})
    document = with_cue(document, "radio", "tap", put("chosen", "yes"))
    document = with_cue(document, "chip", "tap", turned("selected"))
    selectable = {"kind": "selectable"}
    return with_cue(document, "timetable-row", "tap", turned("chosen"), when=selectable)


def with_opening(document: Document) -> Document:
    """A notice is opened and closed by its head; its answer comes once there is room."""
    head = Place("notice", ("head",))
    document = set_properties(document, head, {"role": "button", "cursor": "pointer"})
    document = with_cue(document, "notice", "tap", turned("open"), node=("head",))
    late = Motion(180.0, "ease-out", 120.0)
    document = set_part_motion(document, "notice", ("answer",), "opacity", late)
    only: dict[str, Value] = {"one-at-a-time": (Once("open", "yes"),)}
    return set_properties(document, Place("help", ("notices",)), only)


def with_island_cues(document: Document) -> Document:
    """The panel's picture and words follow its three items."""
    items, about = Place("island-panel", ("items",)), Place("island-panel", ("about",))
    document = set_properties(document, items, {"role": "tablist", "label": "Islands"})
    document = set_properties(document, about, {"role": "tabpanel"})
    for key in ("skerry", "little-holm", "north-light"):
        item: Path = (f"item-{key}",)
        document = with_cue(document, "island-panel", "tap", put("island", key), node=item)
    return document


def with_tabs(document: Document) -> Document:
    """Tabs that go on by themselves every six seconds, with a ring that fills meanwhile and
    starts again on a tap."""
    document = _with_tab(document)
    tabs = [
        instance(f"tab-{key}", "day-tab", said, {"label": said}, width=grow)
        for key, said, _ in DAYS
    ]
    root = box(
        "tabs",
        box("row", *tabs, flow="row", gap=4, width=grow, padding=4, radius=12, fill="{color.foam}"),
        text("said", DAYS[0][2], font_size=15, color="{color.muted}", width=grow),
        flow="column",
        gap=12,
        width=358,
    )
    document = add_component(document, Component("day-tabs", "Travel/Day tabs", root))
    row, words_of_day = Place("day-tabs", ("row",)), Place("day-tabs", ("said",))
    document = set_properties(document, row, {"role": "tablist", "label": "Days"})
    document = set_properties(document, words_of_day, {"role": "tabpanel"})
    values = tuple(AxisValue(key, said) for key, said, _ in DAYS)
    days = Axis("day", "Day", values, DAYS[0][0], motion=Motion(300.0, "ease-out"))
    document = add_axis(document, "day-tabs", days)
    for key, _, said in DAYS:
        chosen = {"choice:selected": "yes"}
        document = ruled(document, "day-tabs", f"tab-{key}", {"day": key}, **chosen)
        document = ruled(document, "day-tabs", "said", {"day": key}, content=said)
        again = put("day", key), Change("restart")
        document = with_cue(document, "day-tabs", "tap", *again, node=(f"tab-{key}",))
    return with_cue(document, "day-tabs", Trigger("delay", ms=4 * QUARTER), turned("day"))


def _with_tab(document: Document) -> Document:
    ring = shape(
        "ring",
        "",
        form="ellipse",
        arc_sweep=0,
        thickness=3,
        width=14,
        height=14,
        fill="{color.sea}",
        shown=False,
    )
    root = box(
        "tab",
        ring,
        text("label", FromProperty("label"), font_size=14, font_weight=600, color="{color.muted}"),
        flow="row",
        gap=6,
        align="center",
        justify="center",
        padding=(8, 10),
        radius=9,
        role="tab",
        cursor="pointer",
    )
    document = add_component(document, Component("day-tab", "Travel/Day tab", root))
    label = ComponentProperty("label", "Label", "text", words("Today"))
    document = add_property(document, "day-tab", label)
    document = add_axis(document, "day-tab", yes_no("selected", "Selected", "selected"))
    names = ("start", "first", "second", "third", "fourth")
    values = tuple(
        AxisValue(name, name, Motion(0.0) if name == "start" else None) for name in names
    )
    sweep = Axis("quarter", "Quarter", values, "start", motion=Motion(QUARTER, "linear"))
    document = add_axis(document, "day-tab", sweep)
    document = add_axis(document, "day-tab", state_axis())
    document = ruled(document, "day-tab", "tab", {"selected": "yes"}, fill="{color.paper}")
    document = ruled(document, "day-tab", "label", {"selected": "yes"}, color="{color.sea}")
    document = ruled(document, "day-tab", "ring", {"selected": "yes"}, shown=True)
    document = ruled(document, "day-tab", "tab", {"state": "hover"}, fill="#FFFFFF99")
    for n, name in enumerate(names):
        if n:
            document = ruled(document, "day-tab", "ring", {"quarter": name}, arc_sweep=90 * n)
    on = {"selected": "yes"}
    document = with_cue(document, "day-tab", "appear", put("quarter", "first"), when=on)
    chosen = Trigger("became", axis="selected", value="yes")
    document = with_cue(document, "day-tab", chosen, put("quarter", "first"))
    # A tap on the chosen one starts its ring again.
    document = with_cue(document, "day-tab", "tap", put("quarter", "start"), when=on)
    restarted = Trigger("became", axis="quarter", value="start")
    document = with_cue(document, "day-tab", restarted, put("quarter", "first"), when=on)
    left = Trigger("became", axis="selected", value="no")
    document = with_cue(document, "day-tab", left, put("quarter", "start"))
    for after, following in pairwise(names[1:]):
        wait = Trigger("delay", ms=QUARTER)
        going = on | {"quarter": after}
        document = with_cue(document, "day-tab", wait, put("quarter", following), when=going)
    return document


def with_booking(document: Document) -> Document:
    """The screen on which a crossing is booked: days, seats, a name, and what else there is."""
    seats = [
        instance(f"seat-{n}", "radio", said, {"label": said, "chosen": "yes" if n == 0 else "no"})
        for n, said in enumerate(("On deck", "In the saloon", "By the window"))
    ]
    root = box(
        "booking",
        instance("header", "app-header", "header", {"title": "Book a crossing"}, width=grow),
        instance("days", "day-tabs", width=grow),
        text("seats-title", "Where would you like to sit?", font_size=17, font_weight=700),
        box("seats", *seats, flow="column", gap=12, width=grow),
        instance("name", "text-field", width=grow),
        box(
            "extras",
            instance("bicycle", "checkbox", choices={"label": "Bring a bicycle"}),
            instance("quiet", "toggle"),
            flow="row",
            justify="space-between",
            align="center",
            width=grow,
        ),
        instance(
            "done", "button", "done button", {"label": "Book for 12.50"}, width=grow, push_top=True
        ),
        name="Booking",
        flow="column",
        gap=18,
        width=390,
        height=844,
        fill="{color.sand}",
        padding=(20, 16),
    )
    document = add_screen(document, Screen("booking", "Booking", root))
    only_one = (Once("chosen", "yes"),)
    together: dict[str, Value] = {"role": "radiogroup", "one-at-a-time": only_one}
    document = set_properties(document, Place("booking", ("seats",)), together)
    return set_properties(document, Place("booking", ("seats",)), {"label": "Seat"})


def with_ways(document: Document) -> Document:
    """From screen to screen: the navigation, the fares' buttons, and back."""
    for n, (_, _, screen) in enumerate(PLACES):
        go = Change("go", screen)
        document = with_cue(document, "navigation", "tap", go, node=(f"entry-{n}",))
    for owner, node, screen in (
        ("app-header", "bell", "help"),
        ("boarding", "bell", "settings"),
        ("boarding", "return", "fares"),
        ("settings", "kiosk-way", "kiosk"),
        ("kiosk", "check-in", "boarding"),
        ("kiosk", "ask", "help"),
        ("kiosk", "staff", "desk"),
        ("desk", "side-check-in", "kiosk"),
        ("desk", "print", "jumbled"),
        ("jumbled", "jumbled-title", "desk"),
    ):
        document = with_cue(document, owner, "tap", Change("go", screen), node=(node,))
    document = with_cue(document, "boarding", "tap", Change("back"), node=("back",))
    document = with_cue(document, "settings", "tap", Change("back"), node=("save",), motion=QUICK)
    document = with_cue(document, "app-header", "tap", Change("back"), node=("back",))
    slow = Motion(220.0, "ease-out")
    for fare in ("fare-0", "fare-1"):
        go = Change("go", "booking")
        document = with_cue(document, "fares", "tap", go, node=(fare, "buy"), motion=slow)
    return with_cue(document, "booking", "tap", Change("back"), node=("done",), motion=QUICK)
