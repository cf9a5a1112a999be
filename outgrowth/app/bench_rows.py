"""The table of benches: what can stand in the middle of a window."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PyQt6.QtWidgets import QWidget


def nothing() -> None:
    """A bench that begins with what it is given needs nothing when it comes."""


class BenchRow(NamedTuple):
    """One row. To add a bench: its widget in app/benches, a row where the window's frame
    lists them, and an action that shows it by its name.

    name    by which it is shown (`BenchView.show`)
    widget  what stands in the middle; it says when it is left, and leads to parts by
            `visited(owner, path)`, if it has them
    begin   called each time it comes
    edits   whether the document is edited there: reach and layers stay in sight
    alone   whether it shows what the panels show, larger: they are out of sight meanwhile
    """

    name: str
    widget: QWidget
    begin: Callable[[], object] = nothing
    edits: bool = False
    alone: bool = False
