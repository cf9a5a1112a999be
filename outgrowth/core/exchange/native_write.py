"""From records to the JSON of the native file. What equals its default is left out."""

from __future__ import annotations

import base64

from outgrowth.core.document.properties import PROPERTY_TYPES, row_of
from outgrowth.core.document.records import (
    Aside,
    Asset,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Extras,
    Node,
    Rule,
    Screen,
)
from outgrowth.core.document.types import Json, JsonObject, write_value
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.exchange.native_behaviour import behaviour_to, motion_to
from outgrowth.core.exchange.native_format import (
    DATA_LINE,
    FORMAT,
    TOKEN_TYPES,
    UNKNOWN_STYLE,
    VERSION,
)


def document_to(document: Document) -> JsonObject:
    """The whole file."""
    out: JsonObject = {
        "format": FORMAT,
        "version": VERSION,
        "name": document.name,
        "motion": motion_to(document.motion),
        "components": [_component(c) for c in document.in_order()],
        "screens": [_screen(s) for s in document.screens_in_order()],
        "tokens": {path: _token(t) for path, t in document.tokens.items()},
    }
    if document.modes:
        out["modes"] = list(document.modes)
    if document.mode:
        out["mode"] = document.mode
    kept = assets_in_use(document)
    if kept:
        out["assets"] = {digest: asset_to(asset) for digest, asset in kept.items()}
    return _with_extras(out, document.extras)


def asset_to(asset: Asset) -> JsonObject:
    """Data that came from outside, as text in lines."""
    data = base64.b64encode(asset.data).decode()
    lines: list[Json] = [data[n : n + DATA_LINE] for n in range(0, len(data), DATA_LINE)]
    return {"name": asset.name, "media": asset.media, "data": lines}


def _component(component: Component) -> JsonObject:
    out: JsonObject = {"id": component.id, "name": component.name, "root": _node(component.root)}
    if component.axes:
        out["axes"] = [_axis(axis) for axis in component.axes]
    if component.rules:
        out["rules"] = [_rule(rule) for rule in component.rules]
    if component.properties:
        out["properties"] = [_property(p) for p in component.properties]
    if component.not_offered:
        out["not-offered"] = [dict(pattern) for pattern in component.not_offered]
    if component.motion is not None:
        out["motion"] = motion_to(component.motion)
    if component.description:
        out["description"] = component.description
    if component.columns is not None:
        out["columns"] = list(component.columns)
    if component.chips:
        out["chips"] = list(component.chips)
    out |= behaviour_to(component.behaviour)
    return _with_extras(out, component.extras)


def _screen(screen: Screen) -> JsonObject:
    out: JsonObject = {"id": screen.id, "name": screen.name, "root": _node(screen.root)}
    out |= behaviour_to(screen.behaviour)
    return _with_extras(out, screen.extras)


def _node(node: Node) -> JsonObject:
    out: JsonObject = {"id": node.id, "name": node.name, "kind": node.kind}
    style: JsonObject = {k: write_value(row_of(k).type, v) for k, v in node.style.items()}
    unknown = node.extras.get(UNKNOWN_STYLE)
    if isinstance(unknown, dict):
        style |= unknown
    if style:
        out["style"] = style
    if node.children:
        out["children"] = [_node(child) for child in node.children]
    if node.overrides:
        out["overrides"] = [_rule(rule) for rule in node.overrides]
    if node.aside:
        out["aside"] = [_aside(aside) for aside in node.aside]
    return _with_extras(out, node.extras)


def _aside(aside: Aside) -> JsonObject:
    out: JsonObject = {"component": aside.component}
    if aside.own:
        out["own"] = [_rule(rule) for rule in aside.own]
    if aside.held:
        out["held"] = [_rule(rule) for rule in aside.held]
    return out


def _rule(rule: Rule) -> JsonObject:
    value = write_value(row_of(rule.property).type, rule.value)
    out: JsonObject = {"node": list(rule.node), "property": rule.property, "value": value}
    if rule.when:
        out["when"] = dict(rule.when)
    return out


def _axis(axis: Axis) -> JsonObject:
    out: JsonObject = {
        "id": axis.id,
        "name": axis.name,
        "default": axis.default,
        "values": [_axis_value(value) for value in axis.values],
    }
    if axis.driver != "none":
        out["driver"] = axis.driver
    if axis.meaning != "none":
        out["meaning"] = axis.meaning
    if axis.motion is not None:
        out["motion"] = motion_to(axis.motion)
    return _with_extras(out, axis.extras)


def _axis_value(value: AxisValue) -> JsonObject:
    out: JsonObject = {"id": value.id, "name": value.name}
    if value.motion is not None:
        out["motion"] = motion_to(value.motion)
    return _with_extras(out, value.extras)


def _property(prop: ComponentProperty) -> JsonObject:
    default = PROPERTY_TYPES[prop.kind].write(prop.default)
    out: JsonObject = {"id": prop.id, "name": prop.name, "kind": prop.kind, "default": default}
    if prop.description:
        out["description"] = prop.description
    if prop.shortlist:
        out["shortlist"] = list(prop.shortlist)
    return _with_extras(out, prop.extras)


def _token(token: DesignToken) -> JsonObject:
    value: Json = write_value(TOKEN_TYPES[token.kind], token.value)
    out: JsonObject = {"kind": token.kind, "value": value}
    if token.description:
        out["description"] = token.description
    if token.modes:
        kind = TOKEN_TYPES[token.kind]
        out["modes"] = {mode: write_value(kind, value) for mode, value in token.modes.items()}
    return out


def _with_extras(out: JsonObject, extras: Extras) -> JsonObject:
    return {k: v for k, v in extras.items() if k != UNKNOWN_STYLE} | out
