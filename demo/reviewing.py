"""What was found when the ferry line's parts were looked at again and may stay as it is, with the
reason; and trials that every edit is tried against."""

from __future__ import annotations

from outgrowth.core.document.keeping import ALL, KeptTrial, Waiver
from outgrowth.core.document.records import Document
from outgrowth.core.edits.keeping import keep_check, waive

_OLD = "The old drawings stay as they came: gathering them is what they are for."
_CROOKED = "This list is crooked on purpose: setting it straight is the exercise."
_RING = "The browser's own ring is clearer on all our grounds than one of ours."
_PRESSED = "A press is told by what it does; on touch screens rest and press are one."
_ALWAYS = "It is only shown where it can be used; what cannot be is left out."

WAIVED: tuple[tuple[str, str, str], ...] = (
    ("before-gathering", "color-equals-token", _OLD),
    ("before-gathering", "drawn-like-instance", _OLD),
    ("jumbled", "words-contrast", _CROOKED),
    ("jumbled", "override-equal", _CROOKED),
    *[(c, "no-focus", _RING) for c in (
        "button", "icon-button", "toggle", "checkbox", "radio", "chip", "nav-entry", "island-item",
        "day-tab", "day",
    )],
    *[(c, "same-look", _PRESSED) for c in (
        "toggle", "chip", "timetable-row", "nav-entry", "island-item", "day-tab", "day",
    )],
    *[(c, "no-disabled", _ALWAYS) for c in (
        "icon-button", "toggle", "radio", "chip", "text-field", "nav-entry", "island-item",
        "day-tab",
    )],
    *[(c, "no-hover", "Its words beside it are the target, and the pointer tells so by its shape.")
      for c in ("checkbox", "radio", "text-field")],
    ("day", "no-disabled", "Days without boats are told by their dot; they can be looked at."),
    ("timetable-row", "role-missing",
     "The checkbox in the row is what keys and voices reach; a tap beside it only saves the aim."),
    ("icon-button", "name-missing", "Each of its instances says its own name."),
    ("toggle", "name-missing", "The words beside each of its instances are its name."),
    ("day-tabs", "timer-without-pause",
     "It shows how timers are wired; a tap on a day begins its time anew. Products need a pause."),
    ("day-tab", "motion-long", "The ring shows how much of a quarter's time is left."),
    ("checkbox", "state-no-way-in", "Only a list above others is in between: it is set there."),
    ("checkbox", "value-unused", "It is for the list of all passengers, which is to come."),
    ("button", "color-near-token", "A shade between foam and a press, for the eye alone."),
    ("timetable-row", "color-near-token", "A shade under the pointer, for the eye alone."),
    ("search-form", "spacing-off-scale", "With its line it is as high as a button."),
    ("day", "spacing-off-scale", "Six weeks have to fit a small screen."),
    *[(c, "name-taken", "The code's name is told in the hand-over, and says the same.") for c in (
        "checkbox", "text-field", "cell", "fare-card", "app-header", "island-item",
    )],
)  # fmt: skip
"""Owner, kind of finding, and why it may stay."""

KEPT = (
    KeptTrial("button", "growth", "own"),
    KeptTrial("fare-card", "growth", "width-320"),
    KeptTrial("app-header", "three-times", "width-320"),
)
"""Trials that hold, and have to."""


def with_waivers(document: Document) -> Document:
    """The document with what was waived, and with its kept trials."""
    waivers = [Waiver(owner, kind, (), ALL, reason) for owner, kind, reason in WAIVED]
    document = waive(document, waivers)
    for check in KEPT:
        document = keep_check(document, check)
    return document
