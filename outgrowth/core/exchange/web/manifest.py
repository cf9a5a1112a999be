"""The Custom Elements Manifest: what each element takes, tells, and lets be styled.

Source of the form: the Custom Elements Manifest's JSON Schema, version 1.0.0.
"""

from __future__ import annotations

import json
from collections.abc import Iterable

from outgrowth.core.document.records import Component, walk
from outgrowth.core.document.sentences import guidance
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import plain
from outgrowth.core.exchange.web.bundle import Code
from outgrowth.core.exchange.web.modules import events_of, field_settings
from outgrowth.core.exchange.web.names import OwnerNames, camel


def manifest(components: Iterable[tuple[Component, OwnerNames, Code]]) -> bytes:
    """The manifest of some components."""
    modules: list[Json] = [_module(*each) for each in components]
    entire: Json = {"schemaVersion": "1.0.0", "readme": "index.html", "modules": modules}
    return (json.dumps(entire, indent=2, ensure_ascii=False) + "\n").encode()


def _module(component: Component, names: OwnerNames, code: Code) -> dict[str, Json]:
    path = f"components/{names.element}.js"
    here: dict[str, Json] = {"name": names.class_name, "module": path}
    js: Json = {"kind": "js", "name": names.class_name, "declaration": here}
    element: Json = {
        "kind": "custom-element-definition",
        "name": names.element,
        "declaration": here,
    }
    return {
        "kind": "javascript-module",
        "path": path,
        "declarations": [_declaration(component, names, code)],
        "exports": [js, element],
    }


def _declaration(component: Component, names: OwnerNames, code: Code) -> dict[str, Json]:
    attributes, members, slots = [], [], []
    for name, kind, initial, about in _settings(names):
        attribute: dict[str, Json] = {"name": name, "type": {"text": kind}}
        if initial:
            attribute["default"] = initial
        if about:
            attribute["description"] = about
        attributes.append({**attribute, "fieldName": camel(name)})
        members.append(
            {"kind": "field", **attribute, "name": camel(name), "attribute": name, "reflects": True}
        )
    for name, kind in field_settings(names, code.definition).items():
        attributes.append({"name": name, "type": {"text": kind}, "description": _FIELD[name]})
        members.append(
            {
                "kind": "field",
                "name": name,
                "type": {"text": kind},
                "attribute": name,
                "reflects": True,
            }
        )
    for prop in names.properties.values():
        if prop.property.kind == "slot":
            slots.append(
                {
                    "name": prop.attribute,
                    "description": f"{prop.property.name}, instead of the usual one.",
                }
            )
    events: list[Json] = [
        {"name": name, "type": {"text": f"CustomEvent<{detail}>"}, "description": _EVENT}
        for name, detail in events_of(code.definition)
    ]
    parts: list[Json] = [
        {"name": names.nodes[node.id], "description": node.name}
        for node in walk(component.root)
        if node is not component.root
    ]
    variables = sorted({name for rule in code.rules for name in rule.css if name.startswith("--")})
    properties: list[Json] = [{"name": name} for name in variables]
    states: list[Json] = [{"name": state} for state in _states(names)]
    declared: dict[str, Json] = {
        "kind": "class",
        "customElement": True,
        "name": names.class_name,
        "tagName": names.element,
        "superclass": {"name": "HTMLElement"},
        "description": "\n".join(guidance(component)) or component.name,
        "attributes": attributes,  # type: ignore[dict-item]  # all JSON
        "members": members,  # type: ignore[dict-item]  # all JSON
        "events": events,
        "slots": slots,  # type: ignore[dict-item]  # all JSON
        "cssParts": parts,
        "cssProperties": properties,
        "cssStates": states,
    }
    return {name: value for name, value in declared.items() if value != []}


_FIELD = {
    "name": "What a form calls its value.",
    "required": "Whether a form waits until it is chosen.",
    "value": "What a form is told where it is chosen; “on” where nothing is said.",
}
_EVENT = "A cue set it: its name, its value, and the value before."


def _settings(names: OwnerNames) -> Iterable[tuple[str, str, str, str]]:
    for axis in names.axes.values():
        kind = "boolean" if axis.boolean else " | ".join(f"'{v}'" for v in axis.values.values())
        usual = "" if axis.boolean else f"'{axis.values[axis.axis.default]}'"
        yield axis.attribute, kind, usual, axis.axis.name
    for prop in names.properties.values():
        about = prop.property.description or prop.property.name
        if prop.property.kind == "switch":
            yield prop.attribute, "boolean", "", about
        else:
            value = prop.property.default
            words = plain(value) if isinstance(value, tuple) else ""  # type: ignore[arg-type]  # runs
            usual = json.dumps(words, ensure_ascii=False) if words else ""
            yield prop.attribute, "string", usual, about


def _states(names: OwnerNames) -> Iterable[str]:
    for axis in names.axes.values():
        if axis.boolean:
            yield axis.attribute
        else:
            yield from (axis.state_name(value.id) for value in axis.axis.values)
