"""Parts that are tied otherwise, or begin to float, stand and measure as they did.

Whatever edge, middle or share of its box a part is tied to, its insets and its size are turned
into those that keep it where it is, in the variant that is looked at.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple

from outgrowth.core.document.formulas import is_share
from outgrowth.core.document.records import Document, Path, lineage
from outgrowth.core.document.values import FIT, Size, Value, fixed
from outgrowth.core.edits.at_reach.reach import Reach
from outgrowth.core.edits.at_reach.values import set_values, set_where_seen
from outgrowth.core.edits.tree.arrange import STILL
from outgrowth.core.geometry import Rect
from outgrowth.core.resolve.ladder import Inspection, Place, inspect


class Standing(NamedTuple):
    """Where a part stands: its border box in px of the box that holds it, and that box's size."""

    rect: Rect
    room: tuple[float, float]


FindStanding = Callable[[Document, Path], Standing | None]
"""Where a part stands in a document, in the variant that is looked at; None for a hidden one."""


class _Side(NamedTuple):
    """One axis: the names of its properties, and where the part stands along it."""

    pin: str
    near: str
    far: str
    size: str
    margins: tuple[str, str]
    start: float
    length: float
    room: float


def keeps_standing(values: Mapping[str, Value]) -> bool:
    """Whether such an edit says anew what a part is tied to."""
    return any(name in values for name in ("pin-x", "pin-y", "floating"))


def set_standing(
    document: Document,
    reach: Reach,
    path: Path,
    values: Mapping[str, Value],
    standing_of: FindStanding,
) -> Document:
    """The document with values set, as `set_values` does, and whatever else keeps the part where
    and as large as it is."""
    stands = standing_of(document, path)
    changed = set_values(document, reach, path, values)
    if stands is None or values.get("floating") is False:
        return changed
    document = changed
    tied = [side for side in _sides(stands) if side.pin in values or "floating" in values]
    for side in tied:
        document = _set_kept(document, reach, path, side)
    document = _roomy(document, reach, path, (stands, tied), standing_of)
    now = standing_of(document, path)
    if now is not None and now.room != stands.room:
        # The box has another size all the same: then its insets are counted from that.
        names = {side.pin for side in tied}
        tied = [side for side in _sides(stands._replace(room=now.room)) if side.pin in names]
        for side in tied:
            document = _set_kept(document, reach, path, side)
    for side in tied:
        document = _measured(document, reach, path, side, standing_of)
    return document


def holder_of(document: Document, place: Place) -> Path | None:
    """The path of the box that holds the part at a place; None for the outermost part."""
    if not place.path:
        return None
    outer = place._replace(path=place.path[:-1])
    held = inspect(document, outer) if outer.path else None
    owner = held.scope.owner if held is not None else document.owner(place.owner)
    line = lineage(owner.root, place.path[-1]) if owner is not None else ()
    if len(line) < 2 or owner is None:
        return None
    return outer.path if line[-2] is owner.root else (*outer.path, line[-2].id)


def _roomy(
    document: Document,
    reach: Reach,
    path: Path,
    before: tuple[Standing, list[_Side]],
    standing_of: FindStanding,
) -> Document:
    """The document with the box as large as it was, which fitted what hung on its first edges."""
    stands, tied = before
    now, holder = standing_of(document, path), holder_of(document, reach.place(path))
    if now is None or holder is None:
        return document
    for side, was, room in zip(_sides(stands), stands.room, now.room, strict=True):
        if side in tied and abs(was - room) > STILL:
            size = fixed(_rounded(was))
            document = set_where_seen(document, reach, holder, side.size, size)
    return document


def _sides(stands: Standing) -> tuple[_Side, _Side]:
    rect, room = stands
    across = ("margin-left", "margin-right")
    down = ("margin-top", "margin-bottom")
    return (
        _Side("pin-x", "x", "right", "width", across, rect.x, rect.width, room[0]),
        _Side("pin-y", "y", "bottom", "height", down, rect.y, rect.height, room[1]),
    )


def _set_kept(document: Document, reach: Reach, path: Path, side: _Side) -> Document:
    inspection = inspect(document, reach.place(path))
    if inspection is None:
        return document
    kept = _kept(inspection, side)
    needed = {name: value for name, value in kept.items() if inspection.value(name) != value}
    for name, value in needed.items():
        document = set_where_seen(document, reach, path, name, value)
    return document


def _kept(inspection: Inspection, side: _Side) -> dict[str, Value]:
    """The insets, and the size where it cannot stay as it is said, for what it is tied to now."""
    pin, said = inspection.value(side.pin), inspection.value(side.size)
    near, far = (_number(inspection.value(name)) for name in side.margins)
    start, end = side.start - near, side.room - side.start - side.length - far
    middle = side.start - (side.room - side.length) / 2 - (near - far) / 2
    values: dict[str, Value] = {}
    mode = said.mode if isinstance(said, Size) else "fit"
    if pin in ("start", "both", "scale"):
        values[side.near] = _rounded(start)
    if pin in ("end", "both", "scale"):
        values[side.far] = _rounded(end)
    if pin == "center":
        values[side.near] = _rounded(middle)
    if pin == "both" and mode in ("fixed", "grow"):
        values[side.size] = FIT
    elif pin == "scale" and not (isinstance(said, Size) and is_share(said)):
        # The three lengths that it is drawn with make up the whole.
        values[side.size] = fixed(max(_rounded(side.length + near + far), 0.0))
    elif pin not in ("both", "scale") and mode == "grow":
        values[side.size] = fixed(_rounded(side.length))
    return values


def _measured(
    document: Document, reach: Reach, path: Path, side: _Side, standing_of: FindStanding
) -> Document:
    """The document with what is laid out otherwise than it was made so by its size."""
    now = standing_of(document, path)
    if now is None:
        return document
    measured = now.rect.width if side.size == "width" else now.rect.height
    at = now.rect.x if side.size == "width" else now.rect.y
    if abs(measured - side.length) <= STILL and abs(at - side.start) <= STILL:
        return document
    inspection = inspect(document, reach.place(path))
    if inspection is None or inspection.value(side.pin) in ("both", "scale"):
        return document
    said = inspection.value(side.size)
    if isinstance(said, Size) and is_share(said):
        return document
    return set_where_seen(document, reach, path, side.size, fixed(_rounded(side.length)))


def _number(value: object) -> float:
    return value if isinstance(value, float) else 0.0


def _rounded(px: float) -> float:
    return round(px, 3) + 0.0
