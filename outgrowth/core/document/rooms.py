"""Axes that are set by the room a part gets: from which room on each of their values holds.

Of the values of such an axis, the one with the greatest `least` that the room reaches holds; where
it reaches none, the one with the smallest. So exactly one always does.

Source: CSS Conditional Rules 5, section 5 (container queries).
"""

from __future__ import annotations

from collections.abc import Mapping
from itertools import product
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.properties import rows_of
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Node,
    Owner,
    RoomSide,
    RoomUnit,
    Rule,
    short_name,
    walk,
)
from outgrowth.core.memo import ByIdentity
from outgrowth.core.refusal import Refusal

GIVEN_BY_HOLDER = rows_of("size", "placement")
"""What a part's own root says for its holder to place it. It is known before the room is, so what
the room sets changes none of it."""
JUST_BELOW: dict[RoomUnit, float] = {"px": 1.0, "ch": 0.5}
"""How far below its end a value is shown, in each unit."""


class RoomStep(NamedTuple):
    """A value of an axis that the room sets, and the room from which on it holds."""

    value: str
    least: float


class RoomRange(NamedTuple):
    """The room in which a value holds: from `least` up to, but without, `below` (None: any)."""

    least: float
    below: float | None

    def nearest(self, own: float, step: float) -> float:
        """The room in it that is nearest to one; at its upper end `step` below."""
        if own < self.least:
            return self.least
        if self.below is not None and own >= self.below:
            return max(self.least, self.below - step)
        return own


class KnownRoom(NamedTuple):
    """That a part is shown as it is in a room of this range, by one of its sides."""

    side: RoomSide
    unit: RoomUnit
    range: RoomRange


ANY_WIDTH = KnownRoom("width", "px", RoomRange(0.0, None))
"""That a part is contained, whatever room it has: its letters grow with it."""


class RoomMeasure(NamedTuple):
    """By which side of a part's room an axis is set, and where its values begin: `leasts`, in
    `unit`, the smallest (which always holds) left out."""

    side: RoomSide
    unit: RoomUnit
    leasts: tuple[float, ...]


def room_axes(owner: Owner) -> tuple[Axis, ...]:
    """The axes of a component that its room sets; none of a screen."""
    return _room_axes_of(owner) if isinstance(owner, Component) else ()


def _of_component(component: Component) -> tuple[Axis, ...]:
    return tuple(axis for axis in component.axes if axis.driver == "room")


_room_axes_of = ByIdentity(_of_component, 4096)


class RoomAsker(NamedTuple):
    """What of a part asks for its room, by a name for people, and by which sides."""

    name: str
    sides: tuple[RoomSide, ...]


def _askers(owner: Owner) -> tuple[RoomAsker, ...]:
    found = [RoomAsker(axis.name, sides_of(axis)) for axis in room_axes(owner)]
    if has_fluid_letters(owner):
        found.append(RoomAsker("letters that grow", ("width",)))
    return tuple(found)


room_askers = ByIdentity(_askers, 4096)
"""All of an owner that asks for its room, which then has to be known before what is in it: the axes
that it sets, and letters that grow with it."""


def asks_room(owner: Owner) -> bool:
    """Whether a component asks its holder for a room."""
    return isinstance(owner, Component) and bool(room_askers(owner))


def has_fluid_letters(owner: Owner) -> bool:
    """Whether any letters in an owner, as it says itself, grow with the room."""
    rules = owner.rules if isinstance(owner, Component) else ()
    root = owner.root
    # An edit leaves most of what the root holds as it was.
    return any(map(_is_fluid, rules)) or _says_fluid(root) or any(map(_fluid_within, root.children))


def grows_within(root: Node) -> bool:
    """Whether a tree itself says of any letters in it that they grow with the room."""
    return any(map(_says_fluid, walk(root)))


_fluid_within = ByIdentity(grows_within, 16384)


def _says_fluid(node: Node) -> bool:
    return node.style.get("fluid-size", 0.0) != 0.0 or any(map(_is_fluid, node.overrides))


def _is_fluid(rule: Rule) -> bool:
    return rule.property == "fluid-size" and rule.value != 0.0


def room_steps(axis: Axis) -> tuple[RoomStep, ...]:
    """The values of an axis that its room ever shows, from the smallest room up. Of two that begin
    at one room it shows the later."""
    by_least: dict[float, AxisValue] = {}
    for value in axis.values:
        by_least[value.least] = value
    return tuple(RoomStep(by_least[least].id, least) for least in sorted(by_least))


def never_shown(axis: Axis) -> tuple[AxisValue, ...]:
    """The values of an axis that no room shows, since another begins where they do."""
    shown = {step.value for step in room_steps(axis)}
    return tuple(value for value in axis.values if value.id not in shown)


def measure_of(axis: Axis) -> RoomMeasure:
    """An axis as layout asks it."""
    return RoomMeasure(axis.side, axis.unit, tuple(s.least for s in room_steps(axis)[1:]))


def range_of(axis: Axis, value_id: str) -> RoomRange:
    """The room in which a value holds; of one that never does, the room where it would begin."""
    steps = room_steps(axis)
    for n, step in enumerate(steps):
        if step.value == value_id:
            below = steps[n + 1].least if n + 1 < len(steps) else None
            return RoomRange(step.least if n else 0.0, below)
    value = axis.value(value_id)
    least = value.least if value is not None else 0.0
    return RoomRange(least, least)


def value_at(axis: Axis, room: float) -> str:
    """The id of the value that holds in so much room, in the axis's unit."""
    first, *others = room_steps(axis)
    return next((s.value for s in reversed(others) if s.least <= room), first.value)


def known_rooms(owner: Owner, variant: Mapping[str, str]) -> tuple[KnownRoom, ...]:
    """The rooms that the variant of a component tells."""
    return tuple(
        KnownRoom(axis.side, axis.unit, range_of(axis, variant.get(axis.id, axis.default)))
        for axis in room_axes(owner)
    )


def known_values(owner: Owner, variant: Mapping[str, str]) -> Map[str, str]:
    """The values in a variant of those axes that the room sets."""
    return Map({axis.id: variant.get(axis.id, axis.default) for axis in room_axes(owner)})


def room_text(axis: Axis) -> str:
    """An axis that the room sets, in a sentence: “Room by its width: narrow below 320 px, usual,
    wide from 640 px.”"""
    steps = room_steps(axis)
    parts = []
    for n, step in enumerate(steps):
        value = axis.value(step.value)
        name = value.name if value is not None else step.value
        if n:
            name = f"{name} from {step.least:g} {axis.unit}"
        elif len(steps) > 1:
            name = f"{name} below {steps[1].least:g} {axis.unit}"
        parts.append(name)
    return f"{axis.name} by its {axis.side}: {', '.join(parts)}."


def rooms_of(axes: tuple[Axis, ...]) -> tuple[Map[str, str], ...]:
    """Every combination of the values of some axes that a room can show, the last axis running
    fastest."""
    shown = ([(axis.id, step.value) for step in room_steps(axis)] for axis in axes)
    return tuple(Map(values) for values in product(*shown))


def says_before_room(component: Component, rule: Rule) -> bool:
    """Whether a rule makes what its holder has to know before there is a room depend on it."""
    root = rule.node in ((), (component.root.id,))
    by_room = {axis.id for axis in room_axes(component)}
    return root and rule.property in GIVEN_BY_HOLDER and not by_room.isdisjoint(rule.when)


def refuse_circle(owner: Owner) -> None:
    """Raises Refusal where an owner's room would depend on what the room decides."""
    problem = circle_in(owner)
    if problem:
        raise Refusal(problem)


def circle_in(owner: Owner) -> str:
    """Why an owner's room would depend on what the room decides, in a sentence; empty where it does
    not."""
    askers = room_askers(owner)
    if not askers:
        return ""
    name = short_name(owner.name)
    if owner.root.kind != "box":
        return (
            f"“{name}” is a {owner.root.kind} as a whole; only a box can be set by its room. "
            "Wrap it in a box first."
        )
    rules = owner.rules if isinstance(owner, Component) else ()
    for asker in askers:
        for side in asker.sides:
            if _may_fit(owner.root, rules, side):
                wide = "wide" if side == "width" else "high"
                return (
                    f"“{name}” is as {wide} as what is in it, so its {side} can't "
                    f"decide what is in it ({asker.name}). Let it grow, or give it a {side}."
                )
    if isinstance(owner, Component) and any(says_before_room(owner, rule) for rule in rules):
        asking = room_axes(owner)[0].name
        return (
            f"How “{name}” stands in its holder can't depend on {asking}: the holder gives "
            "the room, so it has to know this first. Say it for all rooms, or of a part in it."
        )
    return ""


def _may_fit(root: Node, rules: tuple[Rule, ...], side: RoomSide) -> bool:
    """Whether an outermost part fits what is in it on a side, by itself or by a rule."""
    of_root = [rule for rule in rules if rule.property == side and rule.node in ((), (root.id,))]
    return any(map(fits, (root.style.get(side), *(rule.value for rule in of_root))))


def sides_of(axis: Axis) -> tuple[RoomSide, ...]:
    """The sides that a part has no say in, so that its room can be asked for: what is asked for its
    height is as wide as its holder says too (CSS Conditional 5: `container-type: size`)."""
    return ("width",) if axis.side == "width" else ("width", "height")


def fits(value: object) -> bool:
    """Whether a size says that it fits; what nobody says does."""
    return value is None or getattr(value, "mode", "") == "fit"
