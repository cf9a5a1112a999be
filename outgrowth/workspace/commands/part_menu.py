"""The menu of what is selected: what fits it, the daily first, the rest by what it is about."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from outgrowth.workspace.commands.action import Action


class SubMenu(NamedTuple):
    """Actions that are seldom wanted, behind one line."""

    title: str
    actions: tuple[Action, ...]


MenuPart = tuple[Action | SubMenu, ...]
"""Lines between two rules of a menu."""

_PARTS: tuple[tuple[str | tuple[str, tuple[str, ...]], ...], ...] = (
    ("words", "exchange", "visit", "rename", "hide", "rotate"),
    ("cut", "copy", "paste", "paste-look", "duplicate", "remove"),
    (
        "make-component",
        "detach",
        "wrap",
        ("Boxes", ("wrap-inside", "unwrap")),
        ("Let instances set it", ("open-words", "open-shown", "open-slot")),
        ("Put back", ("put-back", "put-looks-back", "put-words-back")),
        ("Make its component so", ("push-up", "push-up-variant")),
        "make-states",
    ),
    (
        (
            "Place it",
            (
                "earlier",
                "later",
                "align-left",
                "align-center",
                "align-right",
                "align-top",
                "align-middle",
                "align-bottom",
                "spread-across",
                "spread-down",
                "push",
                "spacer",
            ),
        ),
        ("Select", ("neighbours", "same-kind", "same-component", "same-fill")),
        ("Variants", ("add-axis", "add-states", "not-offered", "offer-none", "take-out")),
        "return",
    ),
)


def part_menu(actions: Iterable[Action]) -> list[MenuPart]:
    """The menu of what is selected now: only what can be done. A sub-menu of one is that one."""
    by_id = {action.id: action for action in actions if action.enabled()}
    parts: list[MenuPart] = []
    for meant in _PARTS:
        lines: list[Action | SubMenu] = []
        for line in meant:
            if isinstance(line, str):
                lines += [by_id[line]] if line in by_id else []
                continue
            title, ids = line
            possible = tuple(by_id[i] for i in ids if i in by_id)
            if len(possible) == 1:
                lines.append(possible[0])
            elif possible:
                lines.append(SubMenu(title, possible))
        if lines:
            parts.append(tuple(lines))
    return parts
