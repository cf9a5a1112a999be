"""The types of property values: what is allowed, how it is written as JSON, its schema.

One object a type, shared by all rows of the property table that use it. Reading raises
ValueProblem with a sentence; nothing here knows which property it serves.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Literal, Protocol, TypeVar

import msgspec

from outgrowth.core.color import Color, ColorError, Gradient, parse, parse_fill
from outgrowth.core.document.values import (
    FIT,
    FromProperty,
    Literals,
    Picture,
    Run,
    Shadow,
    Shift,
    Size,
    Token,
    Value,
)

Json = None | bool | int | float | str | list["Json"] | dict[str, "Json"]
JsonObject = dict[str, Json]

_Paint = TypeVar("_Paint", Color, Color | Gradient)
_Record = TypeVar("_Record", bound=msgspec.Struct)

LONGEST_TEXT = 100_000
LARGEST_NUMBER = 1_000_000.0
LARGEST_PICTURE = 16_384.0
"""Px a side that a picture may have."""
MOST_PIXELS = 40_000_000
"""And in all."""


class ValueProblem(ValueError):
    """A value does not fit its type; the message is a sentence for the user."""


class ValueType(Protocol):
    """One type of literal: its check, its JSON form, and the JSON Schema of that form."""

    def check(self, value: Value) -> Literals: ...
    def read(self, data: Json) -> Literals: ...
    def write(self, value: Literals) -> Json: ...
    def schema(self) -> JsonObject: ...


class NumberType(msgspec.Struct, frozen=True):
    """A finite number within bounds; `unit` is what the ledger writes behind it."""

    minimum: float = -LARGEST_NUMBER
    maximum: float = LARGEST_NUMBER
    unit: str = "px"

    def check(self, value: Value) -> float:
        if isinstance(value, bool) or not isinstance(value, int | float):
            raise ValueProblem(f"{_shown(value)} is not a number.")
        if not math.isfinite(value):
            raise ValueProblem("The number must be finite.")
        if not self.minimum <= value <= self.maximum:
            raise ValueProblem(
                f"{value:g} is out of range: it must lie from {self.minimum:g} to {self.maximum:g}."
            )
        return float(value)

    def read(self, data: Json) -> float:
        if isinstance(data, bool) or not isinstance(data, int | float):
            raise ValueProblem(f"{_shown(data)} is not a number.")
        return self.check(data)

    def write(self, value: Literals) -> Json:
        assert isinstance(value, float)
        return int(value) if value.is_integer() else value

    def schema(self) -> JsonObject:
        return {"type": "number", "minimum": self.minimum, "maximum": self.maximum}


class FlagType(msgspec.Struct, frozen=True):
    """Yes or no."""

    def check(self, value: Value) -> bool:
        if not isinstance(value, bool):
            raise ValueProblem(f"{_shown(value)} is neither true nor false.")
        return value

    def read(self, data: Json) -> bool:
        if not isinstance(data, bool):
            raise ValueProblem(f"{_shown(data)} is neither true nor false.")
        return data

    def write(self, value: Literals) -> Json:
        assert isinstance(value, bool)
        return value

    def schema(self) -> JsonObject:
        return {"type": "boolean"}


class ChoiceType(msgspec.Struct, frozen=True):
    """One of a few words."""

    options: tuple[str, ...]

    def check(self, value: Value) -> str:
        if not isinstance(value, str) or value not in self.options:
            raise ValueProblem(f"{_shown(value)} is none of: {', '.join(self.options)}.")
        return value

    def read(self, data: Json) -> str:
        if not isinstance(data, str):
            raise ValueProblem(f"{_shown(data)} is none of: {', '.join(self.options)}.")
        return self.check(data)

    def write(self, value: Literals) -> Json:
        assert isinstance(value, str)
        return value

    def schema(self) -> JsonObject:
        return {"enum": list(self.options)}


class NameType(msgspec.Struct, frozen=True):
    """Free text of one line: a font family, a path's data, the id of something."""

    def check(self, value: Value) -> str:
        if not isinstance(value, str):
            raise ValueProblem(f"{_shown(value)} is not text.")
        if len(value) > LONGEST_TEXT:
            raise ValueProblem(f"The text is longer than {LONGEST_TEXT:,} characters.")
        return value

    def read(self, data: Json) -> str:
        if not isinstance(data, str):
            raise ValueProblem(f"{_shown(data)} is not text.")
        return self.check(data)

    def write(self, value: Literals) -> Json:
        assert isinstance(value, str)
        return value

    def schema(self) -> JsonObject:
        return {"type": "string", "maxLength": LONGEST_TEXT}


def _read_as(read: Callable[[str], _Paint], data: Json) -> _Paint:
    """What `read` makes of CSS notation, its complaint as a ValueProblem."""
    if not isinstance(data, str):
        raise ValueProblem(f"{_shown(data)} is not a colour.")
    try:
        return read(data)
    except ColorError as problem:
        raise ValueProblem(str(problem)) from problem


class ColorType(msgspec.Struct, frozen=True):
    """A colour, as hex."""

    def check(self, value: Value) -> Color:
        if not isinstance(value, Color):
            raise ValueProblem(f"{_shown(value)} is not a colour.")
        return value

    def read(self, data: Json) -> Color:
        return _read_as(parse, data)

    def write(self, value: Literals) -> Json:
        assert isinstance(value, Color)
        return value.hex

    def schema(self) -> JsonObject:
        return {"type": "string", "pattern": "^#([0-9A-Fa-f]{6}|[0-9A-Fa-f]{8})$"}


class FillType(msgspec.Struct, frozen=True):
    """A colour, as hex, or a gradient, as CSS writes it."""

    def check(self, value: Value) -> Color | Gradient:
        return value if isinstance(value, Gradient) else ColorType().check(value)

    def read(self, data: Json) -> Color | Gradient:
        return _read_as(parse_fill, data)

    def write(self, value: Literals) -> Json:
        return value.css if isinstance(value, Gradient) else ColorType().write(value)

    def schema(self) -> JsonObject:
        gradient: JsonObject = {"type": "string", "pattern": "^(linear|radial)-gradient\\("}
        return {"anyOf": [ColorType().schema(), gradient]}


class SizeType(msgspec.Struct, frozen=True):
    """A width or height: a number is fixed, "fit", or {"grow": weight}."""

    def check(self, value: Value) -> Size:
        if not isinstance(value, Size):
            raise ValueProblem(f"{_shown(value)} is not a size.")
        amount = NumberType(0.0).check(value.amount)
        return FIT if value.mode == "fit" else Size(value.mode, amount)

    def read(self, data: Json) -> Size:
        if data == "fit":
            return FIT
        if isinstance(data, dict) and set(data) == {"grow"}:
            return Size("grow", NumberType(0.0).read(data["grow"]))
        return Size("fixed", NumberType(0.0).read(data))

    def write(self, value: Literals) -> Json:
        assert isinstance(value, Size)
        if value.mode == "fit":
            return "fit"
        amount = NumberType().write(value.amount)
        return {"grow": amount} if value.mode == "grow" else amount

    def schema(self) -> JsonObject:
        number = NumberType(0.0).schema()
        grow: JsonObject = {
            "type": "object",
            "properties": {"grow": number},
            "required": ["grow"],
            "additionalProperties": False,
        }
        return {"anyOf": [number, {"const": "fit"}, grow]}


class ContentType(msgspec.Struct, frozen=True):
    """Words: a string, or a list of runs where their appearance differs."""

    def check(self, value: Value) -> tuple[Run, ...]:
        if not isinstance(value, tuple) or not all(isinstance(r, Run) for r in value):
            raise ValueProblem(f"{_shown(value)} is not text.")
        runs = tuple(r for r in value if isinstance(r, Run) and r.text)
        if sum(len(r.text) for r in runs) > LONGEST_TEXT:
            raise ValueProblem(f"The text is longer than {LONGEST_TEXT:,} characters.")
        return runs

    def read(self, data: Json) -> tuple[Run, ...]:
        if isinstance(data, str):
            return self.check((Run(data),) if data else ())
        return self.check(_records(data, Run))

    def write(self, value: Literals) -> Json:
        runs = self.check(value)
        text = "".join(run.text for run in runs)
        if all(run == Run(run.text) for run in runs) and len(runs) < 2 and not is_reference(text):
            return text
        return [_sparse(run) for run in runs]

    def schema(self) -> JsonObject:
        run: JsonObject = {
            "type": "object",
            "properties": {
                "text": {"type": "string"},
                "bold": {"type": "boolean"},
                "italic": {"type": "boolean"},
            },
            "required": ["text"],
        }
        return {"anyOf": [{"type": "string"}, {"type": "array", "items": run}]}


class ShadowsType(msgspec.Struct, frozen=True):
    """Shadows, the first one on top as in CSS."""

    def check(self, value: Value) -> tuple[Shadow, ...]:
        if not isinstance(value, tuple) or not all(isinstance(s, Shadow) for s in value):
            raise ValueProblem(f"{_shown(value)} is not a list of shadows.")
        shadows = tuple(s for s in value if isinstance(s, Shadow))
        for shadow in shadows:
            for length in (shadow.x, shadow.y, shadow.spread):
                NumberType(-10_000.0, 10_000.0).check(length)
            NumberType(0.0, 10_000.0).check(shadow.blur)
        return shadows

    def read(self, data: Json) -> tuple[Shadow, ...]:
        if not isinstance(data, list):
            raise ValueProblem(f"{_shown(data)} is not a list of shadows.")
        found = []
        for item in data:
            if not isinstance(item, dict):
                raise ValueProblem(f"{_shown(item)} is not a shadow.")
            color = ColorType().read(item.get("color"))
            rest = {k: v for k, v in item.items() if k != "color"}
            found.append(_record(rest, _ShadowLengths).on(color))
        return self.check(tuple(found))

    def write(self, value: Literals) -> Json:
        written: list[Json] = []
        for shadow in self.check(value):
            written.append(_sparse(shadow) | {"color": shadow.color.hex})
        return written

    def schema(self) -> JsonObject:
        lengths: JsonObject = {n: {"type": "number"} for n in ("x", "y", "blur", "spread")}
        shadow: JsonObject = {
            "type": "object",
            "properties": lengths | {"color": ColorType().schema(), "inner": {"type": "boolean"}},
            "required": ["color"],
        }
        return {"type": "array", "items": shadow}


class PictureType(msgspec.Struct, frozen=True):
    """A picture that the file holds, by its digest, with its own size."""

    def check(self, value: Value) -> Picture:
        if not isinstance(value, Picture):
            raise ValueProblem(f"{_shown(value)} is not a picture.")
        for side in (value.width, value.height):
            NumberType(0.0, LARGEST_PICTURE).check(side)
        return value

    def read(self, data: Json) -> Picture:
        return self.check(_record(data, Picture))

    def write(self, value: Literals) -> Json:
        held = self.check(value)
        side = NumberType()
        return {
            "asset": held.asset,
            "width": side.write(held.width),
            "height": side.write(held.height),
        }

    def schema(self) -> JsonObject:
        side = NumberType(0.0, LARGEST_PICTURE).schema()
        parts: JsonObject = {"asset": {"type": "string"}, "width": side, "height": side}
        return {"type": "object", "properties": parts, "required": list(parts)}


class ChosenType(msgspec.Struct, frozen=True):
    """What an instance chose: an axis value's id, or a value for a component property.

    Its exact type is known only where the component is. So it is kept in the form that a
    file would give back (plain words and colours as text), and `as_type` makes it fit.
    """

    def check(self, value: Value) -> Literals:
        data = self.write(value) if not isinstance(value, Token | FromProperty | Shift) else ""
        return self.read(data)

    def read(self, data: Json) -> Literals:
        if isinstance(data, bool):
            return data
        if isinstance(data, int | float):
            return NumberType().read(data)
        return NameType().read(data) if isinstance(data, str) else ContentType().read(data)

    def write(self, value: Literals) -> Json:
        if isinstance(value, float):
            return NumberType().write(value)
        if isinstance(value, bool | str):
            return value
        return value.hex if isinstance(value, Color) else ContentType().write(value)

    def schema(self) -> JsonObject:
        forms: list[Json] = [FlagType().schema(), NumberType().schema(), ContentType().schema()]
        return {"anyOf": forms}


def as_type(kind: ValueType, value: Literals, default: Literals) -> Literals:
    """A chosen value as one of this type; the default where it does not fit."""
    try:
        return kind.read(value) if isinstance(value, str) else kind.check(value)
    except ValueProblem:
        return default


class _ShadowLengths(msgspec.Struct, frozen=True):
    x: float = 0.0
    y: float = 0.0
    blur: float = 0.0
    spread: float = 0.0
    inner: bool = False

    def on(self, color: Color) -> Shadow:
        return Shadow(color, self.x, self.y, self.blur, self.spread, self.inner)


_SHIFTS: tuple[Literal["add", "multiply", "darken", "fade"], ...] = (
    "add",
    "multiply",
    "darken",
    "fade",
)


def is_reference(text: str) -> bool:
    """Whether text in a file would be read as a token reference."""
    return text.startswith("{") and text.endswith("}")


def read_value(kind: ValueType, data: Json) -> Value:
    """A value from JSON: `{a.token}`, {"property": id}, {"add": n} …, or a literal."""
    if isinstance(data, str) and is_reference(data):
        return Token(data[1:-1])
    if isinstance(data, dict) and len(data) == 1:
        key, held = next(iter(data.items()))
        if key == "property" and isinstance(held, str):
            return FromProperty(held)
        for how in _SHIFTS:
            if key == how:
                return Shift(how, NumberType().read(held))
    return kind.read(data)


def write_value(kind: ValueType, value: Value) -> Json:
    """The JSON form of a value; `read_value` gives it back."""
    if isinstance(value, Token):
        return "{" + value.path + "}"
    if isinstance(value, FromProperty):
        return {"property": value.property}
    if isinstance(value, Shift):
        return {value.how: NumberType().write(float(value.amount))}
    return kind.write(value)


def check_value(kind: ValueType, value: Value) -> Value:
    """The value as it is stored, or ValueProblem."""
    if isinstance(value, Token | FromProperty | Shift):
        return value
    return kind.check(value)


def value_schema(kind: ValueType) -> JsonObject:
    """The JSON Schema of a value: the literal's, or one of the references."""
    references: list[Json] = [{"$ref": "#/$defs/reference"}, kind.schema()]
    return {"anyOf": references}


def reference_schema() -> JsonObject:
    """The JSON Schema of a token reference, a property reference or a shift."""
    forms: list[Json] = [{"type": "string", "pattern": r"^\{[^{}]+\}$"}]
    forms.append(_one_key("property", {"type": "string"}))
    forms.extend(_one_key(how, {"type": "number"}) for how in _SHIFTS)
    return {"anyOf": forms}


def _one_key(key: str, schema: JsonObject) -> JsonObject:
    return {
        "type": "object",
        "properties": {key: schema},
        "required": [key],
        "additionalProperties": False,
    }


def _shown(value: object) -> str:
    text = str(value)
    return f"“{text[:40]}…”" if len(text) > 40 else f"“{text}”"


def _record(data: Json, record: type[_Record]) -> _Record:
    try:
        return msgspec.convert(data, record, strict=True)
    except msgspec.ValidationError as problem:
        raise ValueProblem(f"{_shown(data)} does not fit: {problem}.") from problem


def _records(data: Json, record: type[_Record]) -> tuple[_Record, ...]:
    if not isinstance(data, list):
        raise ValueProblem(f"{_shown(data)} is not a list.")
    return tuple(_record(item, record) for item in data)


def _sparse(record: Run | Shadow) -> dict[str, Json]:
    """The fields that differ from their default (and those that have none)."""
    defaults = dict(zip(record.__struct_fields__[1:], record.__struct_defaults__, strict=True))
    written: dict[str, Json] = {}
    for name in record.__struct_fields__:
        value = getattr(record, name)
        if name not in defaults or value != defaults[name]:
            written[name] = NumberType().write(value) if type(value) is float else value
    return written
