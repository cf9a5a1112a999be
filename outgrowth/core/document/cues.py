"""What a part does: cues (trigger → what changes → how it moves) and the motions of its parts.

A cue lives on a component or screen and listens at a node of its tree, through instances
too: so an outer component can react to what happens inside an inner one, and an instance can
have cues of its own, which its holder keeps. Axes and values are named by id; a change says
whose axis it means by the path of the instance, from the owner of the cue.
"""

from __future__ import annotations

from typing import Literal, NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.types import ChosenType, NumberType, checked_name
from outgrowth.core.document.values import Literals
from outgrowth.core.refusal import ValueRefusal, shown_value

Path = tuple[str, ...]

TriggerKind = str
Act = str


class TriggerRow(NamedTuple):
    """One row of the table of triggers.

    name   what a list of triggers calls it
    said   the middle of the sentence “When … is tapped”; "" for one that is said in a way of
           its own (sentences.py)
    needs  what the trigger has to say besides its kind
    stop   whether a part that listens for it can be reached by Tab
    """

    name: str
    said: str
    needs: tuple[str, ...] = ()
    stop: bool = False


TRIGGER_ROWS: dict[TriggerKind, TriggerRow] = {
    "tap": TriggerRow("tapped", "is tapped", stop=True),
    "enter": TriggerRow("pointer comes", "meets the pointer"),
    "leave": TriggerRow("pointer goes", "is left by the pointer"),
    "press": TriggerRow("pressed", "is pressed"),
    "release": TriggerRow("let go", "is let go"),
    "long-press": TriggerRow("held down", "is held down"),
    "focus": TriggerRow("takes focus", "takes the focus", stop=True),
    "blur": TriggerRow("gives up focus", "gives up the focus", stop=True),
    "key": TriggerRow("a key", "", ("key",)),
    "appear": TriggerRow("appears", "appears"),
    "delay": TriggerRow("after a while", "", ()),
    "became": TriggerRow("a value comes", "", ("axis",)),
}
"""All triggers. To add one: a row here, and where it comes from in core/runtime (the pointer and
the keys: runtime.py; what follows from a change: consequences.py)."""


class ActRow(NamedTuple):
    """One row of the table of changes.

    means  what its name is the id of: an axis, a component property, a screen, or nothing
    """

    means: Literal["axis", "property", "screen", ""]


ACT_ROWS: dict[Act, ActRow] = {
    "set": ActRow("axis"),
    "next": ActRow("axis"),
    "give": ActRow("property"),
    "restart": ActRow(""),
    "go": ActRow("screen"),
    "back": ActRow(""),
}
"""All that a cue can do. To add one: a row here, its sentence, and its meaning in
core/runtime/rounds.py."""

TRIGGERS = tuple(TRIGGER_ROWS)
ACTS = tuple(ACT_ROWS)

HOLDER = ".."
"""As the only step of a change's path: the component that holds the cue's instance."""

TIME = NumberType(0.0, 600_000.0, "ms")
"""How long a motion, a delay or a timer may take."""
CHOSEN = ChosenType()
PLACE = NumberType()
"""Px on the cue board."""

NAMED_KEYS = frozenset(
    ["Enter", "Tab", "Escape", "Backspace", "Delete", "Insert", "ContextMenu"]
    + ["Home", "End", "PageUp", "PageDown", "ArrowUp", "ArrowDown", "ArrowLeft", "ArrowRight"]
    + [f"F{n}" for n in range(1, 25)]
)
"""Keys that are not letters. Source: UI Events KeyboardEvent key Values."""


def is_key(name: str) -> bool:
    """Whether a key is called so: by its letter (a space too), or by its name."""
    return len(name) == 1 or name in NAMED_KEYS


LONG_PRESS_MS = 500.0
"""How long a press is a long one. Common practice, no source."""


def _time(name: str, ms: float) -> float:
    try:
        return TIME.check(ms)
    except ValueRefusal as problem:
        raise ValueRefusal(f"The {name} must lie from 0 to {TIME.maximum / 1000:g} s.") from problem


def checked_path(path: Path) -> Path:
    """A path of ids as documents hold it. Raises ValueRefusal."""
    ids = tuple(checked_name(step, "id") for step in path)
    return path if ids == path else ids


def checked_conditions(when: Map[str, str]) -> Map[str, str]:
    """Values by their axes as documents hold them. Raises ValueRefusal."""
    for axis, value in when.items():
        clean = checked_name(axis, "id"), checked_name(value, "id")
        if clean != (axis, value):
            when = when.delete(axis).set(*clean)
    return when


def _set(record: msgspec.Struct, **fields: object) -> None:
    """Puts the checked form of fields into a record that is being made."""
    for name, value in fields.items():
        if getattr(record, name) is not value:
            msgspec.structs.force_setattr(record, name, value)


MOTION_PARTS = ("duration", "easing", "delay")
"""What of a motion a design token can give."""


def _checked_parts(tokens: Map[str, str]) -> Map[str, str]:
    if not isinstance(tokens, Map):
        raise ValueRefusal(f"{shown_value(tokens)} are no tokens of a motion's parts.")
    for part, path in tokens.items():
        if part not in MOTION_PARTS:
            raise ValueRefusal(f"{shown_value(part)} is no part of a motion.")
        if not checked_name(path, "token's name"):
            raise ValueRefusal("A reference to a token needs the token's name.")
        if checked_name(path) != path:
            tokens = tokens.set(part, checked_name(path))
    return tokens


class Motion(msgspec.Struct, frozen=True):
    """How a change moves: times in ms; easing in CSS Easing Functions notation, or
    `spring(stiffness, damping, mass)`, which takes its own time, or `bounce(share)`, a spring
    of the duration (docs/decisions.md). `tokens` are the design tokens that give its parts, by
    the parts' names: what they say counts, and these times and easing where one is gone."""

    duration: float
    easing: str = "ease-out"
    delay: float = 0.0
    tokens: Map[str, str] = Map()
    more: str = ""

    def __post_init__(self) -> None:
        _set(self, duration=_time("duration", self.duration), delay=_time("delay", self.delay))
        _set(self, easing=checked_name(self.easing, "easing"))
        if self.tokens:
            _set(self, tokens=_checked_parts(self.tokens))


class Trigger(msgspec.Struct, frozen=True):
    """When a cue acts.

    key          for `key`: the key's name as in the DOM (UI Events KeyboardEvent key Values)
    ms           for `delay`: how long its conditions have held
    hold         for `long-press`: how long it is held down (ms), 0 for the usual time
    token        for these two: the token of a duration that says so instead
    axis, value  for `became`: an axis of the instance at the cue's node
    """

    kind: TriggerKind
    key: str = ""
    ms: float = 0.0
    axis: str = ""
    value: str = ""
    token: str = ""
    hold: float = 0.0
    more: str = ""

    def __post_init__(self) -> None:
        if self.kind not in TRIGGERS:
            raise ValueRefusal(f"{shown_value(self.kind)} is no trigger.")
        _set(self, ms=_time("delay", self.ms), key=checked_name(self.key, "key"))
        _set(self, axis=checked_name(self.axis, "id"), value=checked_name(self.value, "id"))
        _set(self, token=checked_name(self.token, "token"), hold=_time("delay", self.hold))


class Change(msgspec.Struct, frozen=True):
    """One thing that a cue does.

    act    set an axis to a value, go to its next one, give a component property a value,
           restart the timers of an instance, go to a screen, go back
    at     the instance that it means, from the cue's owner: () the owner itself, (HOLDER,)
           what holds it
    name   the axis, the property, or the screen
    value  the axis value's id, or the property's value
    """

    act: Act
    name: str = ""
    value: Literals = ""
    at: Path = ()
    more: str = ""

    def __post_init__(self) -> None:
        if self.act not in ACTS:
            raise ValueRefusal(f"{shown_value(self.act)} is nothing that a cue does.")
        _set(self, name=checked_name(self.name), value=CHOSEN.check(self.value))
        _set(self, at=checked_path(self.at))


class Condition(msgspec.Struct, frozen=True):
    """That an axis has one of some values: of the cue's owner, or of the instance at a path
    from it, (HOLDER,) what holds it. Axis and values by id."""

    axis: str
    values: tuple[str, ...]
    at: Path = ()

    def __post_init__(self) -> None:
        values = tuple(dict.fromkeys(checked_name(value, "id") for value in self.values))
        if not self.axis or not values:
            raise ValueRefusal("A condition names an axis and at least one of its values.")
        _set(self, axis=checked_name(self.axis, "id"), at=checked_path(self.at))
        if values != self.values:
            _set(self, values=values)


class Cue(msgspec.Struct, frozen=True):
    """When the trigger comes to the node at `node`, the owner's axes have the values of `when`,
    and the further conditions hold, the changes are made, and move by `motion` (None: as the
    axes say)."""

    id: str
    node: Path
    trigger: Trigger
    changes: tuple[Change, ...]
    when: Map[str, str] = Map()
    motion: Motion | None = None
    conditions: tuple[Condition, ...] = ()
    more: str = ""

    def __post_init__(self) -> None:
        _set(self, id=checked_name(self.id, "id"), node=checked_path(self.node))
        _set(self, when=checked_conditions(self.when))


def unsaid(cue: Cue) -> str:
    """What a cue leaves open that it has to say, as a sentence; nothing for a whole one."""
    trigger = cue.trigger
    for need in TRIGGER_ROWS[trigger.kind].needs:
        if not getattr(trigger, need):
            return f"Say which {need} the cue listens for."
    if trigger.kind == "key" and not is_key(trigger.key):
        return f"There is no key called “{trigger.key}”."
    if not cue.changes:
        return "A cue needs something to change."
    for change in cue.changes:
        if ACT_ROWS[change.act].means and not change.name:
            return f"Say which {ACT_ROWS[change.act].means} the cue should {change.act}."
    return ""


class Silence(msgspec.Struct, frozen=True):
    """That the instance at `path` (from the owner) does not have a cue it would inherit."""

    path: Path
    cue: str

    def __post_init__(self) -> None:
        if not self.path:
            raise ValueRefusal("Only an instance inside can be without a cue.")
        _set(self, path=checked_path(self.path), cue=checked_name(self.cue, "id"))


class PartMotion(msgspec.Struct, frozen=True):
    """How one node, or one property of it ("" for all), moves within any change."""

    node: Path
    property: str
    motion: Motion

    def __post_init__(self) -> None:
        _set(self, node=checked_path(self.node), property=checked_name(self.property))


class Behaviour(msgspec.Struct, frozen=True):
    """All that an owner does. `places` are where states stand on the cue board, by hand. `leads`
    are the instances in it that move with the owner's change where that sets an axis of theirs;
    the others move as they themselves say."""

    cues: tuple[Cue, ...] = ()
    silenced: tuple[Silence, ...] = ()
    motions: tuple[PartMotion, ...] = ()
    places: Map[str, tuple[float, float]] = Map()
    leads: tuple[Path, ...] = ()

    def __post_init__(self) -> None:
        places = self.places
        for state, (x, y) in places.items():
            place = PLACE.check(x), PLACE.check(y)
            if checked_name(state) is not state:
                places = places.delete(state)
            places = places.set(checked_name(state), place)
        if places != self.places:
            _set(self, places=places)
        _set(self, leads=tuple(checked_path(path) for path in self.leads))

    def without(self, removed: set[str]) -> Behaviour:
        """What is left when nodes of the owner's tree are gone."""
        cues = []
        for cue in self.cues:
            changes = tuple([c for c in cue.changes if not (c.at and c.at[0] in removed)])
            needs = [cue.node, *[condition.at for condition in cue.conditions]]
            if changes and not any(path and path[0] in removed for path in needs):
                same = len(changes) == len(cue.changes)
                cues.append(cue if same else msgspec.structs.replace(cue, changes=changes))
        return Behaviour(
            tuple(cues),
            tuple([s for s in self.silenced if s.path[0] not in removed]),
            tuple([p for p in self.motions if not (p.node and p.node[0] in removed)]),
            self.places,
            tuple([path for path in self.leads if path[:1] and path[0] not in removed]),
        )


STILL = Behaviour()
