"""Builds the whole demo document; `python -m outgrowth.demo` writes it as a file."""

from __future__ import annotations

from outgrowth.core.document.records import Document
from outgrowth.demo.gathering import with_page
from outgrowth.demo.parts import with_button, with_icon_button, with_icons, with_tokens
from outgrowth.demo.screens import with_boarding, with_desk

STEPS = (
    with_tokens,
    with_icons,
    with_button,
    with_icon_button,
    with_boarding,
    with_desk,
    with_page,
)


def ferry_line() -> Document:
    """Holm & Skerry Ferries: made anew, the same every time."""
    document = Document("Holm & Skerry")
    for step in STEPS:
        document = step(document)
    return document
