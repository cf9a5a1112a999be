"""What is hard to see on what is behind it, in every variant that is offered and on every
screen, as it is drawn: words, marks that stand for words, and what shows the focus.

Source: WCAG 2.2, success criteria 1.4.3 (contrast, minimum), 1.4.11 (non-text contrast) and
2.4.13 (focus appearance).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import msgspec
from immutables import Map

from outgrowth.core.color import Color, Fill, contrast, over
from outgrowth.core.color.gradient import Gradient
from outgrowth.core.document.axis_parts import focus_axes, focus_value, resting_value
from outgrowth.core.document.color_pairs import ENOUGH
from outgrowth.core.document.properties import consumed_by
from outgrowth.core.document.records import Component, Document, Owner, Path, walk
from outgrowth.core.document.values import USUAL, Picture
from outgrowth.core.document.variants import Variant, condition_text
from outgrowth.core.layout.rectangles import Located
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.scene import PaintStyle, SceneNode
from outgrowth.core.review.finding import Finding
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.legible import Ground, Poor, legible
from outgrowth.core.review.strips import Strips
from outgrowth.core.review.targets import is_pressed
from outgrowth.core.review.views import DrawnView, Pixels, ReviewContext, ViewRenderer, part_called
from outgrowth.core.runtime.focus import is_enabled

ENOUGH_FOR_LARGE = 3.0
"""Contrast of words, and of large ones, of marks, and of what shows the focus."""
_LARGE, _LARGE_BOLD, _BOLD = 24.0, 18.66, 700.0
"""Px of large words, of large bold ones, and the weight that counts as bold: 18 pt and 14 pt."""
PAPER = Color(1.0, 1.0, 1.0)
"""What screens lie on."""
_CLOSE = 0.005
_TO_ONE = "\u00a0:\u00a01"
"""Never on two lines."""
_PAUSE = 200
"""After how many parts there may be a pause."""


def contrast_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding | None]:
    """Each text and each mark once in each mode, where it is worst. What is off on purpose (a
    part that is not enabled) is left out, as the criteria do."""
    document = context.document
    for mode in dict.fromkeys((document.mode, "", *document.modes)):
        shown = document if mode == document.mode else _in_mode(document, mode)
        worst: dict[tuple[str, Path], Poor] = {}
        for result in _each(ReviewContext(shown, context.renderer), owner):
            if result is None:
                yield None
                continue
            kind, poor = result
            before = worst.get((kind, poor.path))
            if before is None or poor.ratio < before.ratio:
                worst[kind, poor.path] = poor
        for (kind, _), poor in worst.items():
            yield _finding(context, owner, kind, poor, mode)
    if isinstance(owner, Component):
        yield from _focus(context, owner)


def _in_mode(document: Document, mode: str) -> Document:
    return msgspec.structs.replace(document, mode=mode)


def _each(context: ReviewContext, owner: Owner) -> Iterator[tuple[str, Poor] | None]:
    """What is hard to see in any variant; None now and then."""
    for view in context.views(owner):
        yield None
        for result in _poor(context, owner, view):
            if result is None:
                yield None
            else:
                yield result[0], result[1]._replace(variant=view.variant)


def _finding(context: ReviewContext, owner: Owner, kind: str, poor: Poor, mode: str) -> Finding:
    """In a mode that is not shown, what mends it is for the tokens to say."""
    part, is_shown = part_called(context.document, owner, poor.path), mode == context.document.mode
    place = "" if is_shown else f" in the mode {mode or USUAL}"
    if isinstance(owner, Component) and poor.variant:
        place = f" at {condition_text(owner, poor.variant)}{place}"
    if kind == "words-over-picture":
        text = (
            f"{part}{place} stands on a picture: whatever picture comes, it needs a "
            "contrast of 4.5 : 1; a shade between would give it."
        )
        return finding(kind, owner.id, poor.path, text, about=mode)
    text = (
        f"{part}{place} has a contrast of {_ratio(poor.ratio)}, and {poor.required:g}"
        f"{_TO_ONE} is needed."
    )
    mend = legible(context, owner, kind, poor.path, poor_faces) if is_shown else None
    return finding(kind, owner.id, poor.path, text, mend, mode, poor.variant or Map())


def _ratio(ratio: float) -> str:
    return f"{ratio:.2f}{_TO_ONE}"


def poor_faces(context: ReviewContext, owner: Owner, kind: str, path: Path) -> list[Poor]:
    """The variants in which a part is hard to see, the worst first."""
    results = [
        result[1]
        for result in _each(context, owner)
        if result is not None and (result[0], result[1].path) == (kind, path)
    ]
    return sorted(results, key=lambda poor: poor.ratio)


def _poor(
    context: ReviewContext, owner: Owner, view: DrawnView
) -> Iterator[tuple[str, Poor] | None]:
    """What of one face is hard to see, by its kind; None now and then."""
    is_component = isinstance(owner, Component)
    marked = isinstance(owner, Component) and is_pressed(owner) and not _says_words(view)
    strips = Strips(view.parts)
    for number, part, opacity in _visible(context.document, view):
        if number % _PAUSE == _PAUSE - 1:
            yield None
        style, kind = part.scene.layout.style, part.scene.kind
        if kind == "text" and style.content:
            inks, required = _colors(part.scene.paint.color), _required(part.scene)
        elif kind == "shape" and marked:
            inks, required = _colors(_drawn_with(part.scene)), ENOUGH_FOR_LARGE
        else:
            continue
        below = strips.beside(part.rect.center[1], number)
        ground = ground_of(below, part, None if is_component else PAPER, context.renderer)
        if _is_inner(owner, part.path, ground):
            continue
        if ground.hidden and kind == "text":
            yield "words-over-picture", Poor(part.path, 1.0, ENOUGH, ground)
        if not ground.colors or ground.hidden:
            continue
        inks = tuple(c.with_alpha(c.alpha * opacity) for c in inks) if opacity < 1 else inks
        ratio = min(contrast(ink, g) for ink in inks for g in ground.colors)
        if ratio < required - _CLOSE:
            name = "words-contrast" if kind == "text" else "mark-contrast"
            yield name, Poor(part.path, ratio, required, ground, opacity)


def _visible(document: Document, view: DrawnView) -> Iterator[tuple[int, Located, float]]:
    """The parts that are on, with their places in the order of painting and how solid they
    are drawn."""
    off: set[Path] = set()
    solid: list[float] = []  # of the part, and of all that hold it
    for number, part in enumerate(view.parts):
        scene, depth = part.scene, len(part.names) - 1
        if scene.component and not is_enabled(document.components.get(scene.component), scene):
            off.add(part.path)
        opacity = (solid[depth - 1] if depth else 1.0) * scene.paint.opacity
        solid[depth:] = [opacity]
        dimmed = opacity < 0.5  # fainter than half: shown as off, or on its way in or out
        if not dimmed and not any(part.path[: len(path)] == path for path in off):
            yield number, part, opacity


def _says_words(view: DrawnView) -> bool:
    return any(p.scene.kind == "text" and p.scene.layout.style.content for p in view.parts)


def _required(scene: SceneNode) -> float:
    style = scene.layout.style
    large = style.font_size >= _LARGE or (
        style.font_size >= _LARGE_BOLD and style.font_weight >= _BOLD
    )
    return ENOUGH_FOR_LARGE if large else ENOUGH


def _drawn_with(scene: SceneNode) -> Fill:
    """What a shape is drawn with: its fill, or else its line."""
    paint = scene.paint
    return paint.fill if paint.fill.alpha > 0 else paint.stroke


def _is_inner(owner: Owner, path: Path, ground: Ground) -> bool:
    """Whether a part and its ground belong to one instance that is left as its component has
    it: then it is the component's own finding."""
    if len(path) < 2 or ground.home[:1] != path[:1] or len(ground.home) < 1:
        return False
    return path[0] in _plain_instances(owner)


def _undiffering(owner: Owner) -> frozenset[str]:
    """An owner's instances that do not differ in colours from their component."""
    results: set[str] = set()
    for node in walk(owner.root):
        if node.kind == "instance":
            statements = [*node.style, *(rule.property for rule in node.overrides)]
            if not any(name in _COLORS for name in statements):
                results.add(node.id)
    return frozenset(results)


_plain_instances = ByIdentity(_undiffering, 1024)
_COLORS = consumed_by("contrast")


def ground_of(
    painted_before: Iterable[Located], part: Located, paper: Color | None, renderer: ViewRenderer
) -> Ground:
    """What lies under a part: the colours of all that is painted before it where it stands.
    Without `paper`, only a solid ground of the owner's own counts."""
    rect = part.rect
    x, y = rect.center
    colors: tuple[Color, ...] = (paper,) if paper is not None else ()
    ground = Ground(colors)
    for lower in painted_before:
        kind = lower.scene.kind
        if kind not in ("box", "shape", "image") or not lower.rect.contains(x, y):
            continue
        fills = _picture(lower, renderer.pixels) if kind == "image" else _fill_under(lower, part)
        if fills is None:
            ground = Ground(ground.colors, lower.path, True)
            continue
        fills = [c for c in fills if c.alpha > 0]
        if fills and all(c.alpha == 1 for c in fills):
            ground = Ground(tuple(dict.fromkeys(fills)), lower.path)
        elif fills and ground.colors:
            mixed = [over(fill, below) for fill in fills for below in ground.colors]
            ground = Ground(tuple(dict.fromkeys(mixed)), lower.path, ground.hidden)
    return ground


def _fill_under(lower: Located, part: Located) -> list[Color]:
    fill = lower.scene.paint.fill
    if not isinstance(fill, Gradient):
        return [fill]
    left, top = part.rect.x - lower.rect.x, part.rect.y - lower.rect.y
    size = lower.rect.width, lower.rect.height
    area = (
        max(left, 0.0),
        max(top, 0.0),
        min(left + part.rect.width, size[0]),
        min(top + part.rect.height, size[1]),
    )
    return list(fill.within(size, area))


def _picture(lower: Located, pixels: Pixels) -> list[Color] | None:
    picture: Picture = lower.scene.layout.style.picture
    return pixels(picture) if picture.asset else None


def _colors(fill: Fill) -> tuple[Color, ...]:
    return (fill,) if isinstance(fill, Color) else tuple(stop.color for stop in fill.stops)


# --- what shows the focus -----------------------------------------------------------------------


def _focus(context: ReviewContext, component: Component) -> Iterator[Finding]:
    """What a variant with the focus has more than the one without, against both what it lies on
    and what lies around: the better of all that differs counts."""
    axis = next(iter(focus_axes(component)), None)
    if axis is None or not is_pressed(component):
        return
    rest, focused = resting_value(axis), focus_value(axis)
    views = {view.variant: view for view in context.views(component) if view.variant is not None}
    worst: tuple[float, Variant] | None = None
    for variant, view in views.items():
        without = views.get(variant.set(axis.id, rest))
        if variant[axis.id] != focused or without is None or _is_off(component, view):
            continue
        ratios = [_seen_at(*pair) for pair in _differing(without, view)]
        best = max(ratios, default=0.0)
        if best and best < ENOUGH_FOR_LARGE - _CLOSE and (worst is None or best < worst[0]):
            worst = best, variant
    if worst is not None:
        text = (
            f"What shows the focus of “{component.name}” at {condition_text(component, worst[1])} "
            f"has a contrast of {_ratio(worst[0])} to what is beside it; 3{_TO_ONE} is needed."
        )
        yield finding("focus-contrast", component.id, (), text, variant=worst[1])


def _is_off(component: Component, view: DrawnView) -> bool:
    return not is_enabled(component, view.scene)


def _differing(
    before: DrawnView, after: DrawnView
) -> Iterator[tuple[Located | None, Located, Color]]:
    """Parts that the focus changes, as they were, as they are, and what is around them."""
    old = {part.path: part for part in before.parts}
    for part in after.parts:
        old_part = old.get(part.path)
        if old_part is None or old_part.scene.paint is not part.scene.paint:
            yield old_part, part, PAPER


def _seen_at(old_part: Located | None, part: Located, paper: Color) -> float:
    """How well the change of one part is seen, at best: every colour against what was in its
    place without the focus."""
    paint = part.scene.paint
    own = _solid(paint.fill, paper)
    before = old_part.scene.paint if old_part is not None else None
    results = [
        contrast(shadow.color, paper)
        for shadow in paint.shadow
        if not shadow.inner and shadow.spread > 0
        if before is None or shadow not in before.shadow
    ]
    results += [contrast(paint.stroke, ground) for ground in _under_line(paint, before, own, paper)]
    if before is not None and before.fill != paint.fill:
        results.append(min(contrast(a, b) for a in own for b in _solid(before.fill, paper)))
    if before is not None and before.color != paint.color and part.scene.kind == "text":
        results.append(contrast(paint.color, before.color.with_alpha(1.0)))
    return max(results, default=0.0)


def _solid(fill: Fill, paper: Color) -> list[Color]:
    return [c for c in _colors(fill) if c.alpha == 1] or [paper]


def _under_line(
    paint: PaintStyle, before: PaintStyle | None, own: list[Color], paper: Color
) -> list[Color]:
    """What was where a line is now: the line that was there, and where it is new or thicker, what
    is inside or around; nothing where the line is as it was."""
    if not paint.line_width or not paint.stroke.alpha:
        return []
    thinner = before is None or not before.stroke.alpha or before.line_width < paint.line_width
    grounds: list[Color] = []
    if before is not None and before.line_width and before.stroke.alpha == 1:
        grounds += [before.stroke] if before.stroke != paint.stroke else []
    if thinner:
        grounds += own if paint.stroke_place != "outside" else []
        grounds += [paper] if paint.stroke_place != "inside" else []
    return grounds
