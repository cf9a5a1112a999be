"""Which rows the ledger has for what is selected, and in which order."""

from __future__ import annotations

from outgrowth.core.document.properties import GROUPS, TABLE, NodeKind, StyleProperty


def sorted_rows(kinds: set[NodeKind]) -> list[StyleProperty]:
    """The table's rows that mean something for nodes of all these kinds, in the ledger's
    order of groups."""
    rows = [row for row in TABLE.values() if row.group in GROUPS and kinds <= row.kinds]
    return sorted(rows, key=lambda row: GROUPS.index(row.group))
