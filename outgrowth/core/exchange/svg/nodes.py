"""An SVG drawing made into nodes: groups become free boxes, rectangles boxes, other shapes
shapes, words texts. Transforms are worked into the numbers, so that every node is an
ordinary one; what there is no node for is left out and told.

Children scale with their box. A drawing of a single shape becomes that shape alone, drawn
in the room of the whole: what an icon is.
"""

from __future__ import annotations

import base64
import binascii
import copy
import math
from collections.abc import Callable, Mapping
from typing import NamedTuple
from urllib.parse import unquote_to_bytes
from xml.etree.ElementTree import Element

import msgspec
from immutables import Map

from outgrowth.core.color import Color, Fill
from outgrowth.core.document.properties import FAMILY_MEMBERS, INK, NodeKind
from outgrowth.core.document.records import Asset, Node
from outgrowth.core.document.types import LONGEST_TEXT, MOST_PIXELS
from outgrowth.core.document.values import Value, fixed
from outgrowth.core.edits.tree.nodes import new_node
from outgrowth.core.exchange.pictures import PictureRefusal, read_picture
from outgrowth.core.exchange.svg.cutting import Clips, Shape, dash_count
from outgrowth.core.exchange.svg.shapes import (
    SHAPES,
    enlarges,
    length,
    moved_path,
    numbers,
    path_bounds,
    path_data,
    radii_of,
    rect_of,
    round_of,
    transform,
    upright,
)
from outgrowth.core.exchange.svg.source import MOST_ELEMENTS, SvgRefusal, read
from outgrowth.core.exchange.svg.style_sheet import DrawingStyleSheet, first_family
from outgrowth.core.exchange.svg.svg_style import (
    Paints,
    SvgStyle,
    share,
    svg_style_of,
)
from outgrowth.core.exchange.svg.words import TextChunk, chunks, weight_of
from outgrowth.core.geometry import Affine, Rect
from outgrowth.core.geometry.path import PathRefusal
from outgrowth.core.geometry.rect import union
from outgrowth.core.refusal import ValueRefusal, quoted
from outgrowth.core.text import TextStyle, Typesetter

_LARGEST = 10_000.0
# Letters of attributes and words that are read, repeated ones each time.
_MOST_LETTERS = 16_000_000
# Letters of path data, repeated ones each time: some seconds' work.
_MOST_OUTLINES = 2_000_000
# Dashes of one line, and of all lines, that are made: a second's work. A line of more is taken
# without them.
_MOST_DASHES = 2_000
_MOST_DASHES_OF_ALL = 10_000
_DEEPEST_USE = 40
# Letters of one text that are taken.
_LONGEST_WORDS = 20_000
# Things left out that are told by name.
_MOST_TOLD = 20
# Clippings in each other; those further in are not followed.
_MOST_CLIPS = 12
_GROUPS = ("svg", "g", "a", "symbol", "switch")
_SILENT = frozenset(
    ("defs", "title", "desc", "metadata", "style", "namedview", "", "symbol", "stop")
) | {"linearGradient", "radialGradient", "clipPath", "mask", "filter", "marker", "pattern"}
_CUTS = {"clip-path": "the clipping", "mask": "the mask"}
_UNDONE = {
    "filter": "the filter",
    "marker-start": "the line's markers",
    "marker-mid": "the line's markers",
    "marker-end": "the line's markers",
}
_LINE_HEIGHT = 1.2
_GENERIC = ("serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "")
_NAME = 80


class ImportedDrawing(NamedTuple):
    """What came of a drawing: its node, the pictures inside it, and what was left out, each
    as words that follow “left out:”."""

    node: Node
    assets: tuple[Asset, ...]
    left_out: tuple[str, ...]


def drawn(
    data: bytes,
    name: str,
    new_id: Callable[[str], str],
    typesetter: Typesetter,
    current: Color = INK,
) -> ImportedDrawing:
    """The node of an SVG file's bytes.

    new_id      gives an id for a node of some kind
    typesetter  measures words, whose places SVG gives by their baseline
    current     what `currentColor` is

    Raises SvgRefusal; nothing outside `data` is read.
    """
    name = quoted(name, 60)
    root = read(data, name)
    try:
        return _DrawingReader(root, name, new_id, typesetter, current).whole()
    except (PathRefusal, ValueRefusal, OverflowError, ZeroDivisionError) as problem:
        why = str(problem).rstrip(".")
        raise SvgRefusal(f"“{name}” cannot be placed: {why}.") from problem
    except RecursionError as problem:
        raise SvgRefusal(f"“{name}” is nested too deeply to be placed.") from problem


class _PlacedNode(NamedTuple):
    """A node, and where it lies in the root's px."""

    node: Node
    rect: Rect


class _DrawingReader:
    def __init__(
        self,
        root: Element,
        name: str,
        new_id: Callable[[str], str],
        typesetter: Typesetter,
        current: Color,
    ) -> None:
        self._root = root
        self._name = name
        self._new_id = new_id
        self._typesetter = typesetter
        self._by_id = {e.get("id", ""): e for e in root.iter() if e.get("id")}
        self._sheet = DrawingStyleSheet(root)
        self._paints = Paints(self._by_id, self._sheet, current, {})
        self._left_out: dict[str, None] = {}
        self._assets: list[Asset] = []
        self._count = 0
        self._letters = 0
        self._pixels = 0.0
        self._outlined = 0
        self._dashes = 0.0
        self._clips: tuple[Shape, ...] = ()
        self._parents = {child: parent for parent in root.iter() for child in parent}
        self._room = (0.0, 0.0)

    def whole(self) -> ImportedDrawing:
        (width, height), to_root = self._sized()
        parts = self._inside(self._root, svg_style_of(self._root, {}, self._sheet), to_root, ())
        if not parts:
            raise SvgRefusal(f"“{self._name}” draws nothing that can be placed.")
        title = self._name.rpartition(".")[0] or self._name
        node = _alone(parts, width, height, title)
        if node is None:
            node = self._box(title, parts, Rect(0.0, 0.0, width, height), {})
        for selector in self._sheet.left_out:
            self._leave(f"styles for “{selector[:40]}”")
        left_out = tuple(self._left_out)
        if len(left_out) > _MOST_TOLD:
            left_out = (*left_out[:_MOST_TOLD], f"and {len(left_out) - _MOST_TOLD} more")
        return ImportedDrawing(node, tuple(self._assets), left_out)

    def _sized(self) -> tuple[tuple[float, float], Affine]:
        """The drawing's size in px, and the map from its coordinates to these.
        Source: SVG 2, section 8.2 (viewBox and preserveAspectRatio)."""
        box = numbers(self._root.get("viewBox"))
        view_box = Rect(*box) if len(box) == 4 and box[2] > 0 and box[3] > 0 else None
        width = length(self._root.get("width"), 0.0, view_box.width if view_box else 300.0)
        height = length(self._root.get("height"), 0.0, view_box.height if view_box else 150.0)
        if view_box is not None:
            width = width or (
                height * view_box.width / view_box.height if height else view_box.width
            )
            height = height or width * view_box.height / view_box.width
        width, height = width or 300.0, height or 150.0
        if not (0 < width <= _LARGEST and 0 < height <= _LARGEST):
            raise SvgRefusal(f"“{self._name}” is {width:,.0f} × {height:,.0f} px; 10,000 is most.")
        if view_box is None:
            self._room = width, height
            return (width, height), Affine()
        self._room = view_box.width, view_box.height
        across, down = width / view_box.width, height / view_box.height
        if not (self._root.get("preserveAspectRatio") or "").startswith("none"):
            across = down = min(across, down)
        dx = (width - view_box.width * across) / 2 - view_box.x * across
        dy = (height - view_box.height * down) / 2 - view_box.y * down
        return (width, height), Affine(across, 0.0, 0.0, down, dx, dy)

    def _leave(self, feature: str) -> None:
        self._left_out[feature] = None

    # --- the tree -----------------------------------------------------------------------

    def _inside(
        self, holder: Element, look: SvgStyle, to_root: Affine, via: tuple[Element, ...]
    ) -> list[_PlacedNode]:
        """The parts of a holder's children. `via` are the elements that use led through."""
        parts: list[_PlacedNode] = []
        for element in holder:
            part = self._part(element, look, to_root, via)
            if part is not None:
                parts.append(part)
        return parts

    def _part(
        self, element: Element, outer: SvgStyle, to_root: Affine, via: tuple[Element, ...]
    ) -> _PlacedNode | None:
        self._count += 1
        if self._count > MOST_ELEMENTS:
            raise SvgRefusal(
                f"“{self._name}” draws more than {MOST_ELEMENTS:,} parts by repeating some."
            )
        if element.tag in _SILENT:
            return None
        self._letters += sum(map(len, element.attrib.values())) + len(element.text or "")
        if self._letters > _MOST_LETTERS:
            raise SvgRefusal(f"“{self._name}” draws more than can be read, by repeating parts.")
        if len(via) > _DEEPEST_USE:
            raise SvgRefusal(f"“{self._name}” has more than {_DEEPEST_USE} parts using each other.")
        look = svg_style_of(element, outer, self._sheet)
        own_to_root = transform(element.get("transform")).then(to_root)
        before = self._clips
        self._clips = (*before, *self._clips_of(element, look, own_to_root))
        node_part = self._node_of(element, look, own_to_root, via)
        self._clips = before
        if node_part is None:
            return None
        for name, feature in _UNDONE.items():
            if look.get(name, "none") not in ("none", "") and element.tag not in _GROUPS:
                self._leave(f"{feature} of “{_called(element)}”")
        return self._common(node_part, look)

    def _clips_of(self, element: Element, look: SvgStyle, to_root: Affine) -> list[Shape]:
        """What an element is clipped and masked by, as outlines; what they can't say is told."""
        if all(look.get(name, "none") in ("none", "") for name in _CUTS):
            return []
        try:
            data = path_data(element, self._room) if element.tag in SHAPES else ""
            bounds = path_bounds(data) if data else None
            outlines = Clips(self._by_id, self._sheet, self._room)
            named = [(n, outlines.named(look.get(n, ""), to_root, bounds)) for n in _CUTS]
        except PathRefusal as problem:
            self._leave(f"the clipping of “{_called(element)}” ({str(problem).rstrip('.')})")
            return []
        for name, clip in named:
            if clip is None and look.get(name, "none") not in ("none", ""):
                self._leave(f"{_CUTS[name]} of “{_called(element)}”")
        return [clip for _, clip in named if clip is not None][: _MOST_CLIPS - len(self._clips)]

    def _clips_over(self, rect: Rect) -> list[Shape]:
        """The clips that take something of a rectangle away."""
        return [clip for clip in self._clips if not clip.covers(rect)]

    def _common(self, part: _PlacedNode, look: SvgStyle) -> _PlacedNode:
        style: dict[str, Value] = {}
        opacity = share(look.get("opacity"))
        if opacity < 1:
            style["opacity"] = opacity
        if look.get("display") == "none":
            style["shown"] = False
        return _PlacedNode(_restyled(part.node, style), part.rect)

    def _node_of(
        self, element: Element, look: SvgStyle, to_root: Affine, via: tuple[Element, ...]
    ) -> _PlacedNode | None:
        if element.tag in _GROUPS:
            return self._group(element, look, to_root, via)
        if element.tag == "use":
            return self._used(element, look, to_root, via)
        if look.get("visibility") in ("hidden", "collapse"):
            return None
        try:
            if element.tag in SHAPES:
                return self._shape(element, look, to_root)
            if element.tag == "text":
                return self._text(element, look, to_root)
            if element.tag == "image":
                return self._image(element, to_root)
        except (PathRefusal, PictureRefusal, ValueRefusal) as problem:
            self._leave(f"“{_called(element)}” ({str(problem).rstrip('.')})")
            return None
        self._leave(f"what “{element.tag}” does")
        return None

    def _group(
        self, element: Element, look: SvgStyle, to_root: Affine, via: tuple[Element, ...]
    ) -> _PlacedNode | None:
        parts = self._inside(element, look, to_root, via)
        if look.get("filter", "none") != "none":
            self._leave(f"the filter of “{_called(element)}”")
        if not parts:
            return None
        plain = share(look.get("opacity")) == 1 and look.get("display") != "none"
        if len(parts) == 1 and plain:
            named = element.get("label") or element.get("id")
            node = parts[0].node
            return _PlacedNode(_renamed(node, named) if named else node, parts[0].rect)
        bounds = union(part.rect for part in parts)
        return _PlacedNode(self._box(_called(element), parts, bounds, {}), bounds)

    def _box(
        self, name: str, parts: list[_PlacedNode], rect: Rect, style: dict[str, Value]
    ) -> Node:
        size: dict[str, Value] = {"width": fixed(rect.width), "height": fixed(rect.height)}
        children = tuple(_pinned(part, rect) for part in parts)
        return self._new(name, "box", {"flow": "free"} | size | style, children)

    def _used(
        self, element: Element, look: SvgStyle, to_root: Affine, via: tuple[Element, ...]
    ) -> _PlacedNode | None:
        target = self._by_id.get((element.get("href") or "")[1:])
        if target is None:
            self._leave(f"“{_called(element)}”, which uses a part that is not there")
            return None
        if target in via or self._lies_in(element, target):
            raise SvgRefusal(f"“{self._name}” has a part that uses itself, so it was not placed.")
        wide, high = self._room
        place = Affine(e=length(element.get("x"), 0.0, wide), f=length(element.get("y"), 0.0, high))
        shown_element = target
        if target.tag in ("symbol", "svg"):
            shown_element = copy.copy(target)
            shown_element.tag = "g"
            place = _symbol(element, target, self._room).then(place)
        return self._part(shown_element, look, place.then(to_root), (*via, target))

    def _lies_in(self, element: Element, target: Element) -> bool:
        """Whether an element is another one, or stands in it."""
        holder: Element | None = element
        while holder is not None and holder is not target:
            holder = self._parents.get(holder)
        return holder is not None

    # --- leaves -------------------------------------------------------------------------

    def _shape(self, element: Element, look: SvgStyle, to_root: Affine) -> _PlacedNode | None:
        data = path_data(element, self._room)
        if len(data) > LONGEST_TEXT:
            raise PathRefusal(f"its path has more than {LONGEST_TEXT:,} letters")
        self._outlined += len(data)
        if self._outlined > _MOST_OUTLINES:
            raise PathRefusal(f"all paths together have more than {_MOST_OUTLINES:,} letters")
        own = path_bounds(data) if data else None
        if own is None:
            return None
        dashed = self._is_dashed(data, look)
        if not dashed and look.get("stroke-dasharray", "none") not in ("none", "", "0"):
            self._leave(f"the dashes of “{_called(element)}”")
        clips = self._clips_over(to_root.bounds(_inked(own, look)))
        if clips or (dashed and look.get("stroke", "none") != "none"):
            return self._cut(element, look, to_root, data, clips)
        fill, lost = self._paints.fill(look, own, to_root)
        if lost:
            self._leave(f"{lost} of “{_called(element)}”")
        style: dict[str, Value] = {"fill": fill} if fill.alpha > 0 else {}
        line = self._line(element, look, to_root)
        if not style and not line:
            return None
        if upright(to_root) and element.tag == "rect":
            rx, ry = radii_of(element, self._room)
            if abs(rx * to_root.a - ry * to_root.d) < 0.01:
                rect = to_root.bounds(rect_of(element, self._room))
                return self._rounded(element, rect, rx * to_root.a, style, line)
        if upright(to_root) and element.tag in ("circle", "ellipse"):
            rect = to_root.bounds(round_of(element, self._room))
            return self._placed(element, "shape", rect, style | line | {"form": "ellipse"})
        return self._path(element, moved_path(data, to_root), look, style | line)

    def _is_dashed(self, data: str, look: SvgStyle) -> bool:
        """Whether a line has dashes, and no more of them than are made."""
        count = dash_count(data, look)
        if not 0 < count <= min(_MOST_DASHES, _MOST_DASHES_OF_ALL - self._dashes):
            return False
        self._dashes += count
        return True

    def _cut(
        self, element: Element, look: SvgStyle, to_root: Affine, data: str, clips: list[Shape]
    ) -> _PlacedNode | None:
        """A shape whose line is dashed, or which is clipped: what is left of its fill, and of
        its line, each as an outline that is filled."""
        own = path_bounds(data)
        parts: list[_PlacedNode] = []
        even_odd = look.get("fill-rule") == "evenodd"
        inside = self._cut_data(Shape.of(data, to_root, even_odd), clips)
        bounds = path_bounds(inside) if inside else None
        if bounds is not None and own is not None:
            fill, lost = self._paints.fill(look, own, to_root, bounds)
            if lost:
                self._leave(f"{lost} of “{_called(element)}”")
            if fill.alpha > 0:
                parts.append(self._path(element, inside, {}, {"fill": fill}))
        line = self._line(element, look, to_root)
        drawn_line = self._cut_data(Shape.line(data, look, to_root), clips) if line else ""
        if drawn_line:
            parts.append(self._path(element, drawn_line, {}, {"fill": line["stroke"]}))
        if len(parts) <= 1:
            return parts[0] if parts else None
        around = union(part.rect for part in parts)
        return _PlacedNode(self._box(_called(element), parts, around, {}), around)

    def _cut_data(self, shape: Shape, clips: list[Shape]) -> str:
        for clip in clips:
            shape = shape.cut(clip)
        data = shape.data
        self._outlined += len(data)
        if len(data) > LONGEST_TEXT or self._outlined > _MOST_OUTLINES:
            raise PathRefusal("what is left of it has too many corners")
        return data

    def _line(self, element: Element, look: SvgStyle, to_root: Affine) -> dict[str, Value]:
        """What the stroke of a shape is, in px; nothing where there is none."""
        text = look.get("stroke", "none")
        color = self._paints.color(text, look)
        width = length(look.get("stroke-width"), 1.0) * enlarges(to_root)
        if color is None:
            self._leave(f"the line's colour “{text[:40]}” of “{_called(element)}”")
        if color is None or color.alpha <= 0 or width <= 0:
            return {}
        color = color.with_alpha(color.alpha * share(look.get("stroke-opacity")))
        return {"stroke": color, "line-width": min(width, 1000.0)}

    def _rounded(
        self,
        element: Element,
        rect: Rect,
        radius: float,
        style: dict[str, Value],
        line: Mapping[str, Value],
    ) -> _PlacedNode:
        """A rectangle is a box."""
        if radius > 0:
            style |= dict.fromkeys(FAMILY_MEMBERS["radius"], radius)
        if line:
            style |= dict.fromkeys(FAMILY_MEMBERS["stroke-width"], line["line-width"])
            style |= {"stroke": line["stroke"], "stroke-place": "center"}
        return self._placed(element, "box", rect, style)

    def _path(
        self, element: Element, data: str, look: SvgStyle, style: dict[str, Value]
    ) -> _PlacedNode:
        bounds = path_bounds(data)
        assert bounds is not None  # it had bounds before it was moved
        room = _roomy(bounds)
        if max(room.width, room.height) > _LARGEST:
            raise PathRefusal("it is larger than 10,000 px")
        style |= {"path": moved_path(data, Affine(e=-room.x, f=-room.y)), "path-size": room.width}
        if room.height != room.width:
            style["path-height"] = room.height
        if look.get("fill-rule") == "evenodd":
            style["fill-rule"] = "evenodd"
        if "stroke" in style:
            ends, joins = look.get("stroke-linecap", "butt"), look.get("stroke-linejoin", "miter")
            style["line-ends"] = ends if ends in ("round", "square") else "butt"
            style["line-joins"] = joins if joins in ("round", "bevel") else "miter"
        return self._placed(element, "shape", room, style)

    def _placed(
        self, element: Element, kind: NodeKind, rect: Rect, style: dict[str, Value]
    ) -> _PlacedNode:
        size: dict[str, Value] = {"width": fixed(rect.width), "height": fixed(rect.height)}
        return _PlacedNode(self._new(_called(element), kind, size | style), rect)

    def _new(
        self,
        name: str,
        kind: NodeKind,
        style: Mapping[str, Value],
        children: tuple[Node, ...] = (),
    ) -> Node:
        return new_node(self._new_id(kind), name, kind, style, children)

    def _image(self, element: Element, to_root: Affine) -> _PlacedNode | None:
        rect = to_root.bounds(rect_of(element, self._room))
        self._leave_clips(element, rect)
        head, _, body = (element.get("href") or "").partition(",")
        if not body:
            self._leave(f"the picture “{_called(element)}”, which is empty")
            return None
        try:
            coded = ";base64" in head
            data = base64.b64decode(body) if coded else unquote_to_bytes(body)
        except (binascii.Error, ValueError) as problem:
            raise PictureRefusal("its data is damaged") from problem
        if self._pixels > MOST_PIXELS:
            raise PictureRefusal("it is one of too many large pictures")
        picture, asset = read_picture(data, _called(element))
        self._pixels += picture.width * picture.height
        self._assets.append(asset)
        is_stretched = (element.get("preserveAspectRatio") or "").startswith("none")
        if not upright(to_root):
            self._leave(f"the turn of “{_called(element)}”")
        fit = "stretch" if is_stretched else "contain"
        return self._placed(element, "image", rect, {"picture": picture, "fit": fit})

    def _leave_clips(self, element: Element, rect: Rect) -> None:
        """Tells that words and pictures are not cut."""
        if self._clips_over(rect):
            self._leave(f"the clipping of “{_called(element)}”")

    # --- words --------------------------------------------------------------------------

    def _text(self, element: Element, look: SvgStyle, to_root: Affine) -> _PlacedNode | None:
        parted = [
            c
            for c in chunks(element, look, self._room, self._sheet)
            if "".join(r.text for r in c.runs).strip()
        ]
        parts = [self._words(element, chunk, to_root) for chunk in parted]
        if parts:
            self._leave_clips(element, union(part.rect for part in parts))
        if len(parts) <= 1:
            return parts[0] if parts else None
        bounds = union(part.rect for part in parts)
        return _PlacedNode(self._box(_called(element), parts, bounds, {}), bounds)

    def _words(self, element: Element, chunk: TextChunk, to_root: Affine) -> _PlacedNode:
        """One text node, its baseline where SVG has it."""
        look, runs = chunk.look, tuple(chunk.runs)
        if sum(len(run.text) for run in runs) > _LONGEST_WORDS:
            raise ValueRefusal(f"it has more than {_LONGEST_WORDS:,} letters")
        size = min(max(length(look.get("font-size"), 16.0) * enlarges(to_root), 1.0), 2000.0)
        family = first_family(look.get("font-family", ""))
        family = "" if family.lower() in _GENERIC else family
        spacing = length(look.get("letter-spacing"), 0.0) * enlarges(to_root)
        weight, italic = weight_of(look), look.get("font-style", "normal") != "normal"
        style = TextStyle(family or "Figtree", size, weight, _LINE_HEIGHT, spacing, "start", italic)
        wide = self._typesetter.widest(runs, style)
        baseline = self._typesetter.set(runs, style, math.inf).lines[0].baseline
        anchor = {"middle": wide / 2, "end": wide}.get(look.get("text-anchor", "start"), 0.0)
        x, y = to_root.apply(chunk.x, chunk.y)
        height = size * _LINE_HEIGHT
        values: dict[str, Value] = {
            "content": runs,
            "color": self._ink(element, look),
            "font-size": size,
            "line-height": _LINE_HEIGHT,
        }
        if family:
            values["font-family"] = family
        if weight != 400:
            values["font-weight"] = weight
        if italic:
            values["font-style"] = "italic"
        if spacing:
            values["letter-spacing"] = spacing
        turn = math.degrees(math.atan2(to_root.b, to_root.a))
        if abs(turn) > 0.01:
            values |= {"rotate": turn, "origin-y": baseline / height}
            values["origin-x"] = anchor / wide if wide else 0.0
        words = "".join(run.text for run in runs).strip()
        name = element.get("id") or words[:40]
        node = self._new(name, "text", values)
        return _PlacedNode(node, Rect(x - anchor, y - baseline, wide, height))

    def _ink(self, element: Element, look: SvgStyle) -> Color:
        fill: Fill
        fill, lost = self._paints.fill(look, Rect(0.0, 0.0, 1.0, 1.0), Affine())
        if isinstance(fill, Color):
            if lost:
                self._leave(f"{lost} of “{_called(element)}”")
            return fill
        self._leave(f"the gradient of the words “{_called(element)}”")
        return fill.stops[0].color


def _called(element: Element) -> str:
    """What an element is called: as its author says, else what it is."""
    title = element.find("title")
    label = element.get("label") or element.get("id") or element.get("aria-label")
    if not label and title is not None:
        label = title.text
    words = " ".join((label or "").split())[:_NAME]
    return words or {"g": "group", "svg": "drawing", "use": "part"}.get(element.tag, element.tag)


def _symbol(use: Element, target: Element, room: tuple[float, float]) -> Affine:
    """How a symbol with a viewBox of its own is fitted into the place it is used at."""
    box = numbers(target.get("viewBox"))
    if len(box) != 4 or box[2] <= 0 or box[3] <= 0:
        return Affine()
    width = length(use.get("width") or target.get("width"), box[2], room[0])
    height = length(use.get("height") or target.get("height"), box[3], room[1])
    scale = min(width / box[2], height / box[3])
    dx, dy = (width - box[2] * scale) / 2, (height - box[3] * scale) / 2
    return Affine(scale, 0.0, 0.0, scale, dx - box[0] * scale, dy - box[1] * scale)


def _inked(rect: Rect, look: SvgStyle) -> Rect:
    """What a shape with these bounds inks at most, its line included."""
    line = 0.0 if look.get("stroke", "none") == "none" else length(look.get("stroke-width"), 1.0)
    # A mitred corner reaches as far as its limit says.
    beyond = line / 2 * max(length(look.get("stroke-miterlimit"), 4.0), 1.5)
    return Rect(rect.x - beyond, rect.y - beyond, rect.width + 2 * beyond, rect.height + 2 * beyond)


def _roomy(rect: Rect) -> Rect:
    """A path's room: a straight line gets one that has a width and a height."""
    wide, high = max(rect.width, 1.0), max(rect.height, 1.0)
    x, y = rect.center
    return Rect(x - wide / 2, y - high / 2, wide, high)


def _pinned(part: _PlacedNode, rect: Rect) -> Node:
    """A child that scales with its box, from where it was drawn; words, which keep their size,
    stay in the middle if they stand there, or at the edge that they are near."""
    at = part.rect
    place: dict[str, Value] = {"x": at.x - rect.x, "y": at.y - rect.y}
    if part.node.kind != "text":
        place |= {"right": rect.right - at.right, "bottom": rect.bottom - at.bottom}
        place |= {"pin-x": "scale", "pin-y": "scale"}
        return _restyled(part.node, place)
    across = _words_tied(at.x - rect.x, at.width, rect.width)
    down = _words_tied(at.y - rect.y, at.height, rect.height)
    for pin, near, far, (tied, inset) in (
        ("pin-x", "x", "right", across),
        ("pin-y", "y", "bottom", down),
    ):
        if tied != "start":
            place |= {pin: tied, near: 0.0, (far if tied == "end" else near): inset}
    return _restyled(part.node, place)


# Of a drawing's side, by which words may miss its middle and still be meant to stand there.
_MIDDLE = 0.04


def _words_tied(start: float, length: float, room: float) -> tuple[str, float]:
    """What words are tied to along one axis, and the inset that keeps them where they are."""
    end = room - start - length
    off = (start - end) / 2
    if abs(off) <= max(_MIDDLE * room, 1.0):
        return "center", off
    return ("end", end) if abs(end) < start / 3 else ("start", start)


def _restyled(node: Node, style: Mapping[str, Value]) -> Node:
    if not style:
        return node
    rounded = {k: round(v, 4) if isinstance(v, float) else v for k, v in style.items()}
    return msgspec.structs.replace(node, style=node.style.update(Map(rounded)))


def _renamed(node: Node, name: str) -> Node:
    return msgspec.structs.replace(node, name=name[:_NAME])


def _alone(parts: list[_PlacedNode], width: float, height: float, title: str) -> Node | None:
    """The only shape of a drawing, as a shape in the room of the whole."""
    node, rect = parts[0]
    plain = len(parts) == 1 and node.kind == "shape" and isinstance(node.style.get("fill"), Color)
    bare = len(parts) == 1 and node.kind == "shape" and "fill" not in node.style
    path = node.style.get("path")
    if not (plain or bare) or not isinstance(path, str) or min(width, height) < 1:
        return None
    place: dict[str, Value] = {
        "path": moved_path(path, Affine(e=rect.x, f=rect.y)),
        "path-size": width,
        "path-height": 0.0 if width == height else height,
        "width": fixed(width),
        "height": fixed(height),
    }
    named = msgspec.structs.replace(node, name=title[:_NAME])
    return msgspec.structs.replace(named, style=named.style.update(Map(place)))
