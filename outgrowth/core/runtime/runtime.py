"""Runs a screen, or one component alone: the pointer sets states, states tween.

Headless and driven by a virtual clock. The same calls give the same pictures, and
`advance(300)` gives the same as any pieces of it.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import POINTER_VALUES, Document, Motion, Path
from outgrowth.core.layout import Layout, Placed
from outgrowth.core.motion.easing import EasingError, easing
from outgrowth.core.motion.tween import Tween, View
from outgrowth.core.resolve.cascade import InstanceInput, Live
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.runtime.hit import hit

REST, HOVER, PRESS = POINTER_VALUES


class Subject(NamedTuple):
    """What runs: a screen, or (component true) a component in one of its variants.

    `width` and `height` are the room it is given in px; None is its own size.
    """

    owner: str
    component: bool = False
    variant: Map[str, str] = Map()
    width: float | None = None
    height: float | None = None


class _Moving(NamedTuple):
    tween: Tween
    motion: Motion
    start: float


class Runtime:
    """One running thing. Times are in ms since it started."""

    def __init__(
        self, resolver: Resolver, layout: Layout, document: Document, subject: Subject
    ) -> None:
        self._resolver = resolver
        self.layout = layout
        self._document = document
        self._subject = subject
        self._now = 0.0
        self._point: tuple[float, float] | None = None
        self._pressed: Path | None = None
        self._states: dict[tuple[Path, str], str] = {}
        self._moving: _Moving | None = None
        self.reduced_motion = False
        self._target = self._laid_out()

    @property
    def now(self) -> float:
        return self._now

    @property
    def moving(self) -> bool:
        return self._moving is not None

    @property
    def target_placed(self) -> Placed:
        """The layout that is being moved to (or that is shown, at rest)."""
        return self._target.placed

    @property
    def states(self) -> Mapping[tuple[Path, str], str]:
        """The axis values that differ from rest: (instance path, axis id) → value id."""
        return self._states

    def view(self) -> View:
        """What is on the screen now."""
        moving = self._moving
        if moving is None:
            return self._target
        return moving.tween.at(_progress(moving.motion, self._now - moving.start))

    def update(self, document: Document, subject: Subject | None = None) -> None:
        """Goes on with an edited document; states that still exist are kept. What was
        edited is shown at once, not tweened. Another subject starts at rest."""
        if subject is not None and subject != self._subject:
            if subject.owner != self._subject.owner or subject.variant != self._subject.variant:
                self._states.clear()
                self._pressed = None
            self._subject = subject
        self._document = document
        self._moving = None
        self._states = {k: v for k, v in self._states.items() if self._exists(k, v)}
        self._target = self._laid_out()
        self._settle()

    def restart(self) -> None:
        """Back to rest, at once; the pointer is where it was, but acts when it moves."""
        self._states.clear()
        self._pressed = None
        self._point = None
        self._moving = None
        self._target = self._laid_out()

    # --- input --------------------------------------------------------------------------

    def pointer_move(self, x: float, y: float) -> None:
        """The mouse is at x, y px of the subject."""
        self._point = x, y
        self._settle()

    def pointer_leave(self) -> None:
        """The mouse is gone."""
        self._point = None
        self._settle()

    def press(self, x: float, y: float) -> None:
        """The main button goes down."""
        self._point = x, y
        under = self._instances_under()
        self._pressed = under[-1] if under else None
        self._settle()

    def release(self, x: float, y: float) -> None:
        """The main button goes up."""
        self._point = x, y
        self._pressed = None
        self._settle()

    def advance(self, ms: float) -> None:
        """Lets time pass. Each tween that ends on the way is settled at its own end, so
        the pieces in which time is handed in make no difference."""
        until = self._now + max(ms, 0.0)
        while self._moving is not None:
            motion = self._moving.motion
            end = self._moving.start + motion.delay + motion.duration
            if end > until:
                break
            self._now = end
            self._moving = None
            self._settle()
        self._now = until

    # --- states -------------------------------------------------------------------------

    def _instances_under(self) -> tuple[Path, ...]:
        """Instances with a pointer axis under the pointer, the outermost first."""
        if self._point is None:
            return ()
        view = self.view()
        found = hit(view.scene, view.placed, *self._point)
        if found is None:
            return ()
        return tuple(path for path in found.instances if self._pointer_axis(path) is not None)

    def _settle(self) -> None:
        """Gives every pointer axis its value from where the pointer is, and tweens."""
        under = self._instances_under()
        wanted: dict[tuple[Path, str], str] = {}
        for path in under:
            if self._pressed is not None and path != self._pressed:
                continue
            self._want(wanted, path, PRESS if path == self._pressed else HOVER)
        if wanted != self._states:
            self._change(wanted)

    def _want(self, wanted: dict[tuple[Path, str], str], path: Path, value: str) -> None:
        axis = self._pointer_axis(path)
        if axis is None:
            return
        axis_id, values = axis
        if value == PRESS and PRESS not in values:
            value = HOVER
        if value in values:
            wanted[path, axis_id] = value

    def _change(self, wanted: dict[tuple[Path, str], str]) -> None:
        motion = self._motion(wanted)
        shown = self.view()
        self._states = wanted
        self._target = self._laid_out()
        if self.reduced_motion or motion.duration + motion.delay <= 0:
            self._moving = None
        else:
            self._moving = _Moving(Tween(shown, self._target), motion, self._now)

    def _motion(self, wanted: dict[tuple[Path, str], str]) -> Motion:
        """The motion of the first change: at the value entered, the axis, the component,
        the document."""
        changed = [k for k in (wanted | self._states) if wanted.get(k) != self._states.get(k)]
        for path, axis_id in sorted(changed):
            node = self._scene_at(path)
            component = self._document.components.get(node.component) if node else None
            axis = component.axis(axis_id) if component else None
            if component is None or axis is None:
                continue
            entered = axis.value(wanted.get((path, axis_id), axis.default))
            own = entered.motion if entered else None
            return own or axis.motion or component.motion or self._document.motion
        return self._document.motion

    def _pointer_axis(self, path: Path) -> tuple[str, frozenset[str]] | None:
        """The pointer axis of the instance there: its id, and the ids of its values."""
        node = self._scene_at(path)
        component = self._document.components.get(node.component) if node else None
        for axis in component.axes if component else ():
            if axis.driver == "pointer" and self._open_to_pointer(node, axis.id):
                return axis.id, frozenset(value.id for value in axis.values)
        return None

    @staticmethod
    def _open_to_pointer(node: SceneNode | None, axis_id: str) -> bool:
        """Whether the axis is at a value that the pointer sets; a disabled one is not."""
        variant = node.variant if node is not None else None
        return variant is not None and variant.get(axis_id) in POINTER_VALUES

    def _exists(self, key: tuple[Path, str], value: str) -> bool:
        axis = self._pointer_axis(key[0])
        return axis is not None and axis[0] == key[1] and value in axis[1]

    def _scene_at(self, path: Path) -> SceneNode | None:
        return scene_at(self._target.scene, path)

    # --- pictures -----------------------------------------------------------------------

    def _laid_out(self) -> View:
        live: Live = tuple(
            sorted((path, axis, value) for (path, axis), value in self._states.items())
        )
        scene = self._scene(live)
        room_x = self._subject.width
        room_y = self._subject.height
        return View(scene, self._placed(scene, room_x, room_y))

    def _scene(self, live: Live) -> SceneNode:
        subject = self._subject
        if subject.component:
            choices = tuple(sorted(subject.variant.items()))
            given = InstanceInput(subject.owner, choices, (), live, running=True)
            return self._resolver.instance(self._document, given)
        owner = self._document.screens[subject.owner]
        return self._resolver.screen(self._document, owner, live, running=True)

    def _placed(self, scene: SceneNode, room_x: float | None, room_y: float | None) -> Placed:
        inf = float("inf")
        x = inf if room_x is None else room_x
        y = inf if room_y is None else room_y
        return self.layout.place(scene.layout, x, y)


def _progress(motion: Motion, passed: float) -> float:
    if passed < motion.delay:
        return 0.0
    if motion.duration <= 0:
        return 1.0
    share = min((passed - motion.delay) / motion.duration, 1.0)
    try:
        return easing(motion.easing)(share)
    except EasingError:
        return share


def scene_at(scene: SceneNode, path: Path) -> SceneNode | None:
    """The shown node that a path of ids leads to; boxes on the way are looked through."""
    for node_id in path:
        below = _inside(scene, node_id)
        if below is None:
            return None
        scene = below
    return scene


def _inside(scene: SceneNode, node_id: str) -> SceneNode | None:
    """The node with this id beneath `scene`, not looking into other instances."""
    for child_id, child in zip(scene.ids, scene.children, strict=True):
        if child_id == node_id:
            return child
        found = None if child.component else _inside(child, node_id)
        if found is not None:
            return found
    return None
