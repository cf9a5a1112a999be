"""What is made new: components, screens, drawn parts, icons, axes, states."""

from __future__ import annotations

import gzip
import json
from functools import cache
from typing import NamedTuple

from immutables import Map

from outgrowth.app.session import deeds
from outgrowth.app.session.deeds import fresh_id
from outgrowth.app.session.session import Session
from outgrowth.core.color import Color, Gradient
from outgrowth.core.document.records import (
    POINTER_VALUES,
    Axis,
    AxisValue,
    Component,
    Document,
    Node,
    find,
    lineage,
)
from outgrowth.core.document.values import Shift, Value
from outgrowth.core.edits import nodes, owners, places
from outgrowth.core.edits.components import add_axis
from outgrowth.core.edits.drawing import LEAST, Thing, drawn_node, icon_node
from outgrowth.core.edits.owners import Device
from outgrowth.core.edits.styles import set_properties
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.resources import ICON_SET

Into = tuple[str, int | None]
"""A box's id, and before which of its children (None: last)."""


class Icon(NamedTuple):
    """One icon of the shipped set: what it is called, more words to find it by, and the path
    of its outline and of its solid form."""

    name: str
    words: str
    outline: str
    solid: str


@cache
def icons() -> tuple[Icon, ...]:
    """The shipped set, read when it is first asked for."""
    lines = gzip.decompress(ICON_SET.read_bytes()).decode().splitlines()
    return tuple(Icon(*json.loads(line)) for line in lines)


def icons_for(text: str, most: int = 60) -> list[Icon]:
    """Icons whose name or words have all that was typed, names that begin with it first."""
    parts = text.lower().split()
    found = [i for i in icons() if all(p in f"{i.name} {i.words}".lower() for p in parts)]
    first = parts[0] if parts else ""
    found.sort(key=lambda i: (i.name != first, not i.name.startswith(first), first not in i.name))
    return found[:most]


def new_component(session: Session, name: str = "Part") -> None:
    """A component to draw in, on the bench at once."""
    new_id, root = fresh_id("component"), fresh_id("box")
    if session.edit("begin a component", lambda d: owners.new_component(d, new_id, name, root)):
        session.open(new_id)
        session.end_step_here()


def new_screen(session: Session, device: Device) -> None:
    """An empty screen of a device's size, on the bench at once."""
    new_id, root = fresh_id("screen"), fresh_id("box")
    size = device.width, device.height
    if session.edit(
        f"begin a screen for a {device.name.lower()}",
        lambda d: owners.new_screen(d, new_id, device.name, size, root),
    ):
        session.open(new_id)
        session.select(())
        session.end_step_here()


def duplicate_owner(session: Session, owner_id: str) -> None:
    """A copy of a component or screen, on the bench at once."""
    owner = session.document.owner(owner_id)
    if owner is not None:
        new_id = fresh_id("copy")
        name = owner.name.rpartition("/")[2]
        if session.edit(
            f"copy {name} whole", lambda d: owners.duplicate_owner(d, owner.id, new_id)
        ):
            session.open(new_id)
            session.end_step_here()


def remove_owner(session: Session, owner_id: str) -> None:
    """Removes a component that nothing uses, or a screen; another one comes on the bench."""
    owner = session.document.owner(owner_id)
    if owner is None:
        return
    name = owner.name.rpartition("/")[2]
    on_bench = session.selection.owner == owner_id
    order = [o.id for o in session.document.owners()]
    if session.edit(f"remove {name}", lambda d: owners.remove_owner(d, owner_id)) and on_bench:
        left = [i for i in order if i != owner_id]
        session.open(left[max(order.index(owner_id) - 1, 0)] if left else "")


def bring_starter(session: Session, source: Document, component_id: str) -> None:
    """A starter becomes a component of the file, and comes on the bench."""
    new_id = fresh_id("component")
    name = source.components[component_id].name.rpartition("/")[2]
    if session.edit(
        f"begin with {name}",
        lambda d: owners.bring_component(d, source, component_id, new_id),
    ):
        session.open(new_id)
        session.end_step_here()


def draw(
    session: Session,
    thing: Thing,
    into: Into | None = None,
    size: tuple[float, float] | None = None,
    at: tuple[float, float] | None = None,
) -> bool:
    """Draws something in a box (`into`, else where the selection is); `at` is its place in
    px of that box, which counts where the box is free."""
    node = drawn_node(thing, fresh_id(thing), size)
    return put(session, node, f"draw a {thing}", into, at)


def place_icon(session: Session, icon: Icon, solid: bool = False) -> bool:
    """An icon in the selected box, or beside the selected part; where an icon is selected,
    it becomes this one."""
    chosen = deeds.own_part(session)
    path = icon.solid if solid else icon.outline
    if chosen is not None and chosen.kind == "shape" and chosen.style.get("path"):
        values: dict[str, Value] = {"path": path, "path-size": 256.0, "path-height": 0.0}
        return session.edit(f"show {icon.name}", session.style_edit(values))
    return put(session, icon_node(fresh_id("icon"), icon.name, path), f"place {icon.name}")


def put(
    session: Session,
    node: Node,
    step: str,
    into: Into | None = None,
    at: tuple[float, float] | None = None,
) -> bool:
    """A new node in a box, selected."""
    owner, place = session.owner, into or deeds.spot(session)
    if owner is None or place is None:
        return False
    parent_id, index = place
    parent = find(owner.root, parent_id)
    free = parent is not None and parent.style.get("flow") == "free"

    def change(document: Document) -> Document:
        document = nodes.add_node(document, owner.id, parent_id, node, index)
        if free and at is not None:
            place = Place(owner.id, (node.id,), session.selection.variant)
            spot: dict[str, Value] = {"x": round(at[0]) + 0.0, "y": round(at[1]) + 0.0}
            document = set_properties(document, place, spot)
        return document

    if not session.edit(step, change):
        return False
    session.select((node.id,))
    session.end_step_here()
    return True


def is_size(size: tuple[float, float]) -> bool:
    """Whether a drag was meant as a size, or was only a click."""
    return max(size) >= LEAST


# --- axes and states ------------------------------------------------------------------------

_NAMES = (("Kind", ("Main", "Quiet")), ("Size", ("Medium", "Large")), ("Set", ("Off", "On")))
_DARKER = {"hover": 0.08, "press": 0.16}


def give_axis(session: Session) -> None:
    """One more axis of two values, the second of them selected: the next edit makes it so."""
    component = session.component
    if component is None:
        return
    taken = {axis.name for axis in component.axes}
    usual = next(((n, v) for n, v in _NAMES if n not in taken), None)
    name, said = usual or (_free("Axis", taken), ("off", "on"))
    values = tuple(AxisValue(fresh_id("value"), v) for v in said)
    axis = Axis(fresh_id("axis"), name, values, values[0].id)
    if session.edit(f"add the axis {name}", lambda d: add_axis(d, component.id, axis)):
        face = session.selection.variant.set(axis.id, values[1].id)
        session.select(session.selection.path, face)


def _free(stem: str, taken: set[str]) -> str:
    return next(f"{stem} {n}" for n in range(1, 999) if f"{stem} {n}" not in taken)


def give_states(session: Session) -> None:
    """Rest, hover and press, set by the pointer; a part with a fill gets darker, whatever
    that fill is in each kind."""
    component = session.component
    if component is None:
        return
    values = tuple(AxisValue(v, v) for v in POINTER_VALUES)
    axis = Axis(fresh_id("axis"), "State", values, "rest", "pointer")
    filled = _is_filled(session, component)

    def change(document: Document) -> Document:
        document = add_axis(document, component.id, axis)
        place = Place(component.id, (), session.selection.variant)
        for state, share in _DARKER.items() if filled else ():
            values: dict[str, Value] = {"fill": Shift("darken", share)}
            document = set_properties(document, place, values, Map({axis.id: state}))
        return document

    if session.edit("give it hover and press", change):
        face = session.selection.variant.set(axis.id, "rest")
        session.select(session.selection.path, face)


def _is_filled(session: Session, component: Component) -> bool:
    place = Place(component.id, (), session.selection.variant)
    found = inspect(session.document, place)
    fill = found.value("fill") if found is not None else None
    return isinstance(fill, Color | Gradient) and fill.alpha > 0


# --- places ---------------------------------------------------------------------------------


def parts_in_one_box(session: Session) -> tuple[tuple[Place, ...], Node | None]:
    """The selected parts of the owner's own tree, and the box that they all stand in (None
    where there is none)."""
    owner, parts = session.owner, deeds.own_parts(session)
    if owner is None or not parts:
        return (), None
    holders = {line[-2].id: line[-2] for p in parts if len(line := lineage(owner.root, p.id)) > 1}
    variant = session.selection.variant
    chosen = tuple(Place(owner.id, (part.id,), variant) for part in parts)
    return chosen, next(iter(holders.values())) if len(holders) == 1 else None


def align(session: Session, edge: places.Edge) -> None:
    """Lines the selected parts up with each other, or one with its box."""
    chosen, box = parts_in_one_box(session)
    if box is None:
        session.failed.emit("Pick parts that stand in one box to line them up.")
        return
    spots, reach = deeds.stands(session)(session.document), _reach(session)
    flow = str(box.style.get("flow", "row"))
    room = spots.get(box.id)
    if room is None:
        session.failed.emit(f"“{box.name}” is hidden here, so nothing in it can be lined up.")
        return
    session.edit(
        f"align {edge}", lambda d: places.align(d, chosen, edge, spots, (flow, room), reach)
    )


def distribute(session: Session, across: bool) -> None:
    """Spreads the selected parts evenly between the outer two."""
    chosen, box = parts_in_one_box(session)
    spots, reach = deeds.stands(session)(session.document), _reach(session)
    flow = str(box.style.get("flow", "row")) if box is not None else ""
    session.edit(
        "spread evenly",
        lambda d: places.distribute(d, chosen, across, spots, flow, reach),
    )


def _reach(session: Session) -> Map[str, str]:
    return session.reach if session.component is not None else Map()


def nudge(session: Session, dx: float, dy: float) -> bool:
    """Moves the selected parts that stand free by px; whether there was one."""
    chosen, box = parts_in_one_box(session)
    flow = box.style.get("flow") if box is not None else None
    free = [place for place in chosen if places.stands_free(session.document, place, flow)]
    if not free:
        return False
    reach = _reach(session)

    def change(document: Document) -> Document:
        for place in free:
            document = places.move_by(document, place, (dx, dy), reach)
        return document

    name = deeds.named(deeds.own_parts(session))
    return session.edit(f"nudge {name}", change, together=True)


def reorder(session: Session, by: int) -> None:
    """Moves the selected part earlier or later among its neighbours."""
    part, owner = deeds.own_part(session), session.owner
    if part is None or owner is None:
        return
    parent = lineage(owner.root, part.id)[-2]
    at = parent.children.index(part) + by
    if 0 <= at < len(parent.children):
        session.edit(
            f"move {part.name} {'later' if by > 0 else 'earlier'}",
            lambda d: nodes.move_node(d, owner.id, part.id, parent.id, at),
        )
