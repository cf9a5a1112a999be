"""Gestures of the hand on a canvas, each a generator: it is sent the pointer's place while
the button is down, and None when the button goes up. Closing it is letting go with Esc."""

from __future__ import annotations

from collections.abc import Callable, Generator
from typing import NamedTuple, Protocol

from immutables import Map
from PyQt6.QtCore import QPointF

from outgrowth.app.benches.handles import Handle
from outgrowth.app.session import Session, deeds
from outgrowth.core.document.records import Document, Node
from outgrowth.core.edits import nodes
from outgrowth.core.edits.styles import set_properties
from outgrowth.core.resolve.ladder import Place, inspect

Gesture = Generator[None, QPointF | None, None]

_STILL = 4.0
"""Px on the screen that a press may wander and still be a click."""


class Landing(NamedTuple):
    """Where a part would land: the box, and before which of its children."""

    parent: str
    before: int


class Surface(Protocol):
    """What a gesture needs of its bench."""

    zoom: float

    def say(self, text: str) -> None:
        """Shows a number or a word beside the pointer; empty for none."""

    def landing_at(self, point: QPointF, moving: Node) -> Landing | None:
        """Where a part of this screen would go, and shows the line there."""

    def forget_landing(self) -> None: ...


def pulling(session: Session, surface: Surface, handle: Handle, start: QPointF) -> Gesture:
    """Pulls a handle: the whole tree answers with every move, and one step comes of it."""
    values = handle.values(0, 0)
    try:
        point = yield
        while point is not None:
            moved = (point - start) / surface.zoom
            values = handle.values(moved.x(), moved.y())
            session.drag_style(values)
            surface.say(handle.said(values))
            point = yield
        session.drop(session.style_step(values))
    finally:
        session.cancel_drag()  # nothing, if it was dropped
        surface.say("")


def moving(
    session: Session,
    surface: Surface,
    node: Node,
    start: QPointF,
    click: Callable[[], object] = lambda: None,
) -> Gesture:
    """Moves a part: in a free box by its place, in a flowing one to another place in the
    order, or into another box. `click` is done if the pointer stays where it was."""
    try:
        point = yield
        while point is not None and (point - start).manhattanLength() < _STILL:
            point = yield
        if point is None:
            click()
            return
        if stands_free(session, node):
            yield from _shifting(session, surface, node, (start, point))
        else:
            yield from _reordering(session, surface, node, point)
    finally:
        session.cancel_drag()
        surface.forget_landing()
        surface.say("")


def stands_free(session: Session, node: Node) -> bool:
    """Whether a part of the screen's own tree is placed by its x and y."""
    owner = session.owner
    found = inspect(
        session.document, Place(session.selection.owner, (node.id,), session.selection.variant)
    )
    if owner is None or found is None:
        return False
    line = deeds.line_to(session, node)
    free = len(line) > 1 and line[-2].style.get("flow") == "free"
    return free or found.value("floating") is True


def _shifting(
    session: Session, surface: Surface, node: Node, points: tuple[QPointF, QPointF]
) -> Gesture:
    start, point = points
    place = Place(session.selection.owner, (node.id,), session.selection.variant)
    reach = session.reach if session.component is not None else Map()
    found = inspect(session.document, place)
    if found is None:
        return
    name = f"move {node.name}"
    at: QPointF | None = point
    while at is not None:
        moved = (at - start) / surface.zoom
        values = shifted(found.value, moved.x(), moved.y())
        session.drag(lambda d, v=values: set_properties(d, place, v, reach))  # type: ignore[misc]  # bound now
        surface.say(", ".join(f"{label} {value:g}" for label, value in values.items()))
        at = yield
    session.drop(name)


def shifted(value: Callable[[str], object], dx: float, dy: float) -> dict[str, float]:
    """The insets that move a pinned part by this much: those of the edges it hangs on."""
    found = {}
    for pin, near, far, by in (("pin-x", "x", "right", dx), ("pin-y", "y", "bottom", dy)):
        tied = value(pin)
        if tied != "end":
            found[near] = round(_float(value(near)) + by)
        if tied in ("end", "both", "scale"):
            found[far] = round(_float(value(far)) - by)
    return {name: float(number) for name, number in found.items()}


def _float(value: object) -> float:
    return value if isinstance(value, float) else 0.0


def _reordering(session: Session, surface: Surface, node: Node, point: QPointF) -> Gesture:
    landing = surface.landing_at(point, node)
    at: QPointF | None = point
    while at is not None:
        landing = surface.landing_at(at, node)
        at = yield
    if landing is None:
        return
    owner = session.selection.owner
    target = landing

    def change(document: Document) -> Document:
        return nodes.move_node(document, owner, node.id, target.parent, target.before)

    session.edit(f"move {node.name}", change)
