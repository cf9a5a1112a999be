"""What assistive technology is told of a component, and what Tab reaches."""

from __future__ import annotations

from outgrowth.core.document.axis_parts import focus_axes, reads_yes, says
from outgrowth.core.document.cues import TRIGGER_ROWS
from outgrowth.core.document.records import (
    Axis,
    Component,
    Path,
    Screen,
)
from outgrowth.core.document.types import Json
from outgrowth.core.exchange.web.definition_part import DefinitionPart
from outgrowth.core.exchange.web.names import AxisNames
from outgrowth.core.runtime.focus import is_stop

_STATES = {
    "expanded": ("aria-expanded", ("button", "link", "checkbox", "switch", "tab", "listitem")),
    "checked": ("aria-checked", ("checkbox", "radio", "switch")),
    "selected": ("aria-selected", ("tab",)),
    "pressed": ("aria-pressed", ("button",)),
    "invalid": ("aria-invalid", ("checkbox", "switch", "radiogroup", "textbox")),
    "required": ("aria-required", ("checkbox", "switch", "radiogroup", "textbox")),
    "read-only": ("aria-readonly", ("checkbox", "switch", "radiogroup", "textbox")),
}
"""By meaning: the attribute, and the roles that may have it. Source: WAI-ARIA 1.2, section 6.6."""
_EVERYWHERE = {"busy": "aria-busy", "current": "aria-current"}
"""Attributes that every role may have, none too (WAI-ARIA 1.2, section 6.5)."""
_INSTEAD = {
    ("selected", "button"): "aria-pressed",
    ("selected", "link"): "aria-current",
    ("selected", "radio"): "aria-checked",
    ("selected", "checkbox"): "aria-checked",
    ("selected", "switch"): "aria-checked",
    ("checked", "button"): "aria-pressed",
    ("pressed", "radio"): "aria-checked",
    ("pressed", "checkbox"): "aria-checked",
    ("pressed", "switch"): "aria-checked",
    ("pressed", "tab"): "aria-selected",
    ("checked", "tab"): "aria-selected",
}
_MIXED = ("aria-checked", "aria-pressed")


class AccessMaker(DefinitionPart):
    """Roles, states, stops and the value that a form is told."""

    def access(self) -> list[Json]:
        results: list[Json] = []
        claimed: set[str] = set()
        for path in self.stops_and_roles():
            own = [
                s for s in self.steps.of(path) if s.depth == 0 and s.property in ("role", "label")
            ]
            role = self.role_of(path)
            said: dict[str, Json] = {"at": self.path_text(path)} if path else {}
            own_role = any(s.property == "role" for s in own) or path == self.title_of_screen
            spoken = role != "none" and (not path or own_role)
            if spoken:
                said["role"] = role
                if role == "heading":
                    said["level"] = self._level(path)
                states = self._aria(path, role, claimed)
                if states:
                    said["states"] = states
            elif not path:
                states = self._aria(path, "none", claimed)
                if states:
                    said["states"] = states
            if self._is_stop(path):
                said["stop"] = True
            if len(said) > (1 if path else 0):
                results.append(said)
        return results

    def _level(self, path: Path) -> int:
        """The first heading of a screen is that of the page; any other is below one."""
        first = next((p for p in self.stops_and_roles() if self.role_of(p) == "heading"), path)
        return 1 if isinstance(self.owner, Screen) and first == path else 2

    def _is_stop(self, path: Path) -> bool:
        """Whether a node can have the focus for what this owner says of it."""
        role = self.role_of(path)
        own = not path or any(s.depth == 0 and s.property == "role" for s in self.steps.of(path))
        if own and is_stop(role):
            return True
        component = self.owner
        if path:
            node = self.steps.node_at(path)
            # A plain node is reached where it says what it is, as when it runs.
            says_it = role != "none" and path != self.title_of_screen
            if node is None or (node.kind != "instance" and not says_it):
                return False
        elif not isinstance(component, Component):
            return False
        elif focus_axes(component):
            return True
        cues = [c for c in component.behaviour.cues if self._same(c.node, path)]
        if any(TRIGGER_ROWS[c.trigger.kind].stop for c in cues):
            return True
        keys = {c.trigger.key for c in cues if c.trigger.kind == "key"}
        inside = [c for c in component.behaviour.cues if c.node and not self._same(c.node, path)]
        return bool(keys - {"Escape"}) and not (inside and not path)

    def _same(self, node: Path, path: Path) -> bool:
        return (() if node == (self.owner.root.id,) else node) == path

    def _aria(self, path: Path, role: str, claimed: set[str]) -> dict[str, Json]:
        results: dict[str, Json] = {}
        for names in self.names.axes.values():
            axis = names.axis
            if axis.id in claimed:
                continue
            attribute, roles = _STATES.get(axis.meaning, ("", ()))
            if role not in roles:
                attribute = _INSTEAD.get((axis.meaning, role), "")
            attribute = attribute or _EVERYWHERE.get(axis.meaning, "")
            if attribute:
                claimed.add(axis.id)
                values = _aria_values(names, axis, attribute, role)
                results[attribute] = [names.attribute, values]
        return results

    def form_value(self) -> list[Json]:
        """Which value of which axis a form is told of."""
        if self.role_of(()) not in ("checkbox", "switch", "radio"):
            return []
        for names in self.names.axes.values():
            if names.axis.meaning == "checked":
                on = next((v.id for v in names.axis.values if reads_yes(names.axis, v.id)), None)
                return [names.attribute, names.values[on]] if on is not None else []
        return []


def _aria_values(names: AxisNames, axis: Axis, attribute: str, role: str) -> dict[str, Json]:
    values: dict[str, Json] = {}
    for value in axis.values:
        part = says(axis, value.id)
        said = "true" if part == "yes" else "false"
        if part == "mixed" and attribute in _MIXED:
            said = "mixed"
        if attribute == "aria-current":
            if said == "false":
                continue
            said = "page" if role == "link" else "true"
        values[names.values[value.id]] = said
    return values
