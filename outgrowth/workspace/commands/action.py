"""Actions as data: menus, "find or do", the list of shortcuts and their tests come from
these records."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple


class Action(NamedTuple):
    """One thing that can be done by name.

    id        for tests and menus; never shown
    title     what it does, as a person would say it
    group     where the list of shortcuts puts it
    run       does it
    enabled   whether it can be done now
    shortcut  in Qt's portable notation; "" for none
    of_all    whether it changes all variants, however narrow the reach is
    """

    id: str
    title: str
    group: str
    run: Callable[[], object]
    enabled: Callable[[], bool] = lambda: True
    shortcut: str = ""
    of_all: bool = False


def doubled_shortcuts(actions: list[Action]) -> list[str]:
    """Shortcuts that more than one action claims."""
    visited: set[str] = set()
    doubled = []
    for action in actions:
        if action.shortcut and action.shortcut in visited:
            doubled.append(action.shortcut)
        visited.add(action.shortcut)
    return doubled
