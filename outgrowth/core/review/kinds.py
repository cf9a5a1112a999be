"""All that the review can point at: a row each, with what it is called, its source, and how sure
it is. To add one: a row here, and the check that finds it."""

from __future__ import annotations

from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import Path
from outgrowth.core.document.variants import Variant
from outgrowth.core.review.finding import PRACTICE, Finding, Mend, ReviewSubject, Sure
from outgrowth.core.trials.breaks import KINDS as BREAKS


class KindRow(NamedTuple):
    """A kind of finding: its subject, what all of it are called, its source, how sure it is."""

    subject: ReviewSubject
    title: str
    source: str = PRACTICE
    sure: Sure = "maybe"


_GROWTH = f"{PRACTICE}; growth: W3C, “Text size in translation”"
_SPILLING = ("words-cut", "words-outside", "part-outside", "parts-overlap", "squeezed")

ROWS: dict[str, KindRow] = {
    "words-contrast": KindRow(
        "contrast", "Words that are hard to read", "WCAG 2.2, 1.4.3", "error"
    ),
    "words-over-picture": KindRow("contrast", "Words on a picture", "WCAG 2.2, 1.4.3"),
    "mark-contrast": KindRow(
        "contrast", "Marks that are hard to see", "WCAG 2.2, 1.4.11", "likely"
    ),
    "focus-contrast": KindRow(
        "contrast", "A focus that is hard to see", "WCAG 2.2, 2.4.13 (AAA)", "likely"
    ),
    "target-small": KindRow(
        "targets", "Targets too small for a finger", "WCAG 2.2, 2.5.8", "likely"
    ),
    "target-below-44": KindRow(
        "targets", "Targets that are not comfortable", "WCAG 2.2, 2.5.5 (AAA)"
    ),
    "target-covered": KindRow("targets", "Targets under something else", PRACTICE, "error"),
    "target-click-through": KindRow(
        "targets", "Targets that let presses through", PRACTICE, "error"
    ),
    "hover-only": KindRow("targets", "Words only under the pointer", "WCAG 2.2, 2.1.1", "likely"),
    "hover-pushes": KindRow("states", "A hover that pushes what is beside it", PRACTICE, "likely"),
    "error-by-color": KindRow(
        "states", "Errors that only a colour tells", "WCAG 2.2, 1.4.1", "error"
    ),
    "focus-unseen": KindRow("states", "A focus on what is not seen", "WCAG 2.2, 2.4.7", "error"),
    "time-leaves": KindRow("states", "What leaves by itself", "WCAG 2.2, 2.2.1", "likely"),
    "no-hover": KindRow("states", "Nothing shows the pointer"),
    "no-focus": KindRow("states", "Nothing shows the focus", "WCAG 2.2, 2.4.7"),
    "no-disabled": KindRow("states", "Nothing for when it is off"),
    "same-look": KindRow("states", "Values that look the same"),
    "room-nothing-new": KindRow("states", "Rooms that show nothing new", PRACTICE, "likely"),
    "room-unfit": KindRow("states", "Rooms too small for what they show", PRACTICE, "likely"),
    "room-circle": KindRow("states", "Rooms that depend on themselves", "CSS Containment 3, 3.2"),
    "same-meaning": KindRow("states", "Meanings that look the same", PRACTICE, "likely"),
    "cue-into-not-offered": KindRow("states", "Cues into what is not offered", PRACTICE, "likely"),
    "cue-names-gone": KindRow("states", "Cues that name what is gone", PRACTICE, "error"),
    "cues-one-id": KindRow("states", "Cues that share an id", PRACTICE, "error"),
    "timer-without-pause": KindRow(
        "states", "Timers that nothing pauses", "WCAG 2.2, 2.2.2", "likely"
    ),
    "motion-long": KindRow("states", "Motions that take long"),
    "state-no-way-out": KindRow("states", "States with no way out"),
    "state-no-way-in": KindRow("states", "States with no way in"),
    "one-way-jump": KindRow("states", "Screens with no way back", PRACTICE, "likely"),
    "role-missing": KindRow("names", "Pressed, and without a role", "WCAG 2.2, 4.1.2", "error"),
    "meaning-missing": KindRow("names", "Roles without their state", "WCAG 2.2, 4.1.2", "error"),
    "name-missing": KindRow("names", "Nothing to be read aloud", "WCAG 2.2, 4.1.2"),
    "picture-without-words": KindRow("names", "Pictures without words", "WCAG 2.2, 1.1.1"),
    "label-in-name": KindRow("names", "Read aloud otherwise than seen", "WCAG 2.2, 2.5.3", "error"),
    "buttons-alike": KindRow("names", "Buttons of one name", "WCAG 2.2, 2.4.6"),
    "group-without-name": KindRow(
        "names", "Groups without a name", "WAI-ARIA 1.2, radiogroup", "likely"
    ),
    "tab-without-list": KindRow("names", "Tabs in no list of tabs", "WAI-ARIA 1.2, tab", "error"),
    "panel-without-role": KindRow(
        "names", "Panels of tabs without a role", "WAI-ARIA 1.2, tabpanel", "likely"
    ),
    "list-item-tapped": KindRow("names", "List items that are tapped", "WCAG 2.2, 4.1.2", "error"),
    "focus-order": KindRow("names", "Keys against the eye", "WCAG 2.2, 2.4.3", "likely"),
    "color-equals-token": KindRow("system", "Colours that are a token’s", PRACTICE, "likely"),
    "color-near-token": KindRow("system", "Colours beside a token"),
    "length-equals-token": KindRow("system", "Lengths that are a token’s", PRACTICE, "likely"),
    "length-near-token": KindRow("system", "Lengths beside a token"),
    "spacing-off-scale": KindRow("system", "Spacing off the scale"),
    "components-near-equal": KindRow("system", "Components nearly the same"),
    "drawn-like-instance": KindRow("system", "Drawn, and like an instance", PRACTICE, "likely"),
    "axis-unused": KindRow("system", "Axes that change nothing", PRACTICE, "likely"),
    "value-unused": KindRow("system", "Values that nothing shows"),
    "values-spelled-apart": KindRow("system", "One value, spelled in two ways"),
    "token-unused": KindRow("system", "Tokens that nothing names"),
    "property-unused": KindRow("system", "Properties nothing follows", PRACTICE, "likely"),
    "component-unused": KindRow("system", "Components that stand nowhere"),
    "rule-names-gone": KindRow("rules", "Rules that name what is gone", PRACTICE, "error"),
    "rule-never-wins": KindRow("rules", "Rules that never win", PRACTICE, "likely"),
    "rules-for-every-value": KindRow("rules", "Rules that one could be"),
    "override-equal": KindRow("rules", "Overrides that say nothing"),
    "fixed-around-words": KindRow("layout", "Fixed heights around words", _GROWTH),
    "type-small": KindRow("layout", "Letters too small to read"),
    "family-missing": KindRow("layout", "Typefaces that are not there", PRACTICE, "error"),
    "letters-missing": KindRow("layout", "Letters that no font has", PRACTICE, "error"),
    "font-not-carried": KindRow("layout", "Fonts that only this machine has", PRACTICE, "likely"),
    "names-alike": KindRow("hand-over", "Parts called the same"),
    "components-alike": KindRow("hand-over", "Components called the same"),
    "name-says-nothing": KindRow("hand-over", "Names that say nothing"),
    "name-taken": KindRow("hand-over", "Names that are taken in code"),
    "trial-gone": KindRow("trials", "Kept trials of what is gone", PRACTICE, "likely"),
}
ROWS |= {
    f"spills-{kind}": KindRow("layout", f"Spills: {BREAKS[kind]}", PRACTICE, "likely")
    for kind in _SPILLING
}
ROWS |= {
    f"trial-{kind}": KindRow("trials", f"Breaks in a kept trial: {title}", PRACTICE, "error")
    for kind, title in BREAKS.items()
}


def spills(kind: str) -> bool:
    """Whether a break of this kind is one in a part as it is drawn, with nothing tried."""
    return kind in _SPILLING


def finding(
    kind: str,
    owner: str,
    node: Path,
    text: str,
    mend: Mend | None = None,
    about: str = "",
    variant: Variant = Map(),  # noqa: B008  # it never changes
) -> Finding:
    """A finding of a kind, with what the table says of all of them."""
    subject, _, source, sure = ROWS[kind]
    return Finding(subject, kind, owner, node, text, source, sure, mend, about, variant)
