"""Outlines cut by other outlines, and lines as the outlines of their dashes: what clipping, masks
of plain shapes and dashed lines come to, where there are only filled paths.

The work on outlines is Skia's, by skia-pathops. Source of what it means: SVG 2, section 13.5.6
(dashes); CSS Masking 1, sections 5 (clipping) and 7 (masking).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from itertools import pairwise
from xml.etree.ElementTree import Element

import pathops
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen

from outgrowth.core.exchange.svg.shapes import SHAPES, length, numbers, path_data, transform
from outgrowth.core.exchange.svg.style_sheet import DrawingStyleSheet, reference_of
from outgrowth.core.exchange.svg.svg_style import SvgStyle, share, svg_style_of
from outgrowth.core.geometry import Affine, Rect
from outgrowth.core.geometry.path import PathRefusal, outline

_CAPS = {
    "butt": pathops.LineCap.BUTT_CAP,
    "round": pathops.LineCap.ROUND_CAP,
    "square": pathops.LineCap.SQUARE_CAP,
}
_JOINS = {
    "miter": pathops.LineJoin.MITER_JOIN,
    "round": pathops.LineJoin.ROUND_JOIN,
    "bevel": pathops.LineJoin.BEVEL_JOIN,
}


class Shape:
    """An outline that can be cut; what is inside of it goes by its fill rule."""

    def __init__(self, path: pathops.Path) -> None:
        self._path = path

    @classmethod
    def of(cls, data: str, by: Affine, even_odd: bool) -> Shape:
        """The inside of path data with a map applied to it. Raises PathRefusal."""
        path = pathops.Path(
            fillType=pathops.FillType.EVEN_ODD if even_odd else pathops.FillType.WINDING
        )
        pen = TransformPen(path.getPen(), by)
        for call, points in outline(data):
            getattr(pen, call)(*points)
        return cls(path)

    @classmethod
    def line(cls, data: str, look: SvgStyle, by: Affine) -> Shape:
        """What the stroke of path data covers, its dashes apart, with a map applied to it."""
        path = pathops.Path()
        pen = path.getPen()
        for call, points in outline(data):
            getattr(pen, call)(*points)
        dashes, offset = dashes_of(look)
        path.stroke(
            length(look.get("stroke-width"), 1.0),
            _CAPS.get(look.get("stroke-linecap", ""), _CAPS["butt"]),
            _JOINS.get(look.get("stroke-linejoin", ""), _JOINS["miter"]),
            length(look.get("stroke-miterlimit"), 4.0),
            dashes or None,
            offset,
        )
        stroked = pathops.Path()
        path.convertConicsToQuads()
        path.draw(TransformPen(stroked.getPen(), by))
        return cls(stroked)

    @classmethod
    def together(cls, shapes: Iterable[Shape]) -> Shape:
        """All that is inside of any of them."""
        whole = pathops.Path()
        try:
            for shape in shapes:
                whole = pathops.op(whole, shape._path, pathops.PathOp.UNION)
        except pathops.PathOpsError as problem:
            raise PathRefusal("its clipping cannot be worked out") from problem
        return cls(whole)

    def cut(self, other: Shape) -> Shape:
        """What is inside of both. Raises PathRefusal where that cannot be worked out."""
        try:
            common = pathops.op(self._path, other._path, pathops.PathOp.INTERSECTION)
        except pathops.PathOpsError as problem:
            raise PathRefusal("its clipping cannot be worked out") from problem
        return Shape(common)

    def covers(self, rect: Rect) -> bool:
        """Whether a rectangle lies wholly inside."""
        data = f"M{rect.x} {rect.y}H{rect.right}V{rect.bottom}H{rect.x}Z"
        remainder = pathops.op(
            Shape.of(data, Affine(), False)._path, self._path, pathops.PathOp.DIFFERENCE
        )
        return bool(abs(remainder.area) <= 1e-3 * max(rect.width * rect.height, 1e-9))

    @property
    def data(self) -> str:
        """Path data of the outline, to be filled by the non-zero rule; "" for nothing."""
        plain = pathops.Path(self._path)
        plain.simplify(fix_winding=True)
        plain.convertConicsToQuads()
        pen = SVGPathPen(None, ntos=lambda n: f"{round(n, 4) + 0.0:.9g}")
        plain.draw(pen)
        return str(pen.getCommands())


def dashes_of(look: SvgStyle) -> tuple[list[float], float]:
    """The dashes and gaps of a line in its own px, and where in them it begins; none for a line
    without gaps."""
    text = look.get("stroke-dasharray", "none")
    if text in ("none", "") or "%" in text:
        return [], 0.0
    dashes = numbers(text)
    if not dashes or min(dashes) < 0 or sum(dashes) <= 0:
        return [], 0.0
    even = dashes if len(dashes) % 2 == 0 else dashes * 2
    return even, length(look.get("stroke-dashoffset"), 0.0)


def dash_count(data: str, look: SvgStyle) -> float:
    """How many dashes a line has at most; 0 for one without. Raises PathRefusal."""
    dashes, _ = dashes_of(look)
    if not dashes:
        return 0.0
    points = [point for _, points in outline(data) for point in points if point is not None]
    # Along the handles, a curve is never shorter than it is.
    reach = sum(math.dist(a, b) for a, b in pairwise(points))
    return max(reach / sum(dashes) * len(dashes) / 2, 1.0)


class Clips:
    """The outlines that clipping and masking elements of a drawing stand for."""

    def __init__(
        self, by_id: Mapping[str, Element], sheet: DrawingStyleSheet, room: tuple[float, float]
    ) -> None:
        self._by_id = by_id
        self._sheet = sheet
        self._room = room

    def named(self, text: str, to_root: Affine, bounds: Rect | None) -> Shape | None:
        """The outline of what `url(#…)` names, in the root's px; None where it is none that
        outlines can say. `bounds` are what the element covers in its own px, if that is known."""
        named = reference_of(text) if len(text) <= 500 else None
        element = self._by_id.get(named[0]) if named else None
        if element is None or element.tag not in ("clipPath", "mask"):
            return None
        units = "clipPathUnits" if element.tag == "clipPath" else "maskContentUnits"
        place = transform(element.get("transform"))
        if element.get(units) == "objectBoundingBox":
            if bounds is None:
                return None
            place = place.then(Affine(a=bounds.width, d=bounds.height, e=bounds.x, f=bounds.y))
        shapes = self._shapes(element, place.then(to_root))
        return Shape.together(shapes) if shapes is not None else None

    def _shapes(self, holder: Element, to_root: Affine) -> list[Shape] | None:
        """The shapes of a clipping; None where there is something else than plain shapes."""
        shapes: list[Shape] = []
        for element in holder:
            look = svg_style_of(element, {}, self._sheet)
            if element.tag not in SHAPES or not _is_plain(look, holder.tag):
                return None
            rule = look.get("clip-rule" if holder.tag == "clipPath" else "fill-rule")
            own_to_root = transform(element.get("transform")).then(to_root)
            data = path_data(element, self._room)
            if data:
                shapes.append(Shape.of(data, own_to_root, rule == "evenodd"))
        return shapes


def _is_plain(look: SvgStyle, holder: str) -> bool:
    """Whether an element of a clipping covers what its outline encloses, and no more: in a mask,
    where light shows what is behind it, it has to be white."""
    if any(look.get(name, "none") != "none" for name in ("clip-path", "mask", "filter")):
        return False
    if holder == "clipPath":
        return True
    opaque = all(share(look.get(n)) == 1 for n in ("opacity", "fill-opacity"))
    white = look.get("fill", "black").strip().lower() in ("white", "#fff", "#ffffff")
    return opaque and white and look.get("stroke", "none") == "none"
