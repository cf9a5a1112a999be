"""Before and after as pictures: which variants are drawn otherwise, and where on a screen.

Two documents are drawn by stages of their own. What is compared is what a painter is asked to
draw, so that exactly those variants are named whose picture differs.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import Component, Document, Screen
from outgrowth.core.document.variants import Variant, offered, variants
from outgrowth.core.geometry import Affine, Rect
from outgrowth.core.geometry.rect import union
from outgrowth.core.layout import Layout
from outgrowth.core.memo import differing
from outgrowth.core.paint.draw import draw
from outgrowth.core.paint.fragment import Fragment, Group
from outgrowth.core.paint.marks import Mark, Radii
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import FontBook

MOST_EDGED = 24
"""Places of a screen that are edged by themselves; more are edged as one."""


class SizedFragment(NamedTuple):
    """What is drawn, and the size of what is drawn in px."""

    fragment: Fragment
    width: float
    height: float


class DocumentDrawer:
    """Draws one document."""

    def __init__(self, document: Document, fonts: FontBook) -> None:
        self.document = document
        self._resolver = Resolver()
        self._layout = Layout(Typesetter(fonts))

    def variant(self, component_id: str, variant: Variant) -> SizedFragment:
        """One variant of a component, at its own size."""
        scene = self._resolver.variant(self.document, component_id, variant)
        scene, placed = self._layout.view(scene)
        return SizedFragment(draw(scene, placed), placed.width, placed.height)

    def screen(self, screen: Screen) -> SizedFragment:
        """A screen at its own size."""
        scene, placed = self._layout.view(self._resolver.screen(self.document, screen))
        return SizedFragment(draw(scene, placed), placed.width, placed.height)


class Pair(NamedTuple):
    """A variant or a screen on both sides; None where it isn't there.

    name    the variant in words (“Size: Large, State: hover”), or the screen's name
    places  where they differ, in px of the picture; empty where one is missing
    """

    owner: str
    name: str
    before: SizedFragment | None
    after: SizedFragment | None
    places: tuple[Rect, ...] = ()


def changed_variants(
    before: DocumentDrawer, after: DocumentDrawer, component_id: str
) -> Iterator[Pair]:
    """The variants of a component that are drawn otherwise, came or went; in the order of the
    grid. A variant is compared with the one that has the same values on the axes that both
    have."""
    old = before.document.components.get(component_id)
    new = after.document.components.get(component_id)
    paired = set()
    for variant in _offered(new):
        earlier = _earlier(old, new, variant)
        pictures = (
            before.variant(component_id, earlier) if earlier is not None else None,
            after.variant(component_id, variant),
        )
        if earlier is not None:
            paired.add(earlier)
        yield from _pair(component_id, _name(new, variant), *pictures)
    for variant in _offered(old):
        if variant not in paired and _earlier(new, old, variant) is None:
            picture = before.variant(component_id, variant)
            yield Pair(component_id, _name(old, variant), picture, None)


def changed_screens(before: DocumentDrawer, after: DocumentDrawer) -> Iterator[Pair]:
    """The screens that look otherwise, with the places."""
    for screen in after.document.screens_in_order():
        old = before.document.screens.get(screen.id)
        picture = before.screen(old) if old is not None else None
        yield from _pair(screen.id, screen.name, picture, after.screen(screen))
    for old in before.document.screens_in_order():
        if old.id not in after.document.screens:
            yield Pair(old.id, old.name, before.screen(old), None)


def _pair(
    owner: str, name: str, before: SizedFragment | None, after: SizedFragment
) -> Iterator[Pair]:
    if before is None:
        yield Pair(owner, name, None, after)
        return
    places = drawn_differences(before.fragment, after.fragment)
    if places:
        yield Pair(owner, name, before, after, tuple(places))


def _offered(component: Component | None) -> Iterator[Variant]:
    if component is not None:
        yield from (v for v in variants(component) if offered(component, v))


def _earlier(old: Component | None, new: Component | None, variant: Variant) -> Variant | None:
    """The variant of another state of the component that a variant comes from: the same values
    on common axes, defaults on those that only the other has. None where there is none, or
    where several come from one and this isn't the first."""
    if old is None or new is None:
        return None
    values: dict[str, str] = {}
    for axis in old.axes:
        value = variant.get(axis.id, axis.default)
        if axis.value(value) is None:
            return None
        values[axis.id] = value
    for axis in new.axes:
        if old.axis(axis.id) is None and variant[axis.id] != axis.default:
            return None
    earlier = Map(values)
    return earlier if offered(old, earlier) else None


def _name(component: Component | None, variant: Variant) -> str:
    names = []
    for axis in component.axes if component is not None else ():
        value = axis.value(variant[axis.id])
        names.append(f"{axis.name}: {value.name if value is not None else ''}")
    return ", ".join(names)


# --- what is drawn otherwise ------------------------------------------------------------------


def drawn_differences(before: Fragment, after: Fragment) -> list[Rect]:
    """The rectangles, in px of the root, in which two pictures may differ; none where what is
    drawn is the same, however its parts are nested."""
    rects: list[Rect] = []
    _compare(before, after, 0.0, 0.0, rects)
    if not rects or _flat(before) == _flat(after):
        return []
    return rects if len(rects) <= MOST_EDGED else [union(rects)]


def _compare(a: Fragment, b: Fragment, x: float, y: float, rects: list[Rect]) -> None:
    if a is b:
        return
    same_group = _group(a.group) == _group(b.group)
    open_group = a.group is None or a.group.repaints_parts
    if len(a.children) != len(b.children) or a.marks != b.marks or not same_group or not open_group:
        if open_group or _flat(a) != _flat(b):
            rects.append(union((a.bounds, b.bounds)).moved(x, y))
        return
    for n in differing(a.children, b.children):
        ax, ay, old = a.children[n]
        bx, by, new = b.children[n]
        if (ax, ay) == (bx, by):
            _compare(old, new, x + ax, y + ay, rects)
        else:
            rects += [old.bounds.moved(x + ax, y + ay), new.bounds.moved(x + bx, y + by)]


_Clip = tuple[float, float, Radii]
_Drawn = tuple[Mark, Affine, float, tuple[tuple[Affine, _Clip], ...]]


def _group(group: Group | None) -> tuple[Affine | None, float, _Clip | None]:
    return (None, 1.0, None) if group is None else (group.transform, group.opacity, group.clip)


def _flat(fragment: Fragment) -> list[_Drawn]:
    """All marks in order, each with its place, its opacity and what cuts it."""
    drawn: list[_Drawn] = []
    waiting: list[tuple[Fragment, Affine, float, tuple[tuple[Affine, _Clip], ...]]] = [
        (fragment, Affine(), 1.0, ())
    ]
    while waiting:
        current, place, opacity, clips = waiting.pop()
        transform, own, clip = _group(current.group)
        if transform is not None:
            place = transform.then(place)
        opacity *= own
        drawn += [(mark, place, opacity, clips) for mark in current.marks]
        inner = (*clips, (place, clip)) if clip is not None else clips
        waiting += [
            (child, Affine(e=x, f=y).then(place), opacity, inner)
            for x, y, child in reversed(current.children)
        ]
    return drawn
