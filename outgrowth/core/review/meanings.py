"""Whether a part says what its role has to say: a switch whether it is on, a tab whether it is the
chosen one; and what a part could be that is tapped and only says yes or no.

Source: WAI-ARIA 1.2, section 5.2.2 (required states): aria-checked of checkbox, radio and switch;
WCAG 2.2, success criterion 4.1.2 (name, role, value).
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

from outgrowth.core.document.everyday_words import guessed
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Meaning,
)
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, component_of
from outgrowth.core.edits.variants.driving import axis_of_words, set_meaning
from outgrowth.core.exchange.slugs import free_name
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.targets import said_role

ROLE_MEANINGS: dict[str, tuple[Meaning, ...]] = {
    "switch": ("checked", "selected", "pressed"),
    "checkbox": ("checked", "selected", "pressed"),
    "radio": ("checked", "selected", "pressed"),
    "tab": ("selected", "checked", "pressed"),
}
"""By role: the meanings of an axis that say its state, the usual one first."""


class UnsaidMeaning(NamedTuple):
    """A role whose state no axis says: the meaning that it asks for, and the axis that seems to
    say it; None where there is no such axis."""

    role: str
    meaning: Meaning
    axis: Axis | None


def unsaid_meaning(component: Component) -> UnsaidMeaning | None:
    """What the role of a component asks for and no axis of it says; None for nothing."""
    role = said_role(component.root)
    meanings = ROLE_MEANINGS.get(role)
    if meanings is None or any(axis.meaning in meanings for axis in component.axes):
        return None
    return UnsaidMeaning(role, meanings[0], _seeming(component, meanings[0]))


def _seeming(component: Component, meaning: Meaning) -> Axis | None:
    """The axis that seems to say it: by the words of its values, else one that a tap changes, else
    the only one of two values."""
    free = [a for a in component.axes if a.driver == "none" and a.meaning == "none"]
    told = [a for a in free if guessed([v.name for v in a.values], a.name).meaning == meaning]
    tapped = [a for a in free if a.id in _tapped(component)]
    two = [a for a in free if len(a.values) == 2]
    # Of several of two values nothing tells which.
    return next(iter([*told, *tapped]), two[0] if len(two) == 1 else None)


def _tapped(component: Component) -> set[str]:
    """The component's own axes that a tap changes."""
    return {
        change.name
        for cue in component.behaviour.cues
        if cue.trigger.kind == "tap"
        for change in cue.changes
        if not change.at and change.act in ("set", "next")
    }


def meaning_findings(component: Component) -> Iterator[Finding]:
    """A role that asks for what no axis says."""
    unsaid = unsaid_meaning(component)
    if unsaid is None:
        return
    text = (
        f"“{component.name}” is a {unsaid.role}, and no axis of it says whether it is "
        f"{unsaid.meaning}: a screen reader can't tell."
    )
    yield finding("meaning-missing", component.id, (), text, meaning_mend(component, unsaid))


def meaning_mend(component: Component, unsaid: UnsaidMeaning) -> Mend:
    """What would say it: the axis that seems to, else a new one."""
    axis, meaning = unsaid.axis, unsaid.meaning
    if axis is None:
        title = f"give it an axis that says {meaning}"
        return Mend(title, partial(_with_axis, component.id, meaning))
    return Mend(
        f"let {axis.name} say {meaning}",
        lambda document: set_meaning(document, component.id, axis.id, meaning),
    )


def _with_axis(component_id: str, meaning: Meaning, document: Document) -> Document:
    component = component_of(document, component_id)
    axis_id = free_name(meaning, {axis.id for axis in component.axes})
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    axis = axis_of_words(component, meaning.capitalize(), values, axis_id)
    document = add_axis(document, component_id, axis)
    return set_meaning(document, component_id, axis_id, meaning)


def role_mends(component: Component) -> list[Mend]:
    """What a part could be that is tapped as a whole and has no role: of one whose tap changes an
    axis of two values, first that which says which of them it is."""
    place = Place(component.id)
    meaning = {"checked": "checkbox", "selected": "radio", "pressed": "button"}
    said = next((meaning[a.meaning] for a in component.axes if a.meaning in meaning), "")
    tapped = _tapped(component)
    turned = [
        axis
        for axis in component.axes
        if axis.id in tapped and len(axis.values) == 2 and axis.driver == "none"
    ]
    expanding = next((a for a in component.axes if a.meaning == "expanded"), None)
    roles = [said] if said else []
    if turned and not said and expanding is None:
        roles += ["switch", "checkbox"]
    roles += ["button"]
    return [
        Mend(f"make it a {role}", partial(_as_role, place, role, turned[0] if turned else None))
        for role in dict.fromkeys(roles)
    ]


def _as_role(place: Place, role: str, turned: Axis | None, document: Document) -> Document:
    """The part with a role; the axis that its tap changes says what that role asks for."""
    document = set_properties(document, place, {"role": role})
    component = component_of(document, place.owner)
    unsaid = unsaid_meaning(component)
    if unsaid is None:
        return document
    axis = component.axis(turned.id) if turned is not None else unsaid.axis
    if axis is None or axis.meaning != "none" or axis.driver != "none":
        return document
    return set_meaning(document, place.owner, axis.id, unsaid.meaning)
