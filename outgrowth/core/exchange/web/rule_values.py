"""What rules say beyond CSS: words, pictures, spoken names, and what instances are given."""

from __future__ import annotations

from collections.abc import Iterator

from outgrowth.core.document.properties import CHOICE, TABLE
from outgrowth.core.document.records import (
    Component,
    Path,
    short_name,
    walk,
)
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import FromProperty, Picture, plain
from outgrowth.core.exchange.web.definition_part import DefinitionPart
from outgrowth.core.exchange.web.steps import ALWAYS, Conditions, ScopedStep, literal_at
from outgrowth.core.exchange.web.template import (
    GEOMETRY,
    TOLD,
    attribute_of,
    content_of,
    shape_of,
)

# Where a role has no such state, the one that it has instead. Source: WAI-ARIA 1.2, section 5.4.
_NAMED = frozenset({"button", "link", "checkbox", "switch", "radio", "tab", "textbox", "img"})


class RuleValues(DefinitionPart):
    """The entries that the runtime applies, what wins later."""

    def entries(self) -> list[Json]:
        results: list[Json] = []
        for path in self._paths():
            own = [s for s in self.steps.of(path) if s.depth == 0]
            for name in sorted({s.property for s in own if self._is_runtimes(path, s)}):
                steps = [s for s in own if s.property == name]
                fixed = len(steps) == 1 and not steps[0].when and len(path) <= 1
                # The element itself is in no template that could say how it is called.
                fixed = fixed and (bool(path) or name != "label")
                if fixed and not isinstance(steps[0].value, FromProperty):
                    continue
                for declared in self._with_base(path, name, steps):
                    results.append(self._entry(path, declared))
        return [entry for entry in results if entry]

    def spoken_names(self) -> Iterator[Json]:
        """What the parts are called that say nothing to be read: by their first words where they
        are to be written in, by the part in their slot, else by themselves. Source: WAI-ARIA 1.2,
        section 5.2.8 (accessible names)."""
        for path in self.stops_and_roles():
            role = self.role_of(path)
            own = [s for s in self.steps.of(path) if s.depth == 0]
            named = not path or any(s.property == "role" for s in own)
            if role not in _NAMED or not named or any(s.property == "label" for s in own):
                continue
            name = self._name_of(path, role)
            if name:
                yield {"at": self.path_text(path), "label": name} if path else {"label": name}

    def _name_of(self, path: Path, role: str) -> Json:
        owner = self.steps.owner_at(path) if path else self.owner
        node = self.steps.node_at(path)
        inside = list(walk(node)) if node is not None and node.kind != "instance" else []
        texts = [n for n in inside if n.kind == "text"]
        if texts:
            value = texts[0].style.get("content") if role == "textbox" else None
            if isinstance(value, FromProperty) and value.property in self.names.properties:
                return {"from": self.names.properties[value.property].attribute}
            return plain(value) if isinstance(value, tuple) else None  # type: ignore[arg-type]  # runs
        for part in inside:
            slot = part.style.get("component")
            if isinstance(slot, FromProperty) and slot.property in self.names.properties:
                return {"from": self.names.properties[slot.property].attribute}
        name = node.name if path and node is not None else owner.name if owner is not None else ""
        return short_name(name)

    def _with_base(self, path: Path, name: str, steps: list[ScopedStep]) -> list[ScopedStep]:
        """The steps, with the one below them that they fall back to: what the template says."""
        if not steps[0].when or len(path) != 1 or name.startswith(CHOICE):
            return steps
        return [ScopedStep(name, TABLE[name].default, ALWAYS, 0, ()), *steps]

    def _paths(self) -> Iterator[Path]:
        yield ()
        for node in walk(self.owner.root):
            if node is not self.owner.root:
                yield (node.id,)
            for rule in node.overrides:
                if rule.node:
                    yield (node.id, *rule.node)
        if isinstance(self.owner, Component):
            yield from dict.fromkeys(rule.node for rule in self.owner.rules if len(rule.node) > 1)

    def _is_runtimes(self, path: Path, declared: ScopedStep) -> bool:
        """Whether no style sheet can say it."""
        if declared.property.startswith(CHOICE):
            return True
        if declared.property == "component":
            return bool(path)
        return declared.property in TOLD

    def _entry(self, path: Path, declared: ScopedStep) -> dict[str, Json]:
        values = self._values(path, declared)
        if not values:
            return {}
        place: dict[str, Json] = {"at": self.path_text(path)} if path else {}
        when = self._when(path, declared.when)
        return place | values | ({"when": when} if when else {})

    def _values(self, path: Path, declared: ScopedStep) -> dict[str, Json]:
        name, value = declared.property, declared.value
        prop = self.steps.property_at(declared.scope, value)
        reference: Json = None
        if prop is not None:
            reference = {"from": self.names.properties[prop.id].attribute}
        if name.startswith(CHOICE):
            return self._choice(path, declared, reference)
        literal = literal_at(self.document, declared, name, self.steps)
        if name == "content":
            styled = self.evaluator.evaluated(path, {}, self.steps.of(path))
            parts = content_of(literal, styled)
            simple = parts[0] if len(parts) == 1 and isinstance(parts[0], str) else parts or ""
            return {"text": reference or simple}
        if name == "component":
            target = self.evaluator.names.owners.get(str(literal))
            return {"is": reference or (target.element if target is not None else "")}
        if name == "picture" and isinstance(literal, Picture):
            return {"src": self.pictures.address(literal.asset)}
        if name == "label":
            return {"label": reference or str(literal)}
        if name in GEOMETRY:
            cell = dict(declared.when)
            styled = self.evaluator.evaluated(path, cell, self.steps.of(path))
            data, box = shape_of(styled, (24.0, 24.0))
            return {"d": data, "box": box}
        return {}

    def _choice(self, path: Path, declared: ScopedStep, reference: Json) -> dict[str, Json]:
        component = self.steps.component_at(path)
        if component is None:
            return {}
        names = self.evaluator.names.owners[component.id]
        key = declared.property.removeprefix(CHOICE)
        prop = component.property(key)
        if prop is not None and prop.kind in ("color", "number"):
            return {}  # a style sheet says it
        if reference is not None:
            attribute = names.properties[key].attribute if key in names.properties else ""
            return {attribute: reference} if attribute else {}
        literal = literal_at(self.document, declared, declared.property, self.steps)
        if key in names.axes:
            value = names.axes[key].values.get(str(literal))
            return {names.axes[key].attribute: value} if value is not None else {}
        if prop is not None and prop.kind == "switch":
            return {names.properties[key].attribute: "yes" if literal is True else "no"}
        pair = attribute_of(self.evaluator, component, declared.property, literal)
        return {pair[0]: pair[1]} if pair is not None else {}

    def _when(self, path: Path, when: Conditions) -> dict[str, Json]:
        results: dict[str, Json] = {}
        for (scope, axis_id), value in sorted(when):
            component = self.steps.component_at(scope)
            names = (
                self.evaluator.names.owners[component.id].any_axis(axis_id) if component else None
            )
            if names is not None:
                place = f"@{self.path_text(scope)}" if scope else ""
                results[f"{names.attribute}{place}"] = names.values[value]
        return results
