"""A box with three children, arranged as the selected one is: what its drawing shows and what is
set on it. The engine lays it out, so that they stand as children would."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.records import Component, Document, Node
from outgrowth.core.document.values import Value, fixed
from outgrowth.core.geometry import Rect
from outgrowth.core.resolve.ladder import Inspection
from outgrowth.workspace.engine import Engine

ARRANGED = ("flow", "justify", "align", "gap", *FAMILY_MEMBERS["padding"])
"""The properties that the drawing shows."""
WIDTH, HEIGHT = 240.0, 150.0
"""The size of the box, in px: padding and gap are as large as they are said to be."""
_CHILDREN = ((40.0, 26.0), (28.0, 40.0), (34.0, 20.0))
_MOST = 40.0
"""No padding and no gap is drawn larger: the children have to be seen."""
_PLACES = ("start", "center", "end")


class ArrangedBox(NamedTuple):
    """The box as it was laid out: the rectangles of its children and of its inside, in px."""

    children: tuple[Rect, ...]
    inside: Rect
    flow: str


def arranged_box(engine: Engine, values: Mapping[str, Value]) -> ArrangedBox:
    """Three children in a box of these values; what is too large to be drawn is drawn smaller."""
    style = {name: _drawn(value) for name, value in values.items()}
    size: dict[str, Value] = {"width": fixed(WIDTH), "height": fixed(HEIGHT)}
    children = tuple(
        Node(f"c{n}", "child", "box", Map({"width": fixed(w), "height": fixed(h)}))
        for n, (w, h) in enumerate(_CHILDREN)
    )
    root = Node("box", "box", "box", Map(style | size), children)
    document = Document(
        "sample", components=Map({"s": Component("s", "Sample", root)}), component_order=("s",)
    )
    placed = engine.view(document, "s").placed
    rects = tuple(
        Rect(placed.xs[n], placed.ys[n], child.width, child.height)
        for n, child in enumerate(placed.children)
    )
    top, right, bottom, left = (float(style[name]) for name in FAMILY_MEMBERS["padding"])  # type: ignore[arg-type]  # numbers
    inside = Rect(left, top, max(WIDTH - left - right, 1.0), max(HEIGHT - top - bottom, 1.0))
    return ArrangedBox(rects, inside, str(values["flow"]))


def _drawn(value: Value) -> Value:
    return min(max(value, 0.0), _MOST) if isinstance(value, float) else value


def arranged_values(inspection: Inspection) -> dict[str, Value]:
    """What a box says of its arrangement now."""
    values = {name: inspection.value(name) for name in ARRANGED}
    return {name: value for name, value in values.items() if value is not None}


def place_at(box: ArrangedBox, x: float, y: float) -> dict[str, Value]:
    """The values that put the children where a point of the box is: one of nine places; across
    and down are justify or align, by the way that they flow."""
    column = min(max(int(3 * (x - box.inside.x) / box.inside.width), 0), 2)
    line = min(max(int(3 * (y - box.inside.y) / box.inside.height), 0), 2)
    along, across = (line, column) if box.flow == "column" else (column, line)
    return {"justify": _PLACES[along], "align": _PLACES[across]}


def place_beside(values: Mapping[str, Value], right: int, down: int) -> dict[str, Value]:
    """The values that put the children one place further."""
    along, across = (down, right) if values["flow"] == "column" else (right, down)
    return {
        name: _PLACES[min(max(_place_of(values[name]) + by, 0), 2)]
        for name, by in (("justify", along), ("align", across))
        if by
    }


def _place_of(value: Value) -> int:
    """Where a place stands among the three; what is none of them counts as the middle."""
    return _PLACES.index(str(value)) if value in _PLACES else 1
