"""Drawings of one part in rooms of several widths: what each was drawn in becomes where its value
begins, and is said by its instance."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import msgspec

from outgrowth.core.document.everyday_words import plain_word
from outgrowth.core.document.records import Axis, Node
from outgrowth.core.document.values import GROW, Size
from outgrowth.core.refusal import Refusal

_ROOM_WORDS = frozenset(
    ("narrow", "slim", "wide", "broad", "wider", "widest", "phone", "mobile", "tablet", "desktop")
)
_BETWEEN = frozenset(("usual", "medium", "middle", "normal", "regular", "default"))
"""What people call a part in rooms of several widths. Common practice, no source."""


def reads_as_rooms(names: Sequence[str]) -> bool:
    """Whether the values of an axis are called as rooms are."""
    words = {plain_word(name) for name in names}
    return len(words) > 1 and len(words & _ROOM_WORDS) > 0 and words <= _ROOM_WORDS | _BETWEEN


def with_leasts(axis: Axis, drawn: Sequence[tuple[str, Node]]) -> Axis:
    """The axis, set by the room: each value begins at the least width that it was drawn in, the
    narrowest at nothing. `drawn` are names of values with the roots that show them.

    Raises Refusal where the widths do not tell the values apart.
    """
    widths: dict[str, list[float]] = {value.name: [] for value in axis.values}
    for name, root in drawn:
        width = _width_of(root)
        if width is None:
            raise Refusal(
                f"The room can't set {axis.name}: “{name}” has no width of its own. Draw each in "
                "the width that it is meant for."
            )
        widths[name].append(width)
    ordered = sorted(axis.values, key=lambda value: min(widths[value.name]))
    for narrow, wide in pairwise(ordered):
        if max(widths[narrow.name]) >= min(widths[wide.name]):
            raise Refusal(
                f"The room can't set {axis.name}: “{narrow.name}” is drawn as wide as "
                f"“{wide.name}”. Draw each in the width that it is meant for."
            )
    begins = {value.id: min(widths[value.name]) if n else 0.0 for n, value in enumerate(ordered)}
    values = tuple(msgspec.structs.replace(v, least=begins[v.id], part="") for v in axis.values)
    return msgspec.structs.replace(
        axis, driver="room", side="width", unit="px", meaning="none", values=values
    )


def _width_of(root: Node) -> float | None:
    """How wide a drawing is by itself, in px: its width within its least and most. None where only
    its holder knows."""
    width = root.style.get("width")
    least, most = (root.style.get(name, 0.0) for name in ("min-width", "max-width"))
    if not isinstance(width, Size) or width.mode != "fixed":
        return None
    if not isinstance(least, float) or not isinstance(most, float):
        return None
    return max(min(width.amount, most) if most > 0 else width.amount, least)


def in_any_room(root: Node) -> Node:
    """A drawing without the width that it was drawn in: its holder gives it one."""
    return msgspec.structs.replace(root, style=root.style.set("width", GROW))
