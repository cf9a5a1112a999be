"""What the ferry line's parts are for, how to use them, and how not to."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.records import Document
from outgrowth.core.edits.tree.components import advise, describe


class _Guidance(NamedTuple):
    about: str
    dos: tuple[str, ...] = ()
    donts: tuple[str, ...] = ()


_GUIDANCE = {
    "button": _Guidance(
        "Starts what the screen is there for.",
        ("Say what happens, a verb first.", "One primary button a screen."),
        ("Two lines of words.",),
    ),
    "icon-button": _Guidance(
        "A step that an icon alone makes clear.", ("Give it a label for those who hear it.",)
    ),
    "toggle": _Guidance(
        "Something that is on or off at once.", (), ("For what only counts once it is sent.",)
    ),
    "checkbox": _Guidance("One of several things that can all be chosen."),
    "radio": _Guidance("One of a few things of which one is chosen.", ("Two to five in a group.",)),
    "chip": _Guidance("A filter of what stands below it.", ("Short words, in one line.",)),
    "text-field": _Guidance(
        "A line that somebody types.", ("Say what is wrong, and how to mend it.",)
    ),
    "notice": _Guidance("A question that people ask, and its answer when it is opened."),
    "timetable-row": _Guidance(
        "A sailing in a table; with a box where several can be chosen.",
        ("Put the header above, of the same kind.",),
        ("Margins of its own for one row.",),
    ),
    "navigation": _Guidance(
        "The places of the phone app; it marks where one is.", ("At the bottom of every place.",)
    ),
}


def with_guidance(document: Document) -> Document:
    """The document whose parts say what they are for."""
    for component, guidance in _GUIDANCE.items():
        document = describe(document, component, guidance.about)
        document = advise(document, component, guidance.dos, guidance.donts)
    return document
