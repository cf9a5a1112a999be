"""How records become JSON and come back: one list of fields for each record says all of it.

From the same list come reading (with a sentence for whatever is wrong, and where), writing
(what equals its default is left out) and the JSON Schema, so that the three cannot disagree.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import Generic, NamedTuple, Protocol, TypeVar, cast

import msgspec
from immutables import Map

from outgrowth.core.document.records import NO_EXTRAS
from outgrowth.core.document.types import Json, JsonObject, ValueType
from outgrowth.core.refusal import (
    LONGEST_SENTENCE,
    Refusal,
    ValueRefusal,
    quoted,
    shown_value,
)

Value = TypeVar("Value")
Item = TypeVar("Item")
Made = TypeVar("Made", bound=msgspec.Struct)


class FileRefusal(Refusal):
    """A file cannot be used; the message is one line for the user, short enough to be read."""

    longest = LONGEST_SENTENCE


class Misfit(ValueError):
    """Something in the file does not fit; `place` grows on the way out."""

    def __init__(self, description: str, place: tuple[str, ...] = ()) -> None:
        super().__init__(description)
        self.what = description
        self.where = place

    @property
    def place(self) -> str:
        """Where it is, from the outside in; of a long way the two ends."""
        names = [quoted(name) for name in self.where]
        short = names if len(names) <= 4 else [*names[:2], "…", *names[-2:]]
        return " › ".join(short)


class Codec(Protocol[Value]):
    """One kind of value: from JSON (Misfit where it is none), to JSON, and its schema."""

    def read(self, data: Json) -> Value: ...
    def write(self, value: Value) -> Json: ...
    def schema(self) -> JsonObject: ...


class Text:
    """Text; its length and letters are the records' own business."""

    def read(self, data: Json) -> str:
        if not isinstance(data, str):
            raise Misfit(f"{shown_value(data)} is not text.")
        return data

    def write(self, value: str) -> Json:
        return value

    def schema(self) -> JsonObject:
        return {"type": "string"}


class OneOf:
    """One of a few words."""

    def __init__(self, options: Iterable[str]) -> None:
        self._options = tuple(options)

    def read(self, data: Json) -> str:
        if not isinstance(data, str) or data not in self._options:
            raise Misfit(f"{shown_value(data)} is none of: {', '.join(self._options)}.")
        return data

    def write(self, value: str) -> Json:
        return value

    def schema(self) -> JsonObject:
        return {"enum": list(self._options)}


class Typed:
    """A literal of one of the document's types, where no reference could stand."""

    def __init__(self, kind: ValueType) -> None:
        self._kind = kind

    def read(self, data: Json) -> object:
        try:
            return self._kind.read(data)
        except ValueRefusal as problem:
            raise Misfit(str(problem)) from problem

    def write(self, value: object) -> Json:
        return self._kind.write(self._kind.check(cast(float, value)))

    def schema(self) -> JsonObject:
        return self._kind.schema()


class Many(Generic[Item]):
    """A list, as a tuple."""

    def __init__(self, item: Codec[Item], length: int | None = None) -> None:
        self._item = item
        self._length = length

    def read(self, data: Json) -> tuple[Item, ...]:
        if not isinstance(data, list):
            raise Misfit(f"{shown_value(data)} is not a list.")
        if self._length is not None and len(data) != self._length:
            raise Misfit(f"it holds {len(data)} values, not {self._length}.")
        return tuple([self._read_item(n, item) for n, item in enumerate(data)])

    def _read_item(self, number: int, item: Json) -> Item:
        try:
            return self._item.read(item)
        except Misfit as problem:
            name = item.get("name") if isinstance(item, dict) else None
            suffix = f"“{quoted(name)}”" if isinstance(name, str) else f"{number + 1}"
            raise Misfit(problem.what, (suffix, *problem.where)) from problem

    def write(self, value: tuple[Item, ...]) -> Json:
        return [self._item.write(item) for item in value]

    def schema(self) -> JsonObject:
        schema: JsonObject = {"type": "array", "items": self._item.schema()}
        if self._length is not None:
            schema |= {"minItems": self._length, "maxItems": self._length}
        return schema


class ByKey(Generic[Item]):
    """An object whose keys are data too, as a persistent map."""

    def __init__(self, item: Codec[Item]) -> None:
        self._item = item

    def read(self, data: Json) -> Map[str, Item]:
        if not isinstance(data, dict):
            raise Misfit(f"{shown_value(data)} is not an object.")
        return Map({key: self._read_item(key, item) for key, item in data.items()})

    def _read_item(self, key: str, item: Json) -> Item:
        try:
            return self._item.read(item)
        except Misfit as problem:
            raise Misfit(problem.what, (key, *problem.where)) from problem

    def write(self, value: Mapping[str, Item]) -> Json:
        return {key: self._item.write(item) for key, item in value.items()}

    def schema(self) -> JsonObject:
        return {"type": "object", "additionalProperties": self._item.schema()}


class Maybe(Generic[Item]):
    """A value or nothing; nothing is written by leaving the key out."""

    def __init__(self, item: Codec[Item]) -> None:
        self._item = item

    def read(self, data: Json) -> Item | None:
        return None if data is None else self._item.read(data)

    def write(self, value: Item | None) -> Json:
        return None if value is None else self._item.write(value)

    def schema(self) -> JsonObject:
        return self._item.schema()


class Later(Generic[Item]):
    """A codec that is made further down, or that refers to itself."""

    def __init__(self, name: str, codec: Callable[[], Codec[Item]]) -> None:
        self._name = name
        self._codec = codec

    def read(self, data: Json) -> Item:
        return self._codec().read(data)

    def write(self, value: Item) -> Json:
        return self._codec().write(value)

    def schema(self) -> JsonObject:
        return {"$ref": f"#/$defs/{self._name}"}


class _Marker:
    """Stands where a default would."""


REQUIRED = _Marker()
"""The field has to be there."""
AS_DECLARED = _Marker()
"""The default is what the record itself declares; without one the field has to be there."""


class Field(NamedTuple):
    """One field of a record: its key in the file, its name in the record, how its value is
    written, and the value that is left out: as the record declares it, unless files differ."""

    key: str
    name: str
    codec: Codec[object]
    default: object = REQUIRED


def field(key: str, codec: object, default: object = AS_DECLARED) -> Field:
    """A field; its name in the record is its key."""
    return Field(key, key.replace("-", "_"), cast(Codec[object], codec), default)


def _with_default(record: type[msgspec.Struct], field: Field) -> Field:
    if field.default is not AS_DECLARED:
        return field
    for declared in msgspec.structs.fields(record):
        if declared.name == field.name:
            default = REQUIRED if declared.required else declared.default
            return field._replace(default=default)
    raise AssertionError(f"{record.__name__} has no {field.name}")


class Record(Generic[Made]):
    """A record by its fields. Keys that this version does not know are kept and written back:
    in a field `extras` as they are, or in a field `more` as JSON text, for records that are
    compared and looked up by value."""

    def __init__(
        self, make: type[Made], *fields: Field, extras: bool = False, more: bool = False
    ) -> None:
        self.makes = make
        fields = tuple(_with_default(make, field) for field in fields)
        self.fields = fields
        self._by_key = {field.key: field for field in fields}
        self._required = [field.key for field in fields if field.default is REQUIRED]
        self._defaults = {f.name: f.default for f in fields if f.default is not REQUIRED}
        self._extras = extras
        self._more = more

    def read(self, data: Json) -> Made:
        if not isinstance(data, dict):
            raise Misfit(f"{shown_value(data)} is not an object.")
        for key in self._required:
            if key not in data:
                raise Misfit(f"“{key}” is missing.")
        values = self._defaults.copy()
        unknown: JsonObject = {}
        for key, item in data.items():
            field = self._by_key.get(key)
            if field is None:
                unknown[key] = item
                continue
            try:
                values[field.name] = field.codec.read(item)
            except Misfit as problem:
                raise Misfit(problem.what, (key, *problem.where)) from problem
        if self._extras:
            values["extras"] = Map(unknown) if unknown else NO_EXTRAS
        if self._more and unknown:
            values["more"] = msgspec.json.encode(unknown, order="sorted").decode()
        try:
            return self.makes(**values)
        except Misfit:
            raise
        except Refusal as problem:
            raise Misfit(str(problem)) from problem

    def write(self, value: Made) -> Json:
        out: JsonObject = {}
        if self._extras:
            out |= cast(Mapping[str, Json], getattr(value, "extras"))  # noqa: B009  # by its list
        if self._more and getattr(value, "more"):  # noqa: B009  # likewise
            out |= msgspec.json.decode(getattr(value, "more"))  # noqa: B009
        for field in self.fields:
            field_value = getattr(value, field.name)
            if field.default is REQUIRED or field_value != field.default:
                out[field.key] = field.codec.write(field_value)
        return out

    def schema(self) -> JsonObject:
        """Keys that are not known are allowed, since they are kept."""
        required: list[Json] = [f.key for f in self.fields if f.default is REQUIRED]
        parts: JsonObject = {f.key: f.codec.schema() for f in self.fields}
        return {"type": "object", "properties": parts, "required": required}
