"""Handing over: what goes out of a document, as the window and the command line ask for it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from outgrowth.core.document.records import Component, Document
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.exchange.variant_pictures import VariantPicture, sheet_of, variant_pictures
from outgrowth.core.exchange.web.files import HandOver, Wanted, hand_over
from outgrowth.core.layout import Layout

Rasterize = Callable[[VariantPicture, float], bytes]
"""A picture as the bytes of a PNG, so many pixels to a px."""


class PictureFormats(NamedTuple):
    """Which pictures of the variants go out: SVG, PNG at these scales, and whether as one sheet
    a component besides."""

    svg: bool = False
    scales: tuple[float, ...] = ()
    sheets: bool = True


def made(
    document: Document,
    layout: Layout,
    wanted: Wanted,
    pictures: PictureFormats,
    rasterize: Rasterize | None = None,
    progress: Callable[[float], None] = lambda share: None,
) -> HandOver:
    """All files of a hand-over. `progress` is told the share that is done; what it raises ends
    the work. Raises PrefixRefusal."""
    share = 0.5 if pictures.svg or pictures.scales else 1.0
    handed = hand_over(document, layout, wanted, lambda done: progress(done * share))
    drawn = [document.components[key] for key in handed.codes] if share < 1 else []
    for n, component in enumerate(drawn):
        element = handed.names.owners[component.id].element
        for path, data in _drawn(document, layout, component, element, pictures, rasterize):
            handed.files[path] = data
        progress(share + (1 - share) * (n + 1) / len(drawn))
    return handed


def _drawn(
    document: Document,
    layout: Layout,
    component: Component,
    element: str,
    pictures: PictureFormats,
    rasterize: Rasterize | None,
) -> Iterator[tuple[str, bytes]]:
    each = list(variant_pictures(document, layout, component))
    if pictures.sheets and len(each) > 1:
        each.append(sheet_of(each, "all"))
    for drawn in each:
        if not (drawn.bounds.width and drawn.bounds.height):
            continue
        if pictures.svg:
            text = svg_of(drawn.fragment, drawn.bounds, document.assets)
            yield f"svg/{element}/{drawn.name}.svg", text.encode()
        for scale in pictures.scales if rasterize is not None else ():
            place = "" if scale == 1 else f"@{scale:g}x"
            yield f"png/{element}/{drawn.name}{place}.png", rasterize(drawn, scale)  # type: ignore[misc]  # not None


__all__ = ["HandOver", "PictureFormats", "Rasterize", "Wanted", "made"]
