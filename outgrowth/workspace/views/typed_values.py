"""Values that are typed with the name of what they are for: “gap 12”, “rotate 180”, “hide”."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from outgrowth.core.color import parse
from outgrowth.core.color.gradient import parse_fill
from outgrowth.core.document.properties import FAMILY_MEMBERS, FAMILY_OF, TABLE, StyleProperty
from outgrowth.core.document.types import ChoiceType, FlagType, NumberType
from outgrowth.core.document.values import Token, Value
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import node_at
from outgrowth.workspace.text_search import means_words
from outgrowth.workspace.views.arithmetic import evaluate
from outgrowth.workspace.views.length_format import read_track
from outgrowth.workspace.workspace import Workspace

_FLAGS = {"on": True, "yes": True, "off": False, "no": False}
_ALONE: dict[str, Mapping[str, Value]] = {"hide": {"shown": False}, "show": {"shown": True}}
"""Words that say both what and how."""


def typed_values(workspace: Workspace, text: str) -> Iterator[tuple[str, dict[str, Value]]]:
    """What a typed text would set of the selected part: what that is called, and the values."""
    place = workspace.place
    node = node_at(workspace.document, place) if place is not None else None
    if node is None:
        return
    words = text.strip().lower().split()
    if len(words) == 1 and words[0] in _ALONE:
        values = dict(_ALONE[words[0]])
        yield f"{words[0].capitalize()} {node.name}", values
        return
    rows = [row for row in TABLE.values() if node.kind in row.kinds]
    for cut in range(len(words) - 1, 0, -1):
        name, value = " ".join(words[:cut]), words[cut:]
        told: set[str] = set()
        for title, members in _called(rows):
            # What is said of four is not said of each besides.
            if told.isdisjoint(members) and _is_named(title, name):
                read = _read(workspace, TABLE[members[0]], members, value)
                if read is not None:
                    told |= {*members}
                    yield f"Set {title} to {' '.join(value)}", read


def _called(rows: list[StyleProperty]) -> Iterator[tuple[str, tuple[str, ...]]]:
    """The names of values, each with its rows: those of four sides first, then each row."""
    families = dict.fromkeys(FAMILY_OF[row.name] for row in rows if row.name in FAMILY_OF)
    for family in families:
        yield family.capitalize().replace("-", " "), FAMILY_MEMBERS[family]
    for row in rows:
        yield row.label, (row.name,)


def _is_named(title: str, name: str) -> bool:
    called = title.lower()
    return called.startswith(name) or means_words(called, name)


def _read(
    workspace: Workspace, row: StyleProperty, members: tuple[str, ...], words: list[str]
) -> dict[str, Value] | None:
    """The values of a row, or of a family as CSS has them; None for what it can't be."""
    try:
        if len(members) == 4 and isinstance(row.type, NumberType):
            numbers = [_number(row.type, word) for word in words]
            return dict(zip(members, four(numbers), strict=True)) if len(numbers) <= 4 else None
        value = _value(workspace, row, " ".join(words))
    except (Refusal, ValueError):
        return None
    return None if value is None else dict.fromkeys(members, value)


def four(numbers: list[float]) -> list[float]:
    """One to four numbers as four sides or corners. Source: CSS Box 4, section 4.2."""
    return [numbers[n] if n < len(numbers) else numbers[max(n - 2, 0)] for n in range(3)] + [
        numbers[3] if len(numbers) > 3 else numbers[min(1, len(numbers) - 1)]
    ]


def _number(kind: NumberType, word: str) -> float:
    share = kind.unit == "" and kind.maximum == 1.0 and word.endswith("%")
    number = evaluate(word, 0.0) / (100 if share else 1)
    return min(max(number, kind.minimum), kind.maximum)


def _value(workspace: Workspace, row: StyleProperty, text: str) -> Value | None:
    kind = row.type
    if text.strip("{}") in workspace.document.tokens:
        return Token(text.strip("{}"))
    if isinstance(kind, NumberType):
        return _number(kind, text)
    if isinstance(kind, FlagType):
        return _FLAGS.get(text)
    if isinstance(kind, ChoiceType):
        found = [o for o in kind.options if o.startswith(text.replace("centre", "center"))]
        return found[0] if found else None
    if row.name in ("width", "height"):
        return read_track(text)
    if row.name == "fill":
        return parse_fill(text)
    return parse(text) if row.name in ("stroke", "color") else None
