"""From the JSON of the native file to records, with a sentence for whatever is wrong."""

from __future__ import annotations

import base64

from immutables import Map

from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES, TABLE, row_of
from outgrowth.core.document.records import (
    Aside,
    Asset,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Motion,
    Node,
    Rule,
    Screen,
    walk,
)
from outgrowth.core.document.types import (
    Json,
    JsonObject,
    ValueProblem,
    ValueType,
    read_value,
)
from outgrowth.core.document.values import Value
from outgrowth.core.edits.components import MOST_VARIANTS
from outgrowth.core.edits.nodes import DEEPEST
from outgrowth.core.exchange.native_behaviour import BEHAVIOUR, behaviour_from, motion_from
from outgrowth.core.exchange.native_format import (
    DRIVERS,
    FORMAT,
    KINDS,
    MEANINGS,
    TOKEN_TYPES,
    UNKNOWN_STYLE,
    VERSION,
)
from outgrowth.core.exchange.native_grammar import (
    FileProblem,
    Misfit,
    all_of,
    choice_in,
    conditions_from,
    distinct,
    extras_in,
    list_in,
    object_in,
    text_in,
    texts_in,
    within,
)

__all__ = ["FileProblem", "document_from"]


def document_from(held: object, name: str) -> Document:
    """The document in a file's JSON; `name` is what messages call the file.

    Raises FileProblem.
    """
    if not isinstance(held, dict) or held.get("format") != FORMAT:
        raise FileProblem(f"“{name}” is JSON, but not an Outgrowth file. Nothing was opened.")
    version = held.get("version")
    if isinstance(version, int) and version > VERSION:
        raise FileProblem(
            f"“{name}” was saved by a newer Outgrowth (file version {version}; this one reads "
            f"up to {VERSION}). It was left untouched; open it with the newer program."
        )
    try:
        return _document(held)
    except Misfit as problem:
        place = " › ".join(problem.where)
        raise FileProblem(
            f"“{name}” cannot be opened: {place + ': ' if place else ''}{problem.what}"
        ) from problem
    except RecursionError as problem:
        raise FileProblem(f"“{name}” is nested too deeply to be opened.") from problem


def _document(held: JsonObject) -> Document:
    components = all_of(held, "components", _component)
    screens = all_of(held, "screens", _screen)
    ids = [*(c.id for c in components), *(s.id for s in screens)]
    distinct(ids, "Two components or screens share the id")
    tokens = held.get("tokens", {})
    if not isinstance(tokens, dict):
        raise Misfit("“tokens” is not an object.")
    assets = object_in(held.get("assets", {}), "assets")
    return Document(
        text_in(held, "name"),
        Map({c.id: c for c in components}),
        Map({s.id: s for s in screens}),
        tuple(c.id for c in components),
        tuple(s.id for s in screens),
        Map({path: within(path, lambda t: _token(t), data) for path, data in tokens.items()}),
        motion_from(held.get("motion")) or Motion(160.0),
        Map({digest: within(digest, _asset, data) for digest, data in assets.items()}),
        texts_in(held, "modes"),
        text_in(held, "mode", ""),
        extras_in(held, "format version name components screens tokens motion assets modes mode"),
    )


def _asset(held: JsonObject) -> Asset:
    try:
        data = base64.b64decode("".join(texts_in(held, "data")), validate=True)
    except ValueError as problem:
        raise Misfit("the data is damaged.") from problem
    return Asset(text_in(held, "name"), text_in(held, "media"), data)


def _component(held: JsonObject) -> Component:
    root = _node(object_in(held.get("root"), "root"), 1)
    distinct((node.id for node in walk(root)), "Two parts share the id")
    patterns = list_in(held, "not-offered")
    component = Component(
        text_in(held, "id"),
        text_in(held, "name"),
        root,
        all_of(held, "axes", _axis),
        all_of(held, "rules", _rule),
        all_of(held, "properties", _property),
        tuple(conditions_from(pattern) for pattern in patterns),
        motion_from(held.get("motion")),
        text_in(held, "description", ""),
        texts_in(held, "columns") if "columns" in held else None,
        texts_in(held, "chips"),
        behaviour_from(held),
        extras_in(
            held,
            "id name root axes rules properties not-offered motion description columns chips "
            + BEHAVIOUR,
        ),
    )
    distinct((axis.id for axis in component.axes), "Two axes share the id")
    return _limited(component)


def _limited(component: Component) -> Component:
    count = 1
    for axis in component.axes:
        count *= len(axis.values)
    if count > MOST_VARIANTS:
        raise Misfit(f"{count:,} variants are more than the {MOST_VARIANTS:,} that can be shown.")
    return component


def _screen(held: JsonObject) -> Screen:
    root = _node(object_in(held.get("root"), "root"), 1)
    distinct((node.id for node in walk(root)), "Two parts share the id")
    extras = extras_in(held, "id name root " + BEHAVIOUR)
    return Screen(text_in(held, "id"), text_in(held, "name"), root, behaviour_from(held), extras)


def _node(held: JsonObject, depth: int) -> Node:
    if depth > DEEPEST:
        raise Misfit(f"parts are nested more than {DEEPEST} levels deep.")
    style, unknown = _style(object_in(held.get("style", {}), "style"))
    extras = extras_in(held, "id name kind style children overrides aside")
    if unknown:
        extras = extras.set(UNKNOWN_STYLE, unknown)
    return Node(
        text_in(held, "id"),
        text_in(held, "name"),
        choice_in(held, "kind", KINDS),  # type: ignore[arg-type]  # checked against KINDS
        style,
        all_of(held, "children", lambda child: _node(child, depth + 1)),
        all_of(held, "overrides", _rule),
        extras,
        all_of(held, "aside", _aside),
    )


def _aside(held: JsonObject) -> Aside:
    return Aside(
        text_in(held, "component"), all_of(held, "own", _rule), all_of(held, "held", _rule)
    )


def _style(held: JsonObject) -> tuple[Map[str, Value], JsonObject]:
    """Known properties as values, and the others as they are."""
    known: dict[str, Value] = {}
    unknown: JsonObject = {}
    for name, data in held.items():
        if name in TABLE or name.startswith(CHOICE):
            known[name] = _value(name, row_of(name).type, data)
        else:
            unknown[name] = data
    return Map(known), unknown


def _value(name: str, kind: ValueType, data: Json) -> Value:
    try:
        return read_value(kind, data)
    except ValueProblem as problem:
        raise Misfit(f"{name}: {problem}") from problem


def _rule(held: JsonObject) -> Rule:
    name = text_in(held, "property")
    path = texts_in(held, "node")
    value = held.get("value")
    if name not in TABLE and not name.startswith(CHOICE):
        raise Misfit(f"a rule sets “{name}”, which this version does not know.")
    read = _value(name, row_of(name).type, value)
    return Rule(conditions_from(held.get("when", {})), path, name, read)


def _axis(held: JsonObject) -> Axis:
    axis = Axis(
        text_in(held, "id"),
        text_in(held, "name"),
        all_of(held, "values", _axis_value),
        text_in(held, "default"),
        choice_in(held, "driver", DRIVERS),  # type: ignore[arg-type]  # checked against DRIVERS
        choice_in(held, "meaning", MEANINGS),  # type: ignore[arg-type]  # checked against MEANINGS
        motion_from(held.get("motion")),
        extras_in(held, "id name values default driver meaning motion"),
    )
    distinct((value.id for value in axis.values), "Two values share the id")
    if axis.value(axis.default) is None:
        raise Misfit(f"the axis “{axis.name}” has no value that is its default.")
    return axis


def _axis_value(held: JsonObject) -> AxisValue:
    return AxisValue(
        text_in(held, "id"),
        text_in(held, "name"),
        motion_from(held.get("motion")),
        extras_in(held, "id name motion"),
    )


def _property(held: JsonObject) -> ComponentProperty:
    kind = choice_in(held, "kind", tuple(PROPERTY_TYPES))
    default = _value("default", PROPERTY_TYPES[kind], held.get("default"))
    return ComponentProperty(
        text_in(held, "id"),
        text_in(held, "name"),
        kind,  # type: ignore[arg-type]  # checked against PROPERTY_TYPES
        default,  # type: ignore[arg-type]  # a literal of that type
        text_in(held, "description", ""),
        texts_in(held, "shortlist"),
        extras_in(held, "id name kind default description shortlist"),
    )


def _token(held: JsonObject) -> DesignToken:
    kind = choice_in(held, "kind", tuple(TOKEN_TYPES))
    value = _value("value", TOKEN_TYPES[kind], held.get("value"))
    said = object_in(held.get("modes", {}), "modes")
    modes = {mode: _value("value", TOKEN_TYPES[kind], data) for mode, data in said.items()}
    return DesignToken(kind, value, text_in(held, "description", ""), Map(modes))  # type: ignore[arg-type]  # checked against TOKEN_TYPES
