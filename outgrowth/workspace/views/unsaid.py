"""What the role of a component asks for and none of its axes says, for the sheet of axes."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from outgrowth.core.document.records import Component, Document
from outgrowth.core.review.meanings import meaning_mend, unsaid_meaning


class UnsaidRow(NamedTuple):
    """A sentence, and what would mend it: its title and the edit."""

    text: str
    title: str
    change: Callable[[Document], Document]


def unsaid_row(component: Component) -> UnsaidRow | None:
    """What is missing for the component's role; None for nothing."""
    unsaid = unsaid_meaning(component)
    if unsaid is None:
        return None
    mend = meaning_mend(component, unsaid)
    text = f"It is a {unsaid.role}, and no axis says whether it is {unsaid.meaning}."
    return UnsaidRow(text, mend.title[:1].upper() + mend.title[1:], mend.change)
