"""Spellings of earlier versions, made into today's before anything is read.

Until November 2026 “one at a time” was kept in words ("Open: yes"); it is kept by ids now, so
that renaming an axis changes nothing.
"""

from __future__ import annotations

from collections.abc import Iterator

from outgrowth.core.document.types import Json, JsonObject, is_reference

_ONCE = "one-at-a-time"


def upgraded(record: JsonObject) -> JsonObject:
    """A file's JSON with older spellings replaced; the very same object where it has none."""
    holders = [(place, key) for place, key in _stated_values(record) if _in_words(place[key])]
    if not holders:
        return record
    named = _values_by_words(record)
    for place, key in holders:
        pairs: list[Json] = [
            {"axis": axis, "value": value} for axis, value in named.get(str(place[key]), ())
        ]
        place[key] = pairs
    return record


def _in_words(value: Json) -> bool:
    return isinstance(value, str) and not is_reference(value)


def _stated_values(record: JsonObject) -> Iterator[tuple[JsonObject, str]]:
    """Every place where “one at a time” is said: a style, or a rule's value."""
    waiting: list[Json] = [record.get("components"), record.get("screens")]
    while waiting:
        data = waiting.pop()
        if isinstance(data, list):
            waiting += data
        elif isinstance(data, dict):
            if _ONCE in data:
                yield data, _ONCE
            elif data.get("property") == _ONCE and "value" in data:
                yield data, "value"
            waiting += [value for value in data.values() if isinstance(value, dict | list)]


def _values_by_words(record: JsonObject) -> dict[str, list[tuple[str, str]]]:
    """“Open: yes” → the ids of all axes and values that are called so."""
    by_words: dict[str, list[tuple[str, str]]] = {}
    components = record.get("components")
    for component in components if isinstance(components, list) else ():
        axes = component.get("axes") if isinstance(component, dict) else None
        for axis in axes if isinstance(axes, list) else ():
            values = axis.get("values") if isinstance(axis, dict) else None
            for value in values if isinstance(values, list) else ():
                if isinstance(axis, dict) and isinstance(value, dict):
                    pair = str(axis.get("id")), str(value.get("id"))
                    words = f"{axis.get('name')}: {value.get('name')}"
                    if pair not in by_words.setdefault(words, []):
                        by_words[words].append(pair)
    return by_words
