"""Which rows the ledger has for what is selected, and in which order."""

from __future__ import annotations

import msgspec

from outgrowth.core.document.properties import GROUPS, TABLE, NodeKind, StyleProperty

# Where a part stands that takes no turn among its neighbours.
_PLACE = ("x", "y", "pin-x", "pin-y", "right", "bottom", "floating")
_SEEN = frozenset(("x", "y", "pin-x", "pin-y"))


def sorted_rows(kinds: set[NodeKind], free: bool = False) -> list[StyleProperty]:
    """The table's rows that mean something for nodes of all these kinds, in the ledger's
    order of groups; of what stands `free`, its place and its pins first, and never put away."""
    rows = [row for row in TABLE.values() if row.group in GROUPS and kinds <= row.kinds]
    if free:
        rows = [msgspec.structs.replace(r, quiet=False) if r.name in _SEEN else r for r in rows]

    def turn(row: StyleProperty) -> tuple[int, int]:
        first = free and row.group == "Position"
        place = _PLACE.index(row.name) if row.name in _PLACE else len(_PLACE)
        own = place if row.group == "Position" else 0
        return -1 if first else GROUPS.index(row.group), own

    return sorted(rows, key=turn)


# An inset's name: the property that ties it, its letter, and the edge that it counts from.
_INSETS: dict[str, tuple[str, str, str]] = {
    "x": ("pin-x", "X", "left"),
    "y": ("pin-y", "Y", "top"),
}


def inset_text(name: str, pin: object) -> str:
    """What an inset's row says it counts from, for what the part is tied to; empty for a value
    that is no inset."""
    if name not in _INSETS:
        return ""
    _, letter, edge = _INSETS[name]
    counted = {"center": "middle", "end": "unused"}.get(str(pin), edge)
    return f"{letter} · {counted}"


def pin_of(name: str) -> str:
    """The property that says what an inset counts from; empty for a value that is none."""
    return _INSETS[name][0] if name in _INSETS else ""
