"""The ferry line from right to left: what goes by the lines, arrows that turn, and a screen in
Hebrew."""

from __future__ import annotations

import msgspec

from demo.behaviours import with_cue
from demo.drawing import box, grow, instance, text
from demo.parts import icon_id
from demo.screens import icon_button
from outgrowth.core.document.cues import Change
from outgrowth.core.document.records import Component, Document, Node, Screen
from outgrowth.core.document.values import words
from outgrowth.core.edits.sides import turned_to_lines
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.edits.tree.trees import with_owner

TURNING = ("Back", "Onward")
"""The icons that mean a direction."""
BY_LINES = ("crossing", "crossing-list", "crossings", "hebrew", "icon-button", "button")
"""What is turned by the lines: whatever stands on the screen in Hebrew."""
HEBREW = "Noto Sans Hebrew"
CROSSINGS = (
    ("08:40", "הולם לסקרי", "רציף 2, כל מושב ליד החלון", "12.50"),
    ("10:15", "הולם להולם הקטנה", "רציף 1, מקום לאופניים", "9.00"),
)


def with_directions(document: Document) -> Document:
    """The document by lines, its arrows turning, with the screen in Hebrew."""
    for name in TURNING:
        component = document.components.get(icon_id(name))
        if component is not None:
            document = with_owner(document, _turning(component))
    document = _with_screen(document)
    return turned_to_lines(document, BY_LINES)


def _turning(component: Component) -> Component:
    style = component.root.style.set("turns", True)
    root = msgspec.structs.replace(component.root, style=style)
    return msgspec.structs.replace(component, root=root)


def _with_screen(document: Document) -> Document:
    root = box(
        "hebrew",
        box(
            "hebrew-head",
            icon_button("hebrew-back", "Back"),
            text("hebrew-title", "הפלגות מהולם", font_size=22, font_weight=700, font_family=HEBREW),
            flow="row",
            gap=12,
            align="center",
            width=grow,
        ),
        *(_crossing(n, said) for n, said in enumerate(CROSSINGS)),
        name="Crossings in Hebrew",
        direction="right-to-left",
        flow="column",
        gap=16,
        width=390,
        height=600,
        fill="{color.sand}",
        padding=(24, 16),
    )
    document = add_screen(document, Screen("hebrew", "Crossings in Hebrew", root))
    go = Change("go", "hebrew")
    document = with_cue(document, "crossings", "tap", go, node=("crossings-title",))
    return with_cue(document, "hebrew", "tap", Change("back"), node=("hebrew-back",))


def _crossing(n: int, said: tuple[str, str, str, str]) -> Node:
    time, way, about, price = map(words, said)
    return instance(
        f"hebrew-{n}",
        "crossing",
        f"{said[0]} crossing",
        {"time": time, "way": way, "about": about, "price": price, "action": words("לבחור")},
        width=grow,
    )
