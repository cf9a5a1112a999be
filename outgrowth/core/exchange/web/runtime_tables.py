"""What the page's runtime shares with this program: its constants are written from here, and what
it can do is said here, so that a hand-over refuses what would be dead in a page.

`python -m tools.generated` writes `constants()` into resources/web/runtime.js, between its two
marks; `bin/runtime` makes the small one. tests/core/exchange/test_runtime_tables.py holds each
name of the sets below against the script, and each row of the document's tables against the sets.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from outgrowth.core.document.cues import (
    ACT_ROWS,
    HOLDER,
    LONG_PRESS_MS,
    TRIGGER_ROWS,
)
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.records import (
    MEANINGS,
    POINTER_VALUES,
    Component,
    Owner,
    ValuePart,
    walk,
)
from outgrowth.core.document.types import Json
from outgrowth.core.exchange.web.modules import javascript
from outgrowth.core.refusal import Refusal, quoted
from outgrowth.core.runtime.dispatch import MOST_ROUNDS
from outgrowth.core.runtime.focus import GROUPS, TAPPED_BY
from outgrowth.core.runtime.runtime import MOST_LOOKS

TRIGGERS_HEARD = frozenset(
    [
        "tap",
        "enter",
        "leave",
        "press",
        "release",
        "long-press",
        "focus",
        "blur",
        "key",
        "appear",
        "delay",
        "became",
    ]
)
"""The triggers that runtime.js hears. To add one: where it comes from in the script, and here."""

ACTS_DONE = frozenset(["set", "next", "give", "restart", "go", "back"])
"""The changes of a cue that runtime.js makes. “give” is written as “set” (cue_data.py)."""

ROLES_TOLD = frozenset(
    [
        "none",
        "button",
        "link",
        "checkbox",
        "switch",
        "radio",
        "radiogroup",
        "tab",
        "tablist",
        "tabpanel",
        "textbox",
        "img",
        "list",
        "listitem",
        "heading",
    ]
)
"""The roles that elements can have: their keys and groups are in the tables below."""

MEANINGS_TOLD = frozenset(MEANINGS)
"""The meanings of axes that elements tell assistive technology, forms and scripts."""

HELD_BY = {"tab": "tablist", "listitem": "list"}
"""Roles that are told only in a part of another one. Source: WAI-ARIA 1.2, section 5.2.7
(required context role)."""

TRANSFORMS = ("translate", "rotate", "scale")
"""Computed styles that move a picture and no layout: they are off while places are measured."""

TWEENED_AS: dict[str, tuple[str, ...]] = {
    "translate-x": ("translate",),
    "translate-y": ("translate",),
    "rotate": ("rotate",),
    "scale": ("scale",),
    "opacity": ("opacity",),
    "focal-x": ("objectPosition",),
    "focal-y": ("objectPosition",),
    "color": ("color",),
    "fill": ("backgroundColor", "backgroundImage", "fill"),
    "shadow": ("boxShadow",),
    "font-size": ("fontSize",),
    "letter-spacing": ("letterSpacing",),
    # A stroke that is the same all around and inside is a shadow (css.py).
    "stroke": ("boxShadow", "borderTopColor", "stroke"),
    "line-width": ("strokeWidth",),
    "thickness": ("rx", "ry", "strokeWidth"),
    "arc-sweep": ("strokeDasharray",),
    "arc-start": ("rotate",),
    **{
        name: (f"border{name.removeprefix('radius-').title().replace('-', '')}Radius",)
        for name in FAMILY_MEMBERS["radius"]
    },
    **{
        name: ("boxShadow", f"border{name.removeprefix('stroke-').title()}Width")
        for name in FAMILY_MEMBERS["stroke-width"]
    },
}
"""By row of the property table: the computed styles of CSS that change when it does, and that the
runtime tweens, as scripts call them (CSSOM, section 6.6.1)."""

BOX = "box"
"""What the runtime calls the place and size of an element: what layout decides is tweened so."""

_LOOKS = (
    *TRANSFORMS,
    *dict.fromkeys(
        name for names in TWEENED_AS.values() for name in names if name not in TRANSFORMS
    ),
)

BEGIN = "// --- Shared with the program: python -m tools.generated writes this "
END = "// --- To here "


def part_by_name(name: str) -> ValuePart:
    """What the runtime takes a value of a pointer's axis for that the definition says nothing
    of."""
    return next((part for part in POINTER_VALUES if part == name), "disabled")


def constants() -> str:
    """The part of runtime.js between its marks, both included."""
    tables: dict[str, Json] = {
        "HOLDER": HOLDER,
        "POINTED": list(POINTER_VALUES),
        "MOST_ROUNDS": MOST_ROUNDS,
        "MOST_LOOKS": MOST_LOOKS,
        "LONG_PRESS": int(LONG_PRESS_MS),
        "TAPPED_BY": {role: list(keys) for role, keys in TAPPED_BY.items()},
        "AROUND": dict(HELD_BY),
        "GROUPS": dict(GROUPS),
        "STILL": list(TRANSFORMS),
        "LOOKS": list(_LOOKS),
    }
    lines = [f"const {name} = {javascript(value, '', 12)};" for name, value in tables.items()]
    return "\n".join([BEGIN.ljust(99, "-"), *lines, END.ljust(99, "-")])


def with_constants(script: str) -> str:
    """A script with what stands between its marks written anew. Raises ValueError without them."""
    start, end = script.index(BEGIN), script.index(END)
    return script[:start] + constants() + script[script.index("\n", end) :]


class PageRefusal(Refusal):
    """A document has something that its page could not do; the message says what and where."""


def refuse_what_a_page_cannot(owners: Iterable[Owner]) -> None:
    """Raises PageRefusal for the first thing that would be dead in the page."""
    for owner in owners:
        for problem in _cannot(owner):
            name = quoted(owner.name)
            raise PageRefusal(f"“{name}” can't be handed over: {problem} Nothing was written.")


def _cannot(owner: Owner) -> Iterator[str]:
    for cue in owner.behaviour.cues:
        if cue.trigger.kind not in TRIGGERS_HEARD:
            trigger = TRIGGER_ROWS[cue.trigger.kind].name
            yield f"a page doesn't hear “{trigger}”; give the cue another trigger."
        for change in cue.changes:
            if change.act not in ACTS_DONE:
                act = ACT_ROWS[change.act].means or "what is there"
                yield f"a page can't “{change.act}” {act}; let the cue do something else."
    nodes = list(walk(owner.root))
    roles = [node.style.get("role") for node in nodes]
    rules = [rule for node in nodes for rule in node.overrides]
    if isinstance(owner, Component):
        rules += owner.rules
        for axis in owner.axes:
            if axis.meaning not in MEANINGS_TOLD:
                yield f"elements can't tell that an axis means “{axis.meaning}”."
    for role in (*roles, *(rule.value for rule in rules if rule.property == "role")):
        if isinstance(role, str) and role not in ROLES_TOLD:
            yield f"elements can't be “{role}”; give the part another role."
