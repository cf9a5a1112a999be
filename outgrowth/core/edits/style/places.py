"""Moving parts that stand free, lining them up, and spreading them evenly."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Literal

from immutables import Map

from outgrowth.core.document.records import Document
from outgrowth.core.document.values import Value
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.trees import NO_CONDITIONS
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.rect import union
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place, inspect, node_at

AlignmentLine = Literal["left", "center", "right", "top", "middle", "bottom"]
_SELF: dict[AlignmentLine, str] = {
    "left": "start",
    "center": "center",
    "right": "end",
    "top": "start",
    "middle": "center",
    "bottom": "end",
}
NodeRects = Mapping[str, Rect]
"""Where the own nodes of an owner stand, by id."""


def inset(value: Callable[[str], object], dx: float, dy: float) -> dict[str, Value]:
    """The insets that move a pinned part by this much: those of the edges it hangs on.
    `value` gives what a property of the part is now."""
    values: dict[str, Value] = {}
    for pin, near, far, by in (("pin-x", "x", "right", dx), ("pin-y", "y", "bottom", dy)):
        tied = value(pin)
        if tied != "end":
            values[near] = round(_number(value(near)) + by, 3)
        if tied in ("end", "both", "scale"):
            values[far] = round(_number(value(far)) - by, 3)
    return values


def _number(value: object) -> float:
    return value if isinstance(value, float) else 0.0


def stands_free(document: Document, place: Place, parent_flow: object) -> bool:
    """Whether a part is placed by its insets rather than by its box's flow."""
    inspection = inspect(document, place)
    return inspection is not None and (
        parent_flow == "free" or inspection.value("floating") is True
    )


def move_by(
    document: Document,
    place: Place,
    by: tuple[float, float],
    reach: Map[str, str] = NO_CONDITIONS,
) -> Document:
    """The document with a part that stands free moved by px across and down."""
    inspection = inspect(document, place)
    if inspection is None:
        raise Refusal("That part is not there any more, so nothing was moved.")
    return set_properties(document, place, inset(inspection.value, *by), reach)


def align(
    document: Document,
    places: tuple[Place, ...],
    edge: AlignmentLine,
    rects: NodeRects,
    flow: tuple[str, Rect],
    reach: Map[str, str] = NO_CONDITIONS,
) -> Document:
    """The document with parts of one box lined up: several with each other, one with its
    box. `flow` is how that box arranges, and where it stands.

    Parts that flow are aligned across the flow, where they may; raises Refusal where the
    flow itself decides.
    """
    kind, room = flow
    _refuse_hidden(document, places, rects)
    room_around = room if len(places) == 1 else union(rects[p.path[0]] for p in places)
    for place in places:
        if stands_free(document, place, kind):
            dx, dy = _to_edge(rects[place.path[0]], room_around, edge)
            document = move_by(document, place, (dx, dy), reach)
            continue
        across = edge in ("top", "middle", "bottom")
        if across != (kind == "row"):
            node = node_at(document, place)
            name = node.name if node is not None else "this"
            raise Refusal(
                f"“{name}” stands in a {kind}, which places it along: set the box's justify."
            )
        document = set_properties(document, place, {"align-self": _SELF[edge]}, reach)
    return document


def _refuse_hidden(document: Document, places: tuple[Place, ...], rects: NodeRects) -> None:
    for place in places:
        if not place.path or place.path[0] not in rects:
            node = node_at(document, place)
            name = node.name if node is not None else "A part"
            raise Refusal(f"“{name}” is hidden here, so it cannot be lined up with others.")


def _to_edge(rect: Rect, room: Rect, edge: AlignmentLine) -> tuple[float, float]:
    return {
        "left": (room.x - rect.x, 0.0),
        "center": (room.center[0] - rect.center[0], 0.0),
        "right": (room.right - rect.right, 0.0),
        "top": (0.0, room.y - rect.y),
        "middle": (0.0, room.center[1] - rect.center[1]),
        "bottom": (0.0, room.bottom - rect.bottom),
    }[edge]


def distribute(
    document: Document,
    places: tuple[Place, ...],
    across: bool,
    rects: NodeRects,
    flow: str,
    reach: Map[str, str] = NO_CONDITIONS,
) -> Document:
    """The document with the gaps between three parts and more made alike, the outer two
    staying. Raises Refusal for fewer, and for parts whose box flows."""
    if len(places) < 3:
        raise Refusal("Pick three parts or more to spread them evenly.")
    _refuse_hidden(document, places, rects)
    if not all(stands_free(document, place, flow) for place in places):
        raise Refusal("These parts stand in a flow: its gap, or its justify, spreads them.")

    def start(place: Place) -> float:
        rect = rects[place.path[0]]
        return rect.x if across else rect.y

    def size(place: Place) -> float:
        rect = rects[place.path[0]]
        return rect.width if across else rect.height

    line = sorted(places, key=lambda p: start(p) + size(p) / 2)
    extent = start(line[-1]) + size(line[-1]) - start(line[0])
    gap = (extent - sum(map(size, line))) / (len(line) - 1)
    pen = start(line[0]) + size(line[0]) + gap
    for place in line[1:-1]:
        by = pen - start(place)
        document = move_by(document, place, (by, 0.0) if across else (0.0, by), reach)
        pen += size(place) + gap
    return document
