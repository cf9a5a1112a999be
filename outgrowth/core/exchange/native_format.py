"""What both directions of the native file agree on, and its JSON Schema."""

from __future__ import annotations

from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES, SIGNED, TABLE, row_of
from outgrowth.core.document.types import (
    ColorType,
    Json,
    JsonObject,
    NameType,
    NumberType,
    ShadowsType,
    ValueType,
    reference_schema,
    value_schema,
)
from outgrowth.core.exchange.native_behaviour import BEHAVIOUR, behaviour_schema

FORMAT = "outgrowth"
VERSION = 1

DATA_LINE = 120
"""Letters of an asset's data (base64) a line."""

UNKNOWN_STYLE = "style"
"""Where a node's extras keep style properties that this version does not know."""

KINDS = ("box", "text", "shape", "image", "instance")
DRIVERS = ("none", "pointer", "focus")
MEANINGS = ("none", "enabled", "checked", "expanded", "selected")

TOKEN_TYPES: dict[str, ValueType] = {
    "color": ColorType(),
    "dimension": SIGNED,
    "number": SIGNED,
    "duration": NumberType(0.0, 60_000.0, "ms"),
    "easing": NameType(),
    "family": NameType(),
    "shadow": ShadowsType(),
}


def schema() -> JsonObject:
    """The published JSON Schema (draft 2020-12) of the native file."""
    text: JsonObject = {"type": "string"}
    whole: JsonObject = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Outgrowth document",
        "$defs": {
            "reference": reference_schema(),
            "style": _style_schema(),
            "node": _node_schema(),
            "rule": _rule_schema(),
            "aside": _object(
                {"component": text, "own": _list(_ref("rule")), "held": _list(_ref("rule"))},
                optional={"own", "held"},
            ),
            "asset": _object({"name": text, "media": text, "data": _list(text)}),
            "motion": _motion_schema(),
            "axis": _axis_schema(),
            "property": _property_schema(),
            "token": {"anyOf": [_token_schema(k, t) for k, t in TOKEN_TYPES.items()]},
            "component": _component_schema(),
            "screen": _object(
                {"id": text, "name": text, "root": _ref("node"), **behaviour_schema()},
                optional=set(BEHAVIOUR.split()),
            ),
        },
    }
    top = _object(
        {
            "format": {"const": FORMAT},
            "version": {"type": "integer", "minimum": 1, "maximum": VERSION},
            "name": text,
            "motion": _ref("motion"),
            "components": _list(_ref("component")),
            "screens": _list(_ref("screen")),
            "tokens": {"type": "object", "additionalProperties": _ref("token")},
            "modes": _list(text),
            "mode": text,
            "assets": {"type": "object", "additionalProperties": _ref("asset")},
        },
        optional={"motion", "components", "screens", "tokens", "assets", "modes", "mode"},
    )
    return whole | top


def _style_schema() -> JsonObject:
    rows: JsonObject = {name: value_schema(row.type) for name, row in TABLE.items()}
    choices: JsonObject = {f"^{CHOICE}": value_schema(row_of(CHOICE).type)}
    return {"type": "object", "properties": rows, "patternProperties": choices}


def _node_schema() -> JsonObject:
    text: JsonObject = {"type": "string"}
    return _object(
        {
            "id": text,
            "name": text,
            "kind": {"enum": list(KINDS)},
            "style": _ref("style"),
            "children": _list(_ref("node")),
            "overrides": _list(_ref("rule")),
            "aside": _list(_ref("aside")),
        },
        optional={"style", "children", "overrides", "aside"},
    )


def _rule_schema() -> JsonObject:
    text: JsonObject = {"type": "string"}
    when: JsonObject = {"type": "object", "additionalProperties": text}
    parts: JsonObject = {"when": when, "node": _list(text), "property": text, "value": {}}
    return _object(parts, optional={"when"})


def _motion_schema() -> JsonObject:
    time: JsonObject = {"type": "number", "minimum": 0}
    parts: JsonObject = {"duration": time, "delay": time, "easing": {"type": "string"}}
    return _object(parts, optional={"delay", "easing"})


def _axis_schema() -> JsonObject:
    text: JsonObject = {"type": "string"}
    value = _object({"id": text, "name": text, "motion": _ref("motion")}, optional={"motion"})
    return _object(
        {
            "id": text,
            "name": text,
            "default": text,
            "values": _list(value),
            "driver": {"enum": list(DRIVERS)},
            "meaning": {"enum": list(MEANINGS)},
            "motion": _ref("motion"),
        },
        optional={"driver", "meaning", "motion"},
    )


def _property_schema() -> JsonObject:
    text: JsonObject = {"type": "string"}
    return _object(
        {
            "id": text,
            "name": text,
            "kind": {"enum": list(PROPERTY_TYPES)},
            "default": {"anyOf": [kind.schema() for kind in PROPERTY_TYPES.values()]},
            "description": text,
            "shortlist": _list(text),
        },
        optional={"description", "shortlist"},
    )


def _token_schema(kind: str, of: ValueType) -> JsonObject:
    parts: JsonObject = {
        "kind": {"const": kind},
        "value": value_schema(of),
        "description": {"type": "string"},
        "modes": {"type": "object", "additionalProperties": value_schema(of)},
    }
    return _object(parts, optional={"description", "modes"})


def _component_schema() -> JsonObject:
    text: JsonObject = {"type": "string"}
    pattern: JsonObject = {"type": "object", "additionalProperties": text}
    return _object(
        {
            "id": text,
            "name": text,
            "root": _ref("node"),
            "axes": _list(_ref("axis")),
            "rules": _list(_ref("rule")),
            "properties": _list(_ref("property")),
            "not-offered": _list(pattern),
            "motion": _ref("motion"),
            "description": text,
            "columns": _list(text),
            "chips": _list(text),
            **behaviour_schema(),
        },
        optional=set(BEHAVIOUR.split())
        | {
            "axes",
            "rules",
            "properties",
            "not-offered",
            "motion",
            "description",
            "columns",
            "chips",
        },
    )


def _object(parts: JsonObject, optional: set[str] | None = None) -> JsonObject:
    """An object schema; keys that are not known are allowed, since they are kept."""
    required: list[Json] = [name for name in parts if name not in (optional or set())]
    return {"type": "object", "properties": parts, "required": required}


def _list(items: JsonObject) -> JsonObject:
    return {"type": "array", "items": items}


def _ref(name: str) -> JsonObject:
    return {"$ref": f"#/$defs/{name}"}
