"""The room of an axis as a ruler shows it: where each value holds, and how far the ruler goes."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.records import Axis, Component
from outgrowth.core.document.rooms import room_axes, room_steps
from outgrowth.core.trials.sheet import used_widths
from outgrowth.workspace.workspace import Workspace

_LEAST_LENGTH = {"px": 480.0, "ch": 48.0}
_BEYOND = 1.35
"""How far a ruler goes on behind where its last value begins, as a share of that."""


class RoomBand(NamedTuple):
    """A value, and where it holds (in the axis's unit); `end` is where the ruler ends for the
    last one."""

    value: str
    name: str
    start: float
    end: float


class RoomRulerRow(NamedTuple):
    """One axis on its ruler. `used` are the widths at which the component stands on screens."""

    axis: Axis
    bands: tuple[RoomBand, ...]
    length: float
    used: tuple[float, ...]


def room_ruler_rows(workspace: Workspace, component: Component) -> tuple[RoomRulerRow, ...]:
    """The rulers of a component, one for each axis that its room sets."""
    axes = room_axes(component)
    if not axes:
        return ()
    used: tuple[float, ...] = ()
    if not workspace.dragging:
        engine = workspace.engine
        found = used_widths(workspace.document, component, engine.layout, engine.resolver)
        used = tuple(found)
    return tuple(_row(axis, used) for axis in axes)


def _row(axis: Axis, used: tuple[float, ...]) -> RoomRulerRow:
    known = used if axis.side == "width" and axis.unit == "px" else ()
    steps = room_steps(axis)
    furthest = max([*known, steps[-1].least * _BEYOND, _LEAST_LENGTH[axis.unit]])
    ends = [*(step.least for step in steps[1:]), furthest]
    starts = [0.0, *(step.least for step in steps[1:])]
    bands = []
    for step, start, end in zip(steps, starts, ends, strict=True):
        value = axis.value(step.value)
        name = value.name if value is not None else step.value
        bands.append(RoomBand(step.value, name, start, max(end, start)))
    return RoomRulerRow(axis, tuple(bands), furthest, known)
