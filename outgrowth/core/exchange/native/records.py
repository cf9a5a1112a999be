"""The fields of all records of a document, and the file as a whole."""

from __future__ import annotations

import base64
from collections.abc import Mapping
from typing import Any, Generic, NamedTuple, Protocol, TypeVar, cast, get_args

import msgspec
from immutables import Map

from outgrowth.core.document.design_token import PLACE
from outgrowth.core.document.extent import DEEPEST, refuse_endless
from outgrowth.core.document.keeping import NOTHING, Keeping
from outgrowth.core.document.properties import (
    ANY,
    CHOICE,
    PROPERTY_TYPES,
    TABLE,
    TOKEN_TYPES,
    row_of,
)
from outgrowth.core.document.records import (
    MOST_ROOM,
    Aside,
    Asset,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Driver,
    Meaning,
    Motion,
    Node,
    RoomSide,
    RoomUnit,
    Rule,
    Screen,
    ValuePart,
    walk,
)
from outgrowth.core.document.sharing import ALONE, Library, Origin, Sharing, TokenOrigin
from outgrowth.core.document.types import (
    FlagType,
    Json,
    JsonObject,
    NumberType,
    ValueType,
    read_value,
    reference_schema,
    value_schema,
    write_value,
)
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.document.values import Value
from outgrowth.core.exchange.native.behaviour import (
    BEHAVIOUR_KEYS,
    CONDITIONS,
    MOTION,
    TEXT,
    TEXTS,
    behaviour_from,
    behaviour_schema,
    behaviour_to,
    motion_schema,
)
from outgrowth.core.exchange.native.codec import (
    REQUIRED,
    ByKey,
    Field,
    FileRefusal,
    Later,
    Many,
    Maybe,
    Misfit,
    OneOf,
    Record,
    Typed,
    field,
)
from outgrowth.core.exchange.native.keeping import KEEPING
from outgrowth.core.exchange.native.upgrade import upgraded
from outgrowth.core.refusal import Refusal, ValueRefusal, quoted, shown_value

FORMAT = "outgrowth"
VERSION = 2
"""1 kept “one at a time” in words."""

DATA_LINE = 120
"""Letters of an asset's data (base64) a line."""

UNKNOWN_STYLE = "style"
"""Where a node's extras keep style properties that this version does not know."""

_Owner = TypeVar("_Owner", bound=Component | Screen)


def _value(kind: ValueType, data: Json) -> Value:
    try:
        return read_value(kind, data)
    except ValueRefusal as problem:
        raise Misfit(str(problem)) from problem


class _Style:
    """What a node says, by the property table."""

    def read(self, data: Json) -> Map[str, Value]:
        """Known properties only; a node keeps the others among its extras."""
        if not isinstance(data, dict):
            raise Misfit("it is not an object.")
        values: dict[str, Value] = {}
        for name, value in data.items():
            if name in TABLE or name.startswith(CHOICE):
                try:
                    values[name] = _value(row_of(name).type, value)
                except Misfit as problem:
                    raise Misfit(problem.what, (name,)) from problem
        return Map(values)

    def write(self, value: Map[str, Value]) -> Json:
        return {name: write_value(row_of(name).type, said) for name, said in value.items()}

    def schema(self) -> JsonObject:
        rows: JsonObject = {name: value_schema(row.type) for name, row in TABLE.items()}
        choices: JsonObject = {f"^{CHOICE}": value_schema(row_of(CHOICE).type)}
        return {"type": "object", "properties": rows, "patternProperties": choices}


class _Rules(Record[Rule]):
    """A rule: what its value may be depends on its property."""

    def read(self, data: Json) -> Rule:
        if isinstance(data, dict):
            name = data.get("property")
            is_known = isinstance(name, str) and (name in TABLE or name.startswith(CHOICE))
            if isinstance(name, str) and not is_known:
                raise Misfit(f"a rule sets “{quoted(name)}”, which this version does not know.")
            if is_known and "value" in data:
                read = _value(row_of(str(name)).type, data["value"])
                data = data | {"value": cast(Json, read)}
        return super().read(data)

    def write(self, value: Rule) -> Json:
        written = cast(JsonObject, super().write(value))
        written["value"] = write_value(row_of(value.property).type, value.value)
        return written


class _As:
    """A value that its record reads and writes by itself."""

    def __init__(self, schema: JsonObject) -> None:
        self._schema = schema

    def read(self, data: Json) -> Json:
        return data

    def write(self, value: object) -> Json:
        return cast(Json, value)

    def schema(self) -> JsonObject:
        return self._schema


_RULE = _Rules(
    Rule,
    field("when", CONDITIONS, Map()),
    field("node", TEXTS),
    field("property", TEXT),
    field("value", _As({})),
    more=True,
)
RULE: Later[Rule] = Later("rule", lambda: _RULE)
_ASIDE = Record(
    Aside,
    field("component", TEXT),
    field("own", Many(RULE)),
    field("held", Many(RULE)),
)
ASIDE: Later[Aside] = Later("aside", lambda: _ASIDE)


class _Nodes(Record[Node]):
    """A node: properties that this version does not know stay in its style."""

    def read(self, data: Json) -> Node:
        node = super().read(data)
        said = cast(JsonObject, data).get("style", {})
        if len(cast(JsonObject, said)) == len(node.style) and UNKNOWN_STYLE not in node.extras:
            return node
        unknown = {
            name: value
            for name, value in cast(JsonObject, said).items()
            if name not in TABLE and not name.startswith(CHOICE)
        }
        if not unknown and UNKNOWN_STYLE not in node.extras:
            return node
        return Node(
            node.id,
            node.name,
            node.kind,
            node.style,
            node.children,
            node.overrides,
            node.extras.set(UNKNOWN_STYLE, unknown),
            node.aside,
        )

    def write(self, value: Node) -> Json:
        written = cast(JsonObject, super().write(value))
        unknown = value.extras.get(UNKNOWN_STYLE)
        known = _STYLE.write(value.style)
        style = cast(JsonObject, known) | (unknown if isinstance(unknown, dict) else {})
        written.pop("style", None)
        return written | {"style": style} if style else written


_STYLE = _Style()
STYLE: Later[Map[str, Value]] = Later("style", lambda: _STYLE)
NODE: Later[Node] = Later("node", lambda: _node_codec())
_NODE: _Nodes = _Nodes(
    Node,
    field("id", TEXT),
    field("name", TEXT),
    field("kind", OneOf(sorted(ANY))),
    field("style", STYLE),
    field("children", Many(NODE)),
    field("overrides", Many(RULE)),
    field("aside", Many(ASIDE)),
    extras=True,
)


def _node_codec() -> Record[Node]:
    return _NODE


_AXIS_VALUE = Record(
    AxisValue,
    field("id", TEXT),
    field("name", TEXT),
    field("motion", Maybe(MOTION)),
    field("part", OneOf(get_args(ValuePart))),
    field("least", Typed(NumberType(0.0, MOST_ROOM))),
    extras=True,
)
_AXIS = Record(
    Axis,
    field("id", TEXT),
    field("name", TEXT),
    field("values", Many(_AXIS_VALUE)),
    field("default", TEXT),
    field("driver", OneOf(get_args(Driver))),
    field("meaning", OneOf(get_args(Meaning))),
    field("side", OneOf(get_args(RoomSide))),
    field("unit", OneOf(get_args(RoomUnit))),
    field("motion", Maybe(MOTION)),
    extras=True,
)
AXIS: Later[Axis] = Later("axis", lambda: _AXIS)


def _kind_in(data: Json, types: Mapping[str, ValueType]) -> ValueType | None:
    """The type that an object's own kind stands for; None for what is no such kind."""
    kind = data.get("kind") if isinstance(data, dict) else None
    return types.get(kind) if isinstance(kind, str) else None


class _Properties(Record[ComponentProperty]):
    """What an instance may set: the type of the default is that of the kind."""

    def read(self, data: Json) -> ComponentProperty:
        kind = _kind_in(data, PROPERTY_TYPES)
        if isinstance(data, dict) and kind is not None:
            data = data | {"default": cast(Json, _value(kind, data.get("default")))}
        return super().read(data)

    def write(self, value: ComponentProperty) -> Json:
        written = cast(JsonObject, super().write(value))
        written["default"] = write_value(PROPERTY_TYPES[value.kind], value.default)
        return written


_PROPERTY = _Properties(
    ComponentProperty,
    field("id", TEXT),
    field("name", TEXT),
    field("kind", OneOf(PROPERTY_TYPES)),
    field("default", _As({"anyOf": [value_schema(k) for k in PROPERTY_TYPES.values()]})),
    field("description", TEXT),
    field("shortlist", TEXTS),
    extras=True,
)
PROPERTY: Later[ComponentProperty] = Later("property", lambda: _PROPERTY)


class _Tokens(Record[DesignToken]):
    """A token: the type of its values is that of its kind."""

    def read(self, data: Json) -> DesignToken:
        kind = _kind_in(data, TOKEN_TYPES)
        if isinstance(data, dict) and kind is not None:
            modes = data.get("modes", {})
            if isinstance(modes, dict):
                read = {mode: _value(kind, value) for mode, value in modes.items()}
                data = data | {"modes": cast(Json, Map(read))}
            data = data | {"value": cast(Json, _value(kind, data.get("value")))}
        return super().read(data)

    def write(self, value: DesignToken) -> Json:
        kind = TOKEN_TYPES[value.kind]
        written = cast(JsonObject, super().write(value))
        written["value"] = write_value(kind, value.value)
        if value.modes:
            written["modes"] = {mode: write_value(kind, v) for mode, v in value.modes.items()}
        return written

    def schema(self) -> JsonObject:
        return {"anyOf": [self._of(kind, type_) for kind, type_ in TOKEN_TYPES.items()]}

    def _of(self, kind: str, type_: ValueType) -> JsonObject:
        schema = super().schema()
        values = value_schema(type_)
        parts = cast(JsonObject, schema["properties"]) | {"kind": {"const": kind}, "value": values}
        parts["modes"] = {"type": "object", "additionalProperties": values}
        return schema | {"properties": parts}


_TOKEN = _Tokens(
    DesignToken,
    field("kind", OneOf(TOKEN_TYPES)),
    field("value", _As({})),
    field("description", TEXT),
    field("modes", _As({})),
    field("place", Typed(PLACE), 0.0),
    more=True,
)
TOKEN: Later[DesignToken] = Later("token", lambda: _TOKEN)


class _Data:
    """Bytes as base64 text in lines."""

    def read(self, data: Json) -> bytes:
        lines = TEXTS.read(data)
        try:
            return base64.b64decode("".join(lines), validate=True)
        except ValueError as problem:
            raise Misfit("the data is damaged.") from problem

    def write(self, value: bytes) -> Json:
        data = base64.b64encode(value).decode()
        return [data[n : n + DATA_LINE] for n in range(0, len(data), DATA_LINE)]

    def schema(self) -> JsonObject:
        return TEXTS.schema()


_ASSET = Record(Asset, field("name", TEXT), field("media", TEXT), field("data", _Data()))
ASSET: Later[Asset] = Later("asset", lambda: _ASSET)


_LIBRARY = Record(
    Library, field("id", TEXT), field("name", TEXT), field("address", TEXT), more=True
)
_ORIGIN = Record(
    Origin,
    field("library", TEXT),
    field("version", TEXT),
    field("commit", TEXT),
    field("own", Typed(FlagType())),
    more=True,
)
_TOKEN_ORIGIN = Record(TokenOrigin, field("library", TEXT), field("token", TOKEN), more=True)
_SHARING = Record(
    Sharing,
    field("libraries", Many(_LIBRARY)),
    field("origins", ByKey(_ORIGIN)),
    field("tokens", ByKey(_TOKEN_ORIGIN)),
    more=True,
)


class _Owners(Record[_Owner], Generic[_Owner]):
    """A component or screen: what it does stands among its own keys."""

    def read(self, data: Json) -> _Owner:
        if not isinstance(data, dict):
            return super().read(data)
        own = {key: value for key, value in data.items() if key not in BEHAVIOUR_KEYS}
        _refuse_deep(own.get("root"))
        own["behaviour"] = cast(Json, behaviour_from(data))
        owner = super().read(own)
        ids = [node.id for node in walk(owner.root)]
        if len(set(ids)) != len(ids):
            twice = next(i for n, i in enumerate(ids) if i in ids[:n])
            raise Misfit(f"Two parts share the id “{quoted(twice)}”.")
        return owner

    def write(self, value: _Owner) -> Json:
        written = cast(JsonObject, super().write(value))
        written.pop("behaviour", None)
        return written | behaviour_to(value.behaviour)

    def schema(self) -> JsonObject:
        schema = super().schema()
        parts = dict(cast(JsonObject, schema["properties"]))
        required = [key for key in cast(list[str], schema["required"]) if key != "behaviour"]
        parts.pop("behaviour")
        return schema | {"properties": parts | behaviour_schema(), "required": list(required)}


def _refuse_deep(root: Json) -> None:
    """Refuses a tree that is too deep before anything follows it down."""
    level = [root]
    for _ in range(DEEPEST):
        below: list[Json] = []
        for node in level:
            children = node.get("children", []) if isinstance(node, dict) else []
            below += children if isinstance(children, list) else []
        if not below:
            return
        level = below
    raise Misfit(f"parts are nested more than {DEEPEST} levels deep.")


_COMPONENT = _Owners(
    Component,
    field("id", TEXT),
    field("name", TEXT),
    field("root", NODE),
    field("axes", Many(AXIS)),
    field("rules", Many(RULE)),
    field("properties", Many(PROPERTY)),
    field("not-offered", Many(CONDITIONS)),
    field("motion", Maybe(MOTION)),
    field("description", TEXT),
    field("dos", TEXTS),
    field("donts", TEXTS),
    field("columns", Maybe(TEXTS)),
    field("chips", TEXTS),
    field("behaviour", _As({})),
    extras=True,
)
COMPONENT: Later[Component] = Later("component", lambda: _COMPONENT)
_SCREEN = _Owners(
    Screen,
    field("id", TEXT),
    field("name", TEXT),
    field("root", NODE),
    field("behaviour", _As({})),
    extras=True,
)
SCREEN: Later[Screen] = Later("screen", lambda: _SCREEN)


# --- the whole file -------------------------------------------------------------------------

_PARTS = (
    field("name", TEXT),
    field("motion", MOTION, Motion(160.0)),
    field("components", Many(COMPONENT), ()),
    field("screens", Many(SCREEN), ()),
    field("tokens", ByKey(TOKEN), Map()),
    field("modes", TEXTS, ()),
    field("mode", TEXT, ""),
    field("assets", ByKey(ASSET), Map()),
    field("sharing", _SHARING, ALONE),
    field("keeping", KEEPING, NOTHING),
)
# Keys that are written even where they hold nothing: who reads a file finds its parts.
_ALWAYS = ("name", "motion", "components", "screens", "tokens")


class _Whole(NamedTuple):
    """A document as its file lists it: parts in their order."""

    name: str
    motion: Motion
    components: tuple[Component, ...]
    screens: tuple[Screen, ...]
    tokens: Map[str, DesignToken]
    modes: tuple[str, ...]
    mode: str
    assets: Map[str, Asset]
    sharing: Sharing
    keeping: Keeping


def document_from(record: object, name: str) -> Document:
    """The document in a file's JSON; `name` is what messages call the file.

    What comes back is what `document_to` writes again: nothing is changed later. Raises
    FileRefusal.
    """
    called = quoted(name)
    if not isinstance(record, dict) or record.get("format") != FORMAT:
        raise FileRefusal(f"“{called}” is JSON, but not an Outgrowth file. Nothing was opened.")
    version = record.get("version")
    if isinstance(version, int) and version > VERSION:
        raise FileRefusal(
            f"“{called}” was saved by a newer Outgrowth (file version {shown_value(version)}; "
            f"this one reads up to {VERSION}). It was left untouched; open it with the newer "
            "program."
        )
    try:
        old = not isinstance(version, int) or version < VERSION
        return _document(upgraded(record) if old else record)
    except Misfit as problem:
        place = f"{problem.place}: " if problem.where else ""
        raise FileRefusal(f"“{called}” cannot be opened: {place}{problem.what}") from problem
    except RecursionError as problem:
        raise FileRefusal(f"“{called}” is nested too deeply to be opened.") from problem


def _document(record: JsonObject) -> Document:
    read: dict[str, object] = {}
    for part in _PARTS:
        if part.key not in record and part.default is REQUIRED:
            raise Misfit(f"“{part.key}” is missing or not text.")
        read[part.key] = _part(part, record[part.key]) if part.key in record else part.default
    whole = _Whole(**read)  # type: ignore[arg-type]  # each by its own codec
    known_keys = {"format", "version", *(part.key for part in _PARTS)}
    ids = [*(c.id for c in whole.components), *(s.id for s in whole.screens)]
    if len(set(ids)) != len(ids):
        twice = next(i for n, i in enumerate(ids) if i in ids[:n])
        raise Misfit(f"Two components or screens share the id “{quoted(twice)}”.")
    try:
        document = Document(
            whole.name,
            Map({c.id: c for c in whole.components}),
            Map({s.id: s for s in whole.screens}),
            tuple(c.id for c in whole.components),
            tuple(s.id for s in whole.screens),
            whole.tokens,
            whole.motion,
            whole.assets,
            whole.modes,
            whole.mode,
            Map({key: value for key, value in record.items() if key not in known_keys}),
            whole.sharing,
            whole.keeping,
        )
        refuse_endless(document, document.owners())
    except Refusal as problem:
        raise Misfit(str(problem)) from problem
    # What nothing shows would not be written again.
    remaining = Map(assets_in_use(document))
    whole_assets = len(remaining) == len(document.assets)
    return document if whole_assets else msgspec.structs.replace(document, assets=remaining)


def _part(part: Field, data: Json) -> object:
    try:
        return part.codec.read(data)
    except Misfit as problem:
        place = (
            problem.where if part.key in ("components", "screens") else (part.key, *problem.where)
        )
        raise Misfit(problem.what, place) from problem


def document_to(document: Document) -> JsonObject:
    """The whole file."""
    record = _Whole(
        document.name,
        document.motion,
        tuple(document.in_order()),
        tuple(document.screens_in_order()),
        document.tokens,
        document.modes,
        document.mode,
        Map(assets_in_use(document)),
        document.sharing,
        document.keeping,
    )
    out: JsonObject = dict(document.extras) | {"format": FORMAT, "version": VERSION}
    for part in _PARTS:
        value = getattr(record, part.key)
        if part.key in _ALWAYS or value != part.default:
            out[part.key] = part.codec.write(value)
    return out


def asset_to(asset: Asset) -> JsonObject:
    """Data that came from outside, as text in lines."""
    return cast(JsonObject, _ASSET.write(asset))


class _Described(Protocol):
    def schema(self) -> JsonObject: ...


def schema() -> JsonObject:
    """The published JSON Schema (draft 2020-12) of the native file."""
    named: dict[str, _Described] = {
        "node": _NODE,
        "rule": _RULE,
        "style": _STYLE,
        "aside": _ASIDE,
        "asset": _ASSET,
        "axis": _AXIS,
        "property": _PROPERTY,
        "token": _TOKEN,
        "component": _COMPONENT,
        "screen": _SCREEN,
    }
    defs: JsonObject = {name: codec.schema() for name, codec in named.items()}
    defs |= {"reference": reference_schema(), "motion": motion_schema()}
    parts: JsonObject = {
        "format": {"const": FORMAT},
        "version": {"type": "integer", "minimum": 1, "maximum": VERSION},
    }
    parts |= {part.key: part.codec.schema() for part in _PARTS}
    required: list[Json] = ["format", "version", "name"]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Outgrowth document",
        "$defs": defs,
        "type": "object",
        "properties": parts,
        "required": required,
    }


RECORDS: tuple[Record[Any], ...] = (
    _NODE,
    _RULE,
    _ASIDE,
    _ASSET,
    _AXIS,
    _AXIS_VALUE,
    _PROPERTY,
    _TOKEN,
    _LIBRARY,
    _ORIGIN,
    _TOKEN_ORIGIN,
    _SHARING,
    _COMPONENT,
    _SCREEN,
)
"""The records of this file, each with its one list of fields; those of what a part does stand in
behaviour.py, those of Review and Trials in keeping.py."""
