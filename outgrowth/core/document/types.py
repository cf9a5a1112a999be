"""The types of property values: what is allowed, how it is written as JSON, its schema.

One object a type, shared by all rows of the property table that use it. Reading raises
ValueRefusal with a sentence; nothing here knows which property it serves.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import lru_cache
from typing import Literal, Protocol, TypeVar

import msgspec

from outgrowth.core.color import Color, ColorRefusal, Gradient, parse, parse_fill
from outgrowth.core.document.formulas import LONGEST, canonical
from outgrowth.core.document.values import (
    FIT,
    LARGEST_NUMBER,
    MODES,
    FromProperty,
    Limit,
    Literals,
    Once,
    Picture,
    Run,
    Shadow,
    Shift,
    Size,
    Token,
    Value,
)
from outgrowth.core.refusal import ValueRefusal, clean, shown_value

Json = None | bool | int | float | str | list["Json"] | dict[str, "Json"]
JsonObject = dict[str, Json]

_Paint = TypeVar("_Paint", Color, Color | Gradient)
_Record = TypeVar("_Record", bound=msgspec.Struct)

LONGEST_TEXT = 100_000
LONGEST_NAME = 1_000
"""Letters of an id, or of what something is called."""
MOST_RUNS = 10_000
MOST_SHADOWS = 32
MOST_ONCES = 64
LARGEST_PICTURE = 16_384.0
"""Px a side that a picture may have."""
MOST_PIXELS = 40_000_000
"""And in all."""


class ValueType(Protocol):
    """One type of literal: its check, its JSON form, and the JSON Schema of that form.

    check  the value as documents hold it: what `read` gives for what `write` wrote of it, to
           the bit; ValueRefusal where it does not fit
    fit    the nearest value that fits, for what was worked out rather than said
    """

    def check(self, value: Value) -> Literals: ...
    def fit(self, value: Value) -> Literals: ...
    def read(self, data: Json) -> Literals: ...
    def write(self, value: Literals) -> Json: ...
    def schema(self) -> JsonObject: ...


class NumberType(msgspec.Struct, frozen=True):
    """A finite number within bounds; `unit` is what the ledger writes behind it."""

    minimum: float = -LARGEST_NUMBER
    maximum: float = LARGEST_NUMBER
    unit: str = "px"

    @property
    def is_share(self) -> bool:
        """Whether it is a share of a whole, which people say in per cent."""
        return self.unit == "" and self.maximum == 1.0

    def check(self, value: Value) -> float:
        if isinstance(value, bool) or not isinstance(value, int | float):
            raise ValueRefusal(f"{shown_value(value)} is not a number.")
        if value != value or value in (math.inf, -math.inf):
            raise ValueRefusal("The number must be finite.")
        if not self.minimum <= value <= self.maximum:
            raise ValueRefusal(
                f"{_short(value)} is out of range: it must lie from {self.minimum:g} "
                f"to {self.maximum:g}."
            )
        return float(value) + 0.0  # −0 and 0 are one number

    def fit(self, value: Value) -> float:
        if isinstance(value, bool) or not isinstance(value, int | float) or value != value:
            raise ValueRefusal(f"{shown_value(value)} is not a number.")
        return float(min(max(value, self.minimum), self.maximum)) + 0.0

    def read(self, data: Json) -> float:
        if isinstance(data, bool) or not isinstance(data, int | float):
            raise ValueRefusal(f"{shown_value(data)} is not a number.")
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
            raise ValueRefusal(f"{shown_value(value)} is neither true nor false.")
        return value

    def fit(self, value: Value) -> bool:
        return self.check(value)

    def read(self, data: Json) -> bool:
        if not isinstance(data, bool):
            raise ValueRefusal(f"{shown_value(data)} is neither true nor false.")
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
            raise ValueRefusal(f"{shown_value(value)} is none of: {', '.join(self.options)}.")
        return value

    def fit(self, value: Value) -> str:
        return self.check(value)

    def read(self, data: Json) -> str:
        if not isinstance(data, str):
            raise ValueRefusal(f"{shown_value(data)} is none of: {', '.join(self.options)}.")
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
            raise ValueRefusal(f"{shown_value(value)} is not text.")
        if len(value) > LONGEST_TEXT:
            raise ValueRefusal(f"The text is longer than {LONGEST_TEXT:,} characters.")
        return clean(value)

    def fit(self, value: Value) -> str:
        return self.check(value[:LONGEST_TEXT] if isinstance(value, str) else value)

    def read(self, data: Json) -> str:
        if not isinstance(data, str):
            raise ValueRefusal(f"{shown_value(data)} is not text.")
        return self.check(data)

    def write(self, value: Literals) -> Json:
        assert isinstance(value, str)
        return value

    def schema(self) -> JsonObject:
        return {"type": "string", "maxLength": LONGEST_TEXT}


class ModeType(NameType, frozen=True):
    """The name of a mode in which tokens are shown, `USUAL` for their usual values, "" for the
    mode of what is around."""


@lru_cache(maxsize=4096)
def _in_bits(color: Color) -> Color:
    """The colour in the 8 bits a component that files hold. Raises ValueRefusal."""
    parts = (color.red, color.green, color.blue, color.alpha)
    if not all(isinstance(part, int | float) and abs(part) < math.inf for part in parts):
        raise ValueRefusal("A colour's components must be finite numbers.")
    rounded = color.rounded
    return color if rounded == color else rounded


@lru_cache(maxsize=1024)
def _as_written(gradient: Gradient) -> Gradient:
    """The gradient that its own notation says: stops in a ten-thousandth of a per cent."""
    numbers = [gradient.angle, *(stop.at for stop in gradient.stops)]
    numbers += [*gradient.center, *(gradient.radii or ())]
    if not all(abs(number) <= LARGEST_NUMBER for number in numbers):
        raise ValueRefusal(f"A gradient's numbers must lie within {LARGEST_NUMBER:g}.")
    for stop in gradient.stops:
        _in_bits(stop.color)
    try:
        read = parse_fill(gradient.css)
    except ColorRefusal as problem:
        raise ValueRefusal(str(problem)) from problem
    assert isinstance(read, Gradient)
    return gradient if read == gradient else read


NAME = NameType()


def _read_as(read: Callable[[str], _Paint], data: Json) -> _Paint:
    """What `read` makes of CSS notation, its complaint as a ValueRefusal."""
    if not isinstance(data, str):
        raise ValueRefusal(f"{shown_value(data)} is not a colour.")
    try:
        return read(data)
    except ColorRefusal as problem:
        raise ValueRefusal(str(problem)) from problem


class ColorType(msgspec.Struct, frozen=True):
    """A colour, as hex."""

    def check(self, value: Value) -> Color:
        if not isinstance(value, Color):
            raise ValueRefusal(f"{shown_value(value)} is not a colour.")
        return _in_bits(value)

    def fit(self, value: Value) -> Color:
        return self.check(value)

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
        return _as_written(value) if isinstance(value, Gradient) else ColorType().check(value)

    def fit(self, value: Value) -> Color | Gradient:
        return self.check(value)

    def read(self, data: Json) -> Color | Gradient:
        return _read_as(parse_fill, data)

    def write(self, value: Literals) -> Json:
        return value.css if isinstance(value, Gradient) else ColorType().write(value)

    def schema(self) -> JsonObject:
        gradient: JsonObject = {"type": "string", "pattern": "^(linear|radial)-gradient\\("}
        return {"anyOf": [ColorType().schema(), gradient]}


class SizeType(msgspec.Struct, frozen=True):
    """A width or height: a number is fixed, "fit", or {"grow": weight}, {"percent": n},
    {"chars": n}, {"formula": text}; `modes` are those that it may have."""

    modes: tuple[str, ...] = MODES

    def check(self, value: Value) -> Size:
        if not isinstance(value, Size):
            raise ValueRefusal(f"{shown_value(value)} is not a size.")
        amount = NumberType(0.0).check(value.amount)
        if value.mode not in self.modes:
            raise ValueRefusal(f"{shown_value(value.mode)} is not a way to get a size here.")
        if value.mode == "fit":
            return FIT
        if value.mode == "formula":
            return Size("formula", 0.0, canonical(value.formula))
        as_kept = type(value) is Size and amount is value.amount and not value.formula
        return value if as_kept else Size(value.mode, amount)

    def fit(self, value: Value) -> Size:
        if not isinstance(value, Size):
            raise ValueRefusal(f"{shown_value(value)} is not a size.")
        return self.check(Size(value.mode, NumberType(0.0).fit(value.amount), value.formula))

    def read(self, data: Json) -> Size:
        if data == "fit":
            return self.check(FIT)
        if isinstance(data, dict) and len(data) == 1:
            mode, amount = next(iter(data.items()))
            if mode in _COUNTED:
                return self.check(Size(mode, NumberType(0.0).read(amount)))
            if mode == "formula" and isinstance(amount, str):
                return self.check(Size("formula", 0.0, amount))
        return Size("fixed", NumberType(0.0).read(data))

    def write(self, value: Literals) -> Json:
        assert isinstance(value, Size)
        if value.mode == "fit":
            return "fit"
        if value.mode == "formula":
            return {"formula": value.formula}
        amount = NumberType().write(value.amount)
        return amount if value.mode == "fixed" else {value.mode: amount}

    def schema(self) -> JsonObject:
        number = NumberType(0.0).schema()
        counted: list[Json] = [_one_key(mode, number) for mode in _COUNTED if mode in self.modes]
        fits: list[Json] = [{"const": "fit"}] if "fit" in self.modes else []
        text: JsonObject = {"type": "string", "minLength": 1, "maxLength": LONGEST}
        formulas: list[Json] = [_one_key("formula", text)] if "formula" in self.modes else []
        return {"anyOf": [number, *fits, *counted, *formulas]}


# The ways to get a size that are written with their name.
_COUNTED: tuple[Literal["grow", "percent", "chars"], ...] = ("grow", "percent", "chars")


class LimitType(msgspec.Struct, frozen=True):
    """A least or most size: px, {"percent": n}, {"chars": n} or {"formula": text}; 0 is none."""

    unit: str = "px"

    def check(self, value: Value) -> Limit:
        return _RELATIVE.check(value) if isinstance(value, Size) else NumberType(0.0).check(value)

    def fit(self, value: Value) -> Limit:
        return _RELATIVE.fit(value) if isinstance(value, Size) else NumberType(0.0).fit(value)

    def read(self, data: Json) -> Limit:
        if isinstance(data, dict):
            return self.check(_RELATIVE.read(data))
        return NumberType(0.0).read(data)

    def write(self, value: Literals) -> Json:
        return _RELATIVE.write(value) if isinstance(value, Size) else NumberType().write(value)

    def schema(self) -> JsonObject:
        return _RELATIVE.schema()


_RELATIVE = SizeType(("percent", "chars", "formula"))


class ContentType(msgspec.Struct, frozen=True):
    """Words: a string, or a list of runs where their appearance differs."""

    def check(self, value: Value) -> tuple[Run, ...]:
        if not isinstance(value, tuple) or not all(isinstance(r, Run) for r in value):
            raise ValueRefusal(f"{shown_value(value)} is not text.")
        runs = tuple(_checked_run(r) for r in value if isinstance(r, Run) and r.text)
        if sum(len(r.text) for r in runs) > LONGEST_TEXT:
            raise ValueRefusal(f"The text is longer than {LONGEST_TEXT:,} characters.")
        if len(runs) > MOST_RUNS:
            raise ValueRefusal(f"A text has at most {MOST_RUNS:,} runs; this has {len(runs):,}.")
        return runs

    def fit(self, value: Value) -> tuple[Run, ...]:
        return self.check(value)

    def read(self, data: Json) -> tuple[Run, ...]:
        if isinstance(data, str):
            return self.check((Run(data),) if data else ())
        return self.check(_records(data, Run))

    def write(self, value: Literals) -> Json:
        runs = self.check(value)
        text = "".join(run.text for run in runs)
        if len(runs) < 2 and all(run == Run(run.text) for run in runs) and not is_reference(text):
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


def _checked_run(run: Run) -> Run:
    flags = isinstance(run.bold, bool) and isinstance(run.italic, bool)
    if not isinstance(run.text, str) or not flags:
        raise ValueRefusal(f"{shown_value(run)} is not a run of text.")
    text = clean(run.text)
    return run if text is run.text else msgspec.structs.replace(run, text=text)


class ShadowsType(msgspec.Struct, frozen=True):
    """Shadows, the first one on top as in CSS."""

    def check(self, value: Value) -> tuple[Shadow, ...]:
        if not isinstance(value, tuple) or not all(isinstance(s, Shadow) for s in value):
            raise ValueRefusal(f"{shown_value(value)} is not a list of shadows.")
        if len(value) > MOST_SHADOWS:
            raise ValueRefusal(f"At most {MOST_SHADOWS} shadows can lie on one part.")
        return tuple(_checked_shadow(s) for s in value if isinstance(s, Shadow))

    def fit(self, value: Value) -> tuple[Shadow, ...]:
        if not isinstance(value, tuple) or not all(isinstance(s, Shadow) for s in value):
            raise ValueRefusal(f"{shown_value(value)} is not a list of shadows.")
        fitted = []
        for shadow in value[:MOST_SHADOWS]:
            assert isinstance(shadow, Shadow)
            x, y, spread = (_OFFSET.fit(n) for n in (shadow.x, shadow.y, shadow.spread))
            lengths = {"x": x, "y": y, "blur": _BLUR.fit(shadow.blur), "spread": spread}
            fitted.append(msgspec.structs.replace(shadow, **lengths))
        return self.check(tuple(fitted))

    def read(self, data: Json) -> tuple[Shadow, ...]:
        if not isinstance(data, list):
            raise ValueRefusal(f"{shown_value(data)} is not a list of shadows.")
        results = []
        for item in data:
            if not isinstance(item, dict):
                raise ValueRefusal(f"{shown_value(item)} is not a shadow.")
            color = ColorType().read(item.get("color"))
            rest = {k: v for k, v in item.items() if k != "color"}
            results.append(_record(rest, _ShadowLengths).on(color))
        return self.check(tuple(results))

    def write(self, value: Literals) -> Json:
        written: list[Json] = []
        for shadow in self.check(value):
            written.append(_sparse(shadow) | {"color": shadow.color.hex})
        return written

    def schema(self) -> JsonObject:
        lengths: JsonObject = {n: {"type": "number"} for n in ("x", "y", "blur", "spread")}
        shadow: JsonObject = {
            "type": "object",
            "properties": lengths
            | {
                "color": ColorType().schema(),
                "inner": {"type": "boolean"},
                "token": {"type": "string"},
            },
            "required": ["color"],
        }
        return {"type": "array", "items": shadow}


_OFFSET = NumberType(-10_000.0, 10_000.0)
_BLUR = NumberType(0.0, 10_000.0)


def _checked_shadow(shadow: Shadow) -> Shadow:
    x, y, spread = (_OFFSET.check(n) for n in (shadow.x, shadow.y, shadow.spread))
    blur, inner = _BLUR.check(shadow.blur), FlagType().check(shadow.inner)
    token = checked_name(shadow.token, "token's name")
    return Shadow(ColorType().check(shadow.color), x, y, blur, spread, inner, token)


class PictureType(msgspec.Struct, frozen=True):
    """A picture that the file holds, by its digest, with its own size."""

    def check(self, value: Value) -> Picture:
        if not isinstance(value, Picture):
            raise ValueRefusal(f"{shown_value(value)} is not a picture.")
        width, height = (_PICTURE_SIDE.check(side) for side in (value.width, value.height))
        return Picture(checked_name(value.asset, "picture's name"), width, height)

    def fit(self, value: Value) -> Picture:
        return self.check(value)

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


_PICTURE_SIDE = NumberType(0.0, LARGEST_PICTURE)


class OnceType(msgspec.Struct, frozen=True):
    """Axes and their values, by ids: {"axis": id, "value": id}, each for another component."""

    def check(self, value: Value) -> tuple[Once, ...]:
        if not isinstance(value, tuple) or not all(isinstance(o, Once) for o in value):
            raise ValueRefusal(f"{shown_value(value)} is not a list of axes and values.")
        pairs = [o for o in value if isinstance(o, Once)]
        if len(pairs) > MOST_ONCES:
            raise ValueRefusal(f"At most {MOST_ONCES} axes can be held so.")
        return tuple(Once(checked_name(o.axis, "id"), checked_name(o.value, "id")) for o in pairs)

    def fit(self, value: Value) -> tuple[Once, ...]:
        return self.check(value)

    def read(self, data: Json) -> tuple[Once, ...]:
        return self.check(_records(data, Once))

    def write(self, value: Literals) -> Json:
        return [{"axis": held.axis, "value": held.value} for held in self.check(value)]

    def schema(self) -> JsonObject:
        text: JsonObject = {"type": "string"}
        pair: JsonObject = {
            "type": "object",
            "properties": {"axis": text, "value": text},
            "required": ["axis", "value"],
        }
        return {"type": "array", "items": pair, "maxItems": MOST_ONCES}


class ChosenType(msgspec.Struct, frozen=True):
    """What an instance chose: an axis value's id, or a value for a component property.

    Its exact type is known only where the component is. So it is kept in the form that a
    file would give back (plain words and colours as text), and `as_type` makes it fit.
    """

    def check(self, value: Value) -> Literals:
        data = self.write(value) if not isinstance(value, Token | FromProperty | Shift) else ""
        return self.read(data)

    def fit(self, value: Value) -> Literals:
        return self.check(value)

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
        if isinstance(value, Color):
            return ColorType().check(value).hex
        return ContentType().write(value)

    def schema(self) -> JsonObject:
        forms: list[Json] = [FlagType().schema(), NumberType().schema(), ContentType().schema()]
        return {"anyOf": forms}


def as_type(kind: ValueType, value: Literals, default: Literals) -> Literals:
    """A chosen value as one of this type, the nearest that fits; the default where none does."""
    try:
        return kind.read(value) if isinstance(value, str) else kind.fit(value)
    except ValueRefusal:
        return default


class _ShadowLengths(msgspec.Struct, frozen=True):
    x: float = 0.0
    y: float = 0.0
    blur: float = 0.0
    spread: float = 0.0
    inner: bool = False
    token: str = ""

    def on(self, color: Color) -> Shadow:
        return Shadow(color, *msgspec.structs.astuple(self))


_SHIFTS: tuple[Literal["add", "multiply", "darken", "fade"], ...] = (
    "add",
    "multiply",
    "darken",
    "fade",
)


def is_reference(text: str) -> bool:
    """Whether text in a file would be read as a token reference."""
    return len(text) > 1 and text.startswith("{") and text.endswith("}")


# The key of an object that holds words which would be read as a token reference.
_LITERAL = "text"


def read_value(kind: ValueType, data: Json) -> Value:
    """A value from JSON: `{a.token}`, {"property": id}, {"add": n} …, or a literal."""
    if isinstance(data, str) and is_reference(data):
        return Token(data[1:-1])
    if isinstance(data, dict) and len(data) == 1:
        key, content = next(iter(data.items()))
        if key == "property" and isinstance(content, str):
            return FromProperty(content)
        if key == _LITERAL:
            return kind.read(content)
        for how in _SHIFTS:
            if key == how:
                return Shift(how, NumberType().read(content))
    return kind.read(data)


def write_value(kind: ValueType, value: Value) -> Json:
    """The JSON form of a value; `read_value` gives it back."""
    if isinstance(value, Token):
        return "{" + value.path + "}"
    if isinstance(value, FromProperty):
        return {"property": value.property}
    if isinstance(value, Shift):
        return {value.how: NumberType().write(float(value.amount))}
    return written_literal(kind, value)


def written_literal(kind: ValueType, value: Literals) -> Json:
    """The JSON form of a literal, where a reference could stand instead."""
    written = kind.write(value)
    reads_otherwise = isinstance(written, str) and is_reference(written)
    return {_LITERAL: written} if reads_otherwise else written


def check_value(kind: ValueType, value: Value) -> Value:
    """The value as it is stored, or ValueRefusal."""
    if isinstance(value, Token | FromProperty | Shift):
        return value
    return kind.check(value)


def value_schema(kind: ValueType) -> JsonObject:
    """The JSON Schema of a value: the literal's, or one of the references."""
    references: list[Json] = [{"$ref": "#/$defs/reference"}, kind.schema()]
    return {"anyOf": references}


def reference_schema() -> JsonObject:
    """The JSON Schema of a token reference, a property reference or a shift."""
    forms: list[Json] = [{"type": "string", "pattern": r"^\{[\s\S]+\}$"}]
    forms.append(_one_key("property", {"type": "string"}))
    forms.append(_one_key(_LITERAL, {"type": "string"}))
    forms.extend(_one_key(how, {"type": "number"}) for how in _SHIFTS)
    return {"anyOf": forms}


def _one_key(key: str, schema: JsonObject) -> JsonObject:
    return {
        "type": "object",
        "properties": {key: schema},
        "required": [key],
        "additionalProperties": False,
    }


def _short(number: float) -> str:
    """A number as a sentence writes it; whole ones may have any number of digits."""
    try:
        return f"{number:g}"
    except OverflowError:
        return "A number so large"


def checked_name(text: object, noun: str = "name") -> str:
    """An id, or what something is called, as documents hold it. Raises ValueRefusal."""
    if not isinstance(text, str):
        raise ValueRefusal(f"A {noun} must be text; {shown_value(text)} is none.")
    if len(text) > LONGEST_NAME:
        raise ValueRefusal(f"A {noun} may have {LONGEST_NAME:,} letters; this has {len(text):,}.")
    return clean(text)


def checked_text(text: object) -> str:
    """A sentence about something, as documents hold it. Raises ValueRefusal."""
    return str(NAME.check(text))  # type: ignore[arg-type]  # it refuses what is no text


def _record(data: Json, record: type[_Record]) -> _Record:
    try:
        return msgspec.convert(data, record, strict=True)
    except msgspec.ValidationError as problem:
        raise ValueRefusal(f"{shown_value(data)} does not fit: {problem}.") from problem


def _records(data: Json, record: type[_Record]) -> tuple[_Record, ...]:
    if not isinstance(data, list):
        raise ValueRefusal(f"{shown_value(data)} is not a list.")
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
