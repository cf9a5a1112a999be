"""From the JSON of the native file to records, with a sentence for whatever is wrong."""

from __future__ import annotations

import base64
from collections.abc import Callable, Iterable
from typing import TypeVar

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
    Extras,
    Motion,
    Node,
    Rule,
    Screen,
    walk,
)
from outgrowth.core.document.types import (
    Json,
    JsonObject,
    NumberType,
    ValueProblem,
    ValueType,
    read_value,
)
from outgrowth.core.document.values import Value
from outgrowth.core.edits.components import MOST_VARIANTS
from outgrowth.core.edits.nodes import DEEPEST
from outgrowth.core.exchange.native_format import (
    DRIVERS,
    FORMAT,
    KINDS,
    MEANINGS,
    TOKEN_TYPES,
    UNKNOWN_STYLE,
    VERSION,
)

Read = TypeVar("Read")
_TIME = NumberType(0.0, 600_000.0, "ms")


class FileProblem(ValueError):
    """A file cannot be used; the message is a sentence for the user."""


class _Misfit(ValueError):
    """Something in the file does not fit; `where` grows on the way out."""

    def __init__(self, what: str, where: tuple[str, ...] = ()) -> None:
        super().__init__(what)
        self.what = what
        self.where = where


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
    except _Misfit as problem:
        place = " › ".join(problem.where)
        raise FileProblem(
            f"“{name}” cannot be opened: {place + ': ' if place else ''}{problem.what}"
        ) from problem
    except RecursionError as problem:
        raise FileProblem(f"“{name}” is nested too deeply to be opened.") from problem


def _document(held: JsonObject) -> Document:
    components = _all(held, "components", _component)
    screens = _all(held, "screens", _screen)
    ids = [*(c.id for c in components), *(s.id for s in screens)]
    _distinct(ids, "Two components or screens share the id")
    tokens = held.get("tokens", {})
    if not isinstance(tokens, dict):
        raise _Misfit("“tokens” is not an object.")
    assets = _object(held.get("assets", {}), "assets")
    return Document(
        _text(held, "name"),
        Map({c.id: c for c in components}),
        Map({s.id: s for s in screens}),
        tuple(c.id for c in components),
        tuple(s.id for s in screens),
        Map({path: _within(path, lambda t: _token(t), data) for path, data in tokens.items()}),
        _motion(held.get("motion")) or Motion(160.0),
        Map({digest: _within(digest, _asset, data) for digest, data in assets.items()}),
        _extras(held, "format version name components screens tokens motion assets"),
    )


def _asset(held: JsonObject) -> Asset:
    try:
        data = base64.b64decode("".join(_texts(held, "data")), validate=True)
    except ValueError as problem:
        raise _Misfit("the data is damaged.") from problem
    return Asset(_text(held, "name"), _text(held, "media"), data)


def _component(held: JsonObject) -> Component:
    root = _node(_object(held.get("root"), "root"), 1)
    _distinct((node.id for node in walk(root)), "Two parts share the id")
    patterns = _list(held, "not-offered")
    component = Component(
        _text(held, "id"),
        _text(held, "name"),
        root,
        _all(held, "axes", _axis),
        _all(held, "rules", _rule),
        _all(held, "properties", _property),
        tuple(_conditions(pattern) for pattern in patterns),
        _motion(held.get("motion")),
        _text(held, "description", ""),
        _texts(held, "columns") if "columns" in held else None,
        _texts(held, "chips"),
        _extras(
            held,
            "id name root axes rules properties not-offered motion description columns chips",
        ),
    )
    _distinct((axis.id for axis in component.axes), "Two axes share the id")
    return _limited(component)


def _limited(component: Component) -> Component:
    count = 1
    for axis in component.axes:
        count *= len(axis.values)
    if count > MOST_VARIANTS:
        raise _Misfit(f"{count:,} variants are more than the {MOST_VARIANTS:,} that can be shown.")
    return component


def _screen(held: JsonObject) -> Screen:
    root = _node(_object(held.get("root"), "root"), 1)
    _distinct((node.id for node in walk(root)), "Two parts share the id")
    return Screen(_text(held, "id"), _text(held, "name"), root, _extras(held, "id name root"))


def _node(held: JsonObject, depth: int) -> Node:
    if depth > DEEPEST:
        raise _Misfit(f"parts are nested more than {DEEPEST} levels deep.")
    style, unknown = _style(_object(held.get("style", {}), "style"))
    extras = _extras(held, "id name kind style children overrides aside")
    if unknown:
        extras = extras.set(UNKNOWN_STYLE, unknown)
    return Node(
        _text(held, "id"),
        _text(held, "name"),
        _choice(held, "kind", KINDS),  # type: ignore[arg-type]  # checked against KINDS
        style,
        _all(held, "children", lambda child: _node(child, depth + 1)),
        _all(held, "overrides", _rule),
        extras,
        _all(held, "aside", _aside),
    )


def _aside(held: JsonObject) -> Aside:
    return Aside(_text(held, "component"), _all(held, "own", _rule), _all(held, "held", _rule))


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
        raise _Misfit(f"{name}: {problem}") from problem


def _rule(held: JsonObject) -> Rule:
    name = _text(held, "property")
    path = _texts(held, "node")
    value = held.get("value")
    if name not in TABLE and not name.startswith(CHOICE):
        raise _Misfit(f"a rule sets “{name}”, which this version does not know.")
    read = _value(name, row_of(name).type, value)
    return Rule(_conditions(held.get("when", {})), path, name, read)


def _conditions(held: Json) -> Map[str, str]:
    if not isinstance(held, dict) or not all(isinstance(v, str) for v in held.values()):
        raise _Misfit("conditions are not axis values.")
    return Map({axis: str(value) for axis, value in held.items()})


def _axis(held: JsonObject) -> Axis:
    axis = Axis(
        _text(held, "id"),
        _text(held, "name"),
        _all(held, "values", _axis_value),
        _text(held, "default"),
        _choice(held, "driver", DRIVERS),  # type: ignore[arg-type]  # checked against DRIVERS
        _choice(held, "meaning", MEANINGS),  # type: ignore[arg-type]  # checked against MEANINGS
        _motion(held.get("motion")),
        _extras(held, "id name values default driver meaning motion"),
    )
    _distinct((value.id for value in axis.values), "Two values share the id")
    if axis.value(axis.default) is None:
        raise _Misfit(f"the axis “{axis.name}” has no value that is its default.")
    return axis


def _axis_value(held: JsonObject) -> AxisValue:
    return AxisValue(
        _text(held, "id"),
        _text(held, "name"),
        _motion(held.get("motion")),
        _extras(held, "id name motion"),
    )


def _property(held: JsonObject) -> ComponentProperty:
    kind = _choice(held, "kind", tuple(PROPERTY_TYPES))
    default = _value("default", PROPERTY_TYPES[kind], held.get("default"))
    return ComponentProperty(
        _text(held, "id"),
        _text(held, "name"),
        kind,  # type: ignore[arg-type]  # checked against PROPERTY_TYPES
        default,  # type: ignore[arg-type]  # a literal of that type
        _text(held, "description", ""),
        _texts(held, "shortlist"),
        _extras(held, "id name kind default description shortlist"),
    )


def _motion(held: Json) -> Motion | None:
    if held is None:
        return None
    parts = _object(held, "motion")
    try:
        duration = _TIME.read(parts.get("duration"))
        delay = _TIME.read(parts.get("delay", 0))
    except ValueProblem as problem:
        raise _Misfit(f"motion: {problem}") from problem
    return Motion(duration, _text(parts, "easing", "ease-out"), delay)


def _token(held: JsonObject) -> DesignToken:
    kind = _choice(held, "kind", tuple(TOKEN_TYPES))
    value = _value("value", TOKEN_TYPES[kind], held.get("value"))
    return DesignToken(kind, value, _text(held, "description", ""))  # type: ignore[arg-type]  # checked against TOKEN_TYPES


# --- the grammar of JSON objects ----------------------------------------------------------


def _all(held: JsonObject, key: str, read: Callable[[JsonObject], Read]) -> tuple[Read, ...]:
    """Every object of a list, read; a misfit names the object it is in."""
    found = []
    for n, item in enumerate(_list(held, key)):
        name = item.get("name") if isinstance(item, dict) else None
        where = f"“{name}”" if isinstance(name, str) else f"{key} {n + 1}"
        found.append(_within(where, read, item))
    return tuple(found)


def _within(where: str, read: Callable[[JsonObject], Read], data: Json) -> Read:
    try:
        return read(_object(data, where))
    except _Misfit as problem:
        raise _Misfit(problem.what, (where, *problem.where)) from problem


def _list(held: JsonObject, key: str) -> list[Json]:
    found = held.get(key, [])
    if not isinstance(found, list):
        raise _Misfit(f"“{key}” is not a list.")
    return found


def _texts(held: JsonObject, key: str) -> tuple[str, ...]:
    found = _list(held, key)
    if not all(isinstance(part, str) for part in found):
        raise _Misfit(f"“{key}” holds something that is not text.")
    return tuple(str(part) for part in found)


def _object(held: Json, what: str) -> JsonObject:
    if not isinstance(held, dict):
        raise _Misfit(f"“{what}” is not an object.")
    return held


def _text(held: JsonObject, key: str, default: str | None = None) -> str:
    found = held.get(key, default)
    if not isinstance(found, str):
        raise _Misfit(f"“{key}” is missing or not text.")
    return found


def _choice(held: JsonObject, key: str, options: tuple[str, ...]) -> str:
    found = held.get(key, options[0])
    if found not in options:
        raise _Misfit(f"“{key}” is none of: {', '.join(options)}.")
    return str(found)


def _extras(held: JsonObject, known: str) -> Extras:
    names = set(known.split())
    return Map({key: value for key, value in held.items() if key not in names})


def _distinct(ids: Iterable[str], complaint: str) -> None:
    seen: set[str] = set()
    for one in ids:
        if one in seen:
            raise _Misfit(f"{complaint} “{one}”.")
        seen.add(one)
