"""What a change leads to further in: a holder's rule that sets an axis of an inner part starts
that part's own change, with the motion that the part itself says.

The holder's change is shown first, with those axes held where they were; then they are let go,
those of outer parts first. Each is a difference of two real layouts of its own. What says no motion
of its own goes with the holder's change, and so does what the holder leads.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from outgrowth.core.document.cues import Motion, Path
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Axis, Component, Document, Node, Owner, Rule, walk
from outgrowth.core.document.referring import settled
from outgrowth.core.document.uses import holds_directly
from outgrowth.core.document.values import FromProperty, Literals
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import instances_that_differ
from outgrowth.core.runtime.listening import OwnerAt

StateKey = tuple[Path, str]


class InnerChange(NamedTuple):
    """An axis of an inner part that comes to another value: the part's path and the axis's id, the
    value that it had, and the part's own motion."""

    key: StateKey
    before: Literals
    motion: Motion


def inner_changes(
    document: Document,
    owner_at: OwnerAt,
    scenes: tuple[SceneNode, SceneNode],
    own: set[StateKey],
) -> list[InnerChange]:
    """The axes that differ between two scenes of a running owner, of parts that are shown in both
    and say a motion of their own; those of holders before those of what they hold.

    own  what was set itself: no consequence of anything
    """
    found: list[InnerChange] = []
    for path, before, after in instances_that_differ(*scenes):
        if not path or before is None or after is None or before.variant == after.variant:
            continue
        component = document.components.get(after.component)
        if component is None or before.variant is None or after.variant is None:
            continue
        for axis in component.axes:
            old, new = before.variant.get(axis.id), after.variant.get(axis.id)
            if old is None or new is None or old == new or (path, axis.id) in own:
                continue
            motion = own_motion(component, axis, new)
            if motion is not None and not _is_led(path, owner_at):
                said = settled(motion, document.token)
                found.append(InnerChange((path, axis.id), old, said))
    return sorted(found, key=lambda change: len(change.key[0]))


def own_motion(component: Component, axis: Axis | None, value_id: str) -> Motion | None:
    """How a component says that its axis comes to a value: as the value says, the axis, or the
    component; None where it says nothing."""
    value = axis.value(value_id) if axis is not None else None
    for said in (value, axis, component):
        if said is not None and said.motion is not None:
            return said.motion
    return None


def _is_led(path: Path, owner_at: OwnerAt) -> bool:
    """Whether something that holds a part says that it moves with its holder's change."""
    for k in range(len(path)):
        owner = owner_at(path[:k])
        if owner is not None and owner.behaviour.leads and path[k:] in owner.behaviour.leads:
            return True
    return False


def led_parts(owner: Owner) -> Iterator[Path]:
    """The inner parts of which the rules of an owner set an axis: each can move as it says, or
    with the owner."""
    found: dict[Path, None] = {}
    for rule in _choosing_rules(owner):
        found[rule.node] = None
    yield from found


def _choosing_rules(owner: Owner) -> Iterator[Rule]:
    """The rules that say in some variants which value an inner part has."""
    for rule in owner.rules if isinstance(owner, Component) else ():
        if rule.when and rule.property.startswith(CHOICE):
            yield rule


def _relaying(document: Document) -> frozenset[str]:
    if not any(says_motion(component) for component in document.components.values()):
        return frozenset()
    relaying: set[str] = set()
    for owner in document.owners():
        if any(_choosing_rules(owner)):
            relaying.add(owner.id)
        if any(_is_passed_a_choice(node) for node in walk(owner.root)):
            relaying.add(owner.id)
        for node, followed in holds_directly(owner):
            if any(rule.when and rule.property.startswith(CHOICE) for rule in node.overrides):
                relaying.add(followed)
    return frozenset(relaying)


def _is_passed_a_choice(node: Node) -> bool:
    """Whether a property of the owner says which value an instance in it has."""
    return any(
        name.startswith(CHOICE) and isinstance(value, FromProperty)
        for name, value in node.style.items()
    )


def says_motion(component: Component) -> bool:
    """Whether a component says how any of its changes moves."""
    return component.motion is not None or any(
        axis.motion is not None or any(value.motion is not None for value in axis.values)
        for axis in component.axes
    )


relaying_components = ByIdentity(_relaying, 64)
"""The components of a document whose change may set axes of parts in them, by id; none where no
component says a motion of its own."""
