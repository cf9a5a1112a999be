"""What breaks in a drawing: words cut or outside their box, parts over one another or squeezed,
targets too small for a finger, pictures out of proportion.

Each is looked for in what was laid out, and compared with the drawing as it was designed: what
was so before is told of as such.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from typing import NamedTuple

from outgrowth.core.document.records import Path
from outgrowth.core.document.values import plain
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import Located, children_of
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.runtime.focus import takes_keys
from outgrowth.core.text.paragraph import ELLIPSIS

LEAST_TARGET = 24.0
"""Px that a target is wide and high at least. Source: WCAG 2.2, 2.5.8."""
_SLACK = 1.0
"""Px that may be lost to rounding."""
_PROPORTION = 0.02

KINDS: dict[str, str] = {
    "words-cut": "words are cut",
    "words-outside": "words stand outside their box",
    "ellipsis": "words end in an ellipsis",
    "words-wrap": "words on one line take several",
    "parts-overlap": "parts stand over one another",
    "part-outside": "a part stands outside",
    "squeezed": "a part is squeezed",
    "target-small": "a target is too small",
    "picture-stretched": "a picture is out of proportion",
    "room-exceeded": "it is wider than its room",
}
"""All that can break, in a few words."""


class Break(NamedTuple):
    """One thing that breaks: what, at which part, how it is told, where it stands in the
    drawing (px), and whether it was so before there was anything to try."""

    kind: str
    node: Path
    text: str
    rect: Rect
    before: bool = False


class Drawing(NamedTuple):
    """A scene that was laid out: its parts in the order of painting, and the width (px) of the
    room that it was given; 0 for none."""

    parts: Sequence[Located]
    room: float = 0.0

    @property
    def bounds(self) -> Rect:
        """Where its root stands."""
        return self.parts[0].rect


def breaks(drawing: Drawing, usual: Usual | None = None) -> tuple[Break, ...]:
    """What breaks in a drawing; `usual` is the same part as it was designed."""
    usual = usual if usual is not None else NOT_KNOWN
    results: dict[tuple[str, Path], Break] = {}
    for item in _search(drawing, usual):
        was_before = (item.kind, item.node) in usual.broken
        results.setdefault((item.kind, item.node), item._replace(before=was_before))
    return tuple(results.values())


class Usual:
    """What is compared with, a part as it was designed: how many lines each text has, and what
    breaks already."""

    def __init__(self, drawing: Drawing) -> None:
        self.lines = {
            part.path: len(part.placed.text.lines)
            for part in drawing.parts
            if part.placed.text is not None
        }
        self.broken: Collection[tuple[str, Path]] = ()
        if drawing.parts:
            self.broken = {(b.kind, b.node) for b in _search(drawing, self)}


NOT_KNOWN = Usual(Drawing(()))
"""Nothing to compare with."""


class _Around(NamedTuple):
    """What holds a part: the nearest box, what cuts it off, and along which ways it scrolls."""

    holder: Located
    clip: Rect | None
    scrolls: str
    pressed: bool


def _search(drawing: Drawing, base: Usual) -> Iterator[Break]:
    root = drawing.parts[0]
    if drawing.room and root.rect.width > drawing.room + _SLACK:
        text = f"It is {root.rect.width:.4g} px wide in a room of {drawing.room:g} px."
        yield Break("room-exceeded", (), text, root.rect)
    line: list[_Around] = []
    for part in drawing.parts:
        depth = len(part.names) - 1
        context = line[depth - 1] if depth else None
        if context is not None:
            yield from _of(part, context, root, base)
        elif part.scene.kind == "text":
            yield from _of(part, _Around(part, None, "none", False), root, base)
        yield from _target(part)
        if part.scene.children:
            yield from _overlaps(part)
        line[depth:] = [_inside(part, context)]


def _inside(part: Located, context: _Around | None) -> _Around:
    scene = part.scene
    outer = context.scrolls if context is not None else "none"
    own = scene.layout.style.scrolls
    scrolls = own if outer in ("none", own) else "both" if own != "none" else outer
    clip = context.clip if context is not None else None
    if scene.paint.clip and own == "none":
        clip = part.rect
    pressed = takes_keys(scene) or (context is not None and context.pressed)
    return _Around(part, clip, scrolls, pressed)


def ink(part: Located) -> Rect:
    """Where the letters of a text stand, in px; of all else, where it stands itself."""
    text = part.placed.text
    if text is None or not text.lines:
        return part.rect
    lefts = [line.runs[0][0] for line in text.lines if line.runs]
    rights = [line.runs[0][0] + line.width for line in text.lines if line.runs]
    if not lefts:
        return part.rect
    left, right = min(lefts), max(rights)
    return Rect(part.rect.x + left, part.rect.y, right - left, max(text.height, 0.0))


def _of(part: Located, context: _Around, root: Located, base: Usual) -> Iterator[Break]:
    scene, name = part.scene, part.names[-1]
    if scene.kind == "text" and part.placed.text is not None:
        yield from _words(part, context, base)
    elif not scene.layout.style.floating and context.holder.scene.layout.style.flow != "free":
        over = _beyond(part.rect, root.rect, context.scrolls)
        if over > _SLACK:
            text = f"{name} stands {over:.3g} px outside."
            yield Break("part-outside", part.path, text, part.rect)
    yield from _squeezed(part)
    if scene.kind == "image":
        yield from _picture(part)


def _words(part: Located, context: _Around, base: Usual) -> Iterator[Break]:
    paragraph, name = part.placed.text, part.names[-1]
    content = plain(part.scene.layout.style.content)
    if paragraph is None or not content:
        return
    area = ink(part)
    holder = part.rect if context.holder is part else context.holder.rect
    last = paragraph.lines[-1].text if paragraph.lines else ""
    if last.endswith(ELLIPSIS) and not content.rstrip().endswith(ELLIPSIS):
        yield Break("ellipsis", part.path, f"The words of {name} end in an ellipsis.", part.rect)
    hidden = _beyond(area, context.clip, context.scrolls) if context.clip is not None else 0.0
    over = _beyond(area, holder, context.scrolls)
    if hidden > _SLACK:
        text = f"The words of {name} are cut off: {hidden:.3g} px are hidden."
        yield Break("words-cut", part.path, text, area)
    elif over > _SLACK:
        text = f"The words of {name} stand {over:.3g} px outside their box."
        yield Break("words-outside", part.path, text, area)
    forced = content.count("\n") + 1
    if context.pressed and len(paragraph.lines) > max(base.lines.get(part.path, 1), forced, 1):
        text = f"The words of {name} take {len(paragraph.lines)} lines."
        yield Break("words-wrap", part.path, text, part.rect)


def _beyond(rect: Rect, bounds: Rect, scrolls: str) -> float:
    """By how many px a part leaves what holds it, not counting where that scrolls."""
    across = max(bounds.x - rect.x, rect.right - bounds.right)
    down = max(bounds.y - rect.y, rect.bottom - bounds.bottom)
    overshoots = [0.0]
    if scrolls not in ("x", "both"):
        overshoots.append(across)
    if scrolls not in ("y", "both"):
        overshoots.append(down)
    return max(overshoots)


def _squeezed(part: Located) -> Iterator[Break]:
    style, name = part.scene.layout.style, part.names[-1]
    for size, actual, size_said in (
        ("wide", part.rect.width, style.width),
        ("high", part.rect.height, style.height),
    ):
        limit = style.max_width if size == "wide" else style.max_height
        bound = limit if isinstance(limit, float) and limit > 0 else size_said.amount
        target = min(size_said.amount, bound)
        if size_said.mode == "fixed" and part.scene.kind != "text" and actual < target - _SLACK:
            text = f"{name} is squeezed: {actual:.4g} px {size} instead of {target:g}."
            yield Break("squeezed", part.path, text, part.rect)
            return


def _target(part: Located) -> Iterator[Break]:
    rect = part.rect
    if takes_keys(part.scene) and min(rect.width, rect.height) < LEAST_TARGET - 0.01:
        text = f"{part.names[-1] or 'It'} is a target of {rect.width:.3g} × {rect.height:.3g} px."
        yield Break("target-small", part.path, text, rect)


def _picture(part: Located) -> Iterator[Break]:
    picture = part.scene.layout.style.picture
    rect = part.rect
    if part.scene.paint.fit != "stretch" or not picture.asset or not rect.height:
        return
    if not picture.height or not picture.width:
        return
    shape, own = rect.width / rect.height, picture.width / picture.height
    if abs(shape / own - 1) > _PROPORTION:
        text = f"{part.names[-1]} is out of proportion: {shape:.3g} : 1 instead of {own:.3g} : 1."
        yield Break("picture-stretched", part.path, text, rect)


def _overlaps(box: Located) -> Iterator[Break]:
    """Neighbours of a box that arranges its parts, one over the other."""
    if box.scene.layout.style.flow == "free":
        return
    before: tuple[Located, Rect] | None = None
    instance = box.path if box.scene.component or not box.path else box.path[:-1]
    for part, _ in children_of(box, instance):
        style = part.scene.layout.style
        if style.floating or style.sticks != "none" or _is_moved(part.scene):
            continue
        area = _with_ink(part)
        if before is not None and not _overlaps_by_hand(before[0], part):
            across = min(area.right, before[1].right) - max(area.x, before[1].x)
            down = min(area.bottom, before[1].bottom) - max(area.y, before[1].y)
            if across > _SLACK and down > _SLACK:
                text = f"{part.names[-1]} and {before[0].names[-1]} stand over one another."
                yield Break("parts-overlap", part.path, text, area)
        before = part, area


def _with_ink(part: Located) -> Rect:
    """A text as wide as its letters; lines that are set tight may touch."""
    if part.scene.kind != "text":
        return part.rect
    letters = ink(part)
    return Rect(letters.x, part.rect.y, letters.width, part.rect.height)


def _is_moved(scene: SceneNode) -> bool:
    style = scene.layout.style
    return bool(style.offset_x or style.offset_y)


def _overlaps_by_hand(item: Located, neighbor: Located) -> bool:
    """Whether a margin draws two neighbours together on purpose."""
    styles = item.scene.layout.style, neighbor.scene.layout.style
    return any(
        min(s.margin_top, s.margin_right, s.margin_bottom, s.margin_left) < 0 for s in styles
    )
