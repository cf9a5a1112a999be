"""A look of a part gets a name: its type, border or shadow becomes tokens that it refers to, and
what looks the same can follow them too."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from typing import Literal

from immutables import Map

from outgrowth.core.color import Color
from outgrowth.core.document.composed import COMPOSITIONS
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.records import DesignToken, Document, Node, walk
from outgrowth.core.document.values import Token, Value
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tokens import set_tokens
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Inspection, Place, inspect

Look = Literal["type", "border", "shadow"]
LOOKS: tuple[Look, ...] = ("type", "border", "shadow")
"""What can be named."""
_WIDTHS = FAMILY_MEMBERS["stroke-width"]


def look_of(inspection: Inspection, look: Look) -> dict[str, Value]:
    """What a part's look is, by the members of the token that it would become; nothing where it
    has none: a type is that of words, a border has one width and a plain colour."""
    node = inspection.node
    if look == "shadow":
        shadow = inspection.value("shadow")
        return {"": shadow} if isinstance(shadow, tuple) and shadow else {}
    if look == "border":
        color = inspection.value("stroke")
        widths = {inspection.value(name) for name in _WIDTHS}
        width = next(iter(widths))
        plain = isinstance(color, Color) and color.alpha > 0 and node.kind == "box"
        if not plain or len(widths) != 1 or not isinstance(width, float) or width <= 0:
            return {}
        return {"color": color, "width": width}  # type: ignore[dict-item]  # a colour, just asked
    if node.kind != "text":
        return {}
    rows = COMPOSITIONS["type"].rows
    values = {member: inspection.value(names[0]) for member, names in rows.items()}
    return {member: value for member, value in values.items() if value is not None}


def _rows(look: Look, group: str, members: Iterable[str]) -> dict[str, Value]:
    """The properties that refer to the members of a named look."""
    if look == "shadow":
        return {"shadow": Token(group)}
    rows = COMPOSITIONS[look].rows
    return {name: Token(f"{group}.{member}") for member in members for name in rows[member]}


def name_look(
    document: Document, look: Look, group: str, values: Mapping[str, Value], place: Place
) -> Document:
    """The document with the tokens of a look, and a part that refers to them.

    Raises Refusal where the name is taken, or the part can't be said to be so.
    """
    kinds = {"": "shadow"} if look == "shadow" else dict(COMPOSITIONS[look].members)
    made = {
        f"{group}.{member}" if member else group: DesignToken(kinds[member], value)  # type: ignore[arg-type]  # a kind
        for member, value in values.items()
    }
    taken = next((path for path in made if path in document.tokens), "")
    if taken:
        raise Refusal(f"There is already a token called “{taken}”.")
    document = set_tokens(document, made)
    return follow_look(document, look, group, values, (place,))


def follow_look(
    document: Document, look: Look, group: str, members: Iterable[str], places: Iterable[Place]
) -> Document:
    """The document with parts that refer to a named look, each value where it is said now: at
    first, or at the reach of a rule. So nothing looks otherwise. Raises Refusal."""
    values = _rows(look, group, members)
    for place in places:
        inspection = inspect(document, place)
        if inspection is None:
            raise Refusal("A part that looks the same is no longer there.")
        by_reach: dict[Map[str, str], dict[str, Value]] = {}
        for name, value in values.items():
            by_reach.setdefault(_said_at(inspection, place, name), {})[name] = value
        bare = Place(place.owner, place.path)
        for reach, some in by_reach.items():
            document = set_properties(document, bare, some, reach)
    return document


def _said_at(inspection: Inspection, place: Place, name: str) -> Map[str, str]:
    """The conditions of the owner's rule that says a value; none where none does."""
    winning = [rung.source for rung in inspection.ladder(name) if rung.wins]
    source = winning[0] if winning else None
    is_rule = source is not None and source.kind == "rule" and source.owner == place.owner
    return source.when if source is not None and is_rule else Map()


def alike(document: Document, look: Look, values: Mapping[str, Value], but: Place) -> list[Place]:
    """The parts of the file's own trees that look the same at first; left out are one of
    them and those that have this look by its name already."""
    found = []
    for owner in document.owners():
        for node in _own(owner.root, look):
            path = () if node is owner.root else (node.id,)
            place = Place(owner.id, path)
            if (place.owner, place.path) == (but.owner, but.path) or _is_named(node, look):
                continue
            inspection = inspect(document, place)
            if inspection is not None and look_of(inspection, look) == values:
                found.append(place)
    return found


def _own(root: Node, look: Look) -> Iterator[Node]:
    kind = "text" if look == "type" else "box"
    return (node for node in walk(root) if node.kind == kind)


def _is_named(node: Node, look: Look) -> bool:
    """Whether all of a look refers to tokens already."""
    names = list(_rows(look, "x", COMPOSITIONS[look].rows if look != "shadow" else ()))
    return all(isinstance(node.style.get(name), Token) for name in names)
