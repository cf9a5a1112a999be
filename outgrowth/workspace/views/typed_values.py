"""Values that are typed with the name of what they are for: “gap 12”, “rotate 180”, “hide”."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from outgrowth.core.color import parse
from outgrowth.core.color.gradient import parse_fill
from outgrowth.core.document.properties import (
    CHOICE,
    FAMILY_MEMBERS,
    FAMILY_OF,
    TABLE,
    StyleProperty,
    family_label,
)
from outgrowth.core.document.types import (
    ChoiceType,
    ColorType,
    FillType,
    FlagType,
    LimitType,
    NameType,
    NumberType,
    SizeType,
)
from outgrowth.core.document.values import Token, Value, words
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Inspection, inspect
from outgrowth.workspace.text_search import means_words
from outgrowth.workspace.views.arithmetic import ArithmeticRefusal, evaluate
from outgrowth.workspace.views.length_format import four, read_size
from outgrowth.workspace.workspace import Workspace

_FLAGS = {"on": True, "yes": True, "off": False, "no": False}
_ALONE: dict[str, Mapping[str, Value]] = {"hide": {"shown": False}, "show": {"shown": True}}
"""Words that say both what and how."""


def typed_values(workspace: Workspace, text: str) -> Iterator[tuple[str, dict[str, Value]]]:
    """What a typed text would set of the selected part: what that is called, and the values."""
    place = workspace.place
    inspection = inspect(workspace.document, place) if place is not None else None
    if inspection is None:
        return
    node, words = inspection.node, text.split()
    if len(words) == 1 and words[0].lower() in _ALONE:
        alone = words[0].lower()
        yield f"{alone.capitalize()} {node.name}", dict(_ALONE[alone])
        return
    rows = [row for row in TABLE.values() if node.kind in row.kinds]
    for cut in range(len(words) - 1, 0, -1):
        name, said = " ".join(words[:cut]).lower(), words[cut:]
        told: set[str] = set()
        for title, members in _called(rows):
            # What is said of four is not said of each besides.
            if told.isdisjoint(members) and _is_named(title, name):
                read = _Reading(workspace, inspection).values(members, said)
                if read:
                    told |= {*members}
                    yield f"Set {title} to {' '.join(said)}", read


def _called(rows: list[StyleProperty]) -> Iterator[tuple[str, tuple[str, ...]]]:
    """The names of values, each with its rows: those of four sides first, then each row."""
    for family in dict.fromkeys(FAMILY_OF[row.name] for row in rows if row.name in FAMILY_OF):
        yield family_label(family), FAMILY_MEMBERS[family]
    for row in rows:
        yield row.label, (row.name,)


def _is_named(title: str, name: str) -> bool:
    called = title.lower()
    return called.startswith(name) or means_words(called, name)


def read_values(
    workspace: Workspace, inspection: Inspection, names: tuple[str, ...], text: str
) -> dict[str, Value]:
    """What a text that is typed for properties of a part sets them to: one for all, or up to four
    for four; a choice of an instance by the name of its value. Nothing where it can't be read."""
    words = text.split()
    if len(names) == 1 and names[0].startswith(CHOICE):
        return _chosen(workspace, inspection, names[0], text)
    kind = TABLE[names[0]].type
    if isinstance(kind, NameType) and text.strip("{}") not in workspace.document.tokens:
        # Of words that are typed after a name anything would be one: only where it is asked for.
        return {names[0]: kind.check(text)}
    return _Reading(workspace, inspection).values(names, words) if words else {}


def _chosen(workspace: Workspace, inspection: Inspection, name: str, text: str) -> dict[str, Value]:
    instance, key = inspection.instance, name.removeprefix(CHOICE)
    followed = instance.style.get("component") if instance is not None else None
    component = workspace.document.components.get(str(followed))
    axis = component.axis(key) if component is not None else None
    if axis is not None:
        named = {value.name.lower(): value.id for value in axis.values}
        value = named.get(text.strip().lower())
        return {name: value} if value is not None else {}
    prop = component.property(key) if component is not None else None
    if prop is None:
        return {}
    if prop.kind == "switch":
        flag = _FLAGS.get(text.strip().lower())
        return {name: flag} if flag is not None else {}
    return {name: words(text)} if prop.kind == "text" else {}


class _Reading:
    """Reads what is typed for rows of the table, by what these are."""

    def __init__(self, workspace: Workspace, inspection: Inspection) -> None:
        self._tokens = workspace.document.tokens
        self._inspection = inspection

    def values(self, members: tuple[str, ...], words: list[str]) -> dict[str, Value]:
        """The values of a row, or of rows that belong together; none for what they can't be."""
        try:
            if len(members) == 4 and 1 < len(words) <= 4:
                pairs = zip(members, four(words), strict=True)
                return {name: self._number(name, word) for name, word in pairs}
            text = " ".join(words)
            read = {name: self._value(name, text) for name in members}
        except Refusal:
            return {}
        return {name: value for name, value in read.items() if value is not None}

    def _value(self, name: str, text: str) -> Value | None:
        kind = TABLE[name].type
        if text.strip("{}") in self._tokens:
            return Token(text.strip("{}"))
        if isinstance(kind, NumberType):
            return self._number(name, text)
        if isinstance(kind, FlagType):
            return _FLAGS.get(text.lower())
        if isinstance(kind, ChoiceType):
            begun = text.lower().replace("centre", "center")
            return next((option for option in kind.options if option.startswith(begun)), None)
        if isinstance(kind, SizeType):
            return kind.check(read_size(text))
        if isinstance(kind, LimitType):
            size = read_size(text)
            return kind.check(size.amount if size.mode == "fixed" else size)
        if isinstance(kind, FillType):
            return parse_fill(text)
        return parse(text) if isinstance(kind, ColorType) else None

    def _number(self, name: str, text: str) -> float:
        """A number, or a change of what there is (“+4”), within the bounds of its row."""
        kind, before = TABLE[name].type, self._inspection.value(name)
        if not isinstance(kind, NumberType):
            raise ArithmeticRefusal(f"{TABLE[name].label} is no number.")
        whole = 100.0 if kind.is_share else 1.0
        number = evaluate(text, (before if isinstance(before, float) else 0.0) * whole)
        # A share is said in per cent; “0.5” is half of it all the same.
        said_so = text.endswith("%") or number > 1 or text[:1] in "+*/"
        return kind.fit(number / whole if said_so else number)
