"""Parts of the demo to begin with: each becomes an ordinary component of the file."""

from __future__ import annotations

from functools import cache
from typing import NamedTuple

from outgrowth.core.document.records import Document
from outgrowth.core.exchange.native import load
from outgrowth.resources import DEMO


class Starter(NamedTuple):
    """A component of the demo that is a good beginning, and what it shows in a few words."""

    component: str
    name: str
    about: str


STARTERS = (
    Starter("button", "Button", "two kinds, hover, press, disabled"),
    Starter("toggle", "Toggle", "on and off, by pointer and key"),
    Starter("notice", "Expander", "opens and pushes the rest down"),
    Starter("day-tabs", "Tabs", "one of many, advancing by itself"),
    Starter("timetable-row", "List row", "plain and selectable"),
    Starter("fare-card", "Card", "a slot for an icon, a nested button"),
)


@cache
def starters() -> Document:
    """The document that the starters come from, read when it is first asked for."""
    return load(DEMO)
