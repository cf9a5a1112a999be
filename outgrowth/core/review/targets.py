"""What is to be pressed: large enough, not covered, and there for a finger too.

Source: WCAG 2.2, success criteria 2.5.8 (target size, minimum) with its exception for spacing,
2.5.5 (target size, enhanced), and 2.1.1 (keyboard).
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from functools import partial

from outgrowth.core.document.axis_parts import value_for
from outgrowth.core.document.cues import TRIGGER_ROWS
from outgrowth.core.document.records import Component, Document, Node, Owner, Path, walk
from outgrowth.core.document.values import Value, plain
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import Located
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.strips import Strips
from outgrowth.core.review.views import (
    DrawnView,
    ReviewContext,
    ViewRenderer,
    part_called,
    shown_opacities,
)
from outgrowth.core.runtime.focus import is_stop, takes_keys
from outgrowth.core.runtime.hit import hit
from outgrowth.core.trials.breaks import LEAST_TARGET

ROOMY_TARGET = 44.0
"""Px that a target had better be wide and high. Source: WCAG 2.2, 2.5.5."""


def heard(owner: Owner) -> list[Node]:
    """The owner's own nodes that hear a press, in the order of the tree."""
    ids = {
        cue.node[-1] if cue.node else owner.root.id
        for cue in owner.behaviour.cues
        if TRIGGER_ROWS[cue.trigger.kind].stop and len(cue.node) <= 1
    }
    return [node for node in walk(owner.root) if node.id in ids]


def said_role(node: Node) -> str:
    """The role that a node's own style says; “none” for none."""
    role = node.style.get("role", "none")
    return role if isinstance(role, str) else "none"


def has_role(component: Component, node: Node) -> bool:
    """Whether a node says what it is, by itself or in some variants."""
    if said_role(node) != "none":
        return True
    roles = (r.value for r in component.rules if (r.node, r.property) == ((node.id,), "role"))
    return any(role != "none" for role in roles)


def is_pressed(component: Component) -> bool:
    """Whether keys and fingers go to a component, by its role."""
    return is_stop(said_role(component.root))


# --- how large ----------------------------------------------------------------------------------


def target_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """Targets that are too small where they stand, covered, or only there for a pointer."""
    if isinstance(owner, Component):
        yield from _hover_only(context, owner)
        yield from _clicked_through(owner)
        return
    for view in context.views(owner):
        yield from _small(context.document, owner, view)
        yield from _covered(context, owner, view)


def _small(document: Document, owner: Owner, view: DrawnView) -> Iterator[Finding]:
    """What is smaller than a finger needs, unless there is as much room around it."""
    targets = [part for part in view.parts if takes_keys(part.scene)]
    strips = Strips(targets)
    for part in targets:
        rect = part.rect
        if _side(rect) >= _LEAST or _has_room(part, strips.around(rect, LEAST_TARGET)):
            continue
        size = f"{rect.width:.3g} × {rect.height:.3g} px"
        text = (
            f"{part_called(document, owner, part.path)} is {size}, and others stand close; "
            f"{LEAST_TARGET:g} × {LEAST_TARGET:g} is the least for a finger."
        )
        at_least = partial(_at_least, Place(owner.id, part.path), 24)
        mend = Mend("let it be 24 × 24 at least", at_least)
        yield finding("target-small", owner.id, part.path, text, mend)


_LEAST = LEAST_TARGET - 0.01
_MOST_COVERS = 8
_SEEN = 0.05


def _has_room(part: Located, targets: list[Located]) -> bool:
    """Whether a circle of 24 px around its middle meets no other target, nor the circle of
    another that is too small. Source: WCAG 2.2, 2.5.8, the exception for spacing."""
    x, y = part.rect.center
    for neighbor in targets:
        rect = neighbor.rect
        if neighbor is part or _holds(part, neighbor) or _holds(neighbor, part):
            continue
        if _distance(rect, x, y) < LEAST_TARGET / 2:
            return False
        if _side(rect) < _LEAST and math.dist((x, y), rect.center) < LEAST_TARGET:
            return False
    return True


def _holds(outer: Located, inner: Located) -> bool:
    return len(outer.path) < len(inner.path) and inner.path[: len(outer.path)] == outer.path


def _distance(rect: Rect, x: float, y: float) -> float:
    across = max(rect.x - x, 0.0, x - rect.right)
    down = max(rect.y - y, 0.0, y - rect.bottom)
    return math.hypot(across, down)


def _at_least(place: Place, side: float, document: Document) -> Document:
    values: dict[str, Value] = {"min-width": float(side), "min-height": float(side)}
    return set_properties(document, place, values)


def comfort_findings(context: ReviewContext) -> Iterator[Finding]:
    """The smallest that each component is where it stands on screens, or else by itself, against
    what is comfortable for a finger."""
    smallest: dict[str, Rect] = {}
    for screen in context.document.screens_in_order():
        for view in context.views(screen):
            for component_id, least in _smallest_of(view.parts).items():
                smallest[component_id] = _smaller(least, smallest.get(component_id))
    for component in context.document.in_order():
        if not is_pressed(component):
            continue
        rect: Rect | None = smallest.get(component.id)
        if rect is None:
            for view in context.views(component):
                rect = _smaller(view.parts[0].rect, rect)
        if rect is None or _side(rect) >= ROOMY_TARGET - 0.01:
            continue
        size = f"{rect.width:.3g} × {rect.height:.3g} px"
        text = f"“{component.name}” is {size}; 44 × 44 is comfortable for a finger."
        at_least = partial(_at_least, Place(component.id), 44)
        mend = Mend("let it be 44 × 44 at least", at_least)
        yield finding("target-below-44", component.id, (), text, mend)


def _side(rect: Rect) -> float:
    return min(rect.width, rect.height)


def _smaller(rect: Rect, other: Rect | None) -> Rect:
    return rect if other is None or _side(rect) < _side(other) else other


def _smallest(parts: Sequence[Located]) -> dict[str, Rect]:
    """The smallest of each component's instances among the parts of one face."""
    results: dict[str, Rect] = {}
    for part in parts:
        component_id = part.scene.component
        if component_id and takes_keys(part.scene):
            results[component_id] = _smaller(part.rect, results.get(component_id))
    return results


_smallest_of = ByIdentity(_smallest, 512)


# --- whether it can be reached -------------------------------------------------------------------


def _covered(context: ReviewContext, owner: Owner, view: DrawnView) -> Iterator[Finding]:
    """Targets whose middle is under something else that was painted later."""
    bounds, strips = view.parts[0].rect, Strips(view.parts)
    for number, part in enumerate(view.parts):
        x, y = part.rect.center
        if not takes_keys(part.scene) or not bounds.contains(x, y):
            continue
        if not strips.above(x, y, end_of(view, number) - 1):  # mostly so: it need not be pressed
            continue
        path = _cover(view, number)
        if path is None:
            continue
        cover = part_called(context.document, owner, path)
        target = part_called(context.document, owner, part.path)
        text = f"{target} lies under {cover}: a press in its middle does not reach it."
        change = partial(_uncovered, context.renderer, owner.id, part.path)
        # What is pressed itself would not be any more: then it is for the designer to move.
        keys = {p.path for p in view.parts if takes_keys(p.scene)}
        is_pressed_too = any(path[: n + 1] in keys for n in range(len(path)))
        mend = None if is_pressed_too else Mend(f"let presses through {cover}", change)
        yield finding("target-covered", owner.id, part.path, text, mend)


def _cover(view: DrawnView, number: int) -> Path | None:
    """What a press in the middle of a part reaches instead; None for the part."""
    x, y = view.parts[number].rect.center
    under = hit(view.scene, view.parts[0].placed, x, y)
    end = end_of(view, number)
    later = (part.path for part in view.parts[end:])
    return under.path if under is not None and under.path in later else None


def _uncovered(renderer: ViewRenderer, owner_id: str, target: Path, document: Document) -> Document:
    """Lets presses through all that lies over a part, one after the other."""
    for _ in range(_MOST_COVERS):
        owner = document.owner(owner_id)
        view = (
            next(ReviewContext(document, renderer).views(owner), None)
            if owner is not None
            else None
        )
        numbers = [n for n, p in enumerate(view.parts) if p.path == target] if view else []
        path = _cover(view, numbers[0]) if view is not None and numbers else None
        if path is None:
            return document
        document = set_properties(document, Place(owner_id, path), {"click-through": True})
    return document


def end_of(view: DrawnView, number: int) -> int:
    """The place behind the last part that one holds."""
    depth = len(view.parts[number].names)
    later = range(number + 1, len(view.parts))
    return next((n for n in later if len(view.parts[n].names) <= depth), len(view.parts))


def _clicked_through(component: Component) -> Iterator[Finding]:
    """Parts that listen, and let presses through to what is behind them."""
    listening = {node.id for node in heard(component)}
    if is_pressed(component):
        listening.add(component.root.id)
    for node in walk(component.root):
        if node.id in listening and node.style.get("click-through") is True:
            path: Path = () if node is component.root else (node.id,)
            text = (
                f"{node.name} of “{component.name}” listens for presses, and lets them through: it "
                "never hears one."
            )
            mend = Mend("keep presses", partial(_keep_presses, Place(component.id, path)))
            yield finding("target-click-through", component.id, path, text, mend)


def _keep_presses(place: Place, document: Document) -> Document:
    return set_properties(document, place, {"click-through": False})


def _hover_only(context: ReviewContext, component: Component) -> Iterator[Finding]:
    """Words, and states, that only a hovering pointer brings: a finger never does, nor do keys."""
    yield from _entered_only(component)
    pairs = ((axis, value_for(axis, "hover")) for axis in component.axes)
    axis, hover = next((pair for pair in pairs if pair[1] is not None), (None, None))
    if axis is None:
        return
    hovered: dict[str, Path] = {}
    visible: set[str] = set()
    for view in context.views(component):
        if view.variant is None:
            continue
        said = {
            words: part.path
            for part, opacity in shown_opacities(view)
            if opacity > _SEEN and (words := _read(part))
        }
        if view.variant[axis.id] == hover:
            hovered |= said
        else:
            visible |= said.keys()
    for path in sorted({path for words, path in hovered.items() if words not in visible}):
        part = part_called(context.document, component, path)
        text = f"{part} is only there while a pointer hovers: a finger and the keys never bring it."
        yield finding("hover-only", component.id, path, text)


def _entered_only(component: Component) -> Iterator[Finding]:
    """Values that a cue sets when the pointer comes, and nothing sets besides."""
    turned = {c.name for cue in component.behaviour.cues for c in cue.changes if c.act == "next"}
    for (axis_id, value_id), triggers in _set_by(component).items():
        axis = component.axis(axis_id)
        value = axis.value(value_id) if axis is not None else None
        if axis is None or value is None or triggers != {"enter"} or axis_id in turned:
            continue
        if value_id == axis.default:
            continue
        text = (
            f"“{component.name}” is at {axis.name}: {value.name} only where a pointer comes to it: "
            "a finger and the keys never bring it."
        )
        yield finding("hover-only", component.id, (), text, about=f"{axis_id}/{value_id}")


def _set_by(component: Component) -> dict[tuple[str, str], set[str]]:
    """The triggers that set each value of the component's own axes."""
    triggers: dict[tuple[str, str], set[str]] = {}
    for cue in component.behaviour.cues:
        for change in cue.changes:
            if change.act == "set" and not change.at:
                key = change.name, str(change.value)
                triggers.setdefault(key, set()).add(cue.trigger.kind)
    return triggers


def _read(part: Located) -> str:
    """The words that a part shows; empty for one that shows none."""
    scene = part.scene
    if scene.kind != "text":
        return ""
    return " ".join(plain(scene.layout.style.content).split())
