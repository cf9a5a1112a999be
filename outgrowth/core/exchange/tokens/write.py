"""Tokens as files of the community group's format, one for the usual values and one a mode.

Source: Design Tokens Format Module 2025.10 and Color Module 2025.10, the Design Tokens Community
Group's final reports. An easing that is no cubic Bézier curve is written as the nearest there is
(linear) with its own notation beside it in `$extensions`, from which it is read back.
"""

from __future__ import annotations

import json

from outgrowth.core.color import Color
from outgrowth.core.document.composed import Composition, composed
from outgrowth.core.document.records import DesignToken, Document
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import Shadow, Token, Value
from outgrowth.core.exchange.slugs import free_name, slug

OURS = "outgrowth"
"""Our own place among the extensions of a token."""
KINDS = {
    "color": "color",
    "dimension": "dimension",
    "number": "number",
    "duration": "duration",
    "easing": "cubicBezier",
    "family": "fontFamily",
    "shadow": "shadow",
}
CURVES: dict[str, list[float]] = {
    "linear": [0.0, 0.0, 1.0, 1.0],
    "ease": [0.25, 0.1, 0.25, 1.0],
    "ease-in": [0.42, 0.0, 1.0, 1.0],
    "ease-out": [0.0, 0.0, 0.58, 1.0],
    "ease-in-out": [0.42, 0.0, 0.58, 1.0],
}
"""Source: CSS Easing Functions 2, section 2.2.1."""
TYPES = {"type": "typography", "border": "border", "motion": "transition"}
# Our members by theirs.
MEMBERS = {
    "type": {
        "fontFamily": "family",
        "fontSize": "size",
        "fontWeight": "weight",
        "lineHeight": "line-height",
        "letterSpacing": "spacing",
    },
    "border": {"color": "color", "width": "width"},
    "motion": {"duration": "duration", "delay": "delay", "timingFunction": "easing"},
}
_USUAL: dict[str, Json] = {
    "fontWeight": 400,
    "lineHeight": 1.4,
    "letterSpacing": {"value": 0, "unit": "px"},
    "delay": {"value": 0, "unit": "ms"},
}


def token_files(document: Document) -> dict[str, bytes]:
    """The files by their names: `tokens.json`, and `tokens.dark.json` for a mode “dark”."""
    files = {"tokens.json": written(document, "")}
    used: set[str] = set()
    for mode in document.modes:
        name = free_name(slug(mode, "mode"), used)
        used.add(name)
        files[f"tokens.{name}.json"] = written(document, mode)
    return files


def written(document: Document, mode: str) -> bytes:
    """All tokens as they are in a mode ("" for the usual one)."""
    root: dict[str, Json] = {}
    groups = composed(document.tokens)
    for path, token in sorted(document.tokens.items()):
        group = path.rpartition(".")[0]
        if group not in groups:
            _put(root, path, _token(token, mode))
    for group, composition in groups.items():
        _put(root, group, _composed(document, group, composition, mode))
    return (json.dumps(root, indent=2, ensure_ascii=False) + "\n").encode()


def _put(root: dict[str, Json], path: str, value: dict[str, Json]) -> None:
    *groups, last = path.split(".")
    place = root
    for name in groups:
        inner = place.setdefault(name, {})
        assert isinstance(inner, dict)
        place = inner
    place[last] = value


def _token(token: DesignToken, mode: str) -> dict[str, Json]:
    value = token.modes.get(mode, token.value)
    token_data: dict[str, Json] = {
        "$type": KINDS[token.kind],
        "$value": value_of(token.kind, value),
    }
    if token.description:
        token_data["$description"] = token.description
    extensions = _extensions(token)
    if token.kind == "easing" and isinstance(value, str) and _curve(value) is None:
        extensions[OURS] = {"easing": value}
    if extensions:
        token_data["$extensions"] = extensions
    return token_data


def _extensions(token: DesignToken) -> dict[str, Json]:
    """What came with a token and means nothing to us."""
    try:
        cached = json.loads(token.more) if token.more else {}
    except ValueError:
        return {}
    extensions = cached.get("$extensions") if isinstance(cached, dict) else None
    return dict(extensions) if isinstance(extensions, dict) else {}


def _composed(
    document: Document, group: str, composition: Composition, mode: str
) -> dict[str, Json]:
    values: dict[str, Json] = {}
    for theirs, ours in MEMBERS[composition.name].items():
        token = document.tokens.get(f"{group}.{ours}")
        if token is None:
            values[theirs] = _USUAL[theirs]
        else:
            values[theirs] = value_of(token.kind, token.modes.get(mode, token.value))
    if composition.name == "border":
        values["style"] = "solid"
    return {"$type": TYPES[composition.name], "$value": values}


def value_of(kind: str, value: Value) -> Json:
    """A token's value in the format."""
    if isinstance(value, Token):
        return f"{{{value.path}}}"
    if isinstance(value, Color):
        return color_of(value)
    if isinstance(value, float):
        if kind in ("dimension", "duration"):
            return {"value": _number(value), "unit": "px" if kind == "dimension" else "ms"}
        return _number(value)
    if kind == "shadow" and isinstance(value, tuple):
        shadows: list[Json] = [_shadow(item) for item in value if isinstance(item, Shadow)]
        return shadows[0] if len(shadows) == 1 else shadows
    if kind == "easing":
        curve: list[Json] = list(_curve(str(value)) or CURVES["linear"])
        return curve
    return str(value)


def color_of(color: Color) -> dict[str, Json]:
    """Components that read back as the same 8 bits, and the hex for readers without them."""
    parts: list[Json] = [round(n, 6) for n in (color.red, color.green, color.blue)]
    hexed = color.with_alpha(1.0).hex.lower()
    return {
        "colorSpace": "srgb",
        "components": parts,
        "alpha": round(color.alpha, 6),
        "hex": hexed,
    }


def _shadow(shadow: Shadow) -> dict[str, Json]:
    color: Value = Token(shadow.token) if shadow.token else shadow.color
    shadow_data: dict[str, Json] = {"color": value_of("color", color)}
    for name, number in (
        ("offsetX", shadow.x),
        ("offsetY", shadow.y),
        ("blur", shadow.blur),
        ("spread", shadow.spread),
    ):
        shadow_data[name] = {"value": _number(number), "unit": "px"}
    if shadow.inner:
        shadow_data["inset"] = True
    return shadow_data


def _number(value: float) -> int | float:
    return int(value) if value == int(value) else round(value, 10)


def _curve(easing: str) -> list[float] | None:
    """The four numbers of a cubic Bézier curve; None for any other easing."""
    text = easing.strip()
    if text in CURVES:
        return CURVES[text]
    if not (text.startswith("cubic-bezier(") and text.endswith(")")):
        return None
    try:
        numbers = [float(part) for part in text[13:-1].split(",")]
    except ValueError:
        return None
    return numbers if len(numbers) == 4 else None
