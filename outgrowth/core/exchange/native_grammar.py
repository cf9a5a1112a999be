"""The grammar of the native file's JSON: reading objects, lists and texts, and saying what does
not fit, and where."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TypeVar

from immutables import Map

from outgrowth.core.document.records import Extras
from outgrowth.core.document.types import Json, JsonObject

Read = TypeVar("Read")


class FileProblem(ValueError):
    """A file cannot be used; the message is a sentence for the user."""


class Misfit(ValueError):
    """Something in the file does not fit; `where` grows on the way out."""

    def __init__(self, what: str, where: tuple[str, ...] = ()) -> None:
        super().__init__(what)
        self.what = what
        self.where = where


def conditions_from(held: Json) -> Map[str, str]:
    if not isinstance(held, dict) or not all(isinstance(v, str) for v in held.values()):
        raise Misfit("conditions are not axis values.")
    return Map({axis: str(value) for axis, value in held.items()})


def all_of(held: JsonObject, key: str, read: Callable[[JsonObject], Read]) -> tuple[Read, ...]:
    """Every object of a list, read; a misfit names the object it is in."""
    found = []
    for n, item in enumerate(list_in(held, key)):
        name = item.get("name") if isinstance(item, dict) else None
        where = f"“{name}”" if isinstance(name, str) else f"{key} {n + 1}"
        found.append(within(where, read, item))
    return tuple(found)


def within(where: str, read: Callable[[JsonObject], Read], data: Json) -> Read:
    try:
        return read(object_in(data, where))
    except Misfit as problem:
        raise Misfit(problem.what, (where, *problem.where)) from problem


def list_in(held: JsonObject, key: str) -> list[Json]:
    found = held.get(key, [])
    if not isinstance(found, list):
        raise Misfit(f"“{key}” is not a list.")
    return found


def texts_in(held: JsonObject, key: str) -> tuple[str, ...]:
    found = list_in(held, key)
    if not all(isinstance(part, str) for part in found):
        raise Misfit(f"“{key}” holds something that is not text.")
    return tuple(str(part) for part in found)


def object_in(held: Json, what: str) -> JsonObject:
    if not isinstance(held, dict):
        raise Misfit(f"“{what}” is not an object.")
    return held


def text_in(held: JsonObject, key: str, default: str | None = None) -> str:
    found = held.get(key, default)
    if not isinstance(found, str):
        raise Misfit(f"“{key}” is missing or not text.")
    return found


def choice_in(held: JsonObject, key: str, options: tuple[str, ...]) -> str:
    found = held.get(key, options[0])
    if found not in options:
        raise Misfit(f"“{key}” is none of: {', '.join(options)}.")
    return str(found)


def extras_in(held: JsonObject, known: str) -> Extras:
    names = set(known.split())
    return Map({key: value for key, value in held.items() if key not in names})


def distinct(ids: Iterable[str], complaint: str) -> None:
    seen: set[str] = set()
    for one in ids:
        if one in seen:
            raise Misfit(f"{complaint} “{one}”.")
        seen.add(one)
