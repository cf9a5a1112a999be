"""The map of the screens: small pictures in columns, each as many columns from the first as taps
lead to it, and the ways between them from the part that leads.

A component that leads on several screens (a navigation bar) stands on the map once, with its ways,
instead of as often as it is used: the screens that it stands on name it.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Mapping, Sequence
from typing import NamedTuple

from outgrowth.core.document.cues import Path
from outgrowth.core.document.records import Document
from outgrowth.core.document.ways import Way, reached_from, shared_leaders, ways
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.layered import Layered, layered

PICTURE = 132.0
"""The width of a screen's picture, in px of the map."""
_HIGHEST = 176.0
_SHARED = (132.0, 40.0)
NAME = 24.0
"""Below each picture, for the name."""
TAG = 20.0
"""Below that, for what else leads from there."""
_COLUMN = PICTURE + 116.0
_ROW_GAP = 34.0
MARGIN = 36.0
HEAD = 30.0
"""Above the screens that no way leads to."""


class MapNode(NamedTuple):
    """A screen, or a component that leads on several.

    rect      all of it, with its words
    picture   its picture
    shared    the ids of the components that lead from this screen and stand on the map once
    holders   of such a component: the screens that it stands on
    """

    id: str
    title: str
    rect: Rect
    picture: Rect
    is_screen: bool
    is_start: bool = False
    is_reached: bool = True
    shared: tuple[str, ...] = ()
    holders: tuple[str, ...] = ()


class MapLine(NamedTuple):
    """A way as it is drawn.

    start, end  the nodes that it ties, by id
    points      from the part that leads, through the columns that it passes, to its end
    """

    way: Way
    start: str
    end: str
    points: tuple[tuple[float, float], ...]


class ScreenMap(NamedTuple):
    """A map that was laid out; `apart` is where the screens begin that no way leads to (0 where
    there are none)."""

    nodes: tuple[MapNode, ...]
    lines: tuple[MapLine, ...]
    width: float
    height: float
    apart: float

    def node(self, node_id: str) -> MapNode | None:
        """A node by its id."""
        return next((node for node in self.nodes if node.id == node_id), None)


Size = tuple[float, float]
Sized = Callable[[str], Size]
PartRect = Callable[[str, Path], Rect | None]


def screen_map(document: Document, size: Sized, part_rect: PartRect) -> ScreenMap:
    """The map of a document's screens.

    size       gives the size of a screen or component in px, by its id
    part_rect  gives where a part of one lies in it, in px; None for one that is not shown
    """
    order = [screen.id for screen in document.screens_in_order()]
    if not order:
        return ScreenMap((), (), 0.0, 0.0, 0.0)
    found = ways(document)
    shared = shared_leaders(found)
    reached = reached_from(order[0], found)
    laid = _laid(order, found, shared, reached)
    rows = _rows(laid, [size(screen) for screen in order if screen in reached])
    nodes = _nodes(document, order, shared, laid, rows, size)
    bottom = max(node.rect.bottom for node in nodes.values())
    right = max(node.rect.right for node in nodes.values())
    apart = [screen for screen in order if screen not in reached]
    top = bottom + MARGIN if apart else 0.0
    for n, screen_id in enumerate(apart):
        across = max(int((right - MARGIN) // (PICTURE + 40.0)), 4)
        x = MARGIN + n % across * (PICTURE + 40.0)
        y = top + HEAD + n // across * (_HIGHEST + NAME + TAG + _ROW_GAP)
        nodes[screen_id] = _node(document, screen_id, x, y, size, shared, False, False)
    bottom = max(node.rect.bottom for node in nodes.values())
    right = max(node.rect.right for node in nodes.values())
    lines = _lines(found, shared, nodes, laid, rows, part_rect)
    wide = max([right, *(x for line in lines for x, _ in line.points)])
    return ScreenMap(tuple(nodes.values()), tuple(lines), wide + MARGIN, bottom + MARGIN, top)


def _laid(
    order: Sequence[str], found: Sequence[Way], shared: Mapping[str, list[str]], reached: set[str]
) -> Layered:
    """Columns and rows of what can be come to from the first screen."""
    screens = [screen for screen in order if screen in reached]
    pairs: list[tuple[Hashable, Hashable]] = []
    for way in found:
        if way.screen in reached:
            pairs.append((way.owner if way.owner in shared else way.screen, way.end))
    leaders = [owner for owner in shared if any(s in reached for s in shared[owner])]
    for owner in leaders:
        holder = next(screen for screen in shared[owner] if screen in reached)
        pairs.append((holder, owner))
    return layered([*screens, *leaders], pairs, order[:1])


class _Rows(NamedTuple):
    """Where the rows of the columns are: the topmost one, and how far each is below another."""

    top: float
    pitch: float

    def middle(self, row: float) -> float:
        """The middle of a row, in px."""
        return MARGIN + (row - self.top + 0.5) * self.pitch


def _rows(laid: Layered, sizes: Sequence[Size]) -> _Rows:
    highest = max(_picture_size(size)[1] for size in sizes)
    bends = [spot for spots in laid.passing.values() for spot in spots]
    top = min(spot.row for spot in (*laid.spots.values(), *bends))
    return _Rows(top, highest + NAME + TAG + _ROW_GAP)


def _nodes(
    document: Document,
    order: Sequence[str],
    shared: Mapping[str, list[str]],
    laid: Layered,
    rows: _Rows,
    size: Sized,
) -> dict[str, MapNode]:
    """The nodes that can be come to."""
    nodes = {}
    for key, (column, row) in laid.spots.items():
        node_id = str(key)
        x = MARGIN + column * _COLUMN
        node = _node(document, node_id, x, 0.0, size, shared, node_id == order[0], True)
        nodes[node_id] = _moved(node, rows.middle(row) - node.rect.height / 2)
    return nodes


def _moved(node: MapNode, y: float) -> MapNode:
    return node._replace(rect=node.rect.moved(0.0, y), picture=node.picture.moved(0.0, y))


def _node(
    document: Document,
    node_id: str,
    x: float,
    y: float,
    size: Sized,
    shared: Mapping[str, list[str]],
    is_start: bool,
    is_reached: bool,
) -> MapNode:
    owner = document.owner(node_id)
    title = owner.short_name if owner is not None else ""
    if node_id in document.components:
        picture = Rect(x, y, *_SHARED)
        rect = picture._replace(height=_SHARED[1] + NAME + TAG)
        return MapNode(node_id, title, rect, picture, False, holders=tuple(shared[node_id]))
    width, height = _picture_size(size(node_id))
    names = tuple(owner_id for owner_id, screens in shared.items() if node_id in screens)
    picture = Rect(x, y, width, height)
    rect = Rect(x, y, width, height + NAME + (TAG if names else 0.0))
    return MapNode(node_id, title, rect, picture, True, is_start, is_reached, names)


def _picture_size(size: Size) -> Size:
    """As wide as all, and no higher than what a tall one shows of its top."""
    width, height = max(size[0], 1.0), max(size[1], 1.0)
    return PICTURE, min(max(PICTURE * height / width, 48.0), _HIGHEST)


def picture_zoom(node: MapNode, width: float) -> float:
    """How large a screen of so many px of width is in its picture."""
    return node.picture.width / max(width, 1.0)


def _lines(
    found: Sequence[Way],
    shared: Mapping[str, list[str]],
    nodes: Mapping[str, MapNode],
    laid: Layered,
    rows: _Rows,
    part_rect: PartRect,
) -> list[MapLine]:
    lines: list[MapLine] = []
    told: set[tuple[str, str, str]] = set()
    for way in found:
        start = way.owner if way.owner in shared else way.screen
        key = start, way.end, way.cue.id
        if key in told or start not in nodes or way.end not in nodes:
            continue
        told.add(key)
        lines.append(
            MapLine(way, start, way.end, _points(way, nodes, start, laid, rows, part_rect))
        )
    return lines


def _points(
    way: Way,
    nodes: Mapping[str, MapNode],
    start: str,
    laid: Layered,
    rows: _Rows,
    part_rect: PartRect,
) -> tuple[tuple[float, float], ...]:
    """From the side of the part that leads, through the bends, to the side of the end."""
    first, last = nodes[start], nodes[way.end]
    part = way.cue.node if start == way.owner else way.part
    rect = part_rect(start, part) or Rect(0.0, 0.0, 1e9, 1e9)
    frame = part_rect(start, ()) or Rect(0.0, 0.0, first.picture.width, first.picture.height)
    zoom = min(picture_zoom(first, frame.width), 1.0 if not first.is_screen else 1e9)
    left = first.picture.x + max(rect.x, 0.0) * zoom
    right = min(first.picture.x + rect.right * zoom, first.picture.right)
    y = first.picture.y + (rect.y + rect.height / 2) * zoom
    y = min(max(y, first.picture.y + 4.0), first.picture.bottom - 4.0)
    if start not in laid.spots or way.end not in laid.spots:
        bends: list[tuple[float, float]] = []
        forward = last.rect.x >= first.rect.right
    else:
        a, b = laid.spots[start], laid.spots[way.end]
        forward = b.column > a.column
        passed = laid.passing.get((start, way.end), ())
        bends = [
            (MARGIN + spot.column * _COLUMN + PICTURE / 2, rows.middle(spot.row)) for spot in passed
        ]
        if a.column == b.column:
            side = first.rect.right + 34.0
            end = last.picture.right, last.picture.center[1]
            return (min(right, first.picture.right), y), (side, (y + end[1]) / 2), end
    x = right if forward else left
    end_x = last.picture.x if forward else last.picture.right
    return (x, y), *bends, (end_x, last.picture.center[1])
