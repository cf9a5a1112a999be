"""Gestures of the hand on a canvas, each a generator: it is sent the pointer's place while
the button is down, and None when the button goes up. Closing it is letting go with Esc."""

from __future__ import annotations

from collections.abc import Callable, Generator
from functools import partial
from typing import Protocol

from immutables import Map
from PyQt6.QtCore import QPointF, QRectF

from outgrowth.app.benches.handles import Handle
from outgrowth.core.document.records import Document, Node, Path, find
from outgrowth.core.edits.style import places
from outgrowth.core.edits.tree.drawing import DrawnKind
from outgrowth.core.geometry.snapping import Guide, snapped
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import (
    create_commands,
    drag_commands,
    selection_commands,
    style_commands,
)
from outgrowth.workspace.commands.drag_commands import Copies
from outgrowth.workspace.reaching import here
from outgrowth.workspace.views.landing import Landing, SnapContext
from outgrowth.workspace.views.reach_text import move_text

Gesture = Generator[None, QPointF | None, None]

# Px on the screen within which a moved part catches.
_NEAR = 6.0
# Px on the screen that a press may wander and still be a click.
_STILL = 4.0


class Surface(Protocol):
    """What a gesture needs of its bench."""

    zoom: float

    def show_hint(self, text: str) -> None:
        """Shows a number or a word beside the pointer; empty for none."""

    def landing_at(self, point: QPointF, moving: Node | None) -> Landing | None:
        """Where a part (None: a new one) would go, and shows the line there."""

    def forget_landing(self) -> None: ...

    def spot_in(self, box: str, point: QPointF) -> tuple[float, float]:
        """Where a point of the widget lies in a box of the owner's own tree, in its px."""

    def snap_context(self, ids: tuple[str, ...]) -> SnapContext | None:
        """What parts of one box, moved together, can catch on."""

    def show_guides(self, guides: tuple[Guide, ...]) -> None: ...

    def show_frame_of(self, frame: QRectF | None) -> None:
        """Shows what is being drawn or caught, in the widget."""

    def within(self, frame: QRectF, box: Node) -> tuple[Path, ...]:
        """The parts that a frame catches."""

    def edit_words(self) -> bool: ...

    def copy_wanted(self) -> bool:
        """Whether the hand asks for a copy of what it moves."""


def pulling(workspace: Workspace, surface: Surface, handle: Handle, start: QPointF) -> Gesture:
    """Pulls a handle: the whole tree answers with every move, and one step comes of it."""
    values = handle.values(0, 0)
    try:
        point = yield
        while point is not None:
            moved = (point - start) / surface.zoom
            values = handle.values(moved.x(), moved.y())
            style_commands.drag_style(workspace, values)
            surface.show_hint(handle.label_for(values))
            point = yield
        workspace.drop(style_commands.style_step(workspace, values))
    finally:
        workspace.cancel_drag()  # nothing, if it was dropped
        surface.show_hint("")


def moving(
    workspace: Workspace,
    surface: Surface,
    node: Node,
    start: QPointF,
    click: Callable[[], object] = lambda: None,
) -> Gesture:
    """Moves a part: in a free box by its place (and all that is selected in it), in a flowing
    one to another place in the order, or into another box. `click` is done if the pointer
    stays where it was."""
    try:
        point = yield
        while point is not None and (point - start).manhattanLength() < _STILL:
            point = yield
        if point is None:
            click()
            return
        if stands_free(workspace, node):
            yield from _shifting(workspace, surface, node, (start, point))
        else:
            yield from _reordering(workspace, surface, node, point)
    finally:
        workspace.cancel_drag()
        surface.forget_landing()
        surface.show_guides(())
        surface.show_hint("")


def drawing(
    workspace: Workspace, surface: Surface, drawn_kind: DrawnKind, start: QPointF
) -> Gesture:
    """Draws something new: a click at its usual size, a drag at the size of the drag."""
    landing, end = surface.landing_at(start, None), start
    try:
        point = yield
        while point is not None:
            end = point
            frame = QRectF(start, end).normalized()
            size = frame.width() / surface.zoom, frame.height() / surface.zoom
            surface.show_frame_of(frame)
            surface.show_hint(
                f"{size[0]:.0f} × {size[1]:.0f}" if create_commands.is_size(size) else ""
            )
            point = yield
        if landing is None:
            workspace.failed.emit("Nothing was drawn: press inside a box of the part.")
            return
        frame = QRectF(start, end).normalized()
        size = (
            float(round(frame.width() / surface.zoom)),
            float(round(frame.height() / surface.zoom)),
        )
        drawn = size if create_commands.is_size(size) else None
        corner = surface.spot_in(landing.parent, frame.topLeft())
        into = landing.parent, landing.before
        if (
            create_commands.draw(workspace, drawn_kind, into, drawn, corner)
            and drawn_kind == "text"
        ):
            surface.edit_words()
    finally:
        surface.show_frame_of(None)
        surface.forget_landing()
        surface.show_hint("")


def catching(
    workspace: Workspace,
    surface: Surface,
    box: Node,
    start: QPointF,
    click: Callable[[], object] | None = None,
) -> Gesture:
    """Draws a frame; the parts in a box that it touches are selected meanwhile. With a `click`,
    which is done if the pointer stays where it was, they are added to what is selected."""
    before = workspace.selection.paths
    added_to = () if click is None else tuple(path for path in before if path)
    finished = False
    try:
        point = yield
        while point is not None and (point - start).manhattanLength() < _STILL:
            point = yield
        if point is None and click is not None:
            click()
        while point is not None:
            frame = QRectF(start, point).normalized()
            surface.show_frame_of(frame)
            caught = surface.within(frame, box)
            workspace.select_all(tuple(dict.fromkeys((*added_to, *caught))))
            point = yield
        finished = True
    finally:
        if not finished:
            workspace.select_all(before)
        surface.show_frame_of(None)


def stands_free(workspace: Workspace, node: Node) -> bool:
    """Whether a part of the owner's own tree is placed by its x and y."""
    if workspace.owner is None:
        return False
    line = selection_commands.line_to(workspace, node)
    flow = line[-2].style.get("flow") if len(line) > 1 else None
    return places.stands_free(workspace.document, _place(workspace, node), flow)


def _place(workspace: Workspace, node: Node) -> Place:
    return Place(workspace.selection.owner, (node.id,), workspace.selection.variant)


def _shifting(
    workspace: Workspace, surface: Surface, node: Node, points: tuple[QPointF, QPointF]
) -> Gesture:
    start, point = points
    chosen = [
        part for part in selection_commands.own_parts(workspace) if stands_free(workspace, part)
    ]
    parts = chosen if node in chosen else [node]
    reach = workspace.reach if workspace.component is not None else Map()
    context = surface.snap_context(tuple(part.id for part in parts))
    copies, places_moved = Copies(workspace, parts), [_place(workspace, p) for p in parts]
    pointer: QPointF | None = point
    copied = False
    while pointer is not None:
        moved = (pointer - start) / surface.zoom
        by = round(moved.x()) + 0.0, round(moved.y()) + 0.0
        copied = surface.copy_wanted()
        if context is not None:
            beside = (context.rect, *context.others) if copied else context.others
            by = _caught(surface, context._replace(others=beside), by)
        if copied:
            workspace.drag(partial(copies.moved, by=by))
        else:
            workspace.drag(partial(_moved, places_moved, by, reach))
        surface.show_hint(("a copy · " if copied else "") + _position_text(context, by))
        pointer = yield
    if copied:
        workspace.drop(copies.step)
        copies.select()
    else:
        workspace.drop(f"move {selection_commands.named(parts)}{here(workspace)}")


def _moved(
    places_moved: list[Place], by: tuple[float, float], reach: Map[str, str], document: Document
) -> Document:
    for place in places_moved:
        document = places.move_by(document, place, by, reach)
    return document


def _caught(surface: Surface, context: SnapContext, by: tuple[float, float]) -> tuple[float, float]:
    """The move, caught on a neighbour's edge or at an even distance if it is near one."""
    snap = snapped(context.rect.moved(*by), context.others, context.room, _NEAR / surface.zoom)
    surface.show_guides(snap.guides)
    return by[0] + snap.dx, by[1] + snap.dy


def _position_text(context: SnapContext | None, by: tuple[float, float]) -> str:
    if context is None:
        return f"{by[0]:+g}, {by[1]:+g}"
    rect = context.rect.moved(*by)
    return f"x {rect.x - context.room.x:g}, y {rect.y - context.room.y:g}"


def _reordering(workspace: Workspace, surface: Surface, node: Node, point: QPointF) -> Gesture:
    """Moves a part, or all that are selected with it, to where they would land."""
    chosen = selection_commands.own_parts(workspace)
    parts = chosen if node in chosen else [node]
    landing = surface.landing_at(point, node)
    pointer: QPointF | None = point
    while pointer is not None:
        landing = surface.landing_at(pointer, node)
        hints = [f"{len(parts)} parts"] if len(parts) > 1 else []
        if landing is not None:
            ids = [part.id for part in parts]
            hints.append(move_text(workspace, ids, landing.parent, surface.copy_wanted()))
        surface.show_hint(" · ".join(filter(None, hints)))
        pointer = yield
    if landing is not None:
        _land(workspace, landing, node, parts, surface.copy_wanted())


def _land(
    workspace: Workspace, landing: Landing, node: Node, parts: list[Node], copied: bool
) -> None:
    """Moves parts, or copies, to a landing, which is among those beside the part `node`."""
    owner = workspace.owner
    box = find(owner.root, landing.parent) if owner is not None else None
    if box is None:
        return
    ids = [child.id for child in box.children]
    following = [child.id for child in box.children if child is not node][landing.before :]
    index = ids.index(following[0]) if following else len(ids)
    drag_commands.land_parts(workspace, [part.id for part in parts], box.id, index, copied)
