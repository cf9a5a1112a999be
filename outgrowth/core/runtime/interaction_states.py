"""The axes that nobody has to wire: what the pointer and the focus make of them."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.cues import Path
from outgrowth.core.document.records import POINTER_VALUES, Axis, Driver
from outgrowth.core.document.values import Literals
from outgrowth.core.runtime.situation import Situation, States

REST, HOVER, PRESS = POINTER_VALUES


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
    still hovers, and nothing else does. What a cue set to a value of its own, like disabled,
    stays so."""
    states: States = {}
    pressed = _innermost(situation, pointer_state.pressed or ())
    for path in pointer_state.chain:
        axis = axis_driven(situation, path, "pointer")
        if axis is None or (
            pointer_state.pressed is not None and path not in pointer_state.pressed
        ):
            continue
        if is_set_apart(situation.chosen.get((path, axis.id))):
            continue
        ids = [value.id for value in axis.values]
        value = PRESS if path == pressed and PRESS in ids else HOVER
        if value in ids and not (pointer_state.touch and value == HOVER):
            states[path, axis.id] = value
    if pointer_state.focus is not None:
        axis = axis_driven(situation, pointer_state.focus, "focus")
        others = [v.id for v in axis.values if v.id != axis.default] if axis is not None else []
        if axis is not None and others:
            states[pointer_state.focus, axis.id] = others[0]
    return states


def is_set_apart(value: Literals | None) -> bool:
    """Whether a pointer axis was set by a cue to what the pointer never sets: it has no say
    there then."""
    return value is not None and value not in POINTER_VALUES


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
