"""A component as a module of JavaScript, and its types."""

from __future__ import annotations

import json
from collections.abc import Iterable

from outgrowth.core.document.types import Json
from outgrowth.core.exchange.web.names import OwnerNames, camel

_WIDE = 96


class PictureAddress(str):
    """Where the file of a picture lies, from the folder of the hand-over."""

    @property
    def from_module(self) -> str:
        """The expression that names it in a module, as bundlers look for it.
        Source: ECMAScript 2020, import.meta; the pattern is common practice, no source."""
        return f'new URL("../{self}", import.meta.url).href'


def javascript(value: Json, indent: str = "", lead: int = 0, modular: bool = False) -> str:
    """A value as JavaScript, on one line where it fits. What could end a script or a line is
    written by its number (ECMAScript, 12.9.4). In a module, pictures are asked for by their own
    addresses."""
    line = _flat(value, modular)
    if len(indent) + lead + len(line) <= _WIDE or not isinstance(value, dict | list) or not value:
        return line
    inside = indent + "  "
    if isinstance(value, list):
        parts = [inside + javascript(item, inside, 0, modular) for item in value]
        return "[\n" + ",\n".join(parts) + f",\n{indent}]"
    parts = [
        f"{inside}{_key(name)}: {javascript(item, inside, len(_key(name)) + 3, modular)}"
        for name, item in value.items()
    ]
    return "{\n" + ",\n".join(parts) + f",\n{indent}}}"


def _flat(value: Json, modular: bool) -> str:
    if isinstance(value, list):
        return f"[{', '.join(_flat(item, modular) for item in value)}]"
    if isinstance(value, dict):
        parts = ", ".join(f"{_key(name)}: {_flat(item, modular)}" for name, item in value.items())
        return f"{{ {parts} }}" if parts else "{}"
    if isinstance(value, float):
        return f"{value:.10g}"
    if modular and isinstance(value, PictureAddress):
        return value.from_module
    return _string(value) if isinstance(value, str) else json.dumps(value)


def _string(text: str) -> str:
    safe = json.dumps(text, ensure_ascii=False)
    for letter in "<>&\u2028\u2029":
        safe = safe.replace(letter, f"\\u{ord(letter):04x}")
    return safe


def _key(name: str) -> str:
    return (
        name
        if name.replace("_", "a").isalnum() and name.isascii() and not name[:1].isdigit()
        else _string(name)
    )


def template_string(text: str) -> str:
    """A text between backticks."""
    safe = text.replace("\\", "\\\\").replace("`", "\\`").replace("${", "\\${")
    return f"`{safe}`"


def definition_text(
    names: OwnerNames, definition: dict[str, Json], template: list[Json], css: str, modular: bool
) -> str:
    """The call that defines a component, in a module or in a script for pages without any."""
    body = dict(definition) | {"template": template}
    parts = [
        f"  {name}: {javascript(value, '  ', len(name) + 2, modular)},"
        for name, value in body.items()
    ]
    parts.append(f"  css: {template_string(chr(10) + css + chr(10))},")
    return "\n".join([f'define("{names.element}", {{', *parts, "})"])


def module(names: OwnerNames, body: str, imports: Iterable[str], guidance: Iterable[str]) -> str:
    """The module of a component, headed by what it is for and how to use it."""
    lines = [f"/* {line} */" for line in map(_comment, guidance) if line]
    lines.append('import { define } from "../runtime.js";')
    lines += [f'import "./{element}.js";' for element in imports]
    return "\n".join([*lines, "", f"export const {names.class_name} = {body};", ""])


def events_of(definition: dict[str, Json]) -> list[tuple[str, str]]:
    """The events that cues of a component lead to, and what they tell."""
    axes = definition.get("axes", {})
    detail = "{ name: string; value: string; previous: string }"
    kinds = set()
    for axis in axes.values() if isinstance(axes, dict) else ():
        if isinstance(axis, dict) and "driver" not in axis:
            kinds.add("toggle" if axis.get("meaning") == "expanded" else "change")
    return [(kind, detail) for kind in sorted(kinds)]


def _comment(text: str) -> str:
    return " ".join(text.replace("*/", "* /").split())


_FIELD_SETTINGS = {"name": "string", "required": "boolean", "value": "string"}
_FIELD_MEMBERS = """\
readonly form: HTMLFormElement | null;
readonly labels: NodeList;
readonly validity: ValidityState;
readonly validationMessage: string;
readonly willValidate: boolean;
checkValidity(): boolean;
reportValidity(): boolean;"""


def field_settings(names: OwnerNames, definition: dict[str, Json]) -> dict[str, str]:
    """What a field of a form takes besides what its design says, by their attributes: the types;
    nothing for what is no field. Source: HTML, 4.10.18 (form control infrastructure)."""
    own = {axis.attribute for axis in names.axes.values()}
    own |= {prop.attribute for prop in names.properties.values()}
    if "value" not in definition:
        return {}
    return {name: kind for name, kind in _FIELD_SETTINGS.items() if name not in own}


def declarations(
    names: OwnerNames, definition: dict[str, Json], events: Iterable[tuple[str, str]]
) -> str:
    """The module's types, for TypeScript."""
    lines = [f"export declare class {names.class_name} extends HTMLElement {{"]
    lines += [f"  {name}: {kind};" for name, kind in field_settings(names, definition).items()]
    if "value" in definition:
        lines += [f"  {line}" for line in _FIELD_MEMBERS.splitlines()]
    for axis in names.axes.values():
        kind = "boolean" if axis.boolean else _union(axis.values.values())
        lines.append(f"  {camel(axis.attribute)}: {kind};")
    for prop in names.properties.values():
        kind = "boolean" if prop.property.kind == "switch" else "string"
        lines.append(f"  {camel(prop.attribute)}: {kind};")
    texts = list(events)
    for event, detail in texts:
        listener = f"(this: {names.class_name}, event: CustomEvent<{detail}>) => void"
        lines += _listener(f'"{event}"', listener)
    if texts:
        lines += _listener("string", "EventListenerOrEventListenerObject | null")
    lines += ["}", "", "declare global {", "  interface HTMLElementTagNameMap {"]
    lines += [f'    "{names.element}": {names.class_name};', "  }", "}", ""]
    return "\n".join(lines)


def _listener(event: str, listener: str) -> list[str]:
    given = f"(type: {event}, listener: {listener}, options?: boolean | AddEventListenerOptions)"
    return [f"  {verb}EventListener{given}: void;" for verb in ("add", "remove")]


def _union(values: Iterable[str]) -> str:
    return " | ".join(json.dumps(value) for value in values)
