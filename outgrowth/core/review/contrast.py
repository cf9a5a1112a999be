"""Words that are hard to read on what is behind them, in every variant that is offered and on
every screen, as they are drawn.

Source: WCAG 2.2, success criterion 1.4.3 (contrast, minimum)."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice

from outgrowth.core.color import Color, Fill, contrast, over
from outgrowth.core.document.records import Component, Document, Owner, Path
from outgrowth.core.document.sentences import node_named
from outgrowth.core.document.variants import Variant, condition_text, offered, variants
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import Located, locate
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.review.finding import Finding

SOURCE = "WCAG 2.2, 1.4.3"
ENOUGH, ENOUGH_FOR_LARGE = 4.5, 3.0
"""Contrast of words, and of large ones."""
_LARGE, _LARGE_BOLD, _BOLD = 24.0, 18.66, 700.0
"""Px of large words, of large bold ones, and the weight that counts as bold: 18 pt and 14 pt."""
_PAPER = Color(1.0, 1.0, 1.0)
_MOST_VARIANTS = 400


def contrast_findings(document: Document, resolver: Resolver, layout: Layout) -> Iterator[Finding]:
    """Each text once for each owner, where it is worst. What is off on purpose (a part that is
    not enabled, faded as a whole) is left out, as the criterion does."""
    for component in document.in_order():
        faces = [v for v in variants(component) if offered(component, v)]
        worst: dict[Path, tuple[float, float, Variant]] = {}
        for face in islice(faces, _MOST_VARIANTS):
            scene = resolver.variant(document, component.id, face)
            for path, ratio, required in _poor(scene, layout, None):
                if ratio < worst.get(path, (ratio + 1, 0.0, face))[0]:
                    worst[path] = ratio, required, face
        for path, (ratio, required, face) in worst.items():
            condition = condition_text(component, face)
            yield _finding(document, component, path, (ratio, required), f" at {condition}")
    for screen in document.screens_in_order():
        scene = resolver.screen(document, screen)
        for path, ratio, required in _poor(scene, layout, _PAPER):
            yield _finding(document, screen, path, (ratio, required), "")


def _finding(
    document: Document, owner: Owner, path: Path, ratios: tuple[float, float], place: str
) -> Finding:
    ratio, required = ratios
    part = node_named(document, owner, path)
    kind = "component" if isinstance(owner, Component) else "screen"
    return Finding(
        "contrast",
        f"words-contrast-{kind}",
        owner.id,
        path,
        f"The words of {part}{place} have a contrast of {ratio:.2f} : 1, and {required:g} : 1 is "
        "needed.",
        SOURCE,
        "error",
    )


def _poor(
    scene: SceneNode | None, layout: Layout, paper: Color | None
) -> Iterator[tuple[Path, float, float]]:
    """Texts with too little contrast: their path, the worst ratio, and what is needed. Without
    `paper`, only those with a solid ground of the part's own."""
    if scene is None:
        return
    positions = list(locate(scene, layout.place(scene.layout), ""))
    faded = _faded(scene)
    for number, position in enumerate(positions):
        style = position.scene.layout.style
        if position.scene.kind != "text" or not style.content or id(position.scene) in faded:
            continue
        grounds = _grounds(positions[:number], position, paper)
        if not grounds:
            continue
        large = style.font_size >= _LARGE or (
            style.font_size >= _LARGE_BOLD and style.font_weight >= _BOLD
        )
        required = ENOUGH_FOR_LARGE if large else ENOUGH
        ratio = min(
            contrast(ink, g) for ink in _colors(position.scene.paint.color) for g in grounds
        )
        if ratio < required - 0.005:
            yield position.path, ratio, required


def _faded(scene: SceneNode) -> set[int]:
    """By identity, all nodes that are drawn fainter as a whole, or lie in such a one."""
    faded: set[int] = set()
    waiting = [(scene, False)]
    for node, is_faded in waiting:
        inside = is_faded or node.paint.opacity < 1
        if inside:
            faded.add(id(node))
        waiting += [(child, inside) for child in node.children]
    return faded


def _grounds(behind_text: list[Located], text: Located, paper: Color | None) -> list[Color]:
    """All colours that the ground under the middle of a text may have; none if it is open."""
    x, y = text.rect.center
    grounds = [paper] if paper is not None else []
    for position in behind_text:
        if position.scene.kind not in ("box", "shape") or not position.rect.contains(x, y):
            continue
        fills = [c for c in _colors(position.scene.paint.fill) if c.alpha > 0]
        if not grounds:
            grounds = [c for c in fills if c.alpha == 1]
        elif fills:
            grounds = [over(fill, ground) for fill in fills for ground in grounds]
    return grounds


def _colors(fill: Fill) -> list[Color]:
    return [fill] if isinstance(fill, Color) else [stop.color for stop in fill.stops]
