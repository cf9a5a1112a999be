"""Left and right said as the start and end of lines: CSS's own flow-relative properties, which a
page turns by its `dir`.

Source: CSS Logical Properties 1, section 4; CSS Backgrounds 4 (flow-relative corners).
"""

from __future__ import annotations

import re

from outgrowth.core.exchange.web.css import Css

DIRECTIONS = {"left-to-right": "ltr", "right-to-left": "rtl"}
"""How a part reads, as an attribute says it (HTML, 3.2.6.4: dir)."""
TURNS = "--turns"
"""The custom property of what is shown the other way round where one reads from right to left: a
sheet says the transform itself for those pages only."""
_LOGICAL = {
    "padding-left": "padding-inline-start",
    "padding-right": "padding-inline-end",
    "margin-left": "margin-inline-start",
    "margin-right": "margin-inline-end",
    "left": "inset-inline-start",
    "right": "inset-inline-end",
    "border-top-left-radius": "border-start-start-radius",
    "border-top-right-radius": "border-start-end-radius",
    "border-bottom-right-radius": "border-end-end-radius",
    "border-bottom-left-radius": "border-end-start-radius",
}
_MIRRORED = dict(
    zip(
        _LOGICAL,
        [
            _LOGICAL[name.replace("left", "*").replace("right", "left").replace("*", "right")]
            for name in _LOGICAL
        ],
        strict=True,
    )
)
_BY_LINES = frozenset(
    [
        *_LOGICAL.values(),
        "inset-block",
        "inset-inline",
        "border-block-width",
        "border-inline-width",
    ]
)
_CORNERS = (
    "border-start-start-radius",
    "border-start-end-radius",
    "border-end-end-radius",
    "border-end-start-radius",
)


EDGE_INSET = "safe-area-inset-"
"""What CSS calls it that a device keeps for itself at an edge (CSS Environment Variables 1, 3)."""


def edges_turned(value: str) -> str:
    """A value with the left and right edges of the device exchanged."""
    return _EDGES.sub(lambda at: EDGE_INSET + ("right" if at[1] == "left" else "left"), value)


_EDGES = re.compile(f"{EDGE_INSET}(left|right)")


def by_lines(css: Css) -> Css:
    """What is said of an element, its sides by the lines around it. One that is mirrored has lines
    of its own, which run the other way."""
    names = _MIRRORED if "direction" in css else _LOGICAL
    return {names.get(name, name): value for name, value in css.items()}


def lines_last(css: Css) -> Css:
    """The same, what goes by lines after what does not: where both mean one side, the later counts
    (CSS Logical Properties 1, section 4.1)."""
    by_line = {name: value for name, value in css.items() if name in _BY_LINES}
    if not by_line or len(by_line) == len(css):
        return css
    return {name: value for name, value in css.items() if name not in by_line} | by_line


def edge_by_lines(css: Css) -> Css:
    """The same of the element that draws a stroke, whose sides stand in shorthands."""
    said = dict(css)
    for name in ("inset", "border-width"):
        sides = said.pop(name, "").split()
        if len(sides) == 4:
            top, right, bottom, left = sides
            block, inline = ("inset-block", "inset-inline")
            if name == "border-width":
                block, inline = "border-block-width", "border-inline-width"
            said |= {block: f"{top} {bottom}", inline: f"{left} {right}"}
    across, _, down = said.pop("border-radius", "").partition(" / ")
    if down:
        pairs = zip(_CORNERS, across.split(), down.split(), strict=True)
        said |= {corner: f"{a} {d}" for corner, a, d in pairs}
    return said
