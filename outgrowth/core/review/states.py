"""Variants and states: those that are missing or look alike, those that nothing leads into or
out of, and what moves by itself or for long.

Source: WCAG 2.2, success criteria 2.4.7 (focus visible) and 2.2.2 (pause, stop, hide); the rest
is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from itertools import combinations

import msgspec

from outgrowth.core.document.axis_parts import focus_axes, value_for
from outgrowth.core.document.cues import HOLDER, Cue
from outgrowth.core.document.extent import shown_within
from outgrowth.core.document.graph import edges
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Motion,
    Owner,
    Screen,
    walk,
)
from outgrowth.core.document.referring import settled
from outgrowth.core.document.sentences import component_of, cue_sentence
from outgrowth.core.document.values import Once
from outgrowth.core.document.variants import Variant, condition_text, holds, offered, variants
from outgrowth.core.document.ways import ways
from outgrowth.core.edits.motions import motions_of, with_motions_of
from outgrowth.core.edits.variants.axes import set_offered
from outgrowth.core.memo import ByIdentity
from outgrowth.core.motion.easing import spring_of
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.gone import gone_cues
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.targets import is_pressed
from outgrowth.core.review.views import MOST_VARIANTS, ReviewContext

LONGEST_MS = 500.0
"""How long a motion takes at most before people wait for it. Common practice, no source."""
_TIMED = ("delay", "appear")
_SEEN = 0.05


def state_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """What is missing, alike, shut in, or moves by itself, of one component or screen."""
    yield from gone_cues(context.document, owner)
    yield from _long(context.document, owner)
    yield from _unpaused(context.document, owner)
    if isinstance(owner, Component):
        yield from missing_findings(owner)
        yield from _alike(context, owner)
        yield from _not_offered(context.document, owner)


# --- what is missing, what is alike -------------------------------------------------------------


def missing_findings(component: Component) -> Iterator[Finding]:
    """What a part that is pressed shows of that: under the pointer, with the focus, when it is
    off."""
    if not is_pressed(component):
        return
    name = f"“{component.name}”"
    drivers = {axis.driver for axis in component.axes}
    triggers = {cue.trigger.kind for cue in component.behaviour.cues}
    if "pointer" not in drivers and not triggers & {"enter", "leave"}:
        text = f"{name} looks the same while the pointer is on it: no axis is driven by it."
        yield _state(component, "no-hover", text)
    if not focus_axes(component) and not triggers & {"focus", "blur"}:
        text = f"{name} does not show the focus itself; the browser's own ring is used."
        yield _state(component, "no-focus", text)
    is_off = any(axis.meaning == "enabled" for axis in component.axes)
    is_off |= any(value_for(axis, "disabled") for axis in component.axes)
    if not is_off:
        text = f"{name} has no variant for when it cannot be used."
        yield _state(component, "no-disabled", text)


def _state(component: Component, kind: str, text: str) -> Finding:
    return finding(kind, component.id, (), text)


def _alike(context: ReviewContext, component: Component) -> Iterator[Finding]:
    """Two values of an axis that make no difference anywhere, though the axis makes one."""
    views = {
        view.variant: _look_of(view.scene) for view in context.views(component) if view.variant
    }
    for axis in component.axes:
        if axis.driver == "room":
            continue  # its values are shown in other rooms, and so told by themselves (rooms.py)
        pairs = [
            (one, other)
            for one, other in combinations(axis.values, 2)
            if _same_everywhere(views, axis, one, other)
        ]
        if len(pairs) == len(axis.values) * (len(axis.values) - 1) // 2 and not _means(axis):
            continue  # an axis that changes nothing at all is another finding
        for one, other in pairs:
            text = (
                f"“{component.name}” looks the same at {axis.name}: {one.name} as at "
                f"{other.name}, whatever its other axes say."
            )
            yield finding(
                "same-meaning" if _means(axis) else "same-look",
                component.id,
                (),
                text,
                about=f"{axis.id}/{one.id}/{other.id}",
            )


def _means(axis: Axis) -> bool:
    return axis.meaning not in ("none", "expanded")


def _same_everywhere(
    views: dict[Variant, object], axis: Axis, one: AxisValue, other: AxisValue
) -> bool:
    compared = 0
    for variant, drawn in views.items():
        if variant.get(axis.id) != one.id:
            continue
        twin = views.get(variant.set(axis.id, other.id))
        if twin is None:
            continue
        compared += 1
        if twin != drawn:
            return False
    return compared > 0


def _look_of(scene: SceneNode) -> object:
    """What tells two drawings apart: equal parts of a scene are one object."""
    return (
        id(scene.layout),
        id(scene.paint),
        tuple(_look_of(child) for child in scene.children),
        scene.interaction.role,
    )


# --- cues ---------------------------------------------------------------------------------------


def _not_offered(document: Document, component: Component) -> Iterator[Finding]:
    """Cues that lead into a variant that nobody may choose."""
    views = [v for _, v in zip(range(MOST_VARIANTS), variants(component), strict=False)]
    for cue in component.behaviour.cues:
        goals = {
            change.name: str(change.value)
            for change in cue.changes
            if change.act == "set" and not change.at and component.axis(change.name) is not None
        }
        if not goals:
            continue
        reached = [v.update(goals) for v in views if offered(component, v) and holds(cue.when, v)]
        shut = list(dict.fromkeys(v for v in reached if not offered(component, v)))
        if not shut:
            continue
        text = (
            f"{cue_sentence(document, component, cue)} This leads to "
            f"{condition_text(component, shut[0])}, which is not offered."
        )
        mend = Mend(
            "offer it" if len(shut) == 1 else f"offer the {len(shut)} variants",
            partial(_offering, component.id, tuple(shut)),
        )
        yield finding("cue-into-not-offered", component.id, cue.node, text, mend, cue.id)


def _offering(component: str, views: tuple[Variant, ...], document: Document) -> Document:
    for variant in views:
        document = set_offered(document, component, variant, True)
    return document


def _unpaused(document: Document, owner: Owner) -> Iterator[Finding]:
    """Timers that go round by themselves, where nothing that a person does stops them."""
    timed = [cue for cue in owner.behaviour.cues if cue.trigger.kind == "delay"]
    if not timed or not isinstance(owner, Component):
        return
    for axis in owner.axes:
        turning = [cue for cue in timed if _moves(cue, axis)]
        if not turning or not _goes_round(owner, axis, turning):
            continue
        awaited = {a for cue in turning for a in cue.when if a != axis.id}
        awaited |= {c.axis for cue in turning for c in cue.conditions if not c.at}
        if any(_can_be_changed(owner, name) for name in awaited):
            continue
        text = (
            f"“{owner.name}” moves on by itself at {axis.name}, again and again, and nothing that "
            "a person does pauses it."
        )
        yield finding("timer-without-pause", owner.id, turning[0].node, text, about=axis.id)


def _moves(cue: Cue, axis: Axis) -> bool:
    return any(
        change.name == axis.id and not change.at and change.act in ("set", "next")
        for change in cue.changes
    )


def _goes_round(component: Component, axis: Axis, turning: list[Cue]) -> bool:
    routes: dict[str, set[str]] = {}
    for edge in edges(component):
        if edge.axis == axis.id and edge.cue in turning:
            routes.setdefault(edge.start, set()).add(edge.end)
    return any(start in _reached(routes, start) for start in routes)


def _reached(routes: dict[str, set[str]], start: str) -> set[str]:
    reached: set[str] = set()
    waiting = [start]
    while waiting:
        new = routes.get(waiting.pop(), set()) - reached
        reached |= new
        waiting += new
    return reached


def _can_be_changed(component: Component, axis_id: str) -> bool:
    """Whether a person can change an axis: by the pointer, the focus, or a cue that they set
    off."""
    axis = component.axis(axis_id)
    if axis is None or axis.driver != "none":
        return axis is not None
    return any(
        cue.trigger.kind not in _TIMED and cue.trigger.kind != "became" and _moves(cue, axis)
        for cue in component.behaviour.cues
    )


# --- how long -----------------------------------------------------------------------------------


def _long(document: Document, owner: Owner) -> Iterator[Finding]:
    longest = max((_takes(document, m) for m in motions_of(owner)), default=0.0)
    if longest <= LONGEST_MS:
        return
    text = (
        f"“{owner.name}” moves for {longest:.0f} ms; above {LONGEST_MS:.0f} ms people wait for it."
    )
    mend = Mend(f"let it take {LONGEST_MS:.0f} ms at most", partial(_shortened, owner.id))
    yield finding("motion-long", owner.id, (), text, mend)


def _takes(document: Document, motion: Motion) -> float:
    """How long a motion takes (ms), its delay not counted; a spring that names no time, until
    it is seen to rest."""
    motion = settled(motion, document.token)
    spring = spring_of(motion.easing, motion.duration)
    if spring is None or "bounce" in motion.easing.lower():
        return motion.duration
    steps = range(0, round(spring.settling_time() * 1000), 10)
    return float(max((t for t in steps if abs(spring.at_time(t / 1000).rest) > _SEEN), default=0))


def _shortened(owner_id: str, document: Document) -> Document:
    def change(motion: Motion) -> Motion:
        if _takes(document, motion) <= LONGEST_MS:
            return motion
        easing = motion.easing
        if not easing.strip().lower().startswith("bounce") and spring_of(easing, motion.duration):
            easing = "ease-out"
        tokens = motion.tokens
        for part in ("duration", "easing"):
            if part in tokens:
                tokens = tokens.delete(part)
        return msgspec.structs.replace(motion, duration=LONGEST_MS, easing=easing, tokens=tokens)

    return with_motions_of(document, owner_id, change)


# --- of the file as a whole ----------------------------------------------------------------------


def way_findings(context: ReviewContext) -> Iterator[Finding]:
    """States that nothing leads into or out of, and screens that nobody comes back from."""
    foreign = _from_outside(context.document)
    for component in context.document.in_order():
        yield from _shut_in(context, component, foreign)
    yield from _one_way(context.document)


def _reaching(owner: Owner) -> tuple[tuple[Cue, int], ...]:
    """An owner's cues that change axes of other components: cue and number of the change."""
    return tuple(
        (cue, number)
        for cue in owner.behaviour.cues
        for number, change in enumerate(cue.changes)
        if change.at and change.act in ("set", "next")
    )


_reaching_of = ByIdentity(_reaching, 4096)


def _choosing(owner: Owner) -> frozenset[tuple[str, str]]:
    """The choices that an owner's instances make: the axis (or property) and its value."""
    statements: list[tuple[str, object]] = []
    for node in walk(owner.root):
        statements += node.style.items()
        statements += [(rule.property, rule.value) for rule in node.overrides]
    if isinstance(owner, Component):
        statements += [(rule.property, rule.value) for rule in owner.rules]
    return frozenset(
        (name.removeprefix(CHOICE), value)
        for name, value in statements
        if name.startswith(CHOICE) and isinstance(value, str)
    )


choices_of = ByIdentity(_choosing, 4096)
"""The axis values that an owner's instances choose, as pairs of ids; rules' too."""


def _from_outside(document: Document) -> set[tuple[str, str, str]]:
    """Component (or "" for any), axis, and value ("" for any) that others change."""
    results: set[tuple[str, str, str]] = set()
    for owner in document.owners():
        for cue, number in _reaching_of(owner):
            change = cue.changes[number]
            value = str(change.value) if change.act == "set" else ""
            if change.at == (HOLDER,):
                results.add(("", change.name, value))
                continue
            inner = component_of(document, owner, change.at)
            results.add((inner.id if inner is not None else "", change.name, value))
        # What is shown one at a time is closed by what opens beside it.
        results |= {("", axis, "") for axis in _at_a_time(owner)}
    return results


def _once(owner: Owner) -> frozenset[str]:
    statements = (node.style.get("one-at-a-time") for node in walk(owner.root))
    pairs = (pair for value in statements if isinstance(value, tuple) for pair in value)
    return frozenset(pair.axis for pair in pairs if isinstance(pair, Once))


_at_a_time = ByIdentity(_once, 4096)


def _shut_in(
    context: ReviewContext, component: Component, foreign: set[tuple[str, str, str]]
) -> Iterator[Finding]:
    """Of each axis that cues change: values that they lead into and never out of, and values
    that nothing leads to. What others change, and what is chosen, is a way too."""
    routes = edges(component)
    for axis in component.axes:
        own = [edge for edge in routes if edge.axis == axis.id]
        foreign_values = {v for c, a, v in foreign if a == axis.id and c in ("", component.id)}
        if axis.driver != "none" or (not own and not foreign_values):
            continue
        into = {edge.end for edge in own} | foreign_values
        for value in axis.values:
            leads_on = any(edge.start == value.id for edge in own)
            by_others = bool(foreign_values - {value.id}) or "" in foreign_values
            shut = value.id in into and not leads_on and not by_others
            if shut and not _is_gone(context, component, axis, value):
                text = f"leads to {axis.name}: {value.name}, and nothing leads out of it again."
                yield _way(
                    component, "no-way-out", f"A cue of “{component.name}” {text}", axis, value
                )
            if value.id != axis.default and value.id not in into and "" not in into:
                text = (
                    f"{axis.name}: {value.name} of “{component.name}” is reached by no cue, though"
                )
                yield _way(component, "no-way-in", f"{text} others of the axis are.", axis, value)


def _is_gone(context: ReviewContext, component: Component, axis: Axis, value: AxisValue) -> bool:
    """Whether nothing of a component is seen at a value: what was dismissed has no way out."""
    views = (view for view in context.views(component) if view.variant is not None)
    parts = [
        part
        for view in views
        if view.variant is not None and view.variant.get(axis.id) == value.id
        for part in view.parts
    ]
    if any(len(part.path) == 0 and part.scene.paint.opacity <= _SEEN for part in parts):
        return True
    return not any(part.scene.kind != "box" for part in parts)


def _way(component: Component, kind: str, text: str, axis: Axis, value: AxisValue) -> Finding:
    about = f"{axis.id}/{value.id}"
    return finding(f"state-{kind}", component.id, (), text, about=about)


def _one_way(document: Document) -> Iterator[Finding]:
    """Screens that something leads to, and nothing from them leads back."""
    routes: dict[str, set[str]] = {}
    for way in ways(document):
        routes.setdefault(way.screen, set()).add(way.end)
    for start, goals in routes.items():
        for goal in sorted(goals):
            screen = document.screens[goal]
            if start in _reached(routes, goal) or _goes_back(document, screen):
                continue
            text = (
                f"“{document.screens[start].name}” leads to “{screen.name}”, and nothing there "
                "leads back."
            )
            yield finding("one-way-jump", goal, (), text, about=start)


def _goes_back(document: Document, screen: Screen) -> bool:
    """Whether a screen, or anything on it, has a cue that goes back."""
    return any(
        change.act == "back"
        for owner in shown_within(document, screen)
        for cue in owner.behaviour.cues
        for change in cue.changes
    )
