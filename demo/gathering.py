"""The page before gathering: 84 buttons, each drawn by itself, over four axes."""

from __future__ import annotations

from itertools import product

from demo.drawing import box, shape, text
from demo.parts import ICONS
from outgrowth.core.document.records import Document, Node, Screen
from outgrowth.core.edits.tree.components import add_screen

KINDS = {
    "Primary": ("#17495A", "#FFFFFF", "#17495A"),
    "Quiet": ("#EDF4F5", "#17495A", "#17495A"),
    "Plain": ("#FFFFFF", "#17495A", "#FFFFFF"),
    "Danger": ("#B8452B", "#FFFFFF", "#B8452B"),
}
SIZES = {"Small": (6, 12, 13), "Medium": (10, 18, 15), "Large": (14, 24, 17)}
STATES = ("rest", "hover", "press", "disabled")
HOVERED = {"Primary": "#123A48", "Quiet": "#DDEBEE", "Plain": "#EDF4F5", "Danger": "#9C3A24"}
PRESSED = {"Primary": "#0C2A35", "Quiet": "#CFE2E7", "Plain": "#DDEBEE", "Danger": "#7F2E1C"}
ICON_WORDS = ("Bare", "Icon")


def with_page(document: Document) -> Document:
    """One screen with all of them, each named by its path."""
    rows = []
    for kind, size in product(KINDS, SIZES):
        drawn = [
            _button(kind, size, state, icon)
            for state, icon in product(STATES, ICON_WORDS)
            if _drawn(kind, state, icon)
        ]
        rows.append(box(f"{kind}-{size}".lower(), *drawn, flow="row", gap=16, align="center"))
    root = box(
        "page",
        *rows,
        name="Before gathering",
        flow="column",
        gap=12,
        padding=32,
        width=1560,
        height=860,
        fill="#F6F1E7",
    )
    return add_screen(document, Screen("before-gathering", "Before gathering", root))


def _drawn(kind: str, state: str, icon: str) -> bool:
    """A plain button was never drawn with an icon: 96 less 12 are 84."""
    return not (kind == "Plain" and icon == "Icon")


def _button(kind: str, size: str, state: str, icon: str) -> Node:
    fill, ink, line = KINDS[kind]
    fill = {"hover": HOVERED[kind], "press": PRESSED[kind]}.get(state, fill)
    vertical, horizontal, letters = SIZES[size]
    node_id = f"old-{kind}-{size}-{state}-{icon}".lower()
    label = text(
        f"{node_id}-label",
        "Board now",
        "label",
        color=ink,
        font_size=letters,
        font_weight=600,
        line_height=1.3,
    )
    glyph = shape(
        f"{node_id}-icon",
        ICONS["Anchor"],
        "icon",
        stroke=ink,
        line_width=2,
        width=letters + 3,
        height=letters + 3,
    )
    return box(
        node_id,
        *((glyph, label) if icon == "Icon" else (label,)),
        name=f"Button/{kind}/{size}/{state}/{icon}",
        flow="row",
        gap=8,
        align="center",
        justify="center",
        radius=8,
        fill=fill,
        stroke=line,
        stroke_width=1.5,
        opacity=0.45 if state == "disabled" else 1.0,
        padding=(vertical, horizontal),
    )
