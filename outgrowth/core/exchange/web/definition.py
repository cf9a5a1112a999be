"""What a component does, as data for the runtime: axes, properties, what rules say beyond CSS,
cues, motions, and what assistive technology is told."""

from __future__ import annotations

from collections.abc import Iterator

from outgrowth.core.document.axis_parts import (
    focus_value,
    pointer_parts,
    reads_yes,
    resting_value,
)
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.properties import CHOICE, TABLE
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Owner,
    Rule,
    walk,
)
from outgrowth.core.document.rooms import room_axes, room_steps
from outgrowth.core.document.types import Json
from outgrowth.core.document.uses import holds_directly
from outgrowth.core.document.values import Once, Shift, Token
from outgrowth.core.exchange.web.access import AccessMaker
from outgrowth.core.exchange.web.cue_data import CueMaker
from outgrowth.core.exchange.web.definition_part import DefinitionPart
from outgrowth.core.exchange.web.names import AxisNames
from outgrowth.core.exchange.web.rule_values import RuleValues
from outgrowth.core.exchange.web.runtime_tables import part_by_name
from outgrowth.core.exchange.web.template import TOLD
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.cascade import literal


class DefinitionMaker(DefinitionPart):
    """Makes the definition of one owner, besides its template and its style sheet."""

    def made(self) -> dict[str, Json]:
        """The definition; what says nothing is left out."""
        owner = self.owner
        shared = self.evaluator, self.pictures, self.document
        values, cues, access = RuleValues(*shared), CueMaker(*shared), AccessMaker(*shared)
        parts: dict[str, Json] = {
            "axes": self._axes() if isinstance(owner, Component) else {},
            "properties": self._properties() if isinstance(owner, Component) else {},
            "refused": self._refused() if isinstance(owner, Component) else [],
            "motion": self.motion_data(self._motion()),
            "own": isinstance(owner, Component) and owner.motion is not None,
            "leads": [self.path_text(path) for path in owner.behaviour.leads],
            "data": [*values.spoken_names(), *values.entries()],
            "cues": [cues.cue(cue) for cue in owner.behaviour.cues],
            "silenced": [[self.path_text(s.path), s.cue] for s in owner.behaviour.silenced],
            "moves": cues.moves(),
            "once": self._once(),
            "access": access.access(),
        }
        value = access.form_value()
        if value:
            parts["value"] = value
        return {name: part for name, part in parts.items() if part not in ([], {}, "", False)}

    def _motion(self) -> Motion:
        own = self.owner.motion if isinstance(self.owner, Component) else None
        return own or self.document.motion

    def _axes(self) -> dict[str, Json]:
        results: dict[str, Json] = {}
        for axis_id, names in self.names.axes.items():
            results[names.attribute] = self._axis(names, axis_id)
        if self.owner.id in asked_for_room(self.document):
            for names in self.names.rooms.values():
                results[names.attribute] = self._by_room(names)
        return results

    def _by_room(self, names: AxisNames) -> dict[str, Json]:
        """An axis that the room sets: the style sheet says which of its values holds."""
        initial = names.values[room_steps(names.axis)[0].value]
        values: list[Json] = [names.values[value.id] for value in names.axis.values]
        return {"values": values, "initial": initial, "room": self.names.variable_of(names)}

    def _axis(self, names: AxisNames, axis_id: str) -> dict[str, Json]:
        axis = names.axis
        values: list[Json] = [names.values[value.id] for value in axis.values]
        said: dict[str, Json] = {
            "values": values,
            "initial": names.values[resting_value(axis)],
        }
        if names.boolean:
            said["on"] = names.values[names.yes_id]
        if axis.driver != "none":
            said["driver"] = axis.driver
            said |= _driven(names)
        if axis.meaning != "none":
            said["meaning"] = axis.meaning
        if axis.meaning == "enabled":
            said["enabled"] = [names.values[v.id] for v in axis.values if reads_yes(axis, v.id)]
        if axis.motion is not None:
            said["motion"] = self.motion_data(axis.motion)
        moving: dict[str, Json] = {
            names.values[v.id]: self.motion_data(v.motion)
            for v in axis.values
            if v.motion is not None
        }
        if moving:
            said["motions"] = moving
        if not self._lays(axis_id):
            said["lays"] = False
        return said

    def _lays(self, axis_id: str) -> bool:
        """Whether a value of the axis can change any size or place."""
        component = self.owner
        assert isinstance(component, Component)
        said = [*component.rules, *_overriding(self.document).get(component.id, ())]
        return any(axis_id in r.when and not _paints(r.property) for r in said)

    def _properties(self) -> dict[str, Json]:
        results: dict[str, Json] = {}
        for names in self.names.properties.values():
            prop = names.property
            said: dict[str, Json] = {"kind": prop.kind}
            said["initial"] = self._initial(prop)
            if prop.kind == "switch":
                said["on"] = "yes" if names.yes else "no"
            elif prop.kind in ("color", "number"):
                said["variable"] = names.variable
            results[names.attribute] = said
        return results

    def _initial(self, prop: ComponentProperty) -> str:
        """What a property is where nobody sets it; empty for a relative change, which has no
        value of its own."""
        if isinstance(prop.default, Shift):
            return ""
        if isinstance(prop.default, Token):
            settled = literal(CHOICE + prop.id, prop.default, self.document)
            return self.value_text(prop.kind, settled)
        return self.value_text(prop.kind, prop.default)

    def _refused(self) -> list[Json]:
        component = self.owner
        assert isinstance(component, Component)
        return [self.own_conditions(pattern) for pattern in component.not_offered]

    def _once(self) -> dict[str, Json]:
        """By node: what of its members only one may have: “element,axis,value”."""
        results: dict[str, Json] = {}
        for node in walk(self.owner.root):
            onces = node.style.get("one-at-a-time")
            told: list[Json] = []
            for once in onces if isinstance(onces, tuple) else ():
                told += self._tellings(once) if isinstance(once, Once) else []
            if told:
                results["" if node is self.owner.root else self.names.nodes[node.id]] = told
        return results

    def _tellings(self, once: Once) -> list[Json]:
        told: list[Json] = []
        for component in self.document.in_order():
            names = self.evaluator.names.owners[component.id]
            axis = names.axes.get(once.axis)
            if axis is not None and once.value in axis.values:
                told.append(f"{names.element},{axis.attribute},{axis.values[once.value]}")
        return told


def _driven(names: AxisNames) -> dict[str, Json]:
    """What the values of an axis stand for that pointer or focus set, where their names do not
    tell the runtime, and whether their states bear the name of the axis."""
    axis = names.axis
    said: dict[str, Json] = {}
    parts: dict[str, Json] = {
        names.values[value_id]: part
        for value_id, part in pointer_parts(axis).items()
        if part != part_by_name(names.values[value_id])
    }
    if parts:
        said["parts"] = parts
    focused, siblings = focus_value(axis), [v.id for v in axis.values if v.id != axis.default]
    if axis.driver == "focus" and focused is not None and focused != siblings[0]:
        said["focus"] = names.values[focused]
    if names.prefixed:
        said["prefixed"] = True
    return said


def _asking_for_room(document: Document) -> frozenset[str]:
    """The components of whose room something depends that no style sheet can say: words, choices
    of inner parts, cues. Any cue that names an axis may mean that of a part around it."""
    named = {name for owner in document.owners() for name in _named_by_cues(owner)}
    overriding = _overriding(document)
    results = set()
    for component in document.in_order():
        axes = room_axes(component)
        said = [*component.rules, *overriding.get(component.id, ())]
        told = {axis for r in said if not _in_sheet(r.property) for axis in r.when}
        if any(axis.id in told | named or axis.name in named for axis in axes):
            results.add(component.id)
    return frozenset(results)


asked_for_room = ByIdentity(_asking_for_room, 4)


def _named_by_cues(owner: Owner) -> Iterator[str]:
    for cue in owner.behaviour.cues:
        yield from cue.when
        yield from (condition.axis for condition in cue.conditions)
        yield cue.trigger.axis


def _in_sheet(name: str) -> bool:
    return name not in TOLD and not name.startswith(CHOICE)


def _paints(name: str) -> bool:
    row = TABLE.get(name)
    return row is not None and row.affects in ("paint", "pointer")


def _by_component(document: Document) -> dict[str, list[Rule]]:
    rules: dict[str, list[Rule]] = {}
    for owner in document.owners():
        for node, followed in holds_directly(owner):
            rules.setdefault(followed, []).extend(node.overrides)
    return rules


_overriding = ByIdentity(_by_component, 4)
"""What instances say of their components in some variants only, by component. All components of
a hand-over ask."""
