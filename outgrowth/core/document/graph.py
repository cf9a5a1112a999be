"""The states of a component and what leads from one to another: the graph of its cues."""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

from outgrowth.core.document.cues import Cue
from outgrowth.core.document.records import Axis, Component


class Edge(NamedTuple):
    """From one value of an axis to another: by a cue, or (no cue) by what drives the axis."""

    axis: str
    start: str
    end: str
    cue: Cue | None = None


def edges(component: Component) -> list[Edge]:
    """Every change of the component's own axes, driven ones first."""
    found = [edge for axis in component.axes for edge in _driven(axis)]
    for cue in component.behaviour.cues:
        for change in cue.changes:
            axis = component.axis(change.name) if not change.at else None
            if axis is None or change.act not in ("set", "next"):
                continue
            found += _by(cue, axis, str(change.value) if change.act == "set" else "")
    return found


def _driven(axis: Axis) -> list[Edge]:
    """Rest, hover and press lead to each other; so do rest and focus."""
    ids = [value.id for value in axis.values]
    line: list[str]
    if axis.driver == "pointer":
        line = [value for value in ("rest", "hover", "press") if value in ids]
    elif axis.driver == "focus":
        line = [axis.default, *[value for value in ids if value != axis.default][:1]]
    else:
        return []
    pairs = list(pairwise(line))
    return [Edge(axis.id, a, b) for a, b in pairs] + [Edge(axis.id, b, a) for a, b in pairs]


def _by(cue: Cue, axis: Axis, value: str) -> list[Edge]:
    """The edges of one change: from where its conditions say, else from every other value;
    `value` "" is the next one."""
    ids = [v.id for v in axis.values]
    starts = [cue.when[axis.id]] if axis.id in cue.when else ids
    found = []
    for start in starts:
        if start not in ids:
            continue
        end = value or ids[(ids.index(start) + 1) % len(ids)]
        if end != start:
            found.append(Edge(axis.id, start, end, cue))
    return found


def state_key(axis_id: str, value_id: str) -> str:
    """What a state is called among the hand-made places of the cue board."""
    return f"{axis_id}/{value_id}"
