"""The list of keys, made from the actions: for the window, and for the command line."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from outgrowth.workspace.commands.action import Action
from outgrowth.workspace.commands.actions import commands
from outgrowth.workspace.text_search import has_words, means_words

_BENCH = (
    ("Go into a box, an instance, or the words", "Enter, or a double click"),
    ("Go out; let go; lay the pen down", "Esc"),
    ("Go to the neighbour before, or after", "Page up, page down"),
    ("Nudge what stands free", "Arrow keys, with Shift by 8"),
    ("Go from variant to variant", "Arrow keys, with Ctrl always"),
    ("Pick the innermost part", "Alt with a click"),
    ("Select besides", "Ctrl or Shift with a click"),
    ("Move the view", "Space or the middle button, and drag"),
    ("Look closer or step back", "Ctrl with the wheel"),
)
"""What keys and the mouse do on a bench; these are no actions, since they mean something only
there."""


class _Nobody:
    """Stands for a window where actions are only named."""

    def __getattr__(self, name: str) -> _Nobody:
        return self

    def __call__(self) -> None:
        """Does nothing."""


def all_titles() -> list[Action]:
    """The actions for reading what they are called and by which keys; none can be done."""
    nobody = _Nobody()
    return commands(nobody, nobody)  # type: ignore[arg-type]  # nothing is asked of them


class KeyRow(NamedTuple):
    """What can be done, by which keys ("" for by name only), and under which heading."""

    group: str
    title: str
    keys: str


def key_rows(actions: Iterable[Action], search: str = "") -> list[KeyRow]:
    """All that can be done, or what of it has the words of a search in it."""
    rows = [KeyRow(action.group, action.title, action.shortcut) for action in actions]
    rows += [KeyRow("On the bench", title, pressed) for title, pressed in _BENCH]
    called = [row for row in rows if has_words(" ".join(row), search)]
    return called or [row for row in rows if means_words(" ".join(row), search)]


def keys_text(rows: Iterable[KeyRow]) -> str:
    """The rows as lines for a terminal, under their headings."""
    lines: list[str] = []
    group = ""
    for row in rows:
        if row.group != group:
            lines += ["", row.group] if lines else [row.group]
            group = row.group
        lines.append(f"  {row.title:<52} {row.keys or 'by name'}".rstrip())
    return "\n".join(lines)
