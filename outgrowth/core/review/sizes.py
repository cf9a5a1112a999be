"""Fixed sizes around words, and what spills at the sizes at which it is used.

Source: common practice; how words grow in translation: see core/trials/growth.py.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial

from outgrowth.core.document.records import Component, Document, Owner, Path
from outgrowth.core.document.values import FIT, Value, plain
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.layout.rectangles import Located
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding, spills
from outgrowth.core.review.views import DrawnView, ReviewContext, part_called
from outgrowth.core.trials.breaks import Drawing, breaks
from outgrowth.core.trials.growth import growth


def layout_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding | None]:
    """What spills as it is drawn, and boxes of a fixed height that words will grow out of."""
    listed_keys: set[tuple[str, Path]] = set()
    for view in context.views(owner):
        yield None
        for item in breaks(Drawing(view.parts)):
            if not spills(item.kind) or (item.kind, item.node) in listed_keys:
                continue
            if isinstance(owner, Component) and len(item.node) > 1:
                continue  # the inner component's own
            listed_keys.add((item.kind, item.node))
            text = (
                f"{part_called(context.document, owner, item.node)} of “{owner.name}”: {item.text}"
            )
            yield finding(f"spills-{item.kind}", owner.id, item.node, text)
        for fixed in _fixed(context.document, owner, view):
            if (fixed.kind, fixed.node) not in listed_keys:
                listed_keys.add((fixed.kind, fixed.node))
                yield fixed


def _fixed(document: Document, owner: Owner, view: DrawnView) -> Iterator[Finding]:
    """Boxes of the owner's own of a fixed height, with words in them that would need more lines
    than it has room for, in the usual growth of a translation."""
    if not isinstance(owner, Component):
        return
    line: list[Located] = []
    for part in view.parts:
        depth = len(part.names) - 1
        line[depth:] = [part]
        style, paragraph = part.scene.layout.style, part.placed.text
        words = plain(style.content)
        if not depth or paragraph is None or not words.strip() or len(part.path) > 1:
            continue
        box = line[depth - 1]
        outer = box.scene.layout.style
        if outer.height.mode != "fixed" or outer.flow == "free" or style.floating:
            continue
        width = part.rect.width if _stands_wide(part, box) else math.inf
        across = min(width, box.rect.width - outer.padding_left - outer.padding_right)
        needed = sum(line.width for line in paragraph.lines) * growth(len(words))[1]
        lines = math.ceil(needed / max(across, 1.0))
        if style.max_lines:
            lines = min(lines, int(style.max_lines))
        high = lines * style.font_size * style.line_height
        room = box.rect.height - outer.padding_top - outer.padding_bottom
        if lines > len(paragraph.lines) and high > room + 1 and _wraps(part, box):
            yield _finding(document, owner, part, box, lines)


def _stands_wide(part: Located, box: Located) -> bool:
    return part.scene.layout.style.width.mode in ("fixed", "percent", "chars", "formula")


def _wraps(part: Located, box: Located) -> bool:
    """Whether the words have no more room beside them: their box does not grow with them."""
    return box.scene.layout.style.width.mode in ("fixed", "grow", "percent") or _stands_wide(
        part, box
    )


def _finding(document: Document, owner: Owner, part: Located, box: Located, lines: int) -> Finding:
    name = part_called(document, owner, box.path)
    text = (
        f"{name} is {box.rect.height:g} px high, whatever stands in it: translated, "
        f"{part_called(document, owner, part.path)} may take {lines} lines, which have no room."
    )
    mend = Mend(
        "let it fit, and be as high at least",
        partial(_fitting, Place(owner.id, box.path), box.rect.height),
    )
    return finding("fixed-around-words", owner.id, box.path, text, mend)


def _fitting(place: Place, height: float, document: Document) -> Document:
    values: dict[str, Value] = {"height": FIT, "min-height": height}
    inspection = inspect(document, place)
    if inspection is None:
        return document
    return set_properties(document, place, values)
