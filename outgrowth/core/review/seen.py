"""What states show, and what they do to what stands beside: a hover that pushes its neighbours,
an error that only a colour tells, a focus on what nobody sees, and words that leave by themselves.

Source: WCAG 2.2, success criteria 1.4.1 (use of color), 2.4.7 (focus visible) and 2.2.1 (timing
adjustable); that a hover leaves its neighbours where they are is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import partial

import msgspec
from immutables import Map

from outgrowth.core.document.axis_parts import focus_axes, focus_value, reads_yes, value_for
from outgrowth.core.document.cues import Cue
from outgrowth.core.document.properties import TABLE
from outgrowth.core.document.records import Axis, Component, Document, Owner, Path
from outgrowth.core.document.values import plain
from outgrowth.core.document.variants import Variant
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.variants.rules import remove_rule
from outgrowth.core.geometry import Rect
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.views import (
    DrawnView,
    ReviewContext,
    part_called,
    shown_opacities,
)
from outgrowth.core.runtime.focus import takes_keys

_SAME_PX = 0.5
# Below that much nobody sees anything.
_UNSEEN = 0.05
_MOST_GROWTH = 1.25
_ERRORS = frozenset(("error", "invalid", "wrong", "problem", "failed", "danger"))
"""What people call such a value. Common practice, no source."""
_COLORS = frozenset(row.field for row in TABLE.values() if row.mix in ("color", "shadows"))


def seen_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """What the states of an owner do that they had better not."""
    yield from _unseen_stops(context, owner)
    yield from _going(context.document, owner)
    if isinstance(owner, Component):
        views = {view.variant: view for view in context.views(owner) if view.variant is not None}
        yield from _pushing(context, owner, views)
        yield from _by_color(owner, views)
        yield from _leaving(owner, views)


# --- what a hover pushes ------------------------------------------------------------------------


def _pushing(
    context: ReviewContext, component: Component, views: Mapping[Variant, DrawnView]
) -> Iterator[Finding]:
    for axis in component.axes:
        rest, hover = value_for(axis, "rest"), value_for(axis, "hover")
        if rest is None or hover is None:
            continue
        sizes = [
            (view.parts[0].rect, other.parts[0].rect)
            for variant, view in views.items()
            if variant.get(axis.id) == hover
            and (other := views.get(variant.set(axis.id, rest))) is not None
        ]
        grown = next(
            ((now, before) for now, before in sizes if not _is_as_large(now, before)), None
        )
        if grown is None:
            continue
        now, before = grown
        text = (
            f"“{component.name}” is {before.width:.3g} × {before.height:.3g} px, and under the "
            f"pointer {now.width:.3g} × {now.height:.3g}: what stands beside it is pushed."
        )
        factor = max(now.width / max(before.width, 1.0), now.height / max(before.height, 1.0))
        factor = min(round(factor, 3), _MOST_GROWTH)
        change = partial(_scaled, component.id, (axis.id, hover), factor)
        mend = None
        if _keeps_size(context, change(context.document), component.id, (axis.id, rest, hover)):
            mend = Mend(f"scale it by {factor:g} instead", change)
        yield finding("hover-pushes", component.id, (), text, mend, axis.id)


def _scaled(component_id: str, at: tuple[str, str], factor: float, document: Document) -> Document:
    """The document with a value of an axis that says nothing of sizes any more, and scales."""
    axis_id, value = at
    component = document.components[component_id]
    for rule in component.rules:
        row = TABLE.get(rule.property)
        if rule.when.get(axis_id) == value and row is not None and row.affects == "layout":
            document = remove_rule(document, component_id, rule)
    return set_properties(document, Place(component_id), {"scale": factor}, Map({axis_id: value}))


def _keeps_size(
    context: ReviewContext, document: Document, component_id: str, values: tuple[str, str, str]
) -> bool:
    axis_id, rest, hover = values
    component = document.components[component_id]
    after = ReviewContext(document, context.renderer)
    sizes = {v.variant: v.parts[0].rect for v in after.views(component) if v.variant is not None}
    pairs = [
        (rect, sizes.get(variant.set(axis_id, rest)))
        for variant, rect in sizes.items()
        if variant.get(axis_id) == hover
    ]
    return all(other is None or _is_as_large(rect, other) for rect, other in pairs)


def _is_as_large(rect: Rect, other: Rect) -> bool:
    across, down = abs(rect.width - other.width), abs(rect.height - other.height)
    return across <= _SAME_PX and down <= _SAME_PX


# --- what only a colour tells ---------------------------------------------------------------------


def _by_color(component: Component, views: Mapping[Variant, DrawnView]) -> Iterator[Finding]:
    for axis in component.axes:
        wrong, fine = _wrong_values(axis)
        pairs = [
            (view.scene, views[other].scene)
            for variant, view in views.items()
            if variant.get(axis.id) in wrong
            for value in fine
            if (other := variant.set(axis.id, value)) in views
        ]
        differing = [(one, other) for one, other in pairs if one is not other]
        if not differing or any(_differs_besides(one, other) for one, other in differing):
            continue
        if all(_looks_same(one, other) for one, other in differing):
            continue
        text = (
            f"“{component.name}” shows that something is wrong by colours alone: who does not see "
            "them is not told. Let words, a mark or a thicker line say it too."
        )
        yield finding("error-by-color", component.id, (), text, about=axis.id)


def _wrong_values(axis: Axis) -> tuple[set[str], set[str]]:
    """The values of an axis at which something is wrong, by what it means or by what they are
    called, and those that they are compared with."""
    if axis.meaning == "invalid":
        wrong = {value.id for value in axis.values if reads_yes(axis, value.id)}
        return wrong, {value.id for value in axis.values} - wrong
    wrong = {value.id for value in axis.values if value.name.casefold() in _ERRORS}
    return wrong, {axis.default} - wrong


def _differs_besides(one: SceneNode, other: SceneNode) -> bool:
    """Whether two drawings differ in more than colours."""
    if one is other:
        return False
    if one.layout is not other.layout and one.layout != other.layout:
        return True
    if _uncolored(one) != _uncolored(other) or len(one.children) != len(other.children):
        return True
    return any(map(_differs_besides, one.children, other.children))


def _looks_same(one: SceneNode, other: SceneNode) -> bool:
    return one is other or (
        one.paint == other.paint
        and len(one.children) == len(other.children)
        and all(map(_looks_same, one.children, other.children))
    )


def _uncolored(scene: SceneNode) -> dict[str, object]:
    values = msgspec.structs.asdict(scene.paint)
    return {name: value for name, value in values.items() if name not in _COLORS}


# --- what has the focus and is not seen -----------------------------------------------------------


def _unseen_stops(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """Parts of an owner that keys go to where they are drawn with no opacity at all, unless the
    focus itself brings them."""
    axes = focus_axes(owner) if isinstance(owner, Component) else ()
    focused = {a.id: v for a in axes if (v := focus_value(a)) is not None}
    unseen: dict[Path, list[tuple[Variant | None, Path]]] = {}
    brought: set[Path] = set()
    for view in context.views(owner):
        has_focus = view.variant is not None and any(
            view.variant.get(axis) == value for axis, value in focused.items()
        )
        for path, faint in _stops_in(view):
            if faint is None and has_focus:
                brought.add(path)
            elif faint is not None and not has_focus:
                unseen.setdefault(path, []).append((view.variant, faint))
    for path, places in unseen.items():
        if path in brought:
            continue
        variant, faint = places[0]
        called = part_called(context.document, owner, path)
        text = f"The keys go to {called} where nothing is seen of it: its opacity is 0."
        change = partial(_hidden, Place(owner.id, faint, variant or Map()))
        yield finding(
            "focus-unseen",
            owner.id,
            path,
            text,
            Mend("hide it there", change),
            variant=variant or Map(),
        )


def _stops_in(view: DrawnView) -> Iterator[tuple[Path, Path | None]]:
    """The owner's own parts that keys go to, each with the outermost part around it (or itself)
    that has no opacity; None for those that are seen."""
    line: list[Path | None] = []
    for part in view.parts:
        del line[len(part.names) - 1 :]
        around = line[-1] if line else None
        is_faint = part.scene.paint.opacity <= _UNSEEN
        line.append(around if around is not None else part.path if is_faint else None)
        if takes_keys(part.scene) and len(part.path) <= 1:
            yield part.path, line[-1]


def _hidden(place: Place, document: Document) -> Document:
    """The document with a part hidden wherever its opacity is what it is at a place."""
    inspection = inspect(document, place)
    rungs = inspection.ladder("opacity") if inspection is not None else ()
    when = next((r.source.when for r in reversed(rungs) if r.wins), Map())
    own = next((r.source.owner == place.owner for r in reversed(rungs) if r.wins), False)
    return set_properties(document, place, {"shown": False}, when if own else Map())


# --- what leaves by itself ------------------------------------------------------------------------


def _going(document: Document, owner: Owner) -> Iterator[Finding]:
    """Screens that are left by themselves after a while."""
    for cue in owner.behaviour.cues:
        goals = [change for change in cue.changes if change.act == "go"]
        if cue.trigger.kind != "delay" or not goals or _can_be_held(owner, cue):
            continue
        goal = document.screens.get(goals[0].name)
        where = f"“{goal.name}”" if goal is not None else "another screen"
        text = (
            f"“{owner.name}” goes to {where} by itself after a while: who reads slowly loses what "
            "stood there. Let a press do it, or let it be held."
        )
        yield finding("time-leaves", owner.id, cue.node, text, about=cue.id)


def _leaving(component: Component, views: Mapping[Variant, DrawnView]) -> Iterator[Finding]:
    """Words that a timer takes away, and that nothing a person does holds."""
    for cue in component.behaviour.cues:
        if cue.trigger.kind != "delay" or _can_be_held(component, cue):
            continue
        for change in cue.changes:
            axis = component.axis(change.name) if change.act == "set" and not change.at else None
            lost = _words_lost(axis, str(change.value), views) if axis is not None else ""
            if lost:
                text = (
                    f"“{lost}” of “{component.name}” goes away by itself after a while: who reads "
                    "slowly loses it. Let it stay while the pointer or the focus is on it."
                )
                yield finding("time-leaves", component.id, cue.node, text, about=cue.id)
                break


def _can_be_held(owner: Owner, cue: Cue) -> bool:
    """Whether the pointer, the focus, or a press keeps a timer from going off."""
    if not isinstance(owner, Component):
        return False
    asked = {*cue.when, *(condition.axis for condition in cue.conditions if not condition.at)}
    turned = {change.name for change in cue.changes}
    axes = [axis for axis in owner.axes if axis.id in asked - turned]
    pressed = {
        change.name
        for other in owner.behaviour.cues
        if other.trigger.kind not in ("delay", "appear", "became")
        for change in other.changes
    }
    return any(axis.driver != "none" or axis.id in pressed for axis in axes)


def _words_lost(axis: Axis, value: str, views: Mapping[Variant, DrawnView]) -> str:
    """The first words that are seen at other values of an axis, where none are at this one."""
    there = [_words_in(view) for variant, view in views.items() if variant.get(axis.id) == value]
    before = [_words_in(view) for variant, view in views.items() if variant.get(axis.id) != value]
    if not there or any(there):
        return ""
    return next((words for seen in before for words in seen), "")


def _words_in(view: DrawnView) -> dict[str, None]:
    """The words that a view shows, in their order."""
    seen = (
        plain(part.scene.layout.style.content)
        for part, opacity in shown_opacities(view)
        if part.scene.kind == "text" and opacity > _UNSEEN
    )
    return {" ".join(words.split()): None for words in seen if words.strip()}
