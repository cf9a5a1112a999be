"""The axes that nobody has to wire: what the pointer and the focus make of them."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.axis_parts import focus_value, is_set_apart, value_for
from outgrowth.core.document.cues import Path
from outgrowth.core.document.records import Axis, Driver
from outgrowth.core.runtime.situation import Situation, States


class PointerState(NamedTuple):
    """Where pointer and keys are: the nodes under the pointer from the root in, those that
    were pressed (None: nothing is), the part that has the focus, and whether it is a finger."""

    chain: tuple[Path, ...]
    pressed: tuple[Path, ...] | None
    focus: Path | None
    touch: bool


def interaction_states(situation: Situation, pointer_state: PointerState) -> States:
    """The values of all pointer and focus axes that are not at rest. Everything around the
    pointer hovers. While something is pressed, the innermost of it is pressed, what holds it
    still hovers, and nothing else does. Of an axis of the pointer that shows the focus too, what
    the pointer does comes first. What a cue set apart, like disabled, stays so."""
    states: States = {}
    pressed = _innermost(situation, pointer_state.pressed or ())
    for path in pointer_state.chain:
        axis = axis_driven(situation, path, "pointer")
        if axis is None or (
            pointer_state.pressed is not None and path not in pointer_state.pressed
        ):
            continue
        if _stays(situation, path, axis):
            continue
        value = value_for(axis, "press") if path == pressed else None
        if value is None and not pointer_state.touch:
            value = value_for(axis, "hover")
        if value is not None:
            states[path, axis.id] = value
    focus = pointer_state.focus
    if focus is not None:
        for driver in _SHOWING_FOCUS:
            axis = axis_driven(situation, focus, driver)
            value = focus_value(axis) if axis is not None else None
            if axis is None or value is None:
                continue
            if not _stays(situation, focus, axis):
                states.setdefault((focus, axis.id), value)
    return states


def _stays(situation: Situation, path: Path, axis: Axis) -> bool:
    """Whether an axis is at a value that a cue, a holder or the instance itself has set apart."""
    key = path, axis.id
    value = situation.chosen.get(key, situation.driven_states.get(key))
    return is_set_apart(axis, situation.value(*key) if value is None else value)


_SHOWING_FOCUS: tuple[Driver, ...] = ("pointer", "focus")


def _innermost(situation: Situation, pressed: tuple[Path, ...]) -> Path | None:
    """The innermost of what was pressed that the pointer drives."""
    for path in reversed(pressed):
        if axis_driven(situation, path, "pointer") is not None:
            return path
    return None


def axis_driven(situation: Situation, path: Path, driver: Driver) -> Axis | None:
    """An instance's axis that is driven so."""
    component = situation.component_at(path)
    axes = component.axes if component is not None else ()
    return next((axis for axis in axes if axis.driver == driver), None)
