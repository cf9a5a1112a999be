"""Makes the display list of a laid-out scene; what did not change is not drawn again."""

from __future__ import annotations

from operator import ne, or_

import numpy as np

from outgrowth.core.document.values import Shadow
from outgrowth.core.geometry import Affine, Rect
from outgrowth.core.geometry.affine import about
from outgrowth.core.geometry.path import PathRefusal, ellipse, outline
from outgrowth.core.geometry.rect import corner_radii, union
from outgrowth.core.layout import Placed
from outgrowth.core.memo import differing, flagged
from outgrowth.core.paint.fragment import Extents, Fragment, Group
from outgrowth.core.paint.marks import Bar, Box, BoxShadow, Glyphs, Image, Mark, Outline, Ring
from outgrowth.core.resolve.scene import LONG, Memory, PaintStyle, SceneNode
from outgrowth.core.text import GlyphRun

# How many sizes of one scene node keep their fragment.
_KEPT_SIZES = 8


def draw(scene: SceneNode, placed: Placed) -> Fragment:
    """The display list of the scene as placed, kept on the scene node."""
    memory = _memory_of(scene)
    cached = memory.fragments.get(id(placed))
    if cached is not None:
        return cached[1]
    if len(memory.fragments) >= _KEPT_SIZES:
        memory.fragments.clear()
    fragment = _drawn(scene, placed)
    memory.fragments[id(placed)] = placed, fragment
    return fragment


class _PaintMemory(Memory):
    """The pictures of one scene node.

    Invariant: keyed by the id of a layout that stands beside the picture, so that the id is
    never one of something gone.
    """

    __slots__ = ("fragments",)

    def __init__(self) -> None:
        self.fragments: dict[int, tuple[Placed, Fragment]] = {}


def _memory_of(scene: SceneNode) -> _PaintMemory:
    memory = scene.memory
    if memory is None:
        memory = scene.memory = _PaintMemory()
    return memory  # type: ignore[return-value]  # set here alone


def _drawn(scene: SceneNode, placed: Placed) -> Fragment:
    before = _before(scene, placed)
    if before is None:
        parts = zip(placed.xs, placed.ys, scene.children, placed.children, strict=True)
        children = tuple([(x, y, draw(child, placed_child)) for x, y, child, placed_child in parts])
    else:
        children = _after(scene, placed, *before)
    extents = None
    if len(children) >= LONG:
        extents = _extents(children, before[1] if before is not None else None)
    marks = tuple(_marks(scene, placed))
    group = _group(scene.paint, placed)
    bounds = _bounds(scene, placed, children, group, extents)
    return Fragment(marks, children, group, bounds, bool(scene.component), extents)


def _before(scene: SceneNode, placed: Placed) -> tuple[Placed, Fragment] | None:
    """The picture of the node that this one is like, as it was last placed."""
    before = scene.delta.before() if scene.delta is not None else None
    if not isinstance(before, SceneNode):
        return None
    for old_placed, fragment in _memory_of(before).fragments.values():
        similar = len(old_placed.children) == len(placed.children)
        if similar and (old_placed.ys is placed.ys or old_placed.width == placed.width):
            return old_placed, fragment
    return None


def _after(
    scene: SceneNode, placed: Placed, before: Placed, fragment: Fragment
) -> tuple[tuple[float, float, Fragment], ...]:
    """The children's pictures, taken over from before but for those that changed."""
    changed = set(scene.delta.changed) if scene.delta is not None else set()
    changed |= set(differing(before.children, placed.children))
    if before.xs is placed.xs and before.ys is placed.ys:
        children = list(fragment.children)
    else:
        # What stands where it stood stays the very same, so that others see it by identity.
        children = list(fragment.children)
        shifted = map(or_, map(ne, before.xs, placed.xs), map(ne, before.ys, placed.ys))
        for n in flagged(shifted):
            children[n] = placed.xs[n], placed.ys[n], children[n][2]
    for n in changed:
        x, y, _ = children[n]
        children[n] = x, y, draw(scene.children[n], placed.children[n])
    return tuple(children)


def _extents(
    children: tuple[tuple[float, float, Fragment], ...], before: Fragment | None
) -> Extents:
    """Left, top, right and bottom of every child's ink, one row each, in px of the node."""
    if before is not None and before.extents is not None:
        old = before.children
        changed = differing(old, children)
        if len(changed) < len(children) // 4:
            extents = before.extents.copy()
            for n in changed:
                extents[n] = _extent(*children[n])
            return extents
    # Long lists are made of few distinct pictures, whose bounds are looked up once.
    rows: dict[int, int] = {}
    distinct: list[Rect] = []
    codes = []
    for _, _, fragment in children:
        row = rows.get(id(fragment))
        if row is None:
            row = rows[id(fragment)] = len(distinct)
            distinct.append(fragment.bounds)
        codes.append(row)
    left, top, width, height = np.array(distinct)[codes].T
    x = np.array([child[0] for child in children])
    y = np.array([child[1] for child in children])
    return np.column_stack((left + x, top + y, left + width + x, top + height + y))


def _extent(x: float, y: float, fragment: Fragment) -> tuple[float, float, float, float]:
    left, top, width, height = fragment.bounds
    return left + x, top + y, left + x + width, top + y + height


def _marks(scene: SceneNode, placed: Placed) -> list[Mark]:
    if scene.kind == "text":
        return _text_marks(scene.paint, placed)
    if scene.kind == "shape":
        return _shape_marks(scene.paint, placed)
    marks = _box_marks(scene.paint, placed)
    if scene.kind == "image":
        w, h = placed.width, placed.height
        radii = corner_radii(w, h, scene.paint.radii)
        focal = scene.paint.focal_x, scene.paint.focal_y
        marks.append(Image(w, h, radii, scene.layout.style.picture, scene.paint.fit, focal))
    return marks


OUT = {"inside": 0.0, "center": 0.5, "outside": 1.0}
"""Which share of a stroke lies outside the box's edge, by where it is said to lie."""


def _box_marks(paint: PaintStyle, placed: Placed) -> list[Mark]:
    w, h = placed.width, placed.height
    radii = corner_radii(w, h, paint.radii)
    shadows = [s for s in reversed(paint.shadow) if s.color.alpha > 0]
    marks: list[Mark] = [BoxShadow(w, h, radii, s) for s in shadows if not s.inner]
    if paint.fill.alpha > 0:
        marks.append(Box(w, h, radii, paint.fill))
    marks += [BoxShadow(w, h, radii, s) for s in shadows if s.inner]
    if paint.stroked:
        marks.append(Ring(w, h, radii, paint.strokes, OUT[paint.stroke_place], paint.stroke))
    return marks


def _text_marks(paint: PaintStyle, placed: Placed) -> list[Mark]:
    if placed.text is None:
        return []
    marks: list[Mark] = []
    for line in placed.text.lines:
        for x, run in line.runs:
            marks.append(Glyphs(x, line.baseline, run, paint.color))
            if paint.decoration != "none" and run.advance > 0:
                marks.append(_bar(paint, x, line.baseline, run))
    return marks


def _bar(paint: PaintStyle, x: float, baseline: float, run: GlyphRun) -> Bar:
    """The line along a run, where its font says it belongs."""
    offset, size = run.face.underline if paint.decoration == "underline" else run.face.strike
    return Bar(x, baseline - offset * run.size, run.advance, max(size * run.size, 1.0), paint.color)


def _shape_marks(paint: PaintStyle, placed: Placed) -> list[Mark]:
    """The room of the path scaled to fit the node, in its middle; or an ellipse, an arc, a
    ring or a line over the whole of it."""
    if paint.form != "path":
        data = formed(paint, placed.width, placed.height)
        size = placed.width, placed.height
        return [_outlined(paint, data, (1.0, 0.0, 0.0), size)] if data else []
    if not paint.path:
        return []
    wide, high = paint.path_room
    scale = path_scale(paint, placed)
    dx = (placed.width - wide * scale) / 2
    dy = (placed.height - high * scale) / 2
    try:
        outline(paint.path)
    except PathRefusal:
        return []
    return [_outlined(paint, paint.path, (scale, dx, dy), (wide, high))]


def _outlined(
    paint: PaintStyle, data: str, placing: tuple[float, float, float], size: tuple[float, float]
) -> Outline:
    look = paint.fill_rule, paint.line_ends, paint.line_joins
    return Outline(data, *placing, paint.fill, paint.stroke, paint.line_width, size, *look)


def path_scale(paint: PaintStyle, placed: Placed) -> float:
    """What the path's own units are multiplied by, so that its room just fits the node."""
    wide, high = paint.path_room
    return min(placed.width / wide, placed.height / high)


def formed(paint: PaintStyle, width: float, height: float) -> str:
    """The path data of a shape that is no path of its own, in px."""
    if paint.form == "line":
        return f"M0 {height / 2:.6g}H{width:.6g}"
    return ellipse(width, height, (paint.arc_start, paint.arc_sweep), paint.thickness)


def own_transform(paint: PaintStyle, width: float, height: float) -> Affine | None:
    """The node's transform about its origin, None if it has none."""
    if not paint.transformed:
        return None
    origin = (paint.origin_x * width, paint.origin_y * height)
    moved = about(origin, (paint.translate_x, paint.translate_y), paint.scale, paint.rotate)
    if not paint.turns:
        return moved
    return Affine(a=-1.0, e=2 * origin[0]).then(moved)


def _group(paint: PaintStyle, placed: Placed) -> Group | None:
    transform = own_transform(paint, placed.width, placed.height)
    clip = None
    if paint.clip:
        clip = placed.width, placed.height, corner_radii(placed.width, placed.height, paint.radii)
    if transform is None and clip is None and paint.opacity == 1.0:
        return None
    return Group(transform, paint.opacity, clip)


def _bounds(
    scene: SceneNode,
    placed: Placed,
    children: tuple[tuple[float, float, Fragment], ...],
    group: Group | None,
    extents: Extents | None = None,
) -> Rect:
    own = Rect(0.0, 0.0, placed.width, placed.height)
    reach = max((_reach(s) for s in scene.paint.shadow if not s.inner), default=0.0)
    if scene.kind == "shape":
        reach = scene.paint.line_width * (1.0 if scene.paint.line_joins != "miter" else 2.0)
        if scene.paint.form == "path":
            reach *= path_scale(scene.paint, placed)
    if scene.kind == "box" and scene.paint.stroked:
        reach = max(reach, OUT[scene.paint.stroke_place] * max(scene.paint.strokes))
    if scene.kind == "text":
        reach = scene.layout.style.font_size
    parts = [own.grown(reach)]
    if extents is not None and not scene.paint.clip:
        left, top = extents[:, :2].min(axis=0).tolist()
        right, bottom = extents[:, 2:].max(axis=0).tolist()
        parts.append(Rect(left, top, right - left, bottom - top))
    elif not scene.paint.clip:
        parts += [fragment.bounds.moved(x, y) for x, y, fragment in children]
    bounds = union(parts) if len(parts) > 1 else parts[0]
    if group is None or group.transform is None:
        return bounds
    return group.transform.bounds(bounds)


def _reach(shadow: Shadow) -> float:
    return max(abs(shadow.x), abs(shadow.y)) + shadow.blur + max(shadow.spread, 0.0)
