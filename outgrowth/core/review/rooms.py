"""Parts that their room decides: thresholds that show nothing new, rooms in which a value does not
fit what it shows, and parts whose room would depend on what it decides."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from outgrowth.core.document.records import Axis, Component, Document, Owner
from outgrowth.core.document.rooms import (
    RoomStep,
    circle_in,
    fits,
    never_shown,
    range_of,
    room_askers,
    room_axes,
    room_steps,
)
from outgrowth.core.document.uses import holds_directly
from outgrowth.core.document.values import Size
from outgrowth.core.document.variants import default_variant
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.variants.axes import remove_value
from outgrowth.core.edits.variants.driving import set_least
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding, spills
from outgrowth.core.review.views import ReviewContext
from outgrowth.core.trials.breaks import Drawing, Usual, breaks

_GROWS = Size("grow", 1.0)
_WIDER = 2.0
"""How much wider than where it begins a value is compared with itself, where it has no end."""
_DOUBLINGS = 5
_NEAR = 1.0
"""Px to which the room is found in which a value fits."""


def room_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding | None]:
    """All that can be told of the rooms of an owner."""
    yield from _fitting_instances(context.document, owner)
    yield from _circle(owner)
    if not isinstance(owner, Component):
        return
    for axis in room_axes(owner):
        yield None
        yield from _nothing_new(context, owner, axis)
        if axis.side == "width":
            yield from _unfit(context, owner, axis)


# --- what can't be known ----------------------------------------------------------------------


def _circle(owner: Owner) -> Iterator[Finding]:
    problem = circle_in(owner)
    if problem:
        sides = {side for asker in room_askers(owner) for side in asker.sides}
        fitting = [side for side in sorted(sides) if fits(owner.root.style.get(side))]
        mend = None
        if fitting:
            mend = Mend("let it grow", partial(_grown, Place(owner.id), tuple(fitting)))
        yield finding("room-circle", owner.id, (), problem, mend)


def _fitting_instances(document: Document, owner: Owner) -> Iterator[Finding]:
    for node, followed in holds_directly(owner):
        component = document.components.get(followed)
        for asker in room_askers(component) if component is not None else ():
            sides = [s for s in asker.sides if s in node.style and fits(node.style[s])]
            if sides:
                text = (
                    f"“{node.name}” of “{owner.name}” fits what is in it, and its {sides[0]} "
                    f"decides that ({asker.name}): it has no {sides[0]} at all."
                )
                grow = partial(_grown, Place(owner.id, (node.id,)), tuple(sides))
                mend = Mend("let it grow", grow)
                yield finding("room-circle", owner.id, (node.id,), text, mend)
                break


def _grown(place: Place, sides: tuple[str, ...], document: Document) -> Document:
    return set_properties(document, place, dict.fromkeys(sides, _GROWS))


# --- what shows nothing ------------------------------------------------------------------------


def _nothing_new(context: ReviewContext, component: Component, axis: Axis) -> Iterator[Finding]:
    """Values that look like the one before them in any room; an axis that changes nothing at all
    is another finding."""
    steps = room_steps(axis)
    for unseen in never_shown(axis):
        text = (
            f"“{component.name}” never shows {axis.name}: {unseen.name}, since another value "
            f"begins at {unseen.least:g} {axis.unit} too."
        )
        yield _to_remove(component, axis, unseen.id, text)
    looks = [_look(context, component, axis, step) for step in steps]
    alike = [n for n in range(1, len(steps)) if looks[n] == looks[n - 1]]
    if len(alike) == len(steps) - 1:
        return
    for n in alike:
        value = axis.value(steps[n].value)
        before = axis.value(steps[n - 1].value)
        assert value is not None
        assert before is not None
        text = (
            f"“{component.name}” looks the same from {value.least:g} {axis.unit} on "
            f"({axis.name}: {value.name}) as below ({before.name})."
        )
        yield _to_remove(component, axis, value.id, text)


def _to_remove(component: Component, axis: Axis, value_id: str, text: str) -> Finding:
    remove = partial(_without_value, component.id, axis.id, value_id)
    about = f"{axis.id}/{value_id}"
    mend = Mend("remove it", remove)
    return finding("room-nothing-new", component.id, (), text, mend, about)


def _without_value(component: str, axis: str, value: str, document: Document) -> Document:
    return remove_value(document, component, axis, value)


def _look(
    context: ReviewContext, component: Component, axis: Axis, step: RoomStep
) -> tuple[object, ...]:
    """All that a value shows, whatever the other axes say."""
    return tuple(
        _look_of(view.scene)
        for view in context.views(component)
        if view.variant is not None and view.variant[axis.id] == step.value
    )


def _look_of(scene: SceneNode) -> tuple[object, ...]:
    own = scene.layout.style, scene.paint, scene.ids, scene.component
    return (*own, *[_look_of(child) for child in scene.children])


# --- what does not fit ---------------------------------------------------------------------------


def _unfit(context: ReviewContext, component: Component, axis: Axis) -> Iterator[Finding]:
    """Values that begin where they have not room enough for what they show."""
    unit = context.renderer.layout.unit_of_room(axis.unit)
    for step in room_steps(axis)[1:]:
        ample = _ample(axis, step)
        usual = _drawing(context, component, axis, step, ample * unit)
        for _ in range(_DOUBLINGS if range_of(axis, step.value).below is None else 0):
            if not any(spills(found.kind) for found in breaks(usual)):
                break
            ample *= 2
            usual = _drawing(context, component, axis, step, ample * unit)
        broken = _broken(context, component, axis, step, step.least * unit, usual)
        if not broken:
            continue
        low, high = step.least * unit, ample * unit
        while high - low > _NEAR:
            middle = round((low + high) / 2)
            if middle in (low, high):
                break
            if _broken(context, component, axis, step, middle, usual):
                low = middle
            else:
                high = middle
        value = axis.value(step.value)
        assert value is not None
        enough = round(high / unit + (0.0 if axis.unit == "px" else 0.05), 1)
        text = (
            f"“{component.name}” is {value.name} from {step.least:g} {axis.unit} on, and has no "
            f"room for it there ({broken}); it has from {enough:g} {axis.unit} on."
        )
        begin = partial(_begun, component.id, axis.id, step.value, enough)
        mend = Mend(f"begin it at {enough:g} {axis.unit}", begin)
        about = f"{axis.id}/{step.value}"
        yield finding("room-unfit", component.id, (), text, mend, about)


def _ample(axis: Axis, step: RoomStep) -> float:
    below = range_of(axis, step.value).below
    return below - 1.0 if below is not None else step.least * _WIDER


def _begun(component: str, axis: str, value: str, least: float, document: Document) -> Document:
    return set_least(document, component, axis, value, least)


def _drawing(
    context: ReviewContext, component: Component, axis: Axis, step: RoomStep, width: float
) -> Drawing:
    """The component in one of its values in so much room (px)."""
    renderer = context.renderer
    chosen = tuple(sorted(default_variant(component).items()))
    live = (((), axis.id, step.value),)
    scene = renderer.resolver.instance(
        context.document, InstanceInput(component.id, chosen, (), live)
    )
    return Drawing(tuple(locate(*renderer.layout.in_room(scene, width), "")), width)


def _broken(
    context: ReviewContext,
    component: Component,
    axis: Axis,
    step: RoomStep,
    width: float,
    usual: Drawing,
) -> str:
    """What breaks in a room that is whole in an ample one, in words; "" for nothing."""
    drawing = _drawing(context, component, axis, step, width)
    found = breaks(drawing, Usual(usual))
    return next((b.text for b in found if spills(b.kind) and not b.before), "").rstrip(".")
