"""The states of a component, and what leads from one to another: the graph of the cues."""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

from outgrowth.core.document.axis_parts import focus_value, resting_value, value_for
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
    found_edges = [edge for axis in component.axes for edge in _driven_edges(axis)]
    for cue in component.behaviour.cues:
        for change in cue.changes:
            axis = component.axis(change.name) if not change.at else None
            if axis is None or change.act not in ("set", "next"):
                continue
            found_edges += _by(cue, axis, str(change.value) if change.act == "set" else "")
    return found_edges


def _driven_edges(axis: Axis) -> list[Edge]:
    """Rest, hover and press lead to each other; so do rest and focus."""
    rest, focused = resting_value(axis), focus_value(axis) if axis.driver != "none" else None
    line = [rest, value_for(axis, "hover"), value_for(axis, "press")]
    pairs = list(pairwise(value for value in line if value is not None))
    if focused is not None:
        pairs.append((rest, focused))
    return [Edge(axis.id, a, b) for a, b in pairs] + [Edge(axis.id, b, a) for a, b in pairs]


def _by(cue: Cue, axis: Axis, value: str) -> list[Edge]:
    """The edges of one change: from where its conditions say, else from every other value;
    `value` "" is the next one."""
    ids = [v.id for v in axis.values]
    if value and value not in ids:
        return []  # a cue of a file that names what is not there; Look again tells of it
    starts = [cue.when[axis.id]] if axis.id in cue.when else ids
    results = []
    for start in starts:
        if start not in ids:
            continue
        end = value or ids[(ids.index(start) + 1) % len(ids)]
        if end != start:
            results.append(Edge(axis.id, start, end, cue))
    return results


def state_key(axis_id: str, value_id: str) -> str:
    """What a state is called among the hand-made places of the cue board."""
    return f"{axis_id}/{value_id}"
