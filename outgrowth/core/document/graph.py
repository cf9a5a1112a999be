"""The states of a component, or the screens of a file, and what leads from one to another:
the graph of the cues."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

from outgrowth.core.document.axis_parts import focus_value, resting_value, value_for
from outgrowth.core.document.cues import Cue
from outgrowth.core.document.records import Axis, Component, Document, Screen
from outgrowth.core.document.uses import holds_directly


class Edge(NamedTuple):
    """From one value of an axis to another (or, axis "", from screen to screen): by a cue, or
    (no cue) by what drives the axis, or by a part of the screen."""

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


def screen_edges(document: Document) -> list[Edge]:
    """What leads from screen to screen: by a screen's own cues, or (no cue) by those of the
    components that stand on it."""
    found: dict[tuple[str, str, str], Edge] = {}
    for screen in document.screens_in_order():
        for cue, own in _cues_on(document, screen):
            for change in cue.changes:
                if change.act == "go" and change.name in document.screens:
                    key = screen.id, change.name, cue.id if own else ""
                    edge = Edge("", screen.id, change.name, cue if own else None)
                    if screen.id != change.name:
                        found.setdefault(key, edge)
    return list(found.values())


def _cues_on(document: Document, screen: Screen) -> Iterator[tuple[Cue, bool]]:
    """The cues of a screen, and of all components that it shows, through others too."""
    yield from ((cue, True) for cue in screen.behaviour.cues)
    waiting = [component_id for _, component_id in holds_directly(screen)]
    visited: set[str] = set()
    while waiting:
        component = document.components.get(waiting.pop())
        if component is not None and component.id not in visited:
            visited.add(component.id)
            waiting += [component_id for _, component_id in holds_directly(component)]
            yield from ((cue, False) for cue in component.behaviour.cues)
