"""Cues and the motions of single parts, as data for the runtime."""

from __future__ import annotations

from outgrowth.core.document.cues import HOLDER, Change, Cue
from outgrowth.core.document.records import (
    Path,
)
from outgrowth.core.document.referring import meaning, waiting_time
from outgrowth.core.document.types import Json
from outgrowth.core.exchange.web.definition_part import DefinitionPart
from outgrowth.core.exchange.web.runtime_tables import BOX, TWEENED_AS


class CueMaker(DefinitionPart):
    """What an owner does, and how its parts move."""

    def cue(self, cue: Cue) -> dict[str, Json]:
        trigger = cue.trigger
        said: dict[str, Json] = {"on": trigger.kind}
        place = self.path_text(cue.node)
        if place:
            said["at"] = place
        if self.owner.behaviour.silenced or self._silenced_somewhere(cue.id):
            said["id"] = cue.id
        said |= self._triggered(cue)
        when = self.own_conditions(cue.when)
        for condition in cue.conditions:
            name, values = self._condition(condition.at, condition.axis, condition.values)
            when[name] = values
        if when:
            said["when"] = when
        said["do"] = [self._change(change) for change in cue.changes]
        if cue.motion is not None:
            said["motion"] = self.motion_data(cue.motion)
        return said

    def _triggered(self, cue: Cue) -> dict[str, Json]:
        """What a trigger says besides its kind."""
        if cue.trigger.kind == "key":
            return {"key": cue.trigger.key}
        if cue.trigger.kind == "delay" or (cue.trigger.kind == "long-press" and _says_time(cue)):
            return {"ms": self._time(cue)}
        return self._became(cue) if cue.trigger.kind == "became" else {}

    def _time(self, cue: Cue) -> Json:
        """How long a trigger waits (ms), or the custom property of the token that says so."""
        token = cue.trigger.token
        names = self.evaluator.names.tokens
        if token in names and isinstance(meaning(token, self.document.token), float):
            return names[token]
        return waiting_time(cue.trigger, self.document.token)

    def _silenced_somewhere(self, cue_id: str) -> bool:
        return any(s.cue == cue_id for o in self.document.owners() for s in o.behaviour.silenced)

    def _became(self, cue: Cue) -> dict[str, Json]:
        names = self.axis_names(cue.node, cue.trigger.axis)
        if names is None:
            return {}
        said: dict[str, Json] = {"axis": names.attribute}
        if cue.trigger.value:
            said["value"] = names.values.get(cue.trigger.value, "")
        return said

    def _condition(self, place: Path, axis: str, values: tuple[str, ...]) -> tuple[str, list[Json]]:
        names = self.axis_names(place, axis)
        target = self._target(place)
        where = f"@{target}" if target else ""
        if names is None:
            return f"{axis}{where}", list(values)
        return f"{names.attribute}{where}", [names.values.get(v, v) for v in values]

    def _target(self, place: Path) -> str:
        return HOLDER if place == (HOLDER,) else self.path_text(place)

    def _change(self, change: Change) -> list[Json]:
        if change.act in ("go", "back"):
            screen = self.document.screens.get(change.name)
            name = self.evaluator.names.owners[screen.id].element if screen is not None else ""
            return [change.act, "", name]
        target = self._target(change.at)
        if change.act == "restart":
            return [change.act, target]
        if change.act == "give":
            return self._given(change, target)
        names = self.axis_names(change.at, change.name)
        if names is None:
            return [change.act, target, change.name, str(change.value)]
        if change.act == "next":
            return [change.act, target, names.attribute]
        value = str(change.value)
        named = next((v.id for v in names.axis.values if v.name == value), value)
        return [
            change.act,
            target,
            names.attribute,
            names.values.get(value, names.values.get(named, value)),
        ]

    def _given(self, change: Change, target: str) -> list[Json]:
        path = () if change.at == (self.owner.root.id,) else change.at
        component = self.steps.component_at(path)
        names = (
            self.evaluator.names.owners[component.id].properties.get(change.name)
            if component
            else None
        )
        if names is None or component is None:
            return ["set", target, change.name, str(change.value)]
        text = self.value_text(names.property.kind, change.value)
        return ["set", target, names.attribute, text]

    def moves(self) -> list[Json]:
        """The motions of single parts. Those of a box are for what moves nothing else: 1 says
        that it floats, so that its place does not; 2 that its size does not either."""
        results: list[Json] = []
        for part in self.owner.behaviour.motions:
            for name in _moving_names(part.property):
                moved: list[Json] = [self.path_text(part.node), name]
                moved.append(self.motion_data(part.motion))
                alone = self._alone(part.node) if name in ("", BOX) else 0
                results.append([*moved, alone] if alone else moved)
        return results

    def _alone(self, path: Path) -> int:
        path = () if path == (self.owner.root.id,) else path
        style = self.evaluator.evaluated(path, {}, self.steps.of(path)).node.style
        if not style.floating:
            return 0
        node = self.steps.node_at(path)
        leaf = node is not None and not node.children and self.steps.component_at(path) is None
        return 2 if leaf else 1


def _says_time(cue: Cue) -> bool:
    return bool(cue.trigger.hold or cue.trigger.token)


def _moving_names(name: str) -> tuple[str, ...]:
    """What the runtime calls a property that moves by itself; "" is all of a part."""
    if name in ("x", "y", "width", "height"):
        return (BOX,)
    return TWEENED_AS.get(name, ()) if name else ("",)
