"""What a part does: cues (trigger → what changes → how it moves) and the motions of its parts.

A cue lives on a component or screen and listens at a node of its tree, through instances
too: so an outer component can react to what happens inside an inner one, and an instance can
have cues of its own, which its holder keeps. Axes and values are named by id; a change says
whose axis it means by the path of the instance, from the owner of the cue.
"""

from __future__ import annotations

from typing import Literal, get_args

import msgspec
from immutables import Map

from outgrowth.core.document.values import Literals

Path = tuple[str, ...]

TriggerKind = Literal[
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
Act = Literal["set", "next", "give", "go", "back"]

TRIGGERS: tuple[str, ...] = get_args(TriggerKind)
ACTS: tuple[str, ...] = get_args(Act)
HOLDER = ".."
"""As the only step of a change's path: the component that holds the cue's instance."""

LONG_PRESS_MS = 500.0
"""How long a press is a long one. Common practice, no source."""


class Motion(msgspec.Struct, frozen=True):
    """How a change moves: times in ms; easing in CSS Easing Functions notation, or
    `spring(stiffness, damping, mass)`, which takes its own time, or `bounce(share)`, a spring
    of the duration (docs/architecture.md)."""

    duration: float
    easing: str = "ease-out"
    delay: float = 0.0


class Trigger(msgspec.Struct, frozen=True):
    """When a cue acts.

    key          for `key`: the key's name as in the DOM (UI Events KeyboardEvent key Values)
    ms           for `delay`: how long its conditions have held
    axis, value  for `became`: an axis of the instance at the cue's node
    """

    kind: TriggerKind
    key: str = ""
    ms: float = 0.0
    axis: str = ""
    value: str = ""


class Change(msgspec.Struct, frozen=True):
    """One thing that a cue does.

    act    set an axis to a value, go to its next one, give a component property a value, go
           to a screen, go back
    at     the instance that it means, from the cue's owner: () the owner itself, (HOLDER,)
           what holds it
    name   the axis, the property, or the screen
    value  the axis value's id, or the property's value
    """

    act: Act
    name: str = ""
    value: Literals = ""
    at: Path = ()


class Cue(msgspec.Struct, frozen=True):
    """When the trigger comes to the node at `node` and the owner's axes have the values of
    `when`, the changes are made, and move by `motion` (None: as the axes say)."""

    id: str
    node: Path
    trigger: Trigger
    changes: tuple[Change, ...]
    when: Map[str, str] = Map()
    motion: Motion | None = None


class Silence(msgspec.Struct, frozen=True):
    """That the instance at `path` (from the owner) does not have a cue it would inherit."""

    path: Path
    cue: str


class PartMotion(msgspec.Struct, frozen=True):
    """How one node, or one property of it ("" for all), moves within any change."""

    node: Path
    property: str
    motion: Motion


class Behaviour(msgspec.Struct, frozen=True):
    """All that an owner does. `places` are where states stand on the cue board, by hand."""

    cues: tuple[Cue, ...] = ()
    silenced: tuple[Silence, ...] = ()
    motions: tuple[PartMotion, ...] = ()
    places: Map[str, tuple[float, float]] = Map()

    def without(self, gone: set[str]) -> Behaviour:
        """What is left when nodes of the owner's tree are gone."""
        cues = []
        for cue in self.cues:
            changes = tuple([c for c in cue.changes if not (c.at and c.at[0] in gone)])
            if changes and not (cue.node and cue.node[0] in gone):
                same = len(changes) == len(cue.changes)
                cues.append(cue if same else msgspec.structs.replace(cue, changes=changes))
        return Behaviour(
            tuple(cues),
            tuple([s for s in self.silenced if s.path[0] not in gone]),
            tuple([p for p in self.motions if not (p.node and p.node[0] in gone)]),
            self.places,
        )


STILL = Behaviour()
