"""The tween: what is drawn between two laid-out scenes.

Nodes are matched by id along the tree. A frame is again a scene with placements, so the
painter, the hit test and an interruption treat it like any other picture. What is the
same object on both sides is used as it is and costs nothing.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import msgspec

from outgrowth.core.color import TRANSPARENT, Color, Gradient, Stop
from outgrowth.core.document.properties import TABLE, StyleProperty
from outgrowth.core.document.values import Shadow, Shadows
from outgrowth.core.layout import Placed
from outgrowth.core.motion.tracks import Tracks, Values
from outgrowth.core.resolve.scene import PaintStyle, SceneNode, SceneParts

GHOST = "~"
"""What the id of a disappearing node begins with while it fades."""

_PAINT = tuple(row for row in TABLE.values() if row.affects == "paint")
_SHADOW_LENGTHS = ("x", "y", "blur", "spread")


class View(NamedTuple):
    """A laid-out scene."""

    scene: SceneNode
    placed: Placed


Build = Callable[[Values], View]


class Tween:
    """The way from one view to another; `at(1)` is the target itself."""

    def __init__(self, start: View, end: View) -> None:
        self._tracks = Tracks()
        self._end = end
        self._build = _planned(start, end, self._tracks)

    def at(self, progress: float) -> View:
        """The view at an eased progress."""
        if progress == 1.0:
            return self._end
        return self._build(self._tracks.at(progress))


class _Slot(NamedTuple):
    """A child in the frames: who it is, where it stands, and how it is built."""

    id: str
    name: str
    x: Callable[[Values], float]
    y: Callable[[Values], float]
    build: Build


def _planned(start: View, end: View, tracks: Tracks) -> Build:
    if start.scene is end.scene and start.placed is end.placed:
        return lambda values: end
    width = _number(start.placed.width, end.placed.width, tracks)
    height = _number(start.placed.height, end.placed.height, tracks)
    paint = _paint(start.scene.paint, end.scene.paint, tracks)
    slots = _slots(start, end, tracks)

    def build(values: Values) -> View:
        views = [slot.build(values) for slot in slots]
        placed = Placed(
            width(values),
            height(values),
            tuple([view.placed for view in views]),
            tuple([slot.x(values) for slot in slots]),
            tuple([slot.y(values) for slot in slots]),
            end.placed.text,
        )
        return View(_scene(end.scene, paint(values), slots, views), placed)

    return build


def _scene(like: SceneNode, paint: PaintStyle, slots: list[_Slot], views: list[View]) -> SceneNode:
    return SceneNode(
        SceneParts(
            like.kind,
            like.layout,
            paint,
            tuple([view.scene for view in views]),
            tuple([slot.id for slot in slots]),
            tuple([slot.name for slot in slots]),
            like.click_through,
            like.component,
            like.variant,
            like.problem,
            like.order,
            like.ways,
        )
    )


def _number(start: float, end: float, tracks: Tracks) -> Callable[[Values], float]:
    if start == end:
        return lambda values: end
    index = tracks.number(start, end)
    return lambda values: values.number(index)


# --- paint ------------------------------------------------------------------------------


def _paint(start: PaintStyle, end: PaintStyle, tracks: Tracks) -> Callable[[Values], PaintStyle]:
    """Mixes the fields that differ, each as its row of the property table says."""
    if start is end:
        return lambda values: end
    moving: list[tuple[str, Callable[[Values], object]]] = []
    for row in _PAINT:
        field = _field(row, getattr(start, row.field), getattr(end, row.field), tracks)
        if field is not None:
            moving.append((row.field, field))

    def paint(values: Values) -> PaintStyle:
        changes = {name: field(values) for name, field in moving}
        return msgspec.structs.replace(end, **changes)

    return paint


def _field(
    row: StyleProperty, start: object, end: object, tracks: Tracks
) -> Callable[[Values], object] | None:
    if start == end:
        return None
    if row.mix == "linear" and isinstance(start, float) and isinstance(end, float):
        return _number(start, end, tracks)
    if row.mix == "color" and (isinstance(start, Gradient) or isinstance(end, Gradient)):
        return _gradient(start, end, tracks)
    if row.mix == "color":
        index = tracks.color(start, end)  # type: ignore[arg-type]  # the row says colours
        return lambda values: values.color(index)
    if row.mix == "shadows":
        return _shadows(start, end, tracks)  # type: ignore[arg-type]  # the row says shadows
    return None


def _gradient(start: object, end: object, tracks: Tracks) -> Callable[[Values], object] | None:
    """Stop by stop; a colour counts as a gradient of that colour alone. Of different kinds
    or numbers of stops the target is cut in. Source: CSS Images 4, section 8 (interpolation).
    """
    one, two = _as_gradient(start, end), _as_gradient(end, start)
    if one is None or two is None or one.kind != two.kind or len(one.stops) != len(two.stops):
        return None
    pairs = list(zip(one.stops, two.stops, strict=True))
    colors = [tracks.color(a.color, b.color) for a, b in pairs]
    places = [tracks.number(a.at, b.at) for a, b in pairs]
    angle = tracks.number(one.angle, two.angle)

    def gradient(values: Values) -> Gradient:
        stops = zip(colors, places, strict=True)
        mixed = tuple(Stop(values.color(c), values.number(n)) for c, n in stops)
        return Gradient(two.kind, mixed, values.number(angle))

    return gradient


def _as_gradient(value: object, like: object) -> Gradient | None:
    if isinstance(value, Gradient):
        return value
    if not isinstance(value, Color) or not isinstance(like, Gradient):
        return None
    clear = value.alpha == 0
    stops = [Stop(s.color.with_alpha(0.0) if clear else value, s.at) for s in like.stops]
    return Gradient(like.kind, tuple(stops), like.angle)


def _shadows(start: Shadows, end: Shadows, tracks: Tracks) -> Callable[[Values], Shadows]:
    """Pairwise; a missing one is the other with no colour. Where an outer meets an inner
    one, the target's list is cut in. Source: CSS Backgrounds 3, section 6.1 (interpolation).
    """
    pairs = list(zip(_padded(start, end), _padded(end, start), strict=True))
    if any(a.inner != b.inner for a, b in pairs):
        return lambda values: end
    moving = []
    for a, b in pairs:
        color = tracks.color(a.color, b.color)
        lengths = [tracks.number(getattr(a, n), getattr(b, n)) for n in _SHADOW_LENGTHS]
        moving.append((color, lengths, b.inner))

    def shadows(values: Values) -> Shadows:
        return tuple(
            Shadow(values.color(color), *_four(values, lengths), inner)
            for color, lengths, inner in moving
        )

    return shadows


def _four(values: Values, indices: list[int]) -> tuple[float, float, float, float]:
    x, y, blur, spread = (values.number(index) for index in indices)
    return x, y, blur, spread


def _padded(shadows: Shadows, other: Shadows) -> Shadows:
    missing = other[len(shadows) :]
    return shadows + tuple(
        Shadow(TRANSPARENT, s.x, s.y, s.blur, s.spread, s.inner) for s in missing
    )


# --- children ---------------------------------------------------------------------------


def _slots(start: View, end: View, tracks: Tracks) -> list[_Slot]:
    before = _children(start)
    slots = []
    for child_id, (name, x, y, view) in _children(end).items():
        was = before.pop(child_id, None)
        if was is None:
            slots.append(_appearing(child_id, name, (x, y), view, tracks))
        elif _new_words(was[3], view):
            slots.append(_disappearing(child_id, was, (x, y), tracks))
            slots.append(_appearing(child_id, name, (x, y), view, tracks))
        else:
            across, down = _number(was[1], x, tracks), _number(was[2], y, tracks)
            slots.append(_Slot(child_id, name, across, down, _planned(was[3], view, tracks)))
    slots += [_disappearing(i, was, (was[1], was[2]), tracks) for i, was in before.items()]
    return slots


_Child = tuple[str, float, float, View]


def _children(view: View) -> dict[str, _Child]:
    """By id: name, place, and view of each child."""
    scene, placed = view
    found: dict[str, _Child] = {}
    for n, child_id in enumerate(scene.ids):
        inner = View(scene.children[n], placed.children[n])
        found[child_id] = scene.names[n], placed.xs[n], placed.ys[n], inner
    return found


def _new_words(start: View, end: View) -> bool:
    """Whether two texts (or two kinds of node) have to fade into each other."""
    if start.scene.kind != end.scene.kind:
        return True
    return start.scene.kind == "text" and start.placed.text != end.placed.text


def _appearing(
    child_id: str, name: str, spot: tuple[float, float], view: View, tracks: Tracks
) -> _Slot:
    x, y = spot
    return _Slot(child_id, name, lambda v: x, lambda v: y, _fading(view, 0.0, 1.0, tracks))


def _disappearing(child_id: str, was: _Child, spot: tuple[float, float], tracks: Tracks) -> _Slot:
    name, x, y, view = was
    ghost = child_id if child_id.startswith(GHOST) else GHOST + child_id
    across, down = _number(x, spot[0], tracks), _number(y, spot[1], tracks)
    untouchable = View(_click_through(view.scene), view.placed)
    return _Slot(ghost, name, across, down, _fading(untouchable, 1.0, 0.0, tracks))


def _fading(view: View, start: float, end: float, tracks: Tracks) -> Build:
    """The view with its opacity going from one share of its own to another."""
    scene = view.scene
    own = scene.paint.opacity
    index = tracks.number(own * start, own * end)

    def build(values: Values) -> View:
        paint = msgspec.structs.replace(scene.paint, opacity=values.number(index))
        return View(_with(scene, paint, scene.click_through), view.placed)

    return build


def _click_through(scene: SceneNode) -> SceneNode:
    return _with(scene, scene.paint, True)


def _with(scene: SceneNode, paint: PaintStyle, click_through: bool) -> SceneNode:
    return SceneNode(
        SceneParts(
            scene.kind,
            scene.layout,
            paint,
            scene.children,
            scene.ids,
            scene.names,
            click_through,
            scene.component,
            scene.variant,
            scene.problem,
            scene.order,
            scene.ways,
        )
    )
