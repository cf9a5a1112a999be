"""What the checks look at: a document, resolved and laid out, each scene's parts once."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import islice
from typing import NamedTuple

from outgrowth.core.color import Color
from outgrowth.core.document.records import Component, Document, Owner, Path
from outgrowth.core.document.sentences import node_named
from outgrowth.core.document.values import Picture
from outgrowth.core.document.variants import Variant, offered, variants
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import Located, locate
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode

MOST_VARIANTS = 600
"""Of a component with more variants, the first so many are looked at."""

Pixels = Callable[[Picture], "list[Color] | None"]
"""The colours that a picture of the file has, each at least once; None where nobody can tell."""


class DrawnView(NamedTuple):
    """One variant of a component, or (None) a screen, as it is drawn: its parts in the order in
    which they are painted, parents first."""

    variant: Variant | None
    scene: SceneNode
    parts: tuple[Located, ...]


def shown_opacities(view: DrawnView) -> Iterator[tuple[Located, float]]:
    """Every part with how much of it shows: its opacity times that of all it lies in."""
    line: list[float] = []
    for part in view.parts:
        del line[len(part.names) - 1 :]
        line.append((line[-1] if line else 1.0) * part.scene.paint.opacity)
        yield part, line[-1]


class ViewRenderer:
    """Resolves and lays out for the checks, and remembers it from one document to the next."""

    def __init__(self, layout: Layout, pixels: Pixels = lambda _: None) -> None:
        self.resolver = Resolver()
        self.layout = layout
        self.pixels = pixels
        self.parts = ByIdentity(self._parts, 4096)

    def _parts(self, scene: SceneNode) -> tuple[Located, ...]:
        return tuple(locate(*self.layout.view(scene), ""))


class ReviewContext(NamedTuple):
    """A document and the way to look at it."""

    document: Document
    renderer: ViewRenderer

    def views(self, owner: Owner) -> Iterator[DrawnView]:
        """All that an owner looks like: the variants that are offered, or the one of a screen."""
        if isinstance(owner, Component):
            offered_variants = (v for v in variants(owner) if offered(owner, v))
            for variant in islice(offered_variants, MOST_VARIANTS):
                scene = self.renderer.resolver.variant(self.document, owner.id, variant)
                parts = self.renderer.parts(scene)
                yield DrawnView(variant, parts[0].scene, parts)
            return
        scene = self.renderer.resolver.screen(self.document, owner)
        parts = self.renderer.parts(scene)
        yield DrawnView(None, parts[0].scene, parts)


def part_called(document: Document, owner: Owner, path: Path) -> str:
    """What a part is called in a finding: in quotes, and in what it lies; the owner's own name
    for its root."""
    if not path or path == (owner.root.id,):
        return f"“{owner.short_name}”"
    inner, _, outer = node_named(document, owner, path).partition(" of ")
    return f"“{inner}” of {outer}" if outer else f"“{inner}”"
