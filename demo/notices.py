"""The ferry line's search form, its notices that open, and the screen that holds them."""

from __future__ import annotations

from demo.drawing import box, grow, instance, shape, text
from demo.parts import ruled
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Motion,
    Screen,
)
from outgrowth.core.document.values import FromProperty, Value, words
from outgrowth.core.edits.tree.components import add_axis, add_component, add_property, add_screen

OPENING = Motion(300.0, "ease-out")
"""Common practice, no source: what opens takes 300 ms, ease-out."""

CHEVRON = "M6 9l6 6l6-6"

NOTICES = (
    ("May I bring my bicycle?", "Yes, on the car deck. Please walk it aboard before the cars."),
    ("What if the sea is rough?", "The master decides an hour before. A later boat is free."),
    ("Where is berth 2?", "Behind the fish hall, past the blue crane."),
)


def with_search_form(document: Document) -> Document:
    """Common practice, no source: at most 300 px wide; its field grows, its button does not."""
    root = box(
        "search",
        box(
            "field",
            text("hint", FromProperty("hint"), font_size=15, color="{color.muted}", max_lines=1),
            flow="row",
            align="center",
            padding=(11, 14),
            radius=8,
            width=grow,
            fill="{color.paper}",
            stroke="{color.muted}",
            stroke_width=1,
        ),
        instance("go", "icon-button", choices={"icon": "icon-onward"}),
        flow="row",
        gap=8,
        align="center",
        width=grow,
        max_width=300,
    )
    document = add_component(document, Component("search-form", "Controls/Search form", root))
    hint = ComponentProperty("hint", "Hint", "text", words("Search the help"))
    return add_property(document, "search-form", hint)


def with_notice(document: Document) -> Document:
    """A question that opens to its answer.

    Common practice, no source: 16 px of side and 24 px of top padding.
    """
    root = box(
        "notice",
        box(
            "head",
            text("question", FromProperty("question"), font_weight=600, width=grow),
            shape(
                "chevron",
                CHEVRON,
                width=20,
                height=20,
                stroke="{color.sea}",
                line_width=2,
            ),
            flow="row",
            gap=12,
            align="center",
            width=grow,
        ),
        text(
            "answer",
            FromProperty("answer"),
            shown=False,
            font_size=15,
            color="{color.muted}",
            width=grow,
        ),
        flow="column",
        gap=12,
        padding=(24, 16),
        width=358,
        fill="{color.paper}",
        stroke="{color.line}",
        stroke_bottom=1,
    )
    document = add_component(document, Component("notice", "Travel/Notice", root))
    for name, said in (("Question", NOTICES[0][0]), ("Answer", NOTICES[0][1])):
        prop = ComponentProperty(name.lower(), name, "text", words(said))
        document = add_property(document, "notice", prop)
    values = tuple(AxisValue(v, v) for v in ("no", "yes"))
    opened = Axis("open", "Open", values, "no", meaning="expanded", motion=OPENING)
    document = add_axis(document, "notice", opened)
    document = ruled(document, "notice", "answer", {"open": "yes"}, shown=True)
    return ruled(document, "notice", "chevron", {"open": "yes"}, rotate=180)


HELP: dict[str, Value] = {"title": "Good to know", "with-bell": False}


def with_help(document: Document) -> Document:
    """A search form over three notices, the first of them open."""
    instances = []
    for n, (question, answer) in enumerate(NOTICES):
        choices: dict[str, Value] = {"question": question, "answer": answer}
        if n == 0:
            choices["open"] = "yes"
        instances.append(instance(f"notice-{n}", "notice", question, choices, width=grow))
    root = box(
        "help",
        instance("header", "app-header", "header", HELP, width=grow),
        instance("find", "search-form"),
        box("notices", *instances, flow="column", width=grow, radius=12, clip=True),
        flow="column",
        gap=20,
        padding=(20, 16),
        width=390,
        height=844,
        fill="{color.sand}",
    )
    return add_screen(document, Screen("help", "Help", root))
