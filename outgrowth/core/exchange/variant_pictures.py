"""Every variant of a component as a picture, one by one or on one sheet: display lists, which a
backend writes as SVG or PNG."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import NamedTuple

from outgrowth.core.document.axis_parts import reads_yes
from outgrowth.core.document.records import Axis, Component, Document, Owner
from outgrowth.core.document.variants import is_switch, offered, variants
from outgrowth.core.exchange.slugs import slug
from outgrowth.core.geometry import Rect
from outgrowth.core.layout import Layout
from outgrowth.core.paint import draw
from outgrowth.core.paint.fragment import Fragment
from outgrowth.core.resolve.resolver import Resolver

SHEET_GAP = 24.0
"""Px between the variants on a sheet, and around them."""


class VariantPicture(NamedTuple):
    """A picture: what its file is called, its display list, and the part of it to show (px)."""

    name: str
    fragment: Fragment
    bounds: Rect


def variant_pictures(
    document: Document, layout: Layout, component: Component
) -> Iterator[VariantPicture]:
    """The variants that are offered, called by their values: `primary-large-hover`."""
    resolver = Resolver()
    for variant in variants(component):
        if offered(component, variant):
            name = "-".join(_word(axis, variant[axis.id]) for axis in component.axes)
            scene = resolver.variant(document, component.id, variant)
            fragment = draw(*layout.view(scene))
            yield VariantPicture(name or "picture", fragment, fragment.bounds)


def _word(axis: Axis, value_id: str) -> str:
    """A value by its name; of yes and no, the axis by its own."""
    if is_switch(axis):
        name = slug(axis.name, "axis")
        return name if reads_yes(axis, value_id) else f"not-{name}"
    value = axis.value(value_id)
    return slug(value.name, "value") if value is not None else "value"


def whole_picture(document: Document, layout: Layout, owner: Owner) -> VariantPicture:
    """A screen cut at its edge, or a component as it is by itself."""
    resolver = Resolver()
    if isinstance(owner, Component):
        return next(variant_pictures(document, layout, owner))
    scene, placed = layout.view(resolver.screen(document, owner))
    name = slug(owner.short_name, "picture")
    return VariantPicture(name, draw(scene, placed), Rect(0.0, 0.0, placed.width, placed.height))


def sheet_of(pictures: list[VariantPicture], name: str) -> VariantPicture:
    """Several pictures on one, in rows about as wide as the whole is high."""
    across = max(math.ceil(math.sqrt(len(pictures))), 1)
    children: list[tuple[float, float, Fragment]] = []
    y = width = SHEET_GAP
    for start in range(0, len(pictures), across):
        row = pictures[start : start + across]
        x = SHEET_GAP
        for picture in row:
            children.append((x - picture.bounds.x, y - picture.bounds.y, picture.fragment))
            x += picture.bounds.width + SHEET_GAP
        width = max(width, x)
        y += max(picture.bounds.height for picture in row) + SHEET_GAP
    bounds = Rect(0.0, 0.0, width, y)
    return VariantPicture(name, Fragment((), tuple(children), None, bounds, False), bounds)
